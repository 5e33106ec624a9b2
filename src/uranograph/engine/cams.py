"""The cams of an engine and their lobes, by bank where each bank has its own."""

from uranograph.bench.job import Job
from uranograph.engine.card import card_of
from uranograph.engine.description import engine_of

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
