"""Diagnosis: a reported deviation between crank and cam, whole teeth or not, and a claim checked. Needs no job."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.job import Job
from uranograph.bench.station import Page
from uranograph.charts.tooth_slip import slip_figure
from uranograph.charts.two_arcs import two_arcs
from uranograph.core.quantities import LengthUnit
from uranograph.stations.diagnosis import rules as diagnosis

# Shown before anything is typed.
ONE_TOOTH_DEG = 360 / 24


def _context(job: Job, asked: Mapping[str, str]) -> Mapping[str, Any]:
    typed = {name: asked.get(name, "")[:64] for name in diagnosis.Report.names()}
    anything = any(typed.values())
    filled = diagnosis.read(typed)
    found, figure = filled.value, None
    if found and found.slip:
        figure = slip_figure(found.offset_deg, found.slip.per_tooth_deg, found.tolerance_deg, "Whole teeth?")
    elif not anything:
        figure = two_arcs(ONE_TOOTH_DEG, "One tooth of a crank gear with 24")
    elif offset := diagnosis.Report.partial(typed, LengthUnit.MM)[0].values["offset"]:
        figure = two_arcs(offset, "The deviation, at crank and cam")
    return {
        "fields": diagnosis.Report,
        "typed": typed,
        "errors": filled.errors if anything else {},
        "found": found,
        "figure": figure,
        "asked": anything,
    }


def _data(job: Job, asked: Mapping[str, str]) -> Mapping[str, Any]:
    filled = diagnosis.read({name: asked.get(name, "")[:64] for name in diagnosis.Report.names()})
    if filled.value is None:
        return {"errors": filled.errors}
    found = filled.value
    slip = found.slip.model_dump(mode="json") if found.slip else None
    words = {"title": found.title, "sentence": found.sentence, "explanations": found.explanations, "claim": found.claim}
    return {"slip": slip, **words}


PAGE = Page("diagnosis/found.html", _context, "diagnosis/page.html", _data)
