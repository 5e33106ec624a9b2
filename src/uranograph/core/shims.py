"""The shim pack that comes nearest to a wanted thickness."""

from itertools import combinations_with_replacement
from typing import TYPE_CHECKING

from pydantic import Field

from uranograph.core.errors import InvalidInput
from uranograph.core.models import Found, Input, Mm

if TYPE_CHECKING:
    import numpy as np

TIE_MM = 1e-9


class ShimsInput(Input):
    """Thickness wanted, what is in stock (each as often as needed), and how many pieces at the most; mm."""

    wanted_mm: Mm = Field(ge=0)
    stock_mm: list[Mm] = Field(min_length=1, max_length=60)
    max_count: int = Field(ge=1, le=6)


class Shims(Found):
    """The best pack."""

    pack_mm: list[float]
    total_mm: float
    gap_mm: float = Field(description="Total less wanted.")


def shims(given: ShimsInput) -> Shims:
    """Find the pack nearest to a thickness, with the fewest pieces on a tie.

    Parameters
    ----------
    given
        Wanted thickness, stock thicknesses, greatest count, mm.

    Returns
    -------
    Shims
        Pieces, thickest first, their total, and the gap; no pieces where none come nearer than some.

    Raises
    ------
    InvalidInput
        When a stock thickness is not above nothing.

    Examples
    --------
    >>> found = shims(ShimsInput(wanted_mm=0.45, stock_mm=[0.1, 0.15, 0.2], max_count=3))
    >>> found.pack_mm, abs(found.gap_mm) < 1e-9
    ([0.2, 0.15, 0.1], True)

    References
    ----------
    docs/methods.md, "Shims".
    """
    import numpy as np

    if any(thickness <= 0 for thickness in given.stock_mm):
        raise InvalidInput("stock_mm", "shim-of-nothing")
    stock = np.array(sorted(set(given.stock_mm), reverse=True))
    best: list[float] = []
    gap = abs(given.wanted_mm)
    halves = [_half(stock, count) for count in range((given.max_count + 1) // 2 + 1)]
    for count in range(1, given.max_count + 1):
        # Half the pieces from one list, half from another, matched by their sums: all packs without trying each.
        (one, one_sums), (other, other_sums) = halves[count // 2], halves[count - count // 2]
        found, index, mate = _nearest(given.wanted_mm - one_sums, other_sums)
        if found < gap - TIE_MM:
            gap, best = found, [float(stock[n]) for n in (*one[index], *other[mate])]
    total = sum(best)
    return Shims(pack_mm=sorted(best, reverse=True), total_mm=total, gap_mm=total - given.wanted_mm)


def _half(
    stock: "np.ndarray[tuple[int], np.dtype[np.float64]]", count: int
) -> "tuple[np.ndarray[tuple[int, int], np.dtype[np.intp]], np.ndarray[tuple[int], np.dtype[np.float64]]]":
    """Every choice of some pieces, as places in the stock, in order of their sums; and the sums."""
    import numpy as np

    rows = list(combinations_with_replacement(range(len(stock)), count))
    chosen = np.array(rows, dtype=np.intp).reshape(len(rows), count)
    sums = stock[chosen].sum(axis=1)
    order = np.argsort(sums, kind="stable")
    return chosen[order], sums[order]


def _nearest(
    wanted: "np.ndarray[tuple[int], np.dtype[np.float64]]", sums: "np.ndarray[tuple[int], np.dtype[np.float64]]"
) -> tuple[float, int, int]:
    import numpy as np

    right = np.clip(np.searchsorted(sums, wanted), 0, len(sums) - 1)
    left = np.clip(right - 1, 0, len(sums) - 1)
    off_right, off_left = np.abs(sums[right] - wanted), np.abs(sums[left] - wanted)
    off = np.minimum(off_right, off_left)
    index = int(np.argmin(off))
    mate = int(right[index] if off_right[index] <= off_left[index] else left[index])
    return float(off[index]), index, mate
