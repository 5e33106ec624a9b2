"""The lash of the drive, whichever station has measured it."""

from uranograph.bench.job import Job
from uranograph.stations.backlash import station as backlash
from uranograph.stations.degree import events


def lash(job: Job) -> float | None:
    """Lash in crank degrees: from events read both ways, else from the backlash of the gears."""
    by_events = events.lash(job)
    return backlash.lash_deg(job.whole) if by_events is None else by_events


def source(job: Job) -> str:
    """Where it comes from."""
    return "by backlash" if events.lash(job) is None else "by events both ways"
