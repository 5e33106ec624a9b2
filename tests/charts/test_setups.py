"""How instruments are set up, as line drawings: each is used by a station, and its instrument touches what it measures."""

import re

import pytest

from uranograph.charts.setups import NAMES, setup_figure
from uranograph.stations import ORDER


def test_every_drawing_is_shown_at_a_station_and_every_name_is_drawn() -> None:
    assert {name for station in ORDER.stations for name in station.set_ups} == set(NAMES)


@pytest.mark.parametrize("name", NAMES)
def test_a_drawing_says_what_it_shows_and_stays_on_its_paper(name: str) -> None:
    drawn = setup_figure(name)
    assert len(drawn.description) > 30
    for x, y in re.findall(r'(?:cx|x)="(-?[\d.]+)" (?:cy|y)="(-?[\d.]+)"', drawn.body):
        assert 0 <= float(x) <= drawn.width
        assert 0 <= float(y) <= drawn.height
