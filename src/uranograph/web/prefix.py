"""Pages under a path of a larger site, such as `/bench`: the path is taken off what comes and put before what goes out."""

import re

from starlette.datastructures import MutableHeaders
from starlette.responses import PlainTextResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

# Attributes that hold a server path; typed text is in none of them.
_ADDRESS = re.compile(rb' (href|src|action|formaction|hx-get|hx-post|hx-push-url|data-at|data-root)="/(?!/)')
_LEADS = ("location", "hx-redirect", "hx-location")


class Prefixed:
    """An application that is reached under a path.

    Parameters
    ----------
    app
        The application within, which knows nothing of it.
    prefix
        Begins with a slash and ends without one; with an empty one all stays as it is.
    """

    def __init__(self, app: ASGIApp, prefix: str) -> None:
        self.app, self.prefix = app, prefix

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or not self.prefix:
            await self.app(scope, receive, send)
            return
        path = scope["path"]
        if path != self.prefix and not path.startswith(f"{self.prefix}/"):
            await PlainTextResponse("Not here.", 404)(scope, receive, send)
            return
        rest = path[len(self.prefix) :] or "/"
        within = {**scope, "path": rest, "raw_path": rest.encode(), "root_path": ""}
        await self.app(within, receive, _Outward(self.prefix, send))


class _Outward:
    """Puts the path before every address of a page, and before where an answer leads to."""

    def __init__(self, prefix: str, send: Send) -> None:
        self.prefix, self.send = prefix, send
        self.start: Message | None = None
        self.parts: list[bytes] = []

    async def __call__(self, message: Message) -> None:
        if message["type"] == "http.response.start":
            headers = MutableHeaders(raw=message["headers"])
            for name in _LEADS:
                if (to := headers.get(name, "")).startswith("/") and not to.startswith("//"):
                    headers[name] = f"{self.prefix}{to}"
            if headers.get("content-type", "").startswith("text/html"):
                self.start = message
                return
            await self.send(message)
        elif self.start is None:
            await self.send(message)
        else:
            self.parts.append(message.get("body", b""))
            if not message.get("more_body", False):
                body = _ADDRESS.sub(rb' \1="' + self.prefix.encode() + b"/", b"".join(self.parts))
                headers = MutableHeaders(raw=self.start["headers"])
                # A HEAD response has a length and no body.
                if body or headers.get("content-length") == "0":
                    headers["content-length"] = str(len(body))
                await self.send(self.start)
                await self.send({"type": "http.response.body", "body": body})
