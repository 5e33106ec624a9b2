"""Every drive by the runout it bears."""

from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.charts.drives import Bears, Swing, drives_figure
from uranograph.charts.pen import Figure
from uranograph.core.quantities import format_fine
from uranograph.engine import runout
from uranograph.stations.drive_choice import rules as drive_choice


def figure(job: Job, view_state: ViewState) -> Figure:
    """Every drive by the runout it bears, with this shaft's."""
    limits, found, shaft = drive_choice.limits(job), drive_choice.judged(job), runout.measured(job)
    bears = {
        "gears": (limits.gears_good_mm, limits.gears_never_mm),
        "chain, hydraulic tensioner": (limits.hydraulic_tensioner_mm, limits.hydraulic_tensioner_mm),
        "chain, spring tensioner": (limits.gears_good_mm, None),
        "close-clearance pump on this shaft": (limits.tight_pump_mm, limits.tight_pump_mm),
    }
    verdicts = {option.drive: drive_choice.WORDS[option.verdict] for option in found.options} if found else {}
    mine = drive_choice.chosen(job)
    drives = tuple(
        Bears(name.removesuffix(" on this shaft"), yes, only, verdicts.get(name, ""), name == mine)
        for name, (yes, only) in bears.items()
    )
    scale = sorted({limits.gears_good_mm, limits.gears_never_mm, limits.tight_pump_mm, limits.hydraulic_tensioner_mm})
    swing = None
    if found is not None:
        allowed_now = drive_choice.window(job)
        allowed = (
            None
            if allowed_now.low_mm is None or allowed_now.high_mm is None
            else allowed_now.high_mm - allowed_now.low_mm
        )
        words = "" if allowed is None else f"window {format_fine(allowed, job.unit)}"
        swing = Swing(
            found.backlash_swing_mm, allowed, f"swing {format_fine(found.backlash_swing_mm, job.unit)}", words
        )
    return drives_figure(
        drives,
        tuple((mm, format_fine(mm, job.unit)) for mm in scale),
        shaft.total_mm if shaft else None,
        shaft.doubt_mm if shaft else 0.0,
        f"{format_fine(shaft.total_mm, job.unit)} {job.unit.value}" if shaft else "",
        swing,
        "Timing drive",
    )
