"""Registering devices, and taking in what they send."""

from __future__ import annotations

import hashlib
import secrets
from collections.abc import Sequence
from datetime import datetime, timedelta

import custard
from common import clock
from common.counted import READINGS
from common.events import notify
from common.refusals import Conflict, Refusal
from django.db import connection, transaction
from django.http import Http404
from kitchen.access import Actor, action
from kitchen.ending import counted, ends_with_the_role
from kitchen.models import Kitchen, Role
from people.models import User
from procrastinate.contrib.django import app

from devices.models import Device, DeviceKind, ProbeCheck, Reading, Weight
from devices.schemas import NewReading, NewWeight

EARLY = timedelta(minutes=2)
USED_EVERY = timedelta(minutes=1)
KEPT = timedelta(hours=1)
"""Weights are for the moment; what was weighed is in the batch's marks."""


def hashed(token: str) -> str:
    """What is kept of a token. It is long and random, so one round of a plain hash is enough."""
    return hashlib.sha256(token.encode()).hexdigest()


@action("device.register", Role.CHEF)
def register(actor: Actor, name: str, token: str, kind: str = "scale") -> Device:
    """A new device, known by the hash of `token`."""
    return Device.objects.create(
        kitchen=actor.kitchen, name=name, kind=kind, token_hash=hashed(token), token_by=actor.user
    )


CODE = "ABCDEFGHJKMNPQRSTVWXYZ23456789"
CODE_LONG = 12
"""Letters that nobody takes for another, and so many that 10^17 codes would have to be tried."""


def new_token(kind: str = DeviceKind.PROBE) -> str:
    """A token that cannot be guessed; that of a screen is a code which somebody types once, without a
    keyboard."""
    if kind == DeviceKind.SCREEN:
        return "".join(secrets.choice(CODE) for _ in range(CODE_LONG))
    return secrets.token_urlsafe(32)


@action("device.revoke", Role.CHEF)
def revoke(actor: Actor, device_id: int) -> Device:
    """From now on nothing this device sends is taken."""
    found = Device.objects.select_for_update(no_key=True).filter(kitchen=actor.kitchen, pk=device_id).first()
    if found is None:
        raise Http404
    found.revoked_at = found.revoked_at or clock.now()
    found.save(update_fields=["revoked_at"])
    return found


@action("device.rotate", Role.CHEF)
def rotate(actor: Actor, device_id: int, token: str) -> Device:
    """From now on the device is known by another token, and no longer by the one it had."""
    found = Device.objects.select_for_update(no_key=True).filter(kitchen=actor.kitchen, pk=device_id).first()
    if found is None:
        raise Http404
    if found.revoked_at is not None:
        raise Conflict("That one was taken away; register it again.")
    found.token_hash, found.rotated_at, found.token_by = hashed(token), clock.now(), actor.user
    found.save(update_fields=["token_hash", "rotated_at", "token_by"])
    return found


def check(actor: Actor, device_id: int, ice_c: float | None, boil_c: float | None) -> ProbeCheck:
    """Write down what a probe read in ice and water and in boiling water [degC]; what it reads from now on
    is put right by that.

    Raises
    ------
    Http404
        when the kitchen has no such probe.
    CustardError
        when neither was read, or it is so far off that it is to be replaced.
    """
    boils_c = custard.water_boils_at(actor.kitchen.altitude_m)
    found = custard.stove.probe_checked(ice_c, boil_c, boils_c)
    return _check(actor, device_id, ice_c, boil_c, boils_c, found)


def _learn_for_now(actor: Actor) -> None:
    # By its name: what learns knows probes, not the other way round.
    task = app.configure_task("stove.learn_for_now")
    task.defer(kitchen_id=actor.kitchen.pk, user_id=actor.user.pk)


@action("probe.check", Role.COOK)
def _check(
    actor: Actor,
    device_id: int,
    ice_c: float | None,
    boil_c: float | None,
    boils_c: float,
    found: custard.stove.CheckedProbe,
) -> ProbeCheck:
    probe = (
        Device.objects.select_for_update(no_key=True)
        .filter(kitchen=actor.kitchen, pk=device_id, kind=DeviceKind.PROBE, revoked_at=None)
        .first()
    )
    if probe is None:
        raise Http404
    _learn_for_now(actor)
    return ProbeCheck.objects.create(
        device=probe,
        ice_c=ice_c,
        boil_c=boil_c,
        boils_c=boils_c,
        reads_high_k=found.reads_high_k,
        error_k=found.error_k,
        by=actor.user,
    )


@action("probe.uncheck", Role.COOK)
def uncheck(actor: Actor, check_id: int) -> ProbeCheck:
    """Take the last check of a probe back: the one before it counts again.

    Raises
    ------
    Http404
        when the kitchen has no such check.
    Conflict
        when a later one was made.
    """
    found = ProbeCheck.objects.filter(device__kitchen=actor.kitchen, pk=check_id).first()
    if found is None:
        raise Http404
    if ProbeCheck.objects.filter(device=found.device_id).first() != found:
        raise Conflict("It was checked again since.")
    found.delete()
    _learn_for_now(actor)
    return found


@ends_with_the_role
def _tokens(kitchen: Kitchen, user: User) -> str:
    """Whoever was shown a token may have kept it: it is good no more."""
    rows = Device.objects.filter(kitchen=kitchen, token_by=user, revoked_at=None)
    return counted(rows.update(revoked_at=clock.now()), "one device's token", "devices' tokens")


def _heard_from(device: Device, at: datetime) -> None:
    """Keep when a device's token was used, and how its clock goes, whenever there is something new to say."""
    now = clock.now()
    ahead = (at - now).total_seconds()
    told = device.clock()
    device.clock_ahead_s, before = ahead, device.used_at
    if before is None or now - before >= USED_EVERY or device.clock() != told:
        device.used_at = now
        device.save(update_fields=["used_at", "clock_ahead_s"])


def keep_used(device: Device) -> None:
    """Keep that a device's token is in use, to the minute."""
    now = clock.now()
    if device.used_at is None or now - device.used_at >= USED_EVERY:
        device.used_at = now
        device.save(update_fields=["used_at"])


def take_readings(device: Device, readings: Sequence[NewReading]) -> int:
    """Take in what a probe read; returns how many readings were new.

    Raises
    ------
    Refusal
        when a reading's time has not come yet; then none is taken.
    """
    latest = clock.now() + EARLY
    _heard_from(device, max(reading.at for reading in readings))
    for index, reading in enumerate(readings):
        if reading.at > latest:
            raise _not_yet(device, f"readings[{index}].at")
    values = {reading.at: reading.celsius for reading in readings}
    # One statement, as a probe may say a thousand things at once; those known already are left as they are.
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute(
            f"INSERT INTO {Reading._meta.db_table} (device_id, at, celsius) "  # noqa: S608 a name of ours
            "SELECT %s, * FROM unnest(%s::timestamptz[], %s::float8[]) "
            "ON CONFLICT ON CONSTRAINT reading_once DO NOTHING",
            [device.pk, list(values), list(values.values())],
        )
        new = int(cursor.rowcount)
        READINGS.inc(new)
        if new:
            notify(device.kitchen_id, {"readings": device.pk})
    return new


def weigh(device: Device, new: NewWeight) -> None:
    """Take in a weight. Sent again with the same id it changes nothing.

    Raises
    ------
    Refusal
        when its time has not come yet.
    """
    _heard_from(device, new.at)
    if new.at > clock.now() + EARLY:
        raise _not_yet(device, "at")
    Weight.objects.filter(device=device, at__lt=clock.now() - KEPT).delete()
    kept, _ = Weight.objects.get_or_create(
        id=new.id,
        defaults={"device": device, "at": new.at, "grams": new.grams, "steady": new.steady},
    )
    if kept.device_id != device.pk:
        raise Conflict("That weight is another scale's; send it with an id of its own.")


def _not_yet(device: Device, field: str) -> Refusal:
    said = f"has not come yet; check the {device.kind}'s clock"
    return Refusal(422, f"That time has not come yet. {device.clock()}".strip(), [(field, said)])
