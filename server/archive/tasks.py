"""Archives are made and brought in by a process of their own, which a worker waits for."""

from __future__ import annotations

import subprocess
import sys

from common import database
from django.conf import settings
from django.db import InterfaceError, OperationalError, connection
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from archive import runs

TRY_AGAIN = RetryStrategy(
    max_attempts=3, wait=5, retry_exceptions={OperationalError, InterfaceError, subprocess.CalledProcessError}
)


@app.task(name="archive.carry", retry=TRY_AGAIN)
def carry(run_id: str) -> None:
    """Make an archive or bring one in. Inside a transaction another process would not see it."""
    if connection.in_atomic_block:
        runs.carry(run_id)
        return
    database.release_connection()
    do_it = [sys.executable, str(settings.BASE_DIR / "manage.py"), "carry_archive", run_id]
    subprocess.run(do_it, check=True, timeout=runs.LOST.total_seconds())
