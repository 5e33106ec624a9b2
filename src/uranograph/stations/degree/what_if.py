"""What-if of a cam move: events, trapped compression and valve clearance, side by side."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from uranograph.bench.job import Job
from uranograph.charts.cycle import cycle_chart
from uranograph.core.breathing import BreathingInput, breathing
from uranograph.core.errors import InvalidInput, Missing
from uranograph.core.phase import Events
from uranograph.core.quantities import format_angle, format_length, parse_number
from uranograph.engine import positions
from uranograph.engine.card import card_of
from uranograph.engine.card_model import DRAWN_LOBE
from uranograph.engine.description import engine_of
from uranograph.phase import banks, clearance, judgment
from uranograph.phase.drawing import what_if_lobes
from uranograph.phase.target import Aim, target_of

MAX_DEG = 15.0
EVENTS = ("io_btdc_deg", "ic_abdc_deg", "eo_bbdc_deg", "ec_atdc_deg")
LABELS = {
    "io_btdc_deg": "Intake opens BTDC",
    "ic_abdc_deg": "Intake closes ABDC",
    "eo_bbdc_deg": "Exhaust opens BBDC",
    "ec_atdc_deg": "Exhaust closes ATDC",
    "intake_centerline_deg": "Intake centerline",
    "exhaust_centerline_deg": "Exhaust centerline",
    "overlap_deg": "Overlap",
    "stroke_mm": "Effective stroke",
    "ratio": "Trapped compression",
    "stroke_least_mm": "Effective stroke, at the least",
    "ratio_least": "Trapped compression, at the least",
    "blow_down_deg": "Blow-down, EO to BDC",
}


@dataclass(frozen=True)
class CamPosition:
    """State of a cam: known events and centerlines, crank degrees, and the cylinder figures."""

    known: Mapping[str, float]

    def moved(self, intake_deg: float, exhaust_deg: float) -> "CamPosition":
        """The same with either lobe advanced."""
        by = {
            "io_btdc_deg": intake_deg,
            "ic_abdc_deg": -intake_deg,
            "eo_bbdc_deg": exhaust_deg,
            "ec_atdc_deg": -exhaust_deg,
            "intake_centerline_deg": -intake_deg,
            "exhaust_centerline_deg": exhaust_deg,
        }
        return CamPosition({name: value + by[name] for name, value in self.known.items()})


def _of_events(events: Events) -> CamPosition:
    known = {name: getattr(events, name) for name in EVENTS}
    middles = {
        "intake_centerline_deg": events.intake_centerline_deg,
        "exhaust_centerline_deg": events.exhaust_centerline_deg,
    }
    return CamPosition(known | middles)


def by_card(job: Job) -> CamPosition | None:
    """The cam by its card; None without a card."""
    card = card_of(job)
    if card is None:
        return None
    names = (*EVENTS, "intake_centerline_deg", "exhaust_centerline_deg")
    return CamPosition({name: value for name in names if (value := getattr(card.card, name)) is not None})


def now(job: Job) -> CamPosition | None:
    """The cam as it was measured, or as its card has it where it was not; None where neither is known."""
    view, card = positions.at_position(job), by_card(job)
    try:
        found = judgment.expected_events(view)
        phases = judgment.phases(view)
    except InvalidInput:
        return card
    if found is not None:
        return _of_events(found)
    if card is None:
        return None
    late = [phases.get("both") or phases.get(lobe) or (0.0, 0.0) for lobe in ("intake", "exhaust")]
    return card.moved(-late[0][0], -late[1][0])


def _target(job: Job, card: CamPosition | None) -> CamPosition | None:
    target = target_of(job)
    if card is None or target.aim is Aim.CARD:
        return None
    return card.moved(*((target.advance(job, lobe) or 0.0) for lobe in ("intake", "exhaust")))


def context(job: Job, asked: Mapping[str, str]) -> Mapping[str, Any]:
    """Context of the what-if page: card, target, now and after the move."""
    job = banks.chosen(job, asked)
    start, card, apart = now(job), by_card(job), judgment.has_independent_cams(job)
    intake = requested_move(asked.get("intake", ""))
    exhaust = requested_move(asked.get("exhaust", "")) if apart else intake
    found: dict[str, Any] = {
        "start": start is not None and bool(start.known),
        "apart": apart,
        "reach": MAX_DEG,
        "intake_deg": intake,
        "exhaust_deg": exhaust,
    }
    if start is None or not start.known:
        return found
    columns = {"card": card, "target": _target(job, card), "now": start, "then": start.moved(intake, exhaust)}
    shown = {name: standing for name, standing in columns.items() if standing is not None}
    then = shown["then"]
    found |= {
        "columns": list(shown),
        "lines": _lines(job, shown),
        "gaps": _gaps(job, intake, exhaust),
        "lacking": _lacking(job),
        "from_seat": seat_closes_later(job) is not None,
        "figure": cycle_chart(what_if_lobes(job, then.known), "What if").judged(banks.find(job).state),
    }
    return found


def data(job: Job, asked: Mapping[str, str]) -> Mapping[str, Any]:
    """The page's figures for machines: crank degrees, mm and ratios, by column; empty where no cam is known."""
    found = context(job, asked)
    if not found["start"]:
        return {"columns": {}}
    start, card, then = now(job), by_card(job), None
    if start is None:
        raise Missing("start")
    then = start.moved(found["intake_deg"], found["exhaust_deg"])
    columns = {"card": card, "target": _target(job, card), "now": start, "then": then}
    return {
        "advanced_deg": {"intake": found["intake_deg"], "exhaust": found["exhaust_deg"]},
        "columns": {name: _cylinder(job, standing) for name, standing in columns.items() if standing is not None},
    }


def requested_move(text: str) -> float:
    """Slider position, crank degrees, clamped to its range."""
    try:
        return max(-MAX_DEG, min(MAX_DEG, parse_number(text)))
    except InvalidInput:
        return 0.0


def _lines(job: Job, shown: Mapping[str, CamPosition]) -> list[tuple[str, list[str]]]:
    of_cylinder = {name: _cylinder(job, standing) for name, standing in shown.items()}
    lines = []
    for name, label in LABELS.items():
        values = [_written(job, name, of_cylinder[column].get(name)) for column in shown]
        if any(values):
            lines.append((label, values))
    return lines


def _written(job: Job, name: str, value: float | None) -> str:
    if value is None:
        return ""
    if name.endswith("_mm"):
        return format_length(value, job.unit)
    return f"{value:.2f}" if name.startswith("ratio") else format_angle(value)


def _cylinder(job: Job, standing: CamPosition) -> dict[str, float]:
    """Events and what follows from them for the cylinder, as far as the engine is described."""
    found = dict(standing.known)
    if {"io_btdc_deg", "ec_atdc_deg"} <= found.keys():
        found["overlap_deg"] = found["io_btdc_deg"] + found["ec_atdc_deg"]
    if "eo_bbdc_deg" in found:
        found["blow_down_deg"] = found["eo_bbdc_deg"]
    if "ic_abdc_deg" not in found:
        return found
    later = seat_closes_later(job)
    at_seat = _trapped(job, found["ic_abdc_deg"] + (later or 0.0))
    found |= at_seat
    if later is None:
        # The valve is still open at the checking lift: what is trapped lies between these.
        latest = _trapped(job, found["ic_abdc_deg"] + _nominal_seat(job))
        found |= {
            f"{name.removesuffix('_mm')}_least{'_mm' if name.endswith('_mm') else ''}": v for name, v in latest.items()
        }
    return found


def _trapped(job: Job, closes_abdc_deg: float) -> dict[str, float]:
    """Stroke that compresses and what it comes to, with the intake valve shut there; empty where the engine is not described."""
    engine = engine_of(job)
    if engine is None or engine.crank is None:
        return {}
    try:
        given = BreathingInput(
            **engine.crank.model_dump(),
            bore_mm=engine.bore_mm or 1.0,
            static_ratio=engine.compression or 2.0,
            ic_abdc_deg=closes_abdc_deg,
        )
        breath = breathing(given)
    except ValueError:
        # The cam is so far out that no charge is trapped.
        return {}
    found = {"stroke_mm": breath.effective_stroke_mm}
    return found | ({"ratio": breath.dynamic_ratio} if engine.compression is not None else {})


def seat_closes_later(job: Job) -> float | None:
    """How much later than at the checking lift the intake valve shuts, crank degrees; None where the card does not say."""
    card = card_of(job)
    if card is None or card.card.intake_duration_deg is None or "intake" not in card.seat_durations_deg:
        return None
    return (card.seat_durations_deg["intake"] - card.card.intake_duration_deg) / 2


def _nominal_seat(job: Job) -> float:
    """The same of a nominal lobe, at its seat."""
    card = card_of(job)
    lobe = (card.lobe("intake") if card else None) or DRAWN_LOBE
    return lobe.seat_half_deg - lobe.duration_deg / 2


def _gaps(job: Job, intake_deg: float, exhaust_deg: float) -> list[dict[str, str]]:
    """Smallest piston-to-valve clearance now and after the move."""
    lines = []
    for name, moved in (("now", (0.0, 0.0)), ("then", (intake_deg, exhaust_deg))):
        near = clearance.moved(job, *moved)
        if near is not None:
            gap = (
                f"{format_length(near.gap_mm, job.unit).replace('-', '−')} {job.unit.value}"
                if near.known
                else "not known"
            )
            lines.append({"when": name, "gap": gap, "name": near.name, "state": near.verdict.value})
    return lines


def _lacking(job: Job) -> str:
    """Entries missing from the engine form for compression, as a sentence."""
    engine = engine_of(job)
    if engine is None or engine.crank is None:
        return "stroke and rod"
    return "" if engine.compression is not None else "compression ratio"
