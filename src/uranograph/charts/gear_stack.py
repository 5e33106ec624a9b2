"""The parts of a cam's nose in the order they go on, pulled apart along the shaft."""

from functools import lru_cache

from uranograph.charts.pen import Figure, Pen, polyline

AXIS = 300.0
PLACES = {"bearing": 150.0, "ring": 258.0, "keytried": 346.0, "plate": 420.0, "marks": 520.0, "locker": 640.0}
NAMES = {
    "bearing": "bearing",
    "ring": "spacer ring",
    "keytried": "key",
    "plate": "thrust plate",
    "marks": "gear",
    "locker": "bolts",
}


@lru_cache(maxsize=64)
def stack_figure(states: tuple[tuple[str, str], ...], title: str) -> Figure:
    """Draw the parts side on, 742 by 630, each with the star of what was seen.

    Parameters
    ----------
    states
        Kind of check and its state: `in`, `out`, `unsure`, `not-begun`, or `skipped` where there is none; those that belong to
        no part are left out.
    title
        Stands at the upper left.
    """
    pen = Pen()
    pen.text((22, 42), title, "title", "start")
    pen.text((22, 64), "from the bearing outward, in the order they go on; seen from the side", "small", "start")
    seen = dict(states)
    seen.setdefault("keytried", seen.get("key", "none"))
    pen.line((70, AXIS), (700, AXIS), "leader")
    pen.rect(70, AXIS - 34, 130, 68, "gear-edge")
    pen.path(f"M200 {AXIS - 22:.0f}H470V{AXIS + 22:.0f}H200", "ink")
    drawn = {"bearing": _bearing, "ring": _ring, "keytried": _key, "plate": _plate, "marks": _gear, "locker": _bolts}
    for n, (kind, draw) in enumerate(drawn.items()):
        x, below = PLACES[kind], 498 + 46 * (n % 2)
        draw(pen, x)
        state = seen.get(kind, "none")
        if state in ("none", "skipped"):
            pen.text((x, below), NAMES[kind], "small")
            if state == "skipped":
                pen.text((x, below + 20), "there is none", "small")
            continue
        pen.star((x, 462), 10, {"in": "dark", "out": "solid", "unsure": "solid"}.get(state, "hollow"))
        pen.text((x, below), NAMES[kind], "gear-name" if state == "in" else "small")
        word = {"in": "seen", "out": "wrong", "unsure": "not seen", "not-begun": "to do"}[state]
        pen.text((x, below + 20), word, "small")
    phrase = sum(1 for _, state in states if state == "in")
    return pen.figure(742, 630, f"{title}: {phrase} of {len(states)} looked at and right.", "stack")


def _bearing(pen: Pen, x: float) -> None:
    for way in (-1, 1):
        pen.rect(x - 26, AXIS + way * 62 - 26, 52, 52, "gear-edge")
        pen.path(f"M{x - 26:.0f} {AXIS + way * 62 - 26:.0f}l52 52m0 -52l-52 52", "hair")


def _ring(pen: Pen, x: float) -> None:
    for way in (-1, 1):
        far, near = AXIS + way * 70, AXIS + way * 24
        points = [(x - 14, far), (x + 14, far), (x + 14, near), (x - 2, near), (x - 14, near + way * 12)]
        pen.path(polyline([*points, points[0]]), "ink")
    pen.text((x - 20, AXIS - 84), "chamfer", "scale", "middle")


def _key(pen: Pen, x: float) -> None:
    pen.rect(x - 22, AXIS - 44, 44, 16, "pointer")


def _plate(pen: Pen, x: float) -> None:
    for way in (-1, 1):
        pen.rect(x - 7, AXIS + way * 84 - 58, 14, 116, "gear-edge")
        for at in (-30, 0, 30):
            pen.line((x - 7, AXIS + way * 84 + at), (x - 1, AXIS + way * 84 + at), "ink")
    pen.text((x, AXIS - 152), "oil grooves", "scale")


def _gear(pen: Pen, x: float) -> None:
    for way in (-1, 1):
        pen.rect(x - 18, min(AXIS + way * 24, AXIS + way * 130), 36, 106, "gear-edge")
        for n in range(4):
            pen.line((x - 18, AXIS + way * (134 + 0) - way * n * 5), (x + 18, AXIS + way * 134 - way * n * 5), "hair")
    pen.circle((x + 18, AXIS - 112), 5, "gear-mark")
    pen.text((x + 30, AXIS - 108), "mark", "scale", "start")


def _bolts(pen: Pen, x: float) -> None:
    for way in (-1, 1):
        pen.rect(x - 36, AXIS + way * 56 - 6, 44, 12, "gear-edge")
        pen.rect(x + 8, AXIS + way * 56 - 12, 16, 24, "gear-edge")
