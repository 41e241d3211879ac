"""Beginning, cooling, mending and ending a batch; `marking` and `setting_up` write the rest of it."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from uuid import UUID

import custard
from book import reads as book
from common import clock, database
from common.events import notify
from common.refusals import Conflict
from custard.vocabulary import MarkKind, StageName
from kitchen import actions as kitchen_actions
from kitchen import reads as kitchen
from kitchen.access import Actor, Role, action

from stove import cooling, locking, marking, reads, setting_up, tasks
from stove.batch import contents
from stove.batch.cooking import assessed
from stove.batch.taken import Taken, parameters_kept, taken, unsaved
from stove.live import follow
from stove.models import NOT_ODD, ODD, Batch, Mark, Remedy, Withdrawal
from stove.schemas import CoolingKept, CoolingWanted

_ENDED = ("closed_at", "verdict", "verdict_note", "yield_g")


def start(
    actor: Actor,
    formula_id: int,
    version: int,
    formula: custard.Formula,
    pace: float = 1,
    *,
    as_computed: bool = False,
) -> Batch:
    """Take a formula to the stove, as scaled.

    What it is made of, how, and under what conditions is its own from now on. With a `pace` above 1 it is a
    rehearsal, its time running so many times as fast; it teaches nothing. What the kitchen learned of such a
    sauce is left out of it where it is to be made `as_computed`. It begins on the hob, in the pan and with
    the probe of last time, which the page says and a touch changes.
    """
    actor.must(Role.COOK)
    source = book.version(actor, formula_id, version)
    conditions, schools = kitchen.conditions_of(actor.kitchen), source.formula.schools
    conditions = replace(conditions, house=()) if as_computed else conditions
    database.release_connection()
    changed = custard.bench.changed_from(custard.read_formula(source.content), formula)
    made = taken(source.pk, formula, conditions, schools, changed)
    last = setting_up.as_last_time(actor, formula_id, made.result.way.name)
    return _start(actor, last.taken(made), pace, last)


@action("batch.start", Role.COOK)
def _start(actor: Actor, taken: Taken, pace: float, last: setting_up.AsLastTime) -> Batch:
    """The batch of what was taken; the next number of the kitchen is taken under a lock."""
    parameters = parameters_kept(taken.parameters)
    batch = unsaved(actor, taken, parameters, pace, kitchen_actions.next_batch_number(actor))
    batch.hob, batch.pan = last.hob, last.pan
    batch.save(force_insert=True)
    if last.probe_id is not None:
        setting_up.put_probe(actor, batch, last.probe_id)
    follow.begin(batch)
    notify(actor.kitchen.pk, {"stove": 1})
    return batch


def cool(actor: Actor, batch_id: int, wanted: CoolingWanted) -> Batch:
    """Say in what and by what ways a batch is cooled; it is computed first, so what cannot be is refused."""
    actor.must(Role.COOK)
    batch = reads.batch(actor, batch_id)
    kept = cooling.chosen(batch, wanted, lambda key: kitchen.cooler(actor, key))
    kept.vessel.depth_mm(assessed(batch).whole, kept.mass_g)
    return _cool(actor, batch_id, kept)


@action("batch.cool", Role.COOK)
def _cool(actor: Actor, batch_id: int, kept: CoolingKept) -> Batch:
    batch = locking.open_batch(actor, batch_id)
    batch.cooling = kept.model_dump(mode="json")
    batch.save(update_fields=["cooling"])
    locking.changed(batch)
    return batch


@action("batch.guests", Role.COOK)
def for_guests(actor: Actor, batch_id: int, *, vulnerable: bool) -> Batch:
    """Say whether a batch is for guests who must not fall ill."""
    batch = locking.open_batch(actor, batch_id)
    batch.vulnerable = vulnerable
    batch.save(update_fields=["vulnerable"])
    locking.announce(batch)
    return batch


def contains(batch: Batch) -> None:
    """Something went into a batch, or was taken back out of it: what it contains is written again."""
    contents.write(batch)
    locking.announce(batch)


def remedy(actor: Actor, batch: Batch, key: UUID, grams: float, **told: Any) -> Remedy:
    """Write into a locked batch what is done about a trouble, as a part of a greater action.

    `grams` is what that adds to it, or takes away [g]; a closed batch takes it as well, for its tubs.
    """
    stage = StageName.KEEP if batch.closed_at else batch.stage
    made = Mark.objects.create(
        id=key,
        batch=batch,
        by=actor.user,
        at=clock.now(),
        stage=stage,
        kind=MarkKind.REMEDY,
        what=told["fault"],
        grams=round(grams, 1),
        note=told["say"][:500],
    )
    found = Remedy.objects.create(mark=made, **told)
    locking.follows(batch)
    return found


def remedy_back(actor: Actor, batch: Batch, remedy: Remedy) -> bool:
    """Take a remedy of a locked batch back, as a part of a greater action; whether it stood until now."""
    _, new = Withdrawal.objects.get_or_create(
        mark=remedy.mark, defaults={"at": clock.now(), "by": actor.user}
    )
    if new:
        locking.follows(batch)
    return new


def close(actor: Actor, batch_id: int, verdict: str, note: str, yield_g: float | None = None) -> Batch:
    """Close a batch with a verdict, and what it weighed in the end [g], as a part of a greater action.

    A worker then looks back on it, and its curve teaches hob and pan.
    """
    batch = locking.open_batch(actor, batch_id)
    ended(actor, batch, verdict, note, yield_g).save(force_insert=True)
    batch.save(update_fields=_ENDED)
    batch.probes.filter(until=None).update(until=batch.closed_at)
    follow.end(batch)
    tasks.learn.defer(batch_id=batch.pk, user_id=actor.user.pk)
    locking.announce(batch)
    return batch


@action("batch.odd", Role.COOK)
def odd(actor: Actor, batch_id: int, *, is_odd: bool, reason: str = "") -> Mark:
    """Say that nothing is to be learned of a closed batch, or that it is to be learned from after all.

    Raises
    ------
    Conflict
        while it is on the stove.
    """
    batch = locking.batch(actor, batch_id)
    if batch.closed_at is None:
        raise Conflict("Only what is closed teaches anything: close the batch first.", kind="open")
    made = marking.of_the_whole(actor, batch, MarkKind.ODD, what=ODD if is_odd else NOT_ODD, note=reason)
    made.save(force_insert=True)
    tasks.learn_sauces.defer(batch_id=batch.pk, user_id=actor.user.pk)
    locking.announce(batch)
    return made


def ended(actor: Actor, batch: Batch, verdict: str, note: str, yield_g: float | None) -> Mark:
    """End a batch now; returns the mark that says so. Nothing is saved."""
    batch.closed_at = clock.now()
    batch.verdict, batch.verdict_note, batch.yield_g = verdict, note, yield_g
    return marking.of_the_whole(actor, batch, MarkKind.CLOSED, what=verdict, grams=yield_g, note=note)


@action("batch.reopen", Role.COOK)
def reopen(actor: Actor, batch_id: int) -> Batch:
    """Open a closed batch again; its verdict and what it weighed are taken back.

    Raises
    ------
    Conflict
        when it is open.
    """
    batch = locking.batch(actor, batch_id)
    if batch.closed_at is None:
        raise Conflict("This batch is open already.", kind="open")
    batch.closed_at, batch.verdict, batch.verdict_note, batch.yield_g = None, "", "", None
    batch.save(update_fields=_ENDED)
    marking.of_the_whole(actor, batch, MarkKind.REOPENED).save(force_insert=True)
    follow.begin(batch)
    locking.announce(batch)
    return batch
