"""Jobs of what is printed, done by a worker."""

from __future__ import annotations

import subprocess
import sys

from common import database
from django.conf import settings
from django.db import InterfaceError, OperationalError, connection
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from papers import orders

TRY_AGAIN = RetryStrategy(
    max_attempts=5, wait=2, retry_exceptions={OperationalError, InterfaceError, subprocess.CalledProcessError}
)
"""After the database or a process went away; not after the time was up, which a second try would need too."""


@app.task(name="papers.make", retry=TRY_AGAIN)
def make(paper_id: str) -> None:
    """Set one paper: a large one in a process of its own, so that this one stays small and goes on following.

    Inside a transaction another process would not see the paper.
    """
    if connection.in_atomic_block or not orders.is_large(paper_id):
        orders.make(paper_id)
        return
    database.release_connection()
    set_it = [sys.executable, str(settings.BASE_DIR / "manage.py"), "set_paper", paper_id]
    subprocess.run(set_it, check=True, timeout=orders.LOST.total_seconds())
