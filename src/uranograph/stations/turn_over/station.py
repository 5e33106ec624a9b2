"""Turn over by hand."""

from uranograph.bench.finding import Finding
from uranograph.bench.job import Job
from uranograph.bench.station import Station
from uranograph.phase import turning
from uranograph.stations.turn_over import rules as turn_over


class TurnOverStation(Station):
    """Turn over by hand."""

    key = turning.KEY
    title = "Turn over by hand"
    group = "Prove"
    position = 210
    workflows = ("degree", "whole", "change")
    reads_on_when_out = True
    docs = "Turning over by hand"
    slots = (turn_over.TURNED, turning.STOPPED_AT, turning.STOPPED_BY)
    acts = ("cam-moved", "gear-turned", "gear-exchanged", "cam-refitted", "parts-fitted", "parts-removed")
    comes_after = ("degree",)
    answer_words = {
        **dict(turning.TURNING.options),
        **{f"what:{key}": words for key, words in turning.WHATS.options},
    }
    carried_query = ()
    void_reasons = ("pressed the wrong answer", "turned only in part", "something was still in the way")
    started_by_hand = True

    def find(self, job: Job) -> Finding:
        """Judge a job here."""
        return turning.find(job)
