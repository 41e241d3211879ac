"""Having an archive made or brought in by a worker, and seeing how far it is."""

from __future__ import annotations

import logging
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime, timedelta
from pathlib import Path
from uuid import UUID

from common import clock
from common.decoding import decoded
from common.refusals import Conflict, Refusal
from django.conf import settings
from django.db import InterfaceError, OperationalError, connection, transaction
from django.http import Http404
from kitchen import beginning
from kitchen.access import Actor, Role, action
from kitchen.models import AuditEntry
from people.models import User
from procrastinate.contrib.django import app

from archive.models import ArchiveRun
from archive.progress import Report
from archive.reading import read
from archive.schemas import ArchiveOut
from archive.tables import ArchiveError
from archive.writing import count_rows, write

log = logging.getLogger("oldspoon.archive")
KEPT = timedelta(days=2)
"""So long a file can be fetched, or be sent on."""
LOST = timedelta(hours=2)
"""Who makes one that takes longer has died."""
STOPPED = timedelta(hours=1)
"""What is sent and has not moved for so long gives way to another one."""
MOST_AT_ONCE = 3
BROKEN = (
    "Something went wrong with it, and nothing was changed. Whoever runs this machine finds why in its log."
)
NOTHING_CAME = "Nothing came of it within two hours: whoever worked on it is gone. Try it once more."
DAMAGED = "This part did not arrive whole."
ALL_AT_ONCE = "Three archives of yours are on their way. Wait until one is done."


@action("archive.make", Role.CHEF)
def make(actor: Actor) -> ArchiveRun:
    """Have the archive of a kitchen made; asked for again while it is made, it is the same one."""
    going = ArchiveRun.objects.filter(
        kitchen=actor.kitchen, incoming=False, done_at=None, made_at__gt=clock.now() - LOST
    ).first()
    if going is not None:
        return going
    made = ArchiveRun.objects.create(
        kitchen=actor.kitchen, user=actor.user, of_rows=count_rows(actor.kitchen), size=0
    )
    _defer(made)
    return made


def expect(user: User, size: int) -> ArchiveRun:
    """An archive of so many bytes is going to be sent.

    Raises
    ------
    Refusal
        when too many of this person's are on their way, or they made too many kitchens.
    """
    with transaction.atomic():
        beginning.must_be_few(user)
        mine = ArchiveRun.objects.filter(user=user, incoming=True, done_at=None)
        # Of those that stopped on their way the room is given to this one.
        stopped = mine.filter(begun_at=None, moved_at__lt=clock.now() - STOPPED)
        paths = [run.path for run in stopped]
        stopped.delete()
        if mine.count() >= MOST_AT_ONCE:
            raise Refusal(429, ALL_AT_ONCE, retry_s=60)
        made = ArchiveRun.objects.create(user=user, incoming=True, size=size)
    for path in paths:
        path.unlink(missing_ok=True)
    return made


def take(user: User, run_id: UUID, at: int, content: str) -> ArchiveRun:
    """Take in a part of an archive; one that came already is not taken twice. The last begins the work.

    Raises
    ------
    Http404, Conflict, Refusal
        when this person sends no such archive, the part is not the next one, or is damaged.
    """
    data = decoded(content, DAMAGED)
    with transaction.atomic():
        run = _mine(user, run_id, lock=True)
        if at + len(data) <= run.came:
            return run
        if at != run.came or run.begun_at is not None or at + len(data) > run.size:
            raise Conflict(f"That is not the next part: {run.came} of {run.size} bytes came so far.")
        run.path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        with run.path.open("r+b" if at else "wb") as file:
            # What a part left that never ended is written over.
            file.truncate(at)
            file.seek(at)
            file.write(data)
        run.came, run.moved_at = at + len(data), clock.now()
        run.save(update_fields=["came", "moved_at"])
        if run.came == run.size:
            _defer(run)
    return run


def _defer(run: ArchiveRun) -> None:
    # By its name: the task calls back.
    app.configure_task("archive.carry").defer(run_id=str(run.pk))


def carry(run_id: str) -> None:
    """Make an archive, or bring one in; done twice it is done once."""
    run = ArchiveRun.objects.select_related("kitchen", "user").filter(pk=run_id, done_at=None).first()
    if run is None:
        return
    ArchiveRun.objects.filter(pk=run.pk).update(begun_at=clock.now())
    try:
        with reported(run) as report:
            (_bring_in if run.incoming else _write)(run, report)
    except (OperationalError, InterfaceError):
        # The database went away: it is done again.
        raise
    except (ArchiveError, Refusal) as error:
        run.refused = str(error)[:500]
    except Exception:  # whoever waits for it gets a sentence
        log.exception("archive %s cannot be carried", run.pk)
        run.refused = BROKEN
    if run.done_at is None:
        _done(run)
    if run.incoming:
        run.path.unlink(missing_ok=True)


def _done(run: ArchiveRun) -> None:
    run.done_at = clock.now()
    run.save(update_fields=["done_at", "refused", "size", "kitchen"])


def _write(run: ArchiveRun, report: Report) -> None:
    if run.kitchen is None:
        raise ArchiveError("This kitchen is there no more.")
    run.path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
    half = run.path.with_suffix(".half")
    with half.open("wb") as file:
        write(run.kitchen.slug, file, report)
    half.replace(run.path)
    run.size = run.path.stat().st_size


def _bring_in(run: ArchiveRun, report: Report) -> None:
    with run.path.open("rb") as file, transaction.atomic():
        beginning.must_be_few(run.user)
        run.kitchen = read(file, run.user.username, report=report)
        AuditEntry.objects.create(
            kitchen=run.kitchen, user=run.user, action=beginning.BROUGHT_IN, subject=str(run)
        )
        # With it or not at all: should this process die now, it is not brought in twice.
        _done(run)


@contextmanager
def reported(run: ArchiveRun) -> Iterator[Report]:
    """Writes down how far a run is, by a connection of its own: what the run itself writes is seen only at
    its end."""
    aside = connection.copy()

    def report(part: str, rows: int) -> None:
        with aside.cursor() as cursor:
            cursor.execute(
                "UPDATE archive_archiverun SET part = %s, rows = %s WHERE id = %s", [part, rows, run.pk]
            )

    try:
        yield report
    finally:
        aside.close()


def of_kitchen(actor: Actor) -> list[ArchiveOut]:
    """The archives that were made of a kitchen, the newest first."""
    actor.must(Role.CHEF)
    rows = ArchiveRun.objects.filter(kitchen=actor.kitchen, incoming=False).select_related("user")
    return [shown(run) for run in rows[:5]]


def of_person(user: User) -> list[ArchiveOut]:
    """The archives that somebody brings in, the newest first."""
    rows = ArchiveRun.objects.filter(user=user, incoming=True).select_related("user", "kitchen")
    return [shown(run) for run in rows[:5]]


def file_of(actor: Actor, run_id: UUID) -> Path:
    """The file of an archive that was made.

    Raises
    ------
    Http404
        when there is none, or it is not done.
    """
    actor.must(Role.CHEF)
    run = ArchiveRun.objects.filter(pk=run_id, kitchen=actor.kitchen, incoming=False).first()
    if run is None or run.done_at is None or not run.path.is_file():
        raise Http404
    return run.path


def _mine(user: User, run_id: UUID, *, lock: bool = False) -> ArchiveRun:
    rows = ArchiveRun.objects.select_for_update(no_key=True) if lock else ArchiveRun.objects.all()
    found = rows.filter(pk=run_id, user=user, incoming=True).first()
    if found is None:
        raise Http404
    return found


def shown(run: ArchiveRun) -> ArchiveOut:
    """An archive as a page shows it."""
    is_lost = run.done_at is None and run.begun_at is not None and run.begun_at < clock.now() - LOST
    return ArchiveOut(
        id=run.pk,
        made_at=run.made_at,
        done_at=run.made_at + LOST if is_lost else run.done_at,
        by=run.user.shown(),
        size=run.size,
        came=run.came,
        part=run.part,
        rows=run.rows,
        of_rows=run.of_rows,
        refused=NOTHING_CAME if is_lost else run.refused,
        became=run.kitchen.slug if run.incoming and run.kitchen else None,
    )


def forget(now: datetime) -> int:
    """Delete archives of some days ago, and files that none speaks of; how many."""
    old = ArchiveRun.objects.filter(made_at__lt=now - KEPT)
    paths = [run.path for run in old]
    old.delete()
    folder, before = Path(settings.ARCHIVES), (now - KEPT).timestamp()
    files = folder.iterdir() if folder.is_dir() else ()
    stray = [path for path in files if path.stat().st_mtime < before]
    for path in {*paths, *stray}:
        path.unlink(missing_ok=True)
    return len(paths)
