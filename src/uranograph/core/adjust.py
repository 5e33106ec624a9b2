"""Which positions of a drive's adjusters leave the cam nearest to where it belongs."""

import math
from typing import TYPE_CHECKING, Annotated, Any, Literal

from pydantic import BaseModel, Field

from uranograph.core.errors import InvalidInput
from uranograph.core.models import Deg, Found, Input

if TYPE_CHECKING:
    import numpy as np

    Array = np.ndarray[Any, np.dtype[Any]]

MAX_COMBINATIONS = 1_000_000
MAX_STEPS = 10_000
AS_IT_IS = "as it is"


class Option(Input):
    """One labelled position and its shift, crank degrees, advance positive."""

    label: str
    shift_deg: Deg


class Choices(Input):
    """Labelled positions: a crank gear with several keyways, offset keys or bushings."""

    kind: Literal["choices"]
    options: list[Option] = Field(min_length=1, max_length=200)
    fitted: str | Annotated[int, Field(ge=0, le=200)] = Field(description="Label or index of the one fitted now.")


class Tooth(Input):
    """Whole teeth of the crank gear."""

    kind: Literal["tooth"]
    crank_teeth: int = Field(ge=4, le=400)
    max_teeth: int = Field(2, ge=0, le=50)
    at: int = Field(0, ge=-50, le=50, description="Teeth it was moved already, advance positive.")


class PinVernier(Input):
    """A ring of holes in the sprocket against another in the hub."""

    kind: Literal["pin-vernier"]
    sprocket_holes: int = Field(ge=1, le=400)
    hub_holes: int = Field(ge=1, le=400)
    range_deg: Deg = Field(15.0, gt=0, le=360, description="How far either way to look, crank degrees.")
    at: int = Field(0, ge=-MAX_STEPS, le=MAX_STEPS, description="Steps it was moved already, advance positive.")


class HoleSets(Input):
    """Sets of holes in a blind gear, spread evenly over one tooth pitch."""

    kind: Literal["hole-sets"]
    cam_teeth: int = Field(ge=4, le=400)
    sets: int = Field(ge=1, le=50)
    max_teeth: int = Field(1, ge=0, le=50)
    at: int = Field(0, ge=-2500, le=2500, description="Hole sets it was moved already, advance positive.")


class SlottedAdjuster(Input):
    """A slot, or a free fit, set anywhere in steps; its marks may be cam degrees."""

    kind: Literal["slot"]
    range_deg: Deg = Field(gt=0, le=360, description="How far it goes either way, in the degrees it is marked in.")
    step_deg: Deg = Field(gt=0, le=360)
    marks: Literal["crank", "cam"] = "crank"
    at: int = Field(0, ge=-MAX_STEPS, le=MAX_STEPS, description="Steps it was moved already, advance positive.")


Adjuster = Annotated[Choices | Tooth | PinVernier | HoleSets | SlottedAdjuster, Field(discriminator="kind")]


class AdjustInput(Input):
    """The error to cure and what the drive offers."""

    error_deg: Deg = Field(description="Crank degrees, late positive.")
    adjusters: list[Adjuster] = Field(min_length=1, max_length=8)
    keep: int = Field(5, ge=1, le=100)


class AdjusterMove(BaseModel):
    """One adjuster moved from where it is to where it should be."""

    adjuster: int = Field(description="Index of the adjuster.")
    from_: str = Field(serialization_alias="from")
    to: str
    shift_deg: float


class PositionChoice(Found):
    """A way to set all adjusters."""

    moves: list[AdjusterMove]
    shift_deg: float
    remaining_error_deg: float


class Adjusted(Found):
    """The best ways, best first, and the finest step there is."""

    choices: list[PositionChoice]
    finest_step_deg: float | None


class AdjustSeveralInput(Input):
    """The errors of several cams, and adjusters that move one of them or all."""

    errors_deg: dict[str, Deg] = Field(min_length=1, max_length=8, description="By cam, crank degrees, late positive.")
    adjusters: list[Adjuster] = Field(min_length=1, max_length=8)
    on: list[str] = Field(description="For each adjuster the cam it moves, or `both` where it moves all of them.")
    keep: int = Field(5, ge=1, le=100)


class ChoiceForSeveral(PositionChoice):
    """A way to set all adjusters, with what it does to each cam; the shift is their mean, what remains the worst of them."""

    shifts_deg: dict[str, float]
    remaining_deg: dict[str, float]


def adjust_several(given: AdjustSeveralInput) -> list[ChoiceForSeveral]:
    """Search all combinations of adjusters that move several cams for the smallest error left on the worst of them.

    Parameters
    ----------
    given
        Each cam's error, crank degrees, late positive; the adjusters, and which cam each moves.

    Returns
    -------
    list
        Ways with what to move, best first: by the worst cam, then by the sum of squares, moves and travel; one for each shift
        that all cams share.

    Raises
    ------
    InvalidInput
        When there are too many combinations, or an adjuster cannot be.

    Examples
    --------
    >>> key = {"kind": "choices", "options": [{"label": str(k), "shift_deg": k} for k in (-4, 0, 4)], "fitted": "0"}
    >>> given = AdjustSeveralInput(errors_deg={"intake": 4.5, "exhaust": 3.5}, adjusters=[key], on=["both"])
    >>> best = adjust_several(given)[0]
    >>> best.moves[0].to, best.remaining_deg
    ('4', {'intake': 0.5, 'exhaust': -0.5})

    References
    ----------
    docs/methods.md, "What the adjusters offer".
    """
    import numpy as np

    offered = [positions(adjuster) for adjuster in given.adjusters]
    shared = [k for k, on in enumerate(given.on) if on == "both"]
    own = {cam: [k for k, on in enumerate(given.on) if on == cam] for cam in given.errors_deg}
    shifts, moved, travel, chosen = _ways([offered[k] for k in shared])
    worst, square = np.zeros(len(shifts)), np.zeros(len(shifts))
    by_cam: dict[str, tuple[Array, Array, Array]] = {}
    for cam, error in given.errors_deg.items():
        own_shifts, own_moved, own_travel, own_chosen = _ways([offered[k] for k in own[cam]])
        left = np.round(np.abs(error - shifts[:, None] - own_shifts[None, :]), 9)
        best = np.lexsort((np.broadcast_to(own_travel, left.shape), np.broadcast_to(own_moved, left.shape), left))[:, 0]
        by_cam[cam] = own_shifts[best], own_chosen[:, best], left[np.arange(len(shifts)), best]
        moved, travel = moved + own_moved[best], travel + own_travel[best]
        worst, square = np.maximum(worst, by_cam[cam][2]), square + by_cam[cam][2] ** 2
    found = []
    for way in np.lexsort((travel, moved, np.round(square, 9), worst))[: given.keep]:
        moves = _choice([offered[k] for k in shared], chosen[:, way], 0.0, 0.0).moves
        moves = [move.model_copy(update={"adjuster": shared[move.adjuster]}) for move in moves]
        by = {cam: float(shifts[way] + own_shifts[way]) for cam, (own_shifts, _, _) in by_cam.items()}
        for cam, (_, own_chosen, _) in by_cam.items():
            further = _choice([offered[k] for k in own[cam]], own_chosen[:, way], 0.0, 0.0).moves
            moves += [move.model_copy(update={"adjuster": own[cam][move.adjuster]}) for move in further]
        left_deg = {cam: given.errors_deg[cam] - by[cam] for cam in by}
        found.append(
            ChoiceForSeveral(
                moves=moves,
                shift_deg=sum(by.values()) / len(by),
                remaining_error_deg=max(left_deg.values(), key=abs),
                shifts_deg=by,
                remaining_deg=left_deg,
            )
        )
    return found


def positions(adjuster: Adjuster) -> tuple[list[tuple[str, float]], int]:
    """Every position an adjuster can take, and which it has now.

    Parameters
    ----------
    adjuster
        What the drive offers.

    Returns
    -------
    tuple
        (label, shift from where it is now in crank degrees, advance positive) for each, and the index of now.

    Raises
    ------
    InvalidInput
        When the fitted choice is not among the options, or a slot has too many steps.

    Examples
    --------
    >>> found, now = positions(Tooth(kind="tooth", crank_teeth=24, max_teeth=1))
    >>> found, now
    ([('1 tooth retarded', -15.0), ('as it is', 0.0), ('1 tooth advanced', 15.0)], 1)
    """
    if isinstance(adjuster, Choices):
        now = _fitted(adjuster)
        base = adjuster.options[now].shift_deg
        return [(option.label, option.shift_deg - base) for option in adjuster.options], now
    if isinstance(adjuster, Tooth):
        return _counted(adjuster.max_teeth, adjuster.at, 360 / adjuster.crank_teeth, "tooth", "teeth")
    if isinstance(adjuster, PinVernier):
        step = 720 / math.lcm(adjuster.sprocket_holes, adjuster.hub_holes)
        return _counted(int(adjuster.range_deg / step + 1e-9), adjuster.at, step, "step", "steps")
    if isinstance(adjuster, HoleSets):
        step = 720 / (adjuster.cam_teeth * adjuster.sets)
        return _counted(adjuster.max_teeth * adjuster.sets, adjuster.at, step, "hole set", "hole sets")
    factor = 2 if adjuster.marks == "cam" else 1
    count = int(adjuster.range_deg / adjuster.step_deg + 1e-9)
    if count > MAX_STEPS:
        raise InvalidInput("adjusters", "slot-too-fine", places=2 * count + 1)
    return _counted(count, adjuster.at, adjuster.step_deg * factor, "mark", "marks")


def _fitted(adjuster: Choices) -> int:
    labels = [option.label for option in adjuster.options]
    if isinstance(adjuster.fitted, str) and adjuster.fitted in labels:
        return labels.index(adjuster.fitted)
    if isinstance(adjuster.fitted, int) and 0 <= adjuster.fitted < len(labels):
        return adjuster.fitted
    raise InvalidInput("adjusters", "fitted-not-offered", fitted=adjuster.fitted, offered=", ".join(labels))


def _counted(most: int, at: int, step_deg: float, one: str, many: str) -> tuple[list[tuple[str, float]], int]:
    """Positions counted from the original one, with `at` the current one; shifts from the current one."""

    def label(k: int) -> str:
        if k == 0:
            return AS_IT_IS
        return f"{abs(k)} {one if abs(k) == 1 else many} {'advanced' if k > 0 else 'retarded'}"

    low, high = min(-most, at), max(most, at)
    return [(label(k - at), (k - at) * step_deg) for k in range(low, high + 1)], at - low


def adjust(given: AdjustInput) -> Adjusted:
    """Search all combinations of adjuster positions for the smallest remaining error.

    Parameters
    ----------
    given
        Error, crank degrees, late positive; the adjusters; how many ways to keep.

    Returns
    -------
    Adjusted
        Ways with what to move, best first (on a tie the one with fewest moves, then with least travel, the sum of
        all moves' sizes), one for each total shift; and the smallest difference between two shifts the drive can make.

    Raises
    ------
    InvalidInput
        When there are too many combinations, or an adjuster cannot be.

    Examples
    --------
    >>> vernier = {"kind": "pin-vernier", "sprocket_holes": 15, "hub_holes": 16}
    >>> found = adjust(AdjustInput(error_deg=3.1, adjusters=[vernier]))
    >>> found.choices[0].moves[0].to, round(found.choices[0].remaining_error_deg, 6), found.finest_step_deg
    ('1 step advanced', 0.1, 3.0)

    References
    ----------
    docs/methods.md, "What the adjusters offer".
    """
    import numpy as np

    offered = [positions(adjuster) for adjuster in given.adjusters]
    shifts, moved, travel, chosen = _ways(offered)
    left = np.abs(given.error_deg - shifts)
    best = np.lexsort((travel, moved, np.round(left, 9)))[: given.keep]
    choices = [_choice(offered, chosen[:, k], float(shifts[k]), given.error_deg) for k in best]
    gaps = np.diff(np.unique(np.round(shifts, 9)))
    return Adjusted(choices=choices, finest_step_deg=float(gaps.min()) if gaps.size else None)


def _ways(offered: "list[tuple[list[tuple[str, float]], int]]") -> "tuple[Array, Array, Array, Array]":
    """One way for every total shift: the fewest moves, then the least travel.

    Moves and travel add up adjuster by adjuster, so the best way to a total is made of best ways to its parts: each
    adjuster is joined to the ways found so far and only the best of each total goes on.
    """
    import numpy as np

    shifts, moved, travel = np.zeros(1), np.zeros(1), np.zeros(1)
    chosen = np.zeros((0, 1), dtype=np.intp)
    for places, now in offered:
        steps = np.array([shift for _, shift in places])
        moves = (np.arange(len(places)) != now).astype(float)
        count = len(steps)
        if count * len(shifts) > MAX_COMBINATIONS:
            raise InvalidInput("adjusters", "too-many-combinations", combinations=count * len(shifts))
        shifts = np.add.outer(shifts, steps).ravel()
        moved = np.add.outer(moved, moves).ravel()
        travel = np.add.outer(travel, np.abs(steps)).ravel()
        chosen = np.vstack([np.repeat(chosen, count, axis=1), np.tile(np.arange(count), chosen.shape[1])])
        total = np.round(shifts, 6)
        order = np.lexsort((np.round(travel, 9), moved, total))
        first = np.append(True, np.diff(total[order]) > 0)
        keep = order[first]
        shifts, moved, travel, chosen = shifts[keep], moved[keep], travel[keep], chosen[:, keep]
    return shifts, moved, np.round(travel, 9), chosen


def _choice(
    offered: "list[tuple[list[tuple[str, float]], int]]", chosen: "Array", total: float, error: float
) -> PositionChoice:
    moves = []
    for k, place in enumerate(chosen):
        places, now = offered[k]
        if place != now:
            label, shift = places[int(place)]
            moves.append(AdjusterMove(adjuster=k, from_=places[now][0], to=label, shift_deg=shift))
    return PositionChoice(moves=moves, shift_deg=total, remaining_error_deg=error - total)
