"""What the ways of degreeing share: where a reading stands on the true crank, and what makes it doubtful."""

from uranograph.bench.job import Job
from uranograph.bench.log import Reading
from uranograph.core.wheel import as_read
from uranograph.stations.card.station import card_of
from uranograph.stations.degree.words import say
from uranograph.stations.engine.station import engine_of
from uranograph.stations.true_tdc.stated import offset_deg
from uranograph.stations.true_tdc.station import frame_at
from uranograph.stations.wheel.station import crank_angle, wheel_of

KEY = "degree"
LOBES = ("intake", "exhaust")
RESTS_ON = ("phase", "lash")
USUAL_CENTERLINE_DEG = {"intake": 110.0, "exhaust": -112.0}


def lobe_of(kind: str) -> str:
    """The lobe that a kind of reading is of.

    Examples
    --------
    >>> [lobe_of(kind) for kind in ("io", "sweep-exhaust", "intake", "bank2-ec")]
    ['intake', 'exhaust', 'intake', 'exhaust']
    """
    own = kind.rpartition("-")[2]
    return {"i": "intake", "e": "exhaust"}.get(own[:1], "") if own in ("io", "ic", "eo", "ec", *LOBES) else ""


def banks(job: Job) -> tuple[Job, ...]:
    """The job of each bank where each has cams of its own, else the job itself; that of one bank is already so."""
    engine = engine_of(job)
    if engine is None or engine.banks == 1 or job.bank or job.origin is not None:
        return (job,)
    return tuple(job.of_bank(bank) for bank in range(1, engine.banks + 1))


def cam_key(job: Job, cam: str) -> str:
    """A cam as the whole engine calls it: with its bank in front where each bank has its own.

    Examples
    --------
    >>> cam_key(Job("k", "t"), "intake"), cam_key(Job("k", "t", bank=2), "both")
    ('intake', 'bank2-both')
    """
    return f"bank{job.bank}-{cam}" if job.bank else cam


def key_in(job: Job, own: Job, cam: str) -> str:
    """A cam of one of a job's banks as that job calls it."""
    return cam if own is job else cam_key(own, cam)


def cam_of_bank(cam: str, bank: int) -> str:
    """A cam of the whole engine as one bank calls it; empty where it is another bank's.

    Examples
    --------
    >>> cam_of_bank("bank2-intake", 2), cam_of_bank("both", 2), cam_of_bank("bank1-both", 2), cam_of_bank("intake", 0)
    ('intake', 'both', '', 'intake')
    """
    of, dash, own = cam.partition("-")
    if not bank or not dash:
        return cam
    return own if of == f"bank{bank}" else ""


def cam_words(cam: str) -> str:
    """A cam in words, within a sentence.

    Examples
    --------
    >>> [cam_words(cam) for cam in ("both", "intake", "bank1-both", "bank2-exhaust")]
    ['cam', 'intake cam', 'cam of bank 1', 'exhaust cam of bank 2']
    """
    of, dash, own = cam.partition("-")
    words = "cam" if (own or cam) == "both" else f"{own or cam} cam"
    return f"{words} of bank {of.removeprefix('bank')}" if dash else words


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
