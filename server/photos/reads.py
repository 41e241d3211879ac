"""Questions about photographs."""

from __future__ import annotations

from uuid import UUID

from django.core.exceptions import PermissionDenied
from django.db.models import Q, Sum
from django.http import Http404
from kitchen.access import Actor, Role
from stove import reads as stove

from photos.models import Photo
from photos.schemas import PhotoOut, PhotosOut

MB = 1_000_000


def sizes_of(kitchen_id: int) -> tuple[int, int]:
    """What the photographs of a kitchen take, and those that were removed and can be put back [bytes]."""
    shown = Sum("size", filter=Q(removed_at=None), default=0)
    found = Photo.objects.filter(kitchen=kitchen_id).aggregate(shown=shown, all=Sum("size", default=0))
    return found["shown"], found["all"] - found["shown"]


def of_batch(actor: Actor, batch_id: int) -> PhotosOut:
    """The photographs of a batch.

    Raises
    ------
    Http404
        when this kitchen has no such batch.
    """
    stove.line(actor, batch_id)
    rows = Photo.objects.filter(batch=batch_id, removed_at=None).select_related("by")
    most = actor.kitchen.photos_mb
    return PhotosOut(
        photos=[_shown(actor, row) for row in rows],
        left_mb=max(0.0, most - sizes_of(actor.kitchen.pk)[0] / MB),
        most_mb=most,
    )


def of(actor: Actor, photo_id: UUID) -> Photo:
    """A photograph of this kitchen.

    Raises
    ------
    Http404
        when there is none.
    """
    found = Photo.objects.filter(kitchen=actor.kitchen, pk=photo_id, removed_at=None).first()
    if found is None:
        raise Http404
    return found


def mine(actor: Actor, photo_id: UUID, *, removed: bool = False) -> Photo:
    """A photograph that this person may change: they took it, or are a chef. With `removed` also one that
    was removed.

    Raises
    ------
    Http404, PermissionDenied
        when there is none, or somebody else took it.
    """
    rows = Photo.objects.select_for_update(of=("self",), no_key=True).filter(
        kitchen=actor.kitchen, pk=photo_id
    )
    found = (rows if removed else rows.filter(removed_at=None)).first()
    if found is None:
        raise Http404
    if not _may(actor, found):
        raise PermissionDenied("Whoever took a photograph changes it, or a chef.")
    return found


def _may(actor: Actor, photo: Photo) -> bool:
    return actor.role == Role.CHEF or (actor.role == Role.COOK and photo.by_id == actor.user.pk)


def _shown(actor: Actor, row: Photo) -> PhotoOut:
    return PhotoOut(
        id=row.pk,
        stage=row.stage,
        at=row.at,
        note=row.note,
        width=row.width,
        height=row.height,
        by=stove.shown(row.by),
        mine=_may(actor, row),
    )
