"""Static files under names that carry their version, so that a browser keeps each for good and never an old one.

Scripts and styles lie in files with one job each and go out together: a phone on a slow network asks once, not thirty times.
"""

import hashlib
import re
from functools import cache
from pathlib import Path

from starlette.concurrency import run_in_threadpool
from starlette.responses import Response
from starlette.staticfiles import StaticFiles
from starlette.types import Scope

FOLDER = Path(__file__).parent / "static"
# Files bundled under one name, in this order.
TOGETHER = {
    "page.css": ("vendor/bootstrap/bootstrap.cut.css", "chart-room.css", "figures.css"),
    "page.js": (
        "vendor/htmx/htmx.min.js",
        "keys.js",
        "reading.js",
        "draft.js",
        "notices.js",
        "away.js",
        "outbox.js",
        "drive.js",
        "frame.js",
        "lift.js",
        "train.js",
        "gears.js",
        "countdown.js",
        "rail.js",
        "picture.js",
        "focus.js",
        "pad.js",
        "pedal.js",
        "speech.js",
        "terms.js",
        "take_out.js",
        "live.js",
        "collecting.js",
        "together.js",
    ),
}
MEDIA = {"css": "text/css", "js": "text/javascript"}
_COMMENT = re.compile(rb"//.*|/\*[^*]*\*/")
_VERSIONED = re.compile(r"\.([0-9a-f]{10})(\.[a-z0-9]+)$")


@cache
def address(name: str) -> str:
    """Where a static file is, with its version in the name.

    Parameters
    ----------
    name
        Its path below the folder of static files, or a name of several that go out together.

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
    content = together(name) if name in TOGETHER else (FOLDER / name).read_bytes()
    return hashlib.sha256(content).hexdigest()[:10]


@cache
def together(name: str) -> bytes:
    """The files that go out under one name, one after the other, ours without what only people read."""
    return b"\n".join(
        (FOLDER / part).read_bytes() if part.startswith("vendor/") else lean((FOLDER / part).read_bytes())
        for part in TOGETHER[name]
    )


def lean(text: bytes) -> bytes:
    """A script or a style without indentation, empty lines, and lines that are a comment as a whole.

    Examples
    --------
    >>> lean(b"// Why.\\n(() => {\\n  const a = 1;\\n})();\\n")
    b'(() => {\\nconst a = 1;\\n})();'
    """
    lines = (line.strip() for line in text.splitlines())
    return b"\n".join(line for line in lines if line and not _COMMENT.fullmatch(line))


class VersionedFiles(StaticFiles):
    """Static files by their plain names, and by those with a version, which are kept for a year."""

    async def get_response(self, path: str, scope: Scope) -> Response:
        plain = _VERSIONED.sub(r"\2", path)
        if plain in TOGETHER:
            content = await run_in_threadpool(together, plain)
            response = Response(content, media_type=MEDIA[plain.rpartition(".")[2]])
        else:
            response = await super().get_response(plain, scope)
        # A file of another version is served, but with a short cache time.
        current = plain != path and response.status_code < 400 and path == address(plain).removeprefix("/static/")
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable" if current else "public, max-age=3600"
        return response
