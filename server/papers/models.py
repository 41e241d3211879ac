"""Tables of what is printed."""

from __future__ import annotations

import uuid

from common import clock
from django.conf import settings
from django.db import models
from kitchen.models import Kitchen


class Paper(models.Model):
    """Something to print: what was asked and by whom, and the PDF once a worker has set it.

    `asked` is what its maker is called with, `pages` how many are laid out so far. `refused` says why there
    is none, `refused_status` as HTTP has it. It is forgotten the night after.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="papers")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    kind = models.CharField(max_length=40)
    asked = models.JSONField(default=dict)
    name = models.CharField(max_length=200)
    made_at = models.DateTimeField(default=clock.now)
    done_at = models.DateTimeField(null=True, blank=True)
    pages = models.PositiveIntegerField(default=0)
    refused = models.CharField(max_length=500, blank=True)
    refused_kind = models.CharField(max_length=60, blank=True)
    refused_status = models.PositiveSmallIntegerField(default=0)
    content = models.BinaryField(null=True, blank=True)

    class Meta:
        """Found by whoever asked for them."""

        indexes = (models.Index(fields=["kitchen", "user", "done_at"], name="papers_asked"),)

    def __str__(self) -> str:
        return self.name
