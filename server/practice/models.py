"""Practice: exercises a chef made, who is to do which, attempts as seed and acts, and assessment sheets.

Nothing here is a batch: attempts are in no log, teach no hob and touch no stock.
"""

from __future__ import annotations

import uuid

from book.models import Formula
from common import clock
from django.conf import settings
from django.db import models
from kitchen.models import Kitchen
from records.triggers import append_only


class MadeExercise(models.Model):
    """An exercise of this kitchen's: a formula of its Book as it was then, on a hidden hob."""

    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="exercises")
    formula = models.ForeignKey(Formula, on_delete=models.CASCADE, related_name="exercises")
    name = models.CharField(max_length=80)
    tell = models.CharField(max_length=500, blank=True)
    spec = models.JSONField()
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(default=clock.now)
    taken_out_at = models.DateTimeField(null=True)

    class Meta:
        """By name."""

        ordering = ("name", "id")

    def __str__(self) -> str:
        return self.name


class SetExercise(models.Model):
    """An exercise that a chef set for somebody: one of ours by its key, or one of the kitchen's."""

    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="exercises_set")
    key = models.CharField(max_length=40, blank=True)
    made = models.ForeignKey(MadeExercise, on_delete=models.CASCADE, null=True, related_name="set")
    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="exercises_set"
    )
    set_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    note = models.CharField(max_length=500, blank=True)
    set_at = models.DateTimeField(default=clock.now)
    taken_back_at = models.DateTimeField(null=True)

    class Meta:
        """The latest first."""

        ordering = ("-set_at", "-id")

    def __str__(self) -> str:
        return f"{self.key or self.made} for {self.person}"


class Attempt(models.Model):
    """One attempt: its seed and its acts say everything; the rest is what they have come to so far.

    `spec` is the exercise as it was, `conditions` the kitchen's then. `acts` counts the messages that came,
    `until_s` is how far they go. `debrief` is what was said at the end, kept as it was said, and
    said again where it was kept by a program that said other things (`debriefs`).
    """

    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="attempts")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="attempts")
    client_id = models.UUIDField(default=uuid.uuid4)
    key = models.CharField(max_length=40, blank=True)
    made = models.ForeignKey(MadeExercise, on_delete=models.SET_NULL, null=True, related_name="attempts")
    name = models.CharField(max_length=200)
    spec = models.JSONField()
    conditions = models.JSONField()
    seed = models.BigIntegerField()
    begun_at = models.DateTimeField(default=clock.now)
    again_of = models.ForeignKey("self", on_delete=models.SET_NULL, null=True, related_name="again")
    again_s = models.FloatField(null=True)
    acts = models.PositiveIntegerField(default=0)
    until_s = models.FloatField(default=0)
    ended = models.BooleanField(default=False)
    points = models.PositiveSmallIntegerField(null=True)
    passed = models.BooleanField(null=True)
    signs = models.JSONField(default=list)
    debrief = models.JSONField(null=True)

    class Meta:
        """The latest first; sent twice it is one."""

        ordering = ("-begun_at", "-id")
        constraints = (models.UniqueConstraint(fields=["person", "client_id"], name="attempt_once"),)
        indexes = (models.Index(fields=["kitchen", "person", "-begun_at"]),)

    def __str__(self) -> str:
        return f"{self.name}, {self.person}"

    @property
    def counts(self) -> bool:
        """Whether it is passed as a whole run, from its beginning."""
        return bool(self.passed) and self.again_s is None


class Acts(models.Model):
    """What was done between two moments of an attempt; by their numbers in order, and each once."""

    attempt = models.ForeignKey(Attempt, on_delete=models.CASCADE, related_name="messages")
    number = models.PositiveIntegerField()
    until_s = models.FloatField()
    rows = models.JSONField()

    class Meta:
        """In order."""

        ordering = ("number",)
        constraints = (models.UniqueConstraint(fields=["attempt", "number"], name="acts_in_order_once"),)
        triggers = (append_only(),)
        verbose_name_plural = "acts"

    def __str__(self) -> str:
        return f"{self.number} of {self.attempt_id}"


class Sheet(models.Model):
    """An assessment: who was looked at over what, and what a chef marked of it.

    `marks` is by criterion; a batch or an attempt may stand behind it, or neither.
    """

    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="sheets")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="sheets")
    assessor = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    batch = models.ForeignKey("stove.Batch", on_delete=models.SET_NULL, null=True, related_name="+")
    attempt = models.ForeignKey(Attempt, on_delete=models.SET_NULL, null=True, related_name="sheets")
    over = models.CharField(max_length=200)
    marks = models.JSONField(default=dict)
    note = models.CharField(max_length=500, blank=True)
    at = models.DateTimeField(default=clock.now)
    revision = models.PositiveIntegerField(default=1)

    class Meta:
        """The latest first."""

        ordering = ("-at", "-id")

    def __str__(self) -> str:
        return f"{self.person} over {self.over}"
