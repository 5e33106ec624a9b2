"""Tries: the cam moved to a chosen position, what was predicted, and what re-measuring found."""

import math
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field, replace

from uranograph.bench.acts import CAM_MOVED, POSITION, Act, Move
from uranograph.bench.job import Job
from uranograph.bench.log import Change, Reading, Written
from uranograph.bench.memo import memoized
from uranograph.engine.adjusters import drive_of
from uranograph.engine.cams import KEY, banks, cam_key, cam_of_bank, lobe_of
from uranograph.engine.messages import say

STATION = "adjust"
# Maximum lifts and base circles do not depend on the cam's position.
ANYWHERE = ("peak-", "base-", "asked-")
LOBES_OF = {"both": ("intake", "exhaust"), "intake": ("intake",), "exhaust": ("exhaust",), "": ()}
# Entries that decide which readings belong to a position.
MADE_FROM = {("acts", POSITION), ("written", KEY), ("acts", "phase")}


@dataclass(frozen=True)
class Try:
    """One chosen move: how far, of which cam, and what was moved."""

    number: int
    seq: int
    shift_deg: float
    lobes: tuple[str, ...]
    moves: tuple[Move, ...]
    id: int = 0
    shifts: Mapping[str, float] = field(default_factory=dict)

    def shift_of(self, cam: str) -> float:
        """How far it moved one cam, crank degrees, advance positive; of `both` the way stated."""
        return self.shifts.get(cam, self.shifts.get(cam.replace("-both", "-intake"), self.shift_deg))

    @property
    def words(self) -> str:
        """The adjuster moved, as a phrase."""
        phrase = (move_words(move.name, move.from_, move.to) for move in self.moves)
        return "; ".join(phrase) or "nothing moved"


def move_words(name: str, from_: str, to: str) -> str:
    """The adjuster to move, as a phrase.

    Examples
    --------
    >>> move_words("keyway", "0", "A4"), move_words("pins", "as it is", "1 step advanced")
    ('keyway: 0 to A4', 'pins: by 1 step advanced')
    """
    return f"{name}: by {to}" if from_ == "as it is" else f"{name}: {from_} to {to}"


@memoized
def tries(job: Job) -> tuple[Try, ...]:
    """The standing tries since gears or cam were last disturbed otherwise, oldest first."""
    acts = job.acts("phase")
    since = [one for one in every_try(job) if not any(act.seq > one.seq and _touches(act, one.lobes) for act in acts)]
    return tuple(replace(one, number=n) for n, one in enumerate(since, 1))


def _touches(act: Act, lobes: tuple[str, ...]) -> bool:
    """Whether an act was done to a cam that carries any of these lobes; where it says no cam, it was."""
    cam = act.cam or ""
    return cam in ("", "both") or any(lobe.endswith(own) for lobe in lobes for own in LOBES_OF[cam.rpartition("-")[2]])


@memoized
def every_try(job: Job) -> tuple[Try, ...]:
    """All standing tries of a job, oldest first: adjusters stay where they were left, whatever else was done.

    Of one bank those that moved its cams; of an engine with cams on each bank all of them, each bank's lobes by their own names.
    """
    by_bank = banks(job)
    found: list[Try] = []
    for act in job.acts(POSITION):
        moves, shift = act.moves or (), act.shift_deg or 0.0
        shifts: dict[str, float] = {}
        for own in by_bank:
            lobes = LOBES_OF[cam_of_bank(act.cam or "both", own.bank)]
            known = _by_lobe(own, moves)
            moved = dict.fromkeys(lobes, shift) if known is None else known
            shifts |= moved if job.bank or not own.bank else {cam_key(own, lobe): deg for lobe, deg in moved.items()}
        if shifts or not job.bank:
            found.append(
                Try(len(found) + 1, act.seq, _of_all(shift, shifts, job), tuple(shifts), moves, act.id, shifts)
            )
    return tuple(found)


def _of_all(shift_deg: float, shifts: Mapping[str, float], job: Job) -> float:
    """How far a try moved: as it was written, or as the cams of this bank moved where those of another did otherwise."""
    own = set(shifts.values())
    return own.pop() if job.bank and len(own) == 1 else shift_deg


def _by_lobe(job: Job, moves: tuple[Move, ...]) -> dict[str, float] | None:
    """How far each lobe was moved by the adjusters that were: one that is described as moving both moves both, whatever was said.

    None where an adjuster is not described any more, or nothing was moved.
    """
    described = known.adjusters if (known := drive_of(job)) else ()
    shifts: dict[str, float] = {}
    for move in moves:
        on = next((a.on for n, a in enumerate(described) if a.name == move.name or n == move.adjuster), None)
        if on is None:
            return None
        for lobe in LOBES_OF[on]:
            shifts[lobe] = shifts.get(lobe, 0.0) + move.shift_deg
    return shifts if moves else None


def act_of(cam: str, shift_deg: float, moves: Iterable[Move]) -> Act:
    """The act of moving a cam to a position, as it is written into the log."""
    return Act(station=STATION, kind=CAM_MOVED, cam=cam, shift_deg=shift_deg, moves=tuple(moves))


def at_position(job: Job, number: int | None = None) -> Job:
    """The job with only the degree readings that belong to one position of the cams.

    Parameters
    ----------
    job
        The whole job.
    number
        Tries made before it, from 0; the position now unless given.

    Returns
    -------
    Job
        Readings taken before a lobe was last moved, or after it was moved again, are put aside as `earlier`.
        A view of a job is returned as it is.
    """
    if job.origin is not None:
        return job
    # Without a bank, the first bank answers.
    job = banks(job)[0]
    made = tries(job)
    if number is not None and number >= len(made):
        number = None
    if number is None and not made:
        return job
    if number is None:
        return job.view(("position", None), _belongs(made, math.inf), MADE_FROM, station=KEY)
    return job.view(("position", number), _belongs(made, made[number].seq - 1), MADE_FROM, made[number].seq)


def just_before(job: Job, act: Act | Change) -> Job:
    """The job as it stood when something was done, with only the degree readings of the position that it was in."""
    job = banks(job.full_job)[0]
    belongs = _belongs(every_try(job), act.seq - 1)
    return job.view(("just before", act.seq), lambda reading: reading.seq < act.seq and belongs(reading), MADE_FROM)


def _belongs(made: tuple[Try, ...], until: float) -> Callable[[Written], bool]:
    """Whether a reading is of the position that the cams were in by then, or is not of a position.

    A cam of its own stays in it for as long as it is not moved, whatever the other does.
    """
    moved_at: dict[str, float] = dict.fromkeys(("intake", "exhaust"), 0)
    left_at = dict.fromkeys(("intake", "exhaust"), math.inf)
    for one in made:
        if one.seq <= until:
            moved_at |= dict.fromkeys(one.lobes, one.seq)
        else:
            left_at |= {lobe: min(left_at[lobe], one.seq) for lobe in one.lobes}

    def belongs(entry: Written) -> bool:
        if isinstance(entry, Act) or (isinstance(entry, Reading) and entry.spot.kind.startswith(ANYWHERE)):
            return entry.seq <= until
        lobe = lobe_of(entry.spot.kind) if isinstance(entry, Reading) and entry.station == KEY else ""
        return not lobe or moved_at[lobe] < entry.seq < left_at[lobe]

    return belongs


NEAR_DEG = 0.5


def outcome(shift_deg: float, change_deg: float, uncertainty_deg: float) -> str:
    """Tell how a move turned out against its prediction.

    Parameters
    ----------
    shift_deg
        Predicted, crank degrees, advance positive.
    change_deg
        Measured, the same way.
    uncertainty_deg
        Of the measured change.

    Returns
    -------
    str
        `as-predicted`, `too-small` (no move at all would read the same), `not-moved`, `backward`, `doubled`, `halved`
        or `otherwise`.

    Examples
    --------
    >>> [outcome(4, change, 0.5) for change in (3.8, 8.1, 0.1, -4)], outcome(0.33, 0.1, 0.5)
    (['as-predicted', 'doubled', 'not-moved', 'backward'], 'too-small')
    """
    near = max(uncertainty_deg, NEAR_DEG)
    if abs(change_deg - shift_deg) <= near:
        return "too-small" if abs(change_deg) <= near and abs(shift_deg) <= near else "as-predicted"
    if abs(change_deg) <= uncertainty_deg:
        return "not-moved"
    ratio = change_deg / shift_deg if shift_deg else 0.0
    if ratio < 0:
        return "backward"
    if 1.7 <= ratio <= 2.3:
        return "doubled"
    return "halved" if 0.4 <= ratio <= 0.62 else "otherwise"


def compared(shift_deg: float, change_deg: float, uncertainty_deg: float) -> str:
    """Say in a sentence how a move turned out; the arguments are those of `outcome`.

    Examples
    --------
    >>> compared(4, 3.8, 0.5)
    'It moved 3.8 deg as predicted (4.0).'
    >>> compared(4, 8.1, 0.5)
    'It moved 8.1 deg, twice the 4.0 predicted: these marks are cam degrees.'
    """
    phrase, wanted = f"It moved {abs(change_deg):.1f} deg", f"{abs(shift_deg):.1f}"
    way = "advanced" if change_deg > 0 else "retarded"
    return {
        "as-predicted": f"{phrase} as predicted ({wanted}).",
        "too-small": say("move-below-resolution", phrase=phrase, wanted=wanted, uncertainty_deg=uncertainty_deg),
        "not-moved": say("did-not-move", wanted=wanted),
        "backward": say("moved-the-wrong-way", phrase=phrase, way=way),
        "doubled": say("moved-twice-as-far", phrase=phrase, wanted=wanted),
        "halved": say("moved-half-as-far", phrase=phrase, wanted=wanted),
        "otherwise": say("moved-otherwise", phrase=phrase, wanted=wanted),
    }[outcome(shift_deg, change_deg, uncertainty_deg)]
