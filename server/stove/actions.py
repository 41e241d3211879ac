"""Writing at the Stove."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import Any, TypeVar
from uuid import UUID, uuid4

import custard
from book import reads as book
from common import clock, database
from common.events import notify
from common.refusals import Conflict, Refusal
from devices import reads as devices
from django.db import IntegrityError, transaction
from django.http import Http404
from kitchen import actions as kitchen_actions
from kitchen import reads as kitchen
from kitchen.access import Actor, Role, action

from stove import contents, cooling, facts, follow, mark_checks, reads, tasks
from stove.cooking import assessed, equipped, usual_equipment
from stove.models import MAY_BE_USED, Batch, Kind, Mark, ProbeUse, Remedy, Withdrawal
from stove.schemas import CoolingKept, CoolingWanted, EquipmentWanted, NewMark
from stove.taken import Taken, lift_of, parameters_kept, taken, unsaved

LASTING = (Kind.ALARM, Kind.CLOSED, Kind.REOPENED)
"""Marks that nobody takes back: said by a worker, or what happened to the batch as a whole."""
_ENDED = ("closed_at", "verdict", "verdict_note", "yield_g")


def start(actor: Actor, formula_id: int, version: int, formula: custard.Formula, pace: float = 1) -> Batch:
    """Take a formula to the stove, as scaled.

    What it is made of, how, and under what conditions is its own from now on. With a `pace` above 1 it is a
    rehearsal, its time running so many times as fast; it teaches nothing about hobs and pans.
    """
    actor.must(Role.COOK)
    source = book.version(actor, formula_id, version)
    conditions, schools = kitchen.conditions_of(actor.kitchen), source.formula.schools
    database.let_go()
    changed = custard.bench.changed_from(custard.read_formula(source.content), formula)
    return _start(actor, taken(source.pk, formula, conditions, schools, changed), pace)


@action("batch.start", Role.COOK)
def _start(actor: Actor, taken: Taken, pace: float) -> Batch:
    """The batch of what was taken; the next number of the kitchen is taken under a lock."""
    parameters = parameters_kept(taken.result.conditions.parameters)
    batch = unsaved(actor, taken, parameters, pace, kitchen_actions.next_batch_number(actor))
    batch.save(force_insert=True)
    follow.begin(batch)
    notify(actor.kitchen.pk, {"stove": 1})
    return batch


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
    return _known(_here(actor, batch_id), new.id) or _mark(actor, batch_id, [new])


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


def _here(actor: Actor, batch_id: int) -> Batch:
    """A batch of this kitchen, in columns only: a mark is made often, and needs no more of it."""
    found = reads.lines(actor).filter(pk=batch_id).first()
    if found is None:
        raise Http404
    return found


def _known(batch: Batch, mark_id: UUID) -> Mark | None:
    """The mark of that id if this batch has it already."""
    known = Mark.objects.filter(pk=mark_id).first()
    if known is not None and known.batch_id != batch.pk:
        raise Conflict("That mark belongs to another batch.")
    return known


@action("batch.mark", Role.COOK)
def _mark(actor: Actor, batch_id: int, new: Sequence[NewMark]) -> Mark:
    """The last of the marks, by which the audit names them."""
    batch = locked(actor, batch_id)
    known = [_known(batch, one.id) for one in new]
    if known[-1] is not None and all(known):
        return known[-1]
    _must_be_open(batch)
    made = [
        there or _saved(actor, batch, one, f"marks[{place}]" if len(new) > 1 else "")
        for place, (one, there) in enumerate(zip(new, known, strict=True))
    ]
    _changed(batch)
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
    batch = locked(actor, batch_id)
    made = _of_the_whole(actor, batch, Kind.DECIDED, what=MAY_BE_USED, note=reason)
    made.save(force_insert=True)
    _follows(batch)
    return made


@action("batch.unmark", Role.COOK)
def withdraw(actor: Actor, batch_id: int, mark_id: UUID) -> Mark:
    """Take a mark back; it stays in the record as withdrawn."""
    batch = locked(actor, batch_id)
    _must_be_open(batch)
    found = batch.marks.filter(pk=mark_id).first()
    if found is None:
        raise Http404
    if found.kind == Kind.REMEDY:
        raise Conflict("Take the remedy back where it stands in the batch: what it added goes with it.")
    if found.kind in LASTING or found.what == MAY_BE_USED:
        raise Conflict("That stays in the record as it is; write a mark of your own beside it.")
    _, new = Withdrawal.objects.get_or_create(mark=found, defaults={"at": clock.now(), "by": actor.user})
    if new:
        _changed(batch)
    return found


def set_up(actor: Actor, batch_id: int, wanted: EquipmentWanted) -> Batch:
    """Say what a batch is cooked on and in, and which probe lies in it.

    A probe that lay in another batch is taken out of that one.
    """
    actor.must(Role.COOK)
    batch = reads.batch(actor, batch_id)
    database.let_go()
    result = assessed(batch)
    usual = usual_equipment(result, batch.schools)
    hob, pan = kitchen.hob(actor, wanted.hob_id or 0), kitchen.pan(actor, wanted.pan_id or 0)
    lift = lift_of(result, equipped(usual, hob, pan), batch.planned_landing_c)
    return _set_up(actor, batch_id, wanted, usual, lift)


@action("batch.set-up", Role.COOK)
def _set_up(
    actor: Actor,
    batch_id: int,
    wanted: EquipmentWanted,
    usual: custard.stove.Equipment,
    lift: dict[str, Any] | None,
) -> Batch:
    batch = locked(actor, batch_id)
    _must_be_open(batch)
    batch.hob = _mine(kitchen.hob, actor, wanted.hob_id, "hob_id")
    batch.pan = _mine(kitchen.pan, actor, wanted.pan_id, "pan_id")
    equip(batch, usual, wanted)
    batch.lift = lift
    batch.save(update_fields=["hob", "pan", "equipment", "lift"])
    contents.write(batch)
    _put_probe(actor, batch, wanted.probe_id)
    _changed(batch)
    return batch


def equip(batch: Batch, usual: custard.stove.Equipment, wanted: EquipmentWanted) -> None:
    """Set what a batch is cooked on and in, by its hob and pan as they are known now. Not saved."""
    found = equipped(usual, batch.hob, batch.pan)
    if usual.cups is not None:
        cups = usual.cups if wanted.cups is None else custard.process.Cups.of(wanted.cups.dict())
        found = replace(found, cups=cups)
    batch.equipment = found.as_json()


def _put_probe(actor: Actor, batch: Batch, probe_id: int | None) -> None:
    now = clock.now()
    lies = batch.probes.filter(until=None).first()
    if lies is not None and lies.device_id == probe_id:
        return
    batch.probes.filter(until=None).update(until=now)
    if probe_id is None:
        return
    probe = devices.probe(actor, probe_id)
    if probe is None:
        sentence = "is not a probe of this kitchen"
        raise Refusal(422, f"That {sentence}.", [("probe_id", sentence)])
    for use in ProbeUse.objects.select_for_update().filter(device=probe, until=None):
        use.until = now
        use.save(update_fields=["until"])
        notify(actor.kitchen.pk, {"batch": use.batch_id})
    ProbeUse.objects.create(batch=batch, device=probe, since=now)


Thing = TypeVar("Thing")


def _mine(
    read: Callable[[Actor, int], Thing | None], actor: Actor, key: int | None, field: str
) -> Thing | None:
    if key is None:
        return None
    found = read(actor, key)
    if found is None:
        sentence = "is not one of this kitchen"
        raise Refusal(422, f"That {sentence}.", [(field, sentence)])
    return found


def cool(actor: Actor, batch_id: int, wanted: CoolingWanted) -> Batch:
    """Say in what and by what ways a batch is cooled; it is computed first, so what cannot be is refused."""
    actor.must(Role.COOK)
    batch = reads.batch(actor, batch_id)
    kept = cooling.chosen(batch, wanted, lambda key: kitchen.cooler(actor, key))
    kept.vessel.depth_mm(assessed(batch).whole, kept.mass_g)
    return _cool(actor, batch_id, kept)


@action("batch.cool", Role.COOK)
def _cool(actor: Actor, batch_id: int, kept: CoolingKept) -> Batch:
    batch = locked(actor, batch_id)
    _must_be_open(batch)
    batch.cooling = kept.model_dump(mode="json")
    batch.save(update_fields=["cooling"])
    _changed(batch)
    return batch


@action("batch.guests", Role.COOK)
def for_guests(actor: Actor, batch_id: int, *, vulnerable: bool) -> Batch:
    """Say whether a batch is for guests who must not fall ill."""
    batch = locked(actor, batch_id)
    _must_be_open(batch)
    batch.vulnerable = vulnerable
    batch.save(update_fields=["vulnerable"])
    _tell(batch)
    return batch


def locked(actor: Actor, batch_id: int) -> Batch:
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


def takes(actor: Actor, batch_id: int) -> Batch:
    """A batch that something goes into, locked; it must be open.

    Raises
    ------
    Http404, Conflict
        when this kitchen has no such batch, or it is closed.
    """
    batch = locked(actor, batch_id)
    _must_be_open(batch)
    return batch


def contains(batch: Batch) -> None:
    """Something went into a batch, or was taken back out of it: what it contains is written again."""
    contents.write(batch)
    _tell(batch)


def remedy(actor: Actor, batch: Batch, key: UUID, grams: float, **told: Any) -> Remedy:
    """Write into a locked batch what is done about a trouble, as a part of a greater action.

    `grams` is what that adds to it, or takes away [g]; a closed batch takes it as well, for its tubs.
    """
    stage = custard.stove.STAGES[-1] if batch.closed_at else batch.stage
    made = Mark.objects.create(
        id=key,
        batch=batch,
        by=actor.user,
        at=clock.now(),
        stage=stage,
        kind=Kind.REMEDY,
        what=told["fault"],
        grams=round(grams, 1),
        note=told["say"][:500],
    )
    found = Remedy.objects.create(mark=made, **told)
    _follows(batch)
    return found


def remedy_back(actor: Actor, batch: Batch, remedy: Remedy) -> bool:
    """Take a remedy of a locked batch back, as a part of a greater action; whether it stood until now."""
    _, new = Withdrawal.objects.get_or_create(
        mark=remedy.mark, defaults={"at": clock.now(), "by": actor.user}
    )
    if new:
        _follows(batch)
    return new


def _follows(batch: Batch) -> None:
    """What is made of it is another than before: an open batch is followed anew."""
    if batch.closed_at is None:
        _changed(batch)
    else:
        _tell(batch)


def close(actor: Actor, batch_id: int, verdict: str, note: str, yield_g: float | None = None) -> Batch:
    """Close a batch with a verdict, and what it weighed in the end [g], as a part of a greater action.

    A worker then looks back on it, and its curve teaches hob and pan.
    """
    batch = locked(actor, batch_id)
    _must_be_open(batch)
    ended(actor, batch, verdict, note, yield_g).save(force_insert=True)
    batch.save(update_fields=_ENDED)
    batch.probes.filter(until=None).update(until=batch.closed_at)
    follow.end(batch)
    tasks.learn.defer(batch_id=batch.pk, user_id=actor.user.pk)
    _tell(batch)
    return batch


def ended(actor: Actor, batch: Batch, verdict: str, note: str, yield_g: float | None) -> Mark:
    """End a batch now; returns the mark that says so. Nothing is saved."""
    batch.closed_at = clock.now()
    batch.verdict, batch.verdict_note, batch.yield_g = verdict, note, yield_g
    return _of_the_whole(actor, batch, Kind.CLOSED, what=verdict, grams=yield_g, note=note)


@action("batch.reopen", Role.COOK)
def reopen(actor: Actor, batch_id: int) -> Batch:
    """Open a closed batch again; its verdict and what it weighed are taken back."""
    batch = locked(actor, batch_id)
    batch.closed_at, batch.verdict, batch.verdict_note, batch.yield_g = None, "", "", None
    batch.save(update_fields=_ENDED)
    _of_the_whole(actor, batch, Kind.REOPENED).save(force_insert=True)
    follow.begin(batch)
    _tell(batch)
    return batch


def _of_the_whole(actor: Actor, batch: Batch, kind: Kind, **words: Any) -> Mark:
    """What happens to a batch as a whole stands among its marks, at its last stage: no step of a cook."""
    last = custard.stove.STAGES[-1]
    return Mark(id=uuid4(), batch=batch, by=actor.user, at=clock.now(), stage=last, kind=kind, **words)


def _changed(batch: Batch) -> None:
    """Something was done to an open batch: its facts are written anew, it is due, and everyone is told."""
    facts.write(batch)
    follow.want(batch.pk)
    _tell(batch)


def _tell(batch: Batch) -> None:
    notify(batch.kitchen_id, {"batch": batch.pk})


def _must_be_open(batch: Batch) -> None:
    if batch.closed_at is not None:
        raise Conflict("This batch is closed. Open it again to change its record.", kind="closed")
