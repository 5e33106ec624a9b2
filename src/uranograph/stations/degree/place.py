"""What the ways of degreeing share: where a reading stands on the true crank, and what makes it doubtful."""

from uranograph.bench.job import Job, Reading
from uranograph.core.wheel import as_read
from uranograph.stations.card.station import card_of
from uranograph.stations.degree.words import say
from uranograph.stations.true_tdc.stated import offset_deg
from uranograph.stations.true_tdc.station import frame_at
from uranograph.stations.wheel.station import crank_angle, wheel_of

KEY = "degree"
LOBES = ("intake", "exhaust")
RESTS_ON = ("phase", "lash")
USUAL_CENTERLINE_DEG = {"intake": 110.0, "exhaust": -112.0}


def card_centerline(job: Job, lobe: str) -> float | None:
    """The card's middle of a lobe about overlap TDC, where it gives one."""
    card = card_of(job)
    return None if card is None else card.middle_deg(lobe)


def true_angle(job: Job, reading: Reading) -> float:
    """A wheel reading as a crank angle from the true top of the cylinder read, by the frame it was taken in."""
    frame = frame_at(job, reading.seq)
    assert frame is not None
    zero = frame.top.zero_error_deg if frame.top else 0.0
    return crank_angle(frame.mounted, reading.text, reading.side) - zero - offset_deg(job.whole)


def place_doubts(job: Job, reading: Reading, name: str, slack_deg: float | None = None) -> list[str]:
    """Why a reading cannot be trusted, told with what to read again, and how far slack of the drive would put it off."""
    sentences: list[str] = []
    frame = frame_at(job, reading.seq)
    if frame is None or frame.top is None:
        sentences.append(say("true-tdc-not-found-2", name=name))
    elif frame.top.doubts:
        sentences.append(say("tdc-readings-contradict-each"))
    if reading.approach != "forward":
        off = "" if slack_deg is None else say("drive-s-slack-about", slack_deg=slack_deg)
        sentences.append(say("approached-backward-re-read", name=name[0].upper(), name_2=name[1:], off=off))
    return sentences


def likely_side(job: Job, true_deg: float) -> str | None:
    """The side of the wheel on which a crank angle is to be expected."""
    mounted = wheel_of(job)
    assert mounted is not None
    side = as_read(mounted.wheel, true_deg + offset_deg(job.whole))[1]
    return side.value if side else None
