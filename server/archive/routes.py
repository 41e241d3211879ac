"""Routes of archives: a kitchen carried away, and one brought in."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator
from pathlib import Path
from typing import cast
from uuid import UUID

from django.http import HttpRequest, StreamingHttpResponse
from kitchen.access import enter
from ninja import Router, Status
from people import sessions
from people.models import User

from archive import runs
from archive.schemas import ArchiveOut, ArchivePart, NewArchive

router = Router()
AT_ONCE = 256 * 1024


@router.get("/k/{kitchen}/archives", response=list[ArchiveOut])
def list_archives(request: HttpRequest, kitchen: str) -> list[ArchiveOut]:
    """The archives that were made of a kitchen."""
    return runs.of_kitchen(enter(request, kitchen, by_password=True))


@router.post("/k/{kitchen}/archives", response={202: ArchiveOut})
def make_archive(request: HttpRequest, kitchen: str) -> Status[ArchiveOut]:
    """Have an archive of all of a kitchen made by a worker."""
    return Status(202, runs.shown(runs.make(enter(request, kitchen, by_password=True))))


@router.get("/k/{kitchen}/archives/{archive_id}/file", response={200: None})
def fetch_archive(request: HttpRequest, kitchen: str, archive_id: UUID) -> StreamingHttpResponse:
    """The file of an archive that was made."""
    path = runs.file_of(enter(request, kitchen, by_password=True), archive_id)
    answer = StreamingHttpResponse(_parts(path), content_type="application/zip")
    answer["Content-Length"] = path.stat().st_size
    answer["Content-Disposition"] = f'attachment; filename="{kitchen}.zip"'
    return answer


async def _parts(path: Path) -> AsyncIterator[bytes]:
    with path.open("rb") as file:
        while part := await asyncio.to_thread(file.read, AT_ONCE):
            yield part


@router.get("/archives", response=list[ArchiveOut])
def list_incoming(request: HttpRequest) -> list[ArchiveOut]:
    """The archives that one brings in."""
    return runs.of_person(_person(request))


@router.post("/archives", response={201: ArchiveOut})
def send_archive(request: HttpRequest, body: NewArchive) -> Status[ArchiveOut]:
    """Say that an archive is going to be sent, in parts."""
    return Status(201, runs.shown(runs.expect(_person(request), body.size)))


@router.put("/archives/{run_id}/parts", response=ArchiveOut)
def send_archive_part(request: HttpRequest, run_id: UUID, body: ArchivePart) -> ArchiveOut:
    """Send the next part of an archive; with the last one a worker brings it in."""
    return runs.shown(runs.take(_person(request), run_id, body.at, body.content))


def _person(request: HttpRequest) -> User:
    sessions.must_be_by_password(request)
    return cast(User, request.user)
