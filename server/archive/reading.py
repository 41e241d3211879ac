"""Bringing an archive in: looked at as a whole first, then written in one transaction, by new ids."""

from __future__ import annotations

import hashlib
import json
import zipfile
import zlib
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from copy import copy
from dataclasses import dataclass, field
from decimal import Decimal
from itertools import islice
from typing import IO, Any

import custard
from book.models import FormulaVersion
from devices.actions import hashed, new_token
from devices.models import Device, Reading
from django.contrib.auth.hashers import make_password
from django.db import DatabaseError, InterfaceError, OperationalError, transaction
from django.db.models import Model
from kitchen import beginning
from kitchen.models import Kitchen, Membership, Role
from kitchen.reads import conditions_of, zone_of
from people.models import User
from photos import files
from photos.models import Photo
from shelf.models import Tub
from stove.batch import cooking, plans
from stove.models import Batch, ParameterSet

from archive import readings
from archive.checking import MOST_LINE, PHOTOS, WITH_PHOTOS, check, lines, opened
from archive.ids import NewIds
from archive.progress import Progress, Report, no_report
from archive.tables import KITCHEN, PEOPLE, TABLES, ArchiveError, Table, photo_name

AT_ONCE = 2000


def read(source: IO[bytes], chef: str, slug: str | None = None, report: Report = no_report) -> Kitchen:
    """Bring an archive in as a kitchen of its own, beside those that are there.

    Parameters
    ----------
    source : the archive; it must be seekable.
    chef : the username of somebody here who becomes its chef. Its own people come without passwords.
    slug : what it is called in addresses; by default as it was, with a number where that is taken.
    report : called with how far it is.

    Raises
    ------
    ArchiveError
        when it is damaged, newer than this program, or no archive; nothing is written then.
    OperationalError, InterfaceError
        when the database went away; nothing is written then.
    """
    person = User.objects.filter(username=chef, is_active=True).first()
    if person is None:
        raise ArchiveError(f"There is nobody called “{chef}” here.")
    with _in_sentences(), zipfile.ZipFile(source) as archive:
        version = check(archive)
        with transaction.atomic():
            return _Incoming(archive, version, Progress(report)).write(person, slug)


@contextmanager
def _in_sentences() -> Iterator[None]:
    """What is wrong with an archive, for the person who brings it in."""
    try:
        yield
    except (zipfile.BadZipFile, zlib.error, EOFError, OSError, NotImplementedError, RuntimeError):
        # A locked, half or bent zip; deeply nested lines end in the last.
        raise ArchiveError("This is no archive of a kitchen, or it is damaged.") from None
    except (custard.CustardError, ValueError, TypeError, AttributeError, LookupError):
        raise ArchiveError("One of its rows cannot be read; nothing was written.") from None
    except (OperationalError, InterfaceError):
        # Nothing is wrong with the archive: it can be brought in when the database is back.
        raise
    except DatabaseError as error:
        reason = str(error).partition("\n")[0]
        raise ArchiveError(f"Its rows do not fit together; nothing was written. ({reason})") from None


@dataclass
class _Incoming:
    """An archive that is whole, while its rows are written; the first error ends it, and nothing stays."""

    archive: zipfile.ZipFile
    version: int
    progress: Progress
    ids: NewIds = field(default_factory=NewIds)
    promised: list[Tub] = field(default_factory=list)

    def write(self, chef: User, slug: str | None) -> Kitchen:
        """Write all of it; returns the kitchen that it became."""
        kitchen = self._kitchen(slug)
        self._people(kitchen, chef)
        for table in TABLES:
            if table.since > self.version:
                continue
            if table.model is Reading:
                with opened(self.archive, readings.NAME) as member:
                    readings.bring_in(member, self.ids, self.progress, MOST_LINE)
            else:
                self._table(table)
        Tub.objects.bulk_update(self.promised, ["promised_g"])
        if self.version >= WITH_PHOTOS:
            self._photos()
        return kitchen

    def _kitchen(self, slug: str | None) -> Kitchen:
        [row] = lines(self.archive, "kitchen")
        kitchen = KITCHEN.read(row, self.ids)
        if not isinstance(kitchen, Kitchen):
            raise ArchiveError("kitchen.ndjson has no kitchen.")
        # Every page of it goes by these.
        zone_of(kitchen)
        _ = conditions_of(kitchen).cooling_rule
        kitchen.slug = beginning.free_slug(slug or kitchen.slug)
        kitchen.save(force_insert=True)
        return kitchen

    def _people(self, kitchen: Kitchen, chef: User) -> None:
        """Its people, who cannot log in before somebody invites them, under names that are free here."""
        nobody = make_password(None)
        for row in lines(self.archive, "people"):
            if set(row) != set(PEOPLE):
                raise ArchiveError("people.ndjson has a row that is no person.")
            base = str(row["username"])[:100]
            taken = set(User.objects.filter(username__startswith=base).values_list("username", flat=True))
            free = (one for one in (base, *(f"{base}-{i}" for i in range(2, 10_000))) if one not in taken)
            person = User(username=next(free), title=str(row["title"])[:80], password=nobody)
            person.pk = self.ids(User, row["id"])
            person.save(force_insert=True)
            if row["role"] is not None:
                Membership.objects.create(user=person, kitchen=kitchen, role=Role(row["role"]))
        Membership.objects.create(user=chef, kitchen=kitchen, role=Role.CHEF)

    def _table(self, table: Table) -> None:
        rows = lines(self.archive, table.name)
        while some := list(islice(rows, AT_ONCE)):
            if table.model is ParameterSet:
                _name_parameters(some, self.ids)
            made = [table.read(row, self.ids) for row in some]
            for one in made:
                _must_be_readable(one)
                if isinstance(one, Device):
                    one.token_hash = hashed(new_token())
                if isinstance(one, Tub) and one.promised_g:
                    # A tub comes in empty: what is promised of it is written once it is filled.
                    self.promised.append(copy(one))
                    one.promised_g = Decimal(0)
            table.model._default_manager.bulk_create(made, ignore_conflicts=table.model is ParameterSet)
            self.progress.add(table.name, len(made))

    def _photos(self) -> None:
        """The pictures, by the new ids of their rows; should the rows not stay, they are deleted at night."""
        for row in lines(self.archive, PHOTOS):
            picture = self.archive.read(photo_name(row["id"]))
            try:
                files.write(Photo(id=self.ids(Photo, row["id"])), picture)
            except OSError as error:
                raise ArchiveError(f"Its photographs cannot be written here: {error.strerror}.") from None


def _must_be_readable(row: Model) -> None:
    """Refuse a formula or a batch whose documents cannot be read here: its pages, and whatever looks at all
    batches at night, would stumble over it.

    Raises
    ------
    CustardError, ValueError, TypeError, AttributeError, LookupError
        when one cannot.
    """
    if isinstance(row, FormulaVersion):
        custard.read_formula(row.content)
    elif isinstance(row, Batch):
        custard.read_formula(row.content)
        plans.read(row.plan)
        custard.Conditions.of(row.conditions, custard.larder.standard())
        cooking.equipment_of(row)


def _name_parameters(rows: Sequence[Any], ids: NewIds) -> None:
    """Sets of parameters are all kitchens' own: one that is not as it is here gets a name of its own, so that
    nobody else ever computes with it."""
    for row in rows:
        version, values = str(row["version"]), row["values"]
        if ParameterSet.objects.filter(version=version, values=values).exists():
            ids.known[ParameterSet, version] = version
            continue
        digest = hashlib.sha256(json.dumps(values, sort_keys=True).encode()).hexdigest()
        ids.known[ParameterSet, version] = f"{version[:9]}~{digest[:6]}"
