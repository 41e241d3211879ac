"""What a batch contains, passed on to its tubs and to whatever was made with these."""

from __future__ import annotations

from django.db.models import QuerySet
from kitchen.access import Actor
from stove import actions as stove
from stove import locking
from stove.reads import BatchRow

from shelf.models import Contents, Movement, Tub


def contents_changed(actor: Actor, batch: BatchRow) -> None:
    """Something went into a batch, or was taken back out of it; the batch is locked."""
    done: set[int] = set()
    waiting = [batch]
    while waiting:
        one = waiting.pop()
        done.add(one.pk)
        stove.contains(one)
        _tubs(actor, one).update(allergens=one.allergens, unheated=one.unheated)
        waiting += _made_with(actor, one, done)


def contents_joined(actor: Actor, batch: BatchRow) -> None:
    """A batch that was opened again is closed: whatever joined since is in what was put away before.

    Nothing is dropped from that: it may have been put away with what is no longer in the batch.
    """
    for tub in _tubs(actor, batch):
        tub.allergens = list(dict.fromkeys([*tub.allergens, *batch.allergens]))
        tub.unheated = list(dict.fromkeys([*tub.unheated, *batch.unheated]))
        tub.save(update_fields=["allergens", "unheated"])
    for one in _made_with(actor, batch, {batch.pk}):
        contents_changed(actor, one)


def _tubs(actor: Actor, batch: BatchRow) -> QuerySet[Tub]:
    return Tub.objects.filter(kitchen=actor.kitchen, batch=batch).exclude(what=Contents.WHITES)


def _made_with(actor: Actor, batch: BatchRow, done: set[int]) -> list[BatchRow]:
    """The batches that tubs of this one were drawn into, locked in one order."""
    drawn = Movement.objects.filter(tub__in=_tubs(actor, batch), corrected_by=None).exclude(into=None)
    into = sorted({key for key in drawn.values_list("into_id", flat=True) if key is not None} - done)
    return [locking.batch(actor, key) for key in into]
