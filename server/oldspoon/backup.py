"""A whole kitchen in one file; `restoring` brings it back.

The file is a tar of three: `manifest.json`, `database.dump` in PostgreSQL's custom format, and `files.tar`,
what was uploaded. The manifest comes first and says what the others must be: their SHA-256, the migrations
the tables have been through, and of every table how many rows it has and a sum over them. All of it is read
in one snapshot, so that a kitchen may go on working meanwhile.
"""

from __future__ import annotations

import hashlib
import io
import json
import os
import re
import shutil
import subprocess
import tarfile
import tempfile
from collections.abc import Iterator
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import IO, Any

from common import clock
from common.events import address
from django.conf import settings
from django.db import connection, transaction

FORMAT, VERSION = "old-spoon/backup", 1
KEPT = {"before-migration": 5, "nightly": 14}
"""Of those made by themselves so many are kept, the newest."""
SUM = "coalesce(sum(('x' || left(md5(one::text), 15))::bit(60)::bigint), 0)::text"
MOST_MANIFEST = 10_000_000
PASSING = ("procrastinate_workers", "django_session")
"""Tables of the moment: they are in the file, and no one's sum."""


class BackupError(Exception):
    """Why it cannot be; its text is a sentence for the person who asked."""


@dataclass(frozen=True)
class Manifest:
    """What a backup says of itself: `tables` are pairs of rows and sum by name."""

    format: str
    version: int
    made_at: str
    postgres: int
    migrations: list[str]
    tables: dict[str, list[Any]]
    parts: dict[str, str]


def write(out: IO[bytes]) -> Manifest:
    """Write a backup of the kitchen to a file that need not be seekable.

    Raises
    ------
    BackupError
        when PostgreSQL's programs are missing or fail.
    """
    with tempfile.TemporaryDirectory() as folder:
        dump, files = Path(folder) / "database.dump", Path(folder) / "files.tar"
        with transaction.atomic(), connection.cursor() as cursor:
            cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ READ ONLY")
            cursor.execute("SELECT pg_export_snapshot()")
            (snapshot,) = cursor.fetchone() or ("",)
            tables, applied = tables_of(), _applied()
            run("pg_dump", "--format=custom", f"--snapshot={snapshot}", "--schema=public", f"--file={dump}")
        with tarfile.open(files, "w") as uploaded:
            if settings.FILES.exists():
                uploaded.add(settings.FILES, arcname=".")
        manifest = Manifest(
            format=FORMAT,
            version=VERSION,
            made_at=clock.now().isoformat(),
            postgres=major(),
            migrations=applied,
            tables=tables,
            parts={path.name: sum_of(path) for path in (dump, files)},
        )
        with tarfile.open(fileobj=out, mode="w|") as tar:
            text = json.dumps(asdict(manifest), indent=1).encode()
            about = tarfile.TarInfo("manifest.json")
            about.size, about.mode = len(text), 0o600
            tar.addfile(about, io.BytesIO(text))
            for path in (dump, files):
                tar.add(path, arcname=path.name)
    return manifest


def keep(why: str) -> Path:
    """A backup among those made by themselves; the oldest of its kind beyond `KEPT` go."""
    folder = settings.BACKUPS
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    name = connection.settings_dict["NAME"]
    path: Path = folder / f"{name}-{why}-{clock.now():%Y-%m-%d-%H%M%S}.backup"
    part = path.with_suffix(".part")
    try:
        with part.open("wb") as out:
            part.chmod(0o600)
            write(out)
        part.rename(path)
    finally:
        part.unlink(missing_ok=True)
    for old in sorted(folder.glob(f"{name}-{why}-*.backup"))[: -KEPT[why]]:
        old.unlink()
    return path


def tables_of() -> dict[str, list[Any]]:
    """Of every table how many rows it has, and a sum over them in no order."""
    found: dict[str, list[Any]] = {}
    with connection.cursor() as cursor:
        cursor.execute("SELECT tablename FROM pg_tables WHERE schemaname = 'public' ORDER BY 1")
        for (name,) in cursor.fetchall():
            if name in PASSING:
                continue
            table = connection.ops.quote_name(name)
            cursor.execute(f"SELECT count(*), {SUM} FROM {table} one")  # noqa: S608 names of ours
            found[name] = list(cursor.fetchone() or ())
    return found


def _applied() -> list[str]:
    with connection.cursor() as cursor:
        cursor.execute("SELECT app || '.' || name FROM django_migrations ORDER BY id")
        return [name for (name,) in cursor.fetchall()]


def major() -> int:
    """The version of PostgreSQL that serves us, as 15."""
    return connection.pg_version // 10_000  # type: ignore[attr-defined, no-any-return]


def sum_of(path: Path) -> str:
    """The SHA-256 of a file, in hexadecimal."""
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def run(program: str, *words: str, reach: bool = True, most_bytes: int | None = None) -> None:
    """Run one of PostgreSQL's programs, on our database if `reach`; it writes no file larger
    than `most_bytes`."""
    where = address()
    environment = {
        **os.environ,
        "PGHOST": str(where["host"]),
        "PGPORT": str(where["port"]),
        "PGUSER": str(where["user"]),
        "PGPASSWORD": str(where["password"]),
    }
    database = [f"--dbname={where['dbname']}"] if reach else []
    done = subprocess.run(
        [*_limited(most_bytes), _program(program), *words, *database],
        env=environment,
        capture_output=True,
        text=True,
        check=False,
    )
    if done.returncode:
        raise BackupError(f"{program} failed: {done.stderr.strip()[-600:]}")


def _limited(most_bytes: int | None) -> list[str]:
    """What a program is run under for which a file has a largest size."""
    limit = shutil.which("prlimit")
    return [] if most_bytes is None or limit is None else [limit, f"--fsize={most_bytes}", "--"]


def _program(name: str) -> str:
    """PostgreSQL's own, of the server's version or newer; Debian puts them beside the server."""
    for folder in _newest(Path("/usr/lib/postgresql").glob("*/bin")):
        if (folder / name).exists():
            return str(folder / name)
    found = shutil.which(name)
    if found is None:
        raise BackupError(f"PostgreSQL's {name} is missing; Debian's package postgresql-client has it.")
    return found


def _newest(folders: Iterator[Path]) -> list[Path]:
    return sorted(folders, key=lambda path: -int(re.sub(r"\D", "", path.parts[4]) or 0))
