"""A station is its folder: one written as CONTRIBUTING.md says is found, asked, judged and drawn, and nothing else names it."""

import re
import sys
from pathlib import Path

import pytest

import uranograph.stations
from tests.hands import with_forms
from uranograph.bench.finding import Verdict
from uranograph.bench.log import Entry
from uranograph.bench.order import Order
from uranograph.bench.station import ViewState
from uranograph.stations import ORDER, found_stations

GUIDE = (Path(__file__).parents[2] / "CONTRIBUTING.md").read_text(encoding="utf-8")
RULES = '''
"""Judges every bore by the shop's limit."""

from uranograph.bench.finding import Finding, Prompt, Verdict
from uranograph.stations.tappet_bores.messages import FINDINGS


def prompt(job, query):
    return Prompt("bore-1.1.clearance", "Clearance", "Measure bore 1.")


def accept(job, entry):
    pass


def describe(reading):
    return "bore"


def find(job):
    return Finding(Verdict.OPEN).judged(Verdict.OPEN, FINDINGS, "nothing-read", begun=False)
'''
MESSAGES = '''
"""Messages about tappet bores."""

from uranograph.bench.finding import FindingMessage

FINDINGS = {"nothing-read": FindingMessage("No bore is measured yet.", next_step="Measure the bores.")}
'''
DRAWING = '''
"""Draws the bores."""

from uranograph.charts.pen import Pen


def figure(job, view_state):
    return Pen().figure(742, 630, "Bores.", "bores")
'''
HELP = "# Tappet bores\n\nFind worn bores.\n\n## In the hand\n\n- a gauge\n\n## Steps\n\n" + "".join(
    f"{n}. Do it.\n" for n in range(1, 6)
)
HELP += "\n## What goes wrong\n\n- **Dirt**: Clean it.\n\n## Why\n\nWear.\n"


def station_of_the_guide() -> str:
    """The code of station.py as the guide has it."""
    block = GUIDE.split("`stations/tappet_bores/station.py`")[1].split("`stations/tappet_bores/rules.py`")[0]
    return "\n".join(re.sub("^    ", "", line) for line in block.splitlines() if line.startswith("    ") or not line)


def test_a_folder_is_all_that_a_station_needs(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    folder = tmp_path / "tappet_bores"
    folder.mkdir()
    for name, text in (
        ("__init__.py", ""),
        ("station.py", station_of_the_guide()),
        ("rules.py", RULES),
        ("messages.py", MESSAGES),
        ("drawing.py", DRAWING),
        ("help.md", HELP),
        ("details.html", "bores"),
    ):
        (folder / name).write_text(text, encoding="utf-8")
    monkeypatch.setattr(uranograph.stations, "__path__", [*uranograph.stations.__path__, str(tmp_path)])
    try:
        stations, pages = found_stations()
        order = Order(stations, pages, ORDER.workflows, ORDER.workflow_form)
        new, job = order.by_key["tappet-bores"], with_forms()
        assert order.stations.index(new) == order.stations.index(order.by_key["lobe-room"]) + 1
        assert order.overview(job)["tappet-bores"].verdict is Verdict.OPEN
        asked = new.prompt(job, {})
        assert asked is not None
        assert new.has_slot(asked.slot)
        new.accept(job, Entry(new.key, asked.slot, "0.02"))
        figure = new.figure(job, ViewState())
        assert figure is not None
        assert figure.svg().startswith("<svg")
        assert (new.details_template, new.panel_template) == ("tappet_bores/details.html", "_reading_panel.html")
        assert new.help.purpose == "Find worn bores."
    finally:
        for name in [each for each in sys.modules if each.startswith("uranograph.stations.tappet_bores")]:
            del sys.modules[name]
