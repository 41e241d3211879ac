"""Views of the log that somebody kept under a name."""

from __future__ import annotations

from common import clock
from django.conf import settings
from django.db import models


class LogView(models.Model):
    """What somebody looks for in the log, kept under a name; `asked` as the log's address has it."""

    kitchen = models.ForeignKey("kitchen.Kitchen", on_delete=models.CASCADE, related_name="+")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    name = models.CharField(max_length=80)
    asked = models.JSONField(default=dict)
    made_at = models.DateTimeField(default=clock.now)

    class Meta:
        """By name; each person's own, once a name."""

        ordering = ("name", "id")
        constraints = (models.UniqueConstraint(fields=["kitchen", "user", "name"], name="one_view_a_name"),)

    def __str__(self) -> str:
        return self.name
