"""Writing an archive: row by row, in one snapshot, in as much memory for a million readings as for one."""

from __future__ import annotations

import hashlib
import json
import zipfile
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import IO, Any

from common import clock
from devices.models import Reading
from django.db import connection, transaction
from django.db.models import Q, QuerySet
from kitchen.models import Kitchen, Membership
from people.models import User
from photos import files
from photos.models import Photo
from stove.models import Batch

from archive import readings
from archive.progress import Progress, Report, no_report
from archive.schema import schemas
from archive.tables import (
    FORMAT,
    KITCHEN,
    PEOPLE,
    TABLES,
    VERSION,
    ArchiveError,
    Row,
    Table,
    photo_name,
)

AT_ONCE = 2000


@dataclass(frozen=True)
class Member:
    """A file of an archive: how many rows, and the SHA-256 of its text."""

    rows: int
    sha256: str


def write(slug: str, out: IO[bytes], report: Report = no_report) -> dict[str, Member]:
    """Write the archive of a kitchen to a file that need not be seekable.

    A photograph whose file is lost or damaged is left out of it.

    Raises
    ------
    ArchiveError
        when there is no such kitchen.
    """
    with transaction.atomic():
        with connection.cursor() as cursor:
            cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ, READ ONLY")
        kitchen = Kitchen.objects.filter(slug=slug).first()
        if kitchen is None:
            raise ArchiveError(f"There is no kitchen “{slug}” here.")
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED, allowZip64=True) as archive:
            progress, photos = Progress(report), _whole_photos(kitchen)
            members = {
                "kitchen": _member(archive, "kitchen", _rows(KITCHEN, kitchen), progress),
                "people": _member(archive, "people", _people(kitchen), progress),
            }
            for table in TABLES:
                if table.model is Photo:
                    rows = _rows(table, kitchen, pk__in=[photo.pk for photo in photos])
                    members[table.name] = _member(archive, table.name, rows, progress)
                elif table.model is Reading:
                    streamed = readings.lines_of(kitchen)
                    members[table.name] = _pieces(archive, table.name, streamed, progress)
                else:
                    members[table.name] = _member(archive, table.name, _rows(table, kitchen), progress)
            for photo in photos:
                _photo(archive, photo)
            archive.writestr("schemas.json", json.dumps(schemas()))
            archive.writestr("manifest.json", json.dumps(_manifest(kitchen, members), indent=1))
    return members


def _whole_photos(kitchen: Kitchen) -> list[Photo]:
    """Its photographs whose files are there, and what they were when they were kept."""
    return [one for one in Photo.objects.filter(kitchen=kitchen) if files.sum_of(one) == one.sha256]


def _photo(archive: zipfile.ZipFile, photo: Photo) -> None:
    try:
        archive.write(photo.path, photo_name(photo.pk), zipfile.ZIP_STORED)
    except FileNotFoundError:
        raise ArchiveError("A photograph was deleted meanwhile. Make the archive once more.") from None


def count_rows(kitchen: Kitchen) -> int:
    """How many rows an archive of a kitchen has, nearly: to say how far it is."""
    return sum(_of(table, kitchen).count() for table in TABLES)


def _manifest(kitchen: Kitchen, members: dict[str, Member]) -> Row:
    return {
        "format": FORMAT,
        "version": VERSION,
        "made_at": clock.now().isoformat(),
        "kitchen": kitchen.name,
        "members": {name: vars(one) for name, one in members.items()},
    }


def _member(archive: zipfile.ZipFile, name: str, rows: Iterable[Row], progress: Progress) -> Member:
    written = (json.dumps(row, ensure_ascii=False, separators=(",", ":")).encode() + b"\n" for row in rows)
    return _pieces(archive, name, written, progress)


def _pieces(archive: zipfile.ZipFile, name: str, pieces: Iterable[bytes], progress: Progress) -> Member:
    """A part of an archive out of pieces, each of whole lines."""
    digest, count = hashlib.sha256(), 0
    with archive.open(f"{name}.ndjson", "w", force_zip64=True) as member:
        for piece in pieces:
            digest.update(piece)
            member.write(piece)
            lines = piece.count(b"\n")
            count += lines
            progress.add(name, lines)
    return Member(count, digest.hexdigest())


def _rows(table: Table, kitchen: Kitchen, **which: object) -> Iterator[Row]:
    names = [one.attname for one in table.fields]
    found = _of(table, kitchen).filter(**which).order_by(table.order)
    for values in found.values_list(*names).iterator(chunk_size=AT_ONCE):
        yield table.write(values)


def _of(table: Table, kitchen: Kitchen) -> QuerySet[Any]:
    found = table.model._default_manager.all()
    if not table.where:
        return found.filter(pk__in=Batch.objects.filter(kitchen=kitchen).values("parameters"))
    return found.filter(**{table.where: kitchen.pk})


def _people(kitchen: Kitchen) -> Iterator[Row]:
    """Whoever is a member, or is named by any row: by whom a mark was made stays known."""
    roles = dict(Membership.objects.filter(kitchen=kitchen).values_list("user_id", "role"))
    named = Q(pk__in=roles)
    for table in TABLES:
        for one in table.fields:
            if one.related_model is User:
                named |= Q(pk__in=_of(table, kitchen).exclude(**{one.name: None}).values(one.attname))
    for person in User.objects.filter(named).order_by("pk"):
        yield dict(zip(PEOPLE, (person.pk, person.username, person.title, roles.get(person.pk)), strict=True))
