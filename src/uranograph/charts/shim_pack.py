"""A shim pack to scale, what it leaves, and the stock it was picked from."""

from dataclasses import dataclass
from functools import lru_cache

from uranograph.charts.pen import Figure, Pen

PACK_AT, PLAY_AT, WIDE, RIGHT = 110.0, 430.0, 210.0, 720.0


@dataclass(frozen=True)
class Stack:
    """One state of the fit: its name, the pieces and the play it leaves, with the words for both; mm."""

    name: str
    pieces_mm: tuple[float, ...]
    pieces_words: tuple[str, ...]
    low_mm: float | None
    high_mm: float | None
    words: str
    predicted: bool = False


@lru_cache(maxsize=64)
def pack_figure(
    stacks: tuple[Stack, ...],
    window_mm: tuple[float, float],
    goal_mm: float,
    goal_words: str,
    stock: tuple[tuple[float, str, bool], ...],
    title: str,
) -> Figure:
    """Draw packs beside the play each leaves, 742 by 630.

    Parameters
    ----------
    stacks
        As it was, as advised, as fitted; from top to bottom.
    window_mm, goal_mm, goal_words
        What is allowed, what is wanted, mm, and the latter as written.
    stock
        Thickness, as written, and whether the best pack has it.
    title
        Stands at the upper left.
    """
    pen = Pen()
    pen.text((22, 42), title, "title", "start")
    pen.text((22, 64), "shims on the left, the play they leave on the right; one scale for each", "small", "start")
    thickest = max([sum(stack.pieces_mm) for stack in stacks] + [0.1])
    widest = max([window_mm[1]] + [stack.high_mm or stack.low_mm or 0.0 for stack in stacks])
    across, along = WIDE / thickest, WIDE / (1.1 * widest)
    top, step = 128.0, 96.0
    bottom = top + step * len(stacks) - 26
    pen.rect(
        PLAY_AT + window_mm[0] * along, top - 24, (window_mm[1] - window_mm[0]) * along, bottom - top + 24, "tolerance"
    )
    for mm in window_mm:
        pen.line((PLAY_AT + mm * along, top - 24), (PLAY_AT + mm * along, bottom), "card-curve")
    pen.line((PLAY_AT + goal_mm * along, top - 24), (PLAY_AT + goal_mm * along, bottom), "card-line")
    pen.text((PLAY_AT + goal_mm * along, top - 30), goal_words, "small card")
    for n, stack in enumerate(stacks):
        _stack(pen, stack, top + n * step, across, along)
    pen.text((22, bottom + 44), "In stock", "subtitle", "start")
    shown = stock[:20]
    room = (RIGHT - PACK_AT) - 10 * len(shown)
    each = room / max(sum(mm for mm, _, _ in shown), 1e-6)
    x = PACK_AT
    for n, (mm, words, used) in enumerate(shown):
        wide = max(mm * each, 4.0)
        pen.rect(x, bottom + 28, wide, 24, "blade went" if used else "blade")
        narrow = 20 if wide < 70 and n % 2 else 0
        pen.text((x + wide / 2, bottom + 70 + narrow), words, "gap" if used else "scale")
        x += wide + 10
    return pen.figure(742, 630, f"{title}: {stacks[-1].name} {stacks[-1].words}.", "pack")


def _stack(pen: Pen, stack: Stack, y: float, across: float, along: float) -> None:
    pen.text((22, y + 24), stack.name, "gear-name", "start")
    x = PACK_AT
    for mm, words in zip(stack.pieces_mm, stack.pieces_words, strict=True):
        pen.rect(x, y, mm * across, 40, "blade" if stack.predicted else "gear-edge")
        if mm * across > 26:
            pen.text((x + mm * across / 2, y + 25), words, "small")
        x += mm * across
    if not stack.pieces_mm:
        pen.line((PACK_AT, y), (PACK_AT, y + 40), "ink")
        pen.text((PACK_AT + 10, y + 25), "no shims", "soft", "start")
    if stack.low_mm is None:
        pen.text((PLAY_AT, y + 25), stack.words, "soft", "start")
        return
    high = stack.high_mm if stack.high_mm is not None else stack.low_mm
    pen.line((PLAY_AT, y + 20), (PLAY_AT + stack.low_mm * along, y + 20), "measured-line")
    pen.rect(PLAY_AT + stack.low_mm * along, y + 6, max((high - stack.low_mm) * along, 2), 28, "halo")
    pen.line((PLAY_AT, y), (PLAY_AT, y + 40), "ink")
    pen.star((PLAY_AT + (stack.low_mm + high) / 2 * along, y + 20), 11, "hollow" if stack.predicted else "solid")
    pen.text((PLAY_AT, y + 58), stack.words, "gap", "start")
