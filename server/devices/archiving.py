"""Old months of readings out of the database, into files."""

from __future__ import annotations

import gzip
import hashlib
import os
import re
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, date, datetime
from pathlib import Path

from common import clock
from django.db import connection, transaction

from devices.reads import months

MONTH = re.compile(r"_(\d{4})_(\d{2})$")
OTHERS = "SELECT count(*) FROM devices_reading_other WHERE at < %s"
OPEN = """
SELECT count(*) FROM stove_probeuse lay JOIN stove_batch batch ON batch.id = lay.batch_id
WHERE batch.closed_at IS NULL AND lay.since < %s
"""
COLUMNS = "id,device,at,celsius"


class ArchiveError(Exception):
    """Why it cannot be; its text is a sentence for the person who asked."""


@dataclass(frozen=True)
class Archived:
    """A month that was taken out: its first day, how many readings, the file and that file's SHA-256."""

    month: date
    readings: int
    path: Path
    digest: str


def archive(before: date, folder: Path) -> Iterator[Archived]:
    """Take every month that ended before a day out of the database, each into a file of its own.

    A file is whole on the disk before its month leaves the database. The chains keep an entry of what went,
    so that `verify` stays well; curves of batches of that month are shown no more.

    Raises
    ------
    ArchiveError
        when that is not in the past, when a batch of then is still open, or when nothing can be written.
    """
    if before > clock.now().date().replace(day=1):
        raise ArchiveError("Only months that are over can be archived.")
    for name in months():
        found = MONTH.search(name)
        if found is None:
            continue
        year, month = int(found[1]), int(found[2])
        ends = date(year + month // 12, month % 12 + 1, 1)
        if ends <= before:
            yield _take_out(date(year, month, 1), ends, folder)


def left_behind(before: date) -> int:
    """How many readings of before a day lie in no month's own table, and stay where they are."""
    with connection.cursor() as cursor:
        cursor.execute(OTHERS, [datetime(before.year, before.month, before.day, tzinfo=UTC)])
        (many,) = cursor.fetchone() or (0,)
    return int(many)


def _take_out(month: date, ends: date, folder: Path) -> Archived:
    table, path = f"devices_reading_{month:%Y_%m}", folder / f"readings-{month:%Y-%m}.csv.gz"
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute(OPEN, [datetime(ends.year, ends.month, 1, tzinfo=UTC)])
        if cursor.fetchone() != (0,):
            raise ArchiveError(f"A batch of {month:%B %Y} or before is still open; close it first.")
        cursor.execute(f"LOCK TABLE {table} IN ACCESS EXCLUSIVE MODE")
        try:
            digest = _write(table, path)
        except OSError as error:
            raise ArchiveError(f"{path} cannot be written: {error.strerror}.") from None
        cursor.execute("SELECT devices_take_month_out(%s)", [month])
        (readings,) = cursor.fetchone() or (0,)
    return Archived(month, int(readings), path, digest)


def _write(table: str, path: Path) -> str:
    """All rows of a month as CSV; returns the file's SHA-256."""
    rows = f"COPY (SELECT id, device_id, at, celsius FROM {table} ORDER BY id) TO STDOUT (FORMAT csv)"  # noqa: S608
    part = path.with_suffix(".part")
    with part.open("wb") as file:
        with gzip.GzipFile(fileobj=file, mode="wb", mtime=0) as out, connection.cursor() as cursor:
            out.write(f"{COLUMNS}\n".encode())
            with cursor.copy(rows) as copied:
                for block in copied:
                    out.write(bytes(block))
        file.flush()
        os.fsync(file.fileno())
    part.rename(path)
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()
