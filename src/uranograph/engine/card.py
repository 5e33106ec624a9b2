"""The spec card of a job: as printed, and as the dial would read it."""

from collections.abc import Mapping
from dataclasses import replace

from pydantic import ValidationError

from uranograph.bench import shop_limits
from uranograph.bench.forms import Filled, Form, Typed, remembered
from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.bench.worded import FIELD_WORDS, clash
from uranograph.core.card import CARD_FIELDS, Card, CardInput, card
from uranograph.core.quantities import LengthUnit
from uranograph.engine.card_fields import CardFields, PrintedLine
from uranograph.engine.card_model import EVENT_FIELDS, SpecCard
from uranograph.engine.description import engine_of
from uranograph.engine.messages import say

LOBES = ("intake", "exhaust")


FIELDS = (*PrintedLine.names(), *CardFields.names(), "unit")


# The lift of the durations that cards give beside those at the checking lift, 0.200 inch.
HIGH_LIFT_MM = 5.08


# A centerline this near the midpoint of the printed events is a peak centerline; further off, one of them is wrong.
ROUNDED_DEG, PEAK_APART_DEG = 0.5, 3.5


# Allowed difference of the printed valve lift and lobe lift times ratio less lash.
LIFTS_AGREE_MM = 0.08


@remembered
def read(
    typed: Typed, unit: LengthUnit, window_mm: float = shop_limits.LIMITS["single_lift"].start
) -> Filled[SpecCard]:
    """Read a spec card as typed; contradictions are told beside every field that takes part in one.

    Parameters
    ----------
    typed
        Text by field name, see `FIELDS`: angles in degrees, lifts in `unit` unless a suffix says otherwise.
    unit
        What bare lengths are taken in, unless the form names its own unit.
    window_mm
        How far either way a single figure of lift at overlap allows, mm.

    Returns
    -------
    Filled
        The completed card (present even when it contradicts itself) and what is wrong beside each field.

    Examples
    --------
    >>> filled = read({"intake_duration_deg": "226", "intake_centerline_deg": "107"}, LengthUnit.INCH)
    >>> filled.value.card.io_btdc_deg, filled.errors
    (6.0, {})
    """
    line = PrintedLine.read(typed)
    if line.value is None:
        return Filled(None, line.errors)
    printed = line.value.as_printed
    # A filled-in field overrides the line.
    form, errors = CardFields.partial({**printed, **{name: text for name, text in typed.items() if text.strip()}}, unit)
    angles = {name: form.values[name] for name in CARD_FIELDS}
    seat = {
        name: form.values[name] for lobe in LOBES for name in (f"{lobe}_seat_duration_deg", f"{lobe}_200_duration_deg")
    }
    ranges = _overlap_ranges(form, errors, window_mm)
    tops = {"intake": form.intake_max_lift, "exhaust": form.exhaust_max_lift}
    stated = any(value is not None for value in (*angles.values(), form.check_lift, *tops.values()))
    if not stated and not errors and not ranges:
        return Filled(None, {"io_btdc_deg": say("card-figures-missing")})
    peaks = _of_peaks(angles) if form.centerline_of != "events" else {}
    dropped = _follow_from_peaks(angles, peaks)
    try:
        given = CardInput(**{name: None if name in dropped else value for name, value in angles.items()})
    except ValidationError as error:
        return Filled(None, errors | _out_of_range(angles, error))
    completed = card(given)
    # Each contradiction is named once, beside the first figure that takes part in it.
    for conflict in completed.conflicts:
        free = next((name for name in conflict.fields if name not in errors), conflict.fields[0])
        errors.setdefault(free, clash(conflict))
    check = form.check_lift
    if check is not None and any(top is not None and check >= top for top in tops.values()):
        errors["check_lift"] = say("checking-lift-above-max-lift")
    _refuse_durations(errors, completed, seat)
    both_events = any(None not in (angles[opens], angles[closes]) for opens, closes in EVENT_FIELDS.values())
    return Filled(
        SpecCard(
            completed,
            check,
            tops["intake"],
            tops["exhaust"],
            ranges,
            printed,
            peaks,
            both_events,
            form.centerline_of,
            form.lift_at,
            form.check_at,
            _by_lobe(form.values, "{}_valve_lift"),
            _by_lobe(form.values, "{}_lash"),
            form.seat_lift,
            _by_lobe(seat, "{}_seat_duration_deg"),
            _by_lobe(seat, "{}_200_duration_deg"),
        ),
        errors,
    )


def _by_lobe(values: Mapping[str, float | None], name: str) -> dict[str, float]:
    """Those of both lobes that are given, by lobe."""
    return {lobe: value for lobe in LOBES if (value := values[name.format(lobe)]) is not None}


def _of_peaks(angles: Mapping[str, float | None]) -> dict[str, float]:
    """Centerlines printed with events whose midpoint is a degree or two away: they are peak centerlines."""
    found = {}
    for lobe, (opens, closes) in EVENT_FIELDS.items():
        near, far, printed = angles[opens], angles[closes], angles[f"{lobe}_centerline_deg"]
        if near is None or far is None or printed is None:
            continue
        off = abs(printed - (180 + far - near) / 2)
        if ROUNDED_DEG < off <= PEAK_APART_DEG:
            found[lobe] = printed
    return found


def _follow_from_peaks(angles: Mapping[str, float | None], peaks: Mapping[str, float]) -> set[str]:
    """Figures by peak centerline, left out when the card gives events."""
    dropped = {f"{lobe}_centerline_deg" for lobe in peaks}
    if not peaks:
        return dropped
    middles = {}
    for lobe, (opens, closes) in EVENT_FIELDS.items():
        near, far = angles[opens], angles[closes]
        if near is not None and far is not None:
            middles[lobe] = (180 + far - near) / 2
    by_peaks = {**middles, **peaks}
    if len(by_peaks) == 2:
        separation = (by_peaks["intake"] + by_peaks["exhaust"]) / 2
        for name, wanted in (("lobe_separation_cam_deg", separation), ("advance_deg", separation - by_peaks["intake"])):
            stated = angles[name]
            if stated is not None and abs(stated - wanted) <= ROUNDED_DEG + 1e-9:
                dropped.add(name)
    return dropped


def _refuse_durations(errors: dict[str, str], found: Card, seat: Mapping[str, float | None]) -> None:
    """A lobe is wider at its seat than at the checking lift, and narrower at 0.200 inch."""
    for lobe in LOBES:
        at_check = getattr(found, f"{lobe}_duration_deg")
        for name, widest in ((f"{lobe}_seat_duration_deg", False), (f"{lobe}_200_duration_deg", True)):
            stated = seat[name]
            if stated is not None and not 0 < stated < 500:
                errors[name] = say(
                    "card-angle-out-of-range", named=fields_named(name), angles=stated, limit="between 0 and 500"
                )
            elif stated is not None and at_check is not None and (stated >= at_check) == widest:
                errors[name] = (
                    say("high-lift-duration-too-large", typed=stated, at_check=at_check)
                    if widest
                    else say("seat-duration-too-small", typed=stated, at_check=at_check)
                )


def fields_named(field: str) -> str:
    """A card field's name at the start of a line; capitals are kept."""
    words = FIELD_WORDS.get(field) or field.removesuffix("_deg").replace("_", " ")
    return f"{words[0].upper()}{words[1:]}"


def _out_of_range(angles: Mapping[str, float | None], error: ValidationError) -> dict[str, str]:
    by_name: dict[str, str] = {}
    for item in error.errors(include_url=False):
        name = str(item["loc"][0])
        limit = item["msg"].replace("Input should be ", "")
        by_name[name] = say("card-angle-out-of-range", named=fields_named(name), angles=angles[name], limit=limit)
    return by_name


def _overlap_ranges(form: CardFields, errors: dict[str, str], window_mm: float) -> dict[str, tuple[float, float]]:
    """The lift at overlap of each lobe as a range; one figure alone is the middle of a window."""
    ranges = {}
    for lobe in LOBES:
        names = f"{lobe}_overlap_min", f"{lobe}_overlap_max"
        low, high = (form.values[name] for name in names)
        if low is None and high is None:
            continue
        if low is None or high is None:
            if not errors.keys() & set(names):
                single = (low or 0.0) + (high or 0.0)
                ranges[lobe] = (max(0.0, single - window_mm), single + window_mm)
        elif low > high:
            errors[names[0]] = say("overlap-lift-limits-crossed")
        else:
            ranges[lobe] = (low, high)
    return ranges


FORM = Form(
    "card",
    "spec card",
    lambda typed, job: read(typed, job.unit, shop_limits.value(job.shop_limits, "single_lift")),
    "Enter the spec card.",
    names=FIELDS,
    inputs=(*PrintedLine.fields(), *CardFields.fields()),
    groups=(*PrintedLine.groups(), *CardFields.groups()),
    shelved=True,
    of_make=True,
    standard=True,
    bears=lambda value: {clash(conflict) for conflict in value.card.conflicts},
)


def printed_card(job: Job) -> SpecCard | None:
    """The card of a job as it is printed, where it is typed."""
    return job.form(FORM)


@memoized
def card_of(job: Job) -> SpecCard | None:
    """The card of a job with its lifts as the dial shows them; a lift that cannot be said for the dial is none."""
    printed = printed_card(job)
    if printed is None or not (printed.lift_at or printed.check_at or printed.valve_lifts_mm):
        return printed
    return replace(
        printed,
        check_lift_mm=_at_dial(job, printed, printed.check_lift_mm, printed.check_at, "intake"),
        intake_max_lift_mm=_top_at_dial(job, printed, "intake"),
        exhaust_max_lift_mm=_top_at_dial(job, printed, "exhaust"),
        lift_at="",
        check_at="",
    )


def _top_at_dial(job: Job, printed: SpecCard, lobe: str) -> float | None:
    engine = engine_of(job)
    if lobe in printed.valve_lifts_mm and (printed.max_lift_mm(lobe) is None or (engine and engine.dial_at_valve)):
        return _at_dial(job, printed, printed.valve_lifts_mm[lobe], "valve", lobe)
    return _at_dial(job, printed, printed.max_lift_mm(lobe), printed.lift_at, lobe)


def _at_dial(job: Job, printed: SpecCard, mm: float | None, where: str, lobe: str) -> float | None:
    """A lift of the card as the dial shows it: valve lift is lobe lift times ratio less lash."""
    engine = engine_of(job)
    if mm is None or not where or engine is None or (where == "valve") == engine.dial_at_valve:
        return mm
    if engine.ratio is None:
        return None
    lash = printed.lash_mm.get(lobe, 0.0)
    lift = mm * engine.ratio - lash if engine.dial_at_valve else (mm + lash) / engine.ratio
    return lift if lift > 0 else None


def valve_lift(job: Job, lobe: str) -> float | None:
    """The greatest lift of a valve by the card, mm; None where it does not follow.

    Where a card does not say what its lifts are of and rockers make them differ, the larger is taken: valves come nearer so.
    """
    printed, engine = printed_card(job), engine_of(job)
    if printed is None or engine is None:
        return None
    if lobe in printed.valve_lifts_mm:
        return printed.valve_lifts_mm[lobe]
    top = printed.max_lift_mm(lobe)
    if top is None or printed.lift_at == "valve":
        return top
    if not printed.lift_at and engine.dial_at_valve:
        return top * max(1.0, engine.rocker_ratio or 1.0)
    lift = 0.0 if engine.ratio is None else top * engine.ratio - printed.lash_mm.get(lobe, 0.0)
    return lift if lift > 0 else None


def lifts_clash(job: Job) -> str:
    """Contradictions among lobe lift, ratio, lash and valve lift, as sentences; empty if none."""
    printed, engine = printed_card(job), engine_of(job)
    if printed is None or engine is None or engine.ratio is None or printed.lift_at == "valve":
        return ""
    for lobe, stated in printed.valve_lifts_mm.items():
        top, lash = printed.max_lift_mm(lobe), printed.lash_mm.get(lobe, 0.0)
        if top is None:
            continue
        wanted = top * engine.ratio - lash
        if abs(wanted - stated) > LIFTS_AGREE_MM:
            return say(
                "card-lifts-contradict",
                job.unit,
                lobe=lobe,
                ratio=engine.ratio,
                stated_mm=stated,
                wanted_mm=wanted,
                top_mm=top,
                lash_mm=lash,
            )
    return ""
