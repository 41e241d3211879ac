"""Kitchens. Every row of every later place belongs to one, and no query crosses from one to another."""

import custard
from common import clock
from common.words import WordField
from custard.vocabulary import VesselKind
from django.conf import settings
from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models
from records.triggers import Frozen, append_only, chained, chained_state


class Kitchen(models.Model):
    """One kitchen and what it computes with.

    `egg_source` says whose eggs there are, in the kitchen's own words: others set a little elsewhere.
    `zone` is the time its clocks show, by the name that time zones have. `prices` is by ingredient:
    {"price", "per" as it was written, "per_kg"}. For `readings_days` after a batch was closed every reading
    of its probe is kept, then one a minute; photographs of batches take `photos_mb` at most. `demo` is made
    up and may be thrown away: it is then entered by nobody, and its records stay, as records do.
    """

    slug = models.SlugField(max_length=60, unique=True)
    name = models.CharField(max_length=200)
    altitude_m = models.FloatField(default=0, validators=[MinValueValidator(-500), MaxValueValidator(6000)])
    eggs = models.CharField(max_length=20, default="EU-M")
    egg_source = models.CharField(max_length=80, blank=True)
    measures = models.CharField(max_length=20, default="metric")
    cooling_rule = models.CharField(
        max_length=10,
        default=custard.larder.USUAL_RULE,
    )
    own_rule = models.JSONField(null=True, blank=True)
    currency = models.CharField(max_length=4, default="€")
    zone = models.CharField(max_length=60, default="UTC")
    prices = models.JSONField(default=dict, blank=True)
    readings_days = models.PositiveSmallIntegerField(
        default=90, validators=[MinValueValidator(7), MaxValueValidator(3650)]
    )
    photos_mb = models.PositiveIntegerField(default=500, validators=[MaxValueValidator(100_000)])
    next_batch = models.PositiveIntegerField(default=1)
    created_at = models.DateTimeField(default=clock.now)
    demo = models.BooleanField(default=False)
    thrown_away_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        """What records are printed with (its name, its clock, its rules) is chained as they are."""

        triggers = (Frozen("created_at", "demo"), chained_state("kitchen", "'kitchen ' || NEW.id"))

    def __str__(self) -> str:
        return self.name


class Role(models.TextChoices):
    """What someone may do in a kitchen; each may do all that the ones before may."""

    VIEWER = "viewer"
    COOK = "cook"
    CHEF = "chef"

    @property
    def rank(self) -> int:
        """0 for a viewer, 2 for a chef."""
        return list(Role).index(self)


class Membership(models.Model):
    """A person's role in a kitchen."""

    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="memberships")
    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="memberships")
    role = WordField(Role, max_length=10)

    class Meta:
        """One role a kitchen."""

        constraints = (models.UniqueConstraint(fields=["user", "kitchen"], name="one_role_a_kitchen"),)

    def __str__(self) -> str:
        return self.user.shown()


class Invitation(models.Model):
    """That whoever has the link may join a kitchen, once, until then. Only a digest of it is kept."""

    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="invitations")
    digest = models.CharField(max_length=64, unique=True)
    role = WordField(Role, max_length=10)
    title = models.CharField(max_length=80)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    made_at = models.DateTimeField(default=clock.now)
    until = models.DateTimeField()
    used_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, null=True, related_name="+"
    )

    class Meta:
        """Newest first."""

        ordering = ("-made_at", "-id")

    def __str__(self) -> str:
        return f"{self.title}, {self.role}"


class OwnIngredient(models.Model):
    """Something this kitchen weighs that is not in the larder, with its composition in g per 100 g."""

    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="own_ingredients")
    name = models.CharField(max_length=80)
    composition = models.JSONField()
    allergens = models.JSONField(default=list, blank=True)
    density_g_per_ml = models.FloatField(null=True, blank=True)

    class Meta:
        """By name, each once."""

        ordering = ("name",)
        constraints = (models.UniqueConstraint(fields=["kitchen", "name"], name="own_ingredient_once"),)

    def __str__(self) -> str:
        return self.name


class Hob(models.Model):
    """A ring, a hob or a bath that steams, and what it is believed to give at the flame sauces are cooked on.

    `power_spread` is the uncertainty of `power_w` as a logarithm; each batch with a probe narrows it.
    `doubted` says of the batch it has just learned of that it was not believed; it is not kept.
    """

    doubted = False
    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="hobs")
    name = models.CharField(max_length=80)
    over_steam = models.BooleanField(default=False)
    power_w = models.FloatField(default=350)
    power_spread = models.FloatField(default=custard.stove.UNKNOWN_POWER)
    batches = models.PositiveIntegerField(default=0)

    class Meta:
        """By name, each once."""

        ordering = ("name", "id")
        constraints = (models.UniqueConstraint(fields=["kitchen", "name"], name="hob_once"),)

    def __str__(self) -> str:
        return self.name


class Pan(models.Model):
    """A pan: its kind, and how its heat compares with that kind's; `heat_spread`, `doubted` as with a hob."""

    doubted = False
    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="pans")
    name = models.CharField(max_length=80)
    kind = models.CharField(max_length=20)
    heat_share = models.FloatField(default=1)
    heat_spread = models.FloatField(default=custard.stove.UNKNOWN_PAN)
    batches = models.PositiveIntegerField(default=0)

    class Meta:
        """By name, each once."""

        ordering = ("name", "id")
        constraints = (models.UniqueConstraint(fields=["kitchen", "name"], name="pan_once"),)

    def __str__(self) -> str:
        return self.name


class Cooler(models.Model):
    """A fridge, an ice bath, a blast chiller, or whatever else cools here: its way, and how well it does.

    `medium_c` is how cold it is in there, where the kitchen knows. `share` is over what the table says of
    that way; `spread` its uncertainty, as a logarithm. Every cooling that was read narrows it; `doubted` as
    with a hob.
    """

    doubted = False
    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="coolers")
    name = models.CharField(max_length=80)
    by = models.CharField(max_length=20)
    medium_c = models.FloatField(null=True, blank=True)
    share = models.FloatField(default=1)
    spread = models.FloatField(default=custard.after.UNKNOWN_COOLER)
    batches = models.PositiveIntegerField(default=0)

    class Meta:
        """By name, each once."""

        ordering = ("name", "id")
        constraints = (models.UniqueConstraint(fields=["kitchen", "name"], name="cooler_once"),)

    def __str__(self) -> str:
        return self.name


class LearnedSauce(models.Model):
    """What this kitchen's batches say of a sauce, by the name of its formula; "" for its sauces in all.

    `figures` are as `custard.learning.Figures` keeps them, mean, spread and count of each, with their
    version; they can be computed again from the record at any time. Where `used` is false, everything is
    computed as if nothing had been learned of it; for the house, of none.
    """

    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="learned")
    formula = models.CharField(max_length=200, blank=True)
    figures = models.JSONField()
    used = models.BooleanField(default=True)
    at = models.DateTimeField(default=clock.now)

    class Meta:
        """By name, the house first."""

        ordering = ("formula",)
        constraints = (models.UniqueConstraint(fields=["kitchen", "formula"], name="learned_once"),)

    def __str__(self) -> str:
        return self.formula or "the house"


class Vessel(models.Model):
    """A bowl, a tray, a tub, a cup or a bag this kitchen has, with its measures [cm]."""

    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="vessels")
    name = models.CharField(max_length=80)
    kind = WordField(VesselKind, max_length=10)
    length_cm = models.FloatField()
    width_cm = models.FloatField(default=0)
    height_cm = models.FloatField()

    class Meta:
        """By name, each once."""

        ordering = ("name", "id")
        constraints = (models.UniqueConstraint(fields=["kitchen", "name"], name="vessel_once"),)

    def __str__(self) -> str:
        return self.name


class TakenOff(models.Model):
    """Something that was taken off a list, as it was, so that it can be put back as if it had stayed."""

    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="taken_off")
    kind = models.CharField(max_length=20)
    values = models.JSONField()
    at = models.DateTimeField(default=clock.now)


class AuditEntry(models.Model):
    """That someone did something, in words that stay true when the thing is gone."""

    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="audit")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True)
    at = models.DateTimeField(default=clock.now)
    action = models.CharField(max_length=40)
    subject = models.CharField(max_length=250)

    class Meta:
        """Newest first."""

        ordering = ("-at", "-id")
        indexes = (models.Index(fields=["kitchen", "-at"]),)
        triggers = (append_only(), chained("auditentry", "NEW.kitchen_id"))
