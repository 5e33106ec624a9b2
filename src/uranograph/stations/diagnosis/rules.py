"""Around the bench: a reported deviation between crank and cam, and a claim about one tooth."""

from collections.abc import Iterable
from dataclasses import dataclass

from uranograph.bench.fields import Angle, Count, Fields
from uranograph.bench.forms import Filled, Typed
from uranograph.core.quantities import format_angle
from uranograph.core.slip import Slip, SlipInput, SlipVerdict, near_whole_number, tooth_slip
from uranograph.stations.diagnosis.messages import say


class Report(Fields):
    """A reported deviation, or a claim about teeth and degrees; crank degrees, late positive."""

    offset = Angle("offset", "Deviation, crank deg, late +, early −", least=-360, most=360).optional()
    crank_teeth = Count(
        "crank_teeth",
        "Crank gear's teeth",
        least=3,
        most=400,
        counted="teeth cannot be",
        required=say("crank-teeth-missing"),
    )
    tolerance = Angle("tolerance", "Counts as whole within, deg", "2 unless typed", least=0, most=90).optional()
    claim_teeth = Count("claim_teeth", "So many teeth", least=1, most=40, counted="teeth cannot be", default=1)
    claim_deg = Angle("claim_deg", "are so many degrees", least=-360, most=360).optional()

    def check(self) -> Iterable[tuple[str, str]]:
        if not self.texts["offset"] and not self.texts["claim_deg"]:
            yield "offset", say("report-missing")


@dataclass(frozen=True)
class Diagnosis:
    """Possible causes of a deviation, and the outcome of a claim."""

    offset_deg: float
    tolerance_deg: float
    slip: Slip | None
    title: str
    sentence: str
    explanations: tuple[str, ...]
    claim: str


def read(typed: Typed) -> Filled[Diagnosis]:
    """Diagnose a report.

    Parameters
    ----------
    typed
        Text by field name; see `Report`.

    Returns
    -------
    Filled
        The diagnosis, or errors by field.

    Examples
    --------
    >>> found = read({"offset": "-17", "crank_teeth": "21"}).value
    >>> found.title
    'One tooth early'
    >>> read({"crank_teeth": "21", "claim_teeth": "1", "claim_deg": "3"}).value.claim
    'The claim does not hold: with 21 crank teeth, 1 tooth is 17.1 crank deg (8.6 cam deg), not 3.0.'
    """
    filled = Report.read(typed)
    report = filled.value
    if report is None:
        return Filled(None, filled.errors)
    teeth, offset = report.crank_teeth, report.offset
    claim = "" if report.claim_deg is None else _claim(teeth, report.claim_teeth, report.claim_deg)
    tolerance = near_whole_number(teeth) if report.tolerance is None else report.tolerance
    if offset is None:
        return Filled(Diagnosis(0.0, tolerance, None, "", "", (), claim))
    found = tooth_slip(SlipInput(offset_deg=offset, crank_teeth=teeth, tolerance_deg=tolerance))
    title, sentence, explanations = _explained(offset, found)
    return Filled(Diagnosis(offset, tolerance, found, title, sentence, explanations, claim))


PRESSED = (
    "A pressed or shrunk gear can slip by any amount, its marks still right: put the piston's own top, by stop or dial, "
    "beside the marks."
)


def _explained(offset: float, found: Slip) -> tuple[str, str, tuple[str, ...]]:
    way = "late" if offset > 0 else "early"
    shown, per = format_angle(abs(offset)), format_angle(found.per_tooth_deg)
    chain = say("worn-chain-retards")
    if found.verdict is SlipVerdict.ALIGNED:
        return "Aligned", say("within-report-resolution", shown=shown), ()
    if found.verdict is SlipVerdict.WHOLE_TEETH:
        teeth = abs(found.nearest_teeth)
        words = "One tooth" if teeth == 1 else f"{teeth} teeth"
        title = f"{words} {way}"
        left = format_angle(abs(found.residual_deg))
        over = "over" if found.residual_deg * offset > 0 else "short"
        sentence = say("whole-teeth", shown=shown, way=way, words=words.lower(), per=per, left=left, over=over)
        why = (
            say("look-before-moving-back"),
            say("jumped-teeth-are-worn"),
            PRESSED,
        )
        return title, sentence, why
    if abs(offset) < found.per_tooth_deg / 2:
        sentence = say("less-than-half-a-tooth", shown=shown, per=per)
    else:
        near = abs(found.nearest_teeth)
        whole = format_angle(near * found.per_tooth_deg)
        sentence = say("not-near-whole-teeth", shown=shown, per=per, near=near, whole=whole)
    explanations = [
        say("gear-slipped-or-key-sheared", pressed=PRESSED),
        say("wrong-gear-or-pattern"),
        say("sensor-or-cam-degrees"),
    ]
    if offset > 0:
        explanations.insert(0, chain)
    return "Not whole teeth", sentence, tuple(explanations)


def _claim(crank_teeth: int, teeth: int, claimed_deg: float) -> str:
    true_deg = teeth * 360 / crank_teeth
    words = f"{teeth} tooth" if teeth == 1 else f"{teeth} teeth"
    fact = say(
        "claim-in-crank-degrees", crank_teeth=crank_teeth, words=words, true_deg=true_deg, true_2_deg=true_deg / 2
    )
    claimed = abs(claimed_deg)
    if abs(claimed - true_deg) <= 0.5:
        return f"The claim holds: {fact}."
    if abs(claimed - true_deg / 2) <= 0.3:
        return say("claim-is-in-cam-degrees", fact=fact)
    return say("claim-fails", fact=fact, claimed_deg=claimed)
