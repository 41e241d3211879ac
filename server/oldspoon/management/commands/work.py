"""Work: follow the open batches and do the jobs that were asked for, until told to stop."""

from __future__ import annotations

import signal
import threading
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from procrastinate.contrib.django import app
from stove.worker import Follower

JOBS_AT_ONCE = 1
POLL_S = 5.0


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
                app.with_connector(app.connector.get_worker_connector()).run_worker(  # type: ignore[attr-defined]
                    concurrency=JOBS_AT_ONCE,
                    delete_jobs="successful",
                    fetch_job_polling_interval=POLL_S,
                    shutdown_graceful_timeout=5,
                )
        except KeyboardInterrupt:
            pass
        finally:
            follower.stop()
            thread.join()


def _until_told() -> None:
    told = threading.Event()
    for stop in (signal.SIGTERM, signal.SIGINT):
        signal.signal(stop, lambda *_: told.set())
    told.wait()
