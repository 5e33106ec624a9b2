"""Fitting one or two turns-per-turn waves to readings round a shaft."""

import itertools
import math
from collections.abc import Sequence


def fit(positions_deg: Sequence[float], values: Sequence[float], waves: int) -> list[tuple[float, float]]:
    """Fit a mean and the first waves by least squares.

    Parameters
    ----------
    positions_deg, values
        Readings round one turn, shape (n,), n at least 2 waves + 1, places all different enough.
    waves
        1 for eccentricity, 2 for ovality as well.

    Returns
    -------
    list
        (mean, 0), then (amplitude, place of the greatest in degrees) for each wave.

    Examples
    --------
    >>> mean, first = fit([0, 90, 180, 270], [3, 2, 1, 2], 1)
    >>> round(mean[0], 6), round(first[0], 6), round(first[1], 6)
    (2.0, 1.0, 0.0)
    """
    import numpy as np

    theta = np.radians(positions_deg)
    columns = [np.ones_like(theta)]
    for wave in range(1, waves + 1):
        columns += [np.cos(wave * theta), np.sin(wave * theta)]
    found = np.linalg.lstsq(np.stack(columns, axis=1), np.asarray(values, dtype=float), rcond=None)[0]
    fitted = [(float(found[0]), 0.0)]
    for wave in range(1, waves + 1):
        c, s = float(found[2 * wave - 1]), float(found[2 * wave])
        place = math.degrees(math.atan2(s, c)) / wave % (360 / wave)
        fitted.append((math.hypot(c, s), 0.0 if place >= 360 / wave - 1e-9 else place))
    return fitted


def distinct(positions_deg: Sequence[float]) -> int:
    """How many different places round the turn there are."""
    return len({round(position % 360, 6) for position in positions_deg})


def largest_gap(positions_deg: Sequence[float]) -> float:
    """The widest stretch of the turn without a reading, degrees.

    Examples
    --------
    >>> largest_gap([0, 90, 180]), largest_gap([10])
    (180.0, 360.0)
    """
    around = sorted({position % 360 for position in positions_deg})
    return float(max(b - a for a, b in itertools.pairwise([*around, around[0] + 360])))


def span(fitted: Sequence[tuple[float, float]]) -> float:
    """Greatest less least of fitted waves over the turn, as `fit` returns them; within a ten-thousandth of itself.

    Examples
    --------
    >>> round(span([(5.0, 0.0), (1.0, 30.0)]), 4)
    2.0
    """
    import numpy as np

    theta = np.radians(np.arange(0, 360, 0.5))
    curve = np.zeros_like(theta)
    for wave, (amplitude, place) in enumerate(fitted[1:], 1):
        curve += amplitude * np.cos(wave * (theta - math.radians(place)))
    return float(curve.max() - curve.min())
