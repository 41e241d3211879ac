"""What an archive of a kitchen holds, table by table, and how a row is written and read."""

from __future__ import annotations

import base64
import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from datetime import date
from typing import Any

from book.models import Formula, FormulaVersion, RecipePicture, Reminder
from common.words import WordField
from day.models import Day, Hands, InHouse, Other, Pin, Plan, StepDone, Want
from devices.models import Device, ProbeCheck, Reading
from django.core.exceptions import ValidationError
from django.db.models import BinaryField, Field, ForeignKey, JSONField, Model
from kitchen.models import (
    AuditEntry,
    Cooler,
    Hob,
    Kitchen,
    LearnedSauce,
    OwnIngredient,
    Pan,
    Vessel,
)
from log.models import LogView
from photos.models import Photo
from practice.models import Acts, Attempt, MadeExercise, SetExercise, Sheet
from shelf.models import DayClosing, Movement, Promise, Tub
from stove.models import Batch, BatchLesson, Mark, ParameterSet, ProbeUse, Remedy, Withdrawal

FORMAT, VERSION = "old-spoon/kitchen", 2
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
    since : the version of the format that it came with.
    added : fields that came with a later version, and what they are in rows of an older one.
    """

    name: str
    model: type[Model]
    where: str
    left_out: tuple[str, ...] = ()
    instead: Mapping[str, Any] = field(default_factory=dict)
    inside: Callable[[Row, Ids], None] = _nothing
    order: str = "pk"
    since: int = 1
    added: Mapping[str, Any] = field(default_factory=dict)

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
        if isinstance(row, dict):
            row = {**self.added, **row}
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
            found = one.to_python(value)
            one.run_validators(found)
            if isinstance(one, WordField) and found:
                one.words(found)
        except (ValidationError, TypeError, ValueError):
            raise ArchiveError(f"{self.name}.ndjson has no {one.name} in one of its rows.") from None
        if one.choices and found not in ("", *(key for key, _ in one.flatchoices)):
            raise ArchiveError(f"{self.name}.ndjson has a {one.name} that is none.")
        return found


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


JOB = re.compile(r"(want|work)-(\d{1,18})(/\d+)?")
WORDS = ("content", "name", "short", "say")
"""What stands in a plan as somebody wrote it."""


def _cooked_again(row: Row, ids: Ids) -> None:
    """An attempt may be at a batch that was made."""
    if row["spec"].get("batch_id") is not None:
        row["spec"]["batch_id"] = ids(Batch, row["spec"]["batch_id"])


NAMED: Mapping[str, type[Model]] = {
    "want_id": Want,
    "tub_id": Tub,
    "hands_id": Hands,
    "batch_id": Batch,
    "formula_id": Formula,
}
"""What a plan names by its id."""


def _job(key: str, ids: Ids) -> str:
    """The key of a job: of what is wanted, which part of it, or of other work."""
    found = JOB.fullmatch(key)
    if found is None:
        return key
    model = Want if found[1] == "want" else Other
    return f"{found[1]}-{ids(model, int(found[2]))}{found[3] or ''}"


def _of_job(row: Row, ids: Ids) -> None:
    row["job"] = _job(row["job"], ids)


def _planned(row: Row, ids: Ids) -> None:
    """A plan names what is wanted, other work, tubs and hands throughout."""
    for name in ("document", "helps", "risks"):
        row[name] = _in_plan(row[name], ids)


def _in_plan(value: Any, ids: Ids) -> Any:
    if isinstance(value, str):
        return _job(value, ids)
    if isinstance(value, list):
        return [_in_plan(one, ids) for one in value]
    if not isinstance(value, dict):
        return value
    found = {_job(key, ids): one if key in WORDS else _in_plan(one, ids) for key, one in value.items()}
    for key, model in NAMED.items():
        if found.get(key) is not None:
            found[key] = ids(model, found[key])
    if isinstance(found.get("wants"), list):
        found["wants"] = [ids(Want, one) for one in found["wants"]]
    # A step as it was placed, not one as it is computed, whose hands are a share.
    if "place" in found and found.get("hands") is not None:
        found["hands"] = ids(Hands, found["hands"])
    return found


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
    Table("batches", Batch, "kitchen", inside=_cooled_in, added={"egg_source": ""}),
    Table("marks", Mark, "batch__kitchen", inside=_step_of),
    Table("withdrawals", Withdrawal, "mark__batch__kitchen"),
    Table("remedies", Remedy, "mark__batch__kitchen"),
    Table(
        "probes",
        ProbeUse,
        "batch__kitchen",
        added={"reads_high_k": 0.0, "error_k": None, "checked_on": None},
    ),
    Table("probe-checks", ProbeCheck, "device__kitchen", since=2),
    # Nothing refers to them: without names of their own a million of them need no memory.
    Table("readings", Reading, "device__kitchen", ("id",)),
    Table("tubs", Tub, "kitchen", ("left_g",), {"left_g": 0}),
    # The database adds them up as they come, and lets no tub go below nothing.
    Table("movements", Movement, "kitchen", order="at"),
    Table("promises", Promise, "tub__kitchen"),
    Table("closings", DayClosing, "kitchen"),
    Table("lessons", BatchLesson, "kitchen", added={"laid": None}),
    Table("learned", LearnedSauce, "kitchen"),
    Table("days", Day, "kitchen"),
    Table("hands", Hands, "day__kitchen"),
    Table("wants", Want, "day__kitchen"),
    Table("other-work", Other, "day__kitchen"),
    Table("pins", Pin, "day__kitchen", inside=_of_job, since=2),
    Table("steps-done", StepDone, "day__kitchen", inside=_of_job, since=2),
    Table("plans", Plan, "day__kitchen", inside=_planned, since=2),
    Table("in-house", InHouse, "kitchen"),
    Table("exercises", MadeExercise, "kitchen", since=2),
    Table("exercises-set", SetExercise, "kitchen", since=2),
    Table("attempts", Attempt, "kitchen", inside=_cooked_again, since=2),
    Table("acts", Acts, "attempt__kitchen", ("id",), since=2),
    Table("sheets", Sheet, "kitchen", since=2),
    Table("photos", Photo, "kitchen", since=2),
    Table("views", LogView, "kitchen", since=2),
    Table("audit", AuditEntry, "kitchen", ("id",)),
)
"""Every table but the kitchen's own row and its people, each after those that it refers to."""
KITCHEN = Table(
    "kitchen", Kitchen, "pk", ("demo", "thrown_away_at"), added={"photos_mb": 500, "egg_source": ""}
)
PEOPLE = ("id", "username", "title", "role")
"""What is written of a person: who they were here, and nothing by which they log in."""


def photo_name(key: object) -> str:
    """The file of a photograph in an archive."""
    return f"photos/{key}.jpg"
