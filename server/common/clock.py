"""The one clock. Nothing else asks what time it is, so that seeds, archives and tests can say when it is.

>>> from datetime import UTC, datetime
>>> with at(datetime(2026, 1, 1, tzinfo=UTC)):
...     now().year
2026
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from datetime import datetime

from django.utils import timezone

_said: ContextVar[datetime | None] = ContextVar("now", default=None)


def now() -> datetime:
    """The time, with its zone: what was said in this context, else what it is."""
    return _said.get() or timezone.now()


@contextmanager
def at(moment: datetime) -> Iterator[None]:
    """In this block, and in what it calls, it is that time."""
    before = _said.set(moment)
    try:
        yield
    finally:
        _said.reset(before)
