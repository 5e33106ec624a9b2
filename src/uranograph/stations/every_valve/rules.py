"""Prove: each valve beside the others of its kind."""

from collections.abc import Mapping
from dataclasses import replace

from uranograph.bench import shop_limits
from uranograph.bench.finding import Finding, Prompt, Quantity, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.memo import memoized
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit, format_length
from uranograph.core.verdict import judge
from uranograph.engine.degree_wheel import crank_angle, wheel_of
from uranograph.engine.description import Tappets, engine_of
from uranograph.engine.tdc import check_reader
from uranograph.engine.valves import Valve, number_of
from uranograph.phase.placing import likely_side
from uranograph.phase.sweep_points import check_lift
from uranograph.phase.valve_by_valve import (
    EVENT,
    KEY,
    LIFT,
    LOBES,
    Apart,
    apart,
    are_placed,
    banks_named,
    can_compare,
    expected_deg,
    measured,
    offset_deg,
    valves,
)
from uranograph.stations.every_valve.messages import FINDINGS, say

CAUTIONS = ("Turn by hand, plugs out, no force: a stop means look.",)
VIEWS = {"lift": "Greatest lift", "timing": "Opens and closes"}
MAX_LIFT_MM = 40.0
# How a valve that differs is said to: less or more, early or late, shorter or longer.
WAYS = {"lift": ("less", "more"), "timing": ("early", "late"), "duration": ("shorter", "longer")}


def views(job: Job) -> dict[str, str]:
    """What is read of each valve."""
    return VIEWS


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Ask for the next valve that is not read, or for the one chosen."""
    if not can_compare(job):
        return None
    asked = query.get("method") or ("timing" if _timing_waits(job) else "lift")
    timing = asked == "timing" and wheel_of(job) is not None and offset_deg(job, valves(job)[0]) is not None
    valve = _wanted(job, query.get("item", ""), timing)
    extra = {"method": "timing" if timing else "lift", "item": str(valve.number)}
    if not timing:
        return Prompt(
            slot=LIFT.next(job, f"lift-{valve.number}"),
            label=say("lift-label", name=_capital(valve.name)),
            instruction=say("lift-down", name=valve.name),
            hint=say("lift-hint"),
            unit=job.unit.value,
            extra=extra,
        )
    what = "closes" if EVENT.taken(job, f"opens-{valve.number}") and _closing_is_next(job, valve) else "opens"
    at, lift, name = expected_deg(job, valve, what), check_lift(job), _capital(valve.name)
    label = {
        "opens": say("opens-label", job.unit, name=name, lift_mm=lift),
        "closes": say("closes-label", job.unit, name=name, lift_mm=lift),
    }
    down = {
        "opens": say("opens-down", job.unit, name=valve.name, lift_mm=lift),
        "closes": say("closes-down", job.unit, name=valve.name, lift_mm=lift),
    }
    return Prompt(
        slot=EVENT.next(job, f"{what}-{valve.number}"),
        label=label[what],
        instruction=down[what],
        hint=say("event-hint"),
        side=likely_side(job, at + (offset_deg(job, valve) or 0.0)),
        by_wheel=True,
        extra=extra,
    )


def _closing_is_next(job: Job, valve: Valve) -> bool:
    """Whether the opening was read and the closing after it was not."""
    opened, closed = (EVENT.taken(job, f"{what}-{valve.number}") for what in ("opens", "closes"))
    return not closed or closed[-1].seq < opened[-1].seq


def _wanted(job: Job, item: str, timing: bool) -> Valve:
    every = valves(job)
    if item.isdecimal() and 1 <= int(item) <= len(every):
        return every[int(item) - 1]
    found = measured(job)
    left = [each.valve for each in found if (each.duration_deg if timing else each.lift_mm) is None]
    return left[0] if left else every[0]


def swept_as(job: Job, item: str) -> str:
    """What a live sweep of a valve is called; empty where its angles could not be placed."""
    every = valves(job)
    valve = every[int(item) - 1] if item.isdecimal() and 1 <= int(item) <= len(every) else every[0]
    ready = wheel_of(job) is not None and offset_deg(job, valve) is not None
    return f"valve-{valve.number}" if ready else ""


def accept(job: Job, entry: Entry) -> None:
    """Refuse a valve that is not there, and a lift or an angle that cannot be.

    Raises
    ------
    InvalidInput
        With `text` or `side` at fault.
    """
    if not 1 <= number_of(entry) <= len(valves(job)):
        raise InvalidInput("text", "valve-not-there", count=len(valves(job)))
    if LIFT.has(entry.slot):
        if not 0 < entry.mm <= MAX_LIFT_MM:
            raise InvalidInput("text", "valve-lift-unlikely", typed=entry.text)
        return
    mounted = wheel_of(job)
    if mounted is None:
        raise InvalidInput("text", "wheel-missing")
    if offset_deg(job, valves(job)[number_of(entry) - 1]) is None:
        raise InvalidInput("text", "valve-order-missing")
    crank_angle(mounted, entry.text, entry.side)
    check_reader(job, entry)
    if entry.approach == "backward":
        raise InvalidInput("text", "valve-event-backward")


def label_entry(job: Job, entry: Entry) -> Entry:
    """The reading with the name of its valve, where its cylinder has another than its number."""
    number, every = number_of(entry), valves(job)
    name = every[number - 1].name if 1 <= number <= len(every) else ""
    return replace(entry, about=name) if name and name != _numbered(number) else entry


def _numbered(number: int) -> str:
    return f"{(number + 1) // 2} {LOBES[(number - 1) % 2]}"


def describe(reading: Reading) -> str:
    """Say which valve was read, and what of it."""
    name = reading.about or _numbered(number_of(reading))
    what = reading.spot.kind.partition("-")[0]
    return {
        "lift": say("by-lift", name=name),
        "opens": say("by-opens", name=name),
        "closes": say("by-closes", name=name),
    }[what]


def describe_briefly(reading: Reading) -> str:
    """The valve alone."""
    cylinder, _, lobe = (reading.about or _numbered(number_of(reading))).partition(" ")
    return f"{cylinder} {lobe[:2]} {reading.spot.kind.partition('-')[0]}"


def find(job: Job) -> Finding:
    """Judge the valve that differs most from the middle of its kind."""
    bare = Finding(Verdict.OPEN, cautions=CAUTIONS)
    if not can_compare(job):
        return bare.judged(Verdict.OPEN, FINDINGS, "nothing-to-compare", begun=False)
    every = measured(job)
    lifted = [each for each in every if each.lift_mm is not None]
    timed = [each for each in every if each.duration_deg is not None]
    if not lifted and not timed:
        begun = bool(EVENT.taken(job))
        return bare.judged(Verdict.OPEN, FINDINGS, "nothing-read", begun=begun)
    limits, judged = _limits(job), verdicts(job)
    base = replace(bare, rows=tuple(_rows(job)), columns=("", "middle", "lift", "diff"), notes=_notes(job))
    # What is furthest past its limit is said.
    ranked = sorted(judged, key=lambda each: -(abs(each.off) - each.uncertainty) / limits[each.what])
    out = next((each for each in ranked if judged[each] is Verdict.OUT), None)
    worst = out or read_again(job) or max(judged, key=lambda each: abs(each.off) / limits[each.what], default=None)
    if worst is not None:
        base = replace(base, quantity=_quantity(job, worst))
    if out is not None and _bleeds(job):
        return base.judged(Verdict.UNSURE, FINDINGS, "lifters-bleed", name=_capital(out.name))
    if out is not None:
        return _out_finding(job, base, out, limits[out.what])
    if (near := read_again(job)) is not None:
        return base.judged(Verdict.UNSURE, FINDINGS, "near-the-limit", name=_capital(near.name))
    if timed and not are_placed(job):
        return base.judged(Verdict.UNSURE, FINDINGS, "tdc-missing")
    count = len(every)
    if len(lifted) < count:
        return base.judged(Verdict.OPEN, FINDINGS, "within-so-far", read=len(lifted), valves=count)
    if _timing_waits(job):
        return base.judged(Verdict.OPEN, FINDINGS, "timing-so-far", read=len(timed), valves=count)
    if timed and not banks_named(job):
        return base.judged(Verdict.IN, FINDINGS, "timing-not-compared", valves=count)
    if timed:
        return base.judged(Verdict.IN, FINDINGS, "all-alike", valves=count)
    return base.judged(Verdict.IN, FINDINGS, "lifts-alike", valves=count)


def _timing_waits(job: Job) -> bool:
    """Whether all lifts are read, and of the timing, once it was begun, some is not; what was done since ends it."""
    found = measured(job)
    if any(each.lift_mm is None for each in found) or all(each.duration_deg is not None for each in found):
        return False
    changed = job.before_change(KEY)
    return bool(EVENT.taken(job)) or (changed is not None and bool(EVENT.taken(changed[0])))


@memoized
def verdicts(job: Job) -> dict[Apart, Verdict]:
    """Each figure of each valve against its limit; no timing where it cannot be placed."""
    limits = _limits(job)
    parts = [each for each in apart(job) if not each.off_deg or are_placed(job)]
    return {each: judge(abs(each.off), each.uncertainty, most=limits[each.what]) for each in parts}


def read_again(job: Job) -> Apart | None:
    """The figure that is nearest to its limit of those that cannot be told."""
    limits = _limits(job)
    near = [each for each, verdict in verdicts(job).items() if verdict is Verdict.UNSURE]
    return max(near, key=lambda each: abs(each.off) / limits[each.what], default=None)


def _limits(job: Job) -> dict[str, float]:
    lift, timing = (shop_limits.value(job.shop_limits, name) for name in ("valve_lift_apart", "valve_timing_apart"))
    return {"lift": lift, "timing": timing, "duration": timing}


def _bleeds(job: Job) -> bool:
    """Whether the lifters are hydraulic: they give while they are read, one more than the other."""
    engine = engine_of(job)
    return engine is not None and engine.tappets == Tappets.HYDRAULIC


def _out_finding(job: Job, base: Finding, part: Apart, limit: float) -> Finding:
    """Out: the valve that is furthest past its limit."""
    way, name = WAYS[part.what][part.off > 0], _capital(part.name)
    if part.what == "lift":
        return base.judged(
            Verdict.OUT,
            FINDINGS,
            "lift-apart",
            job.unit,
            name=name,
            lobe=part.lobe,
            way=way,
            apart_mm=abs(part.off),
            limit_mm=limit,
        )
    if part.what == "timing":
        return base.judged(
            Verdict.OUT,
            FINDINGS,
            "timing-apart",
            name=name,
            lobe=part.lobe,
            way=way,
            apart_deg=part.off,
            limit_deg=limit,
        )
    return base.judged(
        Verdict.OUT, FINDINGS, "duration-apart", name=name, lobe=part.lobe, way=way, apart_deg=part.off, limit_deg=limit
    )


def _quantity(job: Job, part: Apart) -> Quantity:
    label = f"{WAYS[part.what][part.off > 0]} at {part.name}"
    if part.off_deg:
        return Quantity(part.off, part.uncertainty, "deg", label=f"crank deg {label}", unsigned=True)
    return Quantity(part.off, part.uncertainty, "mm", job.unit, label=label, unsigned=True, fine=True)


def _rows(job: Job) -> list[Row]:
    found = []
    middles = {(each.what, each.lobe): each.middle for each in apart(job)}
    for each in measured(job):
        if each.lift_mm is None and each.duration_deg is None:
            continue
        middle = middles.get(("lift", each.valve.lobe))
        off = None if each.lift_mm is None or middle is None else each.lift_mm - middle
        note = ""
        if each.middle_deg is not None and each.duration_deg is not None:
            note = say("middle-note", middle_deg=each.middle_deg, duration_deg=each.duration_deg)
        found.append(
            Row(
                each.valve.name,
                "" if middle is None else _mm(middle, job.unit),
                "" if each.lift_mm is None else _mm(each.lift_mm, job.unit),
                "" if off is None else _mm(off, job.unit),
                note=note,
            )
        )
    return found


def _notes(job: Job) -> tuple[str, ...]:
    lift = shop_limits.limit_text(job.shop_limits, "valve_lift_apart", job.unit)
    timing = shop_limits.limit_text(job.shop_limits, "valve_timing_apart", job.unit)
    notes = [say("limits-note", lift=lift, timing=timing)]
    if EVENT.taken(job):
        notes.insert(0, say("timing-note") if banks_named(job) else say("banks-not-named"))
    return tuple(notes)


def _mm(mm: float, unit: LengthUnit) -> str:
    return format_length(mm, unit).replace("-", "−")


def _capital(name: str) -> str:
    return f"{name[0].upper()}{name[1:]}"
