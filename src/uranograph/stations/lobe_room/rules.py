"""Fit: room between each lobe and the lifter's face or the case, lobe toward it."""

from collections.abc import Mapping
from dataclasses import dataclass

from uranograph.bench import shop_limits
from uranograph.bench.finding import Finding, Prompt, Quantity, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.memo import memoized
from uranograph.bench.slots import Slot, in_mm
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit, format_fine
from uranograph.engine.description import engine_of
from uranograph.stations.lobe_room.messages import FINDINGS, say

KEY = "lobe-room"
ROOM = Slot(KEY, ("lobe-#",), ("gap",), in_mm, rests_on=("room",))
CAUTIONS = ("Turn by hand, slowly: a lobe that touches bends a lifter or cracks the case.",)
STRANGERS = 8


@dataclass(frozen=True)
class LobeClearance:
    """The room at one lobe, mm: the newest reading."""

    number: int
    name: str
    gap_mm: float


def lobes(job: Job) -> tuple[str, ...]:
    """Every lobe by name, cylinder by cylinder."""
    cylinders = engine.cylinders if (engine := engine_of(job)) else STRANGERS // 2
    return tuple(f"{n} {lobe}" for n in range(1, cylinders + 1) for lobe in ("intake", "exhaust"))


def number_of(reading: Entry) -> int:
    """Which lobe a reading is of, from 1, cylinder by cylinder."""
    return int(reading.spot.kind.removeprefix("lobe-"))


@memoized
def measured(job: Job) -> tuple[LobeClearance, ...]:
    """The room at every lobe read, in order of the lobes."""
    names = lobes(job)
    newest = {}
    for reading in ROOM.taken(job):
        number = number_of(reading)
        if number <= len(names):
            newest[number] = LobeClearance(number, names[number - 1], ROOM.value(reading))
    return tuple(newest[number] for number in sorted(newest))


def doubt_mm(job: Job) -> float:
    """Half the resolution of a strip or blade, mm."""
    return 0.0254 if job.unit is LengthUnit.INCH else 0.025


def prompt(job: Job, query: Mapping[str, str]) -> Prompt:
    """Ask for the next lobe, then for the tightest again."""
    names, found = lobes(job), measured(job)
    read = {room.number for room in found}
    wanted = query.get("item", "")
    left = [n for n in range(1, len(names) + 1) if n not in read]
    if wanted.isdecimal() and 1 <= int(wanted) <= len(names):
        number = int(wanted)
    else:
        number = left[0] if left else min(found, key=lambda room: room.gap_mm).number
    kind = f"lobe-{number}"
    return Prompt(
        slot=ROOM.next(job, kind),
        label=f"Least gap, {names[number - 1]}",
        instruction=(say("measure-lobe-clearance", names=names[number - 1]) if left else say("every-lobe-measured")),
        hint=say("clearance-hint"),
        unit=job.unit.value,
    )


def accept(job: Job, entry: Entry) -> None:
    """Refuse a lobe that is not there, or a gap that cannot be.

    Raises
    ------
    InvalidInput
        With `text` at fault.
    """
    number = number_of(entry)
    if not 1 <= number <= len(lobes(job)):
        raise InvalidInput("text", "no-such-lobe", count=len(lobes(job)))
    gap = entry.mm
    if gap < 0:
        raise InvalidInput("text", "gap-below-nothing")
    if gap > 100:
        raise InvalidInput("text", "more-than-any-room", typed=entry.text)


def describe(reading: Reading) -> str:
    """Say which lobe was measured."""
    number = number_of(reading)
    lobe = ("intake", "exhaust")[(number - 1) % 2]
    return say("clearance-at-lobe", lobe=lobe, number=(number + 1) // 2)


def describe_briefly(reading: Reading) -> str:
    """The lobe alone."""
    number = number_of(reading)
    return f"{(number + 1) // 2} {('in', 'ex')[(number - 1) % 2]}"


def find(job: Job) -> Finding:
    """Judge the smallest room against the least and the liked."""
    found, unit = measured(job), job.unit
    bare = Finding(Verdict.OPEN, "", cautions=CAUTIONS)
    if not found:
        return bare.judged(Verdict.OPEN, FINDINGS, "nothing-read", begun=False)
    least, liked = (shop_limits.value(job.shop_limits, name) for name in ("lobe_least", "lobe_liked"))
    tight = min(found, key=lambda room: room.gap_mm)
    left = len(lobes(job)) - len(found)
    base = Finding(
        Verdict.OPEN,
        "",
        quantity=Quantity(tight.gap_mm, doubt_mm(job), "mm", unit, label=f"at {tight.name}", fine=True),
        cautions=CAUTIONS,
        rows=tuple(Row(room.name, format_fine(least, unit), format_fine(room.gap_mm, unit)) for room in found),
        columns=("", "least", "room", ""),
        notes=(
            say(
                "clearance-limits",
                said=shop_limits.limit_text(job.shop_limits, "lobe_least", unit),
                said_2=shop_limits.limit_text(job.shop_limits, "lobe_liked", unit),
            ),
        ),
    )
    if tight.gap_mm + doubt_mm(job) < least:
        return base.judged(Verdict.OUT, FINDINGS, "too-little", lobe=tight.name)
    if tight.gap_mm - doubt_mm(job) < least:
        return base.judged(Verdict.UNSURE, FINDINGS, "too-near-limit", lobe=tight.name)
    if left:
        return base.judged(
            Verdict.OPEN, FINDINGS, "within-so-far", read=len(found), lobes=len(found) + left, lobe=tight.name
        )
    if tight.gap_mm < liked:
        return base.judged(Verdict.IN, FINDINGS, "less-than-preferred", lobe=tight.name)
    return base.judged(Verdict.IN, FINDINGS, "preferred")
