"""What an archive of a kitchen holds, table by table, and how a row is written and read."""

from __future__ import annotations

import base64
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from datetime import date
from typing import Any

from book.models import Formula, FormulaVersion, RecipePicture, Reminder
from day.models import Day, Hands, InHouse, Other, Want
from devices.models import Device, Reading
from django.core.exceptions import ValidationError
from django.db.models import BinaryField, Field, ForeignKey, JSONField, Model
from kitchen.models import (
    AuditEntry,
    Cooler,
    Hob,
    Kitchen,
    LearnedSauce,
    Membership,
    OwnIngredient,
    Pan,
    Vessel,
)
from people.models import User
from shelf.models import DayClosing, Movement, Promise, Tub
from stove.models import Batch, BatchLesson, Mark, ParameterSet, ProbeUse, Remedy, Withdrawal

FORMAT, VERSION = "old-spoon/kitchen", 1
Row = dict[str, Any]
Ids = Callable[[type[Model], Any], Any]
"""What a row of a model is called by now, of what it was called in the archive."""


class ArchiveError(Exception):
    """Why it cannot be; its text is a sentence for the person who asked."""


def _nothing(row: Row, ids: Ids) -> None:
    """Nothing in it refers to a row but its foreign keys."""


@dataclass(frozen=True)
class Table:
    """One table of an archive.

    Attributes
    ----------
    name : of its file, without `.ndjson`.
    model : whose rows it holds.
    where : how a row is reached from its kitchen, as a query says it.
    left_out : fields that do not leave the house; `instead` is what they are when they come in.
    inside : maps what stands in a row's documents and words.
    order : in which its rows are written, and so come in.
    """

    name: str
    model: type[Model]
    where: str
    left_out: tuple[str, ...] = ()
    instead: Mapping[str, Any] = field(default_factory=dict)
    inside: Callable[[Row, Ids], None] = _nothing
    order: str = "pk"

    @property
    def fields(self) -> list[Field[Any, Any]]:
        """The fields that are written, in order."""
        concrete = self.model._meta.concrete_fields
        return [one for one in concrete if one.name not in self.left_out]

    def write(self, values: Iterable[Any]) -> Row:
        """A row as it is written."""
        pairs = zip(self.fields, values, strict=True)
        return {one.attname: _plain(value) for one, value in pairs}

    def read(self, row: object, ids: Ids) -> Model:
        """A row as it comes in.

        Raises
        ------
        ArchiveError
            when it is no row of this table.
        """
        wanted = {one.attname: one for one in self.fields}
        if not isinstance(row, dict) or set(row) != set(wanted):
            raise ArchiveError(f"{self.name}.ndjson has a row that is none of its table.")
        self.inside(row, ids)
        values: Row = {}
        for name, one in wanted.items():
            values[name] = self._value(one, row[name], ids)
        return self.model(**values, **self.instead)

    def _value(self, one: Field[Any, Any], value: Any, ids: Ids) -> Any:
        if value is None:
            return None
        if one.primary_key and not isinstance(one, ForeignKey):
            return ids(self.model, value)
        if isinstance(one, ForeignKey):
            return ids(one.related_model, value)
        if isinstance(one, BinaryField):
            return base64.b64decode(value)
        if isinstance(one, JSONField):
            return value
        try:
            return one.to_python(value)
        except (ValidationError, TypeError, ValueError):
            raise ArchiveError(f"{self.name}.ndjson has no {one.name} in one of its rows.") from None


def _plain(value: Any) -> Any:
    if isinstance(value, bytes | memoryview):
        return base64.b64encode(bytes(value)).decode()
    if isinstance(value, str | int | float | bool | list | dict) or value is None:
        return value
    if isinstance(value, date):
        # To the last digit: Django's own encoder drops what is under a millisecond.
        return value.isoformat()
    return str(value)


def _cooled_in(row: Row, ids: Ids) -> None:
    """A batch's cooling names its coolers."""
    for way in (row["cooling"] or {}).get("ways", ()):
        if way.get("cooler_id") is not None:
            way["cooler_id"] = ids(Cooler, way["cooler_id"])


def _step_of(row: Row, ids: Ids) -> None:
    """A mark of a remedy's step names the remedy."""
    if row["kind"] == "remedy-step" and str(row["what"]).isdecimal():
        row["what"] = str(ids(Remedy, int(row["what"])))


TABLES: tuple[Table, ...] = (
    Table("hobs", Hob, "kitchen"),
    Table("pans", Pan, "kitchen"),
    Table("coolers", Cooler, "kitchen"),
    Table("vessels", Vessel, "kitchen"),
    Table("own-ingredients", OwnIngredient, "kitchen"),
    Table("devices", Device, "kitchen", ("token_hash", "token_by", "used_at", "rotated_at", "revoked_at")),
    Table("formulas", Formula, "kitchen"),
    Table("versions", FormulaVersion, "formula__kitchen"),
    Table("pictures", RecipePicture, "kitchen"),
    Table("reminders", Reminder, "formula__kitchen"),
    Table("parameters", ParameterSet, ""),
    Table("batches", Batch, "kitchen", inside=_cooled_in),
    Table("marks", Mark, "batch__kitchen", inside=_step_of),
    Table("withdrawals", Withdrawal, "mark__batch__kitchen"),
    Table("remedies", Remedy, "mark__batch__kitchen"),
    Table("probes", ProbeUse, "batch__kitchen"),
    # Nothing refers to them: without names of their own a million of them need no memory.
    Table("readings", Reading, "device__kitchen", ("id",)),
    Table("tubs", Tub, "kitchen", ("left_g",), {"left_g": 0}),
    # The database adds them up as they come, and lets no tub go below nothing.
    Table("movements", Movement, "kitchen", order="at"),
    Table("promises", Promise, "tub__kitchen"),
    Table("closings", DayClosing, "kitchen"),
    Table("lessons", BatchLesson, "kitchen"),
    Table("learned", LearnedSauce, "kitchen"),
    Table("days", Day, "kitchen"),
    Table("hands", Hands, "day__kitchen"),
    Table("wants", Want, "day__kitchen"),
    Table("other-work", Other, "day__kitchen"),
    Table("in-house", InHouse, "kitchen"),
    Table("audit", AuditEntry, "kitchen", ("id",)),
)
"""Every table but the kitchen's own row and its people, each after those that it refers to."""
KITCHEN = Table("kitchen", Kitchen, "pk", ("demo", "thrown_away_at"))
PEOPLE = ("id", "username", "title", "role")
"""What is written of a person: who they were here, and nothing by which they log in."""
MEMBERS = Membership
PERSON = User
