"""A batch closed: what of it is kept goes on the shelf, in one write."""

from __future__ import annotations

import logging
from datetime import timedelta
from typing import Any

import custard
from common import clock, database
from common.events import notify
from common.refusals import Refusal
from custard.vocabulary import StageName
from kitchen.access import Actor, Role, action
from stove import actions as stove
from stove import locking, marking
from stove import reads as stove_reads
from stove.after import keeping
from stove.reads import BatchRow

from shelf import facts
from shelf.models import Contents, MovementKind, Tub
from shelf.schemas import Closing
from shelf.spread import contents_joined
from shelf.tubs import let_go_promises, moved, put_away

UNKNOWN = "cannot go on the shelf: nothing can be computed of this batch, so nobody knows how it keeps"
REHEARSED = "A rehearsal makes nothing: none of it goes on the shelf."
log = logging.getLogger("oldspoon.shelf")


def close(actor: Actor, batch_id: int, closing: Closing) -> BatchRow:
    """Close a batch and put away what of it is kept, with the whites it left over.

    Raises
    ------
    Conflict
        when it is closed already.
    Refusal
        when more is kept than there is, or it is a rehearsal.
    """
    actor.must(Role.COOK)
    batch = stove_reads.batch(actor, batch_id)
    made = _computed(batch)
    if made is None:
        if closing.kept_g:
            raise Refusal(422, UNKNOWN, [("kept_g", UNKNOWN)])
        return _close(actor, batch_id, closing, None, 0.0, 0.0)
    kept_g, whites_g = kept(batch, closing, made)
    database.release_connection()
    return _close(actor, batch_id, closing, made, kept_g, whites_g)


def _computed(batch: BatchRow) -> keeping.PutAway | None:
    """What a batch is as it is put away; None where nothing can be computed of it, for it is closed all the
    same."""
    try:
        return keeping.put_away(batch, batch.closed_at or clock.now())
    except Exception:  # no batch can be impossible to close
        log.exception("batch %s cannot be put away", batch.pk)
        return None


def kept(batch: BatchRow, closing: Closing, made: keeping.PutAway) -> tuple[float, float]:
    """How much of a batch goes on the shelf, and how much of its whites [g].

    Raises
    ------
    Refusal
        when more is kept than there is, or it is a rehearsal.
    """
    if batch.pace != 1:
        if closing.kept_g or closing.whites_g:
            raise Refusal(422, REHEARSED, [("kept_g", REHEARSED)])
        return 0.0, 0.0
    came_g = made.yield_g if closing.yield_g is None else closing.yield_g
    if closing.kept_g is not None and closing.kept_g > came_g:
        sentence = f"is more than the {{{came_g:.0f} g}} that came of it"
        raise Refusal(422, f"That {sentence}.", [("kept_g", sentence)])
    # What does not keep is served, and put away only where somebody says so; what is undecided stands there.
    usual_g = came_g if made.life.days > 0 or made.life.missing else 0.0
    kept_g = usual_g if closing.kept_g is None else closing.kept_g
    whites_g = made.whites_g if closing.whites_g is None else closing.whites_g
    return 0.0 if closing.verdict == "discarded" else kept_g, whites_g


@action("batch.close", Role.COOK)
def _close(
    actor: Actor,
    batch_id: int,
    closing: Closing,
    made: keeping.PutAway | None,
    kept_g: float,
    whites_g: float,
) -> BatchRow:
    batch = stove.close(actor, batch_id, closing.verdict, closing.note, closing.yield_g)
    if closing.verdict == "discarded":
        _discard(actor, batch)
    if made is None:
        return batch
    # Opened again and closed again: what was put away stays as it is.
    there = set(batch.tubs.values_list("what", flat=True))
    _not_twice(there, closing)
    for grams, values in tubs_of(batch, made, kept_g, whites_g):
        if values["what"] not in there:
            put_away(actor, batch, grams, **values)
    if there:
        contents_joined(actor, batch)
    return batch


def decide(actor: Actor, batch_id: int, reason: str) -> BatchRow:
    """Decide that a batch may be used although its record lacks something: its tubs are given their life.

    Raises
    ------
    Http404
        when this kitchen has no such batch.
    """
    actor.must(Role.COOK)
    marking.decide(actor, batch_id, reason)
    batch = stove_reads.batch(actor, batch_id)
    made = _computed(batch)
    return batch if made is None else _given_life(actor, batch_id, made)


@action("batch.life", Role.COOK)
def _given_life(actor: Actor, batch_id: int, made: keeping.PutAway) -> BatchRow:
    batch = locking.batch(actor, batch_id)
    for tub in Tub.objects.select_for_update(no_key=True).filter(batch=batch, what=Contents.SAUCE):
        if facts.life_of(tub).missing:
            tub.life = custard.plain(made.life)
            tub.save(update_fields=["life"])
            facts.write(tub)
            notify(actor.kitchen.pk, {"shelf": tub.pk})
    return stove_reads.batch(actor, batch_id)


def tubs_of(
    batch: BatchRow, made: keeping.PutAway, kept_g: float, whites_g: float
) -> list[tuple[float, dict[str, Any]]]:
    """The tubs that a batch is put into: how much in each [g], and what is known of it."""
    found: list[tuple[float, dict[str, Any]]] = []
    if kept_g > 0:
        rests = timedelta(hours=made.life.rests_h)
        sauce = {
            "what": Contents.SAUCE,
            "life": custard.plain(made.life),
            "made_at": made.made_at,
            "ready_at": made.cold_at + rests if rests else None,
            "vessel": made.vessel,
            "begins": {"filmed": made.filmed},
        }
        found.append((kept_g, sauce))
    if whites_g > 0:
        whites = {
            "what": Contents.WHITES,
            "name": "egg whites",
            "life": custard.plain(made.whites_life),
            "made_at": batch.when_done(StageName.WEIGH) or batch.started_at,
            "allergens": ["egg"],
            "unheated": ["egg white"],
        }
        found.append((whites_g, whites))
    return found


def _not_twice(there: set[str], closing: Closing) -> None:
    """Refuse a weight for what is on the shelf since it was closed before: it is weighed again there."""
    for what, field in ((Contents.SAUCE, "kept_g"), (Contents.WHITES, "whites_g")):
        if what in there and getattr(closing, field) is not None:
            sentence = "is on the shelf since it was closed before; weigh it again there"
            raise Refusal(422, f"That {sentence}.", [(field, sentence)])


def _discard(actor: Actor, batch: BatchRow) -> None:
    for tub in (
        Tub.objects.select_for_update(no_key=True)
        .filter(batch=batch, left_g__gt=0)
        .exclude(what=Contents.WHITES)
    ):
        now = clock.now()
        let_go_promises(tub, now)
        moved(actor, tub, MovementKind.THROWN, change_g=-tub.left_g, at=now, note="the batch was discarded")
        facts.write(tub)
