"""Four events read apart: phase, durations and separation, and what moving the cam leaves."""

from enum import StrEnum

from pydantic import Field

from uranograph.core.models import Deg, Found, Input
from uranograph.core.phase import DEFAULT_TOLERANCE_DEG, Events, judge_phase, move
from uranograph.core.verdict import Verdict

EVENT_FIELDS = ("io_btdc_deg", "ic_abdc_deg", "eo_bbdc_deg", "ec_atdc_deg")


class Basis(StrEnum):
    """Which lobes the phase is taken from."""

    BOTH = "both"
    INTAKE = "intake"


class DegreeInput(Input):
    """Card and measured events at the same checking lift, crank degrees."""

    card: Events
    measured: Events
    basis: Basis = Basis.BOTH
    tolerance_deg: Deg = Field(DEFAULT_TOLERANCE_DEG, ge=0)
    reading_uncertainty_deg: Deg = Field(0.0, ge=0)


class Degreed(Found):
    """Measured values, their errors, and the verdict on the phase."""

    intake_duration_deg: float
    exhaust_duration_deg: float
    intake_centerline_deg: float
    exhaust_centerline_deg: float
    lobe_separation_cam_deg: float
    advance_deg: float
    overlap_deg: float
    phase_error_deg: float = Field(description="Late positive.")
    intake_duration_error_deg: float
    exhaust_duration_error_deg: float
    lobe_separation_error_cam_deg: float
    left_after_correction: Events = Field(description="Measured less card at each event once the phase is cured.")
    verdict: Verdict


def degree(given: DegreeInput) -> Degreed:
    """Read four measured events against the card's.

    Parameters
    ----------
    given
        Both sets of events, the basis of the phase, tolerance and uncertainty, crank degrees.

    Returns
    -------
    Degreed
        Measured durations, centerlines, separation, advance and overlap; the error of phase (late positive), of
        each duration and of separation; what is left at each event once the phase is cured; the verdict on the phase.

    Examples
    --------
    >>> card = {"io_btdc_deg": 6, "ic_abdc_deg": 40, "eo_bbdc_deg": 52, "ec_atdc_deg": 2}
    >>> late = {"io_btdc_deg": 3, "ic_abdc_deg": 43, "eo_bbdc_deg": 49, "ec_atdc_deg": 6}
    >>> found = degree(DegreeInput(card=card, measured=late))
    >>> found.phase_error_deg, found.exhaust_duration_error_deg, found.left_after_correction.ec_atdc_deg
    (3.25, 1.0, 0.75)

    References
    ----------
    docs/methods.md, "Four events read apart".
    """
    card, seen = given.card, given.measured
    differences = {name: getattr(seen, name) - getattr(card, name) for name in EVENT_FIELDS}
    io, ic, eo, ec = (differences[name] for name in EVENT_FIELDS)
    phase = (-io + ic) / 2 if given.basis is Basis.INTAKE else (-io + ic - eo + ec) / 4
    cured = move(seen, phase)
    separation = (seen.intake_centerline_deg + seen.exhaust_centerline_deg) / 2
    card_separation = (card.intake_centerline_deg + card.exhaust_centerline_deg) / 2
    return Degreed(
        intake_duration_deg=seen.io_btdc_deg + 180 + seen.ic_abdc_deg,
        exhaust_duration_deg=seen.eo_bbdc_deg + 180 + seen.ec_atdc_deg,
        intake_centerline_deg=seen.intake_centerline_deg,
        exhaust_centerline_deg=seen.exhaust_centerline_deg,
        lobe_separation_cam_deg=separation,
        advance_deg=separation - seen.intake_centerline_deg,
        overlap_deg=seen.overlap_deg,
        phase_error_deg=phase,
        intake_duration_error_deg=io + ic,
        exhaust_duration_error_deg=eo + ec,
        lobe_separation_error_cam_deg=separation - card_separation,
        left_after_correction=Events(**{name: getattr(cured, name) - getattr(card, name) for name in EVENT_FIELDS}),
        verdict=judge_phase(phase, given.reading_uncertainty_deg, given.tolerance_deg),
    )
