"""Looking at an archive as a whole, before anything of it is written."""

from __future__ import annotations

import hashlib
import io
import json
import zipfile
from collections.abc import Iterator
from typing import Any

from archive.tables import FORMAT, TABLES, VERSION, ArchiveError, Row, photo_name

MOST_MANIFEST = 1_000_000
MOST_BYTES = 50_000_000_000
MOST_LINE = 20_000_000
MOST_PHOTO = 5_000_000
PIECE = 1 << 20
PHOTOS, WITH_PHOTOS = "photos", 2
ABOUT = "manifest.json", "schemas.json"


def check(archive: zipfile.ZipFile) -> int:
    """The version of an archive that is whole.

    Raises
    ------
    ArchiveError
        when it is none, is newer, lacks a part or has one too many, or a part is not as its manifest says.
    """
    names = archive.namelist()
    version, members = _manifest(archive)
    tables = ["kitchen", "people", *(table.name for table in TABLES if table.since <= version)]
    wanted = {*ABOUT[: 1 if version < WITH_PHOTOS else 2], *(f"{name}.ndjson" for name in tables)}
    others = set(names) - wanted
    if not wanted <= set(names) or len(names) != len(set(names)) or set(members) != set(tables):
        raise ArchiveError("It lacks a part, or holds one that is none of it.")
    if sum(one.file_size for one in archive.infolist()) > MOST_BYTES:
        raise ArchiveError(f"It is larger than {MOST_BYTES // 10**9} GB.")
    for name in tables:
        digest, count = hashlib.sha256(), 0
        with archive.open(f"{name}.ndjson") as member:
            while piece := member.read(PIECE):
                digest.update(piece)
                count += piece.count(b"\n")
        if members[name] != {"rows": count, "sha256": digest.hexdigest()}:
            raise ArchiveError(f"{name}.ndjson is not what its manifest says: the archive is damaged.")
    sums = {}
    if version >= WITH_PHOTOS:
        archive.read(ABOUT[1])
        sums = {photo_name(row["id"]): row["sha256"] for row in lines(archive, PHOTOS)}
    if others != set(sums):
        raise ArchiveError("It lacks a part, or holds one that is none of it.")
    for name, sum_ in sums.items():
        if archive.getinfo(name).file_size > MOST_PHOTO or _sum(archive, name) != sum_:
            raise ArchiveError(f"{name} is not the photograph that was kept: the archive is damaged.")
    return version


def _manifest(archive: zipfile.ZipFile) -> tuple[int, dict[str, Any]]:
    """The version of an archive, and what it says of its parts."""
    about = ABOUT[0]
    if about not in archive.namelist() or archive.getinfo(about).file_size > MOST_MANIFEST:
        raise ArchiveError("This is no archive of a kitchen.")
    try:
        manifest = json.loads(archive.read(about))
        version, members, foreign = manifest["version"], manifest["members"], manifest["format"] != FORMAT
    except (ValueError, KeyError, TypeError):
        raise ArchiveError("Its manifest cannot be read.") from None
    if foreign:
        raise ArchiveError("This is no archive of a kitchen.")
    if type(version) is not int or not 1 <= version <= VERSION:
        raise ArchiveError(f"It is of version {version}; this program reads versions 1 to {VERSION}.")
    return version, members


def _sum(archive: zipfile.ZipFile, name: str) -> str:
    return hashlib.sha256(archive.read(name)).hexdigest()


def opened(archive: zipfile.ZipFile, name: str) -> io.BufferedReader:
    """A part, to be read by lines: the buffer cuts them ten times as fast as a member of a zip does."""
    return io.BufferedReader(archive.open(f"{name}.ndjson"), PIECE)  # type: ignore[arg-type]


def lines(archive: zipfile.ZipFile, name: str) -> Iterator[Row]:
    """The rows of a part.

    Raises
    ------
    ArchiveError
        at a line that is no JSON.
    """
    with opened(archive, name) as member:
        while line := member.readline(MOST_LINE):
            try:
                yield json.loads(line)
            except ValueError:
                raise ArchiveError(f"{name}.ndjson has a line that is no JSON.") from None
