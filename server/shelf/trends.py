"""What was thrown away over months, and why."""

from __future__ import annotations

from datetime import datetime
from zoneinfo import ZoneInfo

from django.db.models import Count, QuerySet, Sum
from django.db.models.functions import Lower, Trim, TruncMonth
from kitchen.access import Actor

from shelf.models import Contents, Movement, MovementKind
from shelf.schemas import ThrownMonth, ThrownWhy

MOST_REASONS = 8


def thrown(actor: Actor, since: datetime, zone: ZoneInfo) -> list[ThrownMonth]:
    """What was thrown away in each month, by what it was [g]; what was taken back does not count."""
    found = (
        _thrown(actor, since)
        .annotate(month=TruncMonth("at", tzinfo=zone))
        .values("month", "tub__what")
        .annotate(grams=-Sum("change_g"))
        .order_by("month", "tub__what")
    )
    return [
        ThrownMonth(month=f"{row['month']:%Y-%m}", what=Contents(row["tub__what"]), grams=float(row["grams"]))
        for row in found
    ]


def reasons(actor: Actor, since: datetime) -> list[ThrownWhy]:
    """Why it was thrown away, in the words that were written, the most grams first."""
    found = (
        _thrown(actor, since)
        .annotate(why=Lower(Trim("note")))
        .values("why")
        .annotate(grams=-Sum("change_g"), times=Count("pk"))
        .order_by("-grams", "why")
    )
    return [
        ThrownWhy(why=row["why"], grams=float(row["grams"]), times=row["times"])
        for row in found[:MOST_REASONS]
    ]


def _thrown(actor: Actor, since: datetime) -> QuerySet[Movement]:
    return Movement.objects.filter(
        kitchen=actor.kitchen, kind=MovementKind.THROWN, at__gte=since, corrected_by=None, change_g__lt=0
    )
