"""Runout of a shaft: separates eccentricity from ovality."""

from pydantic import Field

from uranograph.core.errors import InvalidInput
from uranograph.core.harmonic import distinct, fit, span
from uranograph.core.models import Deg, Found, Input, Mm


class RunoutReading(Input):
    """The dial at one place of the turn."""

    position_deg: Deg
    value_mm: Mm


class RunoutInput(Input):
    """Readings round one turn, steps equal or not."""

    readings: list[RunoutReading] = Field(min_length=3, max_length=2000)


class Runout(Found):
    """How the shaft runs."""

    read_mm: float = Field(description="Greatest less least reading.")
    total_indicated_mm: float = Field(description="The larger of what was read and what the fitted curve spans.")
    eccentricity_mm: float
    high_spot_deg: float
    ovality_mm: float | None = Field(description="Amplitude of the second wave, with six places or more.")
    ovality_high_deg: float | None


def runout(given: RunoutInput) -> Runout:
    """Fit eccentricity, and ovality where there are readings enough, to a turn of the dial.

    Parameters
    ----------
    given
        Dial values (mm) at places round the turn (deg), at least three different ones.

    Returns
    -------
    Runout
        Greatest less least reading; amplitude and place of the first wave, and with six readings or more the
        amplitude of the second, fitted together; and the total, which between few places is more than was read.

    Raises
    ------
    InvalidInput
        When fewer than three places are different.

    Examples
    --------
    >>> readings = [{"position_deg": a, "value_mm": v} for a, v in ((0, 0.03), (90, 0.0), (180, -0.03), (270, 0.0))]
    >>> found = runout(RunoutInput(readings=readings))
    >>> round(found.total_indicated_mm, 6), round(found.eccentricity_mm, 6), round(found.high_spot_deg, 6)
    (0.06, 0.03, 0.0)

    References
    ----------
    docs/methods.md, "Runout".
    """
    places = [reading.position_deg for reading in given.readings]
    values = [reading.value_mm for reading in given.readings]
    different = distinct(places)
    if different < 3:
        raise InvalidInput("readings", "too-few-places")
    waves = 2 if len(values) >= 6 and different >= 5 else 1
    fitted = fit(places, values, waves)
    read = max(values) - min(values)
    return Runout(
        read_mm=read,
        total_indicated_mm=max(read, span(fitted)),
        eccentricity_mm=fitted[1][0],
        high_spot_deg=fitted[1][1],
        ovality_mm=fitted[2][0] if waves == 2 else None,
        ovality_high_deg=fitted[2][1] if waves == 2 else None,
    )
