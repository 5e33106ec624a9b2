"""Greatest lift of a lobe, and the dial back on its base circle: they tell a fault of the set-up, never the phase."""

from collections.abc import Mapping

from uranograph.bench.finding import Prompt
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.slots import Slot, in_mm
from uranograph.core.errors import InvalidInput
from uranograph.engine.cams import KEY, LOBES, lobe_of
from uranograph.phase.messages import say

KIND = {"intake": "peak-intake", "exhaust": "peak-exhaust"}
BASE_KIND = {"intake": "base-intake", "exhaust": "base-exhaust"}
LIFT = Slot(KEY, tuple(KIND.values()), ("lift",), in_mm, rests_on=("lash",), by_bank=True, lobe_of=lobe_of)
BASE = Slot(
    KEY, tuple(BASE_KIND.values()), ("dial",), in_mm, rests_on=("lash", "indicator"), by_bank=True, lobe_of=lobe_of
)
MAX_MM, MAX_BASE_MM = 40.0, 5.0


def measured(job: Job, lobe: str) -> float | None:
    """The lobe's greatest lift as it was read last, mm; None where it was not."""
    read = LIFT.values(job, KIND[lobe])
    return read[-1] if read else None


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Ask for the greatest lift of the lobe chosen, or of the first not read; or for its dial back on the base circle."""
    lobe = query.get("lobe", "")
    base = query.get("item") == "base"
    slot, kinds = (BASE, BASE_KIND) if base else (LIFT, KIND)
    if lobe not in LOBES:
        lobe = next((name for name in LOBES if not slot.taken(job, kinds[name])), "intake")
    named = lobe.capitalize()
    return Prompt(
        slot=slot.next(job, kinds[lobe]),
        label=say("back-on-base", lobe=named) if base else say("greatest-lift", lobe=named),
        instruction=say("turn-on-to-base", lobe=lobe) if base else say("turn-over-the-nose", lobe=lobe),
        hint=say("base-tells") if base else say("zero-on-base-first"),
        unit=job.unit.value,
        extra={"lobe": lobe, **({"item": "base"} if base else {})},
    )


def accept(job: Job, entry: Entry) -> None:
    """Refuse a lift that no lobe has, or a base that is far from where the dial was zeroed.

    Raises
    ------
    InvalidInput
        With the field `text`.
    """
    if BASE.of_kind(entry.spot.kind):
        if abs(entry.mm) > MAX_BASE_MM:
            raise InvalidInput("text", "not-on-the-base", typed=entry.text, most_mm=MAX_BASE_MM)
        return
    if not 0 < entry.mm <= MAX_MM:
        raise InvalidInput("text", "not-a-lobe-lift", typed=entry.text)


def describe(reading: Reading) -> str:
    """Say what a reading of this method was of."""
    kind = reading.spot.kind
    if BASE.of_kind(kind):
        return say("back-on-base-of", lobe=kind.removeprefix("base-"))
    return say("greatest-lift-of", lobe=kind.removeprefix("peak-"))
