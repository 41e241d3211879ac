"""Readings by the million: streamed by the database itself, past the objects that every other row becomes."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from io import BufferedReader
from typing import Any

from devices.models import Device
from django.db import connection
from kitchen.models import Kitchen

from archive.progress import Progress
from archive.tables import ArchiveError, Ids

NAME = "readings"
AT_ONCE = 1 << 20
OUT = """
COPY (
    SELECT '{"device_id":' || reading.device_id
        || ',"at":"' || to_char(reading.at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US')
        || '+00:00","celsius":' || reading.celsius || '}'
    FROM devices_reading reading JOIN devices_device device ON device.id = reading.device_id
    WHERE device.kitchen_id = %s ORDER BY reading.id
) TO STDOUT
"""
IN = "COPY devices_reading (device_id, at, celsius) FROM STDIN"
DEVICE = re.compile(rb'\{"device_id":(\d{1,18}),')
BLOCK = re.compile(
    rb'(?:\{"device_id":\d{1,18}+,"at":"[0-9T:.+-]{10,40}+","celsius":-?\d{1,4}+(?:\.\d{1,20}+)?+\}\n)*+'
)
"""Readings as they are written here; any other spelling of them is read as JSON."""
TIME = re.compile(r"[0-9T:.+ Z-]{10,40}")


def lines_of(kitchen: Kitchen) -> Iterator[bytes]:
    """The readings of a kitchen, in pieces of some lines each; numbers to the last digit."""
    with connection.cursor() as cursor:
        cursor.execute("SET LOCAL extra_float_digits = 1")
        with cursor.copy(OUT, [kitchen.pk]) as copy:
            for piece in copy:
                yield bytes(piece)


def bring_in(member: BufferedReader, ids: Ids, progress: Progress, most_line: int) -> None:
    """Copy the readings of an archive into the table.

    Raises
    ------
    ArchiveError
        at a line that is no reading.
    """
    blocks = iter(lambda: member.read(AT_ONCE) + member.readline(most_line), b"")
    for rows in _ahead(_rows(block, ids) for block in blocks):
        with connection.cursor() as cursor, cursor.copy(IN) as copy:
            copy.write(rows)
        progress.add(NAME, rows.count(b"\n"))


def _ahead(made: Iterator[bytes]) -> Iterator[bytes]:
    """The same; the next is made while PostgreSQL is busy with the one before."""
    with ThreadPoolExecutor(1) as pool:
        coming = pool.submit(next, made, None)
        while (one := coming.result()) is not None:
            coming = pool.submit(next, made, None)
            yield one


def _rows(block: bytes, ids: Ids) -> bytes:
    """Whole lines of an archive, as PostgreSQL's COPY takes them."""
    if BLOCK.fullmatch(block) is None:
        return b"".join(_row(line, ids) for line in block.splitlines())
    for device in set(DEVICE.findall(block)):
        block = block.replace(b'{"device_id":%s,"at":"' % device, b"%d\t" % ids(Device, int(device)))
    return block.replace(b'","celsius":', b"\t").replace(b"}\n", b"\n")


def _row(line: bytes, ids: Ids) -> bytes:
    device, at, celsius = _read(line)
    return f"{ids(Device, device)}\t{at}\t{celsius!r}\n".encode()


def _read(line: bytes) -> tuple[int, str, float]:
    try:
        row: Any = json.loads(line)
    except ValueError:
        raise ArchiveError(f"{NAME}.ndjson has a line that is no JSON.") from None
    if not isinstance(row, dict) or set(row) != {"device_id", "at", "celsius"}:
        raise ArchiveError(f"{NAME}.ndjson has a row that is none of its table.")
    # What goes to the database as text must be nothing but what it is.
    if type(row["device_id"]) is not int or TIME.fullmatch(str(row["at"])) is None:
        raise ArchiveError(f"{NAME}.ndjson has a row that is no reading.")
    return row["device_id"], str(row["at"]), float(row["celsius"])
