"""How long a heated gear stays loose: a simple estimate of cooling in still air."""

import math

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
