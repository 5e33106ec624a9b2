"""The slack of the drive, whichever station has measured it."""

from statistics import fmean

from uranograph.bench.job import Job
from uranograph.engine import backlash
from uranograph.engine.cams import LOBES
from uranograph.phase import events, sweep_points
from uranograph.phase.messages import say


def slack_deg(job: Job) -> float | None:
    """Slack in crank degrees: from events read both ways, else from a lobe swept both ways, else from the backlash of the gears."""
    by_events = events.slack_deg(job)
    if by_events is not None:
        return by_events
    by_sweep = swept_deg(job)
    return backlash.slack_deg(job.full_job) if by_sweep is None else by_sweep


def swept_deg(job: Job) -> float | None:
    """Slack by the lobes that were swept both ways, crank degrees."""
    found = [free for lobe in LOBES if (free := sweep_points.slack_deg(job, lobe)) is not None]
    return fmean(found) if found else None


def source(job: Job) -> str:
    """Where it comes from."""
    if events.slack_deg(job) is not None:
        return say("events-both-ways")
    return "by backlash" if swept_deg(job) is None else say("swept-both-ways")
