"""Formulas. A formula is a name in the book; what it is made of is in its versions, which never change."""

from __future__ import annotations

import uuid
from typing import Self

from common import clock
from django.conf import settings
from django.db import models
from kitchen.models import Kitchen


class Formula(models.Model):
    """One entry of the book; `schools` is how this kitchen makes it, by question.

    `proposed_by` is the cook whose proposal it is, until a chef takes it in. `recipe` is the text that it was
    read from, as it was pasted.
    """

    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="formulas")
    name = models.CharField(max_length=200)
    family = models.CharField(max_length=40)
    latest = models.PositiveIntegerField(default=0)
    archived_at = models.DateTimeField(null=True, blank=True)
    schools = models.JSONField(default=dict, blank=True)
    recipe = models.TextField(default="", blank=True)
    proposed_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, blank=True, related_name="+"
    )

    class Meta:
        """By name."""

        ordering = ("name", "id")
        indexes = (models.Index(fields=["kitchen", "name"]),)

    def __str__(self) -> str:
        return f"{self.name} v{self.latest}"


class PictureStep(models.TextChoices):
    """What becomes of a photograph."""

    WAITING = "waiting"
    TURNING = "turning"
    READING = "reading"
    READ = "read"
    REFUSED = "refused"


class RecipePicture(models.Model):
    """A photograph of a recipe or a label, and the text that a worker reads in it.

    `image` is a JPEG without EXIF, turned upright once it is read. `step` says what a worker does with it,
    `refused` why it could not be read; `doubtful` are the lines that are hard to read. One that no formula
    keeps is deleted the night after.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="recipe_pictures")
    formula = models.ForeignKey(
        Formula, on_delete=models.CASCADE, null=True, blank=True, related_name="pictures"
    )
    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField(default=clock.now)
    image = models.BinaryField()
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    step = models.CharField(max_length=20, choices=PictureStep.choices, default=PictureStep.WAITING)
    read_at = models.DateTimeField(null=True, blank=True)
    refused = models.CharField(max_length=500, blank=True)
    text = models.TextField(blank=True)
    doubtful = models.JSONField(default=list, blank=True)

    class Meta:
        """The oldest first."""

        ordering = ("made_at", "id")

    def __str__(self) -> str:
        return f"picture of {self.made_at:%Y-%m-%d %H:%M}"


class FormulaVersion(models.Model):
    """What a formula was made of at one time, as Old Spoon JSON; written once.

    `content_sum` is the sum of it by which what was computed of it is kept.
    """

    formula = models.ForeignKey(Formula, on_delete=models.CASCADE, related_name="versions")
    number = models.PositiveIntegerField()
    content = models.JSONField()
    content_sum = models.CharField(max_length=64, db_index=True)
    note = models.CharField(max_length=500, blank=True)
    created_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    created_at = models.DateTimeField(default=clock.now)

    class Meta:
        """One of each number."""

        ordering = ("-number",)
        constraints = (models.UniqueConstraint(fields=["formula", "number"], name="one_of_each_version"),)

    def __str__(self) -> str:
        return f"{self.content['name']} v{self.number}"

    @classmethod
    def latest_of(cls, kitchen_id: int, *, archived: bool = False) -> models.QuerySet[Self]:
        """The latest version of every formula in a kitchen's book, or of those taken out of it; by name."""
        return (
            cls.objects.filter(
                formula__kitchen=kitchen_id,
                formula__archived_at__isnull=not archived,
                number=models.F("formula__latest"),
            )
            .select_related("formula__proposed_by")
            .order_by("formula__name", "formula__id")
        )


class Reminder(models.Model):
    """What to do otherwise next time a formula is made, until somebody ticks it off."""

    formula = models.ForeignKey(Formula, on_delete=models.CASCADE, related_name="reminders")
    say = models.CharField(max_length=500)
    batch = models.PositiveIntegerField(null=True, blank=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    at = models.DateTimeField(default=clock.now)
    done_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        """The newest first; the same is not said twice."""

        ordering = ("-at", "-id")
        constraints = (
            models.UniqueConstraint(
                fields=["formula", "say"], condition=models.Q(done_at=None), name="reminded_once"
            ),
        )

    def __str__(self) -> str:
        return f"{self.formula.name}: {self.say}"


class KeptLine(models.Model):
    """What the Book's line of a mix was computed to be, known by what it was computed from.

    `content_sum` is that of the mix, `under` that of conditions, parameters and the line's own shape: when
    one of them changes nothing has to be thrown away, it is just never asked for again. `word` is what it is
    hot, by which the Book is searched.
    """

    content_sum = models.CharField(max_length=64)
    under = models.CharField(max_length=64)
    word = models.CharField(max_length=20)
    document = models.JSONField()
    computed_at = models.DateTimeField(default=clock.now)

    class Meta:
        """One of each."""

        constraints = (models.UniqueConstraint(fields=["content_sum", "under"], name="one_kept_line"),)

    def __str__(self) -> str:
        return f"{self.content_sum[:8]} under {self.under[:8]}"
