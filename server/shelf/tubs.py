"""A tub written to: put away, moved, promised. For the actions of the shelf, inside their transaction.

A tub is locked while something is done with it, and what is left of it is added up by the database itself,
which refuses to go below nothing: of two who draw the last of a tub at once, the second is told.
"""

from __future__ import annotations

from datetime import datetime
from decimal import Decimal
from typing import Any
from uuid import UUID, uuid5

from common import clock
from common.events import notify
from common.refusals import Conflict
from django.db import IntegrityError, transaction
from django.db.models import Max
from kitchen.access import Actor
from stove.reads import BatchRow

from shelf import facts
from shelf.models import Movement, MovementKind, Tub

NAMESPACE = UUID("0e0b8a9c-5a0a-5a52-9a53-53ce1b0f51aa")
NOTHING = Decimal(0)


def tenths(grams: float) -> Decimal:
    """Grams as the shelf counts them."""
    return Decimal(str(round(grams, 1)))


def shown_g(amount: Decimal) -> str:
    """Grams as they stand in a sentence, for the reader to show in their own unit."""
    return f"{{{float(amount):g} g}}"


def put_away(actor: Actor, batch: BatchRow, grams: float, /, **values: Any) -> Tub:
    """A new tub with so much in it, under the next number of its batch, which is locked."""
    last = Tub.objects.filter(batch=batch, what=values["what"]).aggregate(last=Max("part"))["last"]
    tub = unsaved(actor, batch, grams, (last or 0) + 1, **values)
    tub.save()
    moved(actor, tub, MovementKind.MADE, change_g=tub.made_g, at=None)
    facts.write(tub)
    notify(actor.kitchen.pk, {"shelf": tub.pk})
    return tub


def unsaved(actor: Actor, batch: BatchRow, grams: float, part: int, /, **values: Any) -> Tub:
    """The row of a new tub."""
    values = {"name": batch.name, "allergens": batch.allergens, "unheated": batch.unheated, **values}
    tub = Tub(kitchen=actor.kitchen, batch=batch, family=batch.family, part=part, **values)
    tub.made_g = tenths(grams)
    tub.place = tub.begins.get("place", tub.place)
    facts.dated(tub)
    return tub


def unsaved_movement(
    actor: Actor, tub: Tub, kind: str, key: UUID | None = None, /, **values: Any
) -> Movement:
    """The row of a movement."""
    values["at"] = values.get("at") or clock.now()
    own = key or uuid5(NAMESPACE, f"{tub.pk} {kind} {values['at'].isoformat()}")
    return Movement(id=own, kitchen=actor.kitchen, tub=tub, kind=kind, by=actor.user, **values)


def moved(actor: Actor, tub: Tub, kind: str, key: UUID | None = None, /, **values: Any) -> Movement:
    """Write down that something was done with a tub, and add it up.

    Raises
    ------
    Conflict
        when there is too little, or too much of it is promised.
    """
    made = unsaved_movement(actor, tub, kind, key, **values)
    try:
        with transaction.atomic():
            made.save(force_insert=True)
    except IntegrityError as error:
        raise refused(tub, error) from None
    tub.refresh_from_db(fields=["left_g"])
    return made


def refused(tub: Tub, error: IntegrityError) -> Conflict:
    """What the database would not add up, in words."""
    if "promised" in str(error):
        free = tub.left_g - tub.promised_g
        return Conflict(
            f"{shown_g(tub.left_g)} are left, of which {shown_g(tub.promised_g)} are promised; "
            f"{shown_g(free)} are free. Use it for that promise, or take the promise away.",
            kind="promised",
        )
    if "never_less" in str(error):
        return Conflict(f"Only {shown_g(tub.left_g)} are left of it.", kind="too-little")
    return Conflict("That movement belongs to another tub.")


def let_go_promises(tub: Tub, at: datetime) -> None:
    """What is gone is promised to nobody from that moment on."""
    tub.promises.filter(kept_by=None, withdrawn_at=None).update(withdrawn_at=at)
    tub.promised_g = NOTHING
    tub.save(update_fields=["promised_g"])


def promise_again(tub: Tub, at: datetime) -> None:
    """What was let go at that moment stands again: it was not gone."""
    back = list(tub.promises.filter(kept_by=None, withdrawn_at=at))
    tub.promises.filter(pk__in=[one.pk for one in back]).update(withdrawn_at=None)
    less_promised(tub, -sum((one.grams for one in back), NOTHING))


def less_promised(tub: Tub, grams: Decimal) -> None:
    """So much less of a tub is promised; more, where it is below nothing."""
    tub.promised_g -= grams
    try:
        with transaction.atomic():
            tub.save(update_fields=["promised_g"])
    except IntegrityError as error:
        tub.promised_g += grams
        raise refused(tub, error) from None
