"""Archives on their way: made for somebody to carry away, or brought in by somebody."""

from __future__ import annotations

import uuid
from pathlib import Path

from common import clock
from django.conf import settings
from django.db import models
from kitchen.models import Kitchen


class ArchiveRun(models.Model):
    """An archive that a worker makes, or brings in, and how far it is.

    `kitchen` is whose archive it is; of one that is brought in, the kitchen that it became. `came` counts
    the bytes of a file that is sent in parts, of `size` in all, and `moved_at` is when the last of them
    came. `part` is which table is at hand, `rows` how many rows are done, of about `of_rows`. `refused`
    says why nothing came of it. Its file is kept for a while.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, null=True, related_name="archives")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    incoming = models.BooleanField(default=False)
    made_at = models.DateTimeField(default=clock.now)
    moved_at = models.DateTimeField(default=clock.now)
    begun_at = models.DateTimeField(null=True, blank=True)
    done_at = models.DateTimeField(null=True, blank=True)
    size = models.PositiveBigIntegerField(default=0)
    came = models.PositiveBigIntegerField(default=0)
    part = models.CharField(max_length=40, blank=True)
    rows = models.PositiveBigIntegerField(default=0)
    of_rows = models.PositiveBigIntegerField(default=0)
    refused = models.CharField(max_length=500, blank=True)

    class Meta:
        """The newest first."""

        ordering = ("-made_at",)
        indexes = (models.Index(fields=["kitchen", "-made_at"], name="archives_of_a_kitchen"),)

    def __str__(self) -> str:
        return f"archive of {self.made_at:%Y-%m-%d %H:%M}"

    @property
    def path(self) -> Path:
        """Where its file lies."""
        return Path(settings.ARCHIVES) / f"{self.id}.zip"
