"""Which columns of a table are a lobe's sweep: found by their words and their shape, asked for where that is not sure."""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

from uranograph.bench.tables import NotSure, Table, table_of
from uranograph.charts.pen import Figure, Pen, polyline
from uranograph.core.errors import InvalidInput
from uranograph.engine.cams import USUAL_CENTERLINE_DEG

UNIT_MM = {"mm": 1.0, "in": 25.4, "thou": 0.0254}
UNIT_WORDS = {"mm": "mm", "in": "inch", "thou": "thousandths of an inch"}
TURN_WORDS = {"crank": "crank degrees", "cam": "cam degrees"}
ZERO_WORDS = {"overlap": "overlap TDC", "firing": "firing TDC"}
# Lifts that a lobe or a valve has at the most, mm: what a unit is guessed by.
USUAL_LIFT_MM = (3.0, 22.0)
# No lobe is so narrow at a tenth of its lift in crank degrees: these are cam degrees.
NARROW_DEG = 175.0
# A step back by this much is the end of a crank or cam turn.
WRAP_DEG = 170.0
# Denser than one point per half degree adds nothing.
MAX_POINTS = 1440
_ANGLE = re.compile(r"angle|deg|crank|cam|wheel|rotation|°|position", re.IGNORECASE)
_LIFT = re.compile(r"lift|dial|height|displacement|travel|\bmm\b|inch|thou", re.IGNORECASE)
_UNITS = {
    "thou": re.compile(r"thou|mil\b", re.IGNORECASE),
    "mm": re.compile(r"\bmm\b|_mm|millim", re.IGNORECASE),
    "in": re.compile(r"\bin(ch(es)?)?\b|_in\b|\"", re.IGNORECASE),
}
_CAM = re.compile(r"cam", re.IGNORECASE)


@dataclass(frozen=True)
class Layout:
    """One way a table can be read: which columns, in which unit, which degrees, counted from which top."""

    angle: int
    lift: int
    unit: str
    turn: str
    zero: str


def points_of(text: str, lobe: str, stated: Mapping[str, str]) -> tuple[list[tuple[float, float]], str, int]:
    """Angles about overlap TDC, crank degrees, and lifts, out of a table as it comes.

    Parameters
    ----------
    text
        The table.
    lobe
        `intake` or `exhaust`: where the peak is looked for.
    stated
        `angle_column`, `lift_column`, `lift_unit`, `turn` and `zero`, where a person chose them; `look` to see them drawn only.

    Returns
    -------
    tuple
        Points with rising angles; the unit of their lifts; how many points there were before the many were thinned.

    Raises
    ------
    NotSure
        When words and shapes leave more than one way to read it, or what was chosen cannot be.
    InvalidInput
        When it holds no two columns of figures, or angles that are there twice with different lifts.
    """
    table = table_of(text)
    likely, sure = likeliest(table, lobe)
    if stated.get("angle_column"):
        try:
            likely = _stated(table, stated, likely)
            points = _placed(table, likely)
            if stated.get("look"):
                raise NotSure(text, chooser(table, likely))
        except InvalidInput as error:
            raise NotSure(text, chooser(table, likely), error) from error
    elif sure:
        points = _placed(table, likely)
    else:
        raise NotSure(text, chooser(table, likely))
    thinned = (
        points if len(points) <= MAX_POINTS else [points[k * len(points) // MAX_POINTS] for k in range(MAX_POINTS)]
    )
    return thinned, likely.unit, len(points)


def likeliest(table: Table, lobe: str) -> tuple[Layout, bool]:
    """The likeliest way to read a table, and whether it is the only one."""
    rising = [k for k in range(table.width) if _runs_on(table.column(k))]
    named = [k for k in rising if _ANGLE.search(table.titles[k])]
    # A column that only counts rows is the angle only if there is no other.
    angle = min(named or rising or [0], key=lambda k: _counts(table.column(k)))
    others = [k for k in range(table.width) if k != angle and any(each is not None for each in table.column(k))]
    lifting = [k for k in others if _LIFT.search(table.titles[k])]
    lift = max(lifting or others or [1], key=lambda k: _humped(table.column(k)))
    greatest = max((each for each in table.column(lift) if each is not None), default=0.0)
    unit = _unit(table.titles[lift])
    guessed = next(
        (each for each, mm in UNIT_MM.items() if USUAL_LIFT_MM[0] <= greatest * mm <= USUAL_LIFT_MM[1]), "mm"
    )
    titles = table.titles[angle]
    said_turn = "crank" if re.search("crank", titles, re.I) else "cam" if _CAM.search(titles) else ""
    narrow = _width_deg(table, Layout(angle, lift, unit or guessed, "crank", "overlap")) < NARROW_DEG
    turn = said_turn or ("cam" if narrow else "crank")
    first = Layout(angle, lift, unit or guessed, turn, "overlap")
    zero = _zero(table, first, lobe)
    one_angle = len(named) == 1 or (not named and len(rising) == 1)
    one_lift = len(lifting) == 1 or (not lifting and len(others) == 1)
    titled = bool(_ANGLE.search(titles)) and (bool(said_turn) or not narrow)
    sure = one_angle and one_lift and bool(unit) and zero == "overlap" and titled
    return Layout(angle, lift, unit or guessed, turn, zero or "overlap"), sure


def chooser(table: Table, likely: Layout) -> dict[str, Any]:
    """Preview of a table whose columns must be chosen: columns, first rows, likeliest choice."""
    columns = [(k, title or f"column {k + 1}") for k, title in enumerate(table.titles)]
    return {
        "table_columns": columns,
        "table_lines": [line.cells for line in table.lines[:4]],
        "table_count": len(table.lines),
        "table_likely": likely,
        "table_units": UNIT_WORDS,
        "table_turns": TURN_WORDS,
        "table_zeros": ZERO_WORDS,
        "table_curve": curve(table, likely),
    }


def curve(table: Table, layout: Layout) -> Figure:
    """The lift curve as it would be read, about overlap TDC."""
    pen = Pen()
    points = _placed(table, layout, strictly=False)
    low, high = min(a for a, _ in points), max(a for a, _ in points)
    top = max(lift for _, lift in points) or 1.0

    def place(angle: float, lift: float) -> tuple[float, float]:
        return 10 + 290 * (angle - low) / ((high - low) or 1), 92 - 76 * max(0.0, lift) / top

    pen.line((10, 92), (300, 92), "ink")
    if low <= 0 <= high:
        pen.line(place(0, 0), place(0, top), "hair")
        pen.text((max(42.0, min(268.0, place(0, 0)[0])), 108), "overlap TDC", "small soft")
    few = points[:: max(1, len(points) // 200)]
    pen.path(polyline([place(*each) for each in few]), "measured-line")
    peak = max(points, key=lambda each: each[1])
    pen.text((300, 12), f"greatest {peak[1]:g} at {peak[0]:g}", "small", "end")
    return pen.figure(
        310, 114, f"Lift from {low:g} to {high:g} crank degrees, greatest {peak[1]:g} at {peak[0]:g}.", "table-curve"
    )


def _stated(table: Table, stated: Mapping[str, str], likely: Layout) -> Layout:
    columns = []
    for name in ("angle_column", "lift_column"):
        typed = stated.get(name, "")
        if not re.fullmatch("[0-9]{1,2}", typed) or not 0 <= int(typed) < table.width:
            raise InvalidInput(name, "no-such-column")
        columns.append(int(typed))
    if columns[0] == columns[1]:
        raise InvalidInput("lift_column", "same-column")
    unit, turn, zero = (stated.get(name, "") for name in ("lift_unit", "turn", "zero"))
    return Layout(
        columns[0],
        columns[1],
        unit if unit in UNIT_MM else likely.unit,
        turn if turn in TURN_WORDS else likely.turn,
        zero if zero in ZERO_WORDS else likely.zero,
    )


def _placed(table: Table, layout: Layout, strictly: bool = True) -> list[tuple[float, float]]:
    """Points about overlap TDC in ascending order; a point at both ends of a cycle appears once."""
    twice = 2.0 if layout.turn == "cam" else 1.0
    ahead = 360.0 if layout.zero == "firing" else 0.0
    found: dict[float, tuple[float, int]] = {}
    for line in table.lines:
        angle, lift = line.figures[layout.angle], line.figures[layout.lift]
        if angle is None or lift is None:
            if strictly and line.cells[layout.angle].strip() and line.cells[layout.lift].strip():
                raise InvalidInput("csv", "sweep-line-figures", number=line.number, value=" ".join(line.cells)[:40])
            continue
        place = round((angle * twice + ahead + 360.0) % 720.0 - 360.0, 6)
        if place in found and strictly and abs(found[place][0] - lift) * UNIT_MM[layout.unit] > 0.02:
            raise InvalidInput("csv", "sweep-line-again", number=line.number, angle=angle, seen=found[place][1])
        found.setdefault(place, (lift, line.number))
    return [(angle, lift) for angle, (lift, _) in sorted(found.items())] or [(0.0, 0.0)]


def _width_deg(table: Table, layout: Layout) -> float:
    """How wide a lobe is at a tenth of its lift, in the degrees of its table."""
    points = _placed(table, layout, strictly=False)
    top = max(lift for _, lift in points)
    lifted = [angle for angle, lift in points if lift > top / 10]
    if len(lifted) < 2:
        return 0.0
    # The lobe may cross the end of a turn: it is the complement of the widest gap.
    gaps = [b - a for a, b in pairwise(lifted)] + [lifted[0] + 720 - lifted[-1]]
    turn = 360 if max(angle for angle, _ in points) - min(angle for angle, _ in points) <= 360 else 720
    gaps[-1] -= 720 - turn
    return turn - max(gaps)


def _unit(title: str) -> str:
    return next((unit for unit, words in _UNITS.items() if words.search(title)), "")


def _runs_on(column: list[float | None]) -> bool:
    """Whether a column only rises, or only falls, over more than lifts do."""
    figures = [each for each in column if each is not None]
    steps = [b - a for a, b in pairwise(figures)]
    if len(steps) < 3:
        return False
    rises = sorted(steps)[len(steps) // 2] > 0
    back = [step for step in steps if (step > 0) != rises]
    # The angle may wrap once, where a turn ends within the file.
    return 0.0 not in steps and (not back or (len(back) == 1 and abs(back[0]) > WRAP_DEG))


def _counts(column: list[float | None]) -> bool:
    return column[:3] in ([0.0, 1.0, 2.0], [1.0, 2.0, 3.0])


def _humped(column: list[float | None]) -> float:
    """How much a column looks like a lobe: low at both ends, with one hump between."""
    figures = [each for each in column if each is not None]
    if len(figures) < 5:
        return 0.0
    turns = sum((b - a) * (c - b) < 0 for a, b, c in zip(figures, figures[1:], figures[2:], strict=False))
    peak = max(figures)
    return (peak - max(figures[0], figures[-1])) / (abs(peak) + 1e-9) - turns / len(figures)


def _zero(table: Table, layout: Layout, lobe: str) -> str:
    """The TDC that angles are counted from, inferred from the peak; empty if it fits neither lobe."""
    points = _placed(table, layout, strictly=False)
    peak = max(points, key=lambda each: each[1])[0]
    usual = USUAL_CENTERLINE_DEG[lobe]
    off = {zero: abs((peak + ahead - usual + 360) % 720 - 360) for zero, ahead in (("overlap", 0.0), ("firing", 360.0))}
    best = min(off, key=lambda zero: off[zero])
    return best if off[best] < 60 else ""
