"""Bringing an archive in: looked at as a whole first, then written in one transaction, by new ids."""

from __future__ import annotations

import hashlib
import json
import uuid
import zipfile
import zlib
from collections.abc import Sequence
from copy import copy
from dataclasses import dataclass, field
from decimal import Decimal
from itertools import islice
from typing import IO, Any

from devices.actions import hashed, new_token
from devices.models import Reading
from django.contrib.auth.hashers import make_password
from django.db import DatabaseError, connection, transaction
from django.db.models import AutoField, Model, UUIDField
from django.utils.text import slugify
from kitchen.models import Kitchen, Membership, Role
from people.models import User
from photos import files
from photos.models import Photo
from shelf.models import Tub
from stove.models import ParameterSet

from archive import readings
from archive.checking import MOST_LINE, PHOTOS, WITH_PHOTOS, check, lines
from archive.tables import KITCHEN, PEOPLE, TABLES, ArchiveError, Table, photo_name
from archive.told import Report, Told, nothing_said

AT_ONCE = 2000
RESERVED = 500


@dataclass
class Ids:
    """What each row is called here, of what it was called where it came from; a name is reserved when it is
    first heard of, so that rows may refer to others that come later."""

    seed: uuid.UUID = field(default_factory=uuid.uuid4)
    known: dict[tuple[type[Model], Any], Any] = field(default_factory=dict)
    free: dict[type[Model], list[int]] = field(default_factory=dict)

    def __call__(self, model: type[Model], old: Any) -> Any:
        """The name here of a row that had another."""
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


def read(source: IO[bytes], chef: str, slug: str | None = None, report: Report = nothing_said) -> Kitchen:
    """Bring an archive in as a kitchen of its own, beside those that are there.

    Parameters
    ----------
    source : the archive; it must be seekable.
    chef : the username of somebody here who becomes its chef. Its own people come without passwords.
    slug : what it is called in addresses; by default as it was, with a number where that is taken.
    report : is told how far it is.

    Raises
    ------
    ArchiveError
        when it is damaged, newer than this program, or no archive; nothing is written then.
    """
    person = User.objects.filter(username=chef, is_active=True).first()
    if person is None:
        raise ArchiveError(f"There is nobody called “{chef}” here.")
    try:
        with zipfile.ZipFile(source) as archive:
            version = check(archive)
            with transaction.atomic():
                return _written(archive, version, person, slug, Told(report))
    except (zipfile.BadZipFile, zlib.error, EOFError, OSError, NotImplementedError, RuntimeError):
        # A locked, half or bent zip; deeply nested lines end in the last.
        raise ArchiveError("This is no archive of a kitchen, or it is damaged.") from None
    except (ValueError, TypeError, AttributeError, LookupError):
        raise ArchiveError("One of its rows cannot be read; nothing was written.") from None
    except DatabaseError as error:
        reason = str(error).partition("\n")[0]
        raise ArchiveError(f"Its rows do not fit together; nothing was written. ({reason})") from None


def _written(archive: zipfile.ZipFile, version: int, chef: User, slug: str | None, told: Told) -> Kitchen:
    ids = Ids()
    [row] = lines(archive, "kitchen")
    kitchen = KITCHEN.read(row, ids)
    if not isinstance(kitchen, Kitchen):
        raise ArchiveError("kitchen.ndjson has no kitchen.")
    kitchen.slug = _free_slug(slug or kitchen.slug)
    kitchen.save(force_insert=True)
    _people_in(archive, kitchen, chef, ids)
    promised: list[Tub] = []
    for table in TABLES:
        if table.since > version:
            continue
        if table.model is Reading:
            with archive.open(f"{readings.NAME}.ndjson") as member:
                readings.bring_in(member, ids, told, MOST_LINE)
        else:
            _table_in(archive, table, ids, promised, told)
    Tub.objects.bulk_update(promised, ["promised_g"])
    _photos_in(archive, version, ids)
    return kitchen


def _free_slug(wanted: str) -> str:
    base = slugify(wanted)[:50] or "kitchen"
    taken = set(Kitchen.objects.filter(slug__startswith=base).values_list("slug", flat=True))
    return next(one for one in (base, *(f"{base}-{i}" for i in range(2, 10_000))) if one not in taken)


def _people_in(archive: zipfile.ZipFile, kitchen: Kitchen, chef: User, ids: Ids) -> None:
    """Its people, who cannot log in before somebody invites them, under names that are free here."""
    nobody = make_password(None)
    for row in lines(archive, "people"):
        if set(row) != set(PEOPLE):
            raise ArchiveError("people.ndjson has a row that is no person.")
        base = str(row["username"])[:100]
        taken = set(User.objects.filter(username__startswith=base).values_list("username", flat=True))
        name = next(one for one in (base, *(f"{base}-{i}" for i in range(2, 10_000))) if one not in taken)
        person = User(pk=ids(User, row["id"]), username=name, title=str(row["title"])[:80], password=nobody)
        person.save(force_insert=True)
        if row["role"] is not None:
            Membership.objects.create(user=person, kitchen=kitchen, role=Role(row["role"]))
    Membership.objects.create(user=chef, kitchen=kitchen, role=Role.CHEF)


def _table_in(archive: zipfile.ZipFile, table: Table, ids: Ids, promised: list[Tub], told: Told) -> None:
    rows = lines(archive, table.name)
    while some := list(islice(rows, AT_ONCE)):
        if table.model is ParameterSet:
            _parameters_named(some, ids)
        made = [table.read(row, ids) for row in some]
        if table.name == "devices":
            for device in made:
                device.token_hash = hashed(new_token())  # type: ignore[attr-defined]
        if table.model is Tub:
            _not_promised_yet(made, promised)
        table.model._default_manager.bulk_create(made, ignore_conflicts=table.model is ParameterSet)
        told.more(table.name, len(made))


def _photos_in(archive: zipfile.ZipFile, version: int, ids: Ids) -> None:
    """The pictures, by the new names of their rows; should the rows not stay, they go at night."""
    if version < WITH_PHOTOS:
        return
    for row in lines(archive, PHOTOS):
        files.write(Photo(id=ids(Photo, row["id"])), archive.read(photo_name(row["id"])))


def _parameters_named(rows: Sequence[Any], ids: Ids) -> None:
    """Sets of parameters are all kitchens' own: one that is not as it is here gets a name of its own, so that
    nobody else ever computes with it."""
    for row in rows:
        version, values = str(row["version"]), row["values"]
        if ParameterSet.objects.filter(version=version, values=values).exists():
            ids.known[ParameterSet, version] = version
            continue
        digest = hashlib.sha256(json.dumps(values, sort_keys=True).encode()).hexdigest()
        ids.known[ParameterSet, version] = f"{version[:9]}~{digest[:6]}"


def _not_promised_yet(made: Sequence[Model], promised: list[Tub]) -> None:
    """A tub comes in empty, and nothing can be promised of that: it is written once the tub is filled."""
    for one in made:
        if isinstance(one, Tub) and one.promised_g:
            kept = copy(one)
            promised.append(kept)
            one.promised_g = Decimal(0)
