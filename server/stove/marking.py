"""Writing down what happened to a batch."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any
from uuid import UUID, uuid4

from common import clock
from common.refusals import Conflict, Refusal
from custard.vocabulary import MarkKind, StageName
from django.db import IntegrityError, transaction
from django.http import Http404
from kitchen.access import Actor, Role, action

from stove import locking, mark_checks, reads
from stove.models import MAY_BE_USED, Batch, Mark, Withdrawal
from stove.schemas import NewMark

LASTING = (MarkKind.ALARM, MarkKind.CLOSED, MarkKind.REOPENED, MarkKind.ODD)
"""Marks that nobody takes back: said by a worker, or what happened to the batch as a whole."""


def mark(actor: Actor, batch_id: int, new: NewMark) -> Mark:
    """Record something that happened. Sent again with the same id it changes nothing, not even the audit.

    Raises
    ------
    Conflict
        when the batch is closed, or the id is that of another batch's mark.
    Refusal
        when time, temperature or line cannot be right.
    """
    _must_be_own(actor, new)
    actor.must(Role.COOK)
    # In columns only: a mark is made often, and needs no more of it.
    return _known(reads.line(actor, batch_id), new.id) or _mark(actor, batch_id, [new])


def marks(actor: Actor, batch_id: int, new: Sequence[NewMark]) -> None:
    """Record several things that happened, in order: all of them or none. Those that are there already count
    once.

    Raises
    ------
    Conflict, Refusal
        as `mark`; what is wrong is named by its place, as "marks[2].at".
    """
    for one in new:
        _must_be_own(actor, one)
    actor.must(Role.COOK)
    _mark(actor, batch_id, new)


def _must_be_own(actor: Actor, new: NewMark) -> None:
    if new.by not in (None, actor.user.username):
        raise Conflict(f"That mark is {new.by}'s; they can send it when they log in.", kind="someone-else")


def _known(batch: Batch, mark_id: UUID) -> Mark | None:
    """The mark of that id if this batch has it already."""
    known = Mark.objects.filter(pk=mark_id).first()
    if known is not None and known.batch_id != batch.pk:
        raise Conflict("That mark belongs to another batch.")
    return known


@action("batch.mark", Role.COOK)
def _mark(actor: Actor, batch_id: int, new: Sequence[NewMark]) -> Mark:
    """The last of the marks, by which the audit names them."""
    batch = locking.batch(actor, batch_id)
    known = [_known(batch, one.id) for one in new]
    if known[-1] is not None and all(known):
        return known[-1]
    locking.must_be_open(batch)
    made = [
        there or _saved(actor, batch, one, f"marks[{place}]" if len(new) > 1 else "")
        for place, (one, there) in enumerate(zip(new, known, strict=True))
    ]
    locking.changed(batch)
    return made[-1]


def _saved(actor: Actor, batch: Batch, new: NewMark, at: str) -> Mark:
    try:
        mark_checks.must_be_right(batch, new)
    except Refusal as refused:
        raise refused.at(at) from None
    made = unsaved_mark(actor, batch, new)
    try:
        with transaction.atomic():
            made.save(force_insert=True)
    except IntegrityError:
        # Sent to two batches at once: whichever came first has it.
        raise Conflict("That mark belongs to another batch.") from None
    return made


def unsaved_mark(actor: Actor, batch: Batch, new: NewMark) -> Mark:
    """The row of a mark."""
    values: dict[str, Any] = new.dict(exclude={"by"})
    values |= {name: values[name] or "" for name in ("coat", "finger_line", "sieve", "what")}
    return Mark(batch=batch, by=actor.user, **values)


@action("batch.decide", Role.COOK)
def decide(actor: Actor, batch_id: int, reason: str) -> Mark:
    """Write down that a batch, open or closed, may be used although its record lacks something, and why."""
    batch = locking.batch(actor, batch_id)
    made = of_the_whole(actor, batch, MarkKind.DECIDED, what=MAY_BE_USED, note=reason)
    made.save(force_insert=True)
    locking.follows(batch)
    return made


@action("batch.unmark", Role.COOK)
def withdraw(actor: Actor, batch_id: int, mark_id: UUID) -> Mark:
    """Take a mark back; it stays in the record as withdrawn."""
    batch = locking.open_batch(actor, batch_id)
    found = batch.marks.filter(pk=mark_id).first()
    if found is None:
        raise Http404
    if found.kind == MarkKind.REMEDY:
        raise Conflict("Take the remedy back where it stands in the batch: what it added goes with it.")
    if found.kind in LASTING or found.what == MAY_BE_USED:
        raise Conflict("That stays in the record as it is; write another mark.")
    _, new = Withdrawal.objects.get_or_create(mark=found, defaults={"at": clock.now(), "by": actor.user})
    if new:
        locking.changed(batch)
    return found


def of_the_whole(actor: Actor, batch: Batch, kind: MarkKind, **words: Any) -> Mark:
    """What happens to a batch as a whole stands among its marks, at its last stage: no step of a cook."""
    last = StageName.KEEP
    return Mark(id=uuid4(), batch=batch, by=actor.user, at=clock.now(), stage=last, kind=kind, **words)
