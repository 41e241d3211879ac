"""What the rows of an archive are called where they come in."""

from __future__ import annotations

import uuid
from dataclasses import dataclass, field
from typing import Any

from django.db import connection
from django.db.models import AutoField, Model, UUIDField

from archive.tables import ArchiveError

RESERVED = 500


@dataclass
class NewIds:
    """The new id of each row, by its old one. It is reserved when it is first asked for, so that rows may
    refer to others that come later."""

    seed: uuid.UUID = field(default_factory=uuid.uuid4)
    known: dict[tuple[type[Model], Any], Any] = field(default_factory=dict)
    free: dict[type[Model], list[int]] = field(default_factory=dict)

    def __call__(self, model: type[Model], old: Any) -> Any:
        """The new id of a row.

        Raises
        ------
        ArchiveError
            when rows of that kind have no ids of their own, and this one was not named.
        """
        key = (model, old)
        if key not in self.known:
            self.known[key] = self._new(model, old)
        return self.known[key]

    def _new(self, model: type[Model], old: Any) -> Any:
        primary = model._meta.pk
        if isinstance(primary, UUIDField):
            return uuid.uuid5(self.seed, f"{model._meta.label} {old}")
        if isinstance(primary, AutoField):
            return self._next(model)
        raise ArchiveError(f"Nothing is called {old} there.")

    def _next(self, model: type[Model]) -> int:
        ids = self.free.setdefault(model, [])
        if not ids:
            with connection.cursor() as cursor:
                cursor.execute(
                    "SELECT nextval(pg_get_serial_sequence(%s, 'id')) FROM generate_series(1, %s)",
                    [model._meta.db_table, RESERVED],
                )
                ids += [int(key) for (key,) in reversed(cursor.fetchall())]
        return ids.pop()
