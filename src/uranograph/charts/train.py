"""A gear train at true ratio: where each gear stands, its teeth, its marks, and how it turns."""

import math
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache

from uranograph.charts.pen import Figure, Pen, Point, arc, polar

WIDTH, HEIGHT = 742.0, 630.0
ADDENDUM, DEDENDUM = 1.0, 1.35
FINE_TEETH = 160
# How far out a gear is looked for a free place, in teeth; how broad a cross-lying gear is drawn, as a part of its radius.
MAX_DISTANCE, CROSSED_FACE = 4000.0, 0.35
LEANS = (
    0.0,
    12.0,
    -12.0,
    24.0,
    -24.0,
    36.0,
    -36.0,
    52.0,
    -52.0,
    70.0,
    -70.0,
    90.0,
    -90.0,
    115.0,
    -115.0,
    140.0,
    -140.0,
    165.0,
)


@dataclass(frozen=True)
class Part:
    """A gear as it is to be drawn. `speed` is turns a crank turn, with the crank's way of turning positive."""

    name: str
    teeth: int
    role: str
    speed: Fraction
    parent: str | None = None
    how: str = "mesh"
    mark_up: str = ""
    mark_down: str = ""
    up_tooth: float | None = None
    label: str = ""
    sprung: bool = False
    sprocket: bool = False
    belt: bool = False
    lies_deg: float | None = None

    @property
    def radius(self) -> float:
        return self.teeth / 2

    @property
    def marked(self) -> bool:
        return bool(self.mark_up and self.mark_down)


@dataclass(frozen=True)
class Placed:
    """A gear in its place: center in teeth, y downward; the clockwise angle of its tooth 0, degrees."""

    part: Part
    center: Point
    phase_deg: float
    toward_deg: float | None
    marks: tuple[tuple[float, str], ...]


@lru_cache(maxsize=64)
def place(parts: tuple[Part, ...], clockwise: bool) -> tuple[Placed, ...]:
    """Set gears beside one another with every pair of marks on its line of centers.

    Parameters
    ----------
    parts
        Each gear after the one that turns it; the first is the crank's, at (0, 0).
    clockwise
        Whether the crank turns clockwise as one faces it.

    Returns
    -------
    tuple
        The same gears with centers, phases, and marks as (clockwise angle, kind).
    """
    placed: dict[str, Placed] = {}
    marks: dict[str, list[tuple[float, str]]] = {part.name: [] for part in parts}
    for n, part in enumerate(parts):
        if part.parent is None:
            placed[part.name] = Placed(part, (0.0, 0.0), 0.0, None, ())
            continue
        parent = placed[part.parent]
        if part.how == "shaft":
            placed[part.name] = Placed(part, parent.center, parent.phase_deg, None, ())
            continue
        towards = _direction(parts, n, parent, placed, clockwise)
        center = polar(parent.center, _distance(parent.part, part), towards)
        # Where no direction has room the gear is drawn apart, so that none lies over another.
        while (
            part.how != "crossed"
            and _overlap(part, center, parent, placed) > 0
            and math.dist(center, parent.center) < MAX_DISTANCE
        ):
            center = polar(parent.center, math.dist(center, parent.center) + 4.0, towards)
        placed[part.name] = Placed(part, center, _phase(parent, part, towards), towards, ())
        if part.mark_up:
            marks[part.parent].append((towards, part.mark_up))
        if part.mark_down:
            marks[part.name].append((towards + 180, part.mark_down))
    return tuple(
        Placed(one.part, one.center, one.phase_deg, one.toward_deg, tuple(marks[one.part.name]))
        for one in placed.values()
    )


def _distance(parent: Part, part: Part) -> float:
    """How far apart two gears are drawn, in teeth: in mesh, or with room for the spans of a chain between them."""
    together = parent.radius + part.radius
    return together + max(0.55 * together, 6.0) if part.how == "chain" else together


def _direction(parts: tuple[Part, ...], n: int, parent: Placed, placed: dict[str, Placed], clockwise: bool) -> float:
    """Which way a gear lies from the one that turns it: where its marks want it, else where there is room."""
    part = parts[n]
    pitch = 360 / parent.part.teeth
    if part.up_tooth is not None and parent.toward_deg is not None:
        way = 1 if (parent.part.speed > 0) == clockwise else -1
        return parent.toward_deg + 180 + way * part.up_tooth * pitch
    base = (-18.0 if n % 2 else 22.0) if part.role in ("idler", "cam") else (-105.0 if n % 2 else 105.0)
    if part.role == "cam" and part.how == "chain":
        cams = [each.name for each in parts if each.role == "cam" and each.how == "chain"]
        base = 0.0 if len(cams) == 1 else -34.0 + 68.0 * cams.index(part.name) / (len(cams) - 1)
    half = 0.5 if part.mark_up in ("space", "straddle") else 0.0
    if part.lies_deg is not None:
        steps = round((part.lies_deg - parent.phase_deg) / pitch - half) + half
        return parent.phase_deg + steps * pitch
    best, least = base, math.inf
    for lean in LEANS:
        wanted = base + lean
        steps = round((wanted - parent.phase_deg) / pitch - half) + half
        towards = parent.phase_deg + steps * pitch
        overlap = _overlap(part, polar(parent.center, _distance(parent.part, part), towards), parent, placed)
        if overlap <= 0:
            return towards
        if overlap < least:
            best, least = towards, overlap
    return best


def _overlap(part: Part, center: Point, parent: Placed, placed: dict[str, Placed]) -> float:
    worst = 0.0
    for other in placed.values():
        if other.center == parent.center:
            continue
        room = math.dist(center, other.center) - part.radius - other.part.radius - 3
        worst = max(worst, -room)
    return worst


def _phase(parent: Placed, part: Part, towards: float) -> float:
    """The angle of tooth 0 that lets a gear mesh: its space where the other has a tooth."""
    if part.how == "chain":
        return towards + 180 + (180 / part.teeth if part.mark_down in ("space", "straddle") else 0.0)
    pitch_up, pitch = 360 / parent.part.teeth, 360 / part.teeth
    off = ((towards - parent.phase_deg) / pitch_up + 0.5) % 1 - 0.5
    return towards + 180 + off * pitch + pitch / 2


@lru_cache(maxsize=256)
def outline(teeth: int, scale: float, phase_deg: float, chain: bool = False) -> str:
    """The outline of a gear about (0, 0) as path data: involute-like flanks, or a sprocket's rounder ones."""
    radius = teeth / 2 * scale
    tip, root = (radius + ADDENDUM * scale, radius - DEDENDUM * scale)
    at = (0.33, 0.235, 0.11)
    if chain:
        tip, root, at = radius + 0.7 * scale, radius - 0.9 * scale, (0.42, 0.22, 0.05)
    pitch = 360 / teeth
    strokes = []
    for n in range(teeth):
        middle = phase_deg + n * pitch
        left_root, left_tip = polar((0, 0), root, middle - at[0] * pitch), polar((0, 0), tip, middle - at[2] * pitch)
        right_tip, right_root = polar((0, 0), tip, middle + at[2] * pitch), polar((0, 0), root, middle + at[0] * pitch)
        strokes.append(f"{'L' if n else 'M'}{left_root[0]:.1f} {left_root[1]:.1f}")
        if teeth > FINE_TEETH:
            strokes.append(f"L{left_tip[0]:.1f} {left_tip[1]:.1f}L{right_tip[0]:.1f} {right_tip[1]:.1f}")
            strokes.append(f"L{right_root[0]:.1f} {right_root[1]:.1f}")
            continue
        bulge = (tip + root) / 2 + (0.22 if not chain else -0.1) * (tip - root)
        left, right = polar((0, 0), bulge, middle - at[1] * pitch), polar((0, 0), bulge, middle + at[1] * pitch)
        strokes.append(f"Q{left[0]:.1f} {left[1]:.1f} {left_tip[0]:.1f} {left_tip[1]:.1f}")
        strokes.append(f"L{right_tip[0]:.1f} {right_tip[1]:.1f}")
        strokes.append(f"Q{right[0]:.1f} {right[1]:.1f} {right_root[0]:.1f} {right_root[1]:.1f}")
    return "".join(strokes) + "Z"


@lru_cache(maxsize=64)
def train_figure(parts: tuple[Part, ...], clockwise: bool, rear: bool, title: str, crank_teeth: int = 0) -> Figure:
    """Draw a train, 742 by 630, each gear free to turn.

    Parameters
    ----------
    parts
        Each gear after the one that turns it, the crank's first; empty for a blank sheet.
    clockwise
        Whether the crank turns clockwise seen from the front.
    rear
        Draw it as seen from the flywheel end.
    title
        Stands at the upper left.
    crank_teeth
        Teeth that the crank gear has gone on from where the marks meet.

    Returns
    -------
    Figure
        Gears in groups with `data-speed`, degrees clockwise for a degree of the crank forward.
    """
    pen = Pen()
    pen.text((22, 42), title, "title", "start")
    pen.text((22, 64), f"seen from the {'flywheel end' if rear else 'front'}", "small", "start")
    if not parts:
        pen.text((371, 320), "Teeth first: the crank gear, then what it turns.", "soft")
        return pen.figure(WIDTH, HEIGHT, f"{title}: no gears yet.", "train")
    placed = place(parts, clockwise)
    mirror = -1.0 if rear else 1.0
    scale, shift = _fit(placed, mirror)
    spots = {
        one.part.name: (mirror * one.center[0] * scale + shift[0], one.center[1] * scale + shift[1]) for one in placed
    }
    for one in placed:
        if one.part.how == "chain" and one.part.parent is not None:
            parent = next(other for other in placed if other.part.name == one.part.parent)
            _chain(
                pen,
                spots[parent.part.name],
                parent.part.radius * scale,
                spots[one.part.name],
                one.part.radius * scale,
                "belt-line" if one.part.belt else "chain-line",
            )
        elif one.part.parent is not None and one.part.how == "mesh":
            parent = next(other for other in placed if other.part.name == one.part.parent)
            if math.dist(parent.center, one.center) > _distance(parent.part, one.part) + 0.01:
                pen.line(spots[parent.part.name], spots[one.part.name], "chain-line")
    way = mirror * (1 if clockwise else -1)
    for one in sorted(placed, key=lambda each: -each.part.teeth):
        _gear(pen, one, spots[one.part.name], scale, mirror, way, crank_teeth / parts[0].teeth * 360)
    for one in placed:
        _line_of_centers(pen, one, spots, scale)
    for one in placed:
        _name(pen, one, spots[one.part.name], scale)
    names = ", ".join(f"{part.name} {part.teeth}" for part in parts)
    return pen.figure(WIDTH, HEIGHT, f"{title}: {names} teeth.", "train")


def _fit(placed: tuple[Placed, ...], mirror: float) -> tuple[float, Point]:
    reach = [(mirror * one.center[0], one.center[1], one.part.radius + 1.5) for one in placed]
    left, right = min(x - r for x, _, r in reach), max(x + r for x, _, r in reach)
    top, bottom = min(y - r for _, y, r in reach), max(y + r for _, y, r in reach)
    room_x, room_y, head = 690.0, 520.0, 84.0
    scale = min(room_x / (right - left), room_y / (bottom - top), 11.0)
    return scale, (371 - (left + right) / 2 * scale, head + room_y / 2 - (top + bottom) / 2 * scale)


def _gear(pen: Pen, one: Placed, at: Point, scale: float, mirror: float, way: float, crank_deg: float) -> None:
    part = one.part
    if part.how == "crossed":
        _cross_lying(pen, one, at, scale, mirror)
        return
    speed = float(part.speed) * way
    ink = "gear untimed" if part.role == "untimed" else "gear"
    pen.begin(
        f'class="turning" data-speed="{speed:.9f}" data-x="{at[0]:.1f}" data-y="{at[1]:.1f}" '
        f'transform="translate({at[0]:.1f} {at[1]:.1f}) rotate({crank_deg * speed:.3f})"'
    )
    pen.path(outline(part.teeth, round(scale, 3), round(mirror * one.phase_deg, 4), part.sprocket), ink)
    rim = part.radius * scale
    if rim > 26:
        pen.circle((0, 0), rim * 0.72, "gear-rim")
        for spoke in range(3):
            pen.line(polar((0, 0), rim * 0.3, spoke * 120), polar((0, 0), rim * 0.72, spoke * 120), "gear-rim")
    if part.sprung:
        pen.path(arc((0, 0), rim * 0.5, 20, 160), "gear-spring")
    for angle, kind in one.marks:
        _mark(pen, part, mirror * angle, kind, scale)
    pen.end()


def _cross_lying(pen: Pen, one: Placed, at: Point, scale: float, mirror: float) -> None:
    """A gear whose axis lies across, seen edge on: as long as it is wide round, its teeth slanting."""
    part = one.part
    rim, face = part.radius * scale, max(12.0, part.radius * scale * CROSSED_FACE)
    turned = mirror * (one.toward_deg or 0.0)
    pen.begin(f'transform="translate({at[0]:.1f} {at[1]:.1f}) rotate({turned:.3f})"')
    pen.rect(-face, -rim, 2 * face, 2 * rim, "gear-edge")
    pen.line((-face - 16, 0), (face + 16, 0), "card-line")
    step = max(2 * rim / max(part.teeth // 2, 3), 5.0)
    for n in range(int(2 * rim / step)):
        y = -rim + (n + 0.5) * step
        pen.line((-face, min(rim, y + step / 2)), (face, max(-rim, y - step / 2)), "gear-rim")
    for _, kind in one.marks:
        if kind:
            pen.circle((0, rim - 8), max(3.0, min(6.0, 0.62 * scale)), "gear-mark")
    pen.end()


def _mark(pen: Pen, part: Part, angle: float, kind: str, scale: float) -> None:
    rim, size = part.radius * scale, max(3.0, min(6.0, 0.62 * scale))
    inside = rim - 1.25 * scale - size - 2
    if kind == "straddle":
        for side in (-0.5, 0.5):
            pen.circle(polar((0, 0), inside, angle + side * 360 / part.teeth), size, "gear-mark")
        return
    pen.circle(polar((0, 0), inside, angle), size, "gear-mark")
    if kind == "space":
        pen.line(polar((0, 0), inside + size, angle), polar((0, 0), rim - 1.25 * scale, angle), "ink")


def _line_of_centers(pen: Pen, one: Placed, spots: dict[str, Point], scale: float) -> None:
    part = one.part
    if part.parent is None or part.how == "shaft" or not part.marked:
        return
    start, end = spots[part.parent], spots[part.name]
    length = math.dist(start, end)
    unit = ((end[0] - start[0]) / length, (end[1] - start[1]) / length)
    rim = (length - part.radius * scale) if part.how != "chain" else length / 2
    reach = max(34.0, min(7.0 * scale, 60.0)) if part.how != "chain" else length / 2 - 30
    a = (start[0] + unit[0] * (rim - reach), start[1] + unit[1] * (rim - reach))
    b = (start[0] + unit[0] * (rim + reach), start[1] + unit[1] * (rim + reach))
    pen.line(a, b, "card-line")
    if part.label:
        aside = reach + 12
        if part.how == "chain":
            inward = part.radius * scale - 34
            pen.text((end[0] - unit[0] * inward + 14, end[1] - unit[1] * inward), part.label, "card")
            return
        pen.text((start[0] + unit[0] * (rim + aside), start[1] + unit[1] * (rim + aside) + 5), part.label, "card")


def _chain(pen: Pen, one: Point, r1: float, other: Point, r2: float, ink: str) -> None:
    """The two straight spans and the arcs round both sprockets."""
    length = math.dist(one, other)
    base = math.degrees(math.atan2(other[0] - one[0], -(other[1] - one[1])))
    lean = math.degrees(math.acos(max(-1.0, min(1.0, (r1 - r2) / length))))
    for side in (-1, 1):
        pen.line(polar(one, r1, base + side * lean), polar(other, r2, base + side * lean), ink)
    pen.path(arc(one, r1, base + lean, base - lean + 360), ink)
    pen.path(arc(other, r2, base - lean, base + lean), ink)


def _name(pen: Pen, one: Placed, at: Point, scale: float) -> None:
    part, rim = one.part, one.part.radius * scale
    y = at[1] - 2
    if part.how == "shaft":
        y = at[1] - rim - 22
    elif rim < 30:
        y = at[1] + rim + 18
    pen.text((at[0], y), part.name, "gear-name")
    pen.text((at[0], y + 18), f"{part.teeth}{', untimed' if part.role == 'untimed' else ''}", "small")
