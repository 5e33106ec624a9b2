"""Degree: choosing the adjuster position that cures the error, and comparing each try with its prediction."""

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from uranograph.bench.acts import Act
from uranograph.bench.acts import Move as MovedTo
from uranograph.bench.checks import TURNED_ALONE
from uranograph.bench.finding import Finding, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.kept import kept
from uranograph.core.adjust import (
    Adjuster,
    AdjustSeveralGiven,
    Choice,
    ChoiceForSeveral,
    Choices,
    Move,
    adjust,
    adjust_several,
)
from uranograph.core.chain import ChainGiven, chain
from uranograph.core.errors import Impossible
from uranograph.core.phase import Events, move
from uranograph.core.quantities import format_angle, format_length, late_or_early
from uranograph.core.wheel import End, as_read
from uranograph.engine import adjusters as drive
from uranograph.engine import positions as tries
from uranograph.engine.adjusters import drive_of
from uranograph.engine.cams import LOBES, banks, cam_key, cam_words, key_in
from uranograph.engine.card import card_of
from uranograph.engine.degree_wheel import wheel_of
from uranograph.engine.stated_tdc import offset_deg
from uranograph.engine.tdc import frame_now, zero_holds
from uranograph.stations.adjust.words import FOUND, say
from uranograph.stations.clearance import gaps
from uranograph.stations.clearance.gaps import Near
from uranograph.stations.degree import banks as of_banks
from uranograph.stations.degree import events, lifts, weighed
from uranograph.stations.degree import station as degree
from uranograph.stations.degree.rules import rules_of

KEY = tries.STATION
CAUTIONS = (
    TURNED_ALONE,
    "Prove piston-to-valve clearance before the move and again after it; then turn two turns by hand. Hands clear of gears.",
)


# How much is taken apart for each kind of move, least first: it decides between ways the readings cannot tell apart.
EFFORT = {"slot": 0, "pin-vernier": 1, "hole-sets": 2, "choices": 3, "tooth": 3}
# How near a move lands to its mark, one standard deviation, crank degrees.
STEP_DEG = {"choices": 0.05, "tooth": 0.05, "pin-vernier": 0.05, "hole-sets": 0.05, "bushing": 0.1, "slot": 0.25}
# A mark is worth something else than was said only where the move shows it past so many of its standard deviations.
LEARNED_SD = 2.5
MOST_OFFERS = 60
# A cam within tolerance can still be moved where it may stand beyond the aim and a position leaves so much less, crank degrees.
AIM_DEG, CLEARLY_LESS_DEG = 0.5, 0.3
_STEPS = re.compile(r"([0-9]+) .* (advanced|retarded)")


@dataclass(frozen=True)
class Offer:
    """One way to set a cam's adjusters, with what it would bring. `again` makes the last move once more.

    `near` is what would be the worst off of all gaps between valves and pistons that are read.
    """

    cam: str
    number: int
    choice: Choice
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
        """What it leaves of one cam's error, crank degrees late."""
        return self.leaves.get(cam, self.choice.remaining_error_deg)

    def shift_of(self, cam: str) -> float:
        """How far it advances one cam, crank degrees."""
        return self.shifts.get(cam, self.choice.shift_deg)

    @property
    def barred(self) -> bool:
        """Whether something would come too near there: such a position is shown, and never advised."""
        return self.near is not None and self.near.verdict is Verdict.OUT


@dataclass(frozen=True)
class Step:
    """A line of the history: a position of the cams, what was found there, and how the move to it turned out."""

    number: int
    words: str
    errors: dict[str, tuple[float, float]]
    told: str
    view: Job
    outcome: str = ""


def cams(job: Job) -> list[str]:
    """What is moved together: the one cam, each of several, or `both` where an adjuster moves all of them."""
    described, by_bank = drive_of(job), banks(job)
    shared = described is not None and any(each.on == "both" for each in described.adjusters)
    if len(by_bank) > 1 and not shared:
        return [cam_key(own, cam) for own in by_bank for cam in cams(own)]
    return ["both"] if shared or not degree.apart(job) else list(LOBES)


def members(job: Job, cam: str) -> tuple[str, ...]:
    """The cams, each judged by itself, that are moved together as `cam`."""
    by_bank = banks(job)
    if len(by_bank) > 1:
        each = LOBES if degree.apart(job) else ("both",)
        every = tuple(cam_key(own, one) for own in by_bank for one in each)
        return every if cam == "both" else tuple(one for one in every if one == cam or cam == f"{one[:5]}-both")
    return LOBES if cam == "both" and degree.apart(job) else (cam,)


def its_bank(job: Job, cam: str) -> tuple[Job, str] | None:
    """The job of the bank that has a cam, and what the cam is called there; None where no bank is kept apart."""
    bank = re.match("bank([12])-(.+)", cam)
    return (job.of_bank(int(bank[1])), bank[2]) if bank and not job.bank else None


def _for_all(own: Job, offer: Offer) -> Offer:
    """An offer of one bank as the whole engine has it."""
    leaves = {cam_key(own, cam): left for cam, left in offer.leaves.items()}
    shifts = {cam_key(own, cam): shift for cam, shift in offer.shifts.items()}
    return replace(offer, cam=cam_key(own, offer.cam), leaves=leaves, shifts=shifts)


def judged_now(job: Job) -> tuple[degree.Judged, ...]:
    """Every cam of every bank where it stands now, by its name for the whole engine."""
    return tuple(
        replace(one, cam=key_in(job, own, one.cam)) for own in banks(job) for one in _judged(tries.at_position(own))
    )


def _by_hand(job: Job) -> dict[str, float]:
    return {
        key_in(job, own, cam): deg for own in banks(job) for cam, deg in degree.by_hand(tries.at_position(own)).items()
    }


def _held(job: Job) -> bool:
    """Whether a question stands on any bank."""
    return any(weighed.held(own) for own in banks(job))


@kept
def searched(job: Job, cam: str) -> tuple[Choice, ...] | None:
    """Search the adjusters of what is moved together for the smallest error left at the position now; None where not all is read.

    Raises
    ------
    Impossible
        When the adjusters make too many combinations.
    """
    if found := its_bank(job, cam):
        return searched(*found)
    own, phases = members(job, cam), of_banks.phases(job)
    if drive_of(job) is None or not set(own) <= phases.keys():
        return None
    if len(own) == 1:
        given = drive.given(fitted_now(job), cam, phases[cam][0], MOST_OFFERS)
        return tuple(adjust(given).choices) if given else None
    adjusters = fitted_now(job).adjusters
    several = AdjustSeveralGiven(
        errors_deg={each: phases[each][0] for each in own},
        adjusters=[each.adjuster for each in adjusters],
        on=[each.on for each in adjusters],
        keep=MOST_OFFERS,
    )
    return tuple(adjust_several(several))


def _moving(job: Job, cam: str) -> list[drive.Described]:
    """The adjusters that a choice for `cam` counts through."""
    if found := its_bank(job, cam):
        return _moving(*found)
    fitted = fitted_now(job)
    return list(fitted.adjusters) if len(members(job, cam)) > 1 else fitted.moving(cam)


def fitted_now(job: Job) -> drive.Drive:
    """The drive with each adjuster where the tries have left it, its marks read as the tries have shown them to be."""
    marks = {name: factor for own in banks(job) for name, factor in shown_marks(own).items()}
    return drive.Drive(
        tuple(replace(each, adjuster=_scaled(each.adjuster, marks.get(each.name, 1.0))) for each in _as_left(job))
    )


def _as_left(job: Job) -> list[drive.Described]:
    """Each adjuster where the tries have left it, by the marks as they were described."""
    described = drive_of(job)
    assert described is not None
    adjusters = list(described.adjusters)
    for one in tries.every_try(job):
        for made in one.moves:
            for k, each in enumerate(adjusters):
                if each.name == made.name or (not made.name and made.adjuster == k):
                    adjusters[k] = replace(each, adjuster=_moved(each.adjuster, made.to))
    return adjusters


def stands(job: Job) -> tuple[tuple[str, str], ...]:
    """Where each adjuster stands now: its name, and the label it is at or how far it was moved."""
    if drive_of(job) is None:
        return ()
    return tuple((each.name, _stand(each.adjuster)) for each in _as_left(job))


def learned_words(job: Job) -> tuple[str, ...]:
    """What the moves so far showed a mark to be worth, where that is not what was said."""
    shown = {name: factor for own in banks(job) for name, factor in shown_marks(own).items()}
    worth = {name: factor for name, factor in shown.items() if factor not in (2.0, 0.5)}
    return tuple(say("mark-is-worth", name=name, worth_deg=factor) for name, factor in worth.items())


def _stand(adjuster: Adjuster) -> str:
    if adjuster.kind == "choices":
        return fitted_label(adjuster)
    if adjuster.at == 0:
        return "as it was found"
    way = "advanced" if adjuster.at > 0 else "retarded"
    if adjuster.kind == "slot":
        marks = f"{adjuster.marks} deg"
        return f"{abs(adjuster.at * adjuster.step_deg):g} {way} on its marks ({marks})"
    unit = {"tooth": "tooth", "pin-vernier": "step", "hole-sets": "set"}[adjuster.kind]
    plural = {"tooth": "teeth"}.get(unit, f"{unit}s")
    return f"{abs(adjuster.at)} {unit if abs(adjuster.at) == 1 else plural} {way}"


def fitted_label(adjuster: Choices) -> str:
    """The label of the choice that is fitted."""
    return adjuster.fitted if isinstance(adjuster.fitted, str) else adjuster.options[adjuster.fitted].label


def middle(job: Job) -> dict[str, float]:
    """Each lobe's centerline, as a card states it, with the adjusters that move it in the middle of what they offer."""
    if drive_of(job) is None or len(banks(job)) > 1 or not _judged(tries.at_position(job)):
        return {}
    found: dict[str, float] = {}
    for result in degree.leading(tries.at_position(job)):
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


def _moved(adjuster: Adjuster, to: str) -> Adjuster:
    if adjuster.kind == "choices":
        known = any(option.label == to for option in adjuster.options)
        return adjuster.model_copy(update={"fitted": to}) if known else adjuster
    found = _STEPS.fullmatch(to)
    if found is None:
        return adjuster
    steps = int(found[1]) * (1 if found[2] == "advanced" else -1)
    return adjuster.model_copy(update={"at": adjuster.at + steps})


def _scaled(adjuster: Adjuster, factor: float) -> Adjuster:
    """An adjuster whose marks turned out to be worth twice or half of what was said."""
    if factor == 1 or adjuster.kind not in ("choices", "slot"):
        return adjuster
    if adjuster.kind == "slot" and factor in (2.0, 0.5):
        return adjuster.model_copy(update={"marks": "cam" if factor > 1 else "crank"})
    if adjuster.kind == "slot":
        return adjuster.model_copy(
            update={"step_deg": adjuster.step_deg * factor, "range_deg": adjuster.range_deg * factor}
        )
    options = [each.model_copy(update={"shift_deg": each.shift_deg * factor}) for each in adjuster.options]
    return adjuster.model_copy(update={"options": options})


def shown_marks(job: Job) -> dict[str, float]:
    """What the marks of an adjuster are worth of what was said, where a try of it alone has shown it: 2 or a half."""
    kinds = {each.name: each.adjuster for each in described.adjusters} if (described := drive_of(job)) else {}
    found: dict[str, float] = {}
    for one, step in zip(tries.tries(job), history(job)[1:], strict=True):
        if len(one.moves) == 1 and step.outcome == "otherwise":
            learned = _learned(job, one, step, kinds.get(one.moves[0].name))
            if learned is not None:
                found[one.moves[0].name] = learned
        if len(one.moves) != 1 or step.outcome not in ("doubled", "halved"):
            continue
        name = one.moves[0].name
        adjuster = kinds.get(name)
        factor = 2.0 if step.outcome == "doubled" else 0.5
        if adjuster is not None and (adjuster.kind == "choices" or _can_be(adjuster, factor)):
            found[name] = factor
    return found


# A step learned from a move is believed between these, as a part of what was said; past them something else is wrong.
BELIEVED = (0.6, 1.7)


def _learned(job: Job, one: tries.Try, step: Step, adjuster: Adjuster | None) -> float | None:
    """What a mark of a slot turned out to be worth of what was said, by a move of it alone; None where that is not told."""
    before = history(job)[step.number - 1].errors
    cam = "both" if not degree.apart(job) else one.lobes[0]
    if adjuster is None or adjuster.kind != "slot" or cam not in before or cam not in step.errors or not one.shift_deg:
        return None
    change = before[cam][0] - step.errors[cam][0]
    hands = [degree.by_hand(each.view)[cam] / 2 for each in (history(job)[step.number - 1], step)]
    worth, blurred = change / one.shift_deg, math.hypot(STEP_DEG["slot"], *hands)
    if abs(change - one.shift_deg) < LEARNED_SD * blurred:
        return None
    return worth if BELIEVED[0] <= worth <= BELIEVED[1] else None


def _can_be(adjuster: Adjuster, factor: float) -> bool:
    return adjuster.kind == "slot" and adjuster.marks == ("crank" if factor > 1 else "cam")


@kept
def offers(job: Job, cam: str) -> tuple[Offer, ...]:
    """Every way for what is moved together, best first; last of all the move made before once more, where it turned out otherwise."""
    if at := its_bank(job, cam):
        return tuple(_for_all(at[0], offer) for offer in offers(*at))
    found = searched(job, cam)
    if found is None:
        return ()
    moving, own = _moving(job, cam), members(job, cam)
    several = len(banks(job)) > 1
    start = None if several else degree.expected_events(tries.at_position(job))
    again = None if several else _fit_again(job, cam, moving)
    phases = of_banks.phases(job)
    doubt = max(phases[each][1] for each in own)
    by_hand = _by_hand(job)
    ranked = _ranked(list(found), moving, max(by_hand[each] for each in own))
    choices = [*ranked, *([again] if again else [])]
    by_cam = [_for_each(choice, own) for choice in choices]
    if len(own) == 1:
        nears = gaps.leasts(job, cam, tuple(round(choice.shift_deg, 6) for choice in choices))
    else:
        nears = _nearest(job, [shifts for shifts, _ in by_cam])
    offered: list[Offer] = []
    for choice, near, (shifts_deg, leaves) in zip(choices, nears, by_cam, strict=True):
        words = tuple(tries.move_words(moving[m.adjuster].name, m.from_, m.to) for m in choice.moves)
        apart = tuple(dict.fromkeys(moving[m.adjuster].comes_apart for m in choice.moves))
        intake = 0.0 if cam == "exhaust" else shifts_deg.get("intake", choice.shift_deg)
        exhaust = 0.0 if cam == "intake" else shifts_deg.get("exhaust", choice.shift_deg)
        then = move(start, intake, exhaust) if start else None
        within = all(abs(left) <= rules_of(job).tolerance_deg for left in leaves.values())
        words = words or (say("leave"),)
        left_doubt = math.hypot(doubt, step_doubt(moving, choice))
        offered.append(
            Offer(cam, 0, choice, words, apart, then, within, choice is again, near, leaves, shifts_deg, left_doubt)
        )
    # What would come too near stands last, whatever it cures.
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
        by_bank.append(gaps.leasts_by_lobe(own, intake, exhaust))
    found = []
    for nears in zip(*by_bank, strict=True):
        known = [near for near in nears if near is not None]
        found.append(gaps.worst(known) if known else None)
    return tuple(found)


def _for_each(choice: Choice, own: tuple[str, ...]) -> tuple[dict[str, float], dict[str, float]]:
    """How far a choice advances each cam, and what it leaves of its error."""
    if isinstance(choice, ChoiceForSeveral):
        return choice.shifts_deg, choice.remaining_deg
    return dict.fromkeys(own, choice.shift_deg), dict.fromkeys(own, choice.remaining_error_deg)


def step_doubt(moving: list[drive.Described], choice: Choice) -> float:
    """How far a move may land beside its mark (k = 2), crank degrees, by the kinds of adjusters it moves."""
    return 2 * math.sqrt(sum(STEP_DEG[_landing(moving[m.adjuster])] ** 2 for m in choice.moves))


def _landing(each: drive.Described) -> str:
    return "bushing" if each.adjuster.kind == "choices" and each.at_cam else each.adjuster.kind


def _ranked(choices: list[Choice], moving: list[drive.Described], doubt_deg: float) -> list[Choice]:
    """Ways as good as the best, as far as the readings can tell, by what comes apart; the others as they are."""
    if not choices:
        return []
    best = abs(choices[0].remaining_error_deg)

    def effort(choice: Choice) -> int:
        return max((EFFORT[moving[m.adjuster].adjuster.kind] for m in choice.moves), default=0)

    alike = [choice for choice in choices if abs(choice.remaining_error_deg) - best <= doubt_deg]
    others = [choice for choice in choices if abs(choice.remaining_error_deg) - best > doubt_deg]
    return sorted(alike, key=effort) + others


def _fit_again(job: Job, cam: str, moving: list[drive.Described]) -> Choice | None:
    """The last try once more, where what was measured is not what was chosen."""
    steps, made = history(job), tries.tries(job)
    if not made or len(members(job, cam)) > 1 or cam not in steps[-1].errors or cam not in steps[-2].errors:
        return None
    last, error = made[-1], steps[-1].errors[cam][0]
    # No finer than it is measured.
    shift = round(error - (steps[-2].errors[cam][0] - last.shift_of(cam)), 1)
    names = [each.name for each in moving]
    if cam not in ("both", *last.lobes) or steps[-1].outcome not in ("not-moved", "backward", "halved", "otherwise"):
        return None
    moves = [
        Move(adjuster=names.index(one.name), from_="as it stands", to=one.to, shift_deg=shift)
        for one in last.moves
        if one.name in names
    ]
    return (
        Choice(moves=moves, shift_deg=shift, remaining_error_deg=error - shift) if len(moves) == 1 and shift else None
    )


def act_of(job: Job, cam: str, number: int) -> Act:
    """The act that makes an offer a try.

    Raises
    ------
    Impossible
        When there is no such offer any more, or it moves nothing.
    """
    offered = offers(job, cam)
    if not 0 <= number < len(offered):
        raise Impossible("choice", "position-not-offered")
    choice = offered[number].choice
    if not choice.moves:
        raise Impossible("choice", "nothing-to-try")
    moving = _moving(job, cam)
    moves = (MovedTo(moving[m.adjuster].name, m.from_, m.to, round(m.shift_deg, 6)) for m in choice.moves)
    return tries.act_of(cam, round(choice.shift_deg, 6), moves)


def moves_of(job: Job, cam: str, choice: Choice) -> list[dict[str, object]]:
    """What a choice moves: which adjuster, by its place in the drive and by name, from where to where, crank degrees."""
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


def brings(job: Job, act: Act) -> tuple[str, str] | None:
    """The wheel comes off with it where a try takes the crank gear off the end that carries the wheel."""
    mounted, described = wheel_of(job), drive_of(job)
    if not act.to_position or mounted is None or mounted.wheel.mount is not End.FRONT:
        return None
    opening = {each.name for each in described.adjusters if each.opens_crank} if described else set()
    opened = [move.name for move in act.moves or () if move.name in opening]
    return ("wheel-refitted", f"for {opened[0]}") if opened else None


@kept
def history(job: Job) -> tuple[Step, ...]:
    """Every position the cams have had, oldest first, with how each try turned out."""
    if len(banks(job)) > 1:
        return _history_of_banks(job)
    made = tries.tries(job)
    steps: list[Step] = []
    was: dict[str, float] = {}
    for number in range(len(made) + 1):
        view = tries.at_position(job, number)
        phases = degree.phases(view) if _judged(view) else {}
        words = "as found" if number == 0 else f"{made[number - 1].words} ({_way(made[number - 1].shift_deg)})"
        by_hand = degree.by_hand(view) if phases else {}
        phrase, outcome = "", ""
        if number:
            landed = 2 * STEP_DEG["slot"] if _slides(job, made[number - 1]) else 2 * STEP_DEG["bushing"]
            doubt = {cam: math.hypot(own + was.get(cam, 0.0), landed) for cam, own in by_hand.items()}
            phrase, outcome = _turned_out(job, made[number - 1], steps[-1].errors, phases, doubt)
        was = by_hand
        steps.append(Step(number, words, phases, phrase, view, outcome))
    return tuple(steps)


def _history_of_banks(job: Job) -> tuple[Step, ...]:
    """The positions of an engine with cams on each bank: what was found on each, and how a move turned out on those it moved."""
    made = tries.tries(job)
    by_bank = [(own, history(own), tries.tries(own)) for own in banks(job)]
    steps = []
    for number in range(len(made) + 1):
        until = made[number - 1].seq if number else 0
        errors: dict[str, tuple[float, float]] = {}
        told, view, outcome = [], by_bank[0][1][0].view, ""
        for own, steps_of, tries_of in by_bank:
            step = steps_of[sum(one.seq <= until for one in tries_of)]
            errors |= {cam_key(own, cam): found for cam, found in step.errors.items()}
            if number and step.number and tries_of[step.number - 1].seq == until:
                view, outcome = step.view, step.outcome
                told.append(say("on-bank", bank=own.bank, words=step.told))
        words = "as found" if number == 0 else f"{made[number - 1].words} ({_way(made[number - 1].shift_deg)})"
        steps.append(Step(number, words, errors, " ".join(told), view, outcome))
    return tuple(steps)


def _slides(job: Job, one: tries.Try) -> bool:
    """Whether a move set a slot."""
    known = drive_of(job)
    slots = {each.name for each in known.adjusters if each.adjuster.kind == "slot"} if known else set()
    return any(move.name in slots for move in one.moves)


def _way(shift_deg: float) -> str:
    return f"{'advance' if shift_deg > 0 else 'retard'} {format_angle(abs(shift_deg))}"


def _turned_out(
    job: Job,
    one: tries.Try,
    before: dict[str, tuple[float, float]],
    after: dict[str, tuple[float, float]],
    by_hand: dict[str, float],
) -> tuple[str, str]:
    cam = "both" if not degree.apart(job) else one.lobes[0]
    if cam not in before:
        return say("not-measured-before-move"), ""
    if cam not in after:
        return say("measure-predicted", before=late_or_early(before[cam][0] - one.shift_of(cam))), ""
    # What the grind leaves open is the same before and after.
    change, doubt = before[cam][0] - after[cam][0], by_hand[cam]
    return tries.compared(one.shift_of(cam), change, doubt), tries.outcome(one.shift_of(cam), change, doubt)


def effects(job: Job) -> list[str]:
    """What is not of the builder's making: a lowered cam, a longer chain, each with its estimated retard."""
    known = drive_of(job)
    if known is None or not known.cam_radius_mm:
        return []
    sentences: list[str] = []
    if known.elongation_pct and known.tight_span_mm:
        given = ChainGiven(
            tight_span_mm=known.tight_span_mm, cam_radius_mm=known.cam_radius_mm, elongation_pct=known.elongation_pct
        )
        late = chain(given).retard_deg
        sentences.append(say("chain-longer-makes-cam", elongation_pct=known.elongation_pct, late_deg=late))
    if known.center_drop_mm:
        given = ChainGiven(
            tight_span_mm=known.tight_span_mm or 1,
            cam_radius_mm=known.cam_radius_mm,
            center_drop_mm=known.center_drop_mm,
        )
        late = chain(given).retard_deg
        sentences.append(
            say(
                "makes-cam-about-deg",
                cut=_cut(job, known.center_drop_mm),
                late_deg=abs(late),
                way="late" if late > 0 else "early",
            )
        )
    return sentences


def _cut(job: Job, drop_mm: float) -> str:
    words = f"{format_length(abs(drop_mm), job.unit)} {job.unit.value}"
    return say("block-head-cut", words=words) if drop_mm > 0 else f"A gasket thicker by {words}"


def describe(act: Act) -> str:
    """Say what was tried."""
    words = [tries.move_words(made.name, made.from_, made.to) for made in act.moves or ()]
    return "tried " + ("; ".join(words) or "a position")


def find(job: Job) -> Finding:
    """Say which position to choose, or that none is needed: by the verdict of degreeing, never by one of its own."""
    made = tries.tries(job)
    judged = judged_now(job)
    lines = tuple(Row(f"{step.number}. {step.words}", "", _errors(step.errors), "") for step in history(job))
    begun = bool(made) or job.latest("drive") is not None
    if judged:
        degreed = of_banks.find(job)
        if degreed.verdict is Verdict.IN:
            better = [
                words for cam in cams(job) if (offer := better_than_now(job, cam)) for words in [_best_words(offer)]
            ]
            if better:
                return _base(job, lines).judged(Verdict.IN, FOUND, "better-position", best=" ".join(better))
            return _base(job, lines).judged(Verdict.IN, FOUND, "no-move-needed")
        if degreed.verdict is Verdict.UNSURE:
            # No move is named while a question stands.
            best = "" if _held(job) else " ".join(_best_moves(job)[0])
            return _base(job, lines).judged(Verdict.UNSURE, FOUND, "not-sure-enough", best=best, step=degreed.next_step)
    if drive_of(job) is None:
        return _base(job, lines).judged(Verdict.OPEN, FOUND, "drive-missing", begun=begun)
    if not judged:
        if made and wheel_of(job) is not None and not zero_holds(job):
            return _base(job, lines).judged(Verdict.OPEN, FOUND, "moved-wheel-too", begun=begun)
        return _base(job, lines).judged(Verdict.OPEN, FOUND, "moved" if made else "not-degreed", begun=begun)
    return _advised(job, lines)


def better_than_now(job: Job, cam: str) -> Offer | None:
    """The best position for cams that may stand beyond the aim, where it leaves clearly less and no question stands."""
    own = [one for one in judged_now(job) if one.cam in members(job, cam)]
    # Of two banks the one that is worse off decides.
    worse = {one.cam: one for one in sorted(own, key=lambda one: abs(one.error_deg))}
    if len(worse) < len(members(job, cam)) or _held(job) or not all(one.moving_cures for one in own):
        return None
    if all(abs(one.error_deg) + one.doubt_deg <= AIM_DEG for one in own):
        return None
    try:
        ways = (offer for offer in offers(job, cam) if offer.choice.moves and not offer.again and not offer.barred)
        best = next(ways, None)
    except Impossible:
        return None
    if best is None:
        return None
    off = max(abs(one.error_deg) for one in own)
    leaves = max(abs(best.leaves_of(name)) for name in worse)
    landing = step_doubt(_moving(job, cam), best.choice)
    if leaves < off and live(job, cam):
        # Set by the dial a slot is not bound to its marks: nothing of what was measured is left.
        leaves, landing = 0.0, 2 * STEP_DEG["bushing"]
    return best if off - leaves >= max(CLEARLY_LESS_DEG, landing) else None


def _best_words(offer: Offer) -> str:
    named = "" if offer.cam == "both" else f"{_headed(offer.cam)}: "
    return f"{named}{'; '.join(offer.words)} leaves {_left_words(offer)}."


def _left_words(offer: Offer) -> str:
    """What an offer leaves, of every cam that it moves."""
    if len(offer.leaves) < 2:
        return f"it {late_or_early(offer.choice.remaining_error_deg)}"
    return ", ".join(f"the {cam_words(cam)} {late_or_early(left)}" for cam, left in offer.leaves.items())


@dataclass(frozen=True)
class Live:
    """A cam set by its dial instead of its marks: what the wheel shows where a lobe's opening flank is at a lift.

    By an event that was read `kind` names it and `lift_mm` is the checking lift; by equal lifts `kind` is the lobe, and the dial
    stands `drop_mm` below its greatest.
    """

    kind: str
    text: str
    side: str | None
    lift_mm: float | None = None
    drop_mm: float | None = None


def live(job: Job, cam: str) -> Live | None:
    """Where to hold the crank to set a cam in its slot by the dial: its mark and its step are then no matter.

    Parameters
    ----------
    job
        The whole job.
    cam
        As in `cams`.

    Returns
    -------
    Live or None
        None where nothing slides, true TDC is not known, or no opening flank of the cam was read: where a flank only follows
        from the card, it may be ground half a degree beside that.
    """
    if of_bank := its_bank(job, cam):
        return live(*of_bank)
    now, frame = tries.at_position(job), frame_now(job)
    if not _judged(now) or len(members(job, cam)) > 1:
        return None
    late, flank = degree.phases(now).get(cam), _flank_read(now, cam)
    slides = drive_of(job) is not None and any(each.adjuster.kind == "slot" for each in fitted_now(job).moving(cam))
    if not slides or late is None or flank is None or frame is None or frame.top is None:
        return None
    found, at_deg = flank
    shown = round((at_deg - late[0] + frame.top.zero_error_deg + offset_deg(job)) * 10) / 10
    figure, side = as_read(frame.mounted.wheel, shown)
    return replace(found, text=f"{figure:.4g}", side=side.value if side else None)


def _flank_read(now: Job, cam: str) -> tuple[Live, float] | None:
    """An opening flank of a cam that was read, and where: by its event, else at the deepest of its equal lifts."""
    lobes = LOBES if cam == "both" else (cam,)
    read, card = degree.events_read(now, degree.results(now)), card_of(now)
    for lobe in lobes:
        opens = degree.KINDS_OF[lobe][0]
        if opens in read and card is not None and card.check_lift_mm is not None:
            return Live(opens, "", None, lift_mm=card.check_lift_mm), events.angle_of(opens, read[opens])
    for lobe in lobes:
        by_lifts = lifts.measured(now, lobe)
        if by_lifts is not None and by_lifts.spans:
            deepest = max(by_lifts.spans, key=lambda span: span.drop_mm)
            return Live(lobe, "", None, drop_mm=deepest.drop_mm), deepest.before_deg
    return None


def _judged(now: Job) -> tuple[degree.Judged, ...]:
    try:
        return degree.judged(now)
    except Impossible:
        return ()


def _base(job: Job, lines: tuple[Row, ...]) -> Finding:
    phrase = history(job)[-1].told
    return Finding(
        Verdict.OPEN,
        "",
        cautions=CAUTIONS,
        rows=lines,
        notes=(*([phrase] if phrase else []), *learned_words(job), *effects(job)),
    )


def _errors(errors: Mapping[str, tuple[float, float]]) -> str:
    return ", ".join(
        f"{'' if cam == 'both' else f'{cam_words(cam)} '}{late_or_early(error)}" for cam, (error, _) in errors.items()
    )


def _headed(cam: str) -> str:
    """A cam in words, at the head of a sentence."""
    words = cam_words(cam)
    return f"{words[0].upper()}{words[1:]}"


def _best_moves(job: Job) -> tuple[list[str], Verdict]:
    """The best way for what is moved together in a sentence, and whether everything that is out can be brought within."""
    sentences: list[str] = []
    worst = Verdict.IN
    judged = judged_now(job)
    for cam in cams(job):
        own = [one for one in judged if one.cam in members(job, cam)]
        unread = [each for each in members(job, cam) if each not in {one.cam for one in own}]
        named = "" if cam == "both" else f"{_headed(cam)}: "
        if not own:
            continue
        if all(one.verdict is Verdict.IN for one in own) and not unread:
            sentences.append(say("within-tolerance-nothing-needs", figure=named or "The cam is "))
            continue
        if unread:
            worst = Verdict.UNSURE
            sentences.append(say("read-the-other-cam", cam=cam_words(unread[0])))
            continue
        if not all(one.moving_cures for one in own):
            worst = Verdict.OUT
            sentences.append(say("moving-cam-not-cure", named=named))
            continue
        offered = offers(job, cam)
        if not offered:
            worst = Verdict.OUT
            sentences.append(say("nothing-described-moves", named=named))
            continue
        best = next((offer for offer in offered if offer.within), offered[0])
        if best.barred:
            assert best.near is not None
            worst = Verdict.OUT
            why = say("would-come-too-near", job.unit, gap_mm=best.near.gap_mm, name=best.near.name)
            sentences.append(f"{named}{'; '.join(best.words)} {why}")
            continue
        cures = "cures it" if max(map(abs, best.leaves.values())) < 0.05 else f"leaves {_left_words(best)}"
        sentences.append(f"{named}{'; '.join(best.words)} {cures}.")
        if not best.within:
            worst = Verdict.OUT
        elif worst is Verdict.IN:
            worst = Verdict.OPEN
    return sentences, worst


def _advised(job: Job, lines: tuple[Row, ...]) -> Finding:
    try:
        sentences, worst = _best_moves(job)
    except Impossible as problem:
        return _base(job, lines).judged(Verdict.UNSURE, FOUND, "drive-cannot-be", job.unit, why=problem)
    code = "no-position-cures" if worst is Verdict.OUT else "position-cures"
    return _base(job, lines).judged(worst, FOUND, code, best=" ".join(sentences))
