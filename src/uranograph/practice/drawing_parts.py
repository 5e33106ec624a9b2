"""Parts that every drawing of a made-up engine has: a cylinder cut open, a lifter on its lobe, the dial."""

from uranograph.charts.pen import Pen, Point, polar
from uranograph.world.state import World

CRANK: Point = (486.0, 440.0)
THROW = 40.0
DIAL: Point = (646.0, 146.0)
LOBE: Point = (646.0, 440.0)
BASE_PX, PX_PER_MM = 34.0, 5.5
# What a dial can stand on.
DIAL_ON = {
    "intake": "intake lifter",
    "exhaust": "exhaust lifter",
    "piston": "piston",
    "seat": "gear's seat",
    "cam-end": "end of the cam",
    "cam-front": "front thrust face",
    "cam-rear": "rear thrust face",
    "tooth": "tooth of the cam gear",
    "intake-valve": "intake valve",
    "exhaust-valve": "exhaust valve",
}


def cylinder(pen: Pen, world: World) -> None:
    """The first cylinder cut open, with its piston, rod, throw and stop."""
    x, top = CRANK[0], CRANK[1] - THROW - _rod_px(world) - 26
    for side in (-38, 38):
        pen.line((x + side, top - 34), (x + side, CRANK[1] - THROW - 6), "ink")
    for start, end in ((-38, -9), (9, 38)):
        pen.line((x + start, top - 34), (x + end, top - 34), "ink")
    pen.begin('id="stop"')
    pen.rect(x - 8, top - 60, 16, 60, "ink-shape")
    pen.end()
    pen.begin('id="piston"')
    pen.rect(x - 36, top, 72, 40, "ink-shape")
    for line in (8, 14):
        pen.line((x - 36, top + line), (x + 36, top + line), "hair")
    pen.circle((x, top + 26), 5, "ink")
    pen.end()
    pen.circle(CRANK, THROW, "hair")
    for name in ("rod", "throw"):
        pen.begin(f'id="{name}"')
        pen.line(CRANK, CRANK, "rod-line")
        pen.end()
    pen.circle(CRANK, 8, "ink-shape")
    pen.text((x, CRANK[1] + THROW + 22), "cylinder 1", "small")


def _rod_px(world: World) -> float:
    return THROW * 2 * world.parts.rod_mm / world.parts.stroke_mm


def lifter(pen: Pen, world: World) -> None:
    """A lifter on its lobe under the dial, or what else the dial stands on."""
    pen.begin('id="lobe"')
    pen.path("M0 0", "ink-curve")
    pen.circle(LOBE, 3.5, "ink")
    pen.end()
    pen.begin('id="dial-else"')
    pen.line((LOBE[0], DIAL[1] + 64), (LOBE[0], DIAL[1] + 150), "ink-curve")
    for on, words in DIAL_ON.items():
        if on not in world.parts.lobes:
            pen.begin(f'id="dial-on-{on}"')
            pen.text((LOBE[0], DIAL[1] + 176), f"on the {words}", "small")
            pen.end()
    pen.end()
    pen.begin('id="lifter"')
    pen.rect(LOBE[0] - 20, LOBE[1] - BASE_PX - 46, 40, 46, "ink-shape")
    pen.line((LOBE[0], LOBE[1] - BASE_PX - 46), (LOBE[0], DIAL[1] + 60), "ink-curve")
    pen.end()
    pen.begin('id="guides"')
    for side in (-24, 24):
        pen.line((LOBE[0] + side, LOBE[1] - BASE_PX - 74), (LOBE[0] + side, LOBE[1] - BASE_PX - 20), "hair")
    pen.end()


def dial(pen: Pen) -> None:
    """The dial, its needle and its small hand."""
    pen.circle(DIAL, 64, "wheel-face")
    for k in range(100):
        long = 10 if k % 10 == 0 else 6 if k % 5 == 0 else 4
        pen.line(polar(DIAL, 62 - long, 3.6 * k), polar(DIAL, 62, 3.6 * k), "ink" if k % 10 == 0 else "tick")
    for k in range(0, 100, 10):
        x, y = polar(DIAL, 43, 3.6 * k)
        pen.text((x, y + 4), str(k), "wheel-number")
    small = (DIAL[0], DIAL[1] + 20)
    pen.circle(small, 13, "hair")
    for k in range(10):
        pen.line(polar(small, 10, 36 * k), polar(small, 13, 36 * k), "tick")
    pen.begin('id="small-hand"')
    pen.line(small, (small[0], small[1] - 11), "ink-curve")
    pen.end()
    pen.begin('id="needle"')
    pen.line((DIAL[0], DIAL[1] + 14), (DIAL[0], DIAL[1] - 52), "needle")
    pen.end()
    pen.circle(DIAL, 4, "gear-mark")
    pen.text((DIAL[0] + 90, DIAL[1] - 76), "0.01 mm; small hand 1 mm", "small", "end")
