"""How long a heated gear stays loose: a simple estimate of cooling in still air."""

import math
from collections.abc import Sequence

from pydantic import Field

from uranograph.core.errors import InvalidInput
from uranograph.core.models import Celsius, Found, Input, Mm, Number

STILL_AIR_W_PER_M2_K = 15.0


class CoolingInput(Input):
    """A heated disk, and the temperature at which it grips."""

    gear_c: Celsius = Field(lt=1000)
    grips_c: Celsius = Field(gt=-273)
    ambient_c: Celsius = Field(gt=-100, lt=200)
    width_mm: Mm = Field(gt=0, description="Of the gear's rim; it cools by both faces.")
    heat_j_per_cm3_k: Number = Field(3.7, gt=0, lt=20, description="Heat held per volume; steel 3.7, aluminum 2.4.")
    film_w_per_m2_k: Number = Field(STILL_AIR_W_PER_M2_K, gt=0)


class Cooling(Found):
    """The estimate."""

    loose_s: float
    time_constant_s: float


def cooling(given: CoolingInput) -> Cooling:
    """Estimate how long a heated gear stays loose in still air, before it touches the shaft.

    Parameters
    ----------
    given
        Temperatures (C), width (mm), heat held per volume (J/cm3 K), film coefficient (W/m2 K).

    Returns
    -------
    Cooling
        time constant = heat width / (2 film); loose for that times ln((gear - ambient)/(grips - ambient)).

    Raises
    ------
    InvalidInput
        When the gear is not hotter than where it grips, or that is not above the ambient.

    Examples
    --------
    >>> given = CoolingInput(gear_c=233.7, grips_c=153.6, ambient_c=20, width_mm=20)
    >>> round(cooling(given).loose_s)
    1159

    References
    ----------
    docs/methods.md, "Heat fit": Newton's law of cooling for a thin disk.
    """
    if given.grips_c <= given.ambient_c:
        raise InvalidInput("grips_c", "never-grips")
    if given.gear_c <= given.grips_c:
        raise InvalidInput("gear_c", "grips-already")
    constant = given.heat_j_per_cm3_k * 1e6 * given.width_mm / 1000 / (2 * given.film_w_per_m2_k)
    loose = constant * math.log((given.gear_c - given.ambient_c) / (given.grips_c - given.ambient_c))
    return Cooling(loose_s=loose, time_constant_s=constant)


# A curve that is to show how fast a gear cools is at least so long and has at least so many points.
SHORTEST_S, FEWEST, LEAST_FALL_C = 5.0, 5, 2.0


def forecast(points: Sequence[tuple[float, float]], ambient_c: float, grips_c: float) -> float | None:
    """Seconds from the last point until a gear that is measured while it cools is down to where it grips.

    Parameters
    ----------
    points
        Seconds and temperature (C), oldest first.
    ambient_c, grips_c
        Of the air, and where it grips (C).

    Returns
    -------
    float or None
        By the line through ln(T - ambient) over time, least squares; 0 where it grips already; None where it does not cool, or
        too little of its curve is there.

    Raises
    ------
    InvalidInput
        When it would never grip.

    Examples
    --------
    >>> curve = [(t, 20 + 180 * math.exp(-t / 600)) for t in range(0, 60, 2)]
    >>> round(forecast(curve, 20, 120))
    295

    References
    ----------
    docs/methods.md, "Heat fit": Newton's law of cooling.
    """
    if grips_c <= ambient_c:
        raise InvalidInput("grips_c", "never-grips")
    if points and points[-1][1] <= grips_c:
        return 0.0
    warm = [(at, math.log(c - ambient_c)) for at, c in points if c > ambient_c]
    if len(warm) < FEWEST or warm[-1][0] - warm[0][0] < SHORTEST_S or points[0][1] - points[-1][1] < LEAST_FALL_C:
        return None
    mean_at, mean_log = (sum(each[k] for each in warm) / len(warm) for k in (0, 1))
    rate = sum((at - mean_at) * (log - mean_log) for at, log in warm) / sum((at - mean_at) ** 2 for at, _ in warm)
    if rate >= 0:
        return None
    then = mean_at + (math.log(grips_c - ambient_c) - mean_log) / rate
    return max(0.0, then - warm[-1][0])
