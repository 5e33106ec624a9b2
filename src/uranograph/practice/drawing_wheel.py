"""The engine from its front with the degree wheel on its nose."""

from uranograph.charts.pen import Pen, Point, polar
from uranograph.world.state import World

WHEEL: Point = (214.0, 330.0)
RIM, HUB = 176.0, 40.0
CAM_GEAR: Point = (214.0, 104.0)
LOUPE: Point = (84.0, 484.0)
LOUPE_R, LOUPE_TIMES = 66.0, 3.2


def front(pen: Pen, world: World) -> None:
    """The cam gear, the wheel as mounted with its pointer and handle, and a loupe at the pointer."""
    _gear(pen, world)
    pen.begin('id="wheel"')
    _wheel(pen, world)
    pen.end()
    pen.begin('id="handle"')
    pen.line(WHEEL, (WHEEL[0], WHEEL[1] - RIM + 34), "handle-line")
    pen.circle((WHEEL[0], WHEEL[1] - RIM + 34), 13, "handle-grip")
    pen.end()
    pen.circle(WHEEL, HUB - 14, "ink-shape")
    _pointer(pen)


def _gear(pen: Pen, world: World) -> None:
    teeth = world.parts.mesh.cam_teeth
    points = []
    for k in range(teeth):
        for share, radius in ((-0.3, 48), (-0.14, 54), (0.14, 54), (0.3, 48)):
            points.append(polar(CAM_GEAR, radius, (k + share) * 360 / teeth))
    pen.begin('id="cam-gear"')
    pen.path("M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in points) + "Z", "gear")
    for deg in (60, 180, 300):
        pen.circle(polar(CAM_GEAR, 26, deg), 5, "ink")
    pen.circle(CAM_GEAR, 9, "ink")
    pen.circle(polar(CAM_GEAR, 44, 180), 2.4, "gear-mark")
    pen.end()
    pen.text((CAM_GEAR[0] + 64, CAM_GEAR[1] - 20), "cam gear", "small", "start")


def numbers(scale: str, deg: int) -> str:
    """What a wheel has printed at so many degrees after its TDC mark, up to 360.

    Examples
    --------
    >>> numbers("half", 200), numbers("quarter", 100), numbers("full", 200)
    ('160', '80', '200')
    """
    if scale == "full":
        return str(deg % 360)
    half = min(deg % 360, 360 - deg % 360)
    return str(half if scale == "half" else min(half, 180 - half))


def _wheel(pen: Pen, world: World) -> None:
    wheel = world.state.wheel
    # Numbers that rise against the turning show degrees after TDC as they come; a wheel turned round has them the other way.
    way = 1 if wheel.mirrored else -1
    pen.circle(WHEEL, RIM, "wheel-face")
    for half_deg in range(0, 720, 1 if wheel.division_deg == 0.5 else 2):
        deg = half_deg / 2
        long = 14 if deg % 10 == 0 else 10 if deg % 5 == 0 else 6 if deg % 1 == 0 else 4
        at = way * deg
        pen.line(polar(WHEEL, RIM - long, at), polar(WHEEL, RIM, at), "wheel-line" if long > 9 else "wheel-tick")
    for deg in range(0, 360, 10):
        at = way * deg
        named = {0: "TDC", 180: "BDC"}.get(deg, numbers(wheel.scale, deg))
        if len(named) == 3 and named.isdecimal() and deg % 20:
            # Three figures every ten degrees would join.
            continue
        x, y = polar(WHEEL, RIM - 26, at)
        pen.text((x, y + 4), named, "wheel-name" if named.isalpha() else "wheel-number", "middle", at)


def _pointer(pen: Pen) -> None:
    tip = (WHEEL[0], WHEEL[1] - RIM + 3)
    pen.path(f"M64 118Q{WHEEL[0] - 34} 100 {tip[0]} {tip[1] - 12}", "pointer-wire")
    pen.path(f"M{tip[0]} {tip[1]}L{tip[0] - 4} {tip[1] - 15}L{tip[0] + 4} {tip[1] - 15}Z", "pointer")
    pen.circle((64, 118), 6, "ink-shape")
    pen.text((54, 100), "pointer", "small", "middle")


def loupe(pen: Pen) -> None:
    """What the eye sees leaning in at the pointer."""
    x, y = LOUPE
    pen.circle(LOUPE, LOUPE_R, "wheel-face")
    pen.begin('clip-path="url(#loupe-clip)"')
    moved = (x - LOUPE_TIMES * WHEEL[0], y - LOUPE_TIMES * (WHEEL[1] - RIM + 16))
    pen.begin(f'transform="translate({moved[0]:.1f} {moved[1]:.1f}) scale({LOUPE_TIMES:g})"')
    pen.begin('href="#wheel"', "use")
    pen.end("use")
    pen.end()
    pen.path(f"M{x} {y - 48}L{x - 5} {y - 66}L{x + 5} {y - 66}Z", "pointer")
    pen.line((x, y - 50), (x, y - 20), "pointer-hair")
    pen.end()
    pen.circle(LOUPE, LOUPE_R, "ink-curve")
    pen.begin('id="loupe-clip"', "clipPath")
    pen.circle(LOUPE, LOUPE_R, "clip")
    pen.end("clipPath")
    pen.text((x, y + LOUPE_R + 20), "what the eye sees", "small")
