"""Gear backlash round the cam, cold and hot."""

import math
from statistics import fmean

from pydantic import Field

from uranograph.core.errors import InvalidInput
from uranograph.core.harmonic import distinct, fit, largest_gap
from uranograph.core.models import Alpha, Celsius, Deg, Found, Input, Mm
from uranograph.core.verdict import Verdict, judge

MIN_FOR_WAVES, WIDEST_GAP_DEG = 6, 120.0


class BacklashReading(Input):
    """How far the gear rocks, at one place of the cam."""

    position_cam_deg: Deg
    travel_mm: Mm = Field(ge=0)


class BacklashInput(Input):
    """Readings round the cam and where the indicator stood."""

    readings: list[BacklashReading] = Field(min_length=1, max_length=1000)
    indicator_radius_mm: Mm = Field(gt=0)
    pitch_radius_mm: Mm = Field(gt=0)
    pressure_angle_deg: Deg = Field(gt=0, lt=45, description="Transverse.")
    spec_min_mm: Mm | None = Field(None, ge=0)
    spec_max_mm: Mm | None = Field(None, ge=0)
    travel_doubt_mm: Mm = Field(0.0, ge=0, description="Of one travel, as the indicator shows it.")


class Backlash(Found):
    """Backlash at the pitch line. What is fitted is None where the readings do not go round the cam."""

    min_mm: float
    max_mm: float
    mean_mm: float
    swing_mm: float
    doubt_mm: float = Field(description="Of one reading at the pitch line.")
    tight_spot_cam_deg: float = Field(description="Where the tightest reading was taken, in [0, 360).")
    fitted_mean_mm: float | None
    fitted_amplitude_mm: float | None = Field(description="Of the wave once a cam turn: the cam gear's.")
    eccentricity_mm: float | None
    fitted_loosest_cam_deg: float | None
    second_amplitude_mm: float | None = Field(description="Of the wave twice a cam turn: a half-size crank gear's.")
    crank_eccentricity_mm: float | None
    second_loosest_cam_deg: float | None
    lash_crank_deg: float
    verdict: Verdict
    fault: str = Field(description="`tight`, `loose`, `both` or empty; only where the verdict is out.")


def backlash(given: BacklashInput) -> Backlash:
    """Work out backlash from readings round the cam.

    Parameters
    ----------
    given
        Travels (mm) at cam degrees and the doubt of one, indicator and pitch radius (mm), pressure angle (deg), the
        allowed window (mm).

    Returns
    -------
    Backlash
        Least, greatest, mean and swing at the pitch line and where it is tightest; with six readings or more that go
        round the cam (no gap over 120 deg) two waves fitted together and the eccentricity behind each; the slack in
        crank degrees; and the verdict by the tightest and the loosest reading, guarded by their doubt.

    Raises
    ------
    InvalidInput
        When the window is the wrong way round.

    Examples
    --------
    >>> readings = [{"position_cam_deg": a, "travel_mm": t} for a, t in ((0, 0.10), (90, 0.12), (180, 0.14), (270, 0.12))]
    >>> found = backlash(BacklashInput(readings=readings, indicator_radius_mm=60, pitch_radius_mm=60, pressure_angle_deg=20))
    >>> round(found.swing_mm, 6), found.tight_spot_cam_deg, found.verdict.value
    (0.04, 0.0, 'unsure')

    References
    ----------
    docs/methods.md, "Backlash".
    """
    low, high = given.spec_min_mm, given.spec_max_mm
    if low is not None and high is not None and low > high:
        raise InvalidInput("spec_min_mm", "least-above-greatest-backlash")
    scale = given.pitch_radius_mm / given.indicator_radius_mm
    places = [reading.position_cam_deg for reading in given.readings]
    values = [reading.travel_mm * scale for reading in given.readings]
    doubt = given.travel_doubt_mm * scale
    mean = fmean(values)
    tight = judge(min(values), doubt, least=low) is Verdict.OUT
    loose = judge(max(values), doubt, most=high) is Verdict.OUT
    verdict = Verdict.UNSURE
    if low is not None or high is not None:
        verdict = judge(min(values), doubt, low, high, greatest=max(values))
    per_mm = 1 / (2 * math.tan(math.radians(given.pressure_angle_deg)))
    waves = None
    if len(values) >= MIN_FOR_WAVES and largest_gap(places) <= WIDEST_GAP_DEG and distinct(places) >= 5:
        waves = fit(places, values, 2)
    return Backlash(
        min_mm=min(values),
        max_mm=max(values),
        mean_mm=mean,
        swing_mm=max(values) - min(values),
        doubt_mm=doubt,
        tight_spot_cam_deg=places[values.index(min(values))] % 360,
        fitted_mean_mm=waves[0][0] if waves else None,
        fitted_amplitude_mm=waves[1][0] if waves else None,
        fitted_loosest_cam_deg=waves[1][1] if waves else None,
        eccentricity_mm=waves[1][0] * per_mm if waves else None,
        second_amplitude_mm=waves[2][0] if waves else None,
        crank_eccentricity_mm=waves[2][0] * per_mm if waves else None,
        second_loosest_cam_deg=waves[2][1] if waves else None,
        lash_crank_deg=math.degrees(2 * mean / given.pitch_radius_mm),
        verdict=verdict,
        fault="both" if tight and loose else "tight" if tight else "loose" if loose else "",
    )


class HotInput(Input):
    """A cold gear pair in its case."""

    cold_backlash_mm: Mm
    pressure_angle_deg: Deg = Field(gt=0, lt=45)
    cold_c: Celsius = Field(ge=-100, le=1000)
    hot_c: Celsius = Field(ge=-100, le=1000)
    center_mm: Mm = Field(gt=0)
    case_alpha: Alpha = Field(ge=0, lt=1e-3)
    gear_a_radius_mm: Mm = Field(gt=0)
    gear_a_alpha: Alpha = Field(ge=0, lt=1e-3)
    gear_b_radius_mm: Mm = Field(gt=0)
    gear_b_alpha: Alpha = Field(ge=0, lt=1e-3)


class HotBacklash(Found):
    """Backlash when hot."""

    hot_backlash_mm: float


def hot_backlash(given: HotInput) -> HotBacklash:
    """Say what a cold backlash becomes when everything is hot.

    Parameters
    ----------
    given
        Cold backlash, radii and center distance (mm), pressure angle (deg), temperatures, expansion per degree.

    Returns
    -------
    Hot
        Cold backlash plus 2 tan(alpha) dT (case growth less the growth of both radii), mm.

    Examples
    --------
    >>> given = HotInput(cold_backlash_mm=0.08, pressure_angle_deg=20, cold_c=20, hot_c=90, center_mm=95, case_alpha=23e-6,
    ...     gear_a_radius_mm=31.67, gear_a_alpha=11.5e-6, gear_b_radius_mm=63.33, gear_b_alpha=23e-6)
    >>> round(hot_backlash(given).hot_backlash_mm, 4)
    0.0986

    References
    ----------
    docs/methods.md, "Backlash".
    """
    growth = (
        given.case_alpha * given.center_mm
        - given.gear_a_alpha * given.gear_a_radius_mm
        - given.gear_b_alpha * given.gear_b_radius_mm
    )
    change = 2 * math.tan(math.radians(given.pressure_angle_deg)) * (given.hot_c - given.cold_c) * growth
    return HotBacklash(hot_backlash_mm=given.cold_backlash_mm + change)


def size_change(larger_by_mm: float, pressure_angle_deg: float) -> float:
    """Say what another gear size does to backlash, everywhere alike.

    Parameters
    ----------
    larger_by_mm
        How much larger the other gear is on its pitch radius; negative for smaller.
    pressure_angle_deg
        Of the teeth.

    Returns
    -------
    float
        -2 tan(pressure angle) times the step, mm.

    Examples
    --------
    >>> round(size_change(0.05, 20), 4)
    -0.0364

    References
    ----------
    docs/methods.md, "Backlash".
    """
    return -2 * math.tan(math.radians(pressure_angle_deg)) * larger_by_mm
