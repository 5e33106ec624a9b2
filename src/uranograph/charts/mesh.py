"""One mesh compared by eye: one tooth early, right, one tooth late, side by side."""

from dataclasses import dataclass
from functools import lru_cache

from uranograph.charts.pen import Figure, Pen, Point, polar
from uranograph.charts.train import outline
from uranograph.core.quantities import format_angle

LENS = 114.0


@dataclass(frozen=True)
class Shown:
    """The two gears of a mesh, with where each has its mark, and what one tooth is worth in crank degrees."""

    up: str
    up_teeth: int
    up_mark: str
    down: str
    down_teeth: int
    down_mark: str
    shift_deg: float
    icl_deg: float | None
    chain: bool
    down_turns_clockwise: bool
    seen: str = ""


@lru_cache(maxsize=64)
def compare_figure(mesh: Shown, title: str) -> Figure:
    """Draw a mesh three times, 742 by 630, the lower gear the one that turns.

    Parameters
    ----------
    mesh
        The gears; `seen` (`early`, `on`, `late` or empty) is ringed.
    title
        Stands at the upper left.
    """
    pen = Pen()
    pen.text((22, 42), title, "title", "start")
    pen.text(
        (22, 64), f"“{mesh.down}” above is turned by “{mesh.up}” below; a star where it is right", "small", "start"
    )
    for n, (which, steps) in enumerate((("early", 1), ("on", 0), ("late", -1))):
        middle = (134.0 + n * 237.0, 286.0)
        pen.begin(
            f'x="{middle[0] - LENS:.1f}" y="{middle[1] - LENS:.1f}" width="{2 * LENS:g}" height="{2 * LENS:g}" '
            f'viewBox="{-LENS:g} {-LENS:g} {2 * LENS:g} {2 * LENS:g}"',
            "svg",
        )
        _mesh(pen, mesh, steps)
        pen.end("svg")
        pen.circle(middle, LENS, "lens seen" if mesh.seen == which else "lens")
        words = {"early": "one tooth early", "on": "right", "late": "one tooth late"}[which]
        if which == "on":
            pen.star((middle[0], middle[1] + LENS + 26), 9, "hollow")
        pen.text((middle[0], middle[1] + LENS + 58), words, "subtitle")
        pen.text((middle[0], middle[1] + LENS + 82), _worth(mesh, steps), "small")
        if mesh.seen == which:
            pen.text((middle[0], middle[1] - LENS - 16), "seen", "gap")
    phrase = "No cam hangs on this one."
    if mesh.shift_deg:
        phrase = f"One tooth here is {format_angle(mesh.shift_deg, 3)} crank degrees at the cam."
    pen.text((371, 532), phrase, "soft")
    return pen.figure(742, 630, f"{title}: one tooth early, right, and one tooth late. {phrase}", "mesh")


def _worth(mesh: Shown, steps: int) -> str:
    if not mesh.shift_deg:
        return ""
    if mesh.icl_deg is not None:
        return f"ICL {format_angle(mesh.icl_deg - steps * mesh.shift_deg)}"
    if steps == 0:
        return "as the marks say"
    return f"ICL {format_angle(mesh.shift_deg)} {'sooner' if steps > 0 else 'later'}"


def _mesh(pen: Pen, mesh: Shown, steps: int) -> None:
    scale = 15.0
    up_at, down_at = (0.0, mesh.up_teeth / 2 * scale), (0.0, -mesh.down_teeth / 2 * scale)
    if mesh.chain:
        up_at, down_at = (up_at[0], up_at[1] + 26), (down_at[0], down_at[1] - 26)
    way = 1 if mesh.down_turns_clockwise else -1
    half_up = 0.0 if mesh.up_mark == "tooth" else 180 / mesh.up_teeth
    half_down = 0.0 if mesh.down_mark == "tooth" else 180 / mesh.down_teeth
    turned = way * steps * 360 / mesh.down_teeth
    _half(pen, up_at, mesh.up_teeth, 0.0, half_up, mesh.up_mark, scale, mesh.chain)
    _half(pen, down_at, mesh.down_teeth, 180.0 + turned, half_down, mesh.down_mark, scale, mesh.chain, "gear driven")
    pen.text((-LENS + 34, -LENS + 62), mesh.down, "small", "start")
    pen.text((-LENS + 34, LENS - 52), mesh.up, "small", "start")
    pen.line((0, -LENS), (0, LENS), "card-line")


def _half(
    pen: Pen,
    at: Point,
    teeth: int,
    mark_deg: float,
    half: float,
    kind: str,
    scale: float,
    chain: bool,
    ink: str = "gear",
) -> None:
    """Only what the lens can show: the teeth near the line of centers, as one clipped outline."""
    pen.begin(f'transform="translate({at[0]:.1f} {at[1]:.1f})"')
    pen.path(outline(teeth, scale, round(mark_deg + half, 4), chain), ink)
    inside = teeth / 2 * scale - 2.4 * scale
    if kind == "straddle":
        for side in (-0.5, 0.5):
            pen.circle(polar((0, 0), inside, mark_deg + side * 360 / teeth), 4.5, "gear-mark")
    else:
        pen.circle(polar((0, 0), inside, mark_deg), 4.5, "gear-mark")
        if kind == "space":
            pen.line(polar((0, 0), inside + 5, mark_deg), polar((0, 0), inside + 1.1 * scale, mark_deg), "ink")
    pen.end()
