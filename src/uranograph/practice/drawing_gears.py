"""The gears of the engine from its front, at true ratio, with their marks, their keys and a loupe at each mesh."""

import math
from itertools import pairwise

from uranograph.charts.pen import Pen, Point, polar
from uranograph.practice.planting import CAM_KEY_DEG
from uranograph.world import geometry
from uranograph.world.state import World

MIDDLE = 214.0
LOWEST, HIGHEST = 560.0, 62.0
ADDENDUM, DEDENDUM = 1.0, 1.2
PROTRACTOR = 12.0
LOUPE_R, LOUPE_TIMES = 58.0, 3.0
LOUPE_X = 70.0


def module_px(world: World) -> float:
    """Pixels of a gear's pitch diameter a tooth, so that the train fits the drawing."""
    across = sum(each.teeth for each in geometry.gears(world))
    return min(7.0, (LOWEST - HIGHEST - 4 * PROTRACTOR) / (across + 2))


def centers(world: World) -> dict[str, Point]:
    """Where each gear's shaft is, from the crank up."""
    module = module_px(world)
    found: dict[str, Point] = {}
    y, last = LOWEST - PROTRACTOR, 0.0
    for gear in geometry.gears(world):
        radius = gear.teeth * module / 2
        y -= radius + last + (module if not found else 0.0)
        found[gear.name] = (MIDDLE, y)
        last = radius
    return found


def front(pen: Pen, world: World) -> None:
    """Every gear with its marks, the mark on the case, a protractor at both keys, and a loupe at each mesh."""
    module, where = module_px(world), centers(world)
    train = geometry.gears(world)
    pen.begin('id="gears"')
    for k, gear in enumerate(train):
        _gear(pen, world, gear, where[gear.name], module, k)
    pen.end()
    _case_mark(pen, where["crank"], train[0].teeth * module / 2)
    if shows_keys(world):
        for name in ("crank", "cam"):
            _protractor(pen, where[name])
    for k, (lower, upper) in enumerate(pairwise(train)):
        x, y = where[lower.name]
        _loupe(pen, (x, y - lower.teeth * module / 2), (LOUPE_X, 470.0 - 170 * k), k, f"{lower.name} and {upper.name}")


def shows_keys(world: World) -> bool:
    """Whether both keys are in sight: pressed gears have none, and an idler's mesh leaves them no room."""
    return world.parts.fit.keyed and not world.parts.mesh.idler_teeth


def _gear(pen: Pen, world: World, gear: geometry.GearAt, at: Point, module: float, number: int) -> None:
    teeth, radius = gear.teeth, gear.teeth * module / 2
    first = _meshed_turn(number, teeth)
    outline = []
    for k in range(teeth):
        for share, far in ((-0.33, -DEDENDUM), (-0.16, ADDENDUM), (0.16, ADDENDUM), (0.33, -DEDENDUM)):
            outline.append(polar(at, radius + far * module * 0.5, first + (k + share) * 360 / teeth))
    pen.begin(f'id="gear-{gear.name}" data-at="{at[0]:.1f} {at[1]:.1f}"')
    pen.path("M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in outline) + "Z", "gear")
    last = gear.name == "cam"
    if not last:
        _dot(pen, at, radius - module, 0.0)
    if number:
        wrong = world.parts.dot_off_teeth * 360 / teeth if last else 0.0
        for side in (-0.5, 0.5):
            _dot(pen, at, radius - module, 180 + wrong + side * 360 / teeth)
    if number == 0:
        pen.line(polar(at, radius - 2.2 * module, 90), polar(at, radius, 90), "ink-curve")
    pen.circle(at, 15, "ink")
    if shows_keys(world):
        _key(pen, at, CAM_KEY_DEG if last else 0.0)
    pen.end()


def _meshed_turn(number: int, teeth: int) -> float:
    """Turn of a gear's first tooth so that it meshes with the gear below where marks meet, degrees."""
    if number == 0:
        return 0.0
    # The gear below has a tooth straight up; this one a space straight down.
    step = 360 / teeth
    return math.fmod(180 + step / 2, step)


def _dot(pen: Pen, at: Point, radius: float, deg: float) -> None:
    pen.circle(polar(at, radius, deg), 3.0, "gear-mark")


def _key(pen: Pen, at: Point, deg: float) -> None:
    """A key in its slot, with a flag held by it that reaches to the protractor."""
    pen.line(polar(at, 9, deg), polar(at, 17, deg), "key-line")
    pen.line(polar(at, 17, deg), polar(at, 38, deg), "ink-curve")


def _protractor(pen: Pen, at: Point) -> None:
    pen.circle(at, 38, "hair")
    for deg in range(0, 360, 5):
        pen.line(polar(at, 38, deg), polar(at, 46 if deg % 30 == 0 else 43 if deg % 10 == 0 else 41, deg), "tick")
    for deg in range(0, 360, 90):
        x, y = polar(at, 27, deg)
        pen.text((x, y + 4), str(deg), "wheel-number")


def _case_mark(pen: Pen, at: Point, radius: float) -> None:
    x, y = at[0] + radius + 8, at[1]
    pen.path(f"M{x:.1f} {y:.1f}L{x + 15:.1f} {y - 5:.1f}L{x + 15:.1f} {y + 5:.1f}Z", "pointer")
    pen.text((x + 18, y + 5), "case", "small", "start")


def _loupe(pen: Pen, at: Point, to: Point, number: int, words: str) -> None:
    pen.circle(to, LOUPE_R, "wheel-face")
    pen.begin(f'clip-path="url(#loupe-{number})"')
    moved = (to[0] - LOUPE_TIMES * at[0], to[1] - LOUPE_TIMES * at[1])
    pen.begin(f'transform="translate({moved[0]:.1f} {moved[1]:.1f}) scale({LOUPE_TIMES:g})"')
    pen.begin('href="#gears"', "use")
    pen.end("use")
    pen.end()
    pen.line((to[0], to[1] - LOUPE_R), (to[0], to[1] + LOUPE_R), "pointer-hair")
    pen.end()
    pen.circle(to, LOUPE_R, "ink-curve")
    pen.begin(f'id="loupe-{number}"', "clipPath")
    pen.circle(to, LOUPE_R, "clip")
    pen.end("clipPath")
    pen.text((to[0], to[1] + LOUPE_R + 18), words, "small")
