"""Photographs of batches: a row says what and when, the picture itself lies in a file."""

from __future__ import annotations

from pathlib import Path

from common import clock
from common.words import WordField
from custard.vocabulary import StageName
from django.conf import settings
from django.db import models


class Photo(models.Model):
    """A photograph taken at a stage of a batch. Its id is made where it was taken, so it arrives only once.

    The picture is a JPEG without EXIF, upright, in a file of the data folder; `sha256` is of its bytes.
    `at` is when it was taken. One that was removed is kept until the next night but one, so that it can be
    put back.
    """

    id = models.UUIDField(primary_key=True)
    kitchen = models.ForeignKey("kitchen.Kitchen", on_delete=models.CASCADE, related_name="+")
    batch = models.ForeignKey("stove.Batch", on_delete=models.CASCADE, related_name="photos")
    stage = WordField(StageName, max_length=10)
    at = models.DateTimeField()
    note = models.CharField(max_length=500, blank=True)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    size = models.PositiveIntegerField()
    sha256 = models.CharField(max_length=64)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    added_at = models.DateTimeField(default=clock.now)
    removed_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        """In the order in which they were taken."""

        ordering = ("at", "id")
        indexes = (
            models.Index(fields=["batch", "at"], name="photos_of_a_batch"),
            models.Index(fields=["kitchen"], include=["size"], name="photos_of_a_kitchen"),
        )

    def __str__(self) -> str:
        return f"photograph of {self.at:%Y-%m-%d %H:%M}"

    @property
    def path(self) -> Path:
        """Where its picture lies."""
        return folder() / str(self.id)[:2] / f"{self.id}.jpg"


def folder() -> Path:
    """Where all pictures lie."""
    return Path(settings.FILES) / "photos"
