"""Greatest lift of a lobe as one reading: it tells a wrong lobe, an askew indicator, or lash; never the phase."""

from collections.abc import Mapping

from uranograph.bench.finding import Prompt
from uranograph.bench.job import Entry, Job, Reading
from uranograph.bench.slots import Slot, in_mm
from uranograph.core.errors import Impossible
from uranograph.stations.degree.place import KEY, LOBES
from uranograph.stations.degree.words import say

KIND = {"intake": "peak-intake", "exhaust": "peak-exhaust"}
LIFT = Slot(KEY, tuple(KIND.values()), ("lift",), in_mm, rests_on=("lash",))
MOST_MM = 40.0


def measured(job: Job, lobe: str) -> float | None:
    """The lobe's greatest lift as it was read last, mm; None where it was not."""
    read = LIFT.values(job, KIND[lobe])
    return read[-1] if read else None


def prompt(job: Job, choice: Mapping[str, str]) -> Prompt | None:
    """Ask for the greatest lift of the lobe chosen, or of the first not read."""
    lobe = choice.get("lobe", "")
    if lobe not in LOBES:
        lobe = next((name for name in LOBES if measured(job, name) is None), "intake")
    return Prompt(
        slot=LIFT.next(job, KIND[lobe]),
        label=say("greatest-lift", lobe=lobe.capitalize()),
        instruction=say("turn-over-the-nose", lobe=lobe),
        hint=say("zero-on-base-first"),
        unit=job.unit.value,
        extra={"lobe": lobe},
    )


def accept(job: Job, entry: Entry) -> None:
    """Refuse a lift that no lobe has.

    Raises
    ------
    Impossible
        With the field `text`.
    """
    if not 0 < entry.mm <= MOST_MM:
        raise Impossible("text", "not-a-lobe-lift", typed=entry.text)


def describe(reading: Reading) -> str:
    """Say what a reading of this method was of."""
    return say("greatest-lift-of", lobe=reading.spot.kind.removeprefix("peak-"))
