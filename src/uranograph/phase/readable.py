"""Everything that could be read next, and what each reading would settle."""

from collections import Counter
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from uranograph.bench.job import Job
from uranograph.core.lobe import half_width_at
from uranograph.core.quantities import parse_length
from uranograph.engine.cams import KEY
from uranograph.engine.card import card_of
from uranograph.engine.tdc import KEY as TDC
from uranograph.phase import (
    events,
    observations,
)

if TYPE_CHECKING:
    from uranograph.evidence.covariance import Seen


MAX_AGAIN = 3
LATER = 10**7
FAR_DROP = {"inch": "0.250", "mm": "6.0"}
FAR_SHARE, FURTHER = 0.75, 1.6
EVENT_NEEDLE_DEG = 0.04


@dataclass(frozen=True)
class Candidate:
    """A reading that could be taken: at which station and how it is asked for there, as the model sees it, and its cost in readings."""

    station: str
    query: dict[str, str]
    seen: "Seen"
    cost: float


class Readable:
    """Every reading that could be taken at this position, and the half widths of the equal lifts among them."""

    def __init__(self, job: Job, found: observations.Observations) -> None:
        self.job, self.found = job, found
        self.times = Counter(each.place for each in found.readings)
        self.widths = dict(found.expected.width_deg)
        self.could: list[Candidate] = []
        self.frame = max(0, *(each.frame for each in found.readings))
        self._stop()
        self._again()
        self._events()
        for lobe in found.lobes:
            self._lifts_read(lobe)
            self._far_drop(lobe)

    def within(self, left: int) -> list[Candidate]:
        """Those that cost no more readings than so many."""
        return [each for each in self.could if each.cost <= left]

    def _add(self, station: str, query: dict[str, str], seen: "Seen", cost: float, wide: float | None = None) -> None:
        if self.times[seen.place] < MAX_AGAIN:
            seen = replace(seen, seq=LATER + len(self.could), swap_deg=0.0)
            self.could.append(Candidate(station, query, seen, cost))
            if wide is not None:
                self.widths[seen.seq] = wide

    def _stop(self) -> None:
        from uranograph.evidence.covariance import Seen

        readings = self.found.readings
        begun = min(each.seq for each in readings if each.lobe)
        again = sum(each.kind == "stop" and each.seq > begun for each in readings)
        if again < MAX_AGAIN and any(each.frame >= 0 for each in readings):
            self.times["stop", "", 0, ""] = again
            self._add(TDC, {}, Seen("stop", 0.0, 0, frame=self.frame), 2.0)

    def _again(self) -> None:
        """Wheel readings to repeat by hand; an equal lift on both sides."""
        by_hand = [each for each in self.found.readings if each.on_wheel and each.lobe and each.own_deg is None]
        for each in {each.place: each for each in by_hand}.values():
            if each.kind == "event":
                self._add(KEY, {"method": "events", "event": kind_of(each.lobe, each.side)}, each, 1.0)
            elif each.side > 0:
                query = {"method": "lifts", "lobe": each.lobe, "drop": each.drop}
                self._add(KEY, query, each, 2.0, self.widths[each.seq])

    def _events(self) -> None:
        """Events of the lobes that were read otherwise or swept, where the card has their durations."""
        from uranograph.evidence.covariance import Seen

        card = card_of(self.job)
        if card is None or card.check_lift_mm is None:
            return
        for kind in events.KINDS:
            lobe, side = events.LOBE[kind], -1 if kind in ("io", "eo") else 1
            known = lobe in self.found.lobes and lobe not in self.found.expected.half_doubt_deg
            by_hand = any(
                (each.kind, each.lobe, each.side) == ("event", lobe, side) and each.own_deg is None
                for each in self.found.readings
            )
            if known and not by_hand:
                slope = events.slope_at_check(self.job, kind)
                seen = Seen("event", 0.0, 0, lobe, side, EVENT_NEEDLE_DEG, slope_mm=slope, frame=self.frame)
                self._add(KEY, {"method": "events", "event": kind}, seen, 1.0)

    def _lifts_read(self, lobe: str) -> None:
        from uranograph.evidence.covariance import Seen

        if lobe in self.found.expected.lift_mm:
            self._add(KEY, {"method": "peak", "lobe": lobe}, Seen("peak", 0.0, 0, lobe), 1.0)
        self._add(KEY, {"method": "peak", "lobe": lobe, "item": "base"}, Seen("base", 0.0, 0, lobe), 1.0)

    def _far_drop(self, lobe: str) -> None:
        """A drop far from those read, which shows a lobe that is ground uneven."""
        card = card_of(self.job)
        drawn = card.lobe(lobe) if card else None
        read = [each for each in self.found.readings if each.kind == "lift" and each.lobe == lobe and each.side > 0]
        far = FAR_DROP[self.job.unit.value]
        deep = parse_length(far, self.job.unit)
        if not read or drawn is None or deep >= FAR_SHARE * drawn.max_lift_mm:
            return
        if all(parse_length(each.drop, self.job.unit) < deep / FURTHER for each in read):
            wide = half_width_at(drawn, drawn.max_lift_mm - deep)
            nose = max(0.0, 1 - wide / self.found.expected.half_deg[lobe])
            seen = replace(read[0], drop=far, near_nose=nose, slope_mm=2 * deep / wide)
            self._add(KEY, {"method": "lifts", "lobe": lobe, "drop": far}, seen, 2.0, wide)


def kind_of(lobe: str, side: int) -> str:
    """The kind that a reading is of, without the lobe."""
    return next(kind for kind in events.KINDS if events.LOBE[kind] == lobe and (kind in ("io", "eo")) == (side < 0))
