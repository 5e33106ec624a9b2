"""Gap between valve and piston against crank angle round overlap, wherever the cam might stand."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

from uranograph.charts.pen import Figure, Pen, Point, polyline

LEFT, RIGHT, TOP, FOOT = 70.0, 712.0, 128.0, 556.0
REACH_DEG = 60.0
Line = tuple[tuple[float, float], ...]
_Place = Callable[[float, float], Point]


@dataclass(frozen=True)
class OfValve:
    """One valve: its gap by crank degrees about overlap TDC, mm, the gaps measured, and the same at other positions.

    `by_card` is whether its lift is the card's; `least` the least gap with how it is written, `allowed` what is the least
    allowed, mm, and as written.
    """

    name: str
    line: Line
    doubt_mm: float
    by_card: bool
    least: tuple[float, float, str]
    allowed: tuple[float, str]
    measured: Line = ()
    positions: tuple[Line, ...] = ()


@lru_cache(maxsize=64)
def gap_figure(valves: tuple[OfValve, ...], bare: tuple[tuple[str, Line], ...], unit_mm: float, unit: str) -> Figure:
    """Draw the gaps, 742 by 630; before any is known, how piston and valves go.

    Parameters
    ----------
    valves
        Those that come nearest, one of each lobe.
    bare
        Piston and valves by name, mm below the head by crank degrees, for where no gap is known yet.
    unit_mm, unit
        One unit of the scale in mm, and its name.
    """
    pen = Pen()
    pen.text((22, 42), "Piston to valve", "title", "start")
    step = 0.05 if unit_mm > 1 else 2.0
    most = _most(valves, bare, step * unit_mm)

    def place(deg: float, mm: float) -> Point:
        return LEFT + (RIGHT - LEFT) * (deg + REACH_DEG) / (2 * REACH_DEG), FOOT - (FOOT - TOP) * mm / most

    _scales(pen, place, most, step, unit_mm, unit)
    if not valves:
        pen.text((22, 64), "how far piston and valves go below the head, round overlap TDC", "small", "start")
        _bare(pen, place, bare)
        return pen.figure(742, 630, "Piston and valves round overlap TDC; no gap is read yet.", "gaps")
    pen.path("M22 60h14", "card-curve")
    pen.text((42, 64), "lift by the card", "small", "start")
    pen.path("M22 80h14", "measured-curve")
    pen.text((42, 84), "lift or gap measured", "small", "start")
    pen.rect(290, 54, 14, 10, "halo")
    pen.text((310, 64), "uncertainty", "small", "start")
    pen.path("M290 80h14", "leader")
    pen.text((310, 84), "at other positions", "small", "start")
    for valve in valves:
        for line in valve.positions:
            _line(pen, place, line, most, "leader")
    for valve in valves:
        _valve(pen, place, valve, most)
    told = "; ".join(f"{valve.name} least {valve.least[2]} at {valve.least[0]:.0f} degrees" for valve in valves)
    return pen.figure(742, 630, f"Gap between piston and valve round overlap TDC: {told}.", "gaps")


def _most(valves: tuple[OfValve, ...], bare: tuple[tuple[str, Line], ...], step_mm: float) -> float:
    """The top of the scale: well above the least gaps, as far as what is drawn goes."""
    if not valves:
        return max([mm for _, line in bare for _, mm in line], default=10.0) * 1.1
    nearest = max(max(valve.least[1], valve.allowed[0]) for valve in valves)
    return max(2.6 * nearest, 3 * step_mm)


def _scales(pen: Pen, place: _Place, most: float, step: float, unit_mm: float, unit: str) -> None:
    for deg in range(-60, 61, 10):
        x, y = place(deg, 0)
        tall = 8 if deg % 30 == 0 else 5
        pen.line((x, y), (x, y + tall), "ink")
        if deg % 30 == 0 or abs(deg) <= 20:
            pen.text((x, y + 24), "TDC" if deg == 0 else str(abs(deg)), "scale")
    pen.text((LEFT, FOOT + 44), "before overlap", "small", "start")
    pen.text((RIGHT, FOOT + 44), "after overlap", "small", "end")
    pen.line((LEFT, FOOT), (RIGHT, FOOT), "ink")
    pen.line((LEFT, TOP), (LEFT, FOOT), "ink")
    pen.line(place(0, 0), (place(0, 0)[0], TOP), "fine")
    count = 0
    while count * step * unit_mm <= most:
        x, y = place(-REACH_DEG, count * step * unit_mm)
        pen.line((x - 6, y), (x, y), "ink")
        pen.text((x - 10, y + 4), f"{count * step:.2f}" if unit_mm > 1 else f"{count * step:g}", "scale", "end")
        count += 1
    pen.text((LEFT, TOP - 12), f"{unit} of room", "small", "middle")


def _line(pen: Pen, place: _Place, line: Line, most: float, ink: str) -> None:
    """Draw a line as far as it lies on the scale, in pieces."""
    piece: list[Point] = []
    for deg, mm in (*line, (0.0, float("inf"))):
        if 0 <= mm <= most:
            piece.append(place(deg, mm))
            continue
        if len(piece) > 1:
            pen.path(polyline(piece), ink)
        piece = []


def _valve(pen: Pen, place: _Place, valve: OfValve, most: float) -> None:
    within = [(deg, mm) for deg, mm in valve.line if mm <= most]
    if len(within) > 1:
        upper = [place(deg, min(most, mm + valve.doubt_mm)) for deg, mm in within]
        lower = [place(deg, max(0.0, mm - valve.doubt_mm)) for deg, mm in within]
        pen.path(polyline([*upper, *reversed(lower)]) + "Z", "halo")
    _line(pen, place, valve.line, most, "card-curve" if valve.by_card else "measured-curve")
    intake = valve.name.endswith("intake")
    low, high = (0.0, REACH_DEG) if intake else (-REACH_DEG, 0.0)
    mm, words = valve.allowed
    start, end = place(low, mm), place(high, mm)
    pen.line(start, end, "card-line")
    pen.text(
        (end[0] if intake else start[0], start[1] - 7), f"least {words}", "small card", "end" if intake else "start"
    )
    for deg, gap in valve.measured:
        if 0 <= gap <= most:
            pen.star(place(deg, gap), 9, "solid")
    deg, gap, words = valve.least
    x, y = place(deg, min(most, max(0.0, gap)))
    pen.star((x, y), 11, "hollow" if valve.by_card and not valve.measured else "solid")
    pen.line((x, y + 12), (x, FOOT), "leader")
    pen.text((x + (16 if intake else -16), y + 24), words, "gap", "start" if intake else "end")
    pen.text((x + (16 if intake else -16), y + 42), valve.name, "small", "start" if intake else "end")


def _bare(pen: Pen, place: _Place, bare: tuple[tuple[str, Line], ...]) -> None:
    for name, line in bare:
        piston = name == "piston"
        pen.path(polyline([place(deg, mm) for deg, mm in line]), "ink-curve" if piston else "card-curve")
        deg, mm = line[-1] if name != "exhaust" else line[0]
        x, y = place(deg, mm)
        pen.text(
            (x + (-8 if name != "exhaust" else 8), y - 10),
            name,
            "small" if piston else "small card",
            "end" if name != "exhaust" else "start",
        )
