"""Writing on the shelf: what is done with tubs, what is promised, the day closed."""

from __future__ import annotations

import contextlib
from datetime import datetime
from decimal import Decimal
from typing import Any
from uuid import UUID

import custard
from common import clock
from common.events import notify
from common.refusals import Conflict, Refusal
from django.db import IntegrityError, transaction
from django.http import Http404
from kitchen.access import Actor, Role, action
from stove import locking
from stove.reads import BatchRow

from shelf import facts
from shelf.finished import close, decide
from shelf.models import LASTING, Contents, DayClosing, Movement, MovementKind, Promise, Tub
from shelf.move_checks import may, must_be_decided, said, when
from shelf.schemas import NewMove, NewPromise, Signing, Task
from shelf.spread import contents_changed
from shelf.tubs import less_promised, let_go_promises, moved, promise_again, put_away, shown_g, tenths

__all__ = ["close", "close_day", "contents_changed", "decide", "move", "promise", "unpromise"]

NEW_TUB = ("split", "churned")


def move(actor: Actor, tub_id: int, new: NewMove) -> Movement:
    """Do something with a tub. Sent again with the same id it changes nothing, not even the audit.

    Raises
    ------
    Conflict
        when there is too little, or it is promised, or not the time for that.
    """
    actor.must(Role.COOK)
    return _known(_tub(actor, tub_id), new.id) or _move(actor, tub_id, new)


def _known(tub: Tub, key: UUID) -> Movement | None:
    known = Movement.objects.filter(pk=key).first()
    if known is not None and known.tub_id != tub.pk:
        raise Conflict("That movement belongs to another tub.")
    return known


def _tub(actor: Actor, tub_id: int, *, locked: bool = False) -> Tub:
    rows = Tub.objects.select_for_update(of=("self",), no_key=True) if locked else Tub.objects.all()
    found = rows.select_related("batch").filter(kitchen=actor.kitchen, pk=tub_id).first()
    if found is None:
        raise Http404
    return found


@action("shelf.move", Role.COOK)
def _move(actor: Actor, tub_id: int, new: NewMove) -> Movement:
    _lock_batches(actor, _tub(actor, tub_id), new)
    tub = _tub(actor, tub_id, locked=True)
    known = _known(tub, new.id)
    if known is not None:
        return known
    said(new)
    at = when(tub, new)
    may(tub, new, at)
    made = _DONE.get(new.kind, _only_said)(actor, tub, new, at)
    facts.write(tub)
    notify(actor.kitchen.pk, {"shelf": tub.pk})
    return made


def _lock_batches(actor: Actor, tub: Tub, new: NewMove) -> None:
    """Lock the batches that a movement has to do with, in one order, before the tub itself is.

    That order holds everywhere: batches by number of their key, then tubs. Two that cross wait for each other
    in turn, and not for good.
    """
    keys = {tub.batch_id}
    if new.into_batch_id is not None:
        keys.add(new.into_batch_id)
    if new.corrects is not None:
        keys |= set(
            tub.movements.filter(pk=new.corrects).exclude(into=None).values_list("into_id", flat=True)
        )
    for key in sorted(keys):
        with contextlib.suppress(Http404):
            locking.batch(actor, key)


def _only_said(actor: Actor, tub: Tub, new: NewMove, at: datetime) -> Movement:
    return moved(actor, tub, new.kind, new.id, at=at, celsius=new.celsius, note=new.note)


def _use(actor: Actor, tub: Tub, new: NewMove, at: datetime) -> Movement:
    promise = _promise(tub, new.promise_id)
    to = new.to or (promise.dish if promise else "")
    into = _into(actor, tub, new)
    change_g = -tenths(new.grams or 0)
    if promise is not None:
        less_promised(tub, promise.grams)
    made = moved(
        actor, tub, MovementKind.USED, new.id, change_g=change_g, at=at, to=to, into=into, note=new.note
    )
    if promise is not None:
        promise.kept_by = made
        promise.save(update_fields=["kept_by"])
    if into is not None:
        contents_changed(actor, into)
    return made


def _into(actor: Actor, tub: Tub, new: NewMove) -> BatchRow | None:
    """The batch that something is used in: an open one of this kitchen, and not itself. It is locked."""
    if new.into_batch_id is None:
        return None
    sentence = "is the batch it is made of"
    if new.into_batch_id != tub.batch_id:
        try:
            return locking.open_batch(actor, new.into_batch_id)
        except Http404:
            sentence = "is not a batch of this kitchen"
        except Conflict:
            sentence = "is closed; open it again to put something in"
    raise Refusal(422, f"That {sentence}.", [("into_batch_id", sentence)])


def _throw(actor: Actor, tub: Tub, new: NewMove, at: datetime) -> Movement:
    grams = tub.left_g if new.grams is None else tenths(new.grams)
    if grams >= tub.left_g:
        let_go_promises(tub, at)
    return moved(actor, tub, MovementKind.THROWN, new.id, change_g=-grams, at=at, note=new.note)


def _count(actor: Actor, tub: Tub, new: NewMove, at: datetime) -> Movement:
    change = tenths(new.grams or 0) - tub.left_g
    return moved(actor, tub, MovementKind.COUNTED, new.id, change_g=change, at=at, note=new.note)


def _split(actor: Actor, tub: Tub, new: NewMove, at: datetime) -> Movement:
    """A part of it in a tub of its own, as old and in the same state."""
    return _part(actor, tub, new, at, what=tub.what, life=tub.life, ready_at=tub.ready_at)


def _churn(actor: Actor, tub: Tub, new: NewMove, at: datetime) -> Movement:
    """A base churned: an ice in the freezer came of it."""
    return _part(actor, tub, new, at, **churned_of(tub, at, new.to))


def churned_of(tub: Tub, at: datetime, vessel: str = "") -> dict[str, Any]:
    """What is known of the ice that is churned of a base."""
    life = custard.after.churned_life(facts.life_of(tub), custard.larder.standard())
    return {
        **_same_as(tub, vessel),
        "what": Contents.CHURNED,
        "life": custard.plain(life),
        "begins": {"place": "frozen", "frozen_at": at.isoformat(), "filmed": False},
        "name": f"{tub.name}, churned",
    }


def _same_as(tub: Tub, vessel: str) -> dict[str, Any]:
    """What a part of a tub has from it."""
    return {
        "name": tub.name,
        "parent": tub,
        "made_at": tub.made_at,
        "vessel": vessel or tub.vessel,
        "allergens": tub.allergens,
        "begins": facts.state_of(tub),
    }


def _part(actor: Actor, tub: Tub, new: NewMove, at: datetime, /, **values: Any) -> Movement:
    grams = new.grams or 0.0
    kind = (
        MovementKind.CHURNED
        if values["what"] == Contents.CHURNED and tub.what != Contents.CHURNED
        else MovementKind.SPLIT
    )
    # What cannot be taken from the one is not put into the other: both or neither.
    if tenths(grams) > tub.left_g:
        raise Conflict(f"Only {shown_g(tub.left_g)} are left of it.", kind="too-little")
    other = put_away(actor, tub.batch, grams, **{**_same_as(tub, new.to), **values})
    return moved(actor, tub, kind, new.id, change_g=-tenths(grams), at=at, other=other, note=new.note)


def _undo(actor: Actor, tub: Tub, new: NewMove, at: datetime) -> Movement:
    """Take back something that was done; both stay in the record."""
    wrong = None if new.corrects is None else tub.movements.filter(pk=new.corrects).first()
    if wrong is None:
        raise Http404
    if wrong.kind in LASTING:
        raise Conflict("That cannot be taken back; weigh again what is there, and write that down.")
    if Movement.objects.filter(corrects=wrong).exists():
        raise Conflict("That was taken back already.")
    promise = Promise.objects.filter(kept_by=wrong).first()
    made = moved(
        actor,
        tub,
        MovementKind.UNDONE,
        new.id,
        change_g=-wrong.change_g,
        at=at,
        corrects=wrong,
        note=new.note,
    )
    if promise is not None:
        promise.kept_by = None
        promise.save(update_fields=["kept_by"])
        less_promised(tub, -promise.grams)
    if wrong.kind == MovementKind.THROWN:
        promise_again(tub, wrong.at)
    if wrong.into is not None:
        contents_changed(actor, wrong.into)
    return made


def mend(
    actor: Actor,
    there: Tub,
    key: UUID,
    change_g: Decimal,
    life: dict[str, Any],
    allergens: list[str],
    note: str,
) -> Movement:
    """A remedy was done on a tub, as a part of a greater action: its weight, life and allergens follow.

    Raises
    ------
    Conflict
        when something was drawn from it since the remedy was weighed, or too much of it is promised.
    """
    tub = _tub(actor, there.pk, locked=True)
    if tub.left_g != there.left_g or tub.left_g <= 0:
        raise Conflict("Something was drawn from it meanwhile; the remedy is weighed for what is there.")
    made = moved(actor, tub, MovementKind.MENDED, key, change_g=change_g, at=clock.now(), note=note[:500])
    tub.life = life
    tub.allergens = list(dict.fromkeys([*tub.allergens, *allergens]))
    _lives(actor, tub)
    contents_changed(actor, tub.batch)
    return made


def unmend(actor: Actor, batch: BatchRow, key: UUID, life: dict[str, Any]) -> None:
    """A remedy of a tub is taken back, as a part of a greater action; its allergens stay, to be safe."""
    wrong = Movement.objects.filter(pk=key, tub__batch=batch).first()
    if wrong is None:
        raise Http404
    tub = _tub(actor, wrong.tub_id, locked=True)
    moved(actor, tub, MovementKind.UNDONE, change_g=-wrong.change_g, at=clock.now(), corrects=wrong)
    tub.life = life
    _lives(actor, tub)


def _lives(actor: Actor, tub: Tub) -> None:
    tub.save(update_fields=["life", "allergens"])
    facts.write(tub)
    notify(actor.kitchen.pk, {"shelf": tub.pk})


_DONE = {
    "used": _use,
    "split": _split,
    "churned": _churn,
    "thrown": _throw,
    "counted": _count,
    "undone": _undo,
}


def _promise(tub: Tub, key: int | None) -> Promise | None:
    if key is None:
        return None
    found: Promise | None = tub.promises.filter(pk=key, kept_by=None, withdrawn_at=None).first()
    if found is None:
        sentence = "is not a promise of this tub that stands"
        raise Refusal(422, f"That {sentence}.", [("promise_id", sentence)])
    return found


@action("shelf.promise", Role.COOK)
def promise(actor: Actor, tub_id: int, new: NewPromise) -> Promise:
    """Promise so much of a tub to a dish; nobody draws it for another from then on."""
    tub = _tub(actor, tub_id, locked=True)
    must_be_decided(tub)
    grams = tenths(new.grams)
    if grams > tub.left_g - tub.promised_g:
        free = tub.left_g - tub.promised_g
        raise Conflict(f"Only {shown_g(free)} of it are free.", kind="too-little")
    less_promised(tub, -grams)
    made = Promise.objects.create(
        tub=tub, grams=grams, dish=new.dish, due_at=new.due_at, by=actor.user, at=clock.now()
    )
    notify(actor.kitchen.pk, {"shelf": tub.pk})
    return made


@action("shelf.unpromise", Role.COOK)
def unpromise(actor: Actor, tub_id: int, promise_id: int) -> Promise:
    """Take a promise away; what it held is free again."""
    tub = _tub(actor, tub_id, locked=True)
    found = tub.promises.filter(pk=promise_id, kept_by=None).first()
    if found is None:
        raise Http404
    if found.withdrawn_at is None:
        found.withdrawn_at = clock.now()
        found.save(update_fields=["withdrawn_at"])
        less_promised(tub, found.grams)
        notify(actor.kitchen.pk, {"shelf": tub.pk})
    return found


def close_day(actor: Actor, signing: Signing, tasks: list[Task]) -> DayClosing:
    """Sign a day's list as it stands. Sent again with the same id it changes nothing, not even the audit."""
    actor.must(Role.COOK)
    mine = DayClosing.objects.filter(pk=signing.id, kitchen=actor.kitchen)
    known = mine.first()
    try:
        return known or _close_day(actor, signing, tasks)
    except Conflict:
        # Sent twice at once: whichever came first wrote it, and it is the same signature.
        known = mine.first()
        if known is None:
            raise
        return known


@action("shelf.close-day", Role.COOK)
def _close_day(actor: Actor, signing: Signing, tasks: list[Task]) -> DayClosing:
    """What is left of the list stays written down.

    Raises
    ------
    Refusal
        when something that must be done is left, and nobody says why.
    """
    left = [task.say for task in tasks if task.must]
    if left and not signing.note:
        sentence = f"Say why before you sign; still to do: {left[0]}"
        raise Refusal(422, sentence, [("note", sentence)])
    try:
        with transaction.atomic():
            return DayClosing.objects.create(
                id=signing.id,
                kitchen=actor.kitchen,
                day=signing.day,
                at=clock.now(),
                by=actor.user,
                note=signing.note,
                content=[task.model_dump(mode="json") for task in tasks],
            )
    except IntegrityError:
        # The same signature at once, or under an id that is not theirs.
        raise Conflict("That was signed already.") from None
