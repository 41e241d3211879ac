"""Batches. Each keeps its own copy of what was weighed and planned; what happens to it is a list of marks."""

from book.models import FormulaVersion
from custard import STAGES
from devices.models import Device
from django.conf import settings
from django.db import models
from kitchen.models import Hob, Kitchen, Pan

SIEVE = ("clean", "a few bits", "many bits")
LINE = ("holds", "closes", "runs")


class Verdict(models.TextChoices):
    """How a batch ended."""

    GOOD = "good"
    USABLE = "usable"
    DISCARDED = "discarded"


class Kind(models.TextChoices):
    """What a mark says."""

    DONE = "done"
    TICK = "tick"
    CHECK = "check"
    SPOON = "spoon"
    SIEVE = "sieve"
    OFF_HEAT = "off-heat"
    INTO_ICE = "into-ice"
    MOMENT = "moment"
    POUR = "pour"
    SIGN = "sign"
    BUBBLES = "bubbles"
    HANDS_OFF = "hands-off"
    STIRRING = "stirring"
    SUGAR_ON = "sugar-on"
    WRONG = "wrong"
    ALARM = "alarm"
    SILENCE = "silence"
    NUDGE = "nudge"


class Batch(models.Model):
    """One sauce being made, or made.

    `content` is the formula as weighed (Old Spoon JSON); `plan` is what was computed for it when it was
    taken to the stove, so that a later change of the model does not rewrite what the cook was told.
    `pace` is how many times as fast its time runs: 1, unless it is a rehearsal. `promised_w` is what its
    hob was believed to give when it was chosen [W]; `after` how it went beside its plan, in words.
    """

    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="batches")
    number = models.PositiveIntegerField()
    version = models.ForeignKey(FormulaVersion, on_delete=models.PROTECT, related_name="batches")
    content = models.JSONField()
    plan = models.JSONField()
    started_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    started_at = models.DateTimeField()
    pace = models.FloatField(default=1)
    closed_at = models.DateTimeField(null=True, blank=True)
    verdict = models.CharField(max_length=12, choices=Verdict.choices, blank=True)
    verdict_note = models.CharField(max_length=500, blank=True)
    hob = models.ForeignKey(Hob, on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    pan = models.ForeignKey(Pan, on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    promised_w = models.FloatField(null=True, blank=True)
    after = models.JSONField(default=list, blank=True)

    class Meta:
        """Numbered within the kitchen, newest first."""

        ordering = ("-started_at", "-id")
        constraints = (models.UniqueConstraint(fields=["kitchen", "number"], name="batch_number"),)
        indexes = (models.Index(fields=["kitchen", "-started_at"]),)

    def __str__(self) -> str:
        return f"batch {self.number}, {self.content['name']}"


class Mark(models.Model):
    """Something that happened to a batch. Its id is made where it happened, so it arrives only once."""

    id = models.UUIDField(primary_key=True)
    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, related_name="marks")
    stage = models.CharField(max_length=10, choices=[(s, s) for s in STAGES])
    kind = models.CharField(max_length=10, choices=Kind.choices)
    at = models.DateTimeField()
    temperature_c = models.FloatField(null=True, blank=True)
    line = models.PositiveSmallIntegerField(null=True, blank=True)
    what = models.CharField(max_length=20, blank=True)
    grams = models.FloatField(null=True, blank=True)
    coat = models.CharField(max_length=20, blank=True)
    finger_line = models.CharField(max_length=10, blank=True)
    sieve = models.CharField(max_length=20, blank=True)
    note = models.CharField(max_length=500, blank=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    withdrawn_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        """In the order in which they happened."""

        ordering = ("at", "id")
        indexes = (models.Index(fields=["batch", "at"]),)

    def __str__(self) -> str:
        return f"{self.batch}: {self.stage} {self.kind}"


class ProbeUse(models.Model):
    """That a probe lies in a batch, since when and until when; what it reads in between is the batch's."""

    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, related_name="probes")
    device = models.ForeignKey(Device, on_delete=models.CASCADE, related_name="uses")
    since = models.DateTimeField()
    until = models.DateTimeField(null=True, blank=True)

    class Meta:
        """In order; a probe is in one batch at a time, and a batch has one probe at a time."""

        ordering = ("since", "id")
        constraints = (
            models.UniqueConstraint(
                fields=["device"], condition=models.Q(until=None), name="probe_in_one_batch"
            ),
            models.UniqueConstraint(
                fields=["batch"], condition=models.Q(until=None), name="batch_has_one_probe"
            ),
        )
