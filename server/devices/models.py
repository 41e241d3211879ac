"""Devices of a kitchen, and what they said."""

from common import clock
from django.db import models
from kitchen.models import Kitchen


class DeviceKind(models.TextChoices):
    """What a device measures."""

    SCALE = "scale"
    PROBE = "probe"


class Device(models.Model):
    """A scale or a probe; known by the hash of a token that was shown once."""

    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="devices")
    name = models.CharField(max_length=80)
    kind = models.CharField(max_length=10, choices=DeviceKind.choices, default=DeviceKind.SCALE)
    token_hash = models.CharField(max_length=64, unique=True)
    created_at = models.DateTimeField(default=clock.now)
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


class Reading(models.Model):
    """What a probe read [degC], and when by its own clock: a probe reads once at a time."""

    device = models.ForeignKey(Device, on_delete=models.CASCADE, related_name="readings")
    at = models.DateTimeField()
    celsius = models.FloatField()

    class Meta:
        """A reading sent twice counts once; the constraint is also how they are found."""

        constraints = (models.UniqueConstraint(fields=["device", "at"], name="reading_once"),)
