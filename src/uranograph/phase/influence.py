"""How far each reading pulls the verdict."""

from dataclasses import dataclass

from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.engine import positions
from uranograph.phase import judgment, observations, weighed
from uranograph.phase.messages import say

# A reading off by more than this many of its standard deviations is an outlier.
OFF_SHARE = 3.0


@dataclass(frozen=True)
class Influence:
    """One reading on the wheel: how far it is off what all others say, crank degrees later positive, one standard deviation
    of that, and how far it pulls the cam."""

    words: str
    off_deg: float
    sd_deg: float
    pulls_deg: float

    @property
    def is_outlier(self) -> bool:
        return abs(self.off_deg) > OFF_SHARE * self.sd_deg


@memoized
def leave_one_out_influence(job: Job) -> tuple[Influence, ...]:
    """Influence of each wheel reading, in the order taken."""
    view = positions.at_position(job)
    found, weighing, cams = observations.gathered(view), weighed.weighed(view), judgment.judged(view)
    if found is None or weighing is None or not cams or cams[0].within is None:
        return ()
    lobes = tuple(result.lobe for result in cams[0].lobes)
    by_seq = {reading.seq: reading for reading in job.full_job.readings}
    told = []
    for seen, (off, sd, pulled) in zip(found.readings, weighing.model.pulls(cams[0].cam, lobes), strict=True):
        reading = by_seq.get(seen.seq)
        if reading is None or not seen.on_wheel or seen.own_deg is not None:
            continue
        side = f" {reading.side.upper()}" if reading.side else ""
        words = say("stop-by-name") if seen.kind == "stop" else f"{reading.spot.kind.upper()} {reading.text}{side}"
        if seen.kind == "lift":
            words = f"{reading.spot.kind} {reading.text}{side}"
        told.append(Influence(words, off, sd, pulled))
    return tuple(told)
