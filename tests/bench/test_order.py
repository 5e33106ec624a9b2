"""Every station is whole: what the bench, the pages, the file, the docs and the demo need of it."""

import inspect
import re
from pathlib import Path

import pytest
from jinja2 import TemplateNotFound

from tests.hands import with_forms
from uranograph.bench.acts import Act
from uranograph.bench.calculations import CALCULATIONS
from uranograph.bench.job import FIRST_FORM, Job
from uranograph.bench.order import Order
from uranograph.bench.station import HOOKS, TEMPLATES, Station, ViewState
from uranograph.charts.pen import Figure
from uranograph.shop import loading as jobs
from uranograph.shop.database import Shop
from uranograph.stations import ORDER
from uranograph.web.pages import templates

ROOT = Path(__file__).parents[2]
SECTIONS = re.findall(r"(?m)^## (.+)$", (ROOT / "docs" / "methods.md").read_text(encoding="utf-8"))
# What they say is typed or looked at, and nothing is worked out from it.
WITHOUT_CALCULATION = {"engine", "lobe-room", "every-valve", "by-eye", "turn-over", "lock-up"}


@pytest.fixture
def demo(demo_shop: Shop) -> list[Job]:
    with demo_shop.read() as session:
        return list(jobs.page(session).jobs)


@pytest.mark.parametrize("station", ORDER.stations, ids=lambda station: station.key)
def test_a_station_is_whole(station: Station) -> None:
    assert station.docs in SECTIONS
    assert bool(station.calculations) != (station.key in WITHOUT_CALCULATION)
    assert set(station.calculations) <= CALCULATIONS.keys()
    assert [bool(station.form), bool(station.slots), station.has("move")].count(True) == 1, (
        "form, readings, or positions"
    )
    assert station.has("find")
    assert all(station.has(hook) == bool(station.slots) for hook in ("accept", "describe", "prompt"))
    assert station.has("describe_move") == station.has("move")
    for form in station.forms:
        assert form.title
        assert form.fields
    for key in (*station.comes_after, *station.invalidates):
        assert key in ORDER.by_key
    assert set(station.governed_by) <= ORDER.forms.keys()


@pytest.mark.parametrize("station", ORDER.stations, ids=lambda station: station.key)
def test_a_station_is_read_in_words_and_drawn_before_anything_is_written(station: Station) -> None:
    job = with_forms()
    finding = station.find(job)
    assert finding.sentence
    assert not finding.begun
    figure = station.figure(job, ViewState())
    if figure is not None:
        assert figure.svg().startswith("<svg")
    for name in TEMPLATES:
        if template := getattr(station, f"{name}_template"):
            templates.env.get_template(template)


@pytest.mark.parametrize("station", ORDER.stations, ids=lambda station: station.key)
def test_what_a_folder_provides_is_called_as_the_base_class_says(station: Station) -> None:
    for hook in HOOKS:
        wanted = len(inspect.signature(getattr(Station, hook)).parameters) - 1
        assert len(inspect.signature(getattr(station, hook)).parameters) == wanted, f"{station.key}, {hook}"


def test_every_file_of_a_station_has_a_name_that_says_what_it_is() -> None:
    for folder in (ROOT / "src" / "uranograph" / "stations").iterdir():
        if not (folder / "station.py").is_file():
            continue
        names = {path.name for path in folder.iterdir() if path.suffix in (".py", ".md")}
        assert names >= {"station.py", "drawing.py", "messages.py", "help.md"}, folder.name
        own = {path.stem for path in folder.glob("*.html")} & set(TEMPLATES)
        station = next(each for each in ORDER.stations if type(each).__module__.split(".")[2] == folder.name)
        assert all(getattr(station, f"{name}_template") == f"{folder.name}/{name}.html" for name in own)


def test_a_template_that_is_not_there_would_be_noticed() -> None:
    with pytest.raises(TemplateNotFound):
        templates.env.get_template("nowhere/found.html")


@pytest.mark.parametrize("station", ORDER.stations, ids=lambda station: station.key)
def test_the_demo_meets_every_station_and_draws_it(station: Station, demo: list[Job]) -> None:
    met = [
        job
        for job in demo
        if job.active_readings(station.key)
        or any(isinstance(each, Act) and each.station == station.key and each.to_position for each in job.entries)
        or any(job.latest(form.kind) for form in (station.form, station.setup) if form)
    ]
    assert met
    views = [ViewState(view) for view in station.views(met[0])] or [ViewState()]
    for view_state in views:
        figure = station.figure(met[0], view_state)
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
            if path.name in ("calculations.py", "terms.py", "workflows.py"):
                continue  # These have names of their own; some are those of a station.
            said = set(re.findall(r'"([a-z-]+)"', path.read_text(encoding="utf-8")))
            assert not said & keys, path.name
