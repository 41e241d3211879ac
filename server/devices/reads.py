"""Questions about devices."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from common import clock
from django.db import connection
from django.db.models import Avg, Count, Exists, F, Max, Min, OuterRef, Window
from django.db.models.functions import Ceil, Mod, RowNumber
from django.http import Http404
from kitchen.access import Actor
from kitchen.models import Kitchen

from devices.actions import hashed
from devices.models import Device, DeviceKind, ProbeCheck, Reading, Weight
from devices.schemas import ProbeCheckOut

__all__ = [
    "Device",
    "ProbeCheck",
    "as_checked",
    "checks",
    "device",
    "device_of",
    "devices",
    "probe",
    "probe_now",
    "readings",
    "readings_after",
    "sending",
    "weight_now",
]

FRESH = timedelta(seconds=20)
"""A weight older than this is no longer what the scale shows."""


def devices(actor: Actor) -> list[Device]:
    """The kitchen's devices, revoked ones too."""
    return list(Device.objects.filter(kitchen=actor.kitchen).prefetch_related("checks"))


def device(actor: Actor, device_id: int) -> Device:
    """One of the kitchen's devices, also a revoked one.

    Raises
    ------
    Http404
        when it has no such device.
    """
    found = Device.objects.filter(kitchen=actor.kitchen, pk=device_id).first()
    if found is None:
        raise Http404
    return found


def device_of(token: str) -> Device | None:
    """The device that a token belongs to, unless it was revoked."""
    rows = Device.objects.select_related("kitchen", "token_by")
    return rows.filter(token_hash=hashed(token), revoked_at=None).first()


def weight_now(actor: Actor) -> Weight | None:
    """What this kitchen's scale shows; None when it has not spoken lately."""
    return (
        Weight.objects.filter(
            device__kitchen=actor.kitchen, device__revoked_at=None, at__gte=clock.now() - FRESH
        )
        .select_related("device")
        .first()
    )


def probe(actor: Actor, device_id: int) -> Device | None:
    """One of the kitchen's probes, unless it was revoked; locked, so that it goes into one batch."""
    return (
        Device.objects.select_for_update(no_key=True)
        .filter(kitchen=actor.kitchen, pk=device_id, kind=DeviceKind.PROBE, revoked_at=None)
        .first()
    )


def as_checked(check: ProbeCheck) -> dict[str, Any]:
    """What a batch keeps of the last check of its probe."""
    return {
        "reads_high_k": check.reads_high_k,
        "error_k": check.error_k,
        "checked_on": check.at.date(),
    }


NOW = timedelta(seconds=15)
"""A reading older than this is not what a probe reads now."""


def probe_now(actor: Actor, device_id: int) -> tuple[float | None, float | None]:
    """What a probe reads now [degC], over the last seconds, and by how much that went up and down [K].

    Raises
    ------
    Http404
        when the kitchen has no such probe.
    """
    if not Device.objects.filter(kitchen=actor.kitchen, pk=device_id, kind=DeviceKind.PROBE).exists():
        raise Http404
    found = Reading.objects.filter(device_id=device_id, at__gte=clock.now() - NOW)
    seen = found.aggregate(mean=Avg("celsius"), least=Min("celsius"), most=Max("celsius"))
    if seen["mean"] is None:
        return None, None
    return round(seen["mean"], 2), round(seen["most"] - seen["least"], 2)


def sending(actor: Actor) -> list[int]:
    """The ids of the kitchen's probes that read something just now."""
    since = clock.now() - NOW
    rows = Device.objects.filter(kitchen=actor.kitchen, kind=DeviceKind.PROBE, revoked_at=None)
    read = Reading.objects.filter(device=OuterRef("pk"), at__gte=since)
    return list(rows.filter(Exists(read)).values_list("pk", flat=True))


def checks(actor: Actor) -> list[ProbeCheck]:
    """Every check of this kitchen's probes, the newest first."""
    rows = ProbeCheck.objects.filter(device__kitchen=actor.kitchen).select_related("device", "by")
    return list(rows[:MOST_CHECKS])


MOST_CHECKS = 200


def checked_on(kitchen: Kitchen) -> dict[str, str]:
    """The day of the last check of each of a kitchen's probes, by its name."""
    last = (
        ProbeCheck.objects.filter(device__kitchen=kitchen).order_by("device_id", "-at").distinct("device_id")
    )
    return {name: f"{at.date()}" for name, at in last.values_list("device__name", "at")}


def shown(one: ProbeCheck) -> ProbeCheckOut:
    """A check of a probe as a page shows it."""
    return ProbeCheckOut(
        id=one.pk,
        device_id=one.device_id,
        name=one.device.name,
        at=one.at,
        by=one.by.shown() if one.by else "someone who has left",
        ice_c=one.ice_c,
        boil_c=one.boil_c,
        boils_c=one.boils_c,
        reads_high_k=one.reads_high_k,
        error_k=one.error_k,
    )


def readings(
    device_id: int, since: datetime, until: datetime | None, most: int | None
) -> list[tuple[datetime, float]]:
    """What a probe read in a while, in order: about `most` readings, evenly, and the newest; or all of it."""
    found = Reading.objects.filter(device_id=device_id, at__gte=since)
    if until is not None:
        found = found.filter(at__lt=until)
    if most is None:
        return list(found.order_by("at").values_list("at", "celsius"))
    numbered = found.annotate(
        place=Window(RowNumber(), order_by=F("at").desc()), all=Window(Count("*"))
    ).annotate(step=Ceil(F("all") * 1.0 / most))
    # Counted from the newest, so that it is always among them.
    kept = numbered.annotate(beyond=Mod(F("place") - 1, F("step"))).filter(beyond=0)
    return list(kept.order_by("at").values_list("at", "celsius"))


def months() -> list[str]:
    """The names of the tables that readings lie in: one a month, and one for those of no such month."""
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT inhrelid::regclass::text FROM pg_inherits WHERE inhparent = %s::regclass ORDER BY 1",
            [Reading._meta.db_table],
        )
        return [name for (name,) in cursor.fetchall()]


def readings_after(device_id: int, last_id: int, since: datetime) -> list[tuple[int, datetime, float]]:
    """What came in of a probe after a reading, by its id; in the order in which it came."""
    found = Reading.objects.filter(device_id=device_id, id__gt=last_id, at__gte=since)
    return list(found.order_by("id").values_list("id", "at", "celsius"))
