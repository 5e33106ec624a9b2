"""Target of the cam other than the card: an offset, a centerline, or the middle of the drive's range."""

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum

from uranograph.bench.fields import Angle, EnumChoice, Fields
from uranograph.bench.forms import Filled, Form, Typed
from uranograph.bench.job import Job
from uranograph.core.quantities import format_angle
from uranograph.engine.cams import card_centerline
from uranograph.phase.messages import say

MAX_DEG = 30.0


class Aim(StrEnum):
    """Kind of target."""

    CARD = "card"
    ADVANCE = "advance"
    CENTERLINE = "centerline"


AIM_WORDS = {
    Aim.CARD: "the card",
    Aim.ADVANCE: "the card, advanced",
    Aim.CENTERLINE: "a centerline",
}


@dataclass(frozen=True)
class Target:
    """Where the cam is wanted. `advance_deg` from the card, crank degrees, earlier positive; centerlines about overlap TDC."""

    aim: Aim = Aim.CARD
    advance_deg: float = 0.0
    intake_deg: float | None = None
    exhaust_deg: float | None = None

    def centerline(self, job: Job, lobe: str) -> float | None:
        """Where a lobe's middle is wanted about overlap TDC, crank degrees; None where neither card nor target says.

        One lobe's centerline alone moves the other as far from its card: both are on one cam, or are moved alike.
        """
        card = card_centerline(job, lobe)
        advance = self.advance(job, lobe)
        own = self.intake_deg if lobe == "intake" else self.exhaust_deg
        if self.aim is Aim.CENTERLINE and own is not None:
            return own
        return None if card is None or advance is None else card - advance

    def advance(self, job: Job, lobe: str) -> float | None:
        """How much earlier than the card a lobe is wanted, crank degrees; None where the card does not say."""
        if self.aim is not Aim.CENTERLINE:
            return self.advance_deg
        for name, wanted in (
            (lobe, self._centerline_of(lobe)),
            *((each, self._centerline_of(each)) for each in ("intake", "exhaust")),
        ):
            card = card_centerline(job, name)
            if wanted is not None and card is not None:
                return card - wanted
        return None

    def _centerline_of(self, lobe: str) -> float | None:
        return self.intake_deg if lobe == "intake" else self.exhaust_deg

    @property
    def words(self) -> str:
        """The target as a phrase.

        Examples
        --------
        >>> Target(Aim.ADVANCE, 2).words, Target(Aim.ADVANCE, -1.5).words, Target(Aim.CENTERLINE, 0, 104, -112).words
        ('2.0 ahead of the card', '1.5 behind the card', 'intake centerline 104.0, exhaust centerline 112.0')
        """
        if self.aim is Aim.ADVANCE:
            return f"{format_angle(abs(self.advance_deg))} {'behind' if self.advance_deg < 0 else 'ahead of'} the card"
        if self.aim is Aim.CENTERLINE:
            both = (("intake", self.intake_deg), ("exhaust", self.exhaust_deg))
            return ", ".join(f"{name} centerline {format_angle(abs(deg))}" for name, deg in both if deg is not None)
        return "the card"


CARD = Target()


class TargetFields(Fields):
    """A target as typed."""

    aim = EnumChoice("aim", "Aim at", Aim, AIM_WORDS.items(), unknown=say("target-missing"), default=Aim.CARD)
    advance_deg = Angle(
        "advance", "Ahead, crank deg", "minus for behind", free=True, least=-MAX_DEG, most=MAX_DEG
    ).optional()
    intake_deg = Angle("intake_centerline", "Intake centerline", "ATDC", least=60, most=160).optional()
    exhaust_deg = Angle("exhaust_centerline", "Exhaust centerline", "BTDC", least=60, most=160).optional()

    def check(self) -> Iterator[tuple[str, str]]:
        if self.aim is Aim.ADVANCE and self.advance_deg is None:
            yield "advance", say("target-advance-missing")
        if self.aim is Aim.CENTERLINE and self.intake_deg is None and self.exhaust_deg is None:
            yield "intake_centerline", say("target-centerline-missing")


def read(typed: Typed) -> Filled[Target]:
    """Read a target as typed.

    Examples
    --------
    >>> read({"aim": "advance", "advance": "-2"}).value.advance_deg, read({"aim": "centerline"}).errors
    (-2.0, {'intake_centerline': 'Type the centerline that is wanted, such as 106.'})
    """
    filled = TargetFields.read(typed)
    found = filled.value
    if found is None:
        return Filled(None, filled.errors)
    if found.aim is Aim.CENTERLINE:
        exhaust = None if found.exhaust_deg is None else -found.exhaust_deg
        return Filled(Target(found.aim, 0.0, found.intake_deg, exhaust))
    return Filled(Target(found.aim, found.advance_deg or 0.0) if found.aim is Aim.ADVANCE else CARD)


FORM = Form(
    "target",
    "target",
    lambda typed, job: read(typed),
    names=TargetFields.names(),
    inputs=tuple(TargetFields.fields()),
    standard=True,
    none_counts=True,
)


def target_of(job: Job) -> Target:
    """Return the job's target; the card by default."""
    return job.form(FORM) or CARD
