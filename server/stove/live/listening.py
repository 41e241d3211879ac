"""Screens listen outside Django's request: it says once who may, and is done; only then the listening begins.

Django gives every request a thread for as long as its answer lasts, and a screen listens for hours.
"""

from __future__ import annotations

import asyncio
import contextlib
from collections.abc import Awaitable, Callable, MutableMapping
from typing import Any

from django.http import HttpRequest, HttpResponse
from kitchen.access import Listener

from stove.live import events

Message = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]
WANTED = "oldspoon.listen"


def answer(request: HttpRequest, listener: Listener, batch: int | None) -> HttpResponse:
    """The beginning of a stream, whose rest `Listening` sends."""
    begun = HttpResponse(content_type="text/event-stream")
    begun["Cache-Control"] = "no-store"
    begun["X-Accel-Buffering"] = "no"
    scope = getattr(request, "scope", None)
    if scope is not None:
        scope[WANTED] = (listener, batch)
    return begun


class Listening:
    """An ASGI application that goes on where Django's answer was the beginning of a stream."""

    def __init__(self, application: Any) -> None:
        self.application = application

    async def __call__(self, scope: MutableMapping[str, Any], receive: Receive, send: Send) -> None:
        """Let Django answer; then stream, if that was what it answered."""

        began = False

        async def begun(message: Message) -> None:
            nonlocal began
            if WANTED in scope:
                if message["type"] == "http.response.start":
                    began = True
                    headers = [pair for pair in message["headers"] if pair[0].lower() != b"content-length"]
                    await send({**message, "headers": headers})
            else:
                await send(message)

        await self.application(scope, receive, begun)
        # Whoever was gone before the answer began is not streamed to.
        if began:
            gone = asyncio.ensure_future(_gone(receive))
            sending = asyncio.ensure_future(_send_all(send, *scope[WANTED]))
            try:
                await asyncio.wait({gone, sending}, return_when=asyncio.FIRST_COMPLETED)
            finally:
                for task in (gone, sending):
                    task.cancel()
                with contextlib.suppress(asyncio.CancelledError, OSError):
                    await sending


async def _gone(receive: Receive) -> None:
    """Until whoever listens is gone."""
    while (await receive())["type"] != "http.disconnect":
        pass


async def _send_all(send: Send, listener: Listener, batch: int | None) -> None:
    stream = events.stream(listener, batch)
    async with contextlib.aclosing(stream):
        async for data in stream:
            await send({"type": "http.response.body", "body": data, "more_body": True})
    await send({"type": "http.response.body", "body": b""})
