"""Jobs of the Day, done by a worker."""

from __future__ import annotations

import contextlib

from django.db import transaction
from procrastinate.contrib.django import app
from procrastinate.exceptions import AlreadyEnqueued

from day import planner


@app.task(name="day.improve")
def improve(day_id: int) -> None:
    """A better plan of a day than the one at once, and why there is none in time."""
    planner.improve(day_id)


def look(day_id: int) -> None:
    """Ask for a better plan; asked twice before it began it is looked for once."""
    with contextlib.suppress(AlreadyEnqueued), transaction.atomic():
        improve.configure(lock=f"day-{day_id}", queueing_lock=f"day-{day_id}").defer(day_id=day_id)
