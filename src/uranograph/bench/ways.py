"""Ways through the work: what one came for, and the stations that it takes."""

from collections.abc import Mapping
from dataclasses import dataclass

from uranograph.bench.forms import Filled, Form, FormReader

KIND = "way"


@dataclass(frozen=True)
class Way:
    """What one came for, and the keys of the stations it takes, in working order."""

    key: str
    title: str
    stations: tuple[str, ...]


def way_form(ways: Mapping[str, Way], whole: Way) -> Form[Way]:
    """The form that keeps a job's way.

    Parameters
    ----------
    ways
        Every way by its key.
    whole
        The one that a job takes where nobody said.
    """

    def read(typed: Mapping[str, str], job: object) -> Filled[Way]:
        text = FormReader(typed).text(KIND) or whole.key
        found = ways.get(text)
        return Filled(found, {} if found else {KIND: "Choose what you came for."})

    return Form(KIND, "way", read, names=(KIND,), leads_to="overview", of_make=True, blank={KIND: whole.key})
