"""The following loop of a worker process: hears what happens, claims what is due, computes it."""

from __future__ import annotations

import contextlib
import json
import logging
import threading
from collections.abc import Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from datetime import datetime

import psycopg
from common import clock
from common.events import CHANNEL, address
from django.db import DatabaseError, connection

from stove import follow
from stove.readings import Kept

THREADS = 2
LONGEST_WAIT_S, SHORTEST_WAIT_S = 0.25, 0.005
AGAIN_S = 1.0
log = logging.getLogger("oldspoon.follow")


class Follower:
    """Follows until it is told to stop."""

    def __init__(self, threads: int = THREADS) -> None:
        self._stop = threading.Event()
        self._threads = threads
        self._kept = Kept()

    def stop(self) -> None:
        """Finish what is being computed, and end."""
        self._stop.set()

    def run(self) -> None:
        """Follow; when the database goes away, wait for it and take everything up again."""
        with ThreadPoolExecutor(self._threads, thread_name_prefix="follow") as pool:
            while not self._stop.is_set():
                try:
                    with psycopg.connect(**address(), autocommit=True) as listening:
                        listening.execute(f"LISTEN {CHANNEL}")
                        follow.want_all()
                        self._follow(listening, pool)
                except (psycopg.Error, DatabaseError, OSError):
                    log.warning("the database does not answer; following again when it does")
                    connection.close()
                    self._stop.wait(AGAIN_S)

    def _follow(self, listening: psycopg.Connection[tuple[object, ...]], pool: ThreadPoolExecutor) -> None:
        working: set[Future[None]] = set()
        while not self._stop.is_set():
            devices = set(self._hear(listening, _until_due(bool(working))))
            if devices:
                follow.heard(devices)
            working = {one for one in working if not one.done()}
            free = self._threads - len(working)
            if free > 0:
                for batch_id, due_at in follow.claim(free):
                    working.add(pool.submit(self._one, batch_id, due_at))

    def _hear(self, listening: psycopg.Connection[tuple[object, ...]], seconds: float) -> Iterator[int]:
        """The probes that read; returns at the first thing heard, with all that came with it."""
        for timeout in (seconds, 0.0):
            for note in listening.notifies(timeout=timeout, stop_after=1 if timeout else None):
                heard = json.loads(note.payload)
                if "readings" in heard:
                    yield int(heard["readings"])

    def _one(self, batch_id: int, due_at: datetime) -> None:
        try:
            follow.compute(batch_id, due_at, self._kept.read)
        except DatabaseError:
            log.warning("batch %s was computed and could not be kept; it is due again", batch_id)
        finally:
            connection.close()


def _until_due(working: bool) -> float:
    """How long to listen before something is due [s]."""
    longest = SHORTEST_WAIT_S * 4 if working else LONGEST_WAIT_S
    due = follow.next_due()
    if due is None:
        return longest
    with contextlib.suppress(OverflowError):
        return min(longest, max(SHORTEST_WAIT_S, (due - clock.now()).total_seconds()))
    return longest
