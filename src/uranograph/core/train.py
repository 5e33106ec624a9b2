"""Gear trains: whether the cam turns at half speed, when marks meet again, and what one tooth is worth."""

import math
from collections import deque
from fractions import Fraction

from pydantic import Field

from uranograph.core.errors import Impossible
from uranograph.core.models import Found, Given

MOST_TEETH = 1000


class Gear(Given):
    """A gear; gears with the same shaft turn together."""

    name: str = Field(min_length=1, max_length=40)
    teeth: int = Field(ge=3, le=MOST_TEETH)
    shaft: str | None = None


class TrainGiven(Given):
    """Gears, which mesh with which, and the names of the crank's and the cam's."""

    gears: list[Gear] = Field(min_length=2, max_length=40)
    meshes: list[tuple[str, str]] = Field(min_length=1, max_length=80)
    crank: str
    cam: str


class Train(Found):
    """How the train turns."""

    cam_speed_ratio: float
    ratio_ok: bool = Field(description="The cam turns at exactly half speed.")
    realign_crank_turns: int = Field(description="Crank turns after which every mark is back.")
    cam_shift_per_tooth_deg: dict[str, float] = Field(
        description="Crank degrees at the cam for one tooth at each mesh."
    )
    cam_turns_opposite: bool
    mark_back_after_turns: dict[str, int] = Field(description="Crank turns after which each gear's own mark is back.")


def train(given: TrainGiven) -> Train:
    """Work out a gear train.

    Parameters
    ----------
    given
        Gears with teeth and shafts, meshes (upstream, downstream), crank and cam.

    Returns
    -------
    Train
        Ratio of cam to crank speed, turns to realign, crank degrees per tooth at each mesh (0 where the mesh does
        not lie between crank and cam), and whether the cam turns the other way.

    Raises
    ------
    Impossible
        Naming the gear: an unknown, doubled or unlinked one, or one in a loop that cannot turn.

    Examples
    --------
    >>> gears = [{"name": "crank", "teeth": 27}, {"name": "idler", "teeth": 41}, {"name": "cam", "teeth": 54}]
    >>> found = train(TrainGiven(gears=gears, meshes=[("crank", "idler"), ("idler", "cam")], crank="crank", cam="cam"))
    >>> found.ratio_ok, found.realign_crank_turns, round(found.cam_shift_per_tooth_deg["idler-cam"], 3)
    (True, 82, 13.333)

    References
    ----------
    docs/methods.md, "Gear trains".
    """
    gears = _by_name(given)
    links = _links(given, gears)
    speeds, parents = _speeds(given, gears, links)
    cam = speeds[given.cam]
    path = _path(given.cam, parents)
    shifts = {}
    for up, down in given.meshes:
        driven = next((name for name, parent in path if {name, parent} == {up, down}), None)
        shift = 0.0 if driven is None else 720 / gears[driven].teeth * abs(float(cam / speeds[driven]))
        shifts[f"{up}-{down}"] = shift
    back = {name: speed.denominator for name, speed in speeds.items()}
    return Train(
        cam_speed_ratio=abs(float(cam)),
        ratio_ok=abs(cam) == Fraction(1, 2),
        realign_crank_turns=math.lcm(*back.values()),
        cam_shift_per_tooth_deg=shifts,
        cam_turns_opposite=cam < 0,
        mark_back_after_turns=back,
    )


def _by_name(given: TrainGiven) -> dict[str, Gear]:
    gears: dict[str, Gear] = {}
    for n, gear in enumerate(given.gears):
        if gear.name in gears:
            raise Impossible(f"gears.{n}.name", f"“{gear.name}” is there twice. Give each gear a name of its own.")
        gears[gear.name] = gear
    for field in ("crank", "cam"):
        if getattr(given, field) not in gears:
            raise Impossible(field, f"“{getattr(given, field)}” is not among the gears.")
    if given.crank == given.cam:
        raise Impossible("cam", "Crank and cam gear cannot be the same gear.")
    return gears


def _links(given: TrainGiven, gears: dict[str, Gear]) -> dict[str, list[tuple[str, Fraction]]]:
    """For each gear, those it turns and how fast by it."""
    links: dict[str, list[tuple[str, Fraction]]] = {name: [] for name in gears}
    for n, (up, down) in enumerate(given.meshes):
        for name in (up, down):
            if name not in gears:
                raise Impossible(f"meshes.{n}", f"“{name}” meshes but is not among the gears.")
        shared = gears[up].shaft is not None and gears[up].shaft == gears[down].shaft
        if up == down or shared:
            raise Impossible(f"meshes.{n}", f"“{up}” and “{down}” turn together: they cannot mesh with each other.")
        ratio = Fraction(gears[up].teeth, gears[down].teeth)
        links[up].append((down, -ratio))
        links[down].append((up, -1 / ratio))
    for name, gear in gears.items():
        for other, another in gears.items():
            if name != other and gear.shaft is not None and gear.shaft == another.shaft:
                links[name].append((other, Fraction(1)))
    return links


def _speeds(
    given: TrainGiven, gears: dict[str, Gear], links: dict[str, list[tuple[str, Fraction]]]
) -> tuple[dict[str, Fraction], dict[str, str]]:
    speeds = {given.crank: Fraction(1)}
    parents: dict[str, str] = {}
    waiting = deque([given.crank])
    while waiting:
        name = waiting.popleft()
        for other, ratio in links[name]:
            speed = speeds[name] * ratio
            if other not in speeds:
                speeds[other] = speed
                parents[other] = name
                waiting.append(other)
            elif speeds[other] != speed:
                n = next(k for k, gear in enumerate(given.gears) if gear.name == other)
                raise Impossible(
                    f"gears.{n}",
                    f"“{other}” is driven two ways at once, by “{name}” and otherwise: this loop cannot turn.",
                )
    for n, gear in enumerate(given.gears):
        if gear.name not in speeds:
            raise Impossible(f"gears.{n}", f"“{gear.name}” meshes with nothing that the crank turns.")
    return speeds, parents


def _path(name: str, parents: dict[str, str]) -> list[tuple[str, str]]:
    steps = []
    while name in parents:
        steps.append((name, parents[name]))
        name = parents[name]
    return steps
