"""True TDC from contacts, or equal drops, before and after the top."""

import math
from statistics import fmean, median

from pydantic import Field

from uranograph.core.errors import InvalidInput
from uranograph.core.models import Deg, Found, Input, Mm
from uranograph.core.piston import Crank, angles_at_drop, dwell_half_angle, half_angle_at_drop, slope_at, top_angle
from uranograph.core.uncertainty import CENTERING_DEG, expanded

DEFAULT_WHEEL_RESOLUTION_DEG = 1.0
GEOMETRY_TOLERANCE_DEG = 1.0
AGREEMENT_DEG = 0.5


class TopPair(Input):
    """Wheel readings at the stop, or at one drop, on both sides of TDC."""

    before_deg: Deg = Field(gt=-180, le=180, description="Degrees before the wheel's TDC mark.")
    after_deg: Deg = Field(gt=-180, le=180, description="Degrees after the wheel's TDC mark.")
    drop_mm: Mm | None = Field(None, gt=0, description="Piston drop at both readings, where it is known.")


class TopPairs(Input):
    """One or several pairs, and what is known of the crank and the instruments."""

    pairs: list[TopPair] = Field(min_length=1)
    stroke_mm: Mm | None = Field(None, gt=0)
    rod_mm: Mm | None = Field(None, gt=0)
    pin_offset_mm: Mm | None = None
    indicator_resolution_mm: Mm | None = Field(None, gt=0)
    wheel_resolution_deg: Deg = Field(DEFAULT_WHEEL_RESOLUTION_DEG, gt=0, le=30)


class PairDoubt(Found):
    """A pair that contradicts the geometry or the other pairs."""

    pair: int = Field(description="Index of the pair, from 0.")
    against: str = Field(description="`geometry` or `others`.")
    gap_deg: float


class Top(Found):
    """Where the top is on the wheel, and how surely."""

    zero_error_deg: float = Field(description="What the wheel shows at the true top; negative: still before TDC.")
    zero_errors_deg: list[float]
    corrected_deg: list[float] = Field(description="What both readings of each pair become once the wheel is right.")
    spread_deg: float
    uncertainty_deg: float
    expected_half_angle_deg: list[float | None] | None = None
    dwell_half_angle_deg: float | None = None
    offset_skew_deg: list[float | None] | None = Field(
        None, description="How far a pin offset puts the middle of equal drops after the top; not taken off."
    )
    doubts: list[PairDoubt]


def tdc(given: TopPairs) -> Top:
    """Find the wheel's error at true top dead center.

    Parameters
    ----------
    given
        Pairs in degrees before and after the wheel's TDC mark, drops in mm; optional crank lengths, mm,
        and the smallest steps that indicator (mm) and wheel (deg, 1 unless given) show.

    Returns
    -------
    Top
        Zero error (mean over pairs of (after - before)/2), its spread and uncertainty; with stroke and rod the
        half angle each drop should show, and with an indicator the dwell; the pairs that contradict.

    Raises
    ------
    InvalidInput
        When a pair spans no positive angle, or lengths or a drop cannot be.

    Examples
    --------
    >>> top = tdc(TopPairs(pairs=[{"before_deg": 41, "after_deg": 37.5}]))
    >>> top.zero_error_deg, top.corrected_deg
    (-1.75, [39.25])

    References
    ----------
    Symmetry of piston travel about the top; docs/methods.md, "True TDC".
    """
    for n, pair in enumerate(given.pairs):
        if pair.before_deg + pair.after_deg <= 0:
            raise InvalidInput(
                f"pairs.{n}.after_deg", "contacts-crossed", before_deg=pair.before_deg, after_deg=pair.after_deg
            )
    crank = _crank(given)
    zeros = [(pair.after_deg - pair.before_deg) / 2 for pair in given.pairs]
    corrected = [(pair.after_deg + pair.before_deg) / 2 for pair in given.pairs]
    spread = max(zeros) - min(zeros)
    expected = [_expected(crank, pair, n) for n, pair in enumerate(given.pairs)] if crank else None
    read_to = [_read_to(given, crank, pair) for pair in given.pairs]
    # Each of a pair's two readings weighs half in its middle; the wheel's center comes again with every pair.
    weight = 1 / (2 * len(read_to))
    by_reading = expanded(
        (limit * weight for limits in read_to for limit in (*limits, *limits)), (CENTERING_DEG / math.sqrt(2),)
    )
    resolution = given.indicator_resolution_mm
    return Top(
        zero_error_deg=fmean(zeros),
        zero_errors_deg=zeros,
        corrected_deg=corrected,
        spread_deg=spread,
        uncertainty_deg=max(by_reading, spread / 2),
        expected_half_angle_deg=expected,
        dwell_half_angle_deg=dwell_half_angle(crank, resolution) if crank and resolution else None,
        offset_skew_deg=[_skew(crank, pair) for pair in given.pairs] if crank and crank.pin_offset_mm else None,
        doubts=_doubts(zeros, corrected, expected, [expanded(limits) for limits in read_to]),
    )


def _crank(given: TopPairs) -> Crank | None:
    if given.stroke_mm is None or given.rod_mm is None:
        return None
    crank = Crank(stroke_mm=given.stroke_mm, rod_mm=given.rod_mm, pin_offset_mm=given.pin_offset_mm or 0.0)
    crank.check()
    return crank


def _expected(crank: Crank, pair: TopPair, n: int) -> float | None:
    if pair.drop_mm is None:
        return None
    try:
        return half_angle_at_drop(crank, pair.drop_mm)
    except InvalidInput as error:
        raise error.at(f"pairs.{n}.drop_mm") from error


def _skew(crank: Crank, pair: TopPair) -> float | None:
    if pair.drop_mm is None:
        return None
    before, after = angles_at_drop(crank, pair.drop_mm)
    return (before + after) / 2 - top_angle(crank)


def _read_to(given: TopPairs, crank: Crank | None, pair: TopPair) -> tuple[float, ...]:
    """The limits of one reading of a pair: half a division of the wheel, and half one of the dial over the slope."""
    by_wheel = given.wheel_resolution_deg / 2
    if crank is None or pair.drop_mm is None or given.indicator_resolution_mm is None:
        return (by_wheel,)
    slope = slope_at(crank, angles_at_drop(crank, pair.drop_mm)[1])
    return by_wheel, given.indicator_resolution_mm / 2 / slope


def _doubts(
    zeros: list[float], corrected: list[float], expected: list[float | None] | None, read_to: list[float]
) -> list[PairDoubt]:
    doubts = []
    for n, wanted in enumerate(expected or []):
        if wanted is not None and abs(corrected[n] - wanted) > GEOMETRY_TOLERANCE_DEG + read_to[n]:
            doubts.append(PairDoubt(pair=n, against="geometry", gap_deg=corrected[n] - wanted))
    middle = median(zeros)
    for n, zero in enumerate(zeros):
        if abs(zero - middle) > AGREEMENT_DEG:
            doubts.append(PairDoubt(pair=n, against="others", gap_deg=zero - middle))
    return doubts
