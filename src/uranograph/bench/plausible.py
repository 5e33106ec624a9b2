"""Figures that can be, and are more likely a slip of typing."""

import re

from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import parse_angle

# Nearer than this two readings of one place differ by more than a slip, degrees.
NEAR_DEG = 3.0


def slip(text: str, earlier: str) -> bool:
    """Whether a figure is more likely a slip of another: a digit missing or too many, two swapped, or the point misplaced.

    Parameters
    ----------
    text, earlier
        Two angles as typed, degrees; the second was read in the same place before.

    Returns
    -------
    bool
        False where they lie near each other, whatever their digits.

    Examples
    --------
    >>> slip("4", "42"), slip("24.5", "42.5"), slip("4.2", "42"), slip("39", "42"), slip("41", "42")
    (True, True, True, False, False)
    """
    try:
        one, other = parse_angle(text), parse_angle(earlier)
    except InvalidInput:
        return False
    if abs(one - other) <= NEAR_DEG:
        return False
    typed, before = (re.sub(r"[^0-9]", "", each) for each in (text, earlier))
    if typed == before or sorted(typed) == sorted(before):
        return True
    longer, shorter = sorted((typed, before), key=len, reverse=True)
    return len(longer) == len(shorter) + 1 and any(longer[:k] + longer[k + 1 :] == shorter for k in range(len(longer)))
