"""Every station is whole: what the bench, the pages, the file, the docs and the demo need of it."""

import re
from pathlib import Path

import pytest
from jinja2 import TemplateNotFound

from tests.hands import with_forms
from uranograph.bench.acts import Act
from uranograph.bench.calculations import CALCULATIONS
from uranograph.bench.job import FIRST_FORM, Job
from uranograph.bench.station import Look, Order, Station
from uranograph.charts.pen import Figure
from uranograph.shop import jobs
from uranograph.shop.database import Shop
from uranograph.stations import ORDER
from uranograph.web.pages import templates

ROOT = Path(__file__).parents[2]
SECTIONS = re.findall(r"(?m)^## (.+)$", (ROOT / "docs" / "methods.md").read_text(encoding="utf-8"))
# What they say is typed or looked at, and nothing is worked out from it.
WITHOUT_CALCULATION = {"engine", "lobe-room", "by-eye", "turn-over", "lock-up"}


@pytest.fixture
def demo(demo_shop: Shop) -> list[Job]:
    with demo_shop.read() as session:
        return list(jobs.page(session).jobs)


@pytest.mark.parametrize("station", ORDER.stations, ids=lambda station: station.key)
def test_a_station_is_whole(station: Station) -> None:
    assert station.docs in SECTIONS
    assert bool(station.calculations) != (station.key in WITHOUT_CALCULATION)
    assert set(station.calculations) <= CALCULATIONS.keys()
    assert sum(map(bool, (station.form, station.slots, station.move))) == 1, "a form, readings, or positions to choose"
    if station.slots:
        assert None not in (station.accept, station.describe, station.prompt)
    if station.move:
        assert station.describe_move is not None
        assert station.prompt is None
    for form in station.forms:
        assert form.title
        assert form.fields
    for key in (*station.after, *station.ends):
        assert key in ORDER.by_key
    assert set(station.governed_by) <= ORDER.forms.keys()


@pytest.mark.parametrize("station", ORDER.stations, ids=lambda station: station.key)
def test_a_station_is_read_in_words_and_drawn_before_anything_is_written(station: Station) -> None:
    job = with_forms()
    finding = station.find(job)
    assert finding.sentence
    assert not finding.begun
    figure = station.figure(job, Look())
    if figure is not None:
        assert figure.svg().startswith("<svg")
    for name in (station.panel, station.fields, station.found, station.live):
        if name:
            templates.env.get_template(name)


def test_a_template_that_is_not_there_would_be_noticed() -> None:
    with pytest.raises(TemplateNotFound):
        templates.env.get_template("nowhere/found.html")


@pytest.mark.parametrize("station", ORDER.stations, ids=lambda station: station.key)
def test_the_demo_meets_every_station_and_draws_it(station: Station, demo: list[Job]) -> None:
    met = [
        job
        for job in demo
        if job.standing(station.key)
        or any(isinstance(each, Act) and each.station == station.key and each.to_position for each in job.entries)
        or any(job.latest(form.kind) for form in (station.form, station.setup) if form)
    ]
    assert met
    views = [Look(view) for view in station.views(met[0])] or [Look()]
    for look in views:
        figure = station.figure(met[0], look)
        assert isinstance(figure, Figure)
        assert figure.svg().count("<") > 10


def test_every_calculation_belongs_to_a_station() -> None:
    assert {name for station in ORDER.stations for name in station.calculations} == CALCULATIONS.keys()


def test_no_two_stations_share_a_name_a_form_or_a_page() -> None:
    for names in (
        [station.key for station in ORDER.stations],
        [form.kind for station in ORDER.stations for form in station.forms],
        [name for station in ORDER.stations for name in station.pages] + list(ORDER.by_key),
    ):
        assert len(names) == len(set(names))
    assert ORDER.first.form is ORDER.forms[FIRST_FORM]


def test_a_station_left_out_of_the_order_is_nowhere() -> None:
    fewer = Order([station for station in ORDER.stations if station.key != "backlash"])
    assert "backlash" in ORDER.overview(with_forms())
    assert "backlash" not in fewer.overview(with_forms())
    assert not fewer.has_slot("backlash", "place.1.travel")


def test_the_bench_pages_file_and_commands_name_no_station_in_code() -> None:
    """Beside import-linter: no key of a station as a string either, but where the build sheet and the head need one."""
    keys = {station.key for station in ORDER.stations} - {"engine", "card", "wheel", "degree", "tdc", "train", "choice"}
    for part in ("bench", "web", "shop"):
        for path in (ROOT / "src" / "uranograph" / part).rglob("*.py"):
            if path.name in ("calculations.py", "terms.py"):
                continue  # Calculations and terms have names of their own; some are those of a station.
            said = set(re.findall(r'"([a-z-]+)"', path.read_text(encoding="utf-8")))
            assert not said & keys, path.name
