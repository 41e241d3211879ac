"""Rows made in memory and written table by table, so that filling a kitchen takes seconds.

The application's own actions write one thing at a time, each in a transaction of its own. The demo makes the
same rows with the same functions, without reading them back: `server/tests/test_demo.py` compares both ways.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from typing import Any, TypeVar

from common import clock
from django.db import connection
from django.db.models import Model, QuerySet
from kitchen.access import Actor
from kitchen.models import AuditEntry

AT_ONCE = 64
"""So many ids are taken from a sequence in one go."""
Row = TypeVar("Row", bound=Model)


class Rows:
    """Rows to be written, in the order of their tables' first use; each has its id from the beginning."""

    def __init__(self) -> None:
        self._rows: dict[type[Model], list[Model]] = {}
        self._ids: dict[type[Model], list[int]] = defaultdict(list)

    def add(self, row: Row) -> Row:
        """Keep a row to be written; one without an id gets the next of its table."""
        if row.pk is None:
            row.pk = self._next_id(type(row))
        self._rows.setdefault(type(row), []).append(row)
        return row

    def done(self, actor: Actor, action: str, result: object) -> None:
        """The audit entry of an action, as `kitchen.access.action` writes it."""
        entry = AuditEntry(
            kitchen=actor.kitchen, user=actor.user, action=action, subject=str(result)[:250], at=clock.now()
        )
        self.add(entry)

    def _next_id(self, model: type[Model]) -> int:
        ids = self._ids[model]
        if not ids:
            table = model._meta.db_table
            with connection.cursor() as cursor:
                cursor.execute(
                    "SELECT nextval(pg_get_serial_sequence(%s, 'id')) FROM generate_series(1, %s)",
                    [table, AT_ONCE],
                )
                ids += [int(key) for (key,) in reversed(cursor.fetchall())]
        return ids.pop()

    def write(self, *models: type[Model]) -> None:
        """Write the rows of some tables, in this order, or of all that are left."""
        for model in models or tuple(self._rows):
            model._default_manager.bulk_create(self._rows.pop(model, []))


def remember(row: Model, **related: Iterable[Any]) -> None:
    """Give a row in memory what refers to it, as `prefetch_related` would, without asking the database."""
    known: dict[str, QuerySet[Any]] = row.__dict__.setdefault("_prefetched_objects_cache", {})
    for name, rows in related.items():
        found: QuerySet[Any] = getattr(row, name).get_queryset()
        found._result_cache = list(rows)
        found._prefetch_done = True  # type: ignore[attr-defined]
        known[name] = found
