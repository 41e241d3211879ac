"""Writing at the Stove."""

from __future__ import annotations

from datetime import timedelta
from typing import Any
from uuid import UUID

import custard
from book import reads as book
from common.refusals import Conflict, Refusal
from django.http import Http404
from django.utils import timezone
from kitchen.access import Actor, action
from kitchen.models import Kitchen, Role

from stove.models import Batch, Mark
from stove.schemas import COLDEST_C, HOTTEST_C, NewMark

EARLY = timedelta(hours=1)
LATE = timedelta(minutes=2)


@action("batch.start", Role.COOK)
def start(actor: Actor, formula_id: int, version: int, formula: custard.Formula) -> Batch:
    """Take a formula to the stove, as scaled; the next number of the kitchen is taken under a lock."""
    source = book.version(actor, formula_id, version)
    kitchen = Kitchen.objects.select_for_update().get(pk=actor.kitchen.pk)
    number = kitchen.next_batch
    kitchen.next_batch += 1
    kitchen.save(update_fields=["next_batch"])
    return Batch.objects.create(
        kitchen=kitchen,
        number=number,
        version=source,
        content=custard.write_formula(formula),
        plan=book.assessment(formula, kitchen, source.formula.schools).dict(),
        started_by=actor.user,
        started_at=timezone.now(),
    )


@action("batch.mark", Role.COOK)
def mark(actor: Actor, batch_id: int, new: NewMark) -> Mark:
    """Record something that happened. Sent again with the same id it changes nothing.

    Raises
    ------
    Conflict
        when the batch is closed, or the id is that of another batch's mark.
    Refusal
        when time, temperature or line cannot be right.
    """
    batch = _locked(actor, batch_id)
    known = Mark.objects.filter(pk=new.id).first()
    if known is not None:
        if known.batch_id != batch.pk:
            raise Conflict("That mark belongs to another batch.")
        return known
    _must_be_open(batch)
    _check(batch, new)
    values: dict[str, Any] = new.dict()
    values |= {name: values[name] or "" for name in ("coat", "finger_line", "sieve")}
    return Mark.objects.create(batch=batch, by=actor.user, **values)


@action("batch.unmark", Role.COOK)
def withdraw(actor: Actor, batch_id: int, mark_id: UUID) -> Mark:
    """Take a mark back; it stays in the record as withdrawn."""
    batch = _locked(actor, batch_id)
    _must_be_open(batch)
    found = batch.marks.filter(pk=mark_id).first()
    if found is None:
        raise Http404
    if found.withdrawn_at is None:
        found.withdrawn_at = timezone.now()
        found.save(update_fields=["withdrawn_at"])
    return found


@action("batch.close", Role.COOK)
def close(actor: Actor, batch_id: int, verdict: str, note: str) -> Batch:
    """Close a batch with a verdict."""
    batch = _locked(actor, batch_id)
    _must_be_open(batch)
    batch.closed_at = timezone.now()
    batch.verdict, batch.verdict_note = verdict, note
    batch.save(update_fields=["closed_at", "verdict", "verdict_note"])
    return batch


@action("batch.reopen", Role.COOK)
def reopen(actor: Actor, batch_id: int) -> Batch:
    """Open a closed batch again; its verdict is taken back."""
    batch = _locked(actor, batch_id)
    batch.closed_at, batch.verdict, batch.verdict_note = None, "", ""
    batch.save(update_fields=["closed_at", "verdict", "verdict_note"])
    return batch


def _locked(actor: Actor, batch_id: int) -> Batch:
    found = Batch.objects.select_for_update().filter(kitchen=actor.kitchen, pk=batch_id).first()
    if found is None:
        raise Http404
    return found


def _must_be_open(batch: Batch) -> None:
    if batch.closed_at is not None:
        raise Conflict("This batch is closed. Open it again to change its record.", kind="closed")


def _check(batch: Batch, new: NewMark) -> None:
    now = timezone.now()
    if new.at > now + LATE:
        raise Refusal(
            422, "That time has not come yet.", [("at", "has not come yet; check the device's clock")]
        )
    if new.at < batch.started_at - EARLY:
        raise Refusal(422, "That was before the batch.", [("at", "is before the batch was started")])
    if new.temperature_c is not None and not COLDEST_C <= new.temperature_c <= HOTTEST_C:
        read = f"{new.temperature_c:g} °C cannot be a sauce"
        sentence = f"{read}: a probe in one shows {COLDEST_C:g} to {HOTTEST_C:g} °C."
        raise Refusal(422, sentence, [("temperature_c", sentence)])
    if new.line is not None and new.line >= len(batch.plan["slip"]):
        raise Refusal(422, "The slip has no such line.", [("line", "is not a line of the slip")])
