"""Jobs of what is printed, done by a worker."""

from __future__ import annotations

import subprocess
import sys

from common import database
from django.conf import settings
from django.db import connection
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from papers import orders


@app.task(name="papers.make", retry=RetryStrategy(max_attempts=5, wait=2))
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
