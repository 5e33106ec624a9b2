"""Set end play: by shims, by cheeks, or by ring and plate."""

from collections.abc import Mapping

from uranograph.bench.finding import Finding
from uranograph.bench.job import Job
from uranograph.bench.station import Elsewhere, Station
from uranograph.engine import end_play_form
from uranograph.stations.setting import means
from uranograph.stations.setting import rules as setting
from uranograph.stations.setting.messages import say


class SetEndPlayStation(Station):
    """Set end play: by shims, by cheeks, or by ring and plate."""

    key = means.KEY
    title = "Set end play"
    cured_by = "shims-changed"
    group = "Fit"
    position = 80
    workflows = ("play", "whole")
    docs = "Shims"
    calculations = ("shims",)
    setup = means.SETUP
    slots = (setting.SHIMS, setting.THICKNESS, setting.CHEEK)
    acts_by_view = True
    acts = ("shims-changed", "cheek-sanded", "parts-fitted", "parts-removed")
    comes_after = ("end-play",)
    uses_shop_limits = True

    def in_passes(self, job: Job) -> bool:
        """Whether a thrust face is being sanded that has some way to go."""
        return any(setting.short_of_goal(job, part) for part in setting.views(job))

    def elsewhere(self, job: Job, finding: Finding, query: Mapping[str, str]) -> Elsewhere | None:
        """The play is measured at its own station."""
        if finding.code in ("changed-not-proved", "read-it-first", "parts-first"):
            return Elsewhere(finding.next_step, say("end-play-title"), end_play_form.KEY)
        return None
