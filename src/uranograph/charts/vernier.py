"""A magnified piece of scale: card and measured side by side where the gap is too small to see."""

from dataclasses import dataclass

from uranograph.charts.pen import Figure, Pen, Point, arc, band, polar
from uranograph.core.quantities import late_or_early

RANGES_DEG = (5.0, 10.0, 20.0, 40.0, 90.0, 180.0)


@dataclass(frozen=True)
class VernierGap:
    """A signed gap between card (0) and measured, with its uncertainty and the tolerance; crank degrees."""

    error_deg: float
    uncertainty_deg: float
    tolerance_deg: float

    @property
    def reach_deg(self) -> float:
        """The half range that shows it whole."""
        wanted = abs(self.error_deg) + self.uncertainty_deg
        return next((reach for reach in RANGES_DEG if wanted <= reach), RANGES_DEG[-1])

    @property
    def none(self) -> bool:
        """Whether there is no gap that could be written."""
        return abs(self.error_deg) < 0.05

    @property
    def words(self) -> str:
        return "right on" if self.none else late_or_early(self.error_deg)


def rule(gap: VernierGap, early: str = "early", late: str = "late", origin: str = "card") -> Figure:
    """A straight early/late rule, 312 by 62.

    Parameters
    ----------
    gap
        What to show.
    early, late, origin
        Words under the left end, the right end, and the middle.
    """
    width, y, middle, half = 312.0, 34.0, 156.0, 140.0
    scale = half / gap.reach_deg
    pen = Pen()
    pen.rect(middle - gap.tolerance_deg * scale, y - 20, 2 * gap.tolerance_deg * scale, 20, "tolerance")

    def at(deg: float) -> float:
        return middle + max(-half, min(half, deg * scale))

    left, right = at(gap.error_deg - gap.uncertainty_deg), at(gap.error_deg + gap.uncertainty_deg)
    pen.rect(left, y - 17, right - left, 14, "halo")
    pen.line((middle - half - 10, y), (middle + half + 10, y), "ink")
    step = gap.reach_deg / 5
    for k in range(-5, 6):
        pen.line((at(k * step), y), (at(k * step), y - (8 if k in (-5, 0, 5) else 4)), "ink")
    pen.star((middle, y - 10), 10, "hollow")
    pen.star((at(gap.error_deg), y - 10), 10, "solid")
    reach = f"{gap.reach_deg:g}"
    pen.text((middle - half, y + 16), f"{reach} {early}", "small", "start")
    pen.text((middle, y + 16), origin, "small card")
    pen.text((middle + half, y + 16), f"{reach} {late}", "small", "end")
    return pen.figure(width, 56, f"Measured is {gap.words}{'' if gap.none else f' of {origin}'}.", "rule")


def draw_vernier(
    pen: Pen, center: Point, radius: float, middle_deg: float, half_deg: float, gap: VernierGap, name: str
) -> None:
    """Draw a magnified arc of the cycle scale, late clockwise.

    Parameters
    ----------
    pen
        To draw with.
    center, radius
        Of the arc.
    middle_deg, half_deg
        Where the card's place is on it and how far it reaches, clockwise degrees from straight up.
    gap
        What to show.
    name
        Of the lobe.
    """
    scale = half_deg / gap.reach_deg
    edge = middle_deg - half_deg, middle_deg + half_deg

    def at(deg: float) -> float:
        return max(edge[0], min(edge[1], middle_deg + deg * scale))

    pen.path(band(center, radius, radius + 22, at(-gap.tolerance_deg), at(gap.tolerance_deg)), "tolerance")
    low, high = at(gap.error_deg - gap.uncertainty_deg), at(gap.error_deg + gap.uncertainty_deg)
    if high > low:
        pen.path(band(center, radius + 3, radius + 19, low, high), "halo")
    pen.path(arc(center, radius, edge[0] - 2, edge[1] + 2), "ink")
    for k in range(-5, 6):
        theta = at(k * gap.reach_deg / 5)
        pen.line(polar(center, radius, theta), polar(center, radius + (9 if k in (-5, 0, 5) else 5), theta), "ink")
    pen.star(polar(center, radius + 11, middle_deg), 9, "hollow")
    pen.star(polar(center, radius + 11, at(gap.error_deg)), 9, "solid")
    for end, word in ((edge[0], "early"), (edge[1], "late")):
        pen.text(polar(center, radius - 16, end), f"{gap.reach_deg:g} {word}", "small", turn=_upright(end))
    power = half_deg / (gap.reach_deg / 2)
    pen.text(polar(center, radius - 18, middle_deg), gap.words, "gap", turn=_upright(middle_deg))
    pen.text(polar(center, radius - 40, middle_deg), f"{name} ×{power:.0f}", "small", turn=_upright(middle_deg))


def _upright(theta_deg: float) -> float:
    """The turn that sets words along an arc without standing them on their head."""
    theta = theta_deg % 360
    return theta - 180 if 90 < theta < 270 else theta
