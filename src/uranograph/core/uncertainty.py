"""The ± of a figure, from the limits within which what it is made of may be off."""

import math
from collections.abc import Iterable

COVERAGE = 2.0
# A wheel off center, and friction and overshoot of a forward approach: one standard deviation each, crank degrees.
CENTERING_DEG, APPROACH_DEG = 0.1, 0.1


def expanded(limits: Iterable[float], shared: Iterable[float] = ()) -> float:
    """Expanded uncertainty, coverage factor 2 (about 95 %).

    Parameters
    ----------
    limits
        How far each independent part of the figure may be off either way, anything within as likely (rectangular: divisor √3),
        already times what it weighs in the figure; a mean of n readings has each of them times 1/n.
    shared
        Standard deviations of what all readings have in common: no repeat averages it away.

    Returns
    -------
    float
        In the unit of the limits. What the limits make is never more than they add up to, since they are limits.

    Examples
    --------
    >>> expanded([0.005]), round(expanded([0.005, 0.005]), 5), round(expanded([0.125] * 4), 4)
    (0.005, 0.00816, 0.2887)
    >>> round(expanded([0.5], shared=[0.1]), 4)
    0.5385

    References
    ----------
    Quadrature of rectangular distributions; docs/methods.md, "Uncertainties".
    """
    each = [abs(limit) for limit in limits]
    by_limits = min(COVERAGE * math.sqrt(sum(limit**2 for limit in each) / 3), sum(each))
    return math.hypot(by_limits, *(COVERAGE * deviation for deviation in shared))


def of_difference(division: float) -> float:
    """Expanded uncertainty of what a dial shows between two places, each read to half a division.

    Examples
    --------
    >>> round(of_difference(0.01), 5)
    0.00816
    """
    return expanded((division / 2, division / 2))
