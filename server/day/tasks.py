"""Jobs of the Day, done by a worker."""

from __future__ import annotations

import contextlib

from django.db import transaction
from procrastinate.contrib.django import app
from procrastinate.exceptions import AlreadyEnqueued

from day import planner


@app.task(name="day.improve")
def improve(day_id: int, user_id: int | None) -> None:
    """A better plan of a day than the one at once, and why there is none in time."""
    planner.improve(day_id, user_id)


def look(day_id: int, user_id: int | None = None) -> None:
    """Ask for a better plan, for whoever changed the day; asked twice before it began it is once."""
    asked = improve.configure(lock=f"day-{day_id}", queueing_lock=f"day-{day_id}")
    with contextlib.suppress(AlreadyEnqueued), transaction.atomic():
        asked.defer(day_id=day_id, user_id=user_id)


@app.periodic(cron="* * * * *")
@app.task(name="day.look_all", queueing_lock="day.look_all", pass_context=False)
def look_all(timestamp: int) -> None:
    """Once a minute: plans for which a better one was asked and never looked for, as no worker was there."""
    for day_id in planner.left():
        look(day_id)
