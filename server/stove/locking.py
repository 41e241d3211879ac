"""A batch under its lock, and what follows when it changed."""

from __future__ import annotations

from common.events import notify
from common.refusals import Conflict
from django.http import Http404
from kitchen.access import Actor

from stove.batch import facts
from stove.live import follow
from stove.models import Batch


def batch(actor: Actor, batch_id: int) -> Batch:
    """A batch that nobody else writes meanwhile, as a part of a greater action.

    Raises
    ------
    Http404
        when this kitchen has no such batch.
    """
    rows = Batch.objects.select_for_update(of=("self",), no_key=True)
    found = rows.filter(kitchen=actor.kitchen, pk=batch_id).first()
    if found is None:
        raise Http404
    return found


def open_batch(actor: Actor, batch_id: int) -> Batch:
    """As `batch`, of one that can still be changed.

    Raises
    ------
    Http404, Conflict
        when this kitchen has no such batch, or it is closed.
    """
    found = batch(actor, batch_id)
    must_be_open(found)
    return found


def must_be_open(batch: Batch) -> None:
    """Refuse to change a batch that is closed."""
    if batch.closed_at is not None:
        raise Conflict("This batch is closed. Open it again to change its record.", kind="closed")


def changed(batch: Batch) -> None:
    """Something was done to an open batch: its facts are written, it is followed from now on, and screens
    that show it are called."""
    facts.write(batch)
    follow.want(batch.pk)
    announce(batch)


def follows(batch: Batch) -> None:
    """As `changed`, of a batch that may be closed: nobody follows that."""
    if batch.closed_at is None:
        changed(batch)
    else:
        announce(batch)


def announce(batch: Batch) -> None:
    """Call the screens that show a batch."""
    notify(batch.kitchen_id, {"batch": batch.pk})
