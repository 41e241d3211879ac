"""A web process that has grown gives its memory back, and where it cannot, gives way to a fresh one.

Hostile or huge input leaves the heap in pieces that Python does not return. When nothing is being answered,
what is free is returned to the system; a process that stays above its limit all the same ends with
`GIVES_WAY`, and whoever started it starts another on the same socket: callers wait in its queue meanwhile,
and screens that listen come back by themselves.
"""

from __future__ import annotations

import ctypes
import gc
import logging
import os
import threading
from collections.abc import Awaitable, Callable, MutableMapping
from pathlib import Path
from typing import Any

log = logging.getLogger("oldspoon.memory")
GIVES_WAY = 75
"""The exit status of a process that wants to be started again; `EX_TEMPFAIL` of sysexits."""
LOOK_S = 60.0
PAGE_MB = os.sysconf("SC_PAGE_SIZE") / 1e6


class Answering:
    """An ASGI application that knows how many requests are being answered; streams are none."""

    def __init__(self, application: Any) -> None:
        self.application = application
        self.under_way = 0

    async def __call__(
        self,
        scope: MutableMapping[str, Any],
        receive: Callable[[], Awaitable[Any]],
        send: Callable[[Any], Awaitable[None]],
    ) -> None:
        """Count it while it is answered."""
        self.under_way += 1
        try:
            await self.application(scope, receive, send)
        finally:
            self.under_way -= 1


def held_mb() -> float:
    """The memory that this process holds [MB]."""
    return int(Path("/proc/self/statm").read_text(encoding="ascii").split()[1]) * PAGE_MB


def given_back() -> None:
    """Return to the system what is free in the heap."""
    gc.collect()
    try:
        ctypes.CDLL("libc.so.6").malloc_trim(0)
    except (OSError, AttributeError):
        log.debug("this machine's C library cannot trim its heap")


def grown(most_mb: float, idle: Callable[[], bool], held: Callable[[], float] = held_mb) -> bool:
    """Whether a process with nothing to do holds more than it should, even after giving back what it can."""
    if held() <= most_mb or not idle():
        return False
    given_back()
    return held() > most_mb and idle()


def watch(most_mb: float, idle: Callable[[], bool], give_way: Callable[[], None]) -> threading.Thread:
    """Look at it every minute in a thread of its own, until it has to give way."""

    def look() -> None:
        rest = threading.Event()
        while not rest.wait(LOOK_S):
            if grown(most_mb, idle):
                log.warning("holds %.0f MB with nothing to do, and gives way to a fresh one", held_mb())
                give_way()
                return

    thread = threading.Thread(target=look, name="memory", daemon=True)
    thread.start()
    return thread
