"""What each file of an archive holds, as JSON Schema: made of the tables, and so true of them."""

from __future__ import annotations

from typing import Any

from django.db import models

from archive.tables import KITCHEN, TABLES, Table

DIALECT = "https://json-schema.org/draft/2020-12/schema"
KINDS: tuple[tuple[type[models.Field[Any, Any]], dict[str, Any]], ...] = (
    (models.UUIDField, {"type": "string", "format": "uuid"}),
    (models.DateTimeField, {"type": "string", "format": "date-time"}),
    (models.DateField, {"type": "string", "format": "date"}),
    (models.BinaryField, {"type": "string", "contentEncoding": "base64"}),
    (models.BooleanField, {"type": "boolean"}),
    (models.DecimalField, {"type": "string", "pattern": r"^-?\d+(\.\d+)?$"}),
    (models.FloatField, {"type": "number"}),
    (models.IntegerField, {"type": "integer"}),
    (models.JSONField, {}),
    (models.CharField, {"type": "string"}),
    (models.TextField, {"type": "string"}),
)


def schemas() -> dict[str, Any]:
    """A schema for a row of each file, by the file's name without its suffix."""
    found = {table.name: schema(table) for table in (KITCHEN, *TABLES)}
    found["people"] = _row(
        {
            "id": {"type": "integer"},
            "username": {"type": "string"},
            "title": {"type": "string"},
            "role": {"enum": ["viewer", "cook", "chef", None]},
        }
    )
    return dict(sorted(found.items()))


def schema(table: Table) -> dict[str, Any]:
    """The schema of a row of a table."""
    return _row({one.attname: _of(one) for one in table.fields}, table.model.__doc__ or "")


def _row(fields: dict[str, Any], doc: str = "") -> dict[str, Any]:
    said = {"description": doc.strip().splitlines()[0]} if doc else {}
    return {
        "$schema": DIALECT,
        **said,
        "type": "object",
        "properties": fields,
        "required": list(fields),
        "additionalProperties": False,
    }


def _of(one: models.Field[Any, Any]) -> dict[str, Any]:
    target: Any = one
    while isinstance(target, models.ForeignKey):
        target = target.target_field
    found = next(dict(shape) for kind, shape in KINDS if isinstance(target, kind))
    length = getattr(target, "max_length", None)
    if found == {"type": "string"} and length:
        found["maxLength"] = length
    if one.null and "type" in found:
        found["type"] = [found["type"], "null"]
    return found
