"""Who practises here: everybody of the kitchen."""

from __future__ import annotations

from django.http import Http404
from kitchen.access import Actor
from kitchen.models import Membership
from people.models import User

from practice.schemas import PersonOut


def people(actor: Actor) -> list[User]:
    """Everybody of this kitchen, by what they are called."""
    members = Membership.objects.filter(kitchen=actor.kitchen).select_related("user")
    return sorted((one.user for one in members), key=lambda one: one.shown())


def person(actor: Actor, person_id: int) -> User:
    """Somebody of this kitchen.

    Raises
    ------
    Http404
        when they do not belong to it.
    """
    found = next((one for one in people(actor) if one.pk == person_id), None)
    if found is None and person_id == actor.user.pk:
        return actor.user
    if found is None:
        raise Http404
    return found


def person_out(user: User) -> PersonOut:
    """Somebody as told."""
    return PersonOut(id=user.pk, name=user.shown())
