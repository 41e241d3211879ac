"""Routes of photographs of batches."""

from __future__ import annotations

from uuid import UUID

from django.http import Http404, HttpRequest, HttpResponse
from kitchen.access import enter
from ninja import Router, Status

from photos import actions, reads
from photos.schemas import NewPhoto, PhotoNote, PhotosOut

router = Router()


@router.get("/k/{kitchen}/batches/{batch_id}/photos", response=PhotosOut)
def list_photos(request: HttpRequest, kitchen: str, batch_id: int) -> PhotosOut:
    """The photographs of a batch."""
    return reads.of_batch(enter(request, kitchen), batch_id)


@router.post("/k/{kitchen}/batches/{batch_id}/photos", response={201: PhotosOut})
def add_photo(request: HttpRequest, kitchen: str, batch_id: int, body: NewPhoto) -> Status[PhotosOut]:
    """Keep a photograph with a batch."""
    actor = enter(request, kitchen)
    actions.add(actor, batch_id, body)
    return Status(201, reads.of_batch(actor, batch_id))


@router.get("/k/{kitchen}/photos/{photo_id}/image", response={200: None})
def show_photo(request: HttpRequest, kitchen: str, photo_id: UUID) -> HttpResponse:
    """The photograph itself."""
    path = reads.of(enter(request, kitchen), photo_id).path
    if not path.is_file():
        raise Http404
    answer = HttpResponse(path.read_bytes(), content_type="image/jpeg")
    answer["Cache-Control"] = "private, max-age=86400, immutable"
    return answer


@router.patch("/k/{kitchen}/photos/{photo_id}", response=PhotosOut)
def write_photo_note(request: HttpRequest, kitchen: str, photo_id: UUID, body: PhotoNote) -> PhotosOut:
    """Write what is to be seen on a photograph."""
    actor = enter(request, kitchen)
    return reads.of_batch(actor, actions.note(actor, photo_id, body.note).batch_id)


@router.delete("/k/{kitchen}/photos/{photo_id}", response=PhotosOut)
def remove_photo(request: HttpRequest, kitchen: str, photo_id: UUID) -> PhotosOut:
    """Remove a photograph; it can be put back for a day."""
    actor = enter(request, kitchen)
    return reads.of_batch(actor, actions.remove(actor, photo_id).batch_id)


@router.post("/k/{kitchen}/photos/{photo_id}/back", response=PhotosOut)
def put_photo_back(request: HttpRequest, kitchen: str, photo_id: UUID) -> PhotosOut:
    """Put a photograph back that was removed."""
    actor = enter(request, kitchen)
    return reads.of_batch(actor, actions.put_back(actor, photo_id).batch_id)
