"""The slack of the drive, whichever station has measured it."""

from uranograph.bench.job import Job
from uranograph.engine import backlash
from uranograph.phase import events
from uranograph.phase.messages import say


def slack_deg(job: Job) -> float | None:
    """Slack in crank degrees: from events read both ways, else from the backlash of the gears."""
    by_events = events.slack_deg(job)
    return backlash.slack_deg(job.full_job) if by_events is None else by_events


def source(job: Job) -> str:
    """Where it comes from."""
    return "by backlash" if events.slack_deg(job) is None else say("events-both-ways")
