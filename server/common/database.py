"""The database connection while something long is computed."""

from __future__ import annotations

from django.db import connection


def release_connection() -> None:
    """Give the connection back before something long is computed; the next query takes one again.

    Inside a transaction it is kept, and nothing long belongs there.
    """
    if not connection.in_atomic_block:
        connection.close()


def one_at_a_time(what: str) -> None:
    """Wait until nobody else does this, until the transaction ends: what is looked at then stays so."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_xact_lock(hashtext(%s))", [f"oldspoon {what}"])
