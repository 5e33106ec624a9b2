"""What came of every job of a period, one line each."""

import itertools
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime

from uranograph.bench.acts import Act
from uranograph.bench.finding import Finding
from uranograph.bench.job import Job
from uranograph.core.errors import InvalidInput
from uranograph.engine.card import printed_card
from uranograph.engine.particulars import Particulars, particulars_of
from uranograph.phase.move_history import history
from uranograph.stations import ORDER

# The station whose small chart stands for a job: where the cam is judged.
JUDGED = next(station for station in ORDER.stations if station.has("thumbnail"))
COLUMNS = (
    *("last written", "job", "customer", "engine", "card", "measured", "late", "uncertainty", "verdict", "moves"),
    *("minutes", "by", "late as found", "cam"),
)
# What the jobs of a period can be laid beside each other by.
GROUPS = {"card": "cam maker's card", "who": "hand"}
Cell = str | float | int | None


@dataclass(frozen=True)
class JobResult:
    """One job's line: the card beside what was measured, crank degrees; late is positive.

    `found_deg` is how late the cam was before it was first moved, `found_uncertainty_deg` its uncertainty; `cam` is its maker
    and grind, or its card where neither is stated. `minutes` is from the first entry to the last, without pauses longer than an hour.
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
    found_deg: float | None = None
    found_uncertainty_deg: float = 0.0
    cam: str = ""

    def groups(self, by: str) -> tuple[str, ...]:
        """Under which names the job is laid: its cam, or everybody who wrote to it."""
        return self.by if by == "who" else (self.cam or "no card",)

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
            None if self.found_deg is None else round(self.found_deg, 1),
            self.cam,
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
        *_as_found(job),
        _cam(job, stated),
    )


def _as_found(job: Job) -> tuple[float | None, float]:
    """How late the cam was at first, with its uncertainty; of several cams the one farthest off."""
    try:
        first = next((step.errors for step in history(job) if step.errors), {})
    except InvalidInput:
        return None, 0.0
    worst = max(first.values(), key=lambda each: abs(each[0]), default=None)
    return (None, 0.0) if worst is None else worst


def _cam(job: Job, stated: Particulars | None) -> str:
    """The cam by its maker and grind, or by the events of its card."""
    named = " ".join(each for each in (stated.cam_maker, stated.grind_number) if each) if stated else ""
    printed = printed_card(job)
    if named or printed is None:
        return named
    card = printed.card
    events = (card.io_btdc_deg, card.ic_abdc_deg, card.eo_bbdc_deg, card.ec_atdc_deg)
    return "-".join("?" if each is None else f"{each:.0f}" for each in events)


def _minutes(times: Sequence[datetime], pause_s: float = 3600.0) -> int:
    steps = ((later - earlier).total_seconds() for earlier, later in itertools.pairwise(times))
    return round(sum(step for step in steps if step <= pause_s) / 60)


def of_jobs(jobs: Iterable[Job]) -> list[JobResult]:
    """The lines of several jobs, newest first."""
    found = [line for job in jobs if (line := of_job(job)) is not None]
    return sorted(found, key=lambda line: line.last, reverse=True)
