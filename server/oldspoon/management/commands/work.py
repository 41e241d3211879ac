"""Work: follow the open batches and do the jobs that were asked for, until told to stop."""

from __future__ import annotations

import asyncio
import contextlib
import logging
import signal
import threading
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from procrastinate.contrib.django import app
from procrastinate.exceptions import ConnectorException
from stove.worker import Follower

JOBS_AT_ONCE = 1
POLL_S = 5.0
AGAIN_S = 1.0
log = logging.getLogger("oldspoon")


class Command(BaseCommand):
    """One worker process; there may be any number, on any number of machines."""

    help = "Follow open batches, raise alarms, do jobs; ends at Ctrl-C or SIGTERM."

    def add_arguments(self, parser: CommandParser) -> None:
        """What to leave out."""
        parser.add_argument("--no-jobs", action="store_true", help="only follow batches")

    def handle(self, *args: Any, no_jobs: bool, **options: Any) -> None:
        """Follow in a thread of its own; jobs are taken in the main one, which hears the signals."""
        follower = Follower()
        thread = threading.Thread(target=follower.run, name="follower")
        thread.start()
        try:
            if no_jobs:
                _until_told()
            else:
                asyncio.run(_do_jobs())
        except KeyboardInterrupt:
            pass
        finally:
            follower.stop()
            thread.join()


async def _do_jobs() -> None:
    """Do jobs until told to stop. A worker of the library ends when it loses the database, sometimes without
    an error: unless we were told to stop, another takes its place."""
    told = asyncio.Event()
    for stop in (signal.SIGTERM, signal.SIGINT):
        asyncio.get_running_loop().add_signal_handler(stop, told.set)
    stopped = asyncio.create_task(told.wait())
    while not told.is_set():
        working = asyncio.create_task(_work())
        await asyncio.wait({working, stopped}, return_when=asyncio.FIRST_COMPLETED)
        # It ends gracefully when it is told to, and by now has ended by itself otherwise.
        working.cancel()
        with contextlib.suppress(asyncio.CancelledError, ConnectorException):
            await working
        if not told.is_set():
            log.warning("the database does not answer; doing jobs again when it does")
            with contextlib.suppress(TimeoutError):
                await asyncio.wait_for(told.wait(), AGAIN_S)


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
