"""The spec card: what follows from what it gives, and what on it cannot all be true."""

from fractions import Fraction
from functools import cache, lru_cache
from itertools import combinations

from pydantic import Field

from uranograph.core.errors import Missing
from uranograph.core.models import Deg, Found, Input

# Each quantity as coefficients of IO, IC, EO, EC and a constant. Earlier names win where a card contradicts itself.
_RELATIONS: dict[str, tuple[float, float, float, float, float]] = {
    "io_btdc_deg": (1, 0, 0, 0, 0),
    "ic_abdc_deg": (0, 1, 0, 0, 0),
    "eo_bbdc_deg": (0, 0, 1, 0, 0),
    "ec_atdc_deg": (0, 0, 0, 1, 0),
    "intake_duration_deg": (1, 1, 0, 0, 180),
    "exhaust_duration_deg": (0, 0, 1, 1, 180),
    "intake_centerline_deg": (-0.5, 0.5, 0, 0, 90),
    "exhaust_centerline_deg": (0, 0, 0.5, -0.5, 90),
    "lobe_separation_cam_deg": (-0.25, 0.25, 0.25, -0.25, 90),
    "advance_deg": (0.25, -0.25, 0.25, -0.25, 0),
}
_OVERLAP = (1.0, 0.0, 0.0, 1.0, 0.0)
CARD_FIELDS = tuple(_RELATIONS)


class CardInput(Input):
    """Spec card; any part may be missing. Events in crank degrees, negative on the other side."""

    io_btdc_deg: Deg | None = Field(None, gt=-180, lt=180)
    ic_abdc_deg: Deg | None = Field(None, gt=-180, lt=180)
    eo_bbdc_deg: Deg | None = Field(None, gt=-180, lt=180)
    ec_atdc_deg: Deg | None = Field(None, gt=-180, lt=180)
    intake_duration_deg: Deg | None = Field(None, gt=0, lt=540)
    exhaust_duration_deg: Deg | None = Field(None, gt=0, lt=540)
    intake_centerline_deg: Deg | None = Field(None, gt=0, lt=270)
    exhaust_centerline_deg: Deg | None = Field(None, gt=0, lt=270)
    lobe_separation_cam_deg: Deg | None = Field(None, gt=0, lt=270)
    advance_deg: Deg | None = Field(None, gt=-90, lt=90)
    tolerance_deg: Deg = Field(0.5, ge=0)


class Conflict(Found):
    """Fields of a card that cannot all be true."""

    fields: list[str]
    gap_deg: float
    stated_deg: float = Field(description="Of the last of the fields.")
    follows_deg: float = Field(description="What the others make it.")
    values: dict[str, float]


class Card(Found):
    """A card completed: given and derived values, None where nothing determines one."""

    io_btdc_deg: float | None
    ic_abdc_deg: float | None
    eo_bbdc_deg: float | None
    ec_atdc_deg: float | None
    intake_duration_deg: float | None
    exhaust_duration_deg: float | None
    intake_centerline_deg: float | None
    exhaust_centerline_deg: float | None
    lobe_separation_cam_deg: float | None
    advance_deg: float | None
    overlap_deg: float | None
    derived: list[str]
    conflicts: list[Conflict]


@lru_cache(maxsize=512)
def card(given: CardInput) -> Card:
    """Complete a spec card and name what on it contradicts itself.

    Parameters
    ----------
    given
        Any of the ten quantities, crank degrees (separation in cam degrees), and the gap, degrees, up to which
        two statements count as agreeing (cards are rounded; 0.5 unless given).

    Returns
    -------
    Card
        Every quantity that follows, the names of those not given, and the conflicts, fewest fields first.
        A given value is returned as given; derived ones follow from events before durations before centerlines.

    Examples
    --------
    >>> full = card(CardInput(intake_duration_deg=226, exhaust_duration_deg=234, lobe_separation_cam_deg=111, advance_deg=4))
    >>> full.io_btdc_deg, full.ic_abdc_deg, full.eo_bbdc_deg, full.ec_atdc_deg, full.overlap_deg
    (6.0, 40.0, 52.0, 2.0, 8.0)

    References
    ----------
    Definitions of the events and their middles; docs/methods.md, "What follows on a spec card".
    """
    values = {name: value for name in CARD_FIELDS if (value := getattr(given, name)) is not None}
    basis = _basis(tuple(values))
    known = {name: _follow(_RELATIONS[name], basis, values) for name in CARD_FIELDS}
    known |= values
    overlap = _follow(_OVERLAP, basis, values)
    derived = [name for name in CARD_FIELDS if name not in values and known[name] is not None]
    if overlap is not None:
        derived.append("overlap_deg")
    return Card(**known, overlap_deg=overlap, derived=derived, conflicts=_conflicts(values, given.tolerance_deg))


@cache
def _basis(names: tuple[str, ...]) -> tuple[str, ...]:
    """The names, in order, that do not follow from those before them."""
    chosen: tuple[str, ...] = ()
    for name in names:
        if _weights(_RELATIONS[name], chosen) is None:
            chosen = (*chosen, name)
    return chosen


@cache
def _weights(target: tuple[float, ...], basis: tuple[str, ...]) -> tuple[float, ...] | None:
    """Weights that express the target by an independent basis, None where the basis does not determine it."""
    count = len(basis)
    rows = [[Fraction(_RELATIONS[name][k]) for name in basis] + [Fraction(target[k])] for k in range(4)]
    for column in range(count):
        pivot = next(k for k in range(column, 4) if rows[k][column])
        rows[column], rows[pivot] = rows[pivot], rows[column]
        rows[column] = [value / rows[column][column] for value in rows[column]]
        for k in range(4):
            if k != column and rows[k][column]:
                factor = rows[k][column]
                rows[k] = [value - factor * own for value, own in zip(rows[k], rows[column], strict=True)]
    if any(rows[k][count] for k in range(count, 4)):
        return None
    return tuple(float(rows[k][count]) for k in range(count))


def _follow(target: tuple[float, ...], basis: tuple[str, ...], values: dict[str, float]) -> float | None:
    weights = _weights(target, basis)
    if weights is None:
        return None
    return target[4] + sum(
        weight * (values[name] - _RELATIONS[name][4]) for name, weight in zip(basis, weights, strict=True)
    )


@cache
def _smallest_dependent_sets(names: tuple[str, ...]) -> list[tuple[tuple[str, ...], str]]:
    """Every (others, last) of some names where `last` follows from all of `others` and from no part of them."""
    found = []
    for size in range(2, 5):
        for *others, last in combinations(names, size + 1):
            if len(_basis(tuple(others))) < size:
                continue
            weights = _weights(_RELATIONS[last], tuple(others))
            if weights is not None and all(weights):
                found.append((tuple(others), last))
    return found


def _conflicts(values: dict[str, float], tolerance_deg: float) -> list[Conflict]:
    found: list[Conflict] = []
    for others, last in _smallest_dependent_sets(tuple(name for name in CARD_FIELDS if name in values)):
        if any(set(conflict.fields) <= {*others, last} or len(conflict.fields) <= len(others) for conflict in found):
            continue
        wanted = _follow(_RELATIONS[last], others, values)
        if wanted is None:
            raise Missing("wanted")
        gap = abs(values[last] - wanted)
        if gap > tolerance_deg + 1e-9:
            found.append(
                Conflict(
                    fields=[*others, last],
                    gap_deg=gap,
                    stated_deg=values[last],
                    follows_deg=wanted,
                    values={name: values[name] for name in others},
                )
            )
    return found
