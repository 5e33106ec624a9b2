"""Where each position of the adjusters would put the cam, and where the tries have put it."""

from dataclasses import dataclass
from functools import lru_cache

from uranograph.charts.pen import Figure, Pen, polyline
from uranograph.charts.vernier import RANGES_DEG
from uranograph.core.quantities import late_or_early


@dataclass(frozen=True)
class Tried:
    """A position of the cam: its error and doubt where measured, and what was predicted for it; late positive."""

    label: str
    error_deg: float | None
    uncertainty_deg: float = 0.0
    predicted_deg: float | None = None


@dataclass(frozen=True)
class OfCam:
    """One cam by its name in words: its error now, what each position would leave, its history, and positions barred by a valve."""

    name: str
    error_deg: float | None
    uncertainty_deg: float
    left_deg: tuple[float, ...]
    history: tuple[Tried, ...]
    barred: frozenset[int] = frozenset()


@lru_cache(maxsize=128)
def positions_figure(cams: tuple[OfCam, ...], tolerance_deg: float, title: str) -> Figure:
    """Draw the offered positions on an early/late rule, and the history of tries below it, 742 by 630.

    Parameters
    ----------
    cams
        One cam, or intake and exhaust.
    tolerance_deg
        Crank degrees either side of the card.
    title
        Stands at the upper left.
    """
    pen = Pen()
    pen.text((22, 42), title, "title", "start")
    pen.star((29, 64), 7, "hollow")
    pen.text((42, 68), "spec card, and what was predicted", "small", "start")
    pen.star((29, 84), 7, "solid")
    pen.text((42, 88), "measured", "small", "start")
    if any(cam.barred for cam in cams):
        pen.circle((229, 84), 8, "offer barred")
        pen.line((223, 90), (235, 78), "measured-line")
        pen.text((244, 88), "a valve comes too near", "small", "start")
    top = 130.0
    for cam in cams:
        _offered(pen, cam, tolerance_deg, top, alone=len(cams) == 1)
        top += 130 if len(cams) > 1 else 150
    _history(pen, cams, tolerance_deg, top + 44, 580.0)
    sentences = [f"{cam.name}: {len(cam.left_deg)} positions" for cam in cams]
    return pen.figure(742, 630, f"Cam timing changes. {'; '.join(sentences)}.", "positions")


def _offered(pen: Pen, cam: OfCam, tolerance: float, top: float, alone: bool) -> None:
    middle, half, y = 371.0, 300.0, top + 46
    shown = [*cam.left_deg, *([cam.error_deg] if cam.error_deg is not None else [])]
    most = max((abs(value) for value in shown), default=0.0) + cam.uncertainty_deg
    reach = next((limit for limit in RANGES_DEG if most <= limit), RANGES_DEG[-1])

    def x(deg: float) -> float:
        return middle + half * max(-1.0, min(1.0, deg / reach))

    pen.rect(x(-tolerance), y - 26, x(tolerance) - x(-tolerance), 26, "tolerance")
    pen.line((middle - half - 8, y), (middle + half + 8, y), "ink")
    for k in range(-10, 11):
        pen.line((x(k * reach / 10), y), (x(k * reach / 10), y - (9 if k % 5 == 0 else 5)), "ink")
    pen.text((middle - half, y - 32), f"{reach:g} early", "small", "start")
    pen.text((middle + half, y - 32), f"{reach:g} late", "small", "end")
    if not alone:
        pen.text((22, y - 52), cam.name, "subtitle", "start")
    pen.star((middle, y - 13), 11, "hollow")
    if cam.error_deg is not None:
        low, high = x(cam.error_deg - cam.uncertainty_deg), x(cam.error_deg + cam.uncertainty_deg)
        pen.rect(low, y - 21, high - low, 16, "halo")
        pen.star((x(cam.error_deg), y - 13), 11, "solid")
        # Words never join those of an end: near one, they stand below the line of ends.
        near_end = abs(x(cam.error_deg) - middle) > half - 90
        pen.text((x(cam.error_deg), y - (16 if near_end else 32)), "now", "small")
    used: list[float] = []
    for number, left in enumerate(cam.left_deg, 1):
        at = x(left)
        row = sum(abs(at - other) < 26 for other in used)
        used.append(at)
        below = y + 26 + 25 * min(row, 2)
        pen.line((at, y), (at, below - 11), "leader")
        first = number == 1 and number not in cam.barred
        pen.circle((at, below), 11, "offer barred" if number in cam.barred else "offer first" if first else "offer")
        pen.text((at, below + 5), str(number), "offer-number first" if first else "offer-number")
        if number in cam.barred:
            pen.line((at - 8, below + 8), (at + 8, below - 8), "measured-line")


def _history(pen: Pen, cams: tuple[OfCam, ...], tolerance: float, top: float, bottom: float) -> None:
    steps = max((len(cam.history) for cam in cams), default=0)
    pen.text((22, top - 20), "Moves", "subtitle", "start")
    values = [abs(v) for cam in cams for t in cam.history for v in (t.error_deg, t.predicted_deg) if v is not None]
    reach = next((limit for limit in RANGES_DEG if max(values, default=0.0) + 0.5 <= limit), RANGES_DEG[-1])
    left, right = 96.0, 700.0
    middle = (top + bottom) / 2

    def at(step: int, deg: float) -> tuple[float, float]:
        gap = (right - left) / max(3, steps)
        return left + gap * (step + 0.5), middle - (bottom - top) / 2 * max(-1.0, min(1.0, deg / reach))

    pen.rect(left, at(0, tolerance)[1], right - left, at(0, -tolerance)[1] - at(0, tolerance)[1], "tolerance")
    pen.line((left, middle), (right, middle), "card-line")
    pen.line((left, top), (left, bottom), "ink")
    for deg, words in ((reach, f"{reach:g} late"), (0.0, "card"), (-reach, f"{reach:g} early")):
        pen.line((left - 6, at(0, deg)[1]), (left, at(0, deg)[1]), "ink")
        pen.text((left - 10, at(0, deg)[1] + 4), words, "small card" if deg == 0 else "small", "end")
    for n, cam in enumerate(cams):
        seen = [(k, t.error_deg) for k, t in enumerate(cam.history) if t.error_deg is not None]
        if len(seen) > 1:
            pen.path(polyline([at(k, e) for k, e in seen]), "measured-dash" if n else "measured-line")
        for k, tried in enumerate(cam.history):
            if tried.predicted_deg is not None:
                pen.star(at(k, tried.predicted_deg), 9, "hollow")
            if tried.error_deg is not None:
                px, py = at(k, tried.error_deg)
                tall = (bottom - top) / 2 * tried.uncertainty_deg / reach
                pen.rect(px - 7, py - tall, 14, 2 * tall, "halo")
                pen.star((px, py), 10, "solid")
                pen.text((px + 14, py + 4), late_or_early(tried.error_deg), "gap", "start")
    for k, tried in enumerate(cams[0].history if cams else ()):
        pen.text((at(k, 0)[0], bottom + 20), tried.label, "small")
