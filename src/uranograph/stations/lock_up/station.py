"""Lock-up: what was loosened on the way is closed."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.job import Job
from uranograph.bench.station import Look, Station
from uranograph.stations.lock_up import rules as lock_up
from uranograph.stations.lock_up.drawing import figure
from uranograph.stations.lock_up.help import HELP
from uranograph.stations.lock_up.messages import REFUSALS


def _shown(job: Job, look: Look) -> Mapping[str, Any]:
    return {"answers": lock_up.answered(job)}


STATION = Station(
    key=lock_up.KEY,
    refusals=REFUSALS,
    title="Lock-up",
    group="Close",
    find=lock_up.find,
    help=HELP,
    docs="Lock-up",
    slots=lock_up.SLOTS,
    after=("degree", "turn-over"),
    prompt=lock_up.prompt,
    accept=lock_up.accept,
    answer_words=dict(lock_up.HOW_TIGHT),
    describe=lock_up.describe,
    figure=figure,
    shown=_shown,
    found="_checklist.html",
    goes_on_with=(),
    must_close=True,
    void_reasons=("pressed the wrong answer", "not done after all"),
    by_hand=True,
)
