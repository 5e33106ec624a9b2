"""What was written to a job lately: asked of the file once for all pages that follow it."""

import asyncio
from dataclasses import dataclass

from sqlalchemy import select
from starlette.concurrency import run_in_threadpool

from uranograph.core.quantities import LengthUnit
from uranograph.engine import degree_wheel
from uranograph.shop import loading
from uranograph.shop.database import Shop
from uranograph.shop.tables import EntryRow, JobRow
from uranograph.web.by_instrument import named_for

# Entries of one job that are remembered; a page that was away for longer is told of the newest alone. Jobs that are.
MAX_ENTRIES, MAX_JOBS = 200, 64


@dataclass(frozen=True)
class Written:
    """One entry: its number in the log, whose it is, and where."""

    seq: int
    by: str
    station: str


@dataclass(frozen=True)
class JobUpdates:
    """A job as its followers need it: its newest entries, its wheel and unit, and the instruments that it names."""

    writes: int
    seq: int
    entries: tuple[Written, ...]
    mounted: degree_wheel.Mounted | None
    unit: LengthUnit
    named: dict[str, str]

    def since(self, seq: int) -> tuple[Written, ...]:
        """Entries after this one."""
        return tuple(each for each in self.entries if each.seq > seq)


class UpdateCache:
    """The newest of each job that is followed."""

    def __init__(self) -> None:
        self._known: dict[str, JobUpdates] = {}
        self._locks: dict[str, asyncio.Lock] = {}

    async def of(self, shop: Shop, key: str, fresh: bool = False) -> JobUpdates:
        """What is known of a job; asked of the file where something was written since, or where that is wanted.

        Raises
        ------
        NoSuchJob
            When there is none of this key.
        """
        known = self._known.get(key)
        if known is not None and known.writes == shop.writes and not fresh:
            return known
        async with self._locks.setdefault(key, asyncio.Lock()):
            known = self._known.get(key)
            if known is None or known.writes != shop.writes or fresh:
                known = await run_in_threadpool(_read, shop, key, known)
                self._known.pop(key, None)
                self._known[key] = known
                while len(self._known) > MAX_JOBS:
                    oldest = next(iter(self._known))
                    del self._known[oldest]
                    self._locks.pop(oldest, None)
        return known


def _read(shop: Shop, key: str, before: JobUpdates | None) -> JobUpdates:
    writes = shop.writes
    with shop.read() as session:
        query = (
            select(EntryRow.seq, EntryRow.by, EntryRow.station)
            .join(JobRow, JobRow.id == EntryRow.job_id)
            .where(JobRow.key == key)
        )
        if before is None:
            rows = session.execute(query.order_by(EntryRow.seq.desc()).limit(1)).all()
        else:
            rows = session.execute(query.where(EntryRow.seq > before.seq).order_by(EntryRow.seq)).all()
        if before is not None and not rows:
            return JobUpdates(writes, before.seq, before.entries, before.mounted, before.unit, before.named)
        job = loading.load(session, key)
    fresh = tuple(Written(row.seq, row.by, row.station) for row in rows)
    entries = ((before.entries if before else ()) + fresh)[-MAX_ENTRIES:]
    seq = entries[-1].seq if entries else 0
    return JobUpdates(writes, seq, entries, degree_wheel.wheel_of(job), job.unit, named_for(job))
