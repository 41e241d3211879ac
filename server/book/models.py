"""Formulas. A formula is a name in the book; what it is made of is in its versions, which never change."""

import custard
from common import clock
from django.conf import settings
from django.db import models
from kitchen.models import Kitchen


class Formula(models.Model):
    """One entry of the book; `schools` is how this kitchen makes it, by question."""

    kitchen = models.ForeignKey(Kitchen, on_delete=models.CASCADE, related_name="formulas")
    name = models.CharField(max_length=200)
    family = models.CharField(max_length=40, choices=[(f, f) for f in custard.FAMILIES])
    latest = models.PositiveIntegerField(default=0)
    archived_at = models.DateTimeField(null=True, blank=True)
    schools = models.JSONField(default=dict, blank=True)

    class Meta:
        """By name."""

        ordering = ("name", "id")
        indexes = (models.Index(fields=["kitchen", "name"]),)

    def __str__(self) -> str:
        return f"{self.name} v{self.latest}"


class FormulaVersion(models.Model):
    """What a formula was made of at one time, as Old Spoon JSON; written once."""

    formula = models.ForeignKey(Formula, on_delete=models.CASCADE, related_name="versions")
    number = models.PositiveIntegerField()
    content = models.JSONField()
    note = models.CharField(max_length=500, blank=True)
    created_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    created_at = models.DateTimeField(default=clock.now)

    class Meta:
        """One of each number."""

        ordering = ("-number",)
        constraints = (models.UniqueConstraint(fields=["formula", "number"], name="one_of_each_version"),)

    def __str__(self) -> str:
        return f"{self.content['name']} v{self.number}"
