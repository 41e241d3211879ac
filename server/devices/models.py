"""Devices of a kitchen, and what a scale last said."""

from django.db import models
from kitchen.models import Kitchen


class Device(models.Model):
    """A scale; known by the hash of a token that was shown once."""

    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="devices")
    name = models.CharField(max_length=80)
    token_hash = models.CharField(max_length=64, unique=True)
    created_at = models.DateTimeField(auto_now_add=True)
    revoked_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        """By name."""

        ordering = ("name", "id")

    def __str__(self) -> str:
        return self.name


class Weight(models.Model):
    """What a scale shows [g]. Its id is made by the device, so that a weight sent twice counts once."""

    id = models.UUIDField(primary_key=True)
    device = models.ForeignKey(Device, on_delete=models.CASCADE, related_name="weights")
    at = models.DateTimeField()
    grams = models.FloatField()
    steady = models.BooleanField(default=True)

    class Meta:
        """Newest first."""

        ordering = ("-at",)
        indexes = (models.Index(fields=["device", "-at"]),)
