"""What went into a batch and where it went, through every batch in between: for a recall, both ways."""

from __future__ import annotations

from collections.abc import Callable

from common import clock
from django.db.models import QuerySet
from kitchen.access import Actor
from stove import reads as stove
from stove.reads import shown

from shelf import reads
from shelf.models import Movement, MovementKind
from shelf.schemas import Stop, Trace


def trace(actor: Actor, batch_id: int) -> Trace:
    """The chain of a batch both ways, and what is left of it and of all it went into."""
    batch = stove.batch(actor, batch_id)
    rows = Movement.objects.filter(kitchen=actor.kitchen, kind=MovementKind.USED, corrected_by=None)
    came = _chain(batch_id, lambda ids: rows.filter(into_id__in=ids), lambda one: one.tub.batch_id)
    went = _chain(batch_id, lambda ids: rows.filter(tub__batch_id__in=ids), lambda one: one.into_id)
    into = {one.into_batch_id for one in went if one.into_batch_id is not None} | {batch_id}
    left = reads.tubs(actor).filter(batch_id__in=into, left_g__gt=0)
    now = clock.now()
    return Trace(
        batch_id=batch.pk,
        batch=batch.number,
        name=batch.name,
        allergens=batch.allergens,
        came_from=came,
        went_to=went,
        left=[reads.line(row, now) for row in left],
    )


def _chain(
    batch_id: int,
    next_of: Callable[[set[int]], QuerySet[Movement]],
    leads_to: Callable[[Movement], int | None],
) -> list[Stop]:
    """Step by step to the end, a query a step; a batch is looked at once, so a circle ends too."""
    found: list[Stop] = []
    seen, here = {batch_id}, {batch_id}
    steps = 0
    while here:
        steps += 1
        moves = list(reads.standing(next_of(here)))
        found += [_stop(one, steps) for one in moves]
        here = {key for one in moves if (key := leads_to(one)) is not None} - seen
        seen |= here
    return found


def _stop(one: Movement, steps: int) -> Stop:
    return Stop(
        tub_id=one.tub_id,
        batch_id=one.tub.batch_id,
        batch=one.tub.batch.number,
        name=one.tub.name,
        made_at=one.tub.made_at,
        grams=-reads.grams(one.change_g),
        at=one.at,
        to=one.to,
        into_batch_id=one.into_id,
        into_batch="" if one.into is None else f"batch {one.into.number}, {one.into.name}",
        by=shown(one.by),
        steps=steps,
    )
