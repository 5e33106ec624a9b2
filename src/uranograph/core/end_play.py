"""End play by feelers or by a dial."""

from enum import StrEnum

from pydantic import Field

from uranograph.core.errors import InvalidInput
from uranograph.core.models import Found, Input, Mm


class EndPlayInput(Input):
    """Blades that go and do not go, or travels of a dial, mm; and the allowed window."""

    go_mm: list[Mm] = Field([], max_length=200)
    no_go_mm: list[Mm] = Field([], max_length=200)
    travels_mm: list[Mm] = Field([], max_length=200)
    spec_min_mm: Mm = Field(ge=0)
    spec_max_mm: Mm = Field(gt=0)
    travel_doubt_mm: Mm = Field(0.0, ge=0, description="Of one travel of the dial.")


class PlayVerdict(StrEnum):
    """Range of the end play."""

    IN = "in"
    TIGHT = "tight"
    LOOSE = "loose"
    UNSURE = "unsure"


class EndPlay(Found):
    """The play is between low and high."""

    low_mm: float
    high_mm: float | None = Field(description="None where no blade failed to go.")
    verdict: PlayVerdict
    next_blade_mm: float | None = None


def end_play(given: EndPlayInput) -> EndPlay:
    """Judge an end play without ever saying more than the readings do.

    Parameters
    ----------
    given
        Blades that went and that did not, or travels repeated and the doubt of one, mm; least and greatest allowed, mm.

    Returns
    -------
    EndPlay
        The bracket; `in`, `tight` or `loose` only where all of it lies on that side; else `unsure` and the blade
        to try next, at the limit that the bracket straddles (none by a dial: read it again).

    Raises
    ------
    InvalidInput
        When nothing is read, a value is negative, a thicker blade went than one that did not, or the window is
        the wrong way round.

    Examples
    --------
    >>> found = end_play(EndPlayInput(go_mm=[0.10], no_go_mm=[0.15], spec_min_mm=0.08, spec_max_mm=0.20))
    >>> found.verdict.value
    'in'

    References
    ----------
    docs/methods.md, "End play".
    """
    if given.spec_min_mm > given.spec_max_mm:
        raise InvalidInput(
            "spec_min_mm", "least-above-greatest-play", least_mm=given.spec_min_mm, most_mm=given.spec_max_mm
        )
    for field in ("go_mm", "no_go_mm", "travels_mm"):
        if any(value < 0 for value in getattr(given, field)):
            raise InvalidInput(field, "play-below-nothing")
    if given.travels_mm and (given.go_mm or given.no_go_mm):
        raise InvalidInput("travels_mm", "two-ways-at-once")
    if given.travels_mm:
        doubt = given.travel_doubt_mm
        return _judged(given, max(0.0, min(given.travels_mm) - doubt), max(given.travels_mm) + doubt)
    if not given.go_mm and not given.no_go_mm:
        raise InvalidInput("go_mm", "nothing-read")
    low, high = max(given.go_mm, default=0.0), min(given.no_go_mm, default=None)
    if high is not None and low >= high:
        raise InvalidInput("no_go_mm", "blades-crossed", low_mm=low, high_mm=high)
    return _judged(given, low, high)


def _judged(given: EndPlayInput, low: float, high: float | None) -> EndPlay:
    least, most = given.spec_min_mm, given.spec_max_mm
    dial = bool(given.travels_mm)
    if low >= least and high is not None and high <= most:
        verdict = PlayVerdict.IN
    elif high is not None and (high < least or (high == least and not dial)):
        # A blade that does not go is thicker than the play; a travel is the play itself.
        verdict = PlayVerdict.TIGHT
    elif low > most:
        verdict = PlayVerdict.LOOSE
    else:
        verdict = PlayVerdict.UNSURE
    blade = None
    if verdict is PlayVerdict.UNSURE and not dial:
        blade = least if low < least else most
    return EndPlay(low_mm=low, high_mm=high, verdict=verdict, next_blade_mm=blade)
