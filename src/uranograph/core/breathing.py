"""Cylinder figures from the cam's events: effective stroke, trapped compression, blow-down and overlap."""

from pydantic import Field

from uranograph.core.errors import InvalidInput
from uranograph.core.models import Deg, Found, Mm, Number
from uranograph.core.piston import Crank, PistonAt, piston

MAX_RATIO = 60.0


class BreathingInput(Crank):
    """A cylinder and when its valves move."""

    bore_mm: Mm = Field(gt=0)
    static_ratio: Number = Field(gt=1, le=MAX_RATIO)
    ic_abdc_deg: Deg = Field(gt=-180, lt=180)
    io_btdc_deg: Deg | None = Field(None, gt=-180, lt=180)
    eo_bbdc_deg: Deg | None = Field(None, gt=-180, lt=180)
    ec_atdc_deg: Deg | None = Field(None, gt=-180, lt=180)


class Breathing(Found):
    """Cylinder figures."""

    effective_stroke_mm: float = Field(description="From intake closing up to TDC.")
    dynamic_ratio: float = Field(description="Trapped: volume at intake closing to volume at TDC.")
    trapped_volume_cc: float = Field(description="Swept after intake closing, a cylinder.")
    swept_volume_cc: float
    blow_down_deg: float | None = Field(description="From exhaust opening to BDC, crank degrees.")
    overlap_deg: float | None


def breathing(given: BreathingInput) -> Breathing:
    """Say how much of the stroke compresses, and how far.

    Parameters
    ----------
    given
        Bore, stroke, rod, mm; static compression ratio; intake closing, deg ABDC; the other events where they are known.

    Returns
    -------
    Breathing
        Effective stroke, mm, trapped (dynamic) compression ratio, volumes, cc, blow-down and overlap, crank degrees.

    Raises
    ------
    InvalidInput
        When the crank could not turn.

    Examples
    --------
    >>> found = breathing(BreathingInput(bore_mm=100, stroke_mm=96, rod_mm=168, static_ratio=10, ic_abdc_deg=60))
    >>> round(found.effective_stroke_mm, 2), round(found.dynamic_ratio, 3)
    (77.22, 8.24)

    References
    ----------
    trapped ratio = 1 + (static ratio - 1) effective stroke / stroke; docs/methods.md, "Breathing".
    """
    given.check()
    effective = _below(given, 180 + given.ic_abdc_deg)
    travel = _travel(given)
    if effective <= 0:
        raise InvalidInput("ic_abdc_deg", "nothing-is-trapped", ic_deg=given.ic_abdc_deg)
    area_cm2 = 3.141592653589793 * (given.bore_mm / 20) ** 2
    overlap = None
    if given.io_btdc_deg is not None and given.ec_atdc_deg is not None:
        overlap = given.io_btdc_deg + given.ec_atdc_deg
    return Breathing(
        effective_stroke_mm=effective,
        dynamic_ratio=1 + (given.static_ratio - 1) * effective / travel,
        trapped_volume_cc=area_cm2 * effective / 10,
        swept_volume_cc=area_cm2 * travel / 10,
        blow_down_deg=given.eo_bbdc_deg,
        overlap_deg=overlap,
    )


def _below(crank: Crank, angle_deg: float) -> float:
    lengths = {"stroke_mm": crank.stroke_mm, "rod_mm": crank.rod_mm, "pin_offset_mm": crank.pin_offset_mm}
    return piston(PistonAt(**lengths, angle_deg=angle_deg)).drop_mm


def _travel(crank: Crank) -> float:
    """The whole travel of the piston: the stroke, and a little more with an offset pin."""
    high = (crank.throw_mm + crank.rod_mm) ** 2 - crank.pin_offset_mm**2
    low = (crank.rod_mm - crank.throw_mm) ** 2 - crank.pin_offset_mm**2
    return float(high**0.5 - low**0.5)
