"""How well the hands of a shop read, learned from what they read twice."""

import math
from collections.abc import Iterable
from dataclasses import dataclass
from statistics import fmean, median

# Figures that must have been read again before a shop's own hand takes the place of the usual one.
ENOUGH = 20
# What lies further from its like than so many usual standard deviations is a slip or a knocked wheel, not a hand.
SLIP = 5.0
# No hand is taken for better than this part of the usual one.
BEST = 0.5


@dataclass(frozen=True)
class RepeatedReading:
    """One thing read more than once, nothing moved between.

    Parameters
    ----------
    values
        What was read, in one unit.
    usual
        Variance of one of them by a usual hand, in the unit squared: what is learned is by how much a hand differs from it.
    beside
        Variance of what else differs from reading to reading.
    """

    values: tuple[float, ...]
    usual: float
    beside: float = 0.0


@dataclass(frozen=True)
class ReadingPrecision:
    """By how many times a hand's standard deviation is the usual one's, and from how many figures read again."""

    times: float
    repeats: int


def reading_precision(groups: Iterable[RepeatedReading]) -> ReadingPrecision | None:
    """Reading precision estimated from repeats; None if there are too few.

    Parameters
    ----------
    groups
        What was read more than once; single readings say nothing.

    Returns
    -------
    Hand or None
        From the pooled variance within groups, less what is not the hand's: f² = Σ(SS − dof · beside) / Σ(dof · usual).

    Examples
    --------
    >>> reading_precision([RepeatedReading((10.0, 10.2), 0.01)] * 20)
    ReadingPrecision(times=1.414..., repeats=20)
    >>> reading_precision([RepeatedReading((10.0, 10.2), 0.01)] * 19) is None
    True

    References
    ----------
    Pooled variance of repeated measurements; docs/methods.md, "The shop's own hand".
    """
    squares, usual, repeats = 0.0, 0.0, 0
    for group in groups:
        middle, reach = median(group.values), SLIP * math.sqrt(group.usual + group.beside)
        sound = [value for value in group.values if abs(value - middle) <= reach]
        if len(sound) < 2:
            continue
        mean, free = fmean(sound), len(sound) - 1
        squares += sum((value - mean) ** 2 for value in sound) - free * group.beside
        usual += free * group.usual
        repeats += free
    if repeats < ENOUGH:
        return None
    return ReadingPrecision(math.sqrt(max(squares / usual, BEST**2)), repeats)
