"""Recommended shims or stock removal, and the resulting end play."""

from dataclasses import dataclass

from uranograph.bench.job import Job
from uranograph.bench.log import Reading
from uranograph.bench.memo import memoized
from uranograph.core.quantities import LengthUnit, format_fine, parse_length
from uranograph.core.setting import off_each_cheek, pack_wanted, play_with
from uranograph.core.shims import Shims, ShimsInput, shims
from uranograph.engine import end_play, end_play_form
from uranograph.engine.end_play import Play
from uranograph.stations.setting.means import KEY, goal_mm, parse_pack, setup

SIDES = {"front": "front thrust face", "rear": "rear thrust face"}


def earlier_readings(job: Job, kind: str, until: int) -> list[Reading]:
    """Readings of one kind before a place in the log."""
    return [reading for reading in job.active_readings(KEY, kind) if reading.seq < until]


def fitted(job: Job, part: str, until: int | None = None) -> tuple[float, ...] | None:
    """The last shim pack fitted before a log position, or None."""
    taken = earlier_readings(job, f"shims-{part}", end_play.LATEST if until is None else until)
    return parse_pack(taken[-1].text, taken[-1].unit) if taken else None


def pack_unknown(job: Job, part: str, until: int | None = None) -> bool:
    """Whether shims went in or came out since a pack was last written, before a place in the log."""
    before = end_play.LATEST if until is None else until
    written = max((reading.seq for reading in earlier_readings(job, f"shims-{part}", before)), default=0)
    return any(written < act.seq < before and act.scope in (None, part) for act in job.acts("shims"))


def play_read(job: Job, part: str) -> tuple[Play, int] | None:
    """The newest play that means something: read with the parts on that limit it; and where in the log that fit ended."""
    last = end_play.latest(job, part)
    return last if last is not None and last[0].means_something else None


@dataclass(frozen=True)
class Advice:
    """Recommended pack, its resulting end play, and whether that is within limits; mm."""

    pack: Shims
    was_mm: float
    play_mm: float
    within: bool
    binds: bool = False


@memoized
def shim_advice(job: Job, part: str) -> Advice | None:
    """The pack from the shop's stock that brings the play nearest to what is wanted."""
    means, last, goal, loop = (
        setup(job).get(part),
        play_read(job, part),
        goal_mm(job, part),
        end_play_form.loop_of(job, part),
    )
    if means is None or means.way != "shims" or goal is None or loop is None:
        return None
    if last is None and means.is_play:
        pack = shims(ShimsInput(wanted_mm=goal, stock_mm=list(means.stock_mm), max_count=means.most))
        return Advice(pack, 0.0, pack.total_mm, loop.low_mm <= pack.total_mm <= loop.high_mm)
    if last is None or last[0].problem:
        return None
    play, until = last
    if pack_unknown(job, part, until):
        return None
    was = sum(fitted(job, part, until) or ())
    wanted = pack_wanted(was, play.middle_mm, goal, means.adds)
    pack = shims(ShimsInput(wanted_mm=max(0.0, wanted), stock_mm=list(means.stock_mm), max_count=means.most))
    would = play_with(pack.total_mm, was, play.middle_mm, means.adds)
    half = 0.0 if play.high_mm is None else (play.high_mm - play.low_mm) / 2
    within = play.loop.low_mm <= would - half and would + half <= play.loop.high_mm
    return Advice(pack, was, would, within, play.binds)


@dataclass(frozen=True)
class Cheeks:
    """Sanding as far as it has come, mm a side: thicknesses pass by pass, taken so far, and what is wanted."""

    thickness_mm: dict[str, tuple[float, ...]]
    wanted_mm: float | None

    def taken_mm(self, side: str) -> float:
        passes = self.thickness_mm.get(side, ())
        return passes[0] - passes[-1] if passes else 0.0

    @property
    def apart_mm(self) -> float:
        """How unlike the two sides were sanded."""
        return abs(self.taken_mm("front") - self.taken_mm("rear"))

    @property
    def passes(self) -> int:
        """Passes done on both sides, the measuring as found not counted."""
        return max(0, min(len(self.thickness_mm.get(side, ())) for side in SIDES) - 1)


@memoized
def cheeks(job: Job, part: str) -> Cheeks | None:
    """How far the cheeks of one shaft's thrust bearing are sanded."""
    means = setup(job).get(part)
    if means is None or means.way != "cheeks":
        return None
    taken: dict[str, list[tuple[int, float]]] = {}
    for reading in job.active_readings(KEY):
        kind, number, side = reading.spot
        if kind == f"cheek-{part}":
            taken.setdefault(side, []).append((number, reading.mm))
    thickness = {side: tuple(mm for _, mm in sorted(values)) for side, values in taken.items()}
    last, goal = play_read(job, part), goal_mm(job, part)
    wanted = None
    if last is not None and goal is not None and not last[0].problem:
        # Stock removed before the play was measured must not be counted twice.
        until = last[1]
        before = {
            side: [r.mm for r in earlier_readings(job, f"cheek-{part}", until) if r.spot.place == side]
            for side in SIDES
        }
        off = [values[0] - values[-1] for values in before.values() if values]
        wanted = off_each_cheek(last[0].middle_mm, goal, sum(off) / len(off) if off else 0.0)
    return Cheeks(thickness, wanted)


@dataclass(frozen=True)
class SpacerAndPlate:
    """Spacer and plate, mm, None where not measured; the play is what one is thicker than the other."""

    spacer_mm: float | None
    plate_mm: float | None

    @property
    def play_mm(self) -> float | None:
        if self.spacer_mm is None or self.plate_mm is None:
            return None
        return self.spacer_mm - self.plate_mm


def ring(job: Job, part: str) -> SpacerAndPlate:
    """The newest spacer and plate."""
    newest = {}
    for kind in ("spacer", "plate"):
        taken = earlier_readings(job, f"{kind}-{part}", end_play.LATEST)
        newest[kind] = parse_length(taken[-1].text, taken[-1].unit) if taken else None
    return SpacerAndPlate(newest["spacer"], newest["plate"])


def pack_words(pack: list[float] | tuple[float, ...], unit: LengthUnit) -> str:
    """A pack as it is written on the bench."""
    return " + ".join(format_fine(mm, unit).rstrip("0") if unit is LengthUnit.INCH else f"{mm:.3g}" for mm in pack)
