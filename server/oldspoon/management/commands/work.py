"""Work: follow the open batches and do the jobs that were asked for, until told to stop."""

from __future__ import annotations

import logging
import signal
import threading
import time
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
                _do_jobs()
        except KeyboardInterrupt:
            pass
        finally:
            follower.stop()
            thread.join()


def _do_jobs() -> None:
    """Do jobs until told to stop; while the database is away, wait for it."""
    jobs = app.with_connector(app.connector.get_worker_connector())  # type: ignore[attr-defined]
    while True:
        try:
            jobs.run_worker(
                concurrency=JOBS_AT_ONCE,
                delete_jobs="successful",
                fetch_job_polling_interval=POLL_S,
                shutdown_graceful_timeout=5,
            )
        except ConnectorException:
            log.warning("the database does not answer; doing jobs again when it does")
            time.sleep(AGAIN_S)
        else:
            return


def _until_told() -> None:
    told = threading.Event()
    for stop in (signal.SIGTERM, signal.SIGINT):
        signal.signal(stop, lambda *_: told.set())
    told.wait()
