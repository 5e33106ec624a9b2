"""A lobe swept point by point: its events, nose, asymmetry, and the points that do not belong."""

from enum import StrEnum
from typing import TYPE_CHECKING

from pydantic import Field

from uranograph.core.errors import InvalidInput
from uranograph.core.models import Deg, Found, Input, Mm
from uranograph.core.uncertainty import COVERAGE

if TYPE_CHECKING:
    from collections.abc import Sequence

    import numpy as np

    Array = np.ndarray[tuple[int], np.dtype[np.float64]]

FLAT_MM = 0.03
MIN_POINTS = 7
NOSE_SHARE = 0.8
NEEDLE_MM = 0.002
SAME_PLACE_DEG = 1e-6
SUSPECT_FLOOR_MM = 0.02
MAX_SUSPECTS_SHARE = 0.2
# Largest number of outliers before a sweep is refused; each costs a pass over all points.
MAX_SUSPECTS = 50


class LobeName(StrEnum):
    """Which lobe."""

    INTAKE = "intake"
    EXHAUST = "exhaust"


class SweepInput(Input):
    """Lifts read round one lobe."""

    lobe: LobeName
    points: list[tuple[Deg, Mm]] = Field(min_length=MIN_POINTS, max_length=20_000)
    check_lift_mm: Mm = Field(gt=0)


class Swept(Found):
    """Result of a sweep for one lobe. Angles are signed crank degrees about overlap TDC."""

    open_deg: float
    close_deg: float
    duration_deg: float
    max_lift_mm: float
    centerline_nose_deg: float
    centerline_events_deg: float
    nose_doubt_deg: float = Field(description="Of the nose, k = 2, by how the points near it scatter.")
    asymmetry_deg: float = Field(description="Nose less middle of the events.")
    area_mm_deg: float = Field(description="Area under the lift curve above the checking lift.")
    base_drift_mm: float | None = Field(description="Last base-circle reading less first, where both are there.")
    suspects: list[int] = Field(
        description="Indices of points off the smooth curve; the rest is worked out without them."
    )


def sweep(given: SweepInput) -> Swept:
    """Work out a lobe from lifts read round it.

    Parameters
    ----------
    given
        The lobe, points (crank degrees about overlap TDC, lift in mm) in any order, and the checking lift, mm.

    Returns
    -------
    Swept
        Opening and closing at the checking lift by monotone cubic interpolation, duration, greatest lift and
        nose by polynomials either side of it, asymmetry, area, drift of the base circle, and the
        points that lie off the curve.

    Raises
    ------
    InvalidInput
        When angles repeat, or the lobe does not pass through the checking lift on both sides within the sweep.

    Examples
    --------
    >>> from uranograph.core.lobe import CosineLobe, lift_at
    >>> lobe = CosineLobe(centerline_deg=107, duration_deg=226, check_lift_mm=1.27, max_lift_mm=9)
    >>> points = [(a, lift_at(lobe, a)) for a in range(-60, 280, 2)]
    >>> found = sweep(SweepInput(lobe="intake", points=points, check_lift_mm=1.27))
    >>> round(found.open_deg, 1), round(found.close_deg, 1), round(found.centerline_nose_deg, 1)
    (-6.0, 220.0, 107.0)

    References
    ----------
    F. N. Fritsch and R. E. Carlson, monotone piecewise cubic interpolation, 1980; docs/methods.md, "A full sweep".
    """
    import numpy as np

    points = np.array(given.points)
    order = np.argsort(points[:, 0], kind="stable")
    angles, lifts = points[order, 0], points[order, 1]
    if (repeated := np.flatnonzero(np.diff(angles) < SAME_PLACE_DEG)).size:
        raise InvalidInput("points", "angle-twice", angle_deg=angles[repeated[0]])
    odd = suspects(angles, lifts)
    keep = np.ones(len(angles), dtype=bool)
    keep[odd] = False
    clean_angles, clean_lifts = angles[keep], lifts[keep]
    nose, top, nose_doubt = _nose(clean_angles, clean_lifts)
    opening, closing = crossings(clean_angles, clean_lifts, given.check_lift_mm)
    middle = (opening + closing) / 2
    area = _area(clean_angles, clean_lifts, opening, closing, given.check_lift_mm)
    return Swept(
        open_deg=opening,
        close_deg=closing,
        duration_deg=closing - opening,
        max_lift_mm=top,
        centerline_nose_deg=nose,
        centerline_events_deg=middle,
        nose_doubt_deg=nose_doubt,
        asymmetry_deg=nose - middle,
        area_mm_deg=area,
        base_drift_mm=_base_drift(clean_lifts, given.check_lift_mm, top),
        suspects=sorted(int(order[k]) for k in odd),
    )


def crossings(
    angles: "Sequence[float] | Array", lifts: "Sequence[float] | Array", lift_mm: float
) -> tuple[float, float]:
    """Angles at which a lobe passes a lift, on the way up and on the way down.

    Parameters
    ----------
    angles, lifts
        Shape (n,), angles rising, crank degrees and mm.
    lift_mm
        Between base circle and greatest lift.

    Returns
    -------
    tuple
        Opening and closing, crank degrees.

    Raises
    ------
    InvalidInput
        When the lobe is not seen to pass this lift on both sides.

    Examples
    --------
    >>> import numpy as np
    >>> a = np.arange(0, 181.0, 5)
    >>> [round(x, 1) for x in crossings(a, 9 * np.sin(np.radians(a)), 4.5)]
    [30.0, 150.0]
    """
    import numpy as np

    angles, lifts = np.asarray(angles, dtype=float), np.asarray(lifts, dtype=float)
    top = int(np.argmax(lifts))
    if lift_mm >= lifts[top]:
        raise InvalidInput("check_lift_mm", "lift-never-reached", lift_mm=lift_mm, top_mm=float(lifts[top]))
    below_left = np.flatnonzero(lifts[:top] < lift_mm)
    below_right = np.flatnonzero(lifts[top:] < lift_mm)
    if not below_left.size or not below_right.size:
        side = "opening" if not below_left.size else "closing"
        raise InvalidInput("points", "sweep-too-short", lift_mm=lift_mm, side=side)

    return (
        _monotone_root(angles, lifts, int(below_left[-1]), lift_mm),
        _monotone_root(angles, lifts, top + int(below_right[0]) - 1, lift_mm),
    )


def _monotone_root(angles: "Array", lifts: "Array", low: int, lift_mm: float) -> float:
    """Where the monotone cubic through all points passes a lift within the step from `low`."""
    near = range(max(0, low - 1), min(len(angles), low + 3))
    x = [float(angles[k]) for k in near]
    y = [float(lifts[k]) for k in near]
    at = low - near[0]
    width = x[at + 1] - x[at]
    rise = y[at + 1] - y[at]
    start, end = (_monotone_slope(x, y, k) * width for k in (at, at + 1))

    def off(t: float) -> float:
        return y[at] + t * (start + t * (3 * rise - 2 * start - end + t * (start + end - 2 * rise))) - lift_mm

    left, right = 0.0, 1.0
    for _ in range(48):
        middle = (left + right) / 2
        if (off(middle) < 0) == (rise > 0):
            left = middle
        else:
            right = middle
    return x[at] + width * (left + right) / 2


def _monotone_slope(x: list[float], y: list[float], k: int) -> float:
    """Slope of the monotone cubic at a point: weighted harmonic mean of its two steps, or none at a turn."""
    if k == 0 or k == len(x) - 1:
        other = 1 if k == 0 else k - 1
        return (y[other] - y[k]) / (x[other] - x[k])
    before, after = x[k] - x[k - 1], x[k + 1] - x[k]
    slope_before, slope_after = (y[k] - y[k - 1]) / before, (y[k + 1] - y[k]) / after
    if slope_before * slope_after <= 0:
        return 0.0
    w1, w2 = 2 * after + before, after + 2 * before
    return (w1 + w2) / (w1 / slope_before + w2 / slope_after)


def _nose(angles: "Array", lifts: "Array") -> tuple[float, float, float]:
    """Where the lobe is highest, how high, and the expanded uncertainty of the place.

    Either side of the nose has a polynomial of its own without a linear term; both share the top. The place of the
    top is found by Gauss-Newton steps, so flanks of different length do not draw it to one side.
    """
    import numpy as np

    peak = int(np.argmax(lifts))
    high = lifts >= NOSE_SHARE * lifts[peak]
    first, last = peak, peak
    while first > 0 and high[first - 1]:
        first -= 1
    while last < len(lifts) - 1 and high[last + 1]:
        last += 1
    first, last = min(first, max(0, peak - 2)), max(last, min(len(lifts) - 1, peak + 2))
    x, y = angles[first : last + 1], lifts[first : last + 1]
    scale = float(x[-1] - x[0]) / 2
    powers = (2, 3, 4) if len(x) >= 18 else (2, 4) if len(x) >= 9 else (2,)
    nose = float(angles[peak])
    height = float(lifts[peak])
    for _ in range(12):
        t = (x - nose) / scale
        size, right = np.abs(t), t > 0
        columns = [np.ones_like(t)] + [np.where(side, size**p, 0.0) for side in (right, ~right) for p in powers]
        fit = np.linalg.lstsq(np.stack(columns, axis=1), y, rcond=None)[0]
        height = float(fit[0])
        slopes = [np.where(side, p * size ** (p - 1), 0.0) for side in (right, ~right) for p in powers]
        slope = sum(c * d for c, d in zip(fit[1:], slopes, strict=True)) * np.sign(t)
        step = np.linalg.lstsq(np.stack([*columns, -slope], axis=1), y, rcond=None)[0][-1]
        nose = float(min(max(nose + float(step) * scale, x[0]), x[-1]))
        if abs(step) * scale < 1e-6:
            break
    off = np.stack(columns, axis=1) @ fit - y
    return nose, height, _place_doubt(np.stack([*columns, -slope], axis=1), off, scale)


def _place_doubt(bearing: "Array", off: "Array", scale: float) -> float:
    """Expanded uncertainty of the nose: by the residuals, and by no less than a needle is read to.

    `bearing` is how each unknown bears on each point, (n, m), the nose last and counted in `scale` degrees.
    """
    import numpy as np

    free = len(off) - np.shape(bearing)[-1]
    if free < 1:
        return scale
    scatter = max(float(off @ off) / free, NEEDLE_MM**2)
    variance = scatter * float(np.linalg.pinv(bearing.T @ bearing)[-1, -1])
    return min(scale, COVERAGE * scale * float(np.sqrt(variance)))


def _area(angles: "Array", lifts: "Array", opening: float, closing: float, lift_mm: float) -> float:
    import numpy as np

    inside = (angles > opening) & (angles < closing)
    x = np.concatenate(([opening], angles[inside], [closing]))
    y = np.concatenate(([0.0], lifts[inside] - lift_mm, [0.0]))
    return float(np.trapezoid(y, x))


def _base_drift(lifts: "Array", check_lift_mm: float, top_mm: float) -> float | None:
    low = min(check_lift_mm, 0.05 * top_mm)
    if lifts[0] > low or lifts[-1] > low:
        return None
    # On a ramp an end is no base circle: its two outermost readings must be alike.
    if abs(lifts[1] - lifts[0]) > FLAT_MM or abs(lifts[-1] - lifts[-2]) > FLAT_MM:
        return None
    return float(lifts[-1] - lifts[0])


def suspects(angles: "Array", lifts: "Array") -> list[int]:
    """Points that do not lie on the smooth curve through their neighbors.

    Parameters
    ----------
    angles, lifts
        Shape (n,), angles rising, crank degrees and mm.

    Returns
    -------
    list
        Indices, worst first. A point is judged against the cubic through two neighbors on either side, and the
        threshold grows with how much the curve bends there, so that coarse sweeps and ramps are not blamed.

    Examples
    --------
    >>> import numpy as np
    >>> a = np.arange(0, 181.0, 5)
    >>> lifts = 9 * np.sin(np.radians(a))
    >>> lifts[12] += 0.3
    >>> suspects(a, lifts)
    [12]
    """
    import numpy as np

    left = np.arange(len(angles))
    found: list[int] = []
    most = min(MAX_SUSPECTS, MAX_SUSPECTS_SHARE * len(angles))
    while len(left) >= MIN_POINTS and len(found) < most:
        x, y = angles[left], lifts[left]
        off = np.abs(_off_neighbors(x, y))
        if off.max() <= SUSPECT_FLOOR_MM:
            break
        limit = _threshold(x, y, off)
        ratio = np.where(np.isfinite(limit), off / limit, 0.0)
        worst = int(np.argmax(ratio))
        if ratio[worst] <= 1:
            break
        found.append(int(left[worst]))
        left = np.delete(left, worst)
    return found


def _off_neighbors(x: "Array", y: "Array") -> "Array":
    """How far each point is off the cubic through two neighbors on either side; 0 at the ends."""
    import numpy as np

    off = np.zeros_like(y)
    inner = np.arange(2, len(x) - 2)
    places = np.stack([x[inner - 2], x[inner - 1], x[inner + 1], x[inner + 2]])
    values = np.stack([y[inner - 2], y[inner - 1], y[inner + 1], y[inner + 2]])
    at = x[inner]
    guess = np.zeros(len(inner))
    for k in range(4):
        weight = np.ones(len(inner))
        for j in range(4):
            if j != k:
                weight *= (at - places[j]) / (places[k] - places[j])
        guess += weight * values[k]
    off[inner] = y[inner] - guess
    return off


def _threshold(x: "Array", y: "Array", off: "Array") -> "Array":
    import numpy as np

    step = float(np.median(np.diff(x)))
    bend = np.abs(np.diff(y, 2))
    usual_bend = float(np.partition(bend, int(0.9 * (bend.size - 1)))[int(0.9 * (bend.size - 1))])
    around = np.lib.stride_tricks.sliding_window_view(np.pad(off, 4, mode="reflect"), 9)
    local = np.sort(around[:, [0, 1, 2, 3, 5, 6, 7, 8]], axis=1)[:, 3:5].mean(axis=1)
    limit = SUSPECT_FLOOR_MM + 0.5 * usual_bend + 4 * local
    gap = np.zeros_like(x)
    gap[1:-1] = np.maximum(x[1:-1] - x[:-2], x[2:] - x[1:-1])
    # Neighbors across a gap in the sweep say little.
    return np.where(gap > 3 * step, np.inf, limit)
