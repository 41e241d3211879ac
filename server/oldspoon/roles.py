"""Who may do what to the database: the owner makes and changes tables, what serves reads and writes rows.

What is kept as it happened can be added to and not taken back by what serves, whatever its code does.
"""

from __future__ import annotations

from collections.abc import Iterator

from devices.reads import months
from django.apps import apps
from django.db import connection
from django.db.models import Model
from records.triggers import Frozen

ADDED_TO = (
    "kitchen_auditentry",
    "stove_parameterset",
    "book_formulaversion",
    "devices_reading",
    "stove_mark",
    "stove_withdrawal",
    "stove_remedy",
    "shelf_movement",
    "shelf_dayclosing",
)
"""Rows are added, never changed or deleted."""
KEPT = (
    "stove_batch",
    "stove_probeuse",
    "book_formula",
    "kitchen_kitchen",
    "people_user",
    "shelf_tub",
    "shelf_promise",
)
"""Rows are added and sometimes changed, never deleted."""
CHAINS = ("records_chain", "records_entry", "django_migrations")
"""What triggers and the owner write. Readings of batches long closed are thinned by a function of the
owner's, which leaves an entry of what it took."""

BY_TRIGGER = {"shelf_tub": ("left_g",)}
"""Fields that a trigger of the owner's changes, and nothing else."""


def grant(serving: str) -> None:
    """Give the serving role what it needs of every table, and no more. The owner calls this."""
    role = connection.ops.quote_name(serving)
    everything = (
        f"GRANT USAGE ON SCHEMA public TO {role}",
        f"GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO {role}",
        f"GRANT USAGE, SELECT ON ALL SEQUENCES IN SCHEMA public TO {role}",
        f"GRANT EXECUTE ON ALL FUNCTIONS IN SCHEMA public TO {role}",
        f"REVOKE UPDATE, DELETE ON {', '.join(ADDED_TO)} FROM {role}",
        f"REVOKE DELETE ON {', '.join(KEPT)} FROM {role}",
        f"REVOKE INSERT, UPDATE, DELETE ON {', '.join(CHAINS)} FROM {role}",
    )
    with connection.cursor() as cursor:
        for statement in (*everything, *_columns(role)):
            cursor.execute(statement)
        # A month's table is written through the whole: past it, no trigger would chain what is put in. A
        # nightly backup reads it, those of months to come as well.
        for month in months():
            cursor.execute(f"REVOKE INSERT, UPDATE, DELETE ON {month} FROM {role}")
        cursor.execute(f"ALTER DEFAULT PRIVILEGES IN SCHEMA public GRANT SELECT ON TABLES TO {role}")


def _columns(role: str) -> Iterator[str]:
    """What leaves columns that are written once out of what may be updated."""
    for model in apps.get_models():
        table, fixed = model._meta.db_table, _written_once(model)
        if fixed:
            columns = (f.column for f in model._meta.concrete_fields if f.name not in fixed)
            names = ", ".join(connection.ops.quote_name(str(column)) for column in columns)
            yield f"REVOKE UPDATE ON {table} FROM {role}"
            yield f"GRANT UPDATE ({names}) ON {table} TO {role}"


def _written_once(model: type[Model]) -> set[str]:
    triggers: list[object] = getattr(model._meta, "triggers", [])
    frozen = {name for one in triggers if isinstance(one, Frozen) for name in one.written_once}
    return frozen | set(BY_TRIGGER.get(model._meta.db_table, ()))
