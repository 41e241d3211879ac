"""Writing at the Stove."""

from __future__ import annotations

from datetime import timedelta
from typing import Any, TypeVar
from uuid import UUID

import custard
from book import reads as book
from common.events import notify
from common.refusals import Conflict, Refusal
from devices import reads as devices
from devices.schemas import COLDEST_C, HOTTEST_C
from django.http import Http404
from django.utils import timezone
from kitchen import actions as hearth
from kitchen.access import Actor, action
from kitchen.models import Hob, Kitchen, Pan, Role

from stove import live, reads
from stove.models import Batch, Kind, Mark, ProbeUse
from stove.schemas import NewMark, SetUp

EARLY = timedelta(hours=1)
LATE = timedelta(minutes=2)


@action("batch.start", Role.COOK)
def start(actor: Actor, formula_id: int, version: int, formula: custard.Formula, pace: float = 1) -> Batch:
    """Take a formula to the stove, as scaled; the next number of the kitchen is taken under a lock.

    With a `pace` above 1 it is a rehearsal, its time running so many times as fast; it teaches nothing
    about hobs and pans.
    """
    source = book.version(actor, formula_id, version)
    kitchen = Kitchen.objects.select_for_update().get(pk=actor.kitchen.pk)
    number = kitchen.next_batch
    kitchen.next_batch += 1
    kitchen.save(update_fields=["next_batch"])
    notify(kitchen.pk, {"stove": 1})
    return Batch.objects.create(
        kitchen=kitchen,
        number=number,
        pace=pace,
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
    values |= {name: values[name] or "" for name in ("coat", "finger_line", "sieve", "what")}
    _tell(batch)
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
        _tell(batch)
    return found


@action("batch.set-up", Role.COOK)
def set_up(actor: Actor, batch_id: int, wanted: SetUp) -> Batch:
    """Say what a batch is cooked on and in, and which probe lies in it.

    A probe that lay in another batch is taken out of that one.
    """
    batch = _locked(actor, batch_id)
    _must_be_open(batch)
    batch.hob = _mine(actor, Hob, wanted.hob_id, "hob_id")
    batch.pan = _mine(actor, Pan, wanted.pan_id, "pan_id")
    batch.promised_w = batch.hob.power_w if batch.hob else None
    batch.save(update_fields=["hob", "pan", "promised_w"])
    _put_probe(actor, batch, wanted.probe_id)
    _tell(batch)
    return batch


def _put_probe(actor: Actor, batch: Batch, probe_id: int | None) -> None:
    now = timezone.now()
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


Thing = TypeVar("Thing", Hob, Pan)


def _mine(actor: Actor, kind: type[Thing], key: int | None, field: str) -> Thing | None:
    if key is None:
        return None
    found = kind.objects.filter(kitchen=actor.kitchen, pk=key).first()
    if found is None:
        sentence = "is not one of this kitchen"
        raise Refusal(422, f"That {sentence}.", [(field, sentence)])
    return found


@action("batch.close", Role.COOK)
def close(actor: Actor, batch_id: int, verdict: str, note: str) -> Batch:
    """Close a batch with a verdict; its curve then teaches what hob and pan really do."""
    batch = _locked(actor, batch_id)
    _must_be_open(batch)
    batch.closed_at = timezone.now()
    batch.verdict, batch.verdict_note = verdict, note
    taught = batch.after != []
    batch.after = _learn(actor, batch, again=taught)
    batch.save(update_fields=["closed_at", "verdict", "verdict_note", "after"])
    batch.probes.filter(until=None).update(until=batch.closed_at)
    _tell(batch)
    return batch


def _learn(actor: Actor, batch: Batch, *, again: bool) -> list[str]:
    """What a batch says beside its plan; a batch opened again and closed again teaches nothing twice."""
    words, measured, setup = live.after(reads.batch(actor, batch.pk))
    if measured is None or setup is None or again or batch.pace != 1:
        return words
    if batch.hob is not None:
        hearth.learn_hob(actor, batch.hob.pk, measured.power_w, measured.power_error_w)
    if batch.pan is not None:
        share = measured.pan_j_k / measured.kind_j_k
        hearth.learn_pan(actor, batch.pan.pk, share, share * measured.pan_error_j_k / measured.pan_j_k)
    return words


@action("batch.reopen", Role.COOK)
def reopen(actor: Actor, batch_id: int) -> Batch:
    """Open a closed batch again; its verdict is taken back."""
    batch = _locked(actor, batch_id)
    batch.closed_at, batch.verdict, batch.verdict_note = None, "", ""
    batch.save(update_fields=["closed_at", "verdict", "verdict_note"])
    _tell(batch)
    return batch


def _tell(batch: Batch) -> None:
    notify(batch.kitchen_id, {"batch": batch.pk})


def _locked(actor: Actor, batch_id: int) -> Batch:
    found = Batch.objects.select_for_update(of=("self",)).filter(kitchen=actor.kitchen, pk=batch_id).first()
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
    if new.line is None:
        return
    if new.kind in (Kind.TICK, Kind.CHECK) and new.line >= len(batch.plan["slip"]):
        raise Refusal(422, "The slip has no such line.", [("line", "is not a line of the slip")])
    signs = next(stage["signs"] for stage in batch.plan["stages"] if stage["stage"] == new.stage)
    if new.kind == Kind.SIGN and new.line >= len(signs):
        raise Refusal(422, "That stage has no such sign.", [("line", "is not a sign of that stage")])
