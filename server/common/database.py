"""The database connection while something long is computed."""

from __future__ import annotations

from django.db import connection


def let_go() -> None:
    """Give the connection back before something long is computed; the next query takes one again.

    Inside a transaction it is kept, and nothing long belongs there.
    """
    if not connection.in_atomic_block:
        connection.close()
