"""The people of the shop, by their initials."""

from collections import Counter

from sqlalchemy import select
from sqlalchemy.orm import Session

from uranograph.shop.tables import EntryRow

# How many are offered, and how far back in the log they are looked for.
MAX_PEOPLE, LOOKED_AT = 6, 500


def people(session: Session) -> tuple[str, ...]:
    """Initials of those who wrote the newest entries, the busiest first.

    Parameters
    ----------
    session
        A session of the shop's file.

    Returns
    -------
    tuple of str
        Six at the most.
    """
    newest = select(EntryRow.by).order_by(EntryRow.id.desc()).limit(LOOKED_AT)
    # Two who took a reading together are two people.
    each = (by for both in session.scalars(newest) for by in both.split("+") if by)
    return tuple(by for by, _ in Counter(each).most_common(MAX_PEOPLE))
