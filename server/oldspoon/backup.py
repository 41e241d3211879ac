"""A whole kitchen in one file, and back.

The file is a tar of three: `manifest.json`, `database.dump` in PostgreSQL's custom format, and `files.tar`,
what was uploaded. The manifest comes first and says what the others must be: their SHA-256, the migrations
the tables have been through, and of every table how many rows it has and a sum over them. All of it is read
in one snapshot, so that a kitchen may go on working meanwhile.
"""

from __future__ import annotations

import contextlib
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
from django.db.migrations.loader import MigrationLoader

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
            tables, applied = _tables(), _applied()
            _run("pg_dump", "--format=custom", f"--snapshot={snapshot}", "--schema=public", f"--file={dump}")
        with tarfile.open(files, "w") as uploaded:
            if settings.FILES.exists():
                uploaded.add(settings.FILES, arcname=".")
        manifest = Manifest(
            format=FORMAT,
            version=VERSION,
            made_at=clock.now().isoformat(),
            postgres=_major(),
            migrations=applied,
            tables=tables,
            parts={path.name: _sum_of(path) for path in (dump, files)},
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


def read(saved: IO[bytes], *, replace: bool) -> tuple[Manifest, Path | None]:
    """Bring back what a backup holds, all or nothing; returns its manifest, and where what was before it is.

    Raises
    ------
    BackupError
        when the file is damaged or none of ours, when it comes from a newer Old Spoon or PostgreSQL, when
        there is a kitchen here already and it is not to be replaced.
    """
    with tempfile.TemporaryDirectory() as folder:
        manifest = _unpacked(saved, Path(folder))
        _must_be_known(manifest)
        before = None
        if _is_used():
            if not replace:
                raise BackupError(
                    "There is a kitchen here already. With --replace it is put in a backup of its own, and "
                    "what you bring takes its place."
                )
            before = keep("before-migration")
        _bring(Path(folder) / "database.dump")
        differing = [name for name, found in manifest.tables.items() if _tables().get(name) != found]
        if differing:
            raise BackupError(f"What came back is not what was kept, in {', '.join(differing)}.")
        _bring_files(Path(folder) / "files.tar")
    return manifest, before


def _unpacked(saved: IO[bytes], folder: Path) -> Manifest:
    """The parts of a backup in a folder, each proven to be what the manifest says."""
    damaged = BackupError("This file is damaged, or is no backup of Old Spoon. Nothing was changed.")
    manifest: Manifest | None = None
    found: set[str] = set()
    try:
        with tarfile.open(fileobj=saved, mode="r|") as tar:
            for part in tar:
                content = tar.extractfile(part)
                if content is None:
                    raise damaged
                if manifest is None:
                    manifest = Manifest(**json.loads(content.read(MOST_MANIFEST)))
                    if part.name != "manifest.json" or manifest.format != FORMAT:
                        raise damaged
                    if manifest.version > VERSION:
                        raise BackupError(
                            "This backup was made by a newer Old Spoon. Bring this one up to date."
                        )
                elif part.name in manifest.parts:
                    found.add(part.name)
                    with (folder / part.name).open("wb") as out:
                        shutil.copyfileobj(content, out)
    except (tarfile.TarError, TypeError, ValueError, EOFError):
        raise damaged from None
    if manifest is None or found != set(manifest.parts):
        raise damaged
    if any(_sum_of(folder / name) != sum_ for name, sum_ in manifest.parts.items()):
        raise damaged
    return manifest


def _must_be_known(manifest: Manifest) -> None:
    known = {
        f"{app}.{name}" for app, name in MigrationLoader(None, ignore_no_migrations=True).disk_migrations
    }
    if set(manifest.migrations) - known:
        raise BackupError("This backup was made by a newer Old Spoon. Bring this one up to date first.")
    if manifest.postgres > _major():
        raise BackupError(
            f"This backup was made with PostgreSQL {manifest.postgres}; here is only {_major()}."
        )


def _is_used() -> bool:
    with connection.cursor() as cursor:
        cursor.execute("SELECT to_regclass('kitchen_kitchen') IS NOT NULL")
        if cursor.fetchone() != (True,):
            return False
        cursor.execute("SELECT EXISTS (SELECT FROM kitchen_kitchen) OR EXISTS (SELECT FROM people_user)")
        return bool(cursor.fetchone() == (True,))


def _bring(dump: Path) -> None:
    """Put the dump in the place of all that is there, in one transaction."""
    with tempfile.NamedTemporaryFile("w", suffix=".sql") as script:
        made = _run(
            "pg_restore",
            "--no-owner",
            "--no-privileges",
            "--schema=public",
            "--file=-",
            str(dump),
            reach=False,
        )
        script.write("DROP OWNED BY CURRENT_USER CASCADE;\n")
        script.write(made)
        script.flush()
        connection.close()
        _run("psql", "-qX", "--single-transaction", "-v", "ON_ERROR_STOP=1", f"--file={script.name}")


def _bring_files(tar: Path) -> None:
    files = settings.FILES
    with tempfile.TemporaryDirectory(dir=_made(files.parent)) as folder:
        with tarfile.open(tar) as uploaded:
            _unpack(uploaded, Path(folder) / "files")
        shutil.rmtree(files, ignore_errors=True)
        with contextlib.suppress(FileNotFoundError):
            (Path(folder) / "files").rename(files)


def _unpack(tar: tarfile.TarFile, into: Path) -> None:
    """The plain files of a tar, each below `into` whatever it calls itself. (The standard library's own way
    of doing so came with Python 3.11.4, and Debian's is older.)"""
    for part in tar:
        path = (into / part.name).resolve()
        content = tar.extractfile(part)
        if content is not None and path.is_relative_to(into.resolve()):
            _made(path.parent)
            with path.open("wb") as out:
                shutil.copyfileobj(content, out)


def _made(folder: Path) -> Path:
    folder.mkdir(parents=True, exist_ok=True)
    return folder


def _tables() -> dict[str, list[Any]]:
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


def _major() -> int:
    return connection.pg_version // 10_000  # type: ignore[attr-defined, no-any-return]


def _sum_of(path: Path) -> str:
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def _run(program: str, *words: str, reach: bool = True) -> str:
    """Run one of PostgreSQL's programs on our database; returns what it printed."""
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
        [_program(program), *words, *database], env=environment, capture_output=True, text=True, check=False
    )
    if done.returncode:
        raise BackupError(f"{program} failed: {done.stderr.strip()[-600:]}")
    return done.stdout


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
