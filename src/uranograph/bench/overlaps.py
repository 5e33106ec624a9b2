"""Degree by the lift at overlap TDC, against the range the card gives; bank by bank where there are two."""

from collections.abc import Mapping
from dataclasses import dataclass

from uranograph.bench.card import DRAWN_LOBE
from uranograph.bench.finding import Prompt
from uranograph.bench.job import Entry, Job, Reading
from uranograph.bench.pairs import parts_of, slot_of
from uranograph.bench.place import KEY, LOBES, USUAL_CENTERLINE_DEG
from uranograph.bench.sweeps import swept
from uranograph.bench.tdc import frame_at
from uranograph.core.errors import Impossible
from uranograph.core.lobe import lift_at
from uranograph.core.overlap import OverlapGiven, OverlapShift, overlap_lift
from uranograph.core.quantities import format_length, parse_length

KIND = {"intake": "overlap-intake", "exhaust": "overlap-exhaust"}


@dataclass(frozen=True)
class AtOverlap:
    """The lift of one lobe at overlap TDC, on one bank."""

    lobe: str
    bank: int
    lift_mm: float
    low_mm: float
    high_mm: float
    slope_mm_per_deg: float
    found: OverlapShift
    uncertainty_deg: float
    by_top_deg: float
    doubts: tuple[str, ...]

    @property
    def error_deg(self) -> float:
        """Late positive."""
        return self.found.shift_deg


def measured(job: Job, lobe: str) -> list[AtOverlap]:
    """The lobe's lift at overlap TDC on each bank read, judged by the card's range.

    Parameters
    ----------
    job
        The job.
    lobe
        `intake` or `exhaust`.

    Returns
    -------
    list
        Empty where nothing is read or the card gives no range.
    """
    wanted = job.card.overlap_range(lobe) if job.card else None
    slope = slope_at_overlap(job, lobe)
    if wanted is None or slope == 0:
        return []
    found = []
    for reading in job.standing(KEY):
        kind, bank, _ = parts_of(reading.slot)
        if kind != KIND[lobe]:
            continue
        lift = parse_length(reading.text, reading.unit)
        given = OverlapGiven(measured_mm=lift, target_min_mm=wanted[0], target_max_mm=wanted[1], slope_mm_per_deg=slope)
        frame = frame_at(job, reading.seq)
        top = frame.top if frame else None
        dial = frame.mounted.dial_division_mm if frame else 0.01
        doubts = () if top else ("True TDC was not found before the lift at overlap was read: find it, then re-read.",)
        by_dial = dial / 2 / abs(slope)
        by_top = top.uncertainty_deg if top else 0.0
        found.append(AtOverlap(lobe, bank, lift, *wanted, slope, overlap_lift(given), by_dial, by_top, doubts))
    return found


def slope_at_overlap(job: Job, lobe: str) -> float:
    """Slope of the flank at overlap TDC, mm per crank degree, rising positive: swept if it is, else the stand-in's."""
    of = swept(job, lobe)
    if of and of.found:
        near = sorted(of.points, key=lambda point: abs(point[0]))[:2]
        if len(near) == 2 and near[0][0] != near[1][0] and max(abs(a) for a, _ in near) < 20:
            (a0, l0), (a1, l1) = near
            return (l1 - l0) / (a1 - a0)
    drawn = job.card.lobe(lobe) if job.card else None
    if drawn is None:
        # A card that gives the lift at overlap and no centerline: a usual lobe says about how steep the flank is.
        top = (getattr(job.card, f"{lobe}_max_lift_mm") if job.card else None) or DRAWN_LOBE.max_lift_mm
        drawn = DRAWN_LOBE.model_copy(update={"centerline_deg": USUAL_CENTERLINE_DEG[lobe], "max_lift_mm": top})
    return (lift_at(drawn, 1) - lift_at(drawn, -1)) / 2


def prompt(job: Job, choice: Mapping[str, str]) -> Prompt | None:
    """Say which lift to read next."""
    if job.wheel is None:
        return None
    read = [parts_of(reading.slot)[0] for reading in job.standing(KEY)]
    lobe = choice.get("lobe", "")
    if lobe not in LOBES:
        lobe = next((name for name in LOBES if KIND[name] not in read), "intake")
    taken = [parts_of(reading.slot)[1] for reading in job.standing(KEY) if parts_of(reading.slot)[0] == KIND[lobe]]
    bank = int(choice["bank"]) if choice.get("bank") in ("1", "2") else 2 if 1 in taken else 1
    wanted = job.card.overlap_range(lobe) if job.card else None
    told = ""
    if wanted:
        told = f"The card wants {format_length(wanted[0], job.unit)} to {format_length(wanted[1], job.unit)}."
    return Prompt(
        slot=slot_of(KIND[lobe], bank, "lift"),
        label=f"{lobe.capitalize()} lift at overlap TDC{f', bank {bank}' if bank > 1 else ''}",
        instruction=f"Turn forward to overlap TDC. Read the {lobe} lift on the dial, zeroed on the base circle."
        if bank == 1
        else f"A second bank? Read its {lobe} lift at its own overlap TDC.",
        hint=told or "The card gives no range for it: add it to the spec card.",
        extra={"lobe": lobe, "bank": str(bank)},
    )


def accept(job: Job, entry: Entry) -> None:
    """Refuse a lift that cannot be.

    Raises
    ------
    Impossible
        With the field `text`.
    """
    lift = parse_length(entry.text, entry.unit)
    if not 0 <= lift <= 40:
        raise Impossible("text", f"“{entry.text}” is no lift a lobe has. Check the figure and its unit.")


def describe(reading: Reading) -> str:
    """Say what a reading of this method was of."""
    kind, bank, _ = parts_of(reading.slot)
    return f"{kind.removeprefix('overlap-')} lift at overlap TDC{f', bank {bank}' if bank > 1 else ''}"
