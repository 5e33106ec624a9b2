"""End play: how far a shaft moves along."""

from uranograph.bench.job import Job
from uranograph.bench.station import Station
from uranograph.engine import end_play, end_play_form


class EndPlayStation(Station):
    """End play: how far a shaft moves along."""

    key = end_play_form.KEY
    title = "End play"
    set_ups = ("dial-on-shaft-end",)
    group = "Fit"
    position = 70
    workflows = ("play", "whole")
    rows_on_sheet = True
    after_passes_at = "setting"
    reads_on_when_out = True
    docs = "End play"
    calculations = ("end-play", "hot-play")
    setup = end_play_form.SETUP
    slots = (end_play.PLAY, end_play.FITTED_AS)
    rocked = ((end_play.PLAY, "travel"),)
    acts_by_view = True
    acts = ("shims-changed", "cheek-sanded", "parts-fitted", "parts-removed")
    answer_words = dict(end_play.FITTED)

    def views(self, job: Job) -> dict[str, str]:
        """Ways of looking at it."""
        return end_play.views(job)
