"""A deviation drawn at crank and cam."""

import re

import pytest

from uranograph.charts.two_arcs import CENTERS, two_arcs


@pytest.mark.parametrize(
    ("deg", "crank", "cam"), [(7.7, "7.7° crank", "3.85° cam"), (-15.0, "15.0° crank", "7.50° cam")]
)
def test_so_much_at_the_crank_is_half_at_the_cam(deg: float, crank: str, cam: str) -> None:
    body = two_arcs(deg, "x").body
    assert f">{crank}<" in body
    assert f">{cam}<" in body
    tips = [float(x) for x in re.findall(r'class="measured-line"[^>]*x2="([\d.]+)"', body)]
    for tip, center in zip(tips, CENTERS.values(), strict=True):
        # Late is clockwise: to the right of straight up.
        assert (tip > center[0]) == (deg > 0)
