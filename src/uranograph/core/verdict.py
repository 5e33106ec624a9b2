"""Verdicts and the single judging function."""

from enum import StrEnum

# A verdict by chances is given where it is wrong once in five hundred at the most, if nothing is wrong with the set-up.
FALSE_VERDICT = 0.002
# Tolerance for floating-point error at a limit.
EXACT = 1e-9


class Verdict(StrEnum):
    """Status of a figure or station. `open` covers both not started and under way."""

    IN = "in"
    OUT = "out"
    UNSURE = "unsure"
    OPEN = "open"
    SKIPPED = "skipped"


WORST_FIRST = (Verdict.OUT, Verdict.UNSURE, Verdict.OPEN, Verdict.SKIPPED, Verdict.IN)


def worst(verdicts: "list[Verdict] | tuple[Verdict, ...]") -> Verdict:
    """The verdict that most needs a person.

    Examples
    --------
    >>> worst([Verdict.IN, Verdict.OUT, Verdict.OPEN]).value
    'out'
    """
    return min(verdicts, key=WORST_FIRST.index)


def judge(
    value: float, doubt: float, least: float | None = None, most: float | None = None, greatest: float | None = None
) -> Verdict:
    """Judge a figure, or the span from `value` to `greatest`, against what is allowed; guarded on both sides.

    Parameters
    ----------
    value, doubt
        The figure and its uncertainty, not negative, in the same unit.
    least, most
        What is allowed; None where that side is open.
    greatest
        The other end where a whole span is judged; `value` alone unless given.

    Returns
    -------
    Verdict
        `in` only where all of it, with its doubt, is allowed; `out` only where some of it is not even with its doubt
        taken off; else `unsure`.

    Examples
    --------
    >>> [judge(e, 0.4, -1.0, 1.0).value for e in (0.5, 0.8, -1.5)]
    ['in', 'unsure', 'out']
    >>> judge(0.06, 0.005, 0.05, 0.15, greatest=0.14).value
    'in'

    References
    ----------
    docs/methods.md, "Verdict".
    """
    top = value if greatest is None else greatest
    if (least is not None and value + doubt < least - EXACT) or (most is not None and top - doubt > most + EXACT):
        return Verdict.OUT
    if (least is None or value - doubt >= least - EXACT) and (most is None or top + doubt <= most + EXACT):
        return Verdict.IN
    return Verdict.UNSURE
