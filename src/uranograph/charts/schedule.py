"""Who does what over minutes: a lane for each of the hands, planned above, as it went below."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from textwrap import wrap

from uranograph.charts.pen import Figure, Pen

# Moments closer than this are the same, minutes.
SAME_MIN = 1e-6
LEFT, RIGHT, TOP, FOOT = 84.0, 716.0, 118.0, 560.0
# Width of a letter of a bar's name, on a wide screen and on a phone.
WIDE, NARROW = 7.6, 11.6
# Letters in a line of the list of names below the lanes, and the height of a line.
KEY_LETTERS, LINE = 92, 20.0


@dataclass(frozen=True)
class Bar:
    """One task in one lane: planned and expected, minutes; whether it decides the end, is done, under way, or late.

    `row` of `rows` is where it lies among tasks that the same person is at, at the same time.
    """

    number: int
    name: str
    lane: int
    planned: tuple[float, float]
    expected: tuple[float, float]
    begun: bool
    done: bool
    decides: bool
    late: bool
    row: int = 0
    rows: int = 1


def side_by_side(bars: Sequence[Bar]) -> tuple[Bar, ...]:
    """Bars of one lane that go on at the same time, each with a row of its own.

    Parameters
    ----------
    bars
        Of any lanes.

    Returns
    -------
    tuple of Bar
        The same, in the same order; tasks without duration stay as they are.

    Examples
    --------
    >>> one = Bar(1, "drain", 0, (0, 20), (0, 25), True, True, False, False)
    >>> two = replace(one, number=2, expected=(20, 40))
    >>> [(bar.row, bar.rows) for bar in side_by_side([one, two])]
    [(0, 2), (1, 2)]
    """
    rows: dict[int, int] = {}
    for lane in {bar.lane for bar in bars}:
        ends: list[float] = []
        own = sorted((k for k, bar in enumerate(bars) if bar.lane == lane), key=lambda k: bars[k].expected)
        for k in own:
            start, end = bars[k].expected
            free = next((row for row, until in enumerate(ends) if until <= start + SAME_MIN), len(ends))
            rows[k] = free
            ends[free : free + 1] = [end]
    groups = _groups(bars)
    return tuple(
        replace(bar, row=rows[k], rows=1 + max(rows[other] for other in groups[k])) for k, bar in enumerate(bars)
    )


def _groups(bars: Sequence[Bar]) -> list[list[int]]:
    """For each bar, those of its lane that go on while it does, itself among them."""
    return [
        [
            j
            for j, other in enumerate(bars)
            if other.lane == bar.lane
            and (
                j == k
                or (other.expected[0] < bar.expected[1] - SAME_MIN and bar.expected[0] < other.expected[1] - SAME_MIN)
            )
        ]
        for k, bar in enumerate(bars)
    ]


@lru_cache(maxsize=64)
def lanes_figure(
    lanes: tuple[str, ...], bars: tuple[Bar, ...], now_min: float | None, wanted_min: float | None = None
) -> Figure:
    """Draw the lanes, 742 by 630, with a list of what has no room for its name below them.

    Parameters
    ----------
    lanes
        Names, top to bottom; the last is what nobody does.
    bars
        Tasks; one that takes several hands is there in each of their lanes.
    now_min
        Minutes from the start; None before it.
    wanted_min
        Minutes from the start at which it is to be over; None where nobody says.
    """
    pen = Pen()
    pen.text((22, 42), "Plan of the change", "title", "start")
    pen.path("M22 60h14", "card-curve")
    pen.text((42, 64), "planned", "small", "start")
    pen.path("M140 60h14", "measured-curve")
    pen.text((160, 64), "as it goes", "small", "start")
    pen.path("M290 60h14", "decides")
    pen.text((310, 64), "decides the end", "small", "start")
    longest = max([*(end for bar in bars for end in (bar.planned[1], bar.expected[1])), wanted_min or 0.0]) or 60.0

    def x(minutes: float) -> float:
        return LEFT + (RIGHT - LEFT) * minutes / longest

    key = _key(bars, x)
    foot = FOOT - LINE * len(wrap(key, KEY_LETTERS))
    tall = (foot - TOP) / max(1, len(lanes))
    _scale(pen, x, longest, foot)
    for k, name in enumerate(lanes):
        y = TOP + tall * k
        pen.line((LEFT - 62, y), (RIGHT, y), "fine")
        pen.text((LEFT - 10, y + tall / 2 + 5), name, "cylinder" if len(name) < 4 else "small", "end")
    for bar in bars:
        _bar(pen, x, bar, TOP + tall * bar.lane, tall)
    if wanted_min is not None:
        pen.line((x(wanted_min), TOP - 8), (x(wanted_min), foot), "card-curve")
        pen.text(
            (min(x(wanted_min), RIGHT), TOP - 30),
            f"wanted {int(wanted_min) // 60}:{int(wanted_min) % 60:02d}",
            "small card",
            "end",
        )
    if now_min is not None:
        pen.line((x(now_min), TOP - 8), (x(now_min), foot), "measured-line")
        pen.text((x(now_min), TOP - 14), f"last update {int(now_min) // 60}:{int(now_min) % 60:02d}", "small measured")
    ends = max((bar.expected[1] for bar in bars), default=0.0)
    told = ", ".join(dict.fromkeys(bar.name for bar in bars if bar.late)) or "none"
    # On a phone the list in the panel has the numbers.
    pen.lines((22, foot + 62), key, "small wide", KEY_LETTERS)
    return pen.figure(
        742,
        630,
        f"Plan of the change over {ends:.0f} minutes in {len(lanes)} lanes; late: {told}.",
        "lanes",
    )


def _scale(pen: Pen, x: Callable[[float], float], longest: float, foot: float) -> None:
    step = next(each for each in (5, 10, 15, 30, 60, 120, 240, 480, 960, 1920) if longest / each <= 10 or each == 1920)
    pen.line((LEFT, foot), (RIGHT, foot), "ink")
    minutes = 0
    while minutes <= longest:
        pen.line((x(minutes), foot), (x(minutes), foot + 6), "ink")
        pen.text((x(minutes), foot + 22), f"{minutes // 60}:{minutes % 60:02d}", "scale")
        minutes += step
    pen.text((RIGHT, foot + 40), "hours and minutes from the start", "small", "end")


def _bar(pen: Pen, x: Callable[[float], float], bar: Bar, y: float, tall: float) -> None:
    high = min(26.0, tall * 0.3)
    first, second = y + tall * 0.5 - high - 3, y + tall * 0.5 + 3
    start, end = bar.planned
    pen.rect(x(start), first, max(2.0, x(end) - x(start)), high, "plan-bar decides" if bar.decides else "plan-bar")
    _name(pen, bar, x(start), x(end), first + high / 2 + 4)
    start, end = bar.expected
    second, high = second + high / bar.rows * bar.row, high / bar.rows
    ink = "went-bar" if bar.begun else "coming-bar"
    pen.rect(
        x(start), second, max(2.0, x(end) - x(start)), high, f"{ink} under-way" if bar.begun and not bar.done else ink
    )
    if bar.late:
        at = x(end)
        pen.path(
            f"M{at - 7:.1f} {second - 2:.1f}L{at + 7:.1f} {second - 2:.1f}L{at:.1f} {second - 14:.1f}Z", "late-mark"
        )
        pen.text((at, second + high + 13), "late", "small measured")


def _fits(name: str, start: float, end: float, letter: float) -> bool:
    return letter * len(name) + 8 <= end - start


def _name(pen: Pen, bar: Bar, start: float, end: float, y: float) -> None:
    """The name where it fits whole, or else the number that the list below has it under."""
    for letter, where in ((WIDE, "wide"), (NARROW, "narrow")):
        words = bar.name if _fits(bar.name, start, end, letter) else str(bar.number)
        room = end - start - 8 >= letter * len(words)
        pen.text(
            (start + 5 if room else (start + end) / 2, y), words, f"bar-name {where}", "start" if room else "middle"
        )


def _key(bars: tuple[Bar, ...], x: Callable[[float], float]) -> str:
    """Names of the bars that carry a number, at any width."""
    short = {bar.number: bar.name for bar in bars if not _fits(bar.name, x(bar.planned[0]), x(bar.planned[1]), NARROW)}
    return " · ".join(f"{number} {name}" for number, name in sorted(short.items()))
