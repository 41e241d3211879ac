"""Tubs, and everything that was ever done with what is in them."""

from common.words import WordField
from custard.vocabulary import Place
from django.conf import settings
from django.db import models
from django.db.models import Q
from records.triggers import Frozen, append_only, chained, chained_state


class Contents(models.TextChoices):
    """What is in a tub."""

    SAUCE = "sauce"
    CHURNED = "churned"
    WHITES = "whites"


class MovementKind(models.TextChoices):
    """What was done with a tub."""

    MADE = "made"
    USED = "used"
    SPLIT = "split"
    CHURNED = "churned"
    FROZEN = "frozen"
    OUT = "out"
    THAWED = "thawed"
    WARM = "warm"
    OPENED = "opened"
    THROWN = "thrown"
    COUNTED = "counted"
    FILM = "film"
    LABELLED = "labelled"
    UNDONE = "undone"
    MENDED = "mended"


LASTING = (
    MovementKind.MADE,
    MovementKind.SPLIT,
    MovementKind.CHURNED,
    MovementKind.UNDONE,
    MovementKind.MENDED,
)
"""What cannot be taken back here: another tub came of it, it was taken back already, or it is a remedy."""


class Tub(models.Model):
    """Something that is kept, from when it was made until none of it is left.

    `life` is how it keeps, as computed when it was put away (`custard.after.Life`); the columns from `place`
    on are what the movements that stand say of it, so that a long shelf is asked by columns alone. `left_g`
    is changed by the database alone, with every movement, and never below nothing. `part` numbers the tubs
    of a batch; `parent` is the tub it was split off, or churned from, and `begins` the state it then had.
    """

    kitchen = models.ForeignKey("kitchen.Kitchen", on_delete=models.CASCADE, related_name="tubs")
    batch = models.ForeignKey("stove.Batch", on_delete=models.PROTECT, related_name="tubs")
    parent = models.ForeignKey("self", on_delete=models.PROTECT, null=True, blank=True, related_name="parts")
    part = models.PositiveSmallIntegerField()
    what = WordField(Contents, max_length=10, default=Contents.SAUCE)
    name = models.CharField(max_length=200)
    family = models.CharField(max_length=40)
    allergens = models.JSONField(default=list)
    unheated = models.JSONField(default=list)
    vessel = models.CharField(max_length=80, blank=True)
    life = models.JSONField()
    begins = models.JSONField(default=dict)
    made_at = models.DateTimeField()
    ready_at = models.DateTimeField(null=True, blank=True)
    made_g = models.DecimalField(max_digits=10, decimal_places=1)
    left_g = models.DecimalField(max_digits=10, decimal_places=1, default=0)
    promised_g = models.DecimalField(max_digits=10, decimal_places=1, default=0)
    place = WordField(Place, max_length=10, default=Place.FRIDGE)
    opened_at = models.DateTimeField(null=True, blank=True)
    frozen_at = models.DateTimeField(null=True, blank=True)
    out_at = models.DateTimeField(null=True, blank=True)
    warm_at = models.DateTimeField(null=True, blank=True)
    warm_c = models.FloatField(null=True, blank=True)
    filmed = models.BooleanField(default=False)
    labelled = models.BooleanField(default=False)
    use_by = models.DateTimeField()
    use_by_why = models.CharField(max_length=200)

    class Meta:
        """Soonest first."""

        ordering = ("use_by", "id")
        constraints = (
            models.UniqueConstraint(fields=["batch", "what", "part"], name="tub_of_a_batch"),
            models.CheckConstraint(condition=Q(left_g__gte=0), name="never_less_than_nothing"),
            models.CheckConstraint(
                condition=Q(promised_g__gte=0) & Q(promised_g__lte=models.F("left_g")),
                name="no_more_promised_than_left",
            ),
        )
        indexes = (
            models.Index(fields=["kitchen", "use_by", "id"], condition=Q(left_g__gt=0), name="on_the_shelf"),
        )
        triggers = (
            Frozen("kitchen", "batch", "parent", "part", "what", "family", "begins", "made_at", "made_g"),
            chained_state("tub", "'kitchen ' || NEW.kitchen_id"),
        )

    def __str__(self) -> str:
        return f"tub {self.part} of batch {self.batch.number}, {self.name}"


class Movement(models.Model):
    """Something that was done with a tub, never changed. Its id is made where it happened, so it counts once.

    `change_g` is what it adds to the tub; `to` is the dish it went into, `into` the batch; `other` the tub
    that was split off or churned of it. An `undone` one says that the one it `corrects` did not happen.
    """

    id = models.UUIDField(primary_key=True)
    kitchen = models.ForeignKey("kitchen.Kitchen", on_delete=models.PROTECT, related_name="+")
    tub = models.ForeignKey(Tub, on_delete=models.PROTECT, related_name="movements")
    kind = WordField(MovementKind, max_length=10)
    at = models.DateTimeField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    change_g = models.DecimalField(max_digits=10, decimal_places=1, default=0)
    to = models.CharField(max_length=80, blank=True)
    into = models.ForeignKey(
        "stove.Batch", on_delete=models.PROTECT, null=True, blank=True, related_name="drawn"
    )
    other = models.ForeignKey(Tub, on_delete=models.PROTECT, null=True, blank=True, related_name="came_by")
    celsius = models.FloatField(null=True, blank=True)
    note = models.CharField(max_length=500, blank=True)
    corrects = models.OneToOneField(
        "self", on_delete=models.PROTECT, null=True, blank=True, related_name="corrected_by"
    )

    class Meta:
        """In the order in which they happened; added, never changed."""

        ordering = ("at", "id")
        indexes = (
            models.Index(fields=["tub", "at"], name="movements_of_a_tub"),
            models.Index(fields=["kitchen", "at"], name="movements_of_a_day"),
        )
        triggers = (append_only(), chained("movement", "NEW.kitchen_id"))

    def __str__(self) -> str:
        grams = f" {abs(self.change_g):g} g" if self.change_g else ""
        return f"{self.kind}{grams}: {self.tub}"


class Promise(models.Model):
    """That so much of a tub is for a dish, or for a batch to come; kept when it is drawn for that."""

    tub = models.ForeignKey(Tub, on_delete=models.CASCADE, related_name="promises")
    grams = models.DecimalField(max_digits=10, decimal_places=1)
    dish = models.CharField(max_length=80)
    due_at = models.DateTimeField(null=True, blank=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    at = models.DateTimeField()
    kept_by = models.OneToOneField(
        Movement, on_delete=models.PROTECT, null=True, blank=True, related_name="promise"
    )
    withdrawn_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        """The soonest first."""

        ordering = ("due_at", "id")

    def __str__(self) -> str:
        return f"{self.grams:g} g for {self.dish}: {self.tub}"


class DayClosing(models.Model):
    """That someone closed a day: the list as it stood when they signed, and what they said to it."""

    id = models.UUIDField(primary_key=True)
    kitchen = models.ForeignKey("kitchen.Kitchen", on_delete=models.PROTECT, related_name="closings")
    day = models.DateField()
    at = models.DateTimeField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    content = models.JSONField()
    note = models.CharField(max_length=500, blank=True)

    class Meta:
        """Newest first; added, never changed."""

        ordering = ("-at", "-id")
        indexes = (models.Index(fields=["kitchen", "-day"], name="closings_of_a_day"),)
        triggers = (append_only(), chained("dayclosing", "NEW.kitchen_id"))

    def __str__(self) -> str:
        return f"the day {self.day}"
