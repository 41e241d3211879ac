"""Jobs of the Book, done by a worker."""

from __future__ import annotations

from django.db import InterfaceError, OperationalError
from kitchen.models import Kitchen
from kitchen.reads import conditions_of
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from book import kept, pictures
from book.models import FormulaVersion, KeptLine

AT_ONCE = 50


def fill(kitchen_id: int) -> None:
    """Compute every line of a kitchen's book that is not kept yet, a few at a time."""
    kitchen = Kitchen.objects.filter(pk=kitchen_id).first()
    if kitchen is None:
        return
    conditions = conditions_of(kitchen)
    known = KeptLine.objects.filter(under=kept.under(conditions)).values("content_sum")
    while missing := list(FormulaVersion.latest_of(kitchen_id).exclude(content_sum__in=known)[:AT_ONCE]):
        kept.lines(missing, conditions)


@app.task(name="book.fill_one", retry=3)
def fill_one(kitchen_id: int) -> None:
    """The book of one kitchen, at once: something was written into it."""
    fill(kitchen_id)


@app.task(
    name="book.read_picture",
    retry=RetryStrategy(max_attempts=3, wait=2, retry_exceptions={OperationalError, InterfaceError}),
)
def read_picture(picture_id: str) -> None:
    """The text of a photograph."""
    pictures.read(picture_id)


@app.periodic(cron="* * * * *")
@app.task(name="book.fill", queueing_lock="book.fill")
def fill_books(timestamp: int) -> None:
    """Once a minute: whatever a changed kitchen, formula or model has left to compute."""
    for kitchen_id in Kitchen.objects.values_list("pk", flat=True):
        fill(kitchen_id)
