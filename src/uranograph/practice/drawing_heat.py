"""A gear that goes on hot: its shaft and key, a thermometer on a patch of matt paint, and how far on it is."""

from uranograph.charts.pen import Pen, Point, polar
from uranograph.world.state import World

GEAR: Point = (196.0, 330.0)
GEAR_R = 118.0
FACE: Point = (540.0, 210.0)
FACE_R, MOST_C, SWEEP_DEG = 128.0, 300, 270.0
SHAFT_Y, SHAFT_X = 470.0, 420.0


def at_c(c: float) -> float:
    """Where the thermometer's needle stands, degrees clockwise from straight up.

    Examples
    --------
    >>> at_c(0), at_c(150), at_c(300)
    (-135.0, 0.0, 135.0)
    """
    return c / MOST_C * SWEEP_DEG - SWEEP_DEG / 2


def front(pen: Pen, world: World) -> None:
    """The gear on its plate, the thermometer, and the shaft with the gear before it, half on, or home."""
    teeth = world.parts.mesh.cam_teeth
    points = []
    for k in range(teeth):
        for share, radius in ((-0.3, -8), (-0.14, 0), (0.14, 0), (0.3, -8)):
            points.append(polar(GEAR, GEAR_R + radius, (k + share) * 360 / teeth))
    pen.begin('id="gear-hot"')
    pen.path("M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in points) + "Z", "gear")
    pen.circle(GEAR, 38, "ink-shape")
    pen.rect(GEAR[0] - 7, GEAR[1] - 46, 14, 12, "ink-shape")
    pen.circle(polar(GEAR, 80, 60), 17, "gear-mark")
    pen.end()
    pen.text((GEAR[0], GEAR[1] + GEAR_R + 30), "the gear; a patch of matt paint", "small")
    _thermometer(pen)
    pen.line(polar(GEAR, 80, 60), (FACE[0] - 92, FACE[1] + 92), "hair")
    _shaft(pen)


def _thermometer(pen: Pen) -> None:
    pen.circle(FACE, FACE_R, "wheel-face")
    for c in range(0, MOST_C + 1, 2):
        long = 16 if c % 20 == 0 else 11 if c % 10 == 0 else 6
        pen.line(polar(FACE, FACE_R - long, at_c(c)), polar(FACE, FACE_R, at_c(c)), "ink" if long > 6 else "tick")
    for c in range(0, MOST_C + 1, 20):
        x, y = polar(FACE, FACE_R - 30, at_c(c))
        pen.text((x, y + 4), str(c), "wheel-number")
    pen.begin('id="needle-heat"')
    pen.line((FACE[0], FACE[1] + 20), (FACE[0], FACE[1] - FACE_R + 14), "needle")
    pen.end()
    pen.circle(FACE, 5, "gear-mark")
    pen.text((FACE[0], FACE[1] + 66), "°C", "small")


def _shaft(pen: Pen) -> None:
    pen.rect(SHAFT_X, SHAFT_Y - 20, 250, 40, "ink-shape")
    pen.rect(SHAFT_X + 40, SHAFT_Y - 26, 70, 6, "ink-shape")
    pen.line((SHAFT_X + 150, SHAFT_Y - 44), (SHAFT_X + 150, SHAFT_Y + 44), "ink-curve")
    pen.begin('id="gear-side"')
    pen.rect(SHAFT_X - 60, SHAFT_Y - 76, 34, 152, "ink-shape")
    pen.end()
    pen.text((SHAFT_X + 150, SHAFT_Y + 66), "shoulder", "small")
    pen.text((SHAFT_X + 74, SHAFT_Y - 36), "key", "small")
