"""Routes of photographs of recipes and labels."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from kitchen.access import enter
from ninja import Router, Status

from book import pictures
from book.schemas import NewPicture, PictureOut, PictureReading

router = Router()


@router.get("/k/{kitchen}/pictures", response=PictureReading)
def picture_reading(request: HttpRequest, kitchen: str) -> PictureReading:
    """Whether this machine reads pictures, and what to install where it does not."""
    enter(request, kitchen)
    return pictures.reading()


@router.post("/k/{kitchen}/pictures", response={202: PictureOut})
def add_picture(request: HttpRequest, kitchen: str, body: NewPicture) -> Status[PictureOut]:
    """Take in a photograph; a worker reads it."""
    return Status(202, pictures.shown(pictures.add(enter(request, kitchen), body.content)))


@router.get("/k/{kitchen}/pictures/{picture_id}", response=PictureOut)
def read_picture(request: HttpRequest, kitchen: str, picture_id: UUID) -> PictureOut:
    """How far a photograph is read, and its text."""
    return pictures.shown(pictures.of(enter(request, kitchen), picture_id))


@router.get("/k/{kitchen}/pictures/{picture_id}/image", response={200: None})
def show_picture(request: HttpRequest, kitchen: str, picture_id: UUID) -> HttpResponse:
    """The photograph itself."""
    picture = pictures.of(enter(request, kitchen), picture_id)
    answer = HttpResponse(bytes(picture.image), content_type="image/jpeg")
    # Once it is read it stands upright and changes no more.
    answer["Cache-Control"] = "no-store" if picture.read_at is None else "private, max-age=86400, immutable"
    return answer
