"""Judging a job file from another program: the plain function behind `POST /api/judge`."""

import json
from typing import Any

from uranograph.shop import exchange, judging


def judge(job: dict[str, Any]) -> dict[str, Any]:
    """Judge a job.

    Parameters
    ----------
    job
        A job file of any version (docs/formats.md), as read from JSON.

    Returns
    -------
    dict
        What every station finds, what the cams could do, and the entry that comes next (docs/formats.md, "Judging a whole
        job").

    Raises
    ------
    InvalidInput
        When it is no job file; the place is named.

    Examples
    --------
    >>> at = "2026-01-01T00:00:00Z"
    >>> bare = {"format": "uranograph-job", "version": 4, "title": "bare", "created_at": at, "touched_at": at, "entries": []}
    >>> judge(bare)["stations"]["engine"]["verdict"]
    'open'
    """
    return judging.judge(exchange.read_job(json.dumps(job)))
