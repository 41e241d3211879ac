"""Devices of a kitchen, and what they said."""

from common import clock
from common.words import WordField
from django.conf import settings
from django.db import models
from kitchen.models import Kitchen
from records.triggers import append_only_but_thinned, chained_by_device, kept_for

WRONG_CLOCK_MIN, LONG_MIN = 2, 180


class DeviceKind(models.TextChoices):
    """What a device measures; a screen measures nothing, it shows."""

    SCALE = "scale"
    PROBE = "probe"
    SCREEN = "screen"


class Device(models.Model):
    """A scale, a probe or a wall screen; known by the hash of a token that was shown once, to `token_by`.

    `used_at` is when its token was last good for something, to the minute; `clock_ahead_s` how far the newest
    time it sent was from ours [s], below zero when it was behind.
    """

    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="devices")
    name = models.CharField(max_length=80)
    kind = WordField(DeviceKind, max_length=10, default=DeviceKind.SCALE)
    token_hash = models.CharField(max_length=64, unique=True)
    token_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, blank=True, related_name="+"
    )
    created_at = models.DateTimeField(default=clock.now)
    revoked_at = models.DateTimeField(null=True, blank=True)
    rotated_at = models.DateTimeField(null=True, blank=True)
    used_at = models.DateTimeField(null=True, blank=True)
    clock_ahead_s = models.FloatField(default=0)

    class Meta:
        """By name."""

        ordering = ("name", "id")
        triggers = (kept_for("devices_reading", "device_id"),)

    def __str__(self) -> str:
        return self.name

    @property
    def reads_high_k(self) -> float:
        """How far it reads too high, as it was last checked [K]: so much is taken off what it reads."""
        found = next(iter(self.checks.all()), None)
        return 0.0 if found is None else found.reads_high_k

    def sends(self) -> str:
        """All that its token is good for."""
        return {
            DeviceKind.SCALE: "weights",
            DeviceKind.PROBE: "readings",
            DeviceKind.SCREEN: "nothing",
        }[DeviceKind(self.kind)]

    def clock(self) -> str:
        """A sentence when its clock is wrong, or what it sends comes late; else nothing."""
        minutes = round(abs(self.clock_ahead_s) / 60)
        if minutes < WRONG_CLOCK_MIN:
            return ""
        off = f"{minutes} min" if minutes < LONG_MIN else f"{minutes / 60:.0f} h"
        if self.clock_ahead_s > 0:
            return f"Its clock is {off} ahead of ours; what it sends is refused until that is set right."
        return f"Its newest time is {off} behind ours: its clock is wrong, or it sends late."


class ProbeCheck(models.Model):
    """What a probe read in ice and water and in boiling water [degC], and what that says of it.

    `boils_c` is where water boiled in its kitchen then, `reads_high_k` how far it reads too high where sauces
    set, `error_k` how sure that is.
    """

    device = models.ForeignKey(Device, on_delete=models.CASCADE, related_name="checks")
    at = models.DateTimeField(default=clock.now)
    ice_c = models.FloatField(null=True, blank=True)
    boil_c = models.FloatField(null=True, blank=True)
    boils_c = models.FloatField()
    reads_high_k = models.FloatField()
    error_k = models.FloatField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")

    class Meta:
        """The newest first."""

        ordering = ("-at", "-id")
        indexes = (models.Index(fields=["device", "-at"], name="checks_of_a_probe"),)

    def __str__(self) -> str:
        return f"{self.device}: {self.reads_high_k:+.1f} K"


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
    """What a probe read [degC], and when by its own clock: a probe reads once at a time.

    PostgreSQL keeps each month in a table of its own (`devices_reading_2026_12`); the worker makes those of
    the months to come, and `manage.py archive_readings` takes old ones out.
    """

    # Its index would double the constraint's, and its own constraint what the triggers look after.
    device = models.ForeignKey(
        Device, on_delete=models.CASCADE, related_name="readings", db_index=False, db_constraint=False
    )
    at = models.DateTimeField()
    celsius = models.FloatField()

    class Meta:
        """A reading sent twice counts once; the constraint is also how they are found."""

        constraints = (models.UniqueConstraint(fields=["device", "at"], name="reading_once"),)
        triggers = (append_only_but_thinned(), chained_by_device("reading"))
