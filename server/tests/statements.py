"""Whether a statement that a request makes keeps to one kitchen, read in its text."""

from __future__ import annotations

import re
from functools import cache

from django.apps import apps

_READS = re.compile(r"(SELECT|UPDATE|DELETE)\b", re.IGNORECASE)
_KEY = re.compile(r'"?(?:\w*_)?id"? (?:= |IN \(|= ANY)')
_KITCHEN = re.compile(r'"kitchen_id" (?:= |IN \()(\d+)')
OWN = {"kitchen_membership"}
"""What somebody's own log-in is looked up in: in which kitchens they are."""


@cache
def kitchen_tables() -> dict[str, re.Pattern[str]]:
    """The tables whose rows are a kitchen's: those with a column for it."""
    tables = (
        model._meta.db_table
        for model in apps.get_models()
        if any(field.name == "kitchen" for field in model._meta.concrete_fields)
    )
    return {name: re.compile(rf'"{name}"') for name in tables if name not in OWN}


def strays(statement: str, kitchen_id: int) -> str | None:
    """Why a statement may meet another kitchen's rows; None when it does not.

    It keeps to a kitchen when it names it, or reaches rows by their key or their parent's.
    """
    if not _READS.match(statement):
        return None
    others = {int(found) for found in _KITCHEN.findall(statement)} - {kitchen_id}
    if others:
        return f"it names the kitchens {sorted(others)}"
    touched = [name for name, named in kitchen_tables().items() if named.search(statement)]
    _, _, condition = statement.partition(" WHERE ")
    if touched and not _KITCHEN.search(statement) and not _KEY.search(condition):
        return f"of {', '.join(touched)} it names no kitchen and no key"
    return None
