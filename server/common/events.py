"""Telling every server process that something changed, through the database they share."""

from __future__ import annotations

import json
from collections.abc import Mapping
from typing import Any

from django.conf import settings
from django.db import connection, connections

CHANNEL = "oldspoon"


def notify(kitchen_id: int, what: Mapping[str, int]) -> None:
    """Say that something of a kitchen changed, as {"batch": 7}; heard once the transaction is committed."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_notify(%s, %s)", [CHANNEL, json.dumps({"kitchen": kitchen_id, **what})])


def address() -> dict[str, Any]:
    """Where the database itself is, for a connection of one's own that listens: through a pooler that hands
    out connections by transaction, nothing is heard."""
    known = connections["default"].settings_dict
    return {
        "host": settings.DB_DIRECT_HOST,
        "port": settings.DB_DIRECT_PORT,
        "user": known["USER"],
        "password": known["PASSWORD"],
        "dbname": known["NAME"],
    }
