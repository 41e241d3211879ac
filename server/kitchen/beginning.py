"""Kitchens that somebody begins for themselves, and leaving the demo's."""

from __future__ import annotations

from typing import Any

import custard
from common import clock
from common.database import one_at_a_time
from common.refusals import Refusal
from django.db import transaction
from django.http import Http404
from django.utils.text import slugify
from people.models import User

from kitchen.access import Actor, action
from kitchen.models import AuditEntry, Kitchen, Membership, Role

BROUGHT_IN = "archive.bring-in"
MOST_KITCHENS = 5
"""So many kitchens one person makes."""


def begin(user: User, /, name: str, boils_c: float | None, **settings: Any) -> Kitchen:
    """A new kitchen, and its first chef.

    `boils_c` is where water boils there, for who knows that and not the height [degC].

    Raises
    ------
    Refusal, CustardError
        when somebody makes too many, or something told cannot be.
    """
    if boils_c is not None:
        settings["altitude_m"] = custard.altitude_boiling_at(boils_c)
    with transaction.atomic():
        must_be_few(user)
        kitchen = Kitchen.objects.create(slug=free_slug(name), name=name, **settings)
        Membership.objects.create(user=user, kitchen=kitchen, role=Role.CHEF)
        AuditEntry.objects.create(kitchen=kitchen, user=user, action="kitchen.begin", subject=name)
    return kitchen


MADE = ("kitchen.begin", BROUGHT_IN)
"""Actions by which a person makes a kitchen."""


def must_be_few(user: User) -> None:
    """Refuse another kitchen to who made too many, in the transaction that makes it; one that is brought in
    counts as one that is made.

    Raises
    ------
    Refusal
        when that is so.
    """
    User.objects.select_for_update(no_key=True).get(pk=user.pk)
    if AuditEntry.objects.filter(user=user, action__in=MADE).count() >= MOST_KITCHENS:
        raise Refusal(422, f"One person makes no more than {MOST_KITCHENS} kitchens.")


def free_slug(name: str) -> str:
    """An address of its own, from the name as far as it has letters, until the transaction ends."""
    one_at_a_time("kitchens")
    stem = slugify(name)[:50] or "kitchen"
    taken = set(Kitchen.objects.filter(slug__startswith=stem).values_list("slug", flat=True))
    return next(
        slug
        for slug in (stem, *(f"{stem}-{number}" for number in range(2, len(taken) + 3)))
        if slug not in taken
    )


@action("kitchen.throw-away", Role.CHEF)
def throw_away(actor: Actor) -> Kitchen:
    """Nobody enters a made-up kitchen any more. Its records stay, as records do.

    Raises
    ------
    Refusal
        for a kitchen that is not made up.
    """
    if not actor.kitchen.demo:
        raise Refusal(422, "Only the demo's kitchen can be thrown away: this one's records are real.")
    actor.kitchen.thrown_away_at = clock.now()
    actor.kitchen.save(update_fields=["thrown_away_at"])
    return actor.kitchen


def bring_back(user: User, slug: str) -> Kitchen:
    """The demo's kitchen is there again, for a chef of it."""
    found = (
        Kitchen.objects.filter(slug=slug, memberships__user=user, memberships__role=Role.CHEF)
        .exclude(thrown_away_at=None)
        .first()
    )
    if found is None:
        raise Http404
    found.thrown_away_at = None
    with transaction.atomic():
        found.save(update_fields=["thrown_away_at"])
        AuditEntry.objects.create(kitchen=found, user=user, action="kitchen.bring-back", subject=str(found))
    return found
