"""End-play form: the allowed range of each shaft and how it is read."""

from collections.abc import Iterator
from dataclasses import dataclass

from uranograph.bench import shop_limits
from uranograph.bench.fields import (
    DIAL_DIVISION,
    Choice,
    Fields,
    Fold,
    Length,
    MaterialField,
    Temperature,
    Text,
)
from uranograph.bench.forms import Filled, Form, Group, Typed, remembered
from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.core.hot_play import HotPlayInput
from uranograph.core.quantities import LengthUnit
from uranograph.engine.messages import say

KEY = "end-play"
PARTS = {"crank": "crank", "cam": "cam", "idler": "idler"}


@dataclass(frozen=True)
class PlayWindow:
    """One shaft's play: what is allowed, how it is read, what limits it, and what grows; mm and C."""

    low_mm: float
    high_mm: float
    way: str
    limits: str
    heat: HotPlayInput | None
    single_mm: float | None = None

    @property
    def middle_mm(self) -> float:
        return (self.low_mm + self.high_mm) / 2


@dataclass(frozen=True)
class Plays:
    """Every shaft that is to be read, and the dial's division, mm."""

    loops: dict[str, PlayWindow]
    division_mm: float


class LoopFields(Fields):
    """End-play specification of one shaft and its method; mm."""

    low_mm = Length("min", "Least play").optional()
    high_mm = Length("max", "Greatest play", above_zero=True).optional()
    single_mm = Length("single", "Or one figure alone", "a window by the shop's rule", above_zero=True).optional()
    way = Choice(
        "way", "Read by", (("feelers", "feelers"), ("dial", "dial indicator")), unknown=say("play-method-missing")
    )
    limits = Text("limits", "Limited by", say("limiting-parts-hint"))

    def check(self) -> Iterator[tuple[str, str]]:
        low, high = self.low_mm, self.high_mm
        if self.single_mm is not None and (low is not None or high is not None):
            yield "single", say("single-figure-or-limits")
        elif (low is None) != (high is None):
            yield "min" if low is None else "max", say("both-limits-needed")
        elif low is not None and high is not None and low > high:
            yield "min", say("play-limits-crossed")

    def window(self, single_within_mm: float) -> tuple[float, float] | None:
        """Allowed range, mm; None if this shaft is not measured."""
        if self.single_mm is not None:
            return max(0.0, self.single_mm - single_within_mm), self.single_mm + single_within_mm
        return None if self.low_mm is None or self.high_mm is None else (self.low_mm, self.high_mm)


class HotFields(Fields):
    """Thermal expansion of one shaft: length between faces, mm, and coefficients, 1/K."""

    length_mm = Length("length", "length between faces", above_zero=True).optional()
    room_alpha = MaterialField("room", "set by", "steel, aluminum, …").optional()
    filler_alpha = MaterialField("filler", "filled by").optional()


class PlayFields(Fields):
    """Common to all shafts: temperatures, degrees Celsius, and the dial's division, mm."""

    hot = Fold("What it becomes hot")
    hot_c = Temperature("hot_c", "Hot, °C").optional()
    cold_c = Temperature("cold_c", "Cold, °C", "20 unless typed", default=20.0)
    dial = Fold("Dial")
    division_mm = Length("dial_division", "Dial's smallest division", above_zero=True, default=DIAL_DIVISION)


@remembered
def read(typed: Typed, unit: LengthUnit, window_mm: float = shop_limits.LIMITS["single_figure"].start) -> Filled[Plays]:
    """Read the set-up as typed.

    Examples
    --------
    >>> filled = read({"crank_min": "0.08", "crank_max": "0.20"}, LengthUnit.MM)
    >>> filled.value.loops["crank"].way
    'feelers'
    """
    shared, errors, loops = PlayFields.read(typed, unit), {}, {}
    errors.update(shared.errors)
    for part in PARTS:
        allowed, grows = LoopFields.read(typed, unit, f"{part}_"), HotFields.read(typed, unit, f"{part}_")
        errors.update(allowed.errors | grows.errors)
        if allowed.value is None or grows.value is None or shared.value is None:
            continue
        window = allowed.value.window(window_mm)
        if window is None:
            continue
        heat = _heat(part, grows.value, shared.value, errors)
        loops[part] = PlayWindow(*window, allowed.value.way, allowed.value.limits, heat, allowed.value.single_mm)
    if not loops and not errors:
        errors["crank_min"] = say("play-limits-missing")
    if errors or shared.value is None:
        return Filled(None, errors)
    return Filled(Plays(loops, shared.value.division_mm))


def _heat(part: str, grows: HotFields, shared: PlayFields, errors: dict[str, str]) -> HotPlayInput | None:
    """End play of one shaft when hot; None if no temperatures are given."""
    values = {
        f"{part}_length": grows.length_mm,
        f"{part}_room": grows.room_alpha,
        f"{part}_filler": grows.filler_alpha,
        "hot_c": shared.hot_c,
    }
    missing = [name for name, value in values.items() if value is None]
    if missing:
        if any(values[f"{part}_{name}"] is not None for name in ("length", "room", "filler")):
            errors.update({name: say("needed-for-hot-play") for name in missing if name not in errors})
        return None
    return HotPlayInput(
        cold_play_mm=0.0,
        length_mm=grows.length_mm,
        room_alpha=grows.room_alpha,
        filler_alpha=grows.filler_alpha,
        cold_c=shared.cold_c,
        hot_c=shared.hot_c,
    )


def _groups() -> tuple[Group, ...]:
    hot, dial = PlayFields.groups()
    grows = (
        field.prefixed(f"{part}_", f"{part.capitalize()}: {field.label}")
        for part in PARTS
        for field in HotFields.fields()
    )
    allowed = (LoopFields.groups(f"{part}_", "" if part == "crank" else part.capitalize())[0] for part in PARTS)
    return (*allowed, Group((*hot.asks, *grows), hot.title), dial)


SETUP = Form(
    KEY,
    "end play",
    lambda typed, job: read(typed, job.unit, shop_limits.value(job.shop_limits, "single_figure")),
    instruction="Say what play is allowed; the crank first.",
    groups=_groups(),
)


@memoized
def setup(job: Job) -> Plays | None:
    """Return the job's set-up, or None."""
    return job.form(SETUP)


def loop_of(job: Job, part: str) -> PlayWindow | None:
    """Allowed end play of one shaft."""
    set_up = setup(job)
    return set_up.loops.get(part) if set_up else None
