"""Engine: what all else is told from."""

from uranograph.bench.job import Job
from uranograph.bench.station import Station
from uranograph.engine import description
from uranograph.stations import ways
from uranograph.stations.engine import limits
from uranograph.stations.engine import rules as engine
from uranograph.stations.engine.drawing import figure, preview
from uranograph.stations.engine.help import HELP


def _facts(job: Job) -> tuple[str, ...]:
    described = description.engine_of(job)
    return (described.words, f"turns {described.rotation} from the front") if described else ()


STATION = Station(
    key="engine",
    title="Engine",
    group="Receive",
    find=engine.find,
    help=HELP,
    docs="Companion cylinders",
    form=description.FORM,
    beside=(ways.FORM, limits.FORM),
    figure=figure,
    preview=preview,
    facts=_facts,
    printed=lambda job: {"engine": description.engine_of(job)},
    fields="engine/fields.html",
    live="engine/live.html",
    skippable=False,
)
