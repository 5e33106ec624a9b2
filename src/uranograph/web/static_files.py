"""Static files under names that carry their version, so that a browser keeps each for good and never an old one."""

import hashlib
import re
from functools import cache
from pathlib import Path

from starlette.responses import Response
from starlette.staticfiles import StaticFiles
from starlette.types import Scope

FOLDER = Path(__file__).parent / "static"
_VERSIONED = re.compile(r"\.([0-9a-f]{10})(\.[a-z0-9]+)$")


@cache
def address(name: str) -> str:
    """Where a static file is, with its version in the name.

    Parameters
    ----------
    name
        Its path below the folder of static files.

    Raises
    ------
    FileNotFoundError
        When there is no such file.

    Examples
    --------
    >>> address("keys.js")  # doctest: +ELLIPSIS
    '/static/keys....js'
    """
    stem, _, kind = name.rpartition(".")
    return f"/static/{stem}.{_version(name)}.{kind}"


@cache
def _version(name: str) -> str:
    return hashlib.sha256((FOLDER / name).read_bytes()).hexdigest()[:10]


class VersionedFiles(StaticFiles):
    """Static files by their plain names, and by those with a version, which are kept for a year."""

    async def get_response(self, path: str, scope: Scope) -> Response:
        plain = _VERSIONED.sub(r"\2", path)
        response = await super().get_response(plain, scope)
        # A version that is not this one's is answered, and asked for again soon.
        current = plain != path and response.status_code < 400 and path == address(plain).removeprefix("/static/")
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable" if current else "public, max-age=3600"
        return response
