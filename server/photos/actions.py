"""Adding, naming and removing photographs."""

from __future__ import annotations

import hashlib
from datetime import datetime, timedelta
from uuid import UUID

from common import clock, images
from common.decoding import decoded
from common.events import notify
from common.fair_limiter import in_turn
from common.refusals import Conflict, Refusal
from django.db import IntegrityError, connection, transaction
from kitchen.access import Actor, Role, action
from stove import mark_checks
from stove import reads as stove

from photos import files, reads
from photos.models import Photo
from photos.schemas import NewPhoto

DAMAGED = "This picture did not arrive whole. Choose it again."
KEPT = timedelta(days=1)
"""So long a photograph that was removed can be put back, and a file without a row is left alone."""


def add(actor: Actor, batch_id: int, new: NewPhoto) -> Photo:
    """Keep a photograph with a batch, open or closed. Sent again with the same id it changes nothing.

    Raises
    ------
    Http404
        when this kitchen has no such batch.
    Conflict
        when the id is that of another batch's photograph.
    Refusal
        when it is no picture, was taken at a time that cannot be, or the kitchen keeps no more.
    """
    actor.must(Role.COOK)
    known = Photo.objects.filter(pk=new.id).first()
    if known is not None:
        if known.batch_id != batch_id or known.kitchen_id != actor.kitchen.pk:
            raise Conflict("That photograph belongs to another batch.")
        return known
    mark_checks.time_must_be_right(stove.line(actor, batch_id), new.at)
    return _add(actor, batch_id, new, *_upright(actor, decoded(new.content, DAMAGED)))


@in_turn
def _upright(actor: Actor, data: bytes) -> tuple[bytes, int, int]:
    return images.upright(data)


@action("photo.add", Role.COOK)
def _add(actor: Actor, batch_id: int, new: NewPhoto, picture: bytes, width: int, height: int) -> Photo:
    _must_fit(actor, len(picture))
    made = Photo(
        id=new.id,
        kitchen=actor.kitchen,
        batch_id=batch_id,
        stage=new.stage,
        at=new.at,
        note=new.note,
        width=width,
        height=height,
        size=len(picture),
        sha256=hashlib.sha256(picture).hexdigest(),
        by=actor.user,
    )
    try:
        with transaction.atomic():
            made.save(force_insert=True)
    except IntegrityError:
        raise Conflict("That photograph was sent already.") from None
    # Before the row is there for others: a row without its picture is never seen.
    files.write(made, picture)
    _announce(made)
    return made


def _announce(photo: Photo) -> None:
    """Call the screens that show its batch."""
    notify(photo.kitchen_id, {"batch": photo.batch_id})


def _must_fit(actor: Actor, size: int) -> None:
    """Refuse what does not fit; two that come at once are looked at one after the other.

    What was removed is kept for a day, and may take as much room again.
    """
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_xact_lock(hashtext('photos'), %s)", [actor.kitchen.pk])
    most = actor.kitchen.photos_mb
    shown, removed = reads.sizes_of(actor.kitchen.pk)
    if shown + size > most * reads.MB:
        raise Refusal(
            409,
            f"This kitchen keeps {most} MB of photographs, and that is full. Remove some, or ask a chef to "
            "allow more (Kitchen, Rules).",
            kind="photos-full",
        )
    if shown + removed + size > 2 * most * reads.MB:
        raise Refusal(
            409,
            "So many photographs were removed today that there is no room for another: they are kept for a "
            "day, to be put back.",
            kind="photos-full",
        )


@action("photo.note", Role.COOK)
def note(actor: Actor, photo_id: UUID, text: str) -> Photo:
    """Write what is to be seen on a photograph."""
    found = reads.mine(actor, photo_id)
    found.note = text
    found.save(update_fields=["note"])
    _announce(found)
    return found


@action("photo.remove", Role.COOK)
def remove(actor: Actor, photo_id: UUID) -> Photo:
    """Remove a photograph: whoever took it, or a chef. It can be put back for a day."""
    found = reads.mine(actor, photo_id)
    found.removed_at = clock.now()
    found.save(update_fields=["removed_at"])
    _announce(found)
    return found


@action("photo.put_back", Role.COOK)
def put_back(actor: Actor, photo_id: UUID) -> Photo:
    """Put a photograph back that was removed.

    Raises
    ------
    Refusal
        when the kitchen keeps no more by now.
    """
    found = reads.mine(actor, photo_id, removed=True)
    if found.removed_at is not None:
        _must_fit(actor, found.size)
        found.removed_at = None
        found.save(update_fields=["removed_at"])
        _announce(found)
    return found


def forget(now: datetime) -> int:
    """Delete photographs removed more than a day ago, and files that no row speaks of; how many."""
    with transaction.atomic():
        # Locked, so that none is put back meanwhile.
        gone = list(Photo.objects.select_for_update(no_key=True).filter(removed_at__lt=now - KEPT))
        Photo.objects.filter(pk__in=[photo.pk for photo in gone]).delete()
    files.delete([photo.path for photo in gone])
    stray = list(files.without_rows((now - KEPT).timestamp()))
    files.delete(stray)
    return len(gone) + len(stray)
