"""A kitchen back out of a backup, all or nothing, and proven."""

from __future__ import annotations

import contextlib
import json
import shutil
import tarfile
import tempfile
from pathlib import Path
from typing import IO, Any

import psycopg
from django.conf import settings
from django.db import DatabaseError, connection, transaction
from django.db.migrations.loader import MigrationLoader

from oldspoon.backup import (
    FORMAT,
    MOST_MANIFEST,
    VERSION,
    BackupError,
    Manifest,
    keep,
    major,
    run,
    sum_of,
    tables_of,
)
from oldspoon.dumped import load


def read(saved: IO[bytes], *, replace: bool) -> tuple[Manifest, Path | None]:
    """Bring back what a backup holds, all or nothing; returns its manifest, and where what was before it is.

    Raises
    ------
    BackupError
        when the file is damaged or no backup, when it comes from a newer Old Spoon or PostgreSQL, when
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
        _bring(Path(folder) / "database.dump", manifest)
        _bring_files(Path(folder) / "files.tar")
    return manifest, before


def _unpacked(saved: IO[bytes], folder: Path) -> Manifest:
    """The parts of a backup in a folder, each proven to be what the manifest says."""
    damaged = BackupError(f"This file is damaged, or is no backup of Old Spoon. {UNCHANGED}")
    manifest: Manifest | None = None
    found: set[str] = set()
    try:
        with tarfile.open(fileobj=saved, mode="r|") as tar:
            for part in tar:
                content = tar.extractfile(part) if _is_plain(part) else None
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
                    if not _is_whole(manifest):
                        raise damaged
                # Nothing but the two parts is ever written, whatever the file calls its parts.
                elif part.name not in PARTS or part.name in found:
                    raise damaged
                else:
                    found.add(part.name)
                    with (folder / part.name).open("wb") as out:
                        shutil.copyfileobj(content, out)
    except (tarfile.TarError, TypeError, ValueError, EOFError, RecursionError):
        raise damaged from None
    if manifest is None or found != PARTS:
        raise damaged
    if any(sum_of(folder / name) != sum_ for name, sum_ in manifest.parts.items()):
        raise damaged
    return manifest


PARTS = {"database.dump", "files.tar"}


def _is_plain(part: tarfile.TarInfo) -> bool:
    """Whether a part is a file as it stands there: no link, device or folder, and no sparse one, which can
    say in nine kilobytes that it has three gigabytes."""
    sparse = part.issparse() or any(key.startswith("GNU.sparse") for key in part.pax_headers)
    return part.type in (tarfile.REGTYPE, tarfile.AREGTYPE) and not sparse


def _is_whole(manifest: Manifest) -> bool:
    """Whether a manifest says of some tables and of both parts what they are."""
    # It was read from a file, and may be of any shape.
    tables: Any = manifest.tables
    parts: Any = manifest.parts
    if not isinstance(tables, dict) or not isinstance(parts, dict):
        return False
    rows = all(isinstance(one, list) and len(one) == 2 for one in tables.values())
    sums = all(isinstance(one, str) for one in parts.values())
    migrations: Any = manifest.migrations
    lists = isinstance(migrations, list) and all(isinstance(one, str) for one in migrations)
    known = lists and type(manifest.postgres) is int and type(manifest.made_at) is str
    return bool(tables) and rows and sums and known and set(parts) == PARTS


def _must_be_known(manifest: Manifest) -> None:
    there = MigrationLoader(None, ignore_no_migrations=True).disk_migrations
    replaced = {key for migration in there.values() for key in migration.replaces}
    known = {f"{app}.{name}" for app, name in (*there, *replaced)}
    if set(manifest.migrations) - known:
        raise BackupError("This backup was made by a newer Old Spoon. Bring this one up to date first.")
    if manifest.postgres > major():
        raise BackupError(
            f"This backup was made with PostgreSQL {manifest.postgres}; here is only {major()}."
        )


def _is_used() -> bool:
    with connection.cursor() as cursor:
        cursor.execute("SELECT to_regclass('kitchen_kitchen') IS NOT NULL")
        if cursor.fetchone() != (True,):
            return False
        cursor.execute("SELECT EXISTS (SELECT FROM kitchen_kitchen) OR EXISTS (SELECT FROM people_user)")
        return bool(cursor.fetchone() == (True,))


MOST_UNPACKED, MOST_TIMES = 1 << 30, 100
"""A dump becomes a script of so many bytes at most, and so many times its own size: no more is unpacked."""
ONCE = ["oldspoon.nightly"]
"""Jobs of the kitchen that was kept, which the one that came back does not do once more."""
UNCHANGED = "Nothing was changed."


def _bring(dump: Path, manifest: Manifest) -> None:
    """Put the dump in the place of all that is there, in one transaction that ends only if it is proven."""
    script = dump.with_suffix(".sql")
    ours = ("--no-owner", "--no-privileges", "--schema=public")
    most = MOST_UNPACKED + dump.stat().st_size * MOST_TIMES
    run("pg_restore", *ours, f"--file={script}", str(dump), reach=False, most_bytes=most)
    try:
        with transaction.atomic(), script.open("rb") as lines, connection.cursor() as cursor:
            cursor.execute("DROP OWNED BY CURRENT_USER CASCADE")
            load(lines, connection.connection)
            cursor.execute("SET search_path TO DEFAULT")
            came = tables_of()
            differing = [name for name, found in manifest.tables.items() if came.get(name) != found]
            if differing:
                raise BackupError(
                    f"What came back is not what was kept, in {', '.join(differing)}. {UNCHANGED}"
                )
            cursor.execute("DELETE FROM procrastinate_jobs WHERE task_name = ANY(%s)", [ONCE])
    except (psycopg.Error, DatabaseError, ValueError) as error:
        said = str(error).partition("\n")[0]
        raise BackupError(f"This backup cannot be brought back: {said}. {UNCHANGED}") from None
    finally:
        # What the script set for its session goes with it.
        connection.close()


def _bring_files(tar: Path) -> None:
    files = settings.FILES
    with tempfile.TemporaryDirectory(dir=_made(files.parent)) as folder:
        with tarfile.open(tar, "r:") as uploaded:
            _unpack(uploaded, Path(folder) / "files")
        shutil.rmtree(files, ignore_errors=True)
        with contextlib.suppress(FileNotFoundError):
            (Path(folder) / "files").rename(files)


def _unpack(tar: tarfile.TarFile, into: Path) -> None:
    """The plain files of a tar, each below `into` whatever it calls itself. (The standard library's own way
    of doing so came with Python 3.11.4, and Debian's is older.)"""
    for part in tar:
        path = (into / part.name).resolve()
        content = tar.extractfile(part) if _is_plain(part) else None
        if content is not None and path.is_relative_to(into.resolve()):
            _made(path.parent)
            with path.open("wb") as out:
                shutil.copyfileobj(content, out)


def _made(folder: Path) -> Path:
    folder.mkdir(parents=True, exist_ok=True)
    return folder
