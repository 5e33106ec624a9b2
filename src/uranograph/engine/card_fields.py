"""What the form of the spec card asks."""

from collections.abc import Mapping

from uranograph.bench.fields import Choice, Custom, Field, Fields, Fold, Length
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit, parse_angle, parse_length
from uranograph.engine.messages import say
from uranograph.engine.printed_card import parse_printed

# Greatest lift of a cam and of a valve, and the largest plausible lash, mm.
MAX_LIFT_MM, MAX_LASH_MM = 40.0, 5.0
# Between which lifts cards are checked, mm, and at which most are.
CHECKED_AT_LEAST_MM, CHECKED_AT_MOST_MM = 0.1, 5.0
USUAL_CHECK = {LengthUnit.INCH: "0.050", LengthUnit.MM: "1.0"}
# Where a card's lifts can be measured, and kinds of centerline.
_LOBE_OR_VALVE = (("", "not said"), ("lobe", "lobe"), ("valve", "valve"))
_PEAK_OR_EVENTS = (("", "not said"), ("peak", "peak"), ("events", "middle of the events"))


class CamLift(Field[float]):
    """A lift, mm: above zero, and no more than a cam has."""

    def parse(self, text: str, unit: LengthUnit) -> float:
        lift = parse_length(text, unit)
        if not 0 < lift <= MAX_LIFT_MM:
            raise InvalidInput("lift", "not-a-cam-lift", typed=text)
        return lift


class CheckingLift(CamLift):
    """A checking lift, mm; a bare figure past all that cards print is asked back, with the other unit offered."""

    def parse(self, text: str, unit: LengthUnit) -> float:
        lift = super().parse(text, unit)
        if not text.strip()[-1:].isdigit() or CHECKED_AT_LEAST_MM <= lift <= CHECKED_AT_MOST_MM:
            return lift
        other = LengthUnit.MM if unit is LengthUnit.INCH else LengthUnit.INCH
        kept, meant = (f"{text.strip()} {'in' if each is LengthUnit.INCH else 'mm'}" for each in (unit, other))
        likely = CHECKED_AT_LEAST_MM <= parse_length(meant, unit) <= CHECKED_AT_MOST_MM
        instead = (meant if likely else USUAL_CHECK[unit], kept)
        raise InvalidInput("lift", "unlikely-checking-lift", typed=text.strip(), unit=unit.value, instead=instead)


def _angle(name: str, label: str) -> Field[float | None]:
    return Custom(name, label, reads=parse_angle, free=False).optional()


def _lift(name: str, label: str, hint: str = "") -> Field[float | None]:
    return CamLift(name, label, hint).optional()


def _meaning(name: str, label: str, options: tuple[tuple[str, str], ...]) -> Choice:
    return Choice(
        name, label, options, unknown=say("card-choice-unknown", allowed=", ".join(filter(None, dict(options))))
    )


class PrintedLine(Fields):
    """The card's line, taken apart into fields of the form."""

    as_printed: Custom[Mapping[str, str]] = Custom(
        "as_printed",
        "The card's line as printed",
        "such as IO 12 IC 44 EO 52 EC 4 @ .050, or 228/236 LSA 110 +4",
        reads=parse_printed,
        free=True,
        default={},
    )


class CardFields(Fields):
    """The card's figures: angles in degrees, lifts in the form's unit."""

    io_btdc_deg = _angle("io_btdc_deg", "Intake opens BTDC")
    ic_abdc_deg = _angle("ic_abdc_deg", "Intake closes ABDC")
    eo_bbdc_deg = _angle("eo_bbdc_deg", "Exhaust opens BBDC")
    ec_atdc_deg = _angle("ec_atdc_deg", "Exhaust closes ATDC")
    intake_duration_deg = _angle("intake_duration_deg", "Intake duration")
    exhaust_duration_deg = _angle("exhaust_duration_deg", "Exhaust duration")
    intake_centerline_deg = _angle("intake_centerline_deg", "Intake centerline")
    exhaust_centerline_deg = _angle("exhaust_centerline_deg", "Exhaust centerline")
    lobe_separation_cam_deg = _angle("lobe_separation_cam_deg", "Separation, cam deg")
    advance_deg = _angle("advance_deg", "Ground-in advance")
    check_lift = CheckingLift("check_lift", "Checking lift").optional()
    intake_max_lift = _lift("intake_max_lift", "Intake lift", "at the dial")
    exhaust_max_lift = _lift("exhaust_max_lift", "Exhaust lift", "at the dial")
    at_overlap = Fold("Lift at overlap TDC, where the card gives it")
    intake_overlap_min = _lift("intake_overlap_min", "Intake, least")
    intake_overlap_max = _lift("intake_overlap_max", "Intake, greatest")
    exhaust_overlap_min = _lift("exhaust_overlap_min", "Exhaust, least")
    exhaust_overlap_max = _lift("exhaust_overlap_max", "Exhaust, greatest")
    meanings = Fold("What its figures are of: peak or events, lobe or valve, lash")
    centerline_of = _meaning("centerline_of", "Centerlines are of the", _PEAK_OR_EVENTS)
    lift_at = _meaning("lift_at", "Lifts above are at the", _LOBE_OR_VALVE)
    check_at = _meaning("check_at", "Checking lift is at the", _LOBE_OR_VALVE)
    intake_valve_lift = _lift("intake_valve_lift", "Intake valve lift")
    exhaust_valve_lift = _lift("exhaust_valve_lift", "Exhaust valve lift")
    intake_lash = Length("intake_lash", "Intake lash", most_mm=MAX_LASH_MM).optional()
    exhaust_lash = Length("exhaust_lash", "Exhaust lash", most_mm=MAX_LASH_MM).optional()
    seats = Fold("Durations at the seat and at .200 in")
    seat_lift = _lift("seat_lift", "Seat durations are at", "such as .006")
    intake_seat_duration_deg = _angle("intake_seat_duration_deg", "Intake, at the seat")
    exhaust_seat_duration_deg = _angle("exhaust_seat_duration_deg", "Exhaust, at the seat")
    intake_200_duration_deg = _angle("intake_200_duration_deg", "Intake, at .200 in")
    exhaust_200_duration_deg = _angle("exhaust_200_duration_deg", "Exhaust, at .200 in")
