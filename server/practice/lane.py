"""A lane for players: acts of somebody with a pass go straight to the action, by a thread that stays.

The usual way costs a message several times its picture: a thread and a connection of its own, and a dozen
layers that have nothing to say to it. Whatever is not plain sailing here (no pass, a token that does not
match, acts that cannot be) goes the usual way, with all that was sent: an act that came already is not done
twice. So this lane answers only what succeeds, and nothing is decided in it.
"""

from __future__ import annotations

import asyncio
import contextlib
import io
import re
from collections.abc import Awaitable, Callable, MutableMapping
from concurrent.futures import ThreadPoolExecutor
from typing import Any

from common.refusals import Refusal
from custard import CustardError
from django.core.exceptions import PermissionDenied
from django.core.handlers.asgi import ASGIRequest
from django.db import Error, connection
from ninja.utils import check_csrf
from psycopg_pool import PoolTimeout
from pydantic import ValidationError

from practice import actions, passes
from practice.models import Attempt
from practice.schemas import Playing

Message = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]

PATH = re.compile(rb"/api/k/[^/]+/practice/attempts/[0-9]+/acts")
THREADS = 4
HEADERS = [(b"content-type", b"application/json; charset=utf-8"), (b"cache-control", b"no-store")]


class Lane:
    """An ASGI application beside the usual one, for the acts of those with a pass."""

    def __init__(self, application: Any, threads: int = THREADS) -> None:
        self.application = application
        self.threads = ThreadPoolExecutor(threads, thread_name_prefix="lane")

    async def __call__(self, scope: MutableMapping[str, Any], receive: Receive, send: Send) -> None:
        """Answer here, or hand on what was received."""
        if scope["type"] != "http" or scope["method"] != "POST" or not PATH.fullmatch(_path(scope)):
            await self.application(scope, receive, send)
            return
        messages = [await receive()]
        while messages[-1].get("more_body"):
            messages.append(await receive())
        body = b"".join(message.get("body", b"") for message in messages)
        loop = asyncio.get_running_loop()
        answer = await loop.run_in_executor(self.threads, _answered, dict(scope), body)
        if answer is None:
            await self.application(scope, _again(messages, receive), send)
            return
        length = (b"content-length", str(len(answer)).encode())
        await send({"type": "http.response.start", "status": 200, "headers": [*HEADERS, length]})
        await send({"type": "http.response.body", "body": answer})


def _path(scope: MutableMapping[str, Any]) -> bytes:
    return str(scope["path"]).encode()


def _again(messages: list[Message], receive: Receive) -> Receive:
    """What was received already, then what comes."""
    left = list(messages)

    async def next_one() -> Message:
        return left.pop(0) if left else await receive()

    return next_one


def _answered(scope: dict[str, Any], body: bytes) -> bytes | None:
    """The picture after what was sent; None for what goes the usual way."""
    request = ASGIRequest(scope, io.BytesIO(body))
    found = passes.held(request)
    if found is None or check_csrf(request) is not None:
        return None
    actor, attempt = found
    try:
        shown = actions.play(actor, attempt, Playing.model_validate_json(body))
    except (ValidationError, CustardError, Refusal, PermissionDenied, Attempt.DoesNotExist):
        return None
    except (Error, PoolTimeout):
        # The database went away: the usual way says so, and the next one here takes a fresh connection.
        with contextlib.suppress(Error):
            connection.close()
        return None
    passes.moved(request, attempt)
    return shown.model_dump_json().encode()
