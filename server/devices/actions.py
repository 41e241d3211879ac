"""Registering devices, and taking in what they send."""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta

from common.refusals import Refusal
from django.http import Http404
from django.utils import timezone
from kitchen.access import Actor, action
from kitchen.models import Role

from devices.models import Device, Weight
from devices.schemas import NewWeight

EARLY = timedelta(minutes=2)
KEPT = timedelta(hours=1)
"""Weights are for the moment; what was weighed is in the batch's marks."""


def hashed(token: str) -> str:
    """What is kept of a token. It is long and random, so one round of a plain hash is enough."""
    return hashlib.sha256(token.encode()).hexdigest()


@action("device.register", Role.CHEF)
def register(actor: Actor, name: str, token: str) -> Device:
    """A new device, known by the hash of `token`."""
    return Device.objects.create(kitchen=actor.kitchen, name=name, token_hash=hashed(token))


def new_token() -> str:
    """A token that cannot be guessed."""
    return secrets.token_urlsafe(32)


@action("device.revoke", Role.CHEF)
def revoke(actor: Actor, device_id: int) -> Device:
    """From now on nothing this device sends is taken."""
    found = Device.objects.select_for_update().filter(kitchen=actor.kitchen, pk=device_id).first()
    if found is None:
        raise Http404
    found.revoked_at = found.revoked_at or timezone.now()
    found.save(update_fields=["revoked_at"])
    return found


def weigh(device: Device, new: NewWeight) -> None:
    """Take in a weight. Sent again with the same id it changes nothing.

    Raises
    ------
    Refusal
        when its time has not come yet.
    """
    if new.at > timezone.now() + EARLY:
        late = "has not come yet; check the scale's clock"
        raise Refusal(422, "That time has not come yet.", [("at", late)])
    Weight.objects.filter(device=device, at__lt=timezone.now() - KEPT).delete()
    Weight.objects.get_or_create(
        id=new.id,
        defaults={"device": device, "at": new.at, "grams": new.grams, "steady": new.steady},
    )
