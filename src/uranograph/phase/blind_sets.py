"""Blind drives: a gear without marks whose hole sets are tried one by one at the card's opening point."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from uranograph.bench.finding import Prompt
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.memo import memoized
from uranograph.bench.slots import Slot, in_mm
from uranograph.core.adjust import HoleSets
from uranograph.core.errors import InvalidInput, Missing
from uranograph.core.quantities import parse_length
from uranograph.core.verdict import Verdict, judge
from uranograph.engine import gear_train
from uranograph.engine.adjusters import drive_of
from uranograph.engine.card import card_of
from uranograph.phase.basis import rules_of
from uranograph.phase.events import NOMINAL_SLOPE_DOUBT, slope_at_check
from uranograph.phase.marks_messages import say

STATION = "marks"
AGAIN = "again"
TRIED = Slot[str](STATION, ("set-#",), ("tried",), rests_on=("mesh",))
# By eye: how a set of holes stands, and about how far off that is, mm; minus where the gear's holes lag.
BY_EYE = {"fits": 0.0, "nearly-leads": 0.2, "nearly-lags": -0.2, "leads": 1.0, "lags": -1.0}
EYE_WORDS = (
    ("fits", "it fits"),
    ("nearly-lags", "nearly; it lags"),
    ("nearly-leads", "nearly; it leads"),
    ("lags", "off; it lags"),
    ("leads", "off; it leads"),
)
AGAIN_LIFT = Slot(STATION, (AGAIN,), ("lift",), in_mm, rests_on=("mesh",))


@dataclass(frozen=True)
class Sets:
    """How each set lined up: misfit in mm, signed; the best by size, and whether its neighbors bear it out."""

    count: int
    misfit_mm: dict[int, float]
    best: int | None
    second: int | None
    symmetric: bool
    by_eye: Mapping[int, str] = field(default_factory=dict)

    @property
    def untried(self) -> list[int]:
        return [number for number in range(1, self.count + 1) if number not in self.misfit_mm]


def misfit_mm(reading: Entry) -> float:
    """How far off a set was: as measured, or about as the eye said, mm."""
    by_eye = BY_EYE.get(reading.text)
    return reading.mm if by_eye is None else by_eye


def shift_of(job: Job, number: int) -> float | None:
    """Crank degrees by which a set moves the cam against the first, spread over one tooth of the cam's gear."""
    drive_train, sets = gear_train.described(job), count_of(job)
    if drive_train is None or sets is None:
        return None
    return (number - 1) * 720 / drive_train.cam.teeth / sets


def next_set(found: Sets) -> int:
    """The set to try next: the one whose neighbors tell that it is nearest, or else the first not tried."""
    return min(found.untried, key=lambda number: (_expected(found, number), number))


def _expected(found: Sets, number: int) -> float:
    """How far off a set is to be expected, between the tried ones on either side of it; far where nothing is known."""
    before = next((n for n in range(number - 1, 0, -1) if n in found.misfit_mm), None)
    after = next((n for n in range(number + 1, found.count + 1) if n in found.misfit_mm), None)
    if before is None or after is None:
        near = before or after
        return 1e3 if near is None else 1e2 + abs(found.misfit_mm[near])
    one, other = found.misfit_mm[before], found.misfit_mm[after]
    return abs(one + (other - one) * (number - before) / (after - before))


def count_of(job: Job) -> int | None:
    """How many sets of holes there are: from the train's form, or from the adjusters."""
    drive_train = gear_train.described(job)
    if drive_train and drive_train.ends.hole_sets:
        return drive_train.ends.hole_sets
    for each in drive.adjusters if (drive := drive_of(job)) else ():
        if isinstance(each.adjuster, HoleSets):
            return each.adjuster.sets
    return None


def _of_kind(job: Job, kind: str) -> list[Reading]:
    return (AGAIN_LIFT if kind == AGAIN else TRIED).taken(job, kind)


@memoized
def tried(job: Job) -> Sets | None:
    """Reading at each set of holes."""
    count = count_of(job)
    if count is None:
        return None
    misfit, by_eye = {}, {}
    for number in range(1, count + 1):
        taken = _of_kind(job, f"set-{number}")
        if taken:
            misfit[number] = misfit_mm(taken[-1])
        if taken and taken[-1].text in BY_EYE:
            by_eye[number] = dict(EYE_WORDS)[taken[-1].text]
    ranked = sorted(misfit, key=lambda number: abs(misfit[number]))
    best = ranked[0] if ranked else None
    second = ranked[1] if len(ranked) > 1 else None
    symmetric = False
    if best is not None and count >= 3 and len(misfit) == count:
        before, after = misfit[(best - 2) % count + 1], misfit[best % count + 1]
        symmetric = before * after < 0 and abs(before + after) < max(abs(before), abs(after)) * 0.5
    elif len(misfit) == count == 2:
        symmetric = True
    return Sets(count, misfit, best, second, symmetric, by_eye)


def prompt(job: Job, by_eye: bool = False) -> Prompt | None:
    """Ask for each set in turn, then for the lift read again after two turns; None where there are no sets."""
    tried_sets = tried(job)
    if tried_sets is None:
        return None
    if tried_sets.untried:
        number, shift = next_set(tried_sets), shift_of(job, next_set(tried_sets))
        card = card_of(job)
        opening = card.events.io_btdc_deg if card and card.events else None
        at = say("card-intake-opening", opening_deg=opening) if opening is not None else "the card's IO"
        return Prompt(
            slot=TRIED.next(job, f"set-{number}"),
            label=say("hole-set-label", number=number, count=tried_sets.count)
            + ("" if shift is None else say("hole-set-shift", shift_deg=shift)),
            instruction=say("try-hole-set", at=at, number=number),
            hint=say("one-set-fits") if by_eye else say("hole-set-hint"),
            options=EYE_WORDS if by_eye else (),
            unit=job.unit.value,
            extra={"method": "blind-eye" if by_eye else "blind"},
        )
    return Prompt(
        slot=AGAIN_LIFT.next(job, AGAIN),
        label=say("intake-lift-after-two-turns"),
        instruction=say("read-lift-after-two-turns"),
        hint=say("moved-base-looks-like-slip"),
        unit=job.unit.value,
        extra={"method": "blind"},
    )


def accept(job: Job, entry: Entry) -> None:
    """Refuse a set that is not there or a misfit that cannot be.

    Raises
    ------
    InvalidInput
        With `text` at fault.
    """
    kind = entry.spot.kind
    value = misfit_mm(entry)
    if kind == AGAIN:
        if not 0 <= value <= 25:
            raise InvalidInput("text", "not-a-lifter-height", typed=entry.text)
        return
    count = count_of(job)
    if count is None or int(kind.removeprefix("set-")) > count:
        raise InvalidInput("text", "no-such-hole-set")
    if abs(value) > 20:
        raise InvalidInput("text", "more-than-a-tooth", typed=entry.text)


def again_deg(job: Job) -> float | None:
    """Crank degrees by which the lift read after two turns differs from the checking lift; late positive."""
    taken = _of_kind(job, AGAIN)
    check = card.check_lift_mm if (card := card_of(job)) else None
    slope = slope_at_check(job, "io")
    if not taken or check is None or not slope:
        return None
    return (check - parse_length(taken[-1].text, taken[-1].unit)) / slope


def summary(job: Job, tried_sets: Sets) -> tuple[str, str]:
    """State and words of what the sets say."""
    if tried_sets.untried:
        left = ", ".join(str(number) for number in tried_sets.untried)
        if not tried_sets.misfit_mm:
            return "not-begun", say("no-set-tried", count=tried_sets.count)
        return (
            "under-way",
            say("sets-still-to-try", count=len(tried_sets.misfit_mm), count_2=tried_sets.count, left=left),
        )
    if tried_sets.best is None:
        raise Missing("tried_sets.best")
    best = tried_sets.misfit_mm[tried_sets.best]
    seen = tried_sets.by_eye.get(tried_sets.best)
    if seen is None:
        words = say("set-fits-best", job.unit, best=tried_sets.best, best_mm=abs(best))
    else:
        words = say("set-fits-best-by-eye", best=tried_sets.best, seen=seen)
    if tried_sets.second is not None and abs(tried_sets.misfit_mm[tried_sets.second]) - abs(best) < 0.05:
        return (
            "unsure",
            say("sets-equally-good", best=tried_sets.best, second=tried_sets.second),
        )
    if not tried_sets.symmetric:
        return "unsure", say("neighbors-unlike", words=words)
    off = again_deg(job)
    if off is None:
        return "under-way", say("neighbors-alike", words=words)
    if (
        judge(off, abs(off) * NOMINAL_SLOPE_DOUBT, -rules_of(job).tolerance_deg, rules_of(job).tolerance_deg)
        is not Verdict.IN
    ):
        way = "late" if off > 0 else "early"
        return (
            "unsure",
            say("lift-differs-after-turns", words=words, off_deg=abs(off), way=way),
        )
    return (
        "in",
        say("lift-back-after-turns", words=words, off_deg=abs(off)),
    )
