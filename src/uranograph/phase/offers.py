"""The positions that the drive offers, best first."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from uranograph.bench.acts import Act, Move
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.core.adjust import (
    Adjuster,
    AdjusterMove,
    AdjustSeveralInput,
    ChoiceForSeveral,
    PositionChoice,
    adjust,
    adjust_several,
)
from uranograph.core.errors import InvalidInput
from uranograph.core.phase import Events, move
from uranograph.core.wheel import End
from uranograph.engine import adjusters as drive
from uranograph.engine import positions
from uranograph.engine.adjusters import drive_of
from uranograph.engine.cams import LOBES, banks, cam_key, key_in
from uranograph.engine.degree_wheel import wheel_of
from uranograph.phase import banks as of_banks
from uranograph.phase import clearance, judgment, weighed
from uranograph.phase import valve_gaps as valve_lifts
from uranograph.phase.basis import rules_of
from uranograph.phase.move_history import STEP_DEG, fitted_label, history, judged_cam
from uranograph.phase.move_messages import say
from uranograph.phase.set_live import fitted_now, its_bank, live, members, shown_marks
from uranograph.phase.valve_gaps import Near

# Disassembly needed for each kind of move, least first: the tie-breaker between equally good moves.
EFFORT = {"slot": 0, "pin-vernier": 1, "hole-sets": 2, "choices": 3, "tooth": 3}
MAX_OFFERS = 60
# A cam within tolerance can still be moved where it may stand beyond the aim and a position leaves so much less, crank degrees.
AIM_DEG, CLEARLY_LESS_DEG = 0.5, 0.3


@dataclass(frozen=True)
class Offer:
    """One way to set a cam's adjusters, with what it would bring. `again` makes the last move once more.

    `near` is what would be the worst off of all gaps between valves and pistons that are read.
    """

    cam: str
    number: int
    choice: PositionChoice
    words: tuple[str, ...]
    comes_apart: tuple[str, ...]
    events: Events | None
    within: bool
    again: bool = False
    near: Near | None = None
    leaves: Mapping[str, float] = field(default_factory=dict)
    shifts: Mapping[str, float] = field(default_factory=dict)
    doubt_deg: float = 0.0

    def leaves_of(self, cam: str) -> float:
        """Remaining error of one cam, crank degrees late."""
        return self.leaves.get(cam, self.choice.remaining_error_deg)

    def shift_of(self, cam: str) -> float:
        """How far it advances one cam, crank degrees."""
        return self.shifts.get(cam, self.choice.shift_deg)

    @property
    def barred(self) -> bool:
        """Whether something would come too near there: such a position is shown, and never advised."""
        return self.near is not None and self.near.verdict is Verdict.OUT


def cams(job: Job) -> list[str]:
    """Groups that move together: the one cam, each of several, or `both` if an adjuster moves all."""
    described, by_bank = drive_of(job), banks(job)
    shared = described is not None and any(each.on == "both" for each in described.adjusters)
    if len(by_bank) > 1 and not shared:
        return [cam_key(own, cam) for own in by_bank for cam in cams(own)]
    return ["both"] if shared or not judgment.has_independent_cams(job) else list(LOBES)


def _for_all(own: Job, offer: Offer) -> Offer:
    """An offer of one bank as the whole engine has it."""
    leaves = {cam_key(own, cam): left for cam, left in offer.leaves.items()}
    shifts = {cam_key(own, cam): shift for cam, shift in offer.shifts.items()}
    return replace(offer, cam=cam_key(own, offer.cam), leaves=leaves, shifts=shifts)


def judged_now(job: Job) -> tuple[judgment.JudgedCam, ...]:
    """Current phase of every cam of every bank, by its name in the engine."""
    return tuple(
        replace(one, cam=key_in(job, own, one.cam))
        for own in banks(job)
        for one in judged_cam(positions.at_position(own))
    )


def _by_small_steps(job: Job) -> dict[str, float]:
    return {
        key_in(job, own, cam): deg
        for own in banks(job)
        for cam, deg in judgment.hand_precision_note(positions.at_position(own)).items()
    }


def is_held(job: Job) -> bool:
    """Whether a set-up question is open on any bank."""
    return any(weighed.held(own) for own in banks(job))


@memoized
def searched(job: Job, cam: str) -> tuple[PositionChoice, ...] | None:
    """Search the adjusters of what is moved together for the smallest error left at the position now; None where not all is read.

    Raises
    ------
    InvalidInput
        When the adjusters make too many combinations.
    """
    if found := its_bank(job, cam):
        return searched(*found)
    own, phases = members(job, cam), of_banks.phases(job)
    if drive_of(job) is None or not set(own) <= phases.keys():
        return None
    if len(own) == 1:
        given = drive.given(fitted_now(job), cam, phases[cam][0], MAX_OFFERS)
        return tuple(adjust(given).choices) if given else None
    adjusters = fitted_now(job).adjusters
    several = AdjustSeveralInput(
        errors_deg={each: phases[each][0] for each in own},
        adjusters=[each.adjuster for each in adjusters],
        on=[each.on for each in adjusters],
        keep=MAX_OFFERS,
    )
    return tuple(adjust_several(several))


def _moving(job: Job, cam: str) -> list[drive.Described]:
    """The adjusters that a choice for `cam` counts through."""
    if found := its_bank(job, cam):
        return _moving(*found)
    fitted = fitted_now(job)
    return list(fitted.adjusters) if len(members(job, cam)) > 1 else fitted.moving(cam)


def learned_words(job: Job) -> tuple[str, ...]:
    """Measured worth of an adjuster mark, if it differs from the stated one."""
    shown = {name: factor for own in banks(job) for name, factor in shown_marks(own).items()}
    worth = {name: factor for name, factor in shown.items() if factor not in (2.0, 0.5)}
    return tuple(say("mark-is-worth", name=name, worth_deg=factor) for name, factor in worth.items())


def middle(job: Job) -> dict[str, float]:
    """Each lobe's centerline, as a card states it, with the adjusters that move it in the middle of what they offer."""
    if drive_of(job) is None or len(banks(job)) > 1 or not judged_cam(positions.at_position(job)):
        return {}
    found: dict[str, float] = {}
    for result in judgment.leading(positions.at_position(job)):
        moving = fitted_now(job).moving(result.lobe)
        if result.centerline_deg is not None and moving:
            shift = sum(_to_middle(each.adjuster) for each in moving)
            found.setdefault(result.lobe, abs(result.centerline_deg - shift))
    return found


def _to_middle(adjuster: Adjuster) -> float:
    """How far an adjuster would advance the cam on its way to the middle of what it offers, crank degrees."""
    if adjuster.kind == "choices":
        shifts = [option.shift_deg for option in adjuster.options]
        fitted = next(o.shift_deg for o in adjuster.options if o.label == fitted_label(adjuster))
        return (min(shifts) + max(shifts)) / 2 - fitted
    if adjuster.kind == "slot":
        return -adjuster.at * adjuster.step_deg * (2 if adjuster.marks == "cam" else 1)
    if adjuster.kind == "pin-vernier":
        return -adjuster.at * 720 / math.lcm(adjuster.sprocket_holes, adjuster.hub_holes)
    return 0.0


@memoized
def offers(job: Job, cam: str) -> tuple[Offer, ...]:
    """Every way for what is moved together, best first; last of all the move made before once more, where it turned out otherwise."""
    if at := its_bank(job, cam):
        return tuple(_for_all(at[0], offer) for offer in offers(*at))
    found = searched(job, cam)
    if found is None:
        return ()
    moving, own = _moving(job, cam), members(job, cam)
    several = len(banks(job)) > 1
    start = None if several else judgment.expected_events(positions.at_position(job))
    again = None if several else _fit_again(job, cam, moving)
    phases = of_banks.phases(job)
    doubt = max(phases[each][1] for each in own)
    by_hand = _by_small_steps(job)
    ranked = _ranked(list(found), moving, max(by_hand[each] for each in own))
    choices = [*ranked, *([again] if again else [])]
    by_cam = [_for_each(choice, own) for choice in choices]
    if len(own) == 1:
        nears = clearance.leasts(job, cam, tuple(round(choice.shift_deg, 6) for choice in choices))
    else:
        nears = _nearest(job, [shifts for shifts, _ in by_cam])
    offered: list[Offer] = []
    for choice, near, (shifts_deg, leaves) in zip(choices, nears, by_cam, strict=True):
        words = tuple(positions.move_words(moving[m.adjuster].name, m.from_, m.to) for m in choice.moves)
        apart = tuple(dict.fromkeys(moving[m.adjuster].comes_apart for m in choice.moves))
        intake = 0.0 if cam == "exhaust" else shifts_deg.get("intake", choice.shift_deg)
        exhaust = 0.0 if cam == "intake" else shifts_deg.get("exhaust", choice.shift_deg)
        then = move(start, intake, exhaust) if start else None
        within = all(abs(left) <= rules_of(job).tolerance_deg for left in leaves.values())
        words = words or (say("leave-as-it-is"),)
        left_doubt = math.hypot(doubt, step_doubt(moving, choice))
        offered.append(
            Offer(cam, 0, choice, words, apart, then, within, choice is again, near, leaves, shifts_deg, left_doubt)
        )
    # Offers that lack clearance come last, whatever they cure.
    offered.sort(key=lambda offer: offer.barred)
    return tuple(replace(offer, number=number) for number, offer in enumerate(offered))


def _nearest(job: Job, ways: list[dict[str, float]]) -> tuple[Near | None, ...]:
    """The nearest that anything comes with several cams moved, for each way of moving them; of banks the worse."""
    by_bank = []
    for own in banks(job):
        intake, exhaust = (
            tuple(round(way.get(key_in(job, own, lobe), way.get(key_in(job, own, "both"), 0.0)), 6) for way in ways)
            for lobe in LOBES
        )
        by_bank.append(clearance.leasts_by_lobe(own, intake, exhaust))
    found = []
    for nears in zip(*by_bank, strict=True):
        known = [near for near in nears if near is not None]
        found.append(valve_lifts.worst(known) if known else None)
    return tuple(found)


def _for_each(choice: PositionChoice, own: tuple[str, ...]) -> tuple[dict[str, float], dict[str, float]]:
    """How far a choice advances each cam, and what it leaves of its error."""
    if isinstance(choice, ChoiceForSeveral):
        return choice.shifts_deg, choice.remaining_deg
    return dict.fromkeys(own, choice.shift_deg), dict.fromkeys(own, choice.remaining_error_deg)


def step_doubt(moving: list[drive.Described], choice: PositionChoice) -> float:
    """Uncertainty of a move (k = 2), crank degrees, by the kinds of adjusters moved."""
    return 2 * math.sqrt(sum(STEP_DEG[moving[m.adjuster].landing] ** 2 for m in choice.moves))


def _ranked(choices: list[PositionChoice], moving: list[drive.Described], doubt_deg: float) -> list[PositionChoice]:
    """Ways as good as the best, as far as the readings can tell, by what comes apart; the others as they are."""
    if not choices:
        return []
    best = abs(choices[0].remaining_error_deg)

    def effort(choice: PositionChoice) -> int:
        return max((EFFORT[moving[m.adjuster].adjuster.kind] for m in choice.moves), default=0)

    alike = [choice for choice in choices if abs(choice.remaining_error_deg) - best <= doubt_deg]
    others = [choice for choice in choices if abs(choice.remaining_error_deg) - best > doubt_deg]
    return sorted(alike, key=effort) + others


def _fit_again(job: Job, cam: str, moving: list[drive.Described]) -> PositionChoice | None:
    """The last try once more, where what was measured is not what was chosen."""
    steps, made = history(job), positions.tries(job)
    if not made or len(members(job, cam)) > 1 or cam not in steps[-1].errors or cam not in steps[-2].errors:
        return None
    last, error = made[-1], steps[-1].errors[cam][0]
    # No finer than the measurement.
    shift = round(error - (steps[-2].errors[cam][0] - last.shift_of(cam)), 1)
    names = [each.name for each in moving]
    if cam not in ("both", *last.lobes) or steps[-1].outcome not in ("not-moved", "backward", "halved", "otherwise"):
        return None
    moves = [
        AdjusterMove(adjuster=names.index(one.name), from_="as it stands", to=one.to, shift_deg=shift)
        for one in last.moves
        if one.name in names
    ]
    return (
        PositionChoice(moves=moves, shift_deg=shift, remaining_error_deg=error - shift)
        if len(moves) == 1 and shift
        else None
    )


def act_of(job: Job, cam: str, number: int) -> Act:
    """The act that makes an offer a try.

    Raises
    ------
    InvalidInput
        When there is no such offer any more, or it moves nothing.
    """
    offered = offers(job, cam)
    if not 0 <= number < len(offered):
        raise InvalidInput("choice", "position-not-offered")
    choice = offered[number].choice
    if not choice.moves:
        raise InvalidInput("choice", "nothing-to-try")
    moving = _moving(job, cam)
    moves = (Move(moving[m.adjuster].name, m.from_, m.to, round(m.shift_deg, 6)) for m in choice.moves)
    return positions.act_of(cam, round(choice.shift_deg, 6), moves)


def moves_of(job: Job, cam: str, choice: PositionChoice) -> list[dict[str, object]]:
    """Adjuster moved by a choice: index, name, from and to position, crank degrees."""
    names = [each.name for each in fitted_now(job).adjusters]
    moving = _moving(job, cam)
    return [
        {
            "adjuster": names.index(moving[m.adjuster].name),
            "name": moving[m.adjuster].name,
            "from": m.from_,
            "to": m.to,
            "shift_deg": round(m.shift_deg, 6),
        }
        for m in choice.moves
    ]


def accompanying_act(job: Job, act: Act) -> tuple[str, str] | None:
    """The wheel comes off with it where a try takes the crank gear off the end that carries the wheel."""
    mounted, described = wheel_of(job), drive_of(job)
    if not act.to_position or mounted is None or mounted.wheel.mount is not End.FRONT:
        return None
    opening = {each.name for each in described.adjusters if each.opens_crank} if described else set()
    opened = [move.name for move in act.moves or () if move.name in opening]
    return ("wheel-refitted", f"for {opened[0]}") if opened else None


def better_than_now(job: Job, cam: str) -> Offer | None:
    """The best position, if it leaves clearly less error and no set-up question is open."""
    own = [one for one in judged_now(job) if one.cam in members(job, cam)]
    # Of two banks, the one with the larger error decides.
    worse = {one.cam: one for one in sorted(own, key=lambda one: abs(one.error_deg))}
    if len(worse) < len(members(job, cam)) or is_held(job) or not all(one.moving_cures for one in own):
        return None
    if all(abs(one.error_deg) + one.doubt_deg <= AIM_DEG for one in own):
        return None
    try:
        ways = (offer for offer in offers(job, cam) if offer.choice.moves and not offer.again and not offer.barred)
        best = next(ways, None)
    except InvalidInput:
        return None
    if best is None:
        return None
    off = max(abs(one.error_deg) for one in own)
    leaves = max(abs(best.leaves_of(name)) for name in worse)
    landing = step_doubt(_moving(job, cam), best.choice)
    if leaves < off and live(job, cam):
        # A slot set by the dial is not bound to its marks: none of the measured error remains.
        leaves, landing = 0.0, 2 * STEP_DEG["bushing"]
    return best if off - leaves >= max(CLEARLY_LESS_DEG, landing) else None
