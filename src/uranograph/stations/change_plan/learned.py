"""How long tasks took in earlier plans."""

from collections.abc import Iterable, Mapping
from statistics import median

from uranograph.bench.job import Job
from uranograph.stations.change_plan.running import running


def minutes_taken(jobs: Iterable[Job]) -> Mapping[str, float]:
    """Minutes that tasks took, by name: the median over jobs.

    Parameters
    ----------
    jobs
        Jobs with a plan; tasks of which beginning and end were noted count, each of at least a minute.

    Returns
    -------
    mapping
        Minutes by the task's name as listed.
    """
    taken: dict[str, list[float]] = {}
    for job in jobs:
        found = running(job)
        if found is None:
            continue
        for k, listed in enumerate(found.change.tasks):
            took = found.took(k)
            if took is not None and took >= 1:
                taken.setdefault(listed.task.name, []).append(took)
    return {name: median(times) for name, times in taken.items()}
