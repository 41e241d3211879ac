"""Housekeeping, done by a worker at night: nothing that anyone would miss, and a backup before."""

from __future__ import annotations

import importlib
import logging
from datetime import timedelta

from archive import runs as archives
from asgiref.sync import async_to_sync
from axes.models import AccessAttempt
from book import pictures
from common import clock
from django.conf import settings
from django.contrib.sessions.models import Session
from django.db import connection
from papers import orders
from photos import actions as photos
from procrastinate.contrib.django import app
from stove.after import paces, sauces

from oldspoon import backup
from oldspoon.jobs import KEPT_FAILED_H

# Each registers how its papers are made, for the worker that sets them.
for place in ("log.records", "practice.sheets", "shelf.labels"):
    importlib.import_module(place)

log = logging.getLogger("oldspoon")


@app.periodic(cron="10 3 * * *")
@app.task(name="oldspoon.nightly", queueing_lock="oldspoon.nightly", retry=3)
def nightly(timestamp: int) -> None:
    """Keep a backup, then tidy up."""
    kept = backup.keep("nightly")
    log.info("backed up", extra={"file": str(kept)})
    tidy_up()
    paces.fill_in()
    sauces.age()
    forget_failed_jobs()


def forget_failed_jobs() -> None:
    """Jobs that failed are kept for a week, so that somebody can look at them."""
    manager = app.job_manager
    async_to_sync(manager.delete_old_jobs)(nb_hours=KEPT_FAILED_H, include_failed=True, include_aborted=True)


def tidy_up() -> dict[str, int]:
    """Forget sessions that have ended, wrong passwords of yesterday, and all but a reading a minute of
    batches closed for longer than their kitchen keeps them whole; returns how many of each. The tables of the
    months to come are made.

    What was done and by whom (the audit), marks and alarms are kept.
    """
    now = clock.now()
    sessions, _ = Session.objects.filter(expire_date__lt=now).delete()
    tries, _ = AccessAttempt.objects.filter(
        attempt_time__lt=now - timedelta(hours=settings.AXES_COOLOFF_TIME)
    ).delete()
    with connection.cursor() as cursor:
        cursor.execute("SELECT devices_make_months()")
        cursor.execute("SELECT stove_thin_readings()")
        (readings,) = cursor.fetchone() or (0,)
    return {
        "sessions": sessions,
        "tries": tries,
        "readings": int(readings),
        "papers": orders.forget(now),
        "pictures": pictures.forget(now),
        "photos": photos.forget(now),
        "archives": archives.forget(now),
    }
