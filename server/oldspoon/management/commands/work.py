"""Work: follow the open batches and do the jobs that were asked for, until told to stop."""

from __future__ import annotations

import asyncio
import os
import signal
import sys
import threading
from typing import Any

import custard
from django.core.management.base import BaseCommand, CommandParser
from stove.live.worker import Follower

from oldspoon.jobs import do_jobs


class Command(BaseCommand):
    """One worker process; there may be any number, on any number of machines."""

    help = "Follow open batches, raise alarms, do jobs; ends at Ctrl-C or SIGTERM."
    requires_system_checks = ()
    """They read every route, which takes a second; the tests run them."""

    def add_arguments(self, parser: CommandParser) -> None:
        """What to leave out, and when to begin."""
        parser.add_argument("--no-jobs", action="store_true", help="only follow batches")
        parser.add_argument(
            "--spare", action="store_true", help="get ready, and begin when a line comes on standard input"
        )

    def handle(self, *args: Any, no_jobs: bool, spare: bool, **options: Any) -> None:
        """Follow in a thread of its own; jobs are taken in the main one, which hears the signals."""
        if spare and not _called():
            return
        left: set[asyncio.Task[None]] = set()
        follower = Follower()
        thread = threading.Thread(target=follower.run, name="follower")
        thread.start()
        try:
            if no_jobs:
                _until_told()
            else:
                left = asyncio.new_event_loop().run_until_complete(do_jobs())
        except KeyboardInterrupt:
            pass
        finally:
            follower.stop()
            thread.join()
        if left:
            # The library loses a cancellation now and then, and says so; what is left now would never end.
            os._exit(0)


def _called() -> bool:
    """Get ready and wait; whether it is to begin, or whoever would have said so has ended."""
    custard.compile_kernels()
    return bool(sys.stdin.readline())


def _until_told() -> None:
    told = threading.Event()
    for stop in (signal.SIGTERM, signal.SIGINT):
        signal.signal(stop, lambda *_: told.set())
    told.wait()
