"""What became of batches over months: how they ended, how far from plan they were lifted, what hobs gave."""

from __future__ import annotations

from collections import defaultdict
from datetime import datetime
from statistics import mean
from zoneinfo import ZoneInfo

from custard.vocabulary import StageName, Verdict
from django.db.models import Avg, Count, F, FloatField, Max, Q, QuerySet, StdDev, Sum
from django.db.models.fields.json import KT
from django.db.models.functions import Cast, TruncMonth
from kitchen.access import Actor

from stove.after import paces
from stove.models import Batch
from stove.schemas import HobMonth, MonthOut, StageMonth, VersionOutcome

LEFT_C = Cast(KT(f"left_c__{StageName.COOK}"), FloatField())
PLANNED_C = Cast(KT(f"planned_c__{StageName.COOK}"), FloatField())
GOOD, USABLE, DISCARDED = (Count("pk", filter=Q(verdict=verdict)) for verdict in Verdict)
"""How many batches ended with each verdict."""


def _closed(actor: Actor) -> QuerySet[Batch]:
    return Batch.objects.filter(kitchen=actor.kitchen, pace=1).exclude(closed_at=None)


def months(actor: Actor, since: datetime, zone: ZoneInfo, formula_id: int | None) -> list[MonthOut]:
    """The batches of each month by the kitchen's clock, the oldest first; rehearsals do not count."""
    rows = _closed(actor).filter(started_at__gte=since)
    if formula_id is not None:
        rows = rows.filter(version__formula_id=formula_id)
    found = (
        rows.annotate(month=TruncMonth("started_at", tzinfo=zone))
        .values("month")
        .annotate(
            batches=Count("pk"),
            over_k=Avg(LEFT_C - PLANNED_C),
            over_spread_k=StdDev(LEFT_C - PLANNED_C),
            minutes=Avg(F("closed_at") - F("started_at")),
            yield_share=Avg(F("yield_g") / F("mass_g")),
            good=GOOD,
            usable=USABLE,
            discarded=DISCARDED,
        )
        .order_by("month")
    )
    return [
        MonthOut(
            month=f"{row['month']:%Y-%m}",
            batches=row["batches"],
            good=row["good"],
            usable=row["usable"],
            discarded=row["discarded"],
            over_k=_rounded(row["over_k"], 2),
            over_spread_k=_rounded(row["over_spread_k"], 2),
            minutes=None if row["minutes"] is None else round(row["minutes"].total_seconds() / 60, 1),
            yield_share=_rounded(row["yield_share"], 3),
        )
        for row in found
    ]


def hobs(actor: Actor, since: datetime, zone: ZoneInfo) -> list[HobMonth]:
    """What each hob gave in each month, as the curves of its batches say [W]."""
    found = (
        _closed(actor)
        .filter(started_at__gte=since, fitted_w__isnull=False, hob__isnull=False)
        .annotate(month=TruncMonth("started_at", tzinfo=zone))
        .values("hob__name", "month")
        .annotate(watts=Avg("fitted_w"), spread=StdDev("fitted_w"), batches=Count("pk"))
        .order_by("hob__name", "month")
    )
    return [
        HobMonth(
            hob=row["hob__name"],
            month=f"{row['month']:%Y-%m}",
            watts=round(row["watts"]),
            spread_w=round(row["spread"] or 0.0),
            batches=row["batches"],
        )
        for row in found
    ]


MOST_TIMED = 5000
"""So many of the newest batches say how long stages took."""


def stages(actor: Actor, since: datetime, zone: ZoneInfo) -> list[StageMonth]:
    """How long each stage took in each month, in the order of the work."""
    rows = _closed(actor).filter(started_at__gte=since, took__isnull=False).order_by("-started_at")
    found: defaultdict[tuple[StageName, str], list[tuple[float, float]]] = defaultdict(list)
    for began, kept in rows.values_list("started_at", "took")[:MOST_TIMED]:
        month = f"{began.astimezone(zone):%Y-%m}"
        for one in paces.read(kept):
            found[one.stage, month].append((one.took, one.computed))
    order = list(StageName)
    return [
        StageMonth(
            stage=stage,
            month=month,
            minutes=round(mean(took for took, _ in some), 1),
            computed=round(mean(computed for _, computed in some), 1),
            batches=len(some),
        )
        for (stage, month), some in sorted(found.items(), key=lambda one: (order.index(one[0][0]), one[0][1]))
    ]


def weighed(actor: Actor, since: datetime, zone: ZoneInfo) -> list[tuple[str, int, float, float]]:
    """What was weighed of each version in each month: month, version, grams, and what they came to [g]."""
    rows = (
        _closed(actor)
        .filter(started_at__gte=since, yield_g__gt=0)
        .annotate(month=TruncMonth("started_at", tzinfo=zone))
        .values("month", "version_id")
        .annotate(grams=Sum("mass_g"), came=Sum("yield_g"))
        .order_by("month", "version_id")
    )
    return [(f"{row['month']:%Y-%m}", row["version_id"], row["grams"], row["came"]) for row in rows]


def versions(actor: Actor, formula_id: int) -> list[VersionOutcome]:
    """What came of each version of a formula that was cooked, the newest first."""
    found = (
        _closed(actor)
        .filter(version__formula_id=formula_id)
        .values("version__number")
        .annotate(
            batches=Count("pk"),
            over_k=Avg(LEFT_C - PLANNED_C),
            yield_share=Avg(F("yield_g") / F("mass_g")),
            last=Max("started_at"),
            good=GOOD,
            usable=USABLE,
            discarded=DISCARDED,
        )
        .order_by("-version__number")
    )
    return [
        VersionOutcome(
            version=row["version__number"],
            batches=row["batches"],
            good=row["good"],
            usable=row["usable"],
            discarded=row["discarded"],
            over_k=_rounded(row["over_k"], 2),
            yield_share=_rounded(row["yield_share"], 3),
            last=row["last"],
        )
        for row in found
    ]


def _rounded(value: float | None, digits: int) -> float | None:
    return None if value is None else round(value, digits)
