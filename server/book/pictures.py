"""Photographs of recipes and labels: kept without EXIF, read by a worker, and stored with a formula."""

from __future__ import annotations

import logging
from datetime import datetime, timedelta
from uuid import UUID

import custard
from common import clock, images
from common.decoding import decoded
from common.fair_limiter import in_turn
from common.refusals import Refusal
from django.db import InterfaceError, OperationalError
from django.http import Http404
from kitchen.access import Actor, Role, action
from procrastinate.contrib.django import app

from book import ocr
from book.models import Formula, PictureStep, RecipePicture
from book.schemas import PictureOut, PictureReading

log = logging.getLogger("oldspoon.book")
MOST_WAITING = 5
"""So many pictures of one person are read at once."""
LOST = timedelta(minutes=10)
"""A picture that takes longer is not waited for."""
KEPT = timedelta(days=1)
"""A picture that no formula keeps is deleted after this time."""
NO_TEXT = (
    "No words were found in this picture. Take it again from above, in good light, with the text filling it."
)
TOO_LONG = "Reading this picture took too long. Photograph a part of the page."
NOT_INSTALLED = "Pictures cannot be read here: tesseract is not installed."
DAMAGED = "This picture did not arrive whole. Choose it again."
BROKEN = "This picture could not be read. Paste the text instead."


def reading() -> PictureReading:
    """Whether this machine reads pictures, and in which languages."""
    known = ocr.languages()
    return PictureReading(
        languages=[ocr.LANGUAGES[one] for one in known], install=[] if known else list(ocr.PACKAGES)
    )


def add(actor: Actor, content: str) -> RecipePicture:
    """Take in a photograph, and have a worker read it.

    Raises
    ------
    Refusal
        when it is no picture, is too large, or too many of this person's are waiting, or nothing here reads.
    """
    actor.must(Role.COOK)
    if not ocr.languages():
        raise Refusal(503, NOT_INSTALLED, kind="no-tesseract")
    mine = RecipePicture.objects.filter(kitchen=actor.kitchen, user=actor.user)
    if mine.filter(read_at=None, made_at__gt=clock.now() - LOST).count() >= MOST_WAITING:
        raise Refusal(429, "Your last pictures are still being read. Try again in a moment.", retry_s=5)
    return _add(actor, *_upright(actor, decoded(content, DAMAGED)))


@in_turn
def _upright(actor: Actor, data: bytes) -> tuple[bytes, int, int]:
    return images.upright(data)


@action("picture.add", Role.COOK)
def _add(actor: Actor, image: bytes, width: int, height: int) -> RecipePicture:
    made = RecipePicture.objects.create(
        kitchen=actor.kitchen, user=actor.user, image=image, width=width, height=height
    )
    # By its name: the task calls back.
    app.configure_task("book.read_picture").defer(picture_id=str(made.pk))
    return made


def keep(actor: Actor, picture_id: UUID, formula: Formula) -> None:
    """Store a picture with a formula, in the action that writes the formula.

    Raises
    ------
    Refusal
        when it is not a picture of this person, or another formula has it.
    """
    changed = RecipePicture.objects.filter(
        pk=picture_id, kitchen=actor.kitchen, user=actor.user, formula=None
    ).update(formula=formula)
    if not changed:
        gone = "This picture is no longer here, or belongs to another formula. Photograph it again."
        raise Refusal(422, gone, fields=[("picture", gone)])


def of(actor: Actor, picture_id: UUID) -> RecipePicture:
    """A picture of this kitchen's book, or one that this person has just taken; its image is fetched later.

    Raises
    ------
    Http404
        when there is none.
    """
    found = RecipePicture.objects.filter(kitchen=actor.kitchen, pk=picture_id).defer("image").first()
    if found is None or (found.formula_id is None and found.user_id != actor.user.pk):
        raise Http404
    return found


def shown(picture: RecipePicture) -> PictureOut:
    """A picture without its image, as it stands."""
    return PictureOut(
        id=picture.pk,
        step=PictureStep(picture.step),
        width=picture.width,
        height=picture.height,
        text=picture.text if picture.step == PictureStep.READ else None,
        doubtful=picture.doubtful,
        refused=picture.refused,
    )


def read(picture_id: str) -> None:
    """Read the text of a picture, by a worker; one that was read stays as it is.

    It ends with a text, or with a sentence that says why there is none.
    """
    kept = RecipePicture.objects.filter(pk=picture_id, read_at=None)
    picture = kept.first()
    if picture is None:
        return

    def report(step: PictureStep) -> None:
        kept.update(step=step)

    try:
        words, turn = ocr.words_in(bytes(picture.image), report)
        found = custard.reading.text_of(words)
    except (OperationalError, InterfaceError):
        # The database went away: nothing is wrong with the picture, and it is read again.
        raise
    except TimeoutError:
        _refuse(picture, TOO_LONG)
    except Exception:  # whoever waits for it gets a sentence
        log.exception("picture %s cannot be read", picture.pk)
        _refuse(picture, BROKEN)
    else:
        if not found.text:
            _refuse(picture, NO_TEXT)
            return
        image, width, height = images.turned(bytes(picture.image), turn)
        kept.update(
            image=image,
            width=width,
            height=height,
            text=found.text,
            doubtful=list(found.doubtful),
            step=PictureStep.READ,
            read_at=clock.now(),
        )


def _refuse(picture: RecipePicture, why: str) -> None:
    RecipePicture.objects.filter(pk=picture.pk).update(
        step=PictureStep.REFUSED, refused=why, read_at=clock.now()
    )


def forget(now: datetime) -> int:
    """Delete the pictures of yesterday that no formula keeps; how many."""
    return RecipePicture.objects.filter(formula=None, made_at__lt=now - KEPT).delete()[0]
