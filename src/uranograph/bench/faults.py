"""Faults of our own: written to the log with an id, so that one job or station that cannot be judged takes nothing else down."""

import hashlib
import logging
import traceback

_LOG = logging.getLogger("uranograph")
_SEEN: set[str] = set()
MAX_SEEN = 1000


def note(error: Exception, where: str) -> str:
    """Write a fault to the log, once for the same fault at the same place, and give its id.

    Parameters
    ----------
    error
        What was raised.
    where
        The job and station, or the page, at which it was.

    Returns
    -------
    str
        Six letters that stand on the page and in the log.
    """
    last = traceback.extract_tb(error.__traceback__)[-1:]
    place = f"{last[0].filename}:{last[0].lineno}" if last else ""
    found = hashlib.sha256(f"{where} {type(error).__name__} {error} {place}".encode(errors="replace")).hexdigest()[:6]
    if found not in _SEEN:
        if len(_SEEN) >= MAX_SEEN:
            _SEEN.clear()
        _SEEN.add(found)
        _LOG.error("fault %s at %s", found, where, exc_info=error)
    return found
