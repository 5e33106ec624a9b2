"""Lock-up: what was loosened on the way is closed."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.finding import Finding
from uranograph.bench.job import Job
from uranograph.bench.station import Elsewhere, Station, ViewState
from uranograph.stations.lock_up import rules as lock_up
from uranograph.stations.lock_up.messages import say


class LockUpStation(Station):
    """Lock-up: what was loosened on the way is closed."""

    key = lock_up.KEY
    title = "Lock-up"
    group = "Close"
    position = 230
    workflows = ("degree", "whole", "change")
    docs = "Lock-up"
    slots = lock_up.SLOTS
    comes_after = ("degree", "turn-over")
    answer_words = dict(lock_up.HOW_TIGHT)
    details_template = "_checklist.html"
    carried_query = ()
    blocks_signing = True
    void_reasons = ("pressed the wrong answer", "not done after all")
    started_by_hand = True
    details_title = "All that is closed"

    def elsewhere(self, job: Job, finding: Finding, query: Mapping[str, str]) -> Elsewhere | None:
        """Where it is turned over, or the proof is read."""
        if finding.code == "turn-first":
            return Elsewhere(say("turn-it-over"), say("at-turn-over"), "turn-over")
        if finding.code == "prove-first":
            return Elsewhere(say("read-stop-and-first-again"), say("at-degree"), "degree")
        return None

    def page_context(self, job: Job, view_state: ViewState) -> Mapping[str, Any]:
        """Context for the station's templates."""
        return {"answers": lock_up.answered(job)}
