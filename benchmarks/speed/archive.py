"""An archive of a kitchen with a million readings: how fast it is written and read, in how much memory."""

from __future__ import annotations

import os
import resource
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from speed.assess import SERVER

FEW, MANY = 10_000, 1_000_000
FILL = """
INSERT INTO devices_reading (device_id, at, celsius)
SELECT (SELECT min(id) FROM devices_device WHERE kind = 'probe'),
       timestamptz '2020-01-01' + second * interval '1 s', 40 + second %% 50 / 2.0
FROM generate_series(%s, %s) second
"""


def fill(since: int, until: int) -> None:
    """So many readings of one probe, past the triggers."""
    import django  # noqa: PLC0415

    django.setup()
    from django.db import connection, transaction  # noqa: PLC0415

    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute("ALTER TABLE devices_reading DISABLE TRIGGER USER")
        cursor.execute(FILL, [since, until])
        cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
        cursor.execute("ALTER TABLE devices_reading ENABLE TRIGGER USER")


def write(path: str) -> None:
    """Write the archive; in a process of its own, whose memory is its own."""
    import django  # noqa: PLC0415

    django.setup()
    from archive.writing import write  # noqa: PLC0415

    began = time.perf_counter()
    with Path(path).open("wb") as out:
        rows = write("tidemill-house", out)["readings"].rows
    _said("written", rows, time.perf_counter() - began)


def read(path: str) -> None:
    """Read it again, as a kitchen beside it."""
    import django  # noqa: PLC0415

    django.setup()
    from archive.reading import read  # noqa: PLC0415
    from devices.models import Reading  # noqa: PLC0415

    began = time.perf_counter()
    with Path(path).open("rb") as file:
        kitchen = read(file, "pastry")
    took = time.perf_counter() - began
    _said("read", Reading.objects.filter(device__kitchen=kitchen).count(), took)


def _said(what: str, rows: int, took: float) -> None:
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    print(
        f"  {rows:>9} readings {what:7} in {took:6.1f} s: {rows / took:>7.0f} a second, {peak:.0f} MB at most"
    )


def main() -> None:
    """A few readings and many, written and read, each in a process of its own."""
    environment = {**os.environ, "DJANGO_SETTINGS_MODULE": "speed.settings"}

    def run(*words: str) -> None:
        subprocess.run([sys.executable, *words], cwd=SERVER, env=environment, check=True)

    run("manage.py", "prepare", "--demo", "--quiet")
    before = 0
    for many in (FEW, MANY):
        run("-m", "speed.archive", "fill", str(before + 1), str(many))
        before = many
        with tempfile.TemporaryDirectory() as folder:
            path = str(Path(folder) / "kitchen.zip")
            run("-m", "speed.archive", "write", path)
            print(f"  {Path(path).stat().st_size / 1e6:.1f} MB", flush=True)
            run("-m", "speed.archive", "read", path)


if __name__ == "__main__":
    match sys.argv[1:]:
        case ["fill", since, until]:
            fill(int(since), int(until))
        case ["write", path]:
            write(path)
        case ["read", path]:
            read(path)
        case _:
            main()
