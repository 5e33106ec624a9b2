"""Prove: the room between valves and pistons, and between the valves, at the position now."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench import shop_limits
from uranograph.bench.finding import Finding, Prompt, Quantity, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.memo import memoized
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit, format_angle, format_length, parse_angle
from uranograph.core.verdict import judge
from uranograph.engine.description import Tappets, engine_of
from uranograph.engine.valves import (
    BIND,
    CLAY,
    DROP,
    LIFT,
    LOBES,
    MEET,
    OF_VALVES,
    SPRING,
    Valve,
    number_of,
    valve_angles,
    valves,
)
from uranograph.phase import clearance
from uranograph.phase import offers as adjust
from uranograph.phase import valve_gaps as valve_lifts
from uranograph.phase.valve_gaps import Near
from uranograph.stations.clearance.at_lift import BOUND, Left, left_at_lift
from uranograph.stations.clearance.messages import FINDINGS, say

WAYS = {
    "drop": "Drop at TDC",
    "spring": "Light springs",
    "clay": "Clay",
    "lift": "Lift at angles",
    "meet": "Valve to valve",
    "bind": "Coil bind",
}
OF_WAY = {"drop": DROP, "spring": SPRING, "clay": CLAY, "lift": LIFT}
CAUTIONS = (
    "Turn by hand, plugs out, no force: a stop means look. Light springs only while valves are pushed to a piston.",
    "The engine's manual and the piston maker's sheet outrank these limits.",
)
PUMPED_UP = (
    "A pumped-up hydraulic lifter holds its valve open: let it bleed down, or fit a solid stand-in, before clearances are read or "
    "anything is turned."
)
MAX_ROOM_MM, MAX_LIFT_MM, MAX_DEG = 60.0, 40.0, 60.0
# Angles around the smallest clearance: before overlap TDC for an exhaust valve, after it for an intake.
USUAL_AT_DEG = {"intake": (0, 5, 10, 15, 20), "exhaust": (0, -5, -10, -15, -20)}
LIFT_AT_DEG = tuple(range(-40, 41, 10))


def views(job: Job) -> dict[str, str]:
    """The ways of reading; two valves that run along the bore cannot meet."""
    stand = valve_angles(job)
    meet = stand is not None and (stand.intake_deg > 0 or stand.exhaust_deg > 0)
    return {way: words for way, words in WAYS.items() if meet or way != "meet"}


def prompt(job: Job, query: Mapping[str, str]) -> Prompt:
    """Ask for the next valve of a way, or the one asked for."""
    way = query.get("method", "")
    way = way if way in views(job) else "drop"
    if way == "meet":
        return _ask(job, MEET.next(job, "meet"), "meet", way, say("meet-label"), say("meet-down"), say("meet-hint"))
    if way == "bind":
        return _ask_bind(job, query.get("item", ""))
    valve = _wanted(job, way, query.get("item", ""))
    slot = OF_WAY[way].next(job, f"{way}-{valve.number}")
    cylinder, lobe = valve.name.split()
    if way == "drop":
        down = say("push-down", cylinder=cylinder, lobe=lobe)
        return _ask(job, slot, str(valve.number), way, say("drop-label", name=valve.name), down, say("push-down-hint"))
    if way == "clay":
        down, hint = say("clay-down", name=valve.name), say("clay-hint")
        return _ask(job, slot, str(valve.number), way, say("clay-label", name=valve.name), down, hint)
    read = {parse_angle(r.second or "0") for r in OF_WAY[way].taken(job, f"{way}-{valve.number}")}
    if way == "spring":
        places: tuple[int, ...] = USUAL_AT_DEG[valve.lobe]
        round_it = f"{format_angle(places[0], 0)} to {format_angle(places[-1], 0)}"
        words = (
            say("spring-label", name=valve.name),
            say("spring-down", name=valve.name),
            say("spring-hint", round=round_it),
        )
    else:
        places = LIFT_AT_DEG
        words = say("lift-label", name=valve.name), say("lift-down", name=valve.name), say("lift-hint")
    at = next((place for place in places if place not in read), places[-1])
    return _ask(job, slot, str(valve.number), way, *words, at=f"{at:g}")


def _ask(
    job: Job, slot: str, item: str, way: str, label: str, instruction: str, hint: str, at: str | None = None
) -> Prompt:
    return Prompt(
        slot=slot,
        label=label,
        instruction=instruction,
        hint=hint,
        second=at,
        second_label="" if at is None else say("at-label"),
        unit=job.unit.value,
        extra={"method": way, "item": item},
    )


def _ask_bind(job: Job, wanted: str) -> Prompt:
    kinds = [f"{what}-{lobe}" for lobe in LOBES for what in BOUND]
    kind = wanted if wanted in kinds else next((k for k in kinds if not BIND.values(job, k)), kinds[0])
    what, _, lobe = kind.partition("-")
    down = {
        "fitted": say("bind-fitted", lobe=lobe),
        "solid": say("bind-solid", lobe=lobe),
        "retainer": say("bind-retainer", lobe=lobe),
    }[what]
    return _ask(job, BIND.next(job, kind), kind, "bind", _bind_label(what, lobe), down, say("bind-hint"))


def _bind_label(what: str, lobe: str) -> str:
    name = lobe.capitalize()
    return {
        "fitted": say("fitted-label", lobe=name),
        "solid": say("solid-label", lobe=name),
        "retainer": say("retainer-label", lobe=name),
    }[what]


def _wanted(job: Job, way: str, item: str) -> Valve:
    """The valve asked for; else the first lobe of the cylinder last read that is not read, else the next cylinder's."""
    all_of = valves(job)
    if item.isdecimal() and 1 <= int(item) <= len(all_of):
        return all_of[int(item) - 1]
    if way == "spring" and (taken := SPRING.taken(job)):
        here = number_of(taken[-1])
        if 1 <= here <= len(all_of) and len(SPRING.taken(job, f"spring-{here}")) < 5:
            return all_of[here - 1]
    if way == "lift" and (taken := LIFT.taken(job)):
        here = number_of(taken[-1])
        if 1 <= here <= len(all_of) and len(LIFT.taken(job, f"lift-{here}")) < len(LIFT_AT_DEG):
            return all_of[here - 1]
    read = {number_of(reading) for reading in OF_WAY[way].taken(job)}
    return next((valve for valve in all_of if valve.number not in read), all_of[0])


def accept(job: Job, entry: Entry) -> None:
    """Refuse a valve that is not there, and lengths and angles that cannot be.

    Raises
    ------
    InvalidInput
        With `text` or `second` at fault.
    """
    length, kind = entry.mm, entry.spot.kind
    if length < 0:
        raise InvalidInput("text", "drop-below-nothing")
    if any(slot.has(entry.slot) for slot in OF_VALVES) and not 1 <= number_of(entry) <= len(valves(job)):
        raise InvalidInput("text", "no-such-valve", count=len(valves(job)))
    if LIFT.has(entry.slot) or SPRING.has(entry.slot):
        if not (entry.second or "").strip():
            raise InvalidInput("second", "angle-missing")
        try:
            at = parse_angle(entry.second or "")
        except InvalidInput as error:
            raise error.at("second") from error
        if abs(at) > MAX_DEG:
            raise InvalidInput("second", "angle-not-near-overlap", typed=entry.second)
    if LIFT.has(entry.slot) and length > MAX_LIFT_MM:
        raise InvalidInput("text", "lift-unlikely", typed=entry.text)
    if length > (200.0 if BIND.of_kind(kind) else MAX_ROOM_MM):
        raise InvalidInput("text", "no-such-room", typed=entry.text)
    what, _, lobe = kind.partition("-")
    other = {"solid": "fitted", "fitted": "solid"}.get(what)
    if other and (values := BIND.values(job, f"{other}-{lobe}")):
        if what == "solid" and length >= values[-1]:
            raise InvalidInput("text", "solid-not-below-fitted", fitted_mm=values[-1])
        if what == "fitted" and length <= values[-1]:
            raise InvalidInput("text", "fitted-not-above-solid", solid_mm=values[-1])


def describe(reading: Reading) -> str:
    """Say what was measured."""
    kind = reading.spot.kind
    what, _, lobe = kind.partition("-")
    if kind == "meet":
        return say("by-meet")
    if BIND.of_kind(kind):
        return _bind_label(what, lobe)
    number = number_of(reading)
    name = f"{(number + 1) // 2} {LOBES[(number - 1) % 2]}"
    if what == "drop":
        return say("by-drop", name=name)
    if what == "clay":
        return say("by-clay", name=name)
    at = _at_words(reading.second or "0")
    return say("by-spring", name=name, at=at) if what == "spring" else say("by-lift", name=name, at=at)


def _at_words(text: str) -> str:
    deg = parse_angle(text)
    return f"{format_angle(abs(deg), 0)} {'BTDC' if deg < 0 else 'ATDC'}"


def describe_briefly(reading: Reading) -> str:
    """The valve and the way alone."""
    what = reading.spot.kind.partition("-")[0]
    number = number_of(reading)
    return (
        f"{(number + 1) // 2} {LOBES[(number - 1) % 2][:2]} {what}" if number else reading.spot.kind.replace("-", " ")
    )


@memoized
def nears(job: Job) -> tuple[Near, ...]:
    """Smallest measured clearance at the cam's current position."""
    found = [near for number in clearance.read_valves(job) if (near := valve_lifts.now(job, number))]
    meet = clearance.meeting(job)
    return (*found, *([meet] if meet else []))


def cautions_of(job: Job) -> tuple[str, ...]:
    """Hazards of this station; the hydraulic-lifter warning unless they are known to be out."""
    engine = engine_of(job)
    solid = engine is not None and engine.tappets in (Tappets.SOLID, Tappets.STAND_IN)
    return CAUTIONS if solid else (*CAUTIONS, PUMPED_UP)


def find(job: Job) -> Finding:
    """Judge the smallest measured clearance at the cam's current position."""
    bare = Finding(Verdict.OPEN, cautions=cautions_of(job))
    read, found, left = clearance.read_valves(job), nears(job), left_at_lift(job)
    if not read and not found and not left:
        begun = any(slot.taken(job) for slot in (LIFT, MEET, BIND))
        return bare.judged(Verdict.OPEN, FINDINGS, "nothing-read", begun=begun)
    if not found:
        return _nothing_follows(job, bare, read)
    near = valve_lifts.worst(found)
    base = Finding(
        Verdict.OPEN,
        quantity=Quantity(near.gap_mm, near.doubt_mm, "mm", job.unit, label=f"at {near.name}"),
        cautions=cautions_of(job),
        rows=(*(_row(job, each) for each in found), *(_left_row(job, each) for each in left)),
        columns=("", "least", "room", "over"),
        notes=_notes(job),
    )
    tight = next((each for each in left if each.verdict is Verdict.OUT), None)
    said: dict[str, Any] = {
        "name": _capital(near.name),
        "gap_mm": near.gap_mm,
        "least_mm": near.least_mm,
        "at": _at(near),
    }
    what = "piston" if near.lobe else "each other"
    if near.verdict is Verdict.OUT and near.gap_mm <= 0 and near.lobe:
        return base.judged(Verdict.OUT, FINDINGS, "meets", job.unit, **said, what="piston")
    if near.verdict is Verdict.OUT:
        return base.judged(
            Verdict.OUT, FINDINGS, "too-near", job.unit, **said, what=f"its {what}" if near.lobe else what
        )
    if tight is not None:
        said = {"name": tight.label, "gap_mm": tight.left_mm, "least_mm": tight.least_mm, "at": ""}
        return base.judged(Verdict.OUT, FINDINGS, "too-near", job.unit, **said, what="the stop")
    if near.verdict is Verdict.UNSURE:
        return _unsure(job, base, near, said)
    close = next((each for each in left if each.verdict is Verdict.UNSURE), None)
    if close is not None:
        said = {"name": close.label, "gap_mm": close.left_mm, "least_mm": close.least_mm, "at": ""}
        return base.judged(Verdict.UNSURE, FINDINGS, "near-the-limit", job.unit, **said)
    missing = [lobe for lobe in LOBES if not any(each.lobe == lobe for each in found)]
    if missing:
        return base.judged(Verdict.OPEN, FINDINGS, "within-so-far", job.unit, **said, missing=missing[0])
    return base.judged(Verdict.IN, FINDINGS, "room-enough", job.unit, **said)


def _unsure(job: Job, base: Finding, near: Near, said: dict[str, Any]) -> Finding:
    if near.disagrees:
        return base.judged(Verdict.UNSURE, FINDINGS, "ways-disagree", job.unit, **said)
    lifts = valve_lifts.lifting(job, near.lobe) if near.lobe else None
    clear = judge(near.gap_mm, near.doubt_mm, least=near.least_mm) is Verdict.IN
    if clear and lifts is not None and not lifts.placed:
        return base.judged(Verdict.UNSURE, FINDINGS, "not-degreed", job.unit, **said)
    return base.judged(Verdict.UNSURE, FINDINGS, "near-the-limit", job.unit, **said)


def _nothing_follows(job: Job, bare: Finding, read: tuple[int, ...]) -> Finding:
    if valve_lifts.crank_of(job) is None:
        return bare.judged(Verdict.OPEN, FINDINGS, "stroke-and-rod-missing")
    lobes = {valves(job)[number - 1].lobe for number in read} or set(LOBES)
    lacking = next((lobe for lobe in LOBES if lobe in lobes and valve_lifts.lifting(job, lobe) is None), "intake")
    return bare.judged(Verdict.OPEN, FINDINGS, "lift-missing", lobe=lacking)


def _capital(name: str) -> str:
    return f"{name[0].upper()}{name[1:]}"


def _at(near: Near) -> str:
    if near.at_deg is None:
        return ""
    return (
        say("at-before-overlap", deg_deg=near.at_deg)
        if near.at_deg < 0
        else say("at-after-overlap", deg_deg=near.at_deg)
    )


def _row(job: Job, near: Near) -> Row:
    unit = job.unit
    at = "" if near.at_deg is None else f"{format_angle(near.at_deg, 0)} deg, "
    ways = {"drop": "by its drop", "spring": "by springs", "clay": "by clay", "meet": "at overlap"}
    return Row(
        near.name,
        _mm(near.least_mm, unit),
        _mm(near.gap_mm, unit),
        _mm(near.gap_mm - near.least_mm, unit),
        note=f"{at}{ways[near.way]}",
    )


def _left_row(job: Job, left: Left) -> Row:
    return Row(
        left.label,
        _mm(left.least_mm, job.unit),
        _mm(left.left_mm, job.unit),
        _mm(left.left_mm - left.least_mm, job.unit),
    )


def _mm(mm: float, unit: LengthUnit) -> str:
    return format_length(mm, unit).replace("-", "−")


def _notes(job: Job) -> tuple[str, ...]:
    notes: list[str] = []
    for lobe in LOBES:
        lifts = valve_lifts.lifting(job, lobe)
        name = lobe.capitalize()
        if lifts is not None:
            notes.append(
                {
                    "sweep": say("lift-from-sweep", lobe=name),
                    "swept-before": say("lift-from-swept-before", lobe=name),
                    "angles": say("lift-from-angles", lobe=name),
                    "card": say("lift-from-card", lobe=name, pct=valve_lifts.NOMINAL_PCT),
                }[lifts.source]
            )
        elif any(BIND.values(job, f"{what}-{lobe}") for what in BOUND):
            notes.append(say("greatest-lift-missing", lobe=lobe))
    if listed := too_near(job):
        notes.append(say("positions-too-near", listed=", ".join(listed)))
    intake, exhaust = (shop_limits.limit_text(job.shop_limits, valve_lifts.LIMIT_OF[lobe], job.unit) for lobe in LOBES)
    return (*notes, say("lash-left-out"), say("limits-said", intake=intake, exhaust=exhaust))


def too_near(job: Job) -> tuple[str, ...]:
    """The positions of the drive at which something would come too near, in words."""
    found: list[str] = []
    for cam in adjust.cams(job):
        try:
            offers = adjust.offers(job, cam)
        except InvalidInput:
            continue
        found += [
            f"{'; '.join(offer.words)} ({_mm(offer.near.gap_mm, job.unit)} at {offer.near.name})"
            for offer in offers
            if offer.near is not None and offer.near.verdict is Verdict.OUT and offer.choice.moves
        ]
    return tuple(found[:MAX_LISTED])


MAX_LISTED = 6
