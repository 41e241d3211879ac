"""What is written beside the days: what is in the house, and the address of the calendar."""

from __future__ import annotations

import hashlib

from common import clock
from kitchen import actions as kitchen_actions
from kitchen.access import Actor, Role, action
from kitchen.ending import counted, ends_with_the_role
from kitchen.models import Kitchen
from people.models import User

from day.models import Calendar, InHouse


@action("day.house", Role.COOK)
def in_house(actor: Actor, ingredient: str, amount: str) -> InHouse | None:
    """How much of something is in the house; "" for none.

    Raises
    ------
    CustardError
        when the amount cannot be weighed.
    """
    if not amount:
        InHouse.objects.filter(kitchen=actor.kitchen, ingredient=ingredient).delete()
        return None
    grams = kitchen_actions.weighs(actor.kitchen, ingredient, amount)
    row, _ = InHouse.objects.update_or_create(
        kitchen=actor.kitchen,
        ingredient=ingredient,
        defaults={"amount": amount, "grams": grams, "at": clock.now()},
    )
    return row


def summed(secret: str) -> str:
    """What of a calendar's secret is kept."""
    return hashlib.sha256(secret.encode()).hexdigest()


@action("day.calendar", Role.CHEF)
def make_calendar(actor: Actor, secret: str) -> Calendar:
    """An address at which the days can be subscribed to; the previous address no longer works."""
    made, _ = Calendar.objects.update_or_create(
        kitchen=actor.kitchen,
        defaults={"secret_sum": summed(secret), "made_at": clock.now(), "made_by": actor.user},
    )
    return made


@ends_with_the_role
def _address(kitchen: Kitchen, user: User) -> str:
    """The calendar's address no longer works; whoever made it knows."""
    count, _ = Calendar.objects.filter(kitchen=kitchen, made_by=user).delete()
    return counted(count, "the calendar's address", "calendars' addresses")


@action("day.calendar", Role.CHEF)
def remove_calendar(actor: Actor) -> None:
    """From now on nothing is to be had at that address."""
    Calendar.objects.filter(kitchen=actor.kitchen).delete()
