"""Live updates: what PostgreSQL notifies, heard once a process and handed to every screen that listens.

A change is told by its name, and screens ask for what they need. Where an open batch stands is not asked for:
a worker has kept it, this process fetches it once, and every screen of the kitchen receives it.
"""

from __future__ import annotations

import asyncio
import contextlib
import json
import logging
from collections.abc import AsyncGenerator, Collection
from dataclasses import dataclass
from typing import Any

import psycopg
from common.events import CHANNEL, address
from kitchen.access import STILL_MAY, Listener, columns

HEARTBEAT_S = 15.0
AGAIN_S = 1.0
ASKED_AGAIN_S = 0.4
WAITING_AT_MOST = 200
CHANGED, STATE = "changed", "state"
RESYNC = {"resync": 1}
"""Told after the connection to the database was away: whatever happened meanwhile was not heard."""
STATES = (
    "SELECT state.batch_id, state.document::text, state.say, state.seconds, state.urgency, "
    "batch.number, batch.name, batch.stage, GREATEST(0, EXTRACT(EPOCH FROM now() - state.at))::float8 "
    "FROM stove_livestate state JOIN stove_batch batch ON batch.id = state.batch_id "
    "WHERE state.document IS NOT NULL AND state.batch_id = ANY(%s)"
)


@dataclass(frozen=True)
class Event:
    """Something to send; `batch` is the one whose screen alone wants it, None when all do."""

    data: bytes
    batch: int | None = None


END = Event(b"")
"""Told when the server stops: nothing more will be heard here."""


def _changed(what: dict[str, int]) -> Event:
    return Event(_bytes(CHANGED, json.dumps(what)))


def _bytes(name: str, data: str) -> bytes:
    return f"event: {name}\ndata: {data}\n\n".encode()


@dataclass(eq=False)
class Screen:
    """One that listens: whose it is, in which kitchen, and perhaps to one batch of it in full."""

    listener: Listener
    batch: int | None
    queue: asyncio.Queue[Event]


class Hub:
    """One listening connection, and a queue for every screen. Lives on the server's event loop."""

    def __init__(self) -> None:
        self._screens: set[Screen] = set()
        self._over = False
        self._listening = False
        self._tasks: list[asyncio.Task[None]] = []
        self._fetching: asyncio.Task[None] | None = None
        self._due: dict[int, int] = {}

    async def listen(self, listener: Listener, batch: int | None) -> AsyncGenerator[Event, None]:
        """What happens in a kitchen from now on, for as long as the person may listen."""
        if self._over:
            return
        screen = Screen(listener, batch, asyncio.Queue(WAITING_AT_MOST))
        self._screens.add(screen)
        if self._listening:
            # What changed since its page was fetched is asked for once more. Otherwise every screen hears it
            # when listening begins.
            screen.queue.put_nowait(_changed(RESYNC))
        if not self._tasks:
            self._tasks = [asyncio.create_task(self._hear()), asyncio.create_task(self._ask_again())]
        try:
            while (event := await screen.queue.get()) is not END:
                yield event
        finally:
            self._screens.discard(screen)
            if not self._screens:
                for task in self._tasks:
                    task.cancel()
                self._tasks, self._listening = [], False

    def dismiss_all(self) -> None:
        """End every listening, and those that are only now beginning."""
        self._over = True
        self.dismiss(self._screens)

    def dismiss(self, screens: Collection[Screen]) -> None:
        """End these listenings."""
        for screen in screens:
            while screen.queue.full():
                screen.queue.get_nowait()
            screen.queue.put_nowait(END)

    async def _ask_again(self) -> None:
        """Whoever logged out, has another password, was sent from the kitchen or may not log in any more is
        let go; asked for all screens at once. While the database is away nothing is told either."""
        while True:
            with contextlib.suppress(psycopg.Error, OSError):
                async with await _connect() as asking:
                    while True:
                        screens = list(self._screens)
                        cursor = await asking.execute(
                            STILL_MAY, columns(screen.listener for screen in screens)
                        )
                        may = {place for (place,) in await cursor.fetchall()}
                        self.dismiss([one for place, one in enumerate(screens) if place not in may])
                        await asyncio.sleep(ASKED_AGAIN_S)
            await asyncio.sleep(AGAIN_S)

    async def _hear(self) -> None:
        while True:
            with contextlib.suppress(psycopg.Error, OSError):
                async with await _connect() as connection, await _connect() as asking:
                    await connection.execute(f"LISTEN {CHANNEL}")
                    self._listening = True
                    self._tell(None, _changed(RESYNC))
                    async for heard in connection.notifies():
                        what = json.loads(heard.payload)
                        kitchen = what.pop("kitchen")
                        if "state" in what:
                            self._due[what["state"]] = kitchen
                            if self._fetching is None or self._fetching.done():
                                self._fetching = asyncio.create_task(self._fetch(asking))
                        elif "readings" not in what:
                            self._tell(kitchen, _changed(what))
            self._listening = False
            logging.getLogger("oldspoon.loops").warning("the database does not answer; listening again")
            await asyncio.sleep(AGAIN_S)

    async def _fetch(self, asking: psycopg.AsyncConnection[tuple[Any, ...]]) -> None:
        """Fetch what was kept of the batches that changed, each once, and hand it on."""
        with contextlib.suppress(psycopg.Error, OSError):
            while self._due:
                due, self._due = self._due, {}
                cursor = await asking.execute(STATES, [list(due)])
                for (
                    batch,
                    document,
                    say,
                    seconds,
                    urgency,
                    number,
                    name,
                    stage,
                    age,
                ) in await cursor.fetchall():
                    line = {
                        "id": batch,
                        "number": number,
                        "name": name,
                        "stage": stage,
                        "say": say,
                        "seconds": seconds,
                        "urgency": urgency,
                    }
                    self._tell(due[batch], Event(_bytes(STATE, json.dumps({"urgent": line}))))
                    # The document goes on as it was kept: nothing here looks into it.
                    whole = f'{{"batch": {batch}, "age_s": {age:.2f}, "live": {document}}}'
                    self._tell(due[batch], Event(_bytes(STATE, whole), batch))

    def _tell(self, kitchen: int | None, event: Event) -> None:
        for screen in self._screens:
            if kitchen not in (None, screen.listener.kitchen) or event.batch not in (None, screen.batch):
                continue
            if screen.queue.full():
                # A screen that has not read for so long asks for everything again.
                while not screen.queue.empty():
                    screen.queue.get_nowait()
                screen.queue.put_nowait(_changed(RESYNC))
            else:
                screen.queue.put_nowait(event)


async def _connect() -> psycopg.AsyncConnection[tuple[Any, ...]]:
    return await psycopg.AsyncConnection.connect(**address(), autocommit=True)


_hubs: dict[asyncio.AbstractEventLoop, Hub] = {}


def end_all_listening() -> None:
    """End every listening, from whatever thread or signal."""
    for loop, hub in _hubs.items():
        loop.call_soon_threadsafe(hub.dismiss_all)


async def stream(listener: Listener, batch: int | None = None) -> AsyncGenerator[bytes, None]:
    """A kitchen's events as server-sent events, with a heartbeat; with those of one batch in full."""
    hub = _hubs.setdefault(asyncio.get_running_loop(), Hub())
    events = hub.listen(listener, batch)
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
                yield event.data
            else:
                yield b": here\n\n"
    finally:
        if waiting is not None:
            waiting.cancel()
            with contextlib.suppress(asyncio.CancelledError):
                await waiting
        await events.aclose()
