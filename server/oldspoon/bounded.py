"""Nobody's body is read beyond the limit: it is cut off while it comes in, however long it was said to be."""

from __future__ import annotations

import json
from collections.abc import Awaitable, Callable, MutableMapping
from typing import Any

from django.conf import settings

from oldspoon.problems import CONTENT_TYPE, body_of

Message = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]


class TooMuch(Exception):
    """More has come than is read."""


class Bounded:
    """An ASGI application that is handed no more than the limit of any request."""

    def __init__(self, application: Any) -> None:
        self.application = application

    async def __call__(self, scope: MutableMapping[str, Any], receive: Receive, send: Send) -> None:
        """Refuse what says it is too long, and what turns out to be."""
        if scope["type"] != "http":
            await self.application(scope, receive, send)
            return
        most, seen = settings.DATA_UPLOAD_MAX_MEMORY_SIZE, 0
        said = next((value for name, value in scope["headers"] if name == b"content-length"), b"0")
        if not said.isdigit() or int(said) > most:
            await _refuse(send, most)
            return

        async def counted() -> Message:
            nonlocal seen
            message = await receive()
            seen += len(message.get("body", b""))
            if seen > most:
                raise TooMuch
            return message

        try:
            await self.application(scope, counted, send)
        except TooMuch:
            await _refuse(send, most)


async def _refuse(send: Send, most: int) -> None:
    detail = f"That is more than {most / 1e6:g} MB, the most that is read at once."
    body = json.dumps(body_of(413, detail)).encode()
    headers = [(b"content-type", CONTENT_TYPE.encode()), (b"content-length", str(len(body)).encode())]
    # What is still to come is not read: the connection ends with this answer.
    headers.append((b"connection", b"close"))
    await send({"type": "http.response.start", "status": 413, "headers": headers})
    await send({"type": "http.response.body", "body": body})
