"""Limits on requests before they are read: size and time."""

import asyncio
from collections.abc import Mapping

import h11
from starlette.responses import JSONResponse, PlainTextResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send
from uvicorn.protocols.http.h11_impl import H11Protocol

# Limit of a form with a picture; imports of jobs and shops may be larger.
LARGEST_FORM, LARGEST_FILE = 8_000_000, 82_000_000
LARGE = ("/jobs/import", "/api/judge")
# So long may a part of what is sent let one wait, and so long the head of a request, s.
MAX_PART_S, MAX_HEAD_S = 30.0, 20.0


class _NotTaken(Exception):
    """More was sent than is taken, or what was promised did not come."""


class Bounded:
    """An application that is sent no more than it takes, and waits for no sender for ever.

    Parameters
    ----------
    app
        The application within.
    """

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        most = LARGEST_FILE if scope["path"] in LARGE else LARGEST_FORM
        promised = dict(scope["headers"]).get(b"content-length", b"0")
        if promised.isdigit() and int(promised) > most:
            await _refuse(scope, receive, send, 413)
            return
        taken, begun, whole, fault = 0, False, False, 0

        async def bounded() -> Message:
            nonlocal taken, whole, fault
            if whole:
                return await receive()
            try:
                async with asyncio.timeout(MAX_PART_S):
                    message = await receive()
            except TimeoutError as error:
                fault = 408
                raise _NotTaken from error
            taken += len(message.get("body", b""))
            if taken > most:
                fault = 413
                raise _NotTaken
            whole = message["type"] != "http.request" or not message.get("more_body", False)
            return message

        async def watched(message: Message) -> None:
            nonlocal begun
            if fault and not begun:
                # Whatever is made of a body that broke off: this is why it did.
                raise _NotTaken
            begun = True
            await send(message)

        try:
            await self.app(scope, bounded, watched)
        except Exception:
            # The exception may be wrapped in a group.
            if not fault:
                raise
            if not begun:
                await _refuse(scope, receive, send, fault)


class Heads:
    """An application that answers HEAD as it answers GET, without the body."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or scope["method"] != "HEAD":
            await self.app(scope, receive, send)
            return

        async def headed(message: Message) -> None:
            if message["type"] == "http.response.body":
                message = {**message, "body": b""}
            await send(message)

        await self.app({**scope, "method": "GET"}, receive, headed)


WORDS: Mapping[int, tuple[str, str]] = {
    413: ("too-large", "This is more than is taken here. Nothing of it was written."),
    408: ("too-slow", "What was promised did not come in time. Nothing of it was written: send it again."),
}


async def _refuse(scope: Scope, receive: Receive, send: Send, status: int) -> None:
    code, words = WORDS[status]
    told = {"error": {"field": "file" if scope["path"] in LARGE else "input", "code": code, "message": words}}
    headers = {"Connection": "close"}
    answer = JSONResponse(told, status, headers) if scope["path"].startswith("/api/") else None
    await (answer or PlainTextResponse(words, status, headers))(scope, receive, send)


class TimelyProtocol(H11Protocol):
    """HTTP as uvicorn speaks it, with an end to connections that never finish the head of their request."""

    _waits: asyncio.TimerHandle | None = None

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        super().connection_made(transport)
        self._wait()

    def data_received(self, data: bytes) -> None:
        super().data_received(data)
        if self.conn.their_state is h11.IDLE and self.conn.trailing_data[0]:
            self._wait()
        else:
            self._settle()

    def connection_lost(self, exc: Exception | None) -> None:
        self._settle()
        super().connection_lost(exc)

    def _wait(self) -> None:
        if self._waits is None:
            self._waits = self.loop.call_later(MAX_HEAD_S, self._given_up)

    def _settle(self) -> None:
        if self._waits is not None:
            self._waits.cancel()
            self._waits = None

    def _given_up(self) -> None:
        if not self.transport.is_closing():
            self.transport.close()
