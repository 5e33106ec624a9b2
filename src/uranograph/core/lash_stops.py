"""The fewest places of the crank at which every valve can be set: each must rest on its base circle for this cam."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations
from math import comb
from typing import Annotated

from pydantic import Field

from uranograph.core.errors import InvalidInput
from uranograph.core.firing import MAX_CYLINDERS
from uranograph.core.models import Deg, Found, Input
from uranograph.core.phase import Events

CYCLE_DEG = 720.0
# Two ends of base circles as near as this are one place.
SAME_DEG = 1e-6
# Sets of firing TDCs that are tried before any other places.
MAX_TRIED = 5_000


CylinderName = Annotated[int, Field(ge=0, le=999)] | Annotated[str, Field(min_length=1, max_length=8)]


class LashStopsInput(Input):
    """An engine's firing and its cam's events at the lift at which the lash is gone."""

    firing_order: list[CylinderName] = Field(min_length=1, max_length=MAX_CYLINDERS)
    firing_deg: list[Deg] | None = Field(
        None, max_length=MAX_CYLINDERS, description="Crank degrees from the first of the order; even unless given."
    )
    card: Events = Field(description="All four events, at the lift at which the lash is taken up.")
    clearance_margin_deg: Deg = Field(
        0.0, ge=0, le=180, description="How far from either end of the base circle a valve is still set."
    )


class Stop(Found):
    """A place of the crank, and the valves that are set there."""

    crank_deg: float = Field(description="From the firing TDC of the first cylinder of the order, [0, 720).")
    valves: list[str]


class LashStops(Found):
    """The fewest stops that serve every valve once, in the order in which the crank comes to them."""

    stops: list[Stop]


@dataclass(frozen=True)
class BaseCircle:
    """Where one valve rests on its base circle: from `start` on for `width`, crank degrees."""

    valve: str
    start: float
    width: float

    def inside(self, angle_deg: float) -> float:
        """Distance of an angle from the nearer end; negative outside."""
        into = (angle_deg - self.start) % CYCLE_DEG
        if into > CYCLE_DEG - SAME_DEG:
            into = 0.0
        return min(into, self.width - into)


def lash_stops(given: LashStopsInput) -> LashStops:
    """Find the fewest places of the crank at which every valve can be set once.

    Parameters
    ----------
    given
        Firing order, with angles where it does not fire evenly, crank degrees; the four events at the lift at which the
        lash is taken up; a margin, crank degrees, kept from both ends of every base circle.

    Returns
    -------
    LashStops
        Stops from the firing TDC of the first of the order; each valve stands at the one where it rests farthest from its
        ramps. A stop lies on a firing TDC where such serve all, else in the middle of what its valves have in common.

    Raises
    ------
    InvalidInput
        When the order names a cylinder twice, its angles do not fit, or a lobe leaves no base circle.

    Examples
    --------
    >>> card = Events(io_btdc_deg=20, ic_abdc_deg=60, eo_bbdc_deg=60, ec_atdc_deg=20)
    >>> found = lash_stops(LashStopsInput(firing_order=[1, 3, 4, 2], card=card))
    >>> [(stop.crank_deg, len(stop.valves)) for stop in found.stops]
    [(0.0, 4), (360.0, 4)]

    References
    ----------
    Fewest points that stab arcs of a circle: from each end of an arc as the first stop, the others by the earliest end;
    docs/methods.md, "Stops for the lash".
    """
    fires = _fires(given)
    bases = [base for cylinder, angle in fires for base in _bases(cylinder, angle, given)]
    best = min((_from(bases, base) for base in bases), key=len)
    places = _tops(bases, [angle for _, angle in fires], len(best)) or [_middle(served) for served in best]
    served: dict[float, list[str]] = {place: [] for place in places}
    for base in bases:
        served[max(places, key=lambda place: base.inside(place))].append(base.valve)
    return LashStops(stops=[Stop(crank_deg=place, valves=served[place]) for place in sorted(served) if served[place]])


def _fires(given: LashStopsInput) -> list[tuple[int | str, float]]:
    order = given.firing_order
    if len({str(each) for each in order}) != len(order):
        raise InvalidInput("firing_order", "cylinder-twice", order=", ".join(map(str, order)))
    if given.firing_deg is None:
        return [(each, k * CYCLE_DEG / len(order)) for k, each in enumerate(order)]
    angles = given.firing_deg
    if len(angles) != len(order):
        raise InvalidInput("firing_deg", "firing-angles-count", count=len(angles), cylinders=len(order))
    if angles[0] != 0 or angles != sorted(angles) or angles[-1] >= CYCLE_DEG:
        raise InvalidInput("firing_deg", "firing-angles-not-rising", typed=", ".join(f"{each:g}" for each in angles))
    return list(zip(order, angles, strict=True))


def _bases(cylinder: int | str, fires_deg: float, given: LashStopsInput) -> list[BaseCircle]:
    events, margin = given.card, given.clearance_margin_deg
    overlap = fires_deg + CYCLE_DEG / 2
    found = []
    for lobe, closes, opens in (
        ("intake", overlap + 180 + events.ic_abdc_deg, overlap + CYCLE_DEG - events.io_btdc_deg),
        ("exhaust", overlap + events.ec_atdc_deg, overlap + CYCLE_DEG - 180 - events.eo_bbdc_deg),
    ):
        width = opens - closes - 2 * margin
        if not 0 < width < CYCLE_DEG:
            raise InvalidInput(
                "card", "no-base-circle", lobe=lobe, lift_deg=CYCLE_DEG - (opens - closes), margin_deg=margin
            )
        found.append(BaseCircle(f"{cylinder} {lobe}", (closes + margin) % CYCLE_DEG, width))
    return found


def _from(bases: Sequence[BaseCircle], first: BaseCircle) -> list[list[BaseCircle]]:
    """Valves stop by stop, where the first stop is the last place at which one valve still rests."""
    at = first.start + first.width
    left = [base for base in bases if base.inside(at) < -SAME_DEG]
    stops = [[base for base in bases if base.inside(at) >= -SAME_DEG]]
    ends = sorted(((base.start + base.width - at) % CYCLE_DEG, k) for k, base in enumerate(left))
    served: set[int] = set()
    for end, k in ends:
        if k in served:
            continue
        here = {j for j, base in enumerate(left) if j not in served and base.inside(at + end) >= -SAME_DEG}
        stops.append([left[j] for j in sorted(here)])
        served |= here
    return stops


def _tops(bases: Sequence[BaseCircle], tops: Sequence[float], count: int) -> list[float]:
    """So many firing TDCs that serve every valve, the first of the order's among them if it can be; none where there are none."""
    if comb(len(tops), count) > MAX_TRIED:
        return []
    rests = {top: [base.inside(top) for base in bases] for top in tops}

    def narrowest(places: Sequence[float]) -> float:
        return min(max(rests[place][k] for place in places) for k in range(len(bases)))

    serving = [list(places) for places in combinations(tops, count) if narrowest(places) >= -SAME_DEG]
    # Start at the first cylinder of the firing order, where the balancer has its mark.
    return max(serving, key=lambda places: (tops[0] in places, narrowest(places))) if serving else []


def _middle(served: Sequence[BaseCircle]) -> float:
    """The middle of what the base circles of one stop have in common."""
    anchor = served[0].start
    low, high = 0.0, served[0].width
    for base in served[1:]:
        start = (base.start - anchor + CYCLE_DEG / 2) % CYCLE_DEG - CYCLE_DEG / 2
        # Of the ways round the circle, the one that overlaps with the others.
        turn = next(
            turn
            for turn in (0.0, CYCLE_DEG, -CYCLE_DEG)
            if max(low, start + turn) <= min(high, start + turn + base.width) + SAME_DEG
        )
        low, high = max(low, start + turn), min(high, start + turn + base.width)
    return (anchor + (low + high) / 2) % CYCLE_DEG
