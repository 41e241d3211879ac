"""The following loop of a worker process: hears what happens, claims what is due, computes it."""

from __future__ import annotations

import contextlib
import json
import logging
import threading
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass, field
from datetime import datetime

import custard
import psycopg
from common import clock
from common.events import CHANNEL, address
from django.db import DatabaseError, connection

from stove.live import follow
from stove.live.readings import Kept

THREADS = 2
LONGEST_WAIT_S = 1.0
"""However little is due, a worker looks this often: another may have died with what it had claimed."""
SHORT_WAIT_S = 0.02
"""While something is computed it is looked this often whether that is done."""
AGAIN_S = 1.0
log = logging.getLogger("oldspoon.follow")


@dataclass
class Heard:
    """What came in one go: the probes that read, and whether there was anything that may make a batch due."""

    devices: set[int] = field(default_factory=set)
    anything: bool = False


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
        # What is compiled is fetched from disk before anything is waited for.
        custard.compile_kernels()
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
        due: datetime | None = clock.now()
        while not self._stop.is_set():
            heard = self._hear(listening, SHORT_WAIT_S if working else _until(due))
            if heard.devices:
                follow.heard(heard.devices)
            done = {one for one in working if one.done()}
            working -= done
            # The database is asked only when there may be something to claim.
            free = self._threads - len(working)
            if free and (heard.anything or done or (due is not None and due <= clock.now())):
                claimed, due = follow.claim(free)
                working |= {pool.submit(self._one, batch_id, at) for batch_id, at in claimed}

    def _hear(self, listening: psycopg.Connection[tuple[object, ...]], seconds: float) -> Heard:
        """Whatever was told; returns at the first thing heard, with all that came with it."""
        heard = Heard()
        for timeout, most in ((seconds, 1), (0.0, None)):
            for note in listening.notifies(timeout=timeout, stop_after=most):
                told = json.loads(note.payload)
                if "readings" in told:
                    heard.devices.add(int(told["readings"]))
                # What workers tell of their own work is nothing new.
                heard.anything = heard.anything or "state" not in told
        return heard

    def _one(self, batch_id: int, due_at: datetime) -> None:
        try:
            follow.compute(batch_id, due_at, self._kept.read)
        except DatabaseError:
            log.warning("batch %s was computed and could not be kept; it is due again", batch_id)
            connection.close()
            with contextlib.suppress(DatabaseError):
                follow.release(batch_id)
        finally:
            connection.close()


def _until(due: datetime | None) -> float:
    """How long to listen before something is due [s]."""
    left = LONGEST_WAIT_S if due is None else (due - clock.now()).total_seconds()
    return min(LONGEST_WAIT_S, max(SHORT_WAIT_S, left))
