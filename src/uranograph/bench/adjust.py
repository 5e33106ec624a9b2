"""Degree: choosing the adjuster position that cures the error, and comparing each try with its prediction."""

import json
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

from uranograph.bench import degree, drive, tries
from uranograph.bench.finding import Finding, Row, Verdict
from uranograph.bench.job import Entry, Job, Reading
from uranograph.bench.place import LOBES
from uranograph.core.adjust import Adjusted, Choice, Move, adjust
from uranograph.core.chain import ChainGiven, chain
from uranograph.core.errors import Impossible
from uranograph.core.phase import Events, move
from uranograph.core.quantities import format_angle

KEY = tries.STATION
CAUTIONS = (
    "Springs unloaded or valves clear before the cam is moved; both hands clear of gears. Prove piston-to-valve clearance after it.",
)


@dataclass(frozen=True)
class Offer:
    """One way to set a cam's adjusters, with what it would bring."""

    cam: str
    number: int
    choice: Choice
    words: tuple[str, ...]
    comes_apart: tuple[str, ...]
    events: Events | None
    within: bool


@dataclass(frozen=True)
class Step:
    """A line of the history: a position of the cams, what was found there, and how the move to it turned out."""

    number: int
    words: str
    errors: dict[str, tuple[float, float]]
    told: str
    view: Job


def cams(job: Job) -> list[str]:
    """The cams that can be moved: one, or intake and exhaust."""
    return list(LOBES) if degree.apart(job) else ["both"]


@lru_cache(maxsize=128)
def searched(job: Job, cam: str) -> Adjusted | None:
    """Search this cam's adjusters for the smallest remaining error at the position now.

    Raises
    ------
    Impossible
        When the adjusters make too many combinations.
    """
    now = tries.at_position(job)
    phase = degree.phases(now).get(cam)
    if phase is None or job.drive is None:
        return None
    given = drive.given(fitted_now(job), cam, phase[0])
    return adjust(given) if given else None


def fitted_now(job: Job) -> drive.Drive:
    """The drive with its labelled choices as the tries have left them."""
    assert job.drive is not None
    adjusters = list(job.drive.adjusters)
    for one in tries.tries(job):
        for made in one.moves:
            for k, each in enumerate(adjusters):
                if each.name == made["name"] and each.adjuster.kind == "choices" and _has(each, str(made["to"])):
                    adjusters[k] = drive.Described(
                        each.name, each.on, each.adjuster.model_copy(update={"fitted": made["to"]})
                    )
    return drive.Drive(tuple(adjusters))


def _has(each: drive.Described, label: str) -> bool:
    assert each.adjuster.kind == "choices"
    return any(option.label == label for option in each.adjuster.options)


@lru_cache(maxsize=256)
def offers(job: Job, cam: str) -> tuple[Offer, ...]:
    """The best ways for one cam, best first."""
    found = searched(job, cam)
    if found is None:
        return ()
    moving = fitted_now(job).moving(cam)
    start = degree.expected_events(tries.at_position(job))
    again = _fit_again(job, cam, moving)
    offered = []
    for number, choice in enumerate([*([again] if again else []), *found.choices]):
        words = tuple(tries.move_words(moving[m.adjuster].name, m.from_, m.to) for m in choice.moves)
        apart = tuple(dict.fromkeys(drive.PARTS_OF[moving[m.adjuster].adjuster.kind] for m in choice.moves))
        intake = 0.0 if cam == "exhaust" else choice.shift_deg
        exhaust = 0.0 if cam == "intake" else choice.shift_deg
        then = move(start, intake, exhaust) if start else None
        within = abs(choice.remaining_error_deg) <= job.tolerance_deg
        offered.append(Offer(cam, number, choice, words or ("leave it as it is",), apart, then, within))
    return tuple(offered)


def _fit_again(job: Job, cam: str, moving: list[drive.Described]) -> Choice | None:
    """The last try once more, where what was measured is not what was chosen."""
    steps, made = history(job), tries.tries(job)
    if not made or cam not in steps[-1].errors or cam not in steps[-2].errors:
        return None
    last, error = made[-1], steps[-1].errors[cam][0]
    shift = error - (steps[-2].errors[cam][0] - last.shift_deg)
    names = [each.name for each in moving]
    if cam not in ("both", *last.lobes) or " as predicted" in steps[-1].told or not shift:
        return None
    moves = [
        Move(adjuster=names.index(str(one["name"])), from_="as it stands", to=str(one["to"]), shift_deg=shift)
        for one in last.moves
        if one["name"] in names
    ]
    return Choice(moves=moves, shift_deg=shift, remaining_error_deg=error - shift) if len(moves) == 1 else None


def entry_for(job: Job, cam: str, number: int) -> Entry:
    """The log entry that makes an offer a try.

    Raises
    ------
    Impossible
        When there is no such offer any more, or it moves nothing.
    """
    offered = offers(job, cam)
    if not 0 <= number < len(offered):
        raise Impossible("choice", "This position is not offered any more: look at the list again.")
    choice = offered[number].choice
    if not choice.moves:
        raise Impossible("choice", "This leaves everything as it is: there is nothing to try.")
    moving = fitted_now(job).moving(cam)
    moves = [
        {"name": moving[m.adjuster].name, "from": m.from_, "to": m.to, "shift_deg": round(m.shift_deg, 6)}
        for m in choice.moves
    ]
    kind = "try" if cam == "both" else f"try-{cam}"
    slot = f"{kind}.{job.next_number(KEY, kind)}.chosen"
    return Entry(KEY, slot, f"{choice.shift_deg:.6g}", unit=job.unit, note=json.dumps(moves, ensure_ascii=False))


@lru_cache(maxsize=256)
def history(job: Job) -> tuple[Step, ...]:
    """Every position the cams have had, oldest first, with how each try turned out."""
    made = tries.tries(job)
    steps: list[Step] = []
    for number in range(len(made) + 1):
        view = tries.at_position(job, number)
        phases = degree.phases(view)
        words = "as found" if number == 0 else f"{made[number - 1].words} ({_way(made[number - 1].shift_deg)})"
        told = _turned_out(job, made[number - 1], steps[-1].errors, phases) if number else ""
        steps.append(Step(number, words, phases, told, view))
    return tuple(steps)


def _way(shift_deg: float) -> str:
    return f"{'advance' if shift_deg > 0 else 'retard'} {format_angle(abs(shift_deg))}"


def _turned_out(
    job: Job, one: tries.Try, before: dict[str, tuple[float, float]], after: dict[str, tuple[float, float]]
) -> str:
    cam = "both" if not degree.apart(job) else one.lobes[0]
    if cam not in before:
        return "It was not measured before the move."
    if cam not in after:
        return f"Measure again: {format_angle(before[cam][0] - one.shift_deg)} late is predicted."
    change = before[cam][0] - after[cam][0]
    return tries.compared(one.shift_deg, change, before[cam][1] + after[cam][1])


def effects(job: Job) -> list[str]:
    """What is not of the builder's making: a lowered cam, a longer chain, each with its estimated retard."""
    known = job.drive
    if known is None or not known.cam_radius_mm:
        return []
    told = []
    if known.elongation_pct and known.tight_span_mm:
        given = ChainGiven(
            tight_span_mm=known.tight_span_mm, cam_radius_mm=known.cam_radius_mm, elongation_pct=known.elongation_pct
        )
        late = chain(given).retard_deg
        told.append(f"The chain, {known.elongation_pct:g} % longer, makes the cam about {format_angle(late)} deg late.")
    if known.center_drop_mm:
        given = ChainGiven(
            tight_span_mm=known.tight_span_mm or 1,
            cam_radius_mm=known.cam_radius_mm,
            center_drop_mm=known.center_drop_mm,
        )
        late = chain(given).retard_deg
        told.append(
            f"Block or head cut by {known.center_drop_mm:.2f} mm makes the cam about {format_angle(late)} deg late."
        )
    return told


def accept(job: Job, entry: Entry) -> None:
    """Refuse a try that cannot be.

    Raises
    ------
    Impossible
        When its shift is no number.
    """
    try:
        float(entry.text)
    except ValueError as error:
        raise Impossible("choice", "Choose one of the positions listed.") from error


def describe(reading: Reading) -> str:
    """Say what was tried."""
    moves = json.loads(reading.note or "[]")
    words = [tries.move_words(made["name"], made["from"], made["to"]) for made in moves]
    return "tried " + ("; ".join(words) or "a position")


def find(job: Job) -> Finding:
    """Say which position to choose, or that none is needed."""
    made = tries.tries(job)
    phases = degree.phases(tries.at_position(job))
    lines = tuple(Row(f"{step.number}. {step.words}", "", _errors(step.errors), "") for step in history(job))
    begun = bool(made) or job.latest("drive") is not None
    if phases and all(abs(error) <= job.tolerance_deg for error, _ in phases.values()):
        return _advised(job, phases, lines)
    if job.drive is None:
        return Finding(
            Verdict.OPEN,
            "What this drive offers is not described yet.",
            next_step="Describe its adjusters.",
            begun=begun,
            cautions=CAUTIONS,
        )
    if not phases:
        told = "The cam was moved. Degree it again to see what it did." if made else "Degree the cam first."
        return Finding(Verdict.OPEN, told, "", "Measure at this position.", begun=begun, cautions=CAUTIONS, rows=lines)
    return _advised(job, phases, lines)


def _errors(errors: Mapping[str, tuple[float, float]]) -> str:
    return ", ".join(
        f"{'' if cam == 'both' else f'{cam} '}{format_angle(abs(e))} {'late' if e > 0 else 'early'}"
        for cam, (e, _) in errors.items()
    )


def _advised(job: Job, phases: dict[str, tuple[float, float]], lines: tuple[Row, ...]) -> Finding:
    sentences, worst = [], Verdict.IN
    for cam, (error, _) in phases.items():
        try:
            offered = offers(job, cam)
        except Impossible as problem:
            return Finding(Verdict.UNSURE, problem.message, "Cannot tell", "Describe the drive again.", rows=lines)
        named = "" if cam == "both" else f"{cam.capitalize()} cam: "
        if abs(error) <= job.tolerance_deg:
            sentences.append(f"{named or 'The cam is '}within tolerance; nothing needs to move.")
            continue
        if not offered:
            worst = Verdict.OUT
            sentences.append(f"{named}nothing described here moves it.")
            continue
        best = offered[0]
        left = best.choice.remaining_error_deg
        way = (
            f"leaves it {format_angle(abs(left))} {'late' if left > 0 else 'early'}"
            if abs(left) >= 0.05
            else "cures it"
        )
        sentences.append(f"{named}{'; '.join(best.words)} {way}.")
        if not best.within:
            worst = Verdict.OUT
        elif worst is Verdict.IN:
            worst = Verdict.OPEN
    title = {
        Verdict.IN: "In: no move is needed",
        Verdict.OPEN: "A position cures it",
        Verdict.OUT: "Out: no position brings it within tolerance",
    }[worst]
    next_step = "Print the build sheet." if worst is Verdict.IN else "Choose a position, move it, degree again."
    told = history(job)[-1].told
    return Finding(
        worst,
        " ".join(sentences),
        title,
        next_step,
        cautions=CAUTIONS,
        rows=lines,
        notes=(*([told] if told else []), *effects(job)),
    )
