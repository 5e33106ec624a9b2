"""Gear trains: whether the cam turns at half speed, when marks meet again, and what one tooth is worth."""

import math
from collections import deque
from collections.abc import Mapping
from fractions import Fraction

from pydantic import Field

from uranograph.core.errors import InvalidInput
from uranograph.core.models import Found, Input

MAX_TEETH = 1000


class Gear(Input):
    """A gear; gears with the same shaft turn together."""

    name: str = Field(min_length=1, max_length=40)
    teeth: int = Field(ge=3, le=MAX_TEETH)
    shaft: str | None = None


class GearLoop(Input):
    """Two sprockets joined by a chain or belt; links (or belt teeth) where the chain is marked."""

    upstream: str
    downstream: str
    links: int | None = Field(None, ge=4, le=4 * MAX_TEETH)

    @property
    def name(self) -> str:
        return f"chain {self.upstream}-{self.downstream}"


class TrainInput(Input):
    """Gears, which mesh with which, which are joined by a chain, and the names of the crank's and the cam's."""

    gears: list[Gear] = Field(min_length=2, max_length=40)
    meshes: list[tuple[str, str]] = Field(max_length=80)
    chains: list[GearLoop] = Field([], max_length=40)
    crank: str
    cam: str

    @property
    def pairs(self) -> list[tuple[str, str]]:
        """Every place where one gear turns another, upstream first."""
        return [*self.meshes, *((loop.upstream, loop.downstream) for loop in self.chains)]


class Train(Found):
    """How the train turns."""

    cam_speed_ratio: float
    ratio_ok: bool = Field(description="The cam turns at exactly half speed.")
    realign_crank_turns: int = Field(description="Crank turns after which every mark is back.")
    cam_shift_per_tooth_deg: dict[str, float] = Field(
        description="Crank degrees at the cam for one tooth at each mesh; 0 where a tooth there does not move the cam."
    )
    cam_turns_opposite: bool
    mark_back_after_turns: dict[str, int] = Field(description="Crank turns after which each gear's own mark is back.")
    would_be_right: dict[str, int] = Field(
        description="Where the ratio is not 1/2: the tooth count of one gear that alone would make it so, nearest first."
    )


class Offset(Found):
    """Position of a gear's own mark."""

    teeth: float = Field(description="Teeth past its place in the running direction of that gear, in (-T/2, T/2].")
    on: bool


def train(given: TrainInput) -> Train:
    """Work out a gear train.

    Parameters
    ----------
    given
        Gears with teeth and shafts, meshes (upstream, downstream), crank and cam.

    Returns
    -------
    Train
        Ratio of cam to crank speed, turns to realign, crank degrees per tooth at each mesh (0 where the mesh does
        not lie between crank and cam, or where a second path locks it), and whether the cam turns the other way.

    Raises
    ------
    InvalidInput
        Naming the gear: an unknown, doubled or unlinked one, or one in a loop that cannot turn.

    Examples
    --------
    >>> gears = [{"name": "crank", "teeth": 27}, {"name": "idler", "teeth": 41}, {"name": "cam", "teeth": 54}]
    >>> found = train(TrainInput(gears=gears, meshes=[("crank", "idler"), ("idler", "cam")], crank="crank", cam="cam"))
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
    for up, down in given.pairs:
        driven = next((name for name, parent in path if {name, parent} == {up, down}), None)
        shift = 0.0
        if driven is not None and not _locked(given, gears, (up, down)):
            shift = 720 / gears[driven].teeth * abs(float(cam / speeds[driven]))
        shifts[f"{up}-{down}"] = shift
    back = {name: speed.denominator for name, speed in speeds.items()}
    for loop in given.chains:
        if loop.links is not None:
            moved = abs(speeds[loop.upstream]) * gears[loop.upstream].teeth / loop.links
            back[loop.name] = moved.denominator
    return Train(
        cam_speed_ratio=abs(float(cam)),
        ratio_ok=abs(cam) == Fraction(1, 2),
        realign_crank_turns=math.lcm(*back.values()),
        cam_shift_per_tooth_deg=shifts,
        cam_turns_opposite=cam < 0,
        mark_back_after_turns=back,
        would_be_right={} if abs(cam) == Fraction(1, 2) else _would_be_right(given, abs(cam), path),
    )


def _locked(given: TrainInput, gears: Mapping[str, Gear], pair: tuple[str, str]) -> bool:
    """Whether the two gears stay joined by another path once this mesh is parted: then no tooth can slip at it alone."""
    joined: dict[str, set[str]] = {name: set() for name in gears}
    parted = False
    for one, other in given.pairs:
        if (one, other) == pair and not parted:
            parted = True
            continue
        joined[one].add(other)
        joined[other].add(one)
    for one, gear in gears.items():
        joined[one] |= {
            o for o, other in gears.items() if o != one and gear.shaft is not None and other.shaft == gear.shaft
        }
    reached, waiting = {pair[0]}, [pair[0]]
    while waiting:
        for other in joined[waiting.pop()] - reached:
            reached.add(other)
            waiting.append(other)
    return pair[1] in reached


def speeds_of(given: TrainInput) -> dict[str, tuple[int, int]]:
    """Turns of each gear a crank turn, exactly: numerator and denominator, the crank's way of turning positive.

    Examples
    --------
    >>> gears = [{"name": "crank", "teeth": 21}, {"name": "cam", "teeth": 42}]
    >>> speeds_of(TrainInput(gears=gears, meshes=[("crank", "cam")], crank="crank", cam="cam"))
    {'crank': (1, 1), 'cam': (-1, 2)}
    """
    gears = _by_name(given)
    found = _speeds(given, gears, _links(given, gears))[0]
    return {name: (speed.numerator, speed.denominator) for name, speed in found.items()}


def meet_again(one_turns: int, other_turns: int) -> int:
    """Crank turns after which two marks are back together.

    Examples
    --------
    >>> meet_again(2, 41)
    82
    """
    return math.lcm(one_turns, other_turns)


def marks_after(
    given: TrainInput, crank_teeth: int, slips: Mapping[tuple[str, str], int] | None = None
) -> dict[str, Offset]:
    """Say where every gear's mark stands once the crank gear has gone on by some teeth.

    Parameters
    ----------
    given
        The train.
    crank_teeth
        Teeth the crank gear has turned, forward positive, from where all marks meet.
    slips
        Teeth by which the downstream gear of a pair has slipped ahead.

    Returns
    -------
    dict
        An offset for each gear.

    Raises
    ------
    InvalidInput
        As `train` does.

    Examples
    --------
    >>> gears = [{"name": "crank", "teeth": 21}, {"name": "cam", "teeth": 42}]
    >>> given = TrainInput(gears=gears, meshes=[("crank", "cam")], crank="crank", cam="cam")
    >>> marks_after(given, 21)["cam"].teeth, marks_after(given, 42)["cam"].on
    (21.0, True)
    """
    gears = _by_name(given)
    speeds, parents = _speeds(given, gears, _links(given, gears))
    turned = Fraction(crank_teeth, gears[given.crank].teeth)
    slipped = _slipped(gears, speeds, parents, slips or {})
    return {
        name: _offset((abs(speed) * turned + slipped[name]) * gears[name].teeth, gears[name].teeth)
        for name, speed in speeds.items()
    }


def _slipped(
    gears: Mapping[str, Gear],
    speeds: Mapping[str, Fraction],
    parents: Mapping[str, str],
    slips: Mapping[tuple[str, str], int],
) -> dict[str, Fraction]:
    """Turns by which each gear is ahead of its nominal position."""
    ahead: dict[str, Fraction] = {}
    for name in speeds:
        parent = parents.get(name)
        if parent is None:
            ahead[name] = Fraction(0)
            continue
        own = Fraction(slips.get((parent, name), 0), gears[name].teeth)
        ahead[name] = own + ahead[parent] * abs(speeds[name] / speeds[parent])
    return ahead


def _offset(teeth: Fraction, count: int) -> Offset:
    off = teeth % count
    if off > Fraction(count, 2):
        off -= count
    return Offset(teeth=float(off), on=off == 0)


def _would_be_right(given: TrainInput, ratio: Fraction, path: list[tuple[str, str]]) -> dict[str, int]:
    """For each gear on the way to the cam, the count that alone would bring half speed, nearest change first."""
    names = {name for step in path for name in step}
    found = []
    for n, gear in enumerate(given.gears):
        if gear.name not in names:
            continue
        # The ratio is a product of counts to the power of one, minus one or nothing: two trials tell which.
        doubled = given.model_copy(
            update={
                "gears": [*given.gears[:n], gear.model_copy(update={"teeth": 2 * gear.teeth}), *given.gears[n + 1 :]]
            }
        )
        gears = _by_name(doubled)
        try:
            other = abs(_speeds(doubled, gears, _links(doubled, gears))[0][given.cam])
        except InvalidInput:
            continue
        if other == ratio:
            continue
        wanted = gear.teeth * (Fraction(1, 2) / ratio if other > ratio else ratio * 2)
        if wanted.denominator == 1 and 3 <= wanted <= MAX_TEETH:
            found.append((abs(int(wanted) - gear.teeth), gear.name, int(wanted)))
    return {name: teeth for _, name, teeth in sorted(found)}


def _by_name(given: TrainInput) -> dict[str, Gear]:
    gears: dict[str, Gear] = {}
    for n, gear in enumerate(given.gears):
        if gear.name in gears:
            raise InvalidInput(f"gears.{n}.name", "gear-twice", name=gear.name)
        gears[gear.name] = gear
    for field in ("crank", "cam"):
        if getattr(given, field) not in gears:
            raise InvalidInput(field, "no-such-gear", name=getattr(given, field))
    if given.crank == given.cam:
        raise InvalidInput("cam", "crank-is-cam")
    return gears


def _links(given: TrainInput, gears: dict[str, Gear]) -> dict[str, list[tuple[str, Fraction]]]:
    """For each gear, those it turns and how fast by it."""
    links: dict[str, list[tuple[str, Fraction]]] = {name: [] for name in gears}
    if not given.pairs:
        raise InvalidInput("meshes", "nothing-meshes")
    for n, (up, down) in enumerate(given.pairs):
        chained = n >= len(given.meshes)
        field = f"chains.{n - len(given.meshes)}" if chained else f"meshes.{n}"
        for name in (up, down):
            if name not in gears:
                raise InvalidInput(field, "mesh-without-gear", name=name)
        shared = gears[up].shaft is not None and gears[up].shaft == gears[down].shaft
        if up == down or shared:
            raise InvalidInput(field, "mesh-on-one-shaft", up=up, down=down)
        ratio = Fraction(gears[up].teeth, gears[down].teeth) * (1 if chained else -1)
        links[up].append((down, ratio))
        links[down].append((up, 1 / ratio))
    for name, gear in gears.items():
        for other, another in gears.items():
            if name != other and gear.shaft is not None and gear.shaft == another.shaft:
                links[name].append((other, Fraction(1)))
    return links


def _speeds(
    given: TrainInput, gears: dict[str, Gear], links: dict[str, list[tuple[str, Fraction]]]
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
                raise InvalidInput(f"gears.{n}", "loop-cannot-turn", other=other, name=name)
    for n, gear in enumerate(given.gears):
        if gear.name not in speeds:
            raise InvalidInput(f"gears.{n}", "gear-not-driven", name=gear.name)
    return speeds, parents


def _path(name: str, parents: dict[str, str]) -> list[tuple[str, str]]:
    steps = []
    while name in parents:
        steps.append((name, parents[name]))
        name = parents[name]
    return steps
