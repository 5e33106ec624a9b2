"""What came of every job of a period, one line each."""

import itertools
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime

from uranograph.bench.acts import Act
from uranograph.bench.finding import Finding
from uranograph.bench.job import Job
from uranograph.engine.particulars import particulars_of
from uranograph.stations import ORDER

# The station whose small chart stands for a job: where the cam is judged.
JUDGED = next(station for station in ORDER.stations if station.has("thumbnail"))
COLUMNS = (
    *("last written", "job", "customer", "engine", "card", "measured", "late", "uncertainty", "verdict", "moves"),
    *("minutes", "by"),
)
Cell = str | float | int | None


@dataclass(frozen=True)
class JobResult:
    """One job's line: the card beside what was measured, crank degrees; late is positive.

    `minutes` is from the first entry to the last, without pauses longer than an hour.
    """

    job: Job
    finding: Finding
    last: datetime
    customer: str
    grind: str
    card: str
    measured: str
    late_deg: float | None
    uncertainty_deg: float | None
    moves: int
    minutes: int
    by: tuple[str, ...]

    @property
    def cells(self) -> Sequence[Cell]:
        """The line as a spreadsheet has it: local time, four digits at the most."""
        return (
            self.last.astimezone().strftime("%Y-%m-%d %H:%M"),
            self.job.title,
            self.customer,
            (ORDER.headline(self.job) or [""])[0],
            self.card,
            self.measured,
            None if self.late_deg is None else round(self.late_deg, 1),
            None if self.uncertainty_deg is None else round(self.uncertainty_deg, 1),
            self.finding.state,
            self.moves,
            self.minutes,
            " ".join(self.by),
        )


def of_job(job: Job) -> JobResult | None:
    """A job's line; None where nothing is written to it.

    Parameters
    ----------
    job
        Any job.

    Returns
    -------
    JobResult or None
        What was found of its cam, and how long it took.
    """
    times = sorted(each.at for each in (*job.forms, *job.entries))
    if not times:
        return None
    finding = ORDER.overview(job)[JUDGED.key]
    first = next((row for row in finding.rows if row.card and row.measured and not row.inferred), None)
    judged = finding.quantity if finding.quantity and finding.quantity.unit == "deg" else None
    stated = particulars_of(job)
    return JobResult(
        job,
        finding,
        times[-1],
        stated.customer if stated else "",
        stated.grind_number if stated else "",
        first.card if first else "",
        first.measured if first else "",
        judged.value if judged else None,
        judged.uncertainty if judged else None,
        sum(1 for act in job.entries if isinstance(act, Act) and act.to_position and act.void is None),
        _minutes(times),
        tuple(dict.fromkeys(each.by for each in job.entries)),
    )


def _minutes(times: Sequence[datetime], pause_s: float = 3600.0) -> int:
    steps = ((later - earlier).total_seconds() for earlier, later in itertools.pairwise(times))
    return round(sum(step for step in steps if step <= pause_s) / 60)


def of_jobs(jobs: Iterable[Job]) -> list[JobResult]:
    """The lines of several jobs, newest first."""
    found = [line for job in jobs if (line := of_job(job)) is not None]
    return sorted(found, key=lambda line: line.last, reverse=True)
