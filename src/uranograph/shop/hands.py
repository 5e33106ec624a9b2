"""How well this shop's hands read, from what they read twice in its newest jobs."""

from sqlalchemy import select
from sqlalchemy.orm import Session

from uranograph.bench.repeats import ReadingPrecision, RepeatedReading, reading_precision
from uranograph.bench.shop_limits import LIMITS
from uranograph.shop import loading as jobs
from uranograph.shop.shelving import REAL
from uranograph.shop.tables import JobRow
from uranograph.stations import ORDER

MAX_JOBS = 60


def learned(session: Session) -> dict[str, tuple[float, ReadingPrecision]]:
    """The limits that repeats speak of: their value by this shop's hands, and what that rests on.

    Parameters
    ----------
    session
        A session that reads; the newest `MAX_JOBS` jobs that are not in the bin are looked through.

    Returns
    -------
    dict
        By name of the limit; one without enough repeats is left out.
    """
    newest = (
        select(JobRow.key).where(JobRow.binned_at.is_(None), REAL).order_by(JobRow.touched_at.desc()).limit(MAX_JOBS)
    )
    groups: dict[str, list[RepeatedReading]] = {}
    for key in session.scalars(newest).all():
        job = jobs.load(session, key)
        for station in ORDER.stations:
            for name, again in station.repeats(job).items():
                groups.setdefault(name, []).extend(again)
    found = {name: reading_precision(own) for name, own in groups.items()}
    return {name: (LIMITS[name].start * one.times, one) for name, one in found.items() if one is not None}
