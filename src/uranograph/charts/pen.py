"""The hand all figures are drawn in: strokes with a class, which the style sheet inks."""

import math
from dataclasses import dataclass, replace
from functools import cache
from html import escape
from textwrap import wrap

Point = tuple[float, float]


@dataclass(frozen=True)
class Figure:
    """A finished drawing. `description` says in words what it shows; `state` is the verdict that colors what is measured."""

    width: float
    height: float
    description: str
    body: str
    kind: str
    state: str = ""

    def judged(self, state: str) -> "Figure":
        """The same drawing, what is measured in the color of a verdict such as `out`."""
        return replace(self, state=state)

    def svg(self) -> str:
        """The drawing as an SVG element."""
        classes = f"figure {self.kind}" + (f" is-{self.state}" if self.state else "")
        return (
            f'<svg class="{classes}" viewBox="0 0 {self.width:g} {self.height:g}" preserveAspectRatio="xMidYMin meet" role="img" '
            f'aria-label="{escape(self.description)}" xmlns="http://www.w3.org/2000/svg">{self.body}</svg>'
        )


class Pen:
    """Collects strokes. Coordinates are in the figure's own units, y downward."""

    def __init__(self) -> None:
        self.strokes: list[str] = []

    def path(self, d: str, ink: str) -> None:
        self.strokes.append(f'<path class="{ink}" d="{d}"/>')

    def line(self, start: Point, end: Point, ink: str) -> None:
        self.strokes.append(
            f'<line class="{ink}" x1="{start[0]:.1f}" y1="{start[1]:.1f}" x2="{end[0]:.1f}" y2="{end[1]:.1f}"/>'
        )

    def circle(self, center: Point, radius: float, ink: str) -> None:
        self.strokes.append(f'<circle class="{ink}" cx="{center[0]:.1f}" cy="{center[1]:.1f}" r="{radius:.1f}"/>')

    def rect(self, x: float, y: float, width: float, height: float, ink: str) -> None:
        self.strokes.append(f'<rect class="{ink}" x="{x:.1f}" y="{y:.1f}" width="{width:.1f}" height="{height:.1f}"/>')

    def text(self, at: Point, words: str, ink: str, anchor: str = "middle", turn: float = 0) -> None:
        turned = f' transform="rotate({turn:.1f} {at[0]:.1f} {at[1]:.1f})"' if turn else ""
        self.strokes.append(
            f'<text class="{ink}" x="{at[0]:.1f}" y="{at[1]:.1f}" text-anchor="{anchor}"{turned}>{escape(words)}</text>'
        )

    def lines(self, at: Point, words: str, ink: str, most: int, anchor: str = "start", apart: float = 20.0) -> float:
        """Words in lines of so many letters at the most, that also fit where letters are larger; where the next line would be."""
        x, y = at
        for line in wrap(words, most):
            self.text((x, y), line, ink, anchor)
            y += apart
        return y

    def begin(self, attributes: str, tag: str = "g") -> None:
        """Open a group; what is drawn next belongs to it until `end`."""
        self.strokes.append(f"<{tag} {attributes}>")

    def end(self, tag: str = "g") -> None:
        self.strokes.append(f"</{tag}>")

    def star(self, at: Point, size: float, ink: str) -> None:
        """A four-pointed star."""
        self.path(star_path(at, size), f"star {ink}")

    def figure(self, width: float, height: float, description: str, kind: str) -> Figure:
        return Figure(width, height, description, "".join(self.strokes), kind)


def star_path(at: Point, size: float) -> str:
    """The outline of a four-pointed star."""
    return f"M{at[0]:.1f} {at[1]:.1f}{_star_outline(size)}"


@cache
def _star_outline(size: float) -> str:
    """From the middle to the upper point and round, in relative strokes."""
    waist = size * 0.24
    far = size - waist
    points = [(waist, far), (far, waist), (-far, waist), (-waist, far), (-waist, -far), (-far, -waist), (far, -waist)]
    return f"m0 {-size:.2f}" + "".join(f"l{x:.2f} {y:.2f}" for x, y in points) + "z"


def polar(center: Point, radius: float, theta_deg: float) -> Point:
    """A point at a clockwise angle from straight up.

    Examples
    --------
    >>> x, y = polar((0, 0), 10, 90)
    >>> round(x), round(y)
    (10, 0)
    """
    theta = math.radians(theta_deg)
    return center[0] + radius * math.sin(theta), center[1] - radius * math.cos(theta)


def polyline(points: list[Point]) -> str:
    """Points as path data."""
    return "M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in points)


def traced(center: Point, points: list[tuple[float, float]]) -> str:
    """Points given as radius and clockwise angle from straight up, as path data."""
    x, y = center
    sin, cos, turn = math.sin, math.cos, math.pi / 180
    return "M" + "L".join([f"{x + r * sin(a * turn):.1f} {y - r * cos(a * turn):.1f}" for r, a in points])


def arc(center: Point, radius: float, start_deg: float, end_deg: float) -> str:
    """A circular arc, clockwise from start to end, as path data."""
    x1, y1 = polar(center, radius, start_deg)
    x2, y2 = polar(center, radius, end_deg)
    large = 1 if (end_deg - start_deg) % 360 > 180 else 0
    return f"M{x1:.1f} {y1:.1f}A{radius:.1f} {radius:.1f} 0 {large} 1 {x2:.1f} {y2:.1f}"


def band(center: Point, inner: float, outer: float, start_deg: float, end_deg: float) -> str:
    """A piece of ring, clockwise from start to end, as path data."""
    x1, y1 = polar(center, outer, start_deg)
    x2, y2 = polar(center, outer, end_deg)
    x3, y3 = polar(center, inner, end_deg)
    x4, y4 = polar(center, inner, start_deg)
    large = 1 if (end_deg - start_deg) % 360 > 180 else 0
    return (
        f"M{x1:.1f} {y1:.1f}A{outer:.1f} {outer:.1f} 0 {large} 1 {x2:.1f} {y2:.1f}"
        f"L{x3:.1f} {y3:.1f}A{inner:.1f} {inner:.1f} 0 {large} 0 {x4:.1f} {y4:.1f}Z"
    )
