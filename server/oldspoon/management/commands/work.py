"""Work: follow the open batches and do the jobs that were asked for, until told to stop."""

from __future__ import annotations

import asyncio
import contextlib
import logging
import os
import signal
import threading
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from procrastinate.contrib.django import app
from procrastinate.exceptions import ConnectorException
from stove.worker import Follower

JOBS_AT_ONCE = 2
"""A plan of a day is looked for long; whatever else was asked for does not wait for it."""
POLL_S = 5.0
AGAIN_S = 1.0
GRACE_S = 7.0
log = logging.getLogger("oldspoon")


class Command(BaseCommand):
    """One worker process; there may be any number, on any number of machines."""

    help = "Follow open batches, raise alarms, do jobs; ends at Ctrl-C or SIGTERM."
    requires_system_checks = ()
    """They read every route, which takes a second; the tests run them."""

    def add_arguments(self, parser: CommandParser) -> None:
        """What to leave out."""
        parser.add_argument("--no-jobs", action="store_true", help="only follow batches")

    def handle(self, *args: Any, no_jobs: bool, **options: Any) -> None:
        """Follow in a thread of its own; jobs are taken in the main one, which hears the signals."""
        left: set[asyncio.Task[None]] = set()
        follower = Follower()
        thread = threading.Thread(target=follower.run, name="follower")
        thread.start()
        try:
            if no_jobs:
                _until_told()
            else:
                left = asyncio.new_event_loop().run_until_complete(_do_jobs())
        except KeyboardInterrupt:
            pass
        finally:
            follower.stop()
            thread.join()
        if left:
            # The library loses a cancellation now and then, and says so; what is left now would never end.
            os._exit(0)


async def _do_jobs() -> set[asyncio.Task[None]]:
    """Do jobs until told to stop. A worker of the library ends when it loses the database, sometimes without
    an error: unless we were told to stop, another takes its place. Returns what did not end in time."""
    told = asyncio.Event()
    for stop in (signal.SIGTERM, signal.SIGINT):
        asyncio.get_running_loop().add_signal_handler(stop, told.set)
    stopped = asyncio.create_task(told.wait())
    while True:
        working = asyncio.create_task(_work())
        await asyncio.wait({working, stopped}, return_when=asyncio.FIRST_COMPLETED)
        if told.is_set():
            break
        error = working.exception()
        if not isinstance(error, ConnectorException | None):
            log.error("doing jobs failed", exc_info=error)
        log.warning("jobs are done again in a moment: the worker ended, as it does without the database")
        with contextlib.suppress(TimeoutError):
            await asyncio.wait_for(asyncio.shield(stopped), AGAIN_S)
    working.cancel()
    await asyncio.wait({working}, timeout=GRACE_S)
    return {task for task in asyncio.all_tasks() if task is not asyncio.current_task()}


async def _work() -> None:
    jobs = app.with_connector(app.connector.get_worker_connector())  # type: ignore[attr-defined]
    async with jobs.open_async():
        await jobs.run_worker_async(
            concurrency=JOBS_AT_ONCE,
            delete_jobs="successful",
            fetch_job_polling_interval=POLL_S,
            shutdown_graceful_timeout=5,
            install_signal_handlers=False,
        )


def _until_told() -> None:
    told = threading.Event()
    for stop in (signal.SIGTERM, signal.SIGINT):
        signal.signal(stop, lambda *_: told.set())
    told.wait()
