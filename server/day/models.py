"""Days: what is wanted and when, with whose hands and what else, and the plan that came of it.

Everything somebody edits is a row of its own, so that two who edit at once change two things. A plan is a
document computed of them: it says of which revision, and is computed again when that is no more the day's.
"""

from __future__ import annotations

from common import clock
from common.words import WordField
from custard.vocabulary import Need
from django.conf import settings
from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models
from django.db.models import Q
from kitchen.models import Kitchen


class Templates(models.Manager["Day"]):
    """Days without a date that are there to begin others with."""

    def get_queryset(self) -> models.QuerySet[Day]:
        """Those that nobody threw away."""
        return super().get_queryset().filter(date=None, thrown_away_at=None)


class Day(models.Model):
    """A day of a kitchen, or a template: a day without a date, with a name.

    `revision` counts every change of what a plan is made of. `room` is what there is to work with besides
    hands: places by their names, ice and bowls. A template that was thrown away is kept for as long as that
    can be undone.
    """

    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="days")
    date = models.DateField(null=True, blank=True)
    name = models.CharField(max_length=80, blank=True)
    room = models.JSONField(default=dict)
    revision = models.PositiveIntegerField(default=1)
    created_at = models.DateTimeField(default=clock.now)
    thrown_away_at = models.DateTimeField(null=True, blank=True)

    objects = models.Manager()
    templates = Templates()

    class Meta:
        """The latest first; one a date, one template a name."""

        ordering = ("-date", "name", "id")
        constraints = (
            models.UniqueConstraint(
                fields=["kitchen", "date"], condition=Q(date__isnull=False), name="one_day_a_date"
            ),
            models.UniqueConstraint(
                fields=["kitchen", "name"],
                condition=Q(date=None, thrown_away_at=None),
                name="one_template_a_name",
            ),
        )

    def __str__(self) -> str:
        return f"the day {self.date}" if self.date else f"the template {self.name}"


class Edited(models.Model):
    """A row that people edit: whoever edits an old state of it is told."""

    revision = models.PositiveIntegerField(default=1)

    class Meta:
        """Not a table of its own."""

        abstract = True


class Hands(Edited):
    """A pair of hands of a day, and the spans in which they are there, as minutes of the day."""

    day = models.ForeignKey(Day, on_delete=models.CASCADE, related_name="hands")
    name = models.CharField(max_length=80)
    there = models.JSONField()

    class Meta:
        """In the order in which they were written down."""

        ordering = ("id",)
        verbose_name_plural = "hands"

    def __str__(self) -> str:
        return f"{self.name}, {self.day}"


class Want(Edited):
    """A dish with covers and a time, or a batch with a time; in minutes of the day.

    `each` is how much one takes, as it was written; "" for the formula as it stands. `batch` is the one that
    was taken to the stove for it.
    """

    day = models.ForeignKey(Day, on_delete=models.CASCADE, related_name="wants")
    name = models.CharField(max_length=80)
    formula = models.ForeignKey("book.Formula", on_delete=models.PROTECT, related_name="+")
    at = models.IntegerField()
    covers = models.FloatField(default=1, validators=[MinValueValidator(0.01), MaxValueValidator(10_000)])
    each = models.CharField(max_length=40, blank=True)
    batch = models.ForeignKey(
        "stove.Batch", on_delete=models.SET_NULL, null=True, blank=True, related_name="wanted_by"
    )

    class Meta:
        """By when."""

        ordering = ("at", "id")

    def __str__(self) -> str:
        return f"{self.name}, {self.day}"

    @property
    def stands(self) -> bool:
        """Whether the batch that was made for it is still what is to be served: not what was thrown away."""
        return self.batch is not None and self.batch.verdict != "discarded"


class Other(Edited):
    """Other work of a day: for how long, whether by hand, what it takes up, and until when."""

    day = models.ForeignKey(Day, on_delete=models.CASCADE, related_name="others")
    name = models.CharField(max_length=80)
    minutes = models.FloatField(validators=[MinValueValidator(1), MaxValueValidator(1440)])
    hands = models.BooleanField(default=True)
    needs = WordField(Need, max_length=10, blank=True)
    by = models.IntegerField(null=True, blank=True)

    class Meta:
        """By when."""

        ordering = ("by", "id")

    def __str__(self) -> str:
        return f"{self.name}, {self.day}"


class Pin(models.Model):
    """That somebody put a step of a job at a minute, and perhaps into somebody's hands."""

    day = models.ForeignKey(Day, on_delete=models.CASCADE, related_name="pins")
    job = models.CharField(max_length=40)
    step = models.CharField(max_length=20)
    start = models.IntegerField()
    hands = models.ForeignKey(Hands, on_delete=models.CASCADE, null=True, blank=True, related_name="+")

    class Meta:
        """One a step."""

        constraints = (models.UniqueConstraint(fields=["day", "job", "step"], name="one_pin_a_step"),)

    def __str__(self) -> str:
        return f"{self.job} {self.step}, {self.day}"


class StepDone(models.Model):
    """That a step began, and ended, where no mark of a batch tells it: other work, cups out, churning.

    `hands` are whose it was in when it began, by the plan; a batch's own steps keep here only that.
    """

    day = models.ForeignKey(Day, on_delete=models.CASCADE, related_name="done")
    job = models.CharField(max_length=40)
    step = models.CharField(max_length=20)
    began_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True, blank=True)
    hands = models.ForeignKey(Hands, on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)

    class Meta:
        """One a step."""

        constraints = (models.UniqueConstraint(fields=["day", "job", "step"], name="one_doing_a_step"),)

    def __str__(self) -> str:
        return f"{self.job} {self.step}, {self.day}"


class Plan(models.Model):
    """The plan of a day as it stands: of which revision, its steps, what it costs, how sure, why not.

    `state` is "first" while only the quick answer is there, "looking" while a worker looks for a better one,
    "done" when it has looked, "none" where no plan can be made at all. `document` holds the jobs as they were
    computed, where their steps are, and what comes out of tubs.
    """

    day = models.OneToOneField(Day, on_delete=models.CASCADE, primary_key=True, related_name="plan")
    revision = models.PositiveIntegerField()
    state = models.CharField(max_length=10)
    made_at = models.DateTimeField()
    document = models.JSONField(default=dict)
    late_min = models.PositiveIntegerField(default=0)
    gap = models.FloatField(default=1)
    proven = models.BooleanField(default=False)
    why = models.CharField(max_length=1000, blank=True)
    helps = models.JSONField(default=list)
    risks = models.JSONField(default=list)

    def __str__(self) -> str:
        return f"the plan of {self.day}"


class InHouse(models.Model):
    """How much of an ingredient is in the house, as somebody last said it."""

    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="in_house")
    ingredient = models.CharField(max_length=80)
    amount = models.CharField(max_length=40)
    grams = models.FloatField()
    at = models.DateTimeField(default=clock.now)

    class Meta:
        """One an ingredient."""

        constraints = (models.UniqueConstraint(fields=["kitchen", "ingredient"], name="in_the_house_once"),)
        verbose_name_plural = "in the house"

    def __str__(self) -> str:
        return f"{self.amount} of {self.ingredient}"


class Calendar(models.Model):
    """The address at which a kitchen's days can be subscribed to: known by the sum of its secret only."""

    kitchen = models.OneToOneField(Kitchen, on_delete=models.CASCADE, primary_key=True, related_name="+")
    secret_sum = models.CharField(max_length=64, unique=True)
    made_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, blank=True, related_name="+"
    )
    made_at = models.DateTimeField(default=clock.now)

    def __str__(self) -> str:
        return f"the calendar of {self.kitchen}"
