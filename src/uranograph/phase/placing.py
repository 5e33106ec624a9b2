"""Shared by the degreeing methods: true crank angle of a reading, and its doubts."""

from uranograph.bench.job import Job
from uranograph.bench.log import Reading
from uranograph.core.errors import Missing
from uranograph.core.wheel import as_read
from uranograph.engine.degree_wheel import crank_angle, wheel_of
from uranograph.engine.stated_tdc import offset_deg
from uranograph.engine.tdc import frame_at
from uranograph.phase.messages import say


def true_angle(job: Job, reading: Reading) -> float:
    """A wheel reading as a crank angle from the true top of the cylinder read, by the frame it was taken in."""
    frame = frame_at(job, reading.seq)
    if frame is None:
        raise Missing("frame")
    zero = frame.top.zero_error_deg if frame.top else 0.0
    return crank_angle(frame.mounted, reading.text, reading.side) - zero - offset_deg(job.full_job)


def place_doubts(job: Job, reading: Reading, name: str, slack_deg: float | None = None) -> list[str]:
    """Why a reading cannot be trusted, what to read again, and the error that drive slack would cause."""
    sentences: list[str] = []
    frame = frame_at(job, reading.seq)
    if frame is None or frame.top is None:
        sentences.append(say("tdc-missing-for-reading", name=name))
    elif frame.top.doubts:
        sentences.append(say("tdc-readings-contradict"))
    if reading.approach != "forward":
        off = "" if slack_deg is None else say("slack-puts-it-off", slack_deg=slack_deg)
        sentences.append(say("approached-backward", name=name[0].upper(), name_2=name[1:], off=off))
    return sentences


def likely_side(job: Job, true_deg: float) -> str | None:
    """The side of the wheel on which a crank angle is to be expected."""
    mounted = wheel_of(job)
    if mounted is None:
        raise Missing("mounted")
    side = as_read(mounted.wheel, true_deg + offset_deg(job.full_job))[1]
    return side.value if side else None
