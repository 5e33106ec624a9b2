"""Workflows: what one comes to the bench for. Each station says in which it takes part."""

from collections.abc import Mapping
from dataclasses import dataclass

from uranograph.bench.forms import Filled, Form, FormReader

# The form's name in the log.
KIND = "way"


@dataclass(frozen=True)
class Workflow:
    """A kind of job."""

    key: str
    title: str


WHOLE = Workflow("whole", "The whole build")
WORKFLOWS = {
    each.key: each
    for each in (
        Workflow("degree", "Degree a cam"),
        Workflow("marks", "Align marks"),
        Workflow("gear", "Fit a gear"),
        Workflow("play", "Measure play and backlash"),
        WHOLE,
        Workflow("change", "Plan a cam change"),
        Workflow("wrong", "Find out what is wrong"),
    )
}


def _read(typed: Mapping[str, str], job: object) -> Filled[Workflow]:
    found = WORKFLOWS.get(FormReader(typed).text(KIND) or WHOLE.key)
    return Filled(found, {} if found else {KIND: "Choose what you are doing."})


FORM = Form(KIND, "job type", _read, names=(KIND,), leads_to="overview", of_make=True, blank={KIND: WHOLE.key})
