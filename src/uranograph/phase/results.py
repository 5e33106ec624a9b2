"""Results of each degreeing method for each lobe."""

import math
from dataclasses import dataclass, replace

from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Reading
from uranograph.bench.memo import memoized
from uranograph.core.errors import Missing
from uranograph.core.phase import judge_phase
from uranograph.core.quantities import format_angle, format_length
from uranograph.engine.cams import LOBES, card_centerline
from uranograph.engine.tdc import frame_at
from uranograph.phase import events, lifts, overlaps, peaks
from uranograph.phase import sweep_points as sweeps
from uranograph.phase.messages import say
from uranograph.phase.stated_cam import stated_cam
from uranograph.phase.target import Aim, target_of


@dataclass(frozen=True)
class Result:
    """One lobe by one method. Angles about overlap TDC, crank degrees. The error is against the target, late positive."""

    method: str
    lobe: str
    label: str
    card: str
    measured: str
    error_deg: float | None
    by_readings_deg: float
    by_top_deg: float
    centerline_deg: float | None = None
    opens_deg: float | None = None
    closes_deg: float | None = None
    doubts: tuple[str, ...] = ()
    by_range: Verdict | None = None
    bank: int = 1
    card_error_deg: float | None = None
    target: str = ""

    @property
    def uncertainty_deg(self) -> float:
        return math.hypot(self.by_readings_deg, self.by_top_deg)

    def verdict(self, tolerance_deg: float) -> Verdict:
        """By the card's own range where it gives one, else by the error against a tolerance; with an error only."""
        if self.by_range is not None:
            return self.by_range
        if self.error_deg is None:
            raise Missing("self.error_deg")
        return judge_phase(self.error_deg, self.uncertainty_deg, tolerance_deg)


def method_of(reading: Reading) -> str:
    """The method a reading belongs to."""
    kind = reading.spot.kind
    if kind in LOBES:
        return "lifts"
    return "events" if kind in events.KINDS else "peak" if peaks.BASE.of_kind(kind) else kind.split("-")[0]


@memoized
def results(job: Job) -> tuple[Result, ...]:
    """Every lobe by every method read at this position, the most telling method first.

    Parameters
    ----------
    job
        The job as seen at one position, see `tries.at_position`.

    Returns
    -------
    tuple
        Both events before a sweep before equal lifts before lift at overlap before one event alone.
    """
    return tuple(
        _aimed(job, result)
        for by in (_by_events, _by_sweep, _by_lifts, _by_overlap, _by_one_event)
        for lobe in LOBES
        for result in by(job, lobe)
    ) or tuple(_aimed(job, result) for lobe in LOBES for result in _as_stated(job, lobe))


def _as_stated(job: Job, lobe: str) -> list[Result]:
    """A lobe as somebody states it, where nothing is read."""
    stated = stated_cam(job)
    if stated is None or lobe not in stated.centerlines_deg:
        return []
    middle = stated.centerlines_deg[lobe] * (1 if lobe == "intake" else -1)
    found = _middle(job, lobe, "stated", middle, by_readings_deg=stated.doubt_deg, by_top_deg=0.0)
    return [replace(found, label=say("centerline-stated", lobe=lobe.capitalize(), by=stated.by))]


def _aimed(job: Job, result: Result) -> Result:
    """A result compared with the target; the comparison with the card is kept too."""
    result = replace(result, card_error_deg=result.error_deg)
    aimed_at = target_of(job)
    if aimed_at.aim is Aim.CARD:
        return result
    wanted, advance = aimed_at.centerline(job, result.lobe), aimed_at.advance(job, result.lobe)
    if result.centerline_deg is not None and wanted is not None:
        late = result.centerline_deg - wanted
        return replace(result, error_deg=late, target=_stated(result.lobe, wanted))
    if result.error_deg is None or advance is None:
        return replace(result, error_deg=None)
    # The card's lift range holds at the card's phase, not at the target.
    return replace(result, error_deg=result.error_deg + advance, by_range=None, target=aimed_at.words)


def _stated(lobe: str, angle_deg: float) -> str:
    return format_angle(angle_deg if lobe == "intake" else -angle_deg)


def _middle(job: Job, lobe: str, method: str, middle_deg: float, **more: object) -> Result:
    card_deg = card_centerline(job, lobe)
    return Result(
        method=method,
        lobe=lobe,
        label=f"{lobe.capitalize()} centerline",
        card="" if card_deg is None else _stated(lobe, card_deg),
        measured=_stated(lobe, middle_deg),
        error_deg=None if card_deg is None else middle_deg - card_deg,
        centerline_deg=middle_deg,
        **more,  # type: ignore[arg-type]
    )


def _by_events(job: Job, lobe: str) -> list[Result]:
    pair = [events.measured(job, kind) for kind in events.KINDS if events.LOBE[kind] == lobe]
    if pair[0] is None or pair[1] is None:
        return []
    opens, closes = pair[0], pair[1]
    return [
        _middle(
            job,
            lobe,
            "events",
            (opens.angle_deg + closes.angle_deg) / 2,
            by_readings_deg=math.hypot(opens.by_readings_deg, closes.by_readings_deg) / 2,
            by_top_deg=max(opens.by_top_deg, closes.by_top_deg),
            opens_deg=opens.angle_deg,
            closes_deg=closes.angle_deg,
            doubts=opens.doubts + closes.doubts,
        )
    ]


@memoized
def _by_sweep(job: Job, lobe: str) -> list[Result]:
    swept_lobe = sweeps.swept(job, lobe)
    if swept_lobe is None or swept_lobe.found is None:
        return []
    return [
        _middle(
            job,
            lobe,
            "sweep",
            swept_lobe.found.centerline_events_deg,
            by_readings_deg=swept_lobe.by_readings_deg / math.sqrt(2),
            by_top_deg=swept_lobe.by_top_deg,
            opens_deg=swept_lobe.found.open_deg,
            closes_deg=swept_lobe.found.close_deg,
            doubts=_sweep_doubts(job, swept_lobe),
        )
    ]


def _sweep_doubts(job: Job, swept_lobe: sweeps.SweepOf) -> tuple[str, ...]:
    untopped = next((r for r in swept_lobe.readings if r.instrument != sweeps.FROM_FILE and not _has_top(job, r)), None)
    sentences = [say("tdc-missing-for-sweep")] if untopped else []
    if any(reading.approach != "forward" for reading in swept_lobe.readings):
        sentences.append(say("sweep-read-backward", lobe=swept_lobe.lobe))
    return tuple(sentences)


def _has_top(job: Job, reading: Reading) -> bool:
    frame = frame_at(job, reading.seq)
    return frame is not None and frame.top is not None


def _by_lifts(job: Job, lobe: str) -> list[Result]:
    found = lifts.measured(job, lobe)
    if found is None:
        return []
    return [
        _middle(
            job,
            lobe,
            "lifts",
            found.centerline_deg,
            by_readings_deg=found.by_readings_deg,
            by_top_deg=found.by_top_deg,
            doubts=found.doubts,
        )
    ]


def _by_overlap(job: Job, lobe: str) -> list[Result]:
    return [
        Result(
            "overlap",
            lobe,
            f"{lobe.capitalize()} lift at overlap{f', bank {one.bank}' if one.bank > 1 and not job.bank else ''}",
            f"{format_length(one.low_mm, job.unit)}-{format_length(one.high_mm, job.unit)}",
            format_length(one.lift_mm, job.unit),
            one.error_deg,
            one.uncertainty_deg,
            one.by_top_deg,
            doubts=one.doubts,
            by_range=one.found.verdict,
            bank=one.bank,
        )
        for one in overlaps.measured(job, lobe)
    ]


def _by_one_event(job: Job, lobe: str) -> list[Result]:
    found = [e for kind in events.KINDS if events.LOBE[kind] == lobe and (e := events.measured(job, kind))]
    if len(found) != 1:
        return []
    one = found[0]
    return [
        Result(
            "events",
            lobe,
            f"{events.WORDS[one.kind].capitalize()} alone",
            "" if one.card_deg is None else format_angle(one.card_deg),
            format_angle(one.stated_deg),
            one.late_deg,
            one.by_readings_deg,
            one.by_top_deg,
            doubts=one.doubts,
        )
    ]


def doubts(job: Job) -> tuple[str, ...]:
    """Reasons why readings at this position cannot be trusted, each with the reading to repeat."""
    return tuple(dict.fromkeys(doubt for result in results(job) for doubt in result.doubts))
