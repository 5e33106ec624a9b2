"""Fit: runout of the shaft that carries the drive, read before parts are ordered."""

from collections.abc import Mapping

from uranograph.bench.finding import Finding, Prompt, Quantity, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import format_angle, format_fine, parse_angle
from uranograph.engine.runout import DIAL, KEY, TOTAL, RunoutSetup, Shaft, measured, rounds, setup
from uranograph.stations.runout.messages import FINDINGS, say

MAX_SETS = 6
CAUTIONS = ("Turn by hand. Lift a crank with help or a hoist, its journals on clean rollers or in their own bearings.",)


def views(job: Job) -> dict[str, str]:
    """Ways of reading: place by place, or the needle's whole travel."""
    return {"places": "Place by place", "total": "Whole travel"}


def prompt(job: Job, query: Mapping[str, str]) -> Prompt:
    """Ask for the next place of this time round; then offer another time round as a repeat."""
    set_up = setup(job)
    if query.get("method") == "total":
        return Prompt(
            slot=TOTAL.next(job, "total"),
            label="TIR",
            instruction=say("watch-needle"),
            hint=say("watch-needle-hint"),
            unit=job.unit.value,
            extra={"method": "total"},
        )
    step = 360 / set_up.places
    number, wanted = _next(job, set_up)
    if wanted is None:
        once = say("read-once-round")
        instruction = once if number == 1 else say("read-several-rounds", number=number)
        number, wanted = min(number + 1, MAX_SETS), 0.0
    elif wanted >= 360:
        instruction = say("back-at-start")
    else:
        instruction = say("turn-shaft-to", wanted_deg=wanted)
    return Prompt(
        slot=DIAL.next(job, f"set-{number}"),
        label=f"Dial{f', round {number}' if number > 1 else ''}",
        instruction=instruction,
        hint=say("turn-shaft-hint", step=step),
        second=f"{wanted:g}",
        second_label="Shaft at, deg",
        unit=job.unit.value,
    )


def _next(job: Job, turn: RunoutSetup) -> tuple[int, float | None]:
    taken = rounds(job)
    if not taken:
        return 1, 0.0
    places = [deg for deg, _ in taken[-1].points]
    step = 360 / turn.places
    for n in range(turn.places + 1):
        if all(abs(n * step - deg) > step / 4 for deg in places):
            return taken[-1].number, n * step
    return taken[-1].number, None


def accept(job: Job, entry: Entry) -> None:
    """Refuse a dial or a place that cannot be.

    Raises
    ------
    InvalidInput
        With the field at fault: `text` or `second`.
    """
    if entry.spot.kind == "total":
        if not 0 <= entry.mm <= 10:
            raise InvalidInput("text", "more-than-any-dial", typed=entry.text)
        return
    number = int(entry.spot.kind.removeprefix("set-"))
    if not 1 <= number <= MAX_SETS:
        raise InvalidInput("text", "too-many-turns", most_sets=MAX_SETS)
    if abs(entry.mm) > 10:
        raise InvalidInput("text", "more-than-any-dial", typed=entry.text)
    try:
        place = parse_angle(entry.second or "")
    except InvalidInput as error:
        raise error.at("second") from error
    if not 0 <= place <= 360:
        raise InvalidInput("second", "no-place-of-turn", typed=entry.second)


def describe(reading: Reading) -> str:
    """Say where and in which round a reading was taken."""
    if reading.spot.kind == "total":
        return "whole travel, TIR"
    number = reading.spot.kind.removeprefix("set-")
    return f"dial at {reading.second} deg" + (f", round {number}" if number != "1" else "")


def describe_briefly(reading: Reading) -> str:
    """The place alone, and the round where it is not the first."""
    if reading.spot.kind == "total":
        return "TIR"
    number = reading.spot.kind.removeprefix("set-")
    return f"{reading.second}°" + (f" ({number})" if number != "1" else "")


def find(job: Job) -> Finding:
    """Say how much the shaft runs out, and how."""
    found, turn = measured(job), setup(job)
    bare = Finding(Verdict.OPEN, "", cautions=CAUTIONS)
    if found is None:
        return bare.judged(Verdict.OPEN, FINDINGS, "not-measured", begun=bool(rounds(job)))
    unit = job.unit
    base = Finding(
        Verdict.OPEN,
        "",
        quantity=Quantity(found.total_mm, found.doubt_mm, "mm", unit, label="TIR", fine=True),
        cautions=CAUTIONS,
        rows=_rows(job, found),
        columns=_columns(found),
        notes=_notes(job, found),
    )
    newest = found.rounds[-1]
    if newest.came_back_mm is not None and abs(newest.came_back_mm) > 2 * turn.division_mm:
        return base.judged(Verdict.UNSURE, FINDINGS, "did-not-come-back", job.unit, off_mm=abs(newest.came_back_mm))
    if found.spread_mm > 3 * turn.division_mm:
        return base.judged(Verdict.UNSURE, FINDINGS, "rounds-differ", job.unit, spread_mm=found.spread_mm)
    _, wanted = _next(job, turn)
    if not rounds(job):
        return base.judged(Verdict.IN, FINDINGS, "watched")
    if wanted is not None and wanted < 360:
        return base.judged(Verdict.OPEN, FINDINGS, "under-way")
    return base.judged(Verdict.IN, FINDINGS, "measured")


def _columns(found: Shaft) -> tuple[str, str, str, str]:
    names = [f"round {each.number}" if each.number else "watched" for each in found.rounds[-3:]]
    first, second, third = [*names, "", ""][:3]
    return "", first, second, third


def _rows(job: Job, found: Shaft) -> tuple[Row, ...]:
    each_found = [each.found for each in found.rounds[-3:]]

    def row(label: str, words: list[str]) -> Row:
        first, second, third = [*words, "", ""][:3]
        return Row(label, first, second, third)

    unit = job.unit
    if not found.rounds[-1].points:
        return (row("TIR", [format_fine(found.total_mm, unit)]),)
    return (
        row("TIR", [format_fine(one.total_indicated_mm, unit) if one else "" for one in each_found]),
        row("Eccentricity", [format_fine(one.eccentricity_mm, unit) if one else "" for one in each_found]),
        row("High spot, deg", [format_angle(one.high_spot_deg, 0) if one else "" for one in each_found]),
        row(
            "Out-of-round",
            [format_fine(one.ovality_mm, unit) if one and one.ovality_mm is not None else "" for one in each_found],
        ),
    )


def _notes(job: Job, found: Shaft) -> tuple[str, ...]:
    one = found.newest
    sentences: list[str] = []
    if not found.rounds[-1].points:
        sentences.append(say("whole-travel-only"))
    elif one.ovality_mm is None:
        sentences.append(say("six-places-for-ovality"))
    elif one.ovality_mm > max(setup(job).division_mm / 2, one.eccentricity_mm / 3):
        sentences.append(say("seat-out-of-round"))
    if one.total_indicated_mm > one.read_mm + setup(job).division_mm / 2:
        sentences.append(
            say("fitted-exceeds-read", job.unit, read_mm=one.read_mm, total_indicated_mm=one.total_indicated_mm)
        )
    changed = job.before_change(KEY)
    earlier = measured(changed[0]) if changed else None
    if changed is not None and earlier is not None:
        act = changed[1].in_sentence
        sentences.append(f"Before ({act}): {format_fine(earlier.total_mm, job.unit)} {job.unit.value}.")
    if setup(job).where:
        sentences.append(f"Read on {setup(job).where}.")
    return tuple(sentences)
