"""Prove: valve lash, set at the fewest crank stops at which every valve rests on its base circle."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from uranograph.bench.finding import Finding, Prompt, Quantity, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.memo import memoized
from uranograph.core.errors import InvalidInput, Missing
from uranograph.core.lash_stops import Stop
from uranograph.core.quantities import LengthUnit, format_angle, format_length, parse_length
from uranograph.core.verdict import EXACT, judge
from uranograph.engine.description import engine_of
from uranograph.engine.lash import FOUND_AS, PRELOAD, SET
from uranograph.engine.valves import Valve, number_of, valves
from uranograph.stations.lash.messages import FINDINGS, say
from uranograph.stations.lash.stops import BY_ORDER, Stops, place_words, stops_of
from uranograph.stations.lash.wanted import MAX_LASH_MM, Wanted, turns_of, wanted_of

CAUTIONS = (
    "Cold or hot as the engine's manual says: a warm engine burns. Turn by hand; hands clear of springs and gears.",
)


@dataclass(frozen=True)
class Lash:
    """A valve as it was set: the bracket of its lash, mm, or its turns of preload, and the verdict."""

    valve: Valve
    low: float
    high: float
    verdict: Verdict
    text: str


@memoized
def stops(job: Job) -> Stops | None:
    """The stops for this cam and this lash."""
    wanted = wanted_of(job)
    return stops_of(job, wanted.lash_mm, wanted.margin_deg) if wanted else None


@memoized
def turned_to(job: Job) -> list[tuple[Stop | None, tuple[Valve, ...]]]:
    """Stop by stop the valves that are set there; all of them without a stop where none is known."""
    found = stops(job)
    by_name = {valve.name: valve for valve in valves(job)}
    if found is None or not found.stops:
        return [(None, tuple(by_name.values()))]
    return [(stop, tuple(by_name[name] for name in stop.valves if name in by_name)) for stop in found.stops]


@memoized
def as_set(job: Job) -> dict[int, Lash]:
    """Every valve as it was last set, by its number."""
    wanted = wanted_of(job)
    if wanted is None:
        return {}
    slot = SET if wanted.turns is None else PRELOAD
    found = {}
    there = {valve.number: valve for valve in valves(job)}
    for reading in slot.taken(job):
        valve = there.get(number_of(reading))
        if valve is not None:
            found[valve.number] = _judged(job, valve, reading, wanted)
    return found


def _judged(job: Job, valve: Valve, reading: Reading, wanted: Wanted) -> Lash:
    if wanted.turns is not None:
        turns = turns_of(reading.text)
        low, high = wanted.turns - wanted.turns_within, wanted.turns + wanted.turns_within
        return Lash(valve, turns, turns, judge(turns, 0.0, low, high), say("turns-words", turns=turns))
    low, high = bracket_mm(reading, job.unit)
    spec, within = wanted.of_lobe(valve.lobe), wanted.tolerance_mm
    verdict = judge((low + high) / 2, (high - low) / 2, spec - within, spec + within)
    # The blade of the lash that is wanted goes and the next does not: so it is set, however coarse the blades are.
    if verdict is Verdict.UNSURE and abs(low - spec) <= EXACT:
        verdict = Verdict.IN
    text = f"{_mm(low, job.unit)} to {_mm(high, job.unit)}"
    return Lash(valve, low, high, verdict, text)


def bracket_mm(reading: Reading, unit: LengthUnit) -> tuple[float, float]:
    """Blades that bracket the lash, mm; the next blade of a set if none was tried."""
    goes = reading.mm
    step = 0.0508 if unit is LengthUnit.INCH else 0.05
    return goes, parse_length(reading.second, reading.unit) if reading.second else goes + step


def prompt(job: Job, query: Mapping[str, str]) -> Prompt:
    """Ask for the next valve of the stop where the crank is, or the one asked for."""
    wanted, done = wanted_of(job), as_set(job)
    as_found = query.get("method") == "found"
    item = query.get("item", "")
    at, valve = _next(job, {number_of(r) for r in FOUND_AS.taken(job)} if as_found else set(done), item)
    engine = engine_of(job)
    where = say("lobe-turned-away")
    if at is not None and engine is not None:
        where = say("at-stop", place=_place(job, at))
    extra = {"item": str(valve.number), "method": "found" if as_found else "set"}
    spec = _wanted_words(job, wanted, valve.lobe)
    if wanted is not None and wanted.turns is not None:
        return Prompt(
            slot=PRELOAD.next(job, f"preload-{valve.number}"),
            label=say("preload-label", name=valve.name),
            instruction=say("read-preload", where=where, name=valve.name),
            hint=say("preload-hint", wanted=spec),
            unit="turns",
            extra=extra | {"method": "set"},
        )
    slot, kind = (FOUND_AS, "found") if as_found else (SET, "set")
    return Prompt(
        slot=slot.next(job, f"{kind}-{valve.number}"),
        label=say("lash-as-found-goes", name=valve.name) if as_found else say("lash-as-set-goes", name=valve.name),
        instruction=say("read-lash", where=where, name=valve.name),
        hint=say("read-lash-hint", wanted=spec),
        second="",
        second_label=say("lash-does-not-go"),
        unit=job.unit.value,
        extra=extra,
    )


def views(job: Job) -> dict[str, str]:
    """As set, and as it was found before."""
    wanted = wanted_of(job)
    return {} if wanted is not None and wanted.turns is not None else {"set": "As set", "found": "As found"}


def _next(job: Job, done: set[int], item: str) -> tuple[Stop | None, Valve]:
    groups = turned_to(job)
    every = [(stop, valve) for stop, there in groups for valve in there]
    if item.isdecimal():
        for stop, valve in every:
            if valve.number == int(item):
                return stop, valve
    left = ((stop, valve) for stop, valve in every if valve.number not in done)
    return next(left, None) or _worst_of(job, every)


def _worst_of(job: Job, every: list[tuple[Stop | None, Valve]]) -> tuple[Stop | None, Valve]:
    """The first valve that is out, else the first that cannot be told, else the first of all."""
    found = as_set(job)
    for verdict in (Verdict.OUT, Verdict.UNSURE):
        for stop, valve in every:
            if valve.number in found and found[valve.number].verdict is verdict:
                return stop, valve
    return every[0]


def _place(job: Job, stop: Stop) -> str:
    engine, found = engine_of(job), stops(job)
    if engine is None or found is None:
        raise Missing("engine, found")
    cylinder, deg = place_words(engine, stop)
    if cylinder:
        return say("place-tdc", cylinder=cylinder)
    return say("place-after-firing-tdc", crank_deg=deg, first=found.first)


def _wanted_words(job: Job, wanted: Wanted | None, lobe: str) -> str:
    if wanted is None:
        return "not said"
    if wanted.turns is not None:
        return say("turns-words", turns=wanted.turns)
    unit = job.unit
    state = "hot" if wanted.hot else "cold"
    return f"{_mm(wanted.of_lobe(lobe), unit)} ± {_mm(wanted.tolerance_mm, unit)} {unit.value}, {state}"


def _both_wanted(job: Job, wanted: Wanted) -> str:
    """Specified lash of intake and exhaust, where they differ."""
    if wanted.turns is not None or wanted.lash_mm[0] == wanted.lash_mm[1]:
        return _wanted_words(job, wanted, "intake")
    return say(
        "both-wanted", intake=_wanted_words(job, wanted, "intake"), exhaust=_wanted_words(job, wanted, "exhaust")
    )


def _mm(mm: float, unit: LengthUnit) -> str:
    return format_length(mm, unit)


def accept(job: Job, entry: Entry) -> None:
    """Refuse a valve that is not there, and lash or preload that cannot be.

    Raises
    ------
    InvalidInput
        With `text` or `second` at fault.
    """
    number = number_of(entry)
    if not 1 <= number <= len(valves(job)):
        raise InvalidInput("text", "no-such-valve-here", count=len(valves(job)))
    if PRELOAD.has(entry.slot):
        try:
            turns_of(entry.text)
        except InvalidInput as error:
            raise error.at("text") from error
        return
    goes = entry.mm
    if goes < 0:
        raise InvalidInput("text", "lash-below-nothing")
    if goes > MAX_LASH_MM:
        raise InvalidInput("text", "lash-past-any", typed=entry.text)
    if entry.second:
        try:
            stops_at = parse_length(entry.second, entry.unit)
        except InvalidInput as error:
            raise error.at("second") from error
        if stops_at <= goes:
            raise InvalidInput("second", "blades-upside-down", goes_mm=goes, stops_mm=stops_at)
        if stops_at > MAX_LASH_MM:
            raise InvalidInput("second", "lash-past-any", typed=entry.second)


def describe(reading: Reading) -> str:
    """Say which valve it was, and whether as found or as set."""
    number = number_of(reading)
    name = f"{(number + 1) // 2} {('intake', 'exhaust')[(number - 1) % 2]}"
    kind = reading.spot.kind.partition("-")[0]
    return {
        "set": say("lash-as-set", name=name),
        "found": say("lash-as-found", name=name),
        "preload": say("preload-of", name=name),
    }[kind]


def describe_briefly(reading: Reading) -> str:
    """The valve alone."""
    number = number_of(reading)
    return f"{(number + 1) // 2} {('in', 'ex')[(number - 1) % 2]}"


def find(job: Job) -> Finding:
    """Judge every valve that is set, and say where the crank is stopped for the others."""
    wanted, found = wanted_of(job), stops(job)
    bare = Finding(Verdict.OPEN, cautions=CAUTIONS, notes=_notes(job, wanted, found))
    if wanted is None:
        return bare.judged(Verdict.OPEN, FINDINGS, "nothing-read", begun=False)
    done, there = as_set(job), valves(job)
    if not done:
        if found is None or not found.stops:
            return bare.judged(Verdict.OPEN, FINDINGS, "valve-by-valve", count=len(there), begun=False)
        if found.source == BY_ORDER:
            apart = 2 * 720 / len(found.stops)
            return bare.judged(
                Verdict.OPEN, FINDINGS, "in-firing-order", count=len(found.stops), apart_deg=apart, begun=False
            )
        return bare.judged(Verdict.OPEN, FINDINGS, "stops-known", count=len(found.stops), begun=False)
    rows = tuple(_row(job, wanted, done[number], _found_as(job, number)) for number in sorted(done))
    base = Finding(
        Verdict.OPEN,
        cautions=CAUTIONS,
        rows=rows,
        columns=("", "wanted", "as set", "as found"),
        notes=bare.notes,
    )
    worst = min(done.values(), key=lambda each: (_rank(each.verdict), each.low))
    base = _measured(job, base, worst, wanted)
    spec = _wanted_words(job, wanted, worst.valve.lobe)
    name = _capital(worst.valve.name)
    if worst.verdict is Verdict.OUT:
        middle, target = (
            (worst.low + worst.high) / 2,
            wanted.of_lobe(worst.valve.lobe) if wanted.turns is None else wanted.turns,
        )
        # The sign is reversed: more preload is tighter, more lash is looser.
        tight = middle < target if wanted.turns is None else middle > target
        code = "too-tight" if tight else "too-loose"
        if code == "too-tight":
            return base.judged(Verdict.OUT, FINDINGS, "too-tight", name=name, found=worst.text, wanted=spec)
        return base.judged(Verdict.OUT, FINDINGS, "too-loose", name=name, found=worst.text, wanted=spec)
    if worst.verdict is Verdict.UNSURE:
        return base.judged(Verdict.UNSURE, FINDINGS, "bracket-straddles", name=name, found=worst.text, wanted=spec)
    if len(done) < len(there):
        stop, valve = _next(job, set(done), "")
        place = valve.name if stop is None else _place(job, stop)
        return base.judged(Verdict.OPEN, FINDINGS, "within-so-far", set=len(done), count=len(there), stop=place)
    return base.judged(Verdict.IN, FINDINGS, "all-set", count=len(there), wanted=_both_wanted(job, wanted))


def _rank(verdict: Verdict) -> int:
    return (Verdict.OUT, Verdict.UNSURE, Verdict.IN).index(verdict)


def _measured(job: Job, base: Finding, worst: Lash, wanted: Wanted) -> Finding:
    if wanted.turns is not None:
        return base
    middle, half = (worst.low + worst.high) / 2, (worst.high - worst.low) / 2
    return replace(base, quantity=Quantity(middle, half, "mm", job.unit, shown=False))


def _found_as(job: Job, number: int) -> str:
    taken = FOUND_AS.taken(job, f"found-{number}")
    if not taken:
        return ""
    low, high = bracket_mm(taken[-1], job.unit)
    return f"{_mm(low, job.unit)} to {_mm(high, job.unit)}"


def _row(job: Job, wanted: Wanted, one: Lash, as_found: str) -> Row:
    spec = (
        say("turns-words", turns=wanted.turns)
        if wanted.turns is not None
        else _mm(wanted.of_lobe(one.valve.lobe), job.unit)
    )
    return Row(one.valve.name, spec, one.text, as_found, note=one.verdict.value)


def _capital(name: str) -> str:
    return f"{name[0].upper()}{name[1:]}"


def _notes(job: Job, wanted: Wanted | None, found: Stops | None) -> tuple[str, ...]:
    if wanted is None:
        return ()
    notes: list[str] = []
    if found is None:
        notes.append(say("no-stops"))
    elif found.trouble:
        notes.append(found.trouble)
    elif found.source == BY_ORDER:
        notes.append(say("stops-by-firing-order"))
    else:
        margin = found.margin_deg
        notes.append(
            say("stops-from-sweeps", margin=margin)
            if found.source == "sweep"
            else say("stops-from-card", margin=margin)
        )
        marks = rim_marks(job)
        if len({stop.crank_deg % 360 for stop in found.stops}) == 1 and found.stops[0].crank_deg % 360 == 0:
            notes.append(say("one-mark", first=found.first))
        elif wanted.rim_mm and marks:
            listed = ", ".join(marks)
            notes.append(say("on-the-rim", job.unit, rim_mm=wanted.rim_mm, listed=listed, first=found.first))
    if not wanted.with_lash:
        notes.append(say("card-without-lash"))
    return tuple(notes)


def rim_marks(job: Job) -> list[str]:
    """Where the marks of the stops lie on the balancer's rim: degrees of its turn, and length round it."""
    wanted, found = wanted_of(job), stops(job)
    if wanted is None or not wanted.rim_mm or found is None:
        return []
    places = sorted({round(stop.crank_deg % 360, 2) for stop in found.stops} - {0.0})
    circle = wanted.rim_mm * 3.141592653589793
    return [f"{format_angle(deg)} deg ({_mm(circle * deg / 360, job.unit)} {job.unit.value})" for deg in places]
