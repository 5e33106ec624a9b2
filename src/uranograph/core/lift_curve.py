"""Lift between the places where it was read, and how near a valve comes to something else: shared by the clearances."""

from typing import TYPE_CHECKING

from uranograph.core.errors import InvalidInput

if TYPE_CHECKING:
    from collections.abc import Sequence

    import numpy as np

    Array = np.ndarray[tuple[int], np.dtype[np.float64]]

# A valve that is lifted by no more is taken to rest: beyond such an end of the readings it stays shut.
SHUT_MM = 0.05
STEP_DEG = 0.25
CYCLE_DEG = 720.0
_SAME_PLACE_DEG = 1e-6


class LiftCurve:
    """Lift by crank angle through readings, by monotone cubics; shut beyond ends that are shut, unknown beyond others.

    Parameters
    ----------
    points
        Crank degrees about overlap TDC, in any order, and lift, mm; at least two.

    Raises
    ------
    InvalidInput
        When an angle stands twice, a lift is below nothing, or all of it spans more than a cycle.

    Examples
    --------
    >>> curve = LiftCurve([(-40, 0), (0, 1.5), (40, 4.5)])
    >>> [round(float(lift), 2) for lift in curve.at([-50, -40, 0, 20])], curve.known_deg
    ([0.0, 0.0, 1.5, 2.88], (-360.0, 40.0))

    References
    ----------
    F. N. Fritsch and R. E. Carlson, monotone piecewise cubic interpolation, 1980; docs/methods.md, "Piston to valve".
    """

    def __init__(self, points: "Sequence[tuple[float, float]]") -> None:
        import numpy as np

        if len(points) < 2:
            raise InvalidInput("lift_points", "too-few-lifts")
        rows = np.array(sorted(points), dtype=float)
        self.angles, self.lifts = rows[:, 0], rows[:, 1]
        if (twice := np.flatnonzero(np.diff(self.angles) < _SAME_PLACE_DEG)).size:
            raise InvalidInput("lift_points", "angle-twice", angle_deg=float(self.angles[twice[0]]))
        if self.lifts.min() < -SHUT_MM:
            raise InvalidInput("lift_points", "lift-below-nothing", lift_mm=float(self.lifts.min()))
        if self.angles[-1] - self.angles[0] > CYCLE_DEG:
            raise InvalidInput("lift_points", "more-than-a-cycle", span_deg=float(self.angles[-1] - self.angles[0]))
        self._slopes = _slopes(self.angles, self.lifts)

    @property
    def known_deg(self) -> tuple[float, float]:
        """From where to where, crank degrees about overlap TDC, the lift is known."""
        low = min(-CYCLE_DEG / 2, float(self.angles[0])) if self.lifts[0] <= SHUT_MM else float(self.angles[0])
        high = max(CYCLE_DEG / 2, float(self.angles[-1])) if self.lifts[-1] <= SHUT_MM else float(self.angles[-1])
        return low, high

    def at(self, angles_deg: "Sequence[float] | Array") -> "Array":
        """Lift, mm, at angles, crank degrees about overlap TDC, (n,); nothing beyond the ends."""
        import numpy as np

        x = np.asarray(angles_deg, dtype=float)
        # Readings from 0 to 720 are the same lobe as those from -360 to 360.
        x = np.where(x < self.angles[0] - 1e-9, x + CYCLE_DEG, x)
        x = np.where(x > self.angles[-1] + 1e-9, x - CYCLE_DEG, x)
        k = np.clip(np.searchsorted(self.angles, x, side="right") - 1, 0, len(self.angles) - 2)
        width = self.angles[k + 1] - self.angles[k]
        t = (x - self.angles[k]) / width
        rise = self.lifts[k + 1] - self.lifts[k]
        start, end = self._slopes[k] * width, self._slopes[k + 1] * width
        value = self.lifts[k] + t * (start + t * (3 * rise - 2 * start - end + t * (start + end - 2 * rise)))
        outside = (x < self.angles[0] - 1e-9) | (x > self.angles[-1] + 1e-9)
        return np.where(outside, 0.0, np.maximum(value, 0.0))

    def knows(self, angles_deg: "Sequence[float] | Array") -> "np.ndarray[tuple[int], np.dtype[np.bool_]]":
        """Whether the lift is known at angles, crank degrees about overlap TDC, (n,)."""
        import numpy as np

        low, high = self.known_deg
        angles = np.asarray(angles_deg, dtype=float)
        inside = np.zeros(len(angles), dtype=bool)
        for turn in (-CYCLE_DEG, 0.0, CYCLE_DEG):
            inside |= (angles + turn >= low - 1e-9) & (angles + turn <= high + 1e-9)
        return inside


def _slopes(x: "Array", y: "Array") -> "Array":
    import numpy as np

    steps, secants = np.diff(x), np.diff(y) / np.diff(x)
    if len(x) == 2:
        return np.array([secants[0], secants[0]])
    before, after = steps[:-1], steps[1:]
    left, right = secants[:-1], secants[1:]
    w1, w2 = 2 * after + before, after + 2 * before
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        inner = np.where(left * right > 0, (w1 + w2) / (w1 / left + w2 / right), 0.0)
    return np.concatenate(([secants[0]], inner, [secants[-1]]))


def least(gaps: "Array", angles: "Array", *, near_deg: float = 0.0) -> tuple[float, float]:
    """The least of a row of gaps and where it lies, by the parabola through its neighbors.

    Parameters
    ----------
    gaps, angles
        (n,), mm and crank degrees at even steps; gaps that are not known are not numbers.
    near_deg
        Of places alike, the one nearest to this.

    Returns
    -------
    tuple
        The least gap, mm, and its angle, crank degrees.

    Examples
    --------
    >>> import numpy as np
    >>> a = np.arange(-20.0, 20.5, 0.5)
    >>> [round(x, 3) for x in least(2 + 0.01 * (a - 7.1) ** 2, a)]
    [2.0, 7.1]
    """
    import numpy as np

    alike = np.flatnonzero(gaps <= np.nanmin(gaps) + 1e-9)
    k = int(alike[np.argmin(np.abs(angles[alike] - near_deg))])
    here, at = float(gaps[k]), float(angles[k])
    if 0 < k < len(gaps) - 1 and np.isfinite(gaps[k - 1] + gaps[k + 1]):
        bend = float(gaps[k - 1] - 2 * here + gaps[k + 1])
        if bend > 1e-9:
            off = float(gaps[k - 1] - gaps[k + 1]) / (2 * bend)
            return here - bend * off * off / 2, at + off * float(angles[1] - angles[0])
    return here, at
