"""Lobe centerline from equal lifts before and after maximum."""

from statistics import fmean

from pydantic import Field

from uranograph.core.angles import signed
from uranograph.core.errors import InvalidInput
from uranograph.core.models import Deg, Found, Input, Mm


class LiftPair(Input):
    """Two crank angles at the same lift, on the way up and on the way down."""

    before_deg: Deg = Field(gt=-720, lt=720)
    after_deg: Deg = Field(gt=-720, lt=720)
    drop_mm: Mm | None = Field(None, gt=0, description="Below maximum lift.")


class LiftPairs(Input):
    """Pairs of one lobe, about the TDC its peak follows or precedes."""

    pairs: list[LiftPair] = Field(min_length=1)


class Centerline(Found):
    """Centerline of the lobe."""

    centerline_deg: float = Field(description="Mean of the midpoints; negative before TDC.")
    midpoints_deg: list[float]
    spread_deg: float


def centerline(given: LiftPairs) -> Centerline:
    """Take the middle between equal lifts before and after maximum.

    Parameters
    ----------
    given
        Pairs in signed crank degrees about one TDC. Where the second angle has passed BDC and is written
        below the first, a whole crank turn is added to it.

    Returns
    -------
    Centerline
        Mean midpoint, each midpoint, and their spread, crank degrees.

    Raises
    ------
    InvalidInput
        When both angles of a pair are the same place.

    Examples
    --------
    >>> pairs = [{"before_deg": -159, "after_deg": -64.25}]
    >>> centerline(LiftPairs(pairs=pairs)).centerline_deg
    -111.625

    References
    ----------
    docs/methods.md, "Centerline by equal lifts".
    """
    middles = []
    for n, pair in enumerate(given.pairs):
        if (pair.after_deg - pair.before_deg) % 360 == 0:
            raise InvalidInput(f"pairs.{n}.after_deg", "lobe-not-passed", before_deg=pair.before_deg)
        middle = (pair.before_deg + pair.after_deg) / 2
        middles.append(middle if pair.after_deg > pair.before_deg else signed(middle + 180))
    return Centerline(centerline_deg=fmean(middles), midpoints_deg=middles, spread_deg=max(middles) - min(middles))
