"""Receive: the spec card."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from pydantic import ValidationError

from uranograph.bench.finding import Finding, Row, Verdict
from uranograph.bench.forms import Filled, Form, FormReader, Typed, remembered
from uranograph.bench.job import Job
from uranograph.bench.told import FIELD_WORDS, clash
from uranograph.core.card import CARD_FIELDS, Card, CardGiven, card
from uranograph.core.errors import Impossible
from uranograph.core.lobe import CosineLobe
from uranograph.core.phase import Events
from uranograph.core.quantities import LengthUnit, format_angle, parse_angle, parse_length
from uranograph.stations.card.printed import parse_printed
from uranograph.stations.card.words import FOUND, say

LENGTH_FIELDS = ("check_lift", "intake_max_lift", "exhaust_max_lift")
OVERLAP_FIELDS = ("intake_overlap_min", "intake_overlap_max", "exhaust_overlap_min", "exhaust_overlap_max")
FIELDS = ("as_printed", *CARD_FIELDS, *LENGTH_FIELDS, *OVERLAP_FIELDS, "unit")
LINE_WORDS = FIELD_WORDS | {
    "check_lift": "checking lift",
    "intake_max_lift": "intake lift",
    "exhaust_max_lift": "exhaust lift",
}
DRAWN_LOBE = CosineLobe(centerline_deg=110, duration_deg=230, check_lift_mm=1.27, max_lift_mm=9)


@dataclass(frozen=True)
class SpecCard:
    """A card completed, with the lifts it speaks of."""

    card: Card
    check_lift_mm: float | None
    intake_max_lift_mm: float | None
    exhaust_max_lift_mm: float | None
    overlap_ranges: Mapping[str, tuple[float, float]] = field(default_factory=dict)
    printed: Mapping[str, str] = field(default_factory=dict)

    @property
    def understood(self) -> str:
        """What was taken from the card's line as printed, in words; empty where none was typed."""
        if not self.printed:
            return ""
        return say("understood", listed=", ".join(f"{LINE_WORDS[name]} {text}" for name, text in self.printed.items()))

    @property
    def events(self) -> Events | None:
        """All four events, where the card determines them."""
        c = self.card
        if c.io_btdc_deg is None or c.ic_abdc_deg is None or c.eo_bbdc_deg is None or c.ec_atdc_deg is None:
            return None
        return Events(
            io_btdc_deg=c.io_btdc_deg, ic_abdc_deg=c.ic_abdc_deg, eo_bbdc_deg=c.eo_bbdc_deg, ec_atdc_deg=c.ec_atdc_deg
        )

    def overlap_range(self, lobe: str) -> tuple[float, float] | None:
        """Least and greatest lift at overlap TDC, mm, where the card gives them."""
        return self.overlap_ranges.get(lobe)

    def lobe(self, name: str) -> CosineLobe | None:
        """The lobe as it is drawn: card middle and duration, nominal flanks; None without a centerline."""
        intake = name == "intake"
        middle = self.card.intake_centerline_deg if intake else self.card.exhaust_centerline_deg
        if middle is None:
            return None
        duration = self.card.intake_duration_deg if intake else self.card.exhaust_duration_deg
        top = (self.intake_max_lift_mm if intake else self.exhaust_max_lift_mm) or DRAWN_LOBE.max_lift_mm
        check = min(self.check_lift_mm or DRAWN_LOBE.check_lift_mm, top * 0.6)
        return CosineLobe(
            centerline_deg=middle if intake else -middle,
            duration_deg=duration or DRAWN_LOBE.duration_deg,
            check_lift_mm=check,
            max_lift_mm=top,
        )


@remembered
def read(typed: Typed, unit: LengthUnit) -> Filled[SpecCard]:
    """Read a spec card as typed; contradictions are told beside every field that takes part in one.

    Parameters
    ----------
    typed
        Text by field name, see `FIELDS`: angles in degrees, lifts in `unit` unless a suffix says otherwise.
    unit
        What bare lengths are taken in, unless the form names its own unit.

    Returns
    -------
    Sheet
        The completed card (present even when it contradicts itself) and what is wrong beside each field.

    Examples
    --------
    >>> filled = read({"intake_duration_deg": "226", "intake_centerline_deg": "107"}, LengthUnit.INCH)
    >>> filled.value.card.io_btdc_deg, filled.errors
    (6.0, {})
    """
    line = FormReader(typed)
    printed = line.take("as_printed", parse_printed) or {}
    if line.errors:
        return Filled(None, line.errors)
    # What is typed into a field of its own stands before what the line says.
    reader = FormReader({**printed, **{name: text for name, text in typed.items() if text.strip()}})
    angles = {name: reader.take(name, parse_angle) for name in CARD_FIELDS}
    own_unit = reader.unit(unit)
    lifts = {name: reader.take(name, lambda text: _lift(text, own_unit)) for name in LENGTH_FIELDS}
    ranges = _overlap_ranges(reader, own_unit)
    stated = any(value is not None for value in (*angles.values(), *lifts.values()))
    if not stated and not reader.errors and not ranges:
        reader.errors["io_btdc_deg"] = say("card-gives-events-durations")
        return Filled(None, reader.errors)
    try:
        given = CardGiven(**angles)
    except ValidationError as error:
        reader.errors |= _out_of_range(angles, error)
        return Filled(None, reader.errors)
    completed = card(given)
    for conflict in completed.conflicts:
        for name in conflict.fields:
            reader.errors.setdefault(name, clash(conflict))
    check = lifts["check_lift"]
    for name in LENGTH_FIELDS[1:]:
        top = lifts[name]
        if check is not None and top is not None and check >= top:
            reader.errors["check_lift"] = say("checking-lift-must-less")
    whole = SpecCard(completed, check, lifts["intake_max_lift"], lifts["exhaust_max_lift"], ranges, printed)
    return Filled(whole, reader.errors)


def _named(field: str) -> str:
    """A field of the card as it begins a line; what stands in capitals stays so."""
    return f"{FIELD_WORDS[field][0].upper()}{FIELD_WORDS[field][1:]}"


def _out_of_range(angles: Mapping[str, float | None], error: ValidationError) -> dict[str, str]:
    by_name: dict[str, str] = {}
    for item in error.errors(include_url=False):
        name = str(item["loc"][0])
        limit = item["msg"].replace("Input should be ", "")
        by_name[name] = say("must-degrees", named=_named(name), angles=angles[name], limit=limit)
    return by_name


def _overlap_ranges(reader: FormReader, unit: LengthUnit) -> dict[str, tuple[float, float]]:
    ranges = {}
    for lobe in ("intake", "exhaust"):
        low, high = (reader.take(f"{lobe}_overlap_{end}", lambda text: _lift(text, unit)) for end in ("min", "max"))
        if low is None and high is None:
            continue
        if low is None or high is None:
            empty = f"{lobe}_overlap_{'min' if low is None else 'max'}"
            reader.errors.setdefault(empty, say("least-greatest-used-together"))
        elif low > high:
            reader.errors[f"{lobe}_overlap_min"] = say("least-lift-above-greatest")
        else:
            ranges[lobe] = (low, high)
    return ranges


def _lift(text: str, unit: LengthUnit) -> float:
    lift = parse_length(text, unit)
    if not 0 < lift <= 40:
        raise Impossible("lift", "not-a-cam-lift", typed=text)
    return lift


FORM = Form(
    "card",
    "spec card",
    lambda typed, job: read(typed, job.unit),
    "Enter the spec card.",
    names=FIELDS,
    shelved=True,
    of_make=True,
    standard=True,
    bears=lambda value: {clash(conflict) for conflict in value.card.conflicts},
)


def card_of(job: Job) -> SpecCard | None:
    """The card of a job, where it is typed."""
    return job.form(FORM)


def find(job: Job) -> Finding:
    """Say whether the card is complete enough to judge by, and what on it clashes."""
    given = card_of(job)
    if given is None:
        return Finding(Verdict.OPEN).judged(Verdict.OPEN, FOUND, "no-card", begun=False)
    found = given.card
    rows = tuple(
        Row(
            _named(name),
            format_angle(value),
            note="follows" if name in found.derived else "given",
        )
        for name in (*CARD_FIELDS, "overlap_deg")
        if (value := getattr(found, name)) is not None
    )
    if found.conflicts:
        return Finding(Verdict.OPEN, rows=rows).judged(
            Verdict.UNSURE, FOUND, "contradicts-itself", why=clash(found.conflicts[0])
        )
    ranges = given.overlap_ranges
    if found.intake_centerline_deg is None and found.exhaust_centerline_deg is None and ranges:
        phrase = " and ".join(ranges)
        return Finding(Verdict.OPEN, rows=rows).judged(Verdict.IN, FOUND, "lifts-only", lobes=phrase)
    if found.intake_centerline_deg is None and found.exhaust_centerline_deg is None:
        return Finding(Verdict.OPEN, rows=rows).judged(Verdict.OPEN, FOUND, "more-needed")
    middles = [
        f"{word} {format_angle(value)}"
        for word, value in (("intake", found.intake_centerline_deg), ("exhaust", found.exhaust_centerline_deg))
        if value is not None
    ]
    return Finding(Verdict.OPEN, rows=rows).judged(Verdict.IN, FOUND, "holds-together", middles=", ".join(middles))
