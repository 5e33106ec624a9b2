"""Degree by events at the checking lift; an event read from both sides measures the drive's slack."""

from collections.abc import Mapping
from dataclasses import dataclass
from statistics import fmean

from uranograph.bench.finding import Prompt
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.memo import memoized
from uranograph.bench.slots import Slot, slot_of
from uranograph.core.angles import near
from uranograph.core.errors import InvalidInput, Missing
from uranograph.core.lobe import lift_at
from uranograph.core.phase import Events
from uranograph.core.quantities import format_length
from uranograph.core.uncertainty import APPROACH_DEG, CENTERING_DEG, expanded
from uranograph.engine.cams import KEY, RESTS_ON, lobe_of
from uranograph.engine.card import card_of
from uranograph.engine.degree_wheel import crank_angle, wheel_of
from uranograph.engine.tdc import check_reader, frame_at
from uranograph.phase.basis import deciding_lobes
from uranograph.phase.messages import say
from uranograph.phase.placing import likely_side, place_doubts, true_angle

KINDS = ("io", "ic", "eo", "ec")
EVENT = Slot[str](KEY, KINDS, ("forward", "backward"), rests_on=RESTS_ON, by_bank=True, lobe_of=lobe_of)
FIELD = {"io": "io_btdc_deg", "ic": "ic_abdc_deg", "eo": "eo_bbdc_deg", "ec": "ec_atdc_deg"}
LOBE = {"io": "intake", "ic": "intake", "eo": "exhaust", "ec": "exhaust"}
WORDS = {"io": "intake opens", "ic": "intake closes", "eo": "exhaust opens", "ec": "exhaust closes"}
NOMINAL_SLOPE_DOUBT = 0.35
USUAL = Events(io_btdc_deg=8, ic_abdc_deg=44, eo_bbdc_deg=50, ec_atdc_deg=6)


@dataclass(frozen=True)
class Event:
    """One event as measured. `angle_deg` is signed about overlap TDC, `stated_deg` as a card states it."""

    kind: str
    angle_deg: float
    stated_deg: float
    card_deg: float | None
    by_readings_deg: float
    by_top_deg: float
    slack_deg: float | None
    doubts: tuple[str, ...]

    @property
    def late_deg(self) -> float | None:
        """How much later than the card; openings are stated before their dead center, closings after."""
        if self.card_deg is None:
            return None
        gap = self.stated_deg - self.card_deg
        return gap if self.kind in ("ic", "ec") else -gap


def angle_of(kind: str, stated_deg: float) -> float:
    """Where an event lies about overlap TDC.

    Examples
    --------
    >>> [angle_of(kind, 10) for kind in KINDS]
    [-10, 190, -190, 10]
    """
    return {"io": -stated_deg, "ic": 180 + stated_deg, "eo": -180 - stated_deg, "ec": stated_deg}[kind]


def stated(kind: str, angle_deg: float) -> float:
    """An event as a card states it: the inverse of `angle_of`."""
    return {"io": -angle_deg, "ic": angle_deg - 180, "eo": -180 - angle_deg, "ec": angle_deg}[kind]


def card_event(job: Job, kind: str) -> float | None:
    """Card value of an event, or None."""
    return getattr(card.card, FIELD[kind]) if (card := card_of(job)) else None


def slope_at_check(job: Job, kind: str) -> float:
    """Flank slope at the checking lift, mm per crank degree, of the nominal lobe; 0 where none is known."""
    lobe = card.lobe(LOBE[kind]) if (card := card_of(job)) else None
    if lobe is None:
        return 0.0
    at = lobe.centerline_deg + lobe.duration_deg / 2 * (-1 if kind in ("io", "eo") else 1)
    return abs(lift_at(lobe, at + 0.5) - lift_at(lobe, at - 0.5))


@memoized
def measured(job: Job, kind: str) -> Event | None:
    """Work out one event from its standing readings; those approached forward count, others measure the slack.

    Parameters
    ----------
    job
        The job.
    kind
        `io`, `ic`, `eo` or `ec`.

    Returns
    -------
    Event or None
        None while it is not read.

    Raises
    ------
    InvalidInput
        When a reading that came from elsewhere cannot be placed on this wheel.
    """
    taken = [reading for reading in EVENT.taken(job, kind) if frame_at(job, reading.seq) is not None]
    if not taken:
        return None
    card_deg = card_event(job, kind)
    expected = angle_of(kind, getattr(USUAL, FIELD[kind]) if card_deg is None else card_deg)
    angles = {reading.id: near(true_angle(job, reading), expected) for reading in taken}
    forward = [reading for reading in taken if reading.approach == "forward"]
    backward = [reading for reading in taken if reading.approach != "forward"]
    counted = forward or backward
    middle = fmean(angles[reading.id] for reading in counted)
    slack = None
    if forward and backward:
        slack = abs(middle - fmean(angles[reading.id] for reading in backward))
    frame = frame_at(job, counted[-1].seq)
    if frame is None:
        raise Missing("frame")
    slope = slope_at_check(job, kind)
    # The flank is nominal and may be flatter by this factor.
    by_dial = frame.mounted.dial_division_mm / 2 / (slope * (1 - NOMINAL_SLOPE_DOUBT)) if slope else 0.0
    spread = max(angles[r.id] for r in counted) - min(angles[r.id] for r in counted)
    by_wheel = [reading.division(frame.mounted.division_deg) / 2 / len(counted) for reading in counted]
    by_readings = max(
        expanded((*by_wheel, *(by_dial / len(counted),) * len(counted)), (CENTERING_DEG, APPROACH_DEG)), spread / 2
    )
    doubts = [doubt for reading in counted for doubt in place_doubts(job, reading, describe(reading))]
    return Event(
        kind,
        middle,
        stated(kind, middle),
        card_deg,
        by_readings,
        frame.top.uncertainty_deg if frame.top else 0.0,
        slack,
        tuple(doubts),
    )


def slack_deg(job: Job) -> float | None:
    """Drive slack in crank degrees, from events read both ways."""
    found = [event.slack_deg for kind in KINDS if (event := measured(job, kind)) and event.slack_deg is not None]
    return fmean(found) if found else None


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Say which event to read next: each once forward, then again, or backward for the slack."""
    if wheel_of(job) is None:
        return None
    direction = "backward" if query.get("direction") == "backward" else "forward"
    read = {reading.spot.kind for reading in EVENT.taken(job) if reading.approach == direction}
    kind = query.get("event", "")
    if kind not in KINDS:
        wanted = [each for each in KINDS if LOBE[each] in deciding_lobes(job)]
        kind = next((each for each in wanted if each not in read), "io")
    lobe = LOBE[kind]
    opening = kind in ("io", "eo")
    lift = _check_words(job)
    if direction == "forward":
        instruction = say("read-event", lobe=lobe, way="up" if opening else "down", lift=lift)
        hint = say("overshot-event")
    else:
        instruction = say("read-event-backward", lobe=lobe, lift=lift)
        hint = say("slack-by-difference")
    card_deg = card_event(job, kind)
    expected = angle_of(kind, getattr(USUAL, FIELD[kind]) if card_deg is None else card_deg)
    return Prompt(
        slot=slot_of(kind, job.next_number(KEY, kind), direction),
        label=f"{WORDS[kind].capitalize()} at {lift}",
        instruction=instruction,
        hint=hint,
        side=likely_side(job, expected),
        approach=direction,
        by_wheel=True,
        extra={"event": kind},
    )


def _check_words(job: Job) -> str:
    card = card_of(job)
    if card is None or card.check_lift_mm is None:
        return "the checking lift"
    return format_length(card.check_lift_mm, job.unit)


def accept(job: Job, entry: Entry) -> None:
    """Refuse a reading that cannot be.

    Raises
    ------
    InvalidInput
        With the field at fault: `text` or `side`.
    """
    mounted = wheel_of(job)
    if mounted is None:
        raise InvalidInput("text", "wheel-missing")
    crank_angle(mounted, entry.text, entry.side)
    check_reader(job, entry)


def describe(reading: Reading) -> str:
    """Say what a reading of this method was of."""
    return WORDS[reading.spot.kind]
