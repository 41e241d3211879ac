"""Live updates: what PostgreSQL notifies, heard once a process and handed to every screen that listens."""

from __future__ import annotations

import asyncio
import contextlib
import json
import logging
from collections.abc import AsyncGenerator

import psycopg
from common.events import CHANNEL
from django.db import connections

HEARTBEAT_S = 15.0
AGAIN_S = 1.0
WAITING_AT_MOST = 100
CHANGED = "changed"
RESYNC = {"resync": 1}
"""Told after the connection to the database was away: whatever happened meanwhile was not heard."""

END: dict[str, int] = {}
"""Told when the server stops: nothing more will be heard here."""

Event = dict[str, int]


class Hub:
    """One listening connection, and a queue for every screen. Lives on the server's event loop."""

    def __init__(self) -> None:
        self._screens: dict[asyncio.Queue[Event], int] = {}
        self._task: asyncio.Task[None] | None = None

    async def listen(self, kitchen_id: int) -> AsyncGenerator[Event, None]:
        """What happens in a kitchen from now on."""
        queue: asyncio.Queue[Event] = asyncio.Queue(WAITING_AT_MOST)
        self._screens[queue] = kitchen_id
        if self._task is None or self._task.done():
            self._task = asyncio.create_task(self._hear())
        try:
            while (event := await queue.get()) is not END:
                yield event
        finally:
            del self._screens[queue]
            if not self._screens and self._task is not None:
                self._task.cancel()
                self._task = None

    def let_go(self) -> None:
        """End every listening."""
        for queue in self._screens:
            while queue.full():
                queue.get_nowait()
            queue.put_nowait(END)

    async def _hear(self) -> None:
        while True:
            with contextlib.suppress(psycopg.Error, OSError):
                async with await self._connect() as connection:
                    await connection.execute(f"LISTEN {CHANNEL}")
                    self._tell(None, RESYNC)
                    async for heard in connection.notifies():
                        event = json.loads(heard.payload)
                        self._tell(event.pop("kitchen"), event)
            logging.getLogger("oldspoon").warning("the database does not answer; listening again")
            await asyncio.sleep(AGAIN_S)

    async def _connect(self) -> psycopg.AsyncConnection[tuple[object, ...]]:
        known = connections["default"].settings_dict
        return await psycopg.AsyncConnection.connect(
            host=known["HOST"],
            port=known["PORT"],
            user=known["USER"],
            password=known["PASSWORD"],
            dbname=known["NAME"],
            autocommit=True,
        )

    def _tell(self, kitchen_id: int | None, event: Event) -> None:
        for queue, kitchen in self._screens.items():
            if kitchen_id not in (None, kitchen):
                continue
            if queue.full():
                # A screen that has not read for so long asks for everything anew.
                while not queue.empty():
                    queue.get_nowait()
                queue.put_nowait(RESYNC)
            else:
                queue.put_nowait(event)


_hubs: dict[asyncio.AbstractEventLoop, Hub] = {}


def let_go() -> None:
    """End every listening, from whatever thread or signal."""
    for loop, hub in _hubs.items():
        loop.call_soon_threadsafe(hub.let_go)


async def stream(kitchen_id: int) -> AsyncGenerator[bytes, None]:
    """A kitchen's events as server-sent events, with a heartbeat."""
    hub = _hubs.setdefault(asyncio.get_running_loop(), Hub())
    events = hub.listen(kitchen_id)
    yield b"retry: 1000\n\n"
    waiting: asyncio.Task[Event] | None = None
    try:
        while True:
            waiting = waiting or asyncio.ensure_future(anext(events, END))
            done, _ = await asyncio.wait({waiting}, timeout=HEARTBEAT_S)
            if done:
                event, waiting = waiting.result(), None
                if event is END:
                    break
                yield f"event: {CHANGED}\ndata: {json.dumps(event)}\n\n".encode()
            else:
                yield b": here\n\n"
    finally:
        if waiting is not None:
            waiting.cancel()
            with contextlib.suppress(asyncio.CancelledError):
                await waiting
        await events.aclose()
