"""What became of the fortnight's batches on the shelf: used, churned, frozen, promised, thrown away."""

from __future__ import annotations

import uuid
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from common import clock
from kitchen.access import Actor
from shelf import actions as shelf
from shelf import reads
from shelf.reads import TubRow
from shelf.schemas import NewMove, NewPromise

from oldspoon.demo.fortnight import Tale, Went

WHITES_USED = ("meringue", "almond biscuits", "wafers")
WHITES_AFTER = timedelta(hours=20)
HOUR = timedelta(hours=1)
TAKEN_SHARE = 0.6


@dataclass(frozen=True)
class Told:
    """A batch of the fortnight, as it was put away."""

    tale: Tale
    batch_id: int
    at: datetime


def tell(actors: Mapping[str, Actor], told: Sequence[Told]) -> None:
    """Do with every batch's tubs what was done, in the order in which it was."""
    now = clock.now()
    done = [
        (one.at + timedelta(hours=went.after_h), number, one, went)
        for number, one in enumerate(told)
        for went in one.tale.went
    ]
    for at, number, one, went in sorted(done, key=lambda each: each[:2]):
        if at < now:
            _do(actors[one.tale.by], one, went, at, number)
    for number, one in enumerate(told):
        _whites(actors["pastry"], one, number, now)
    for tub in _tubs(actors["pastry"]):
        if tub.use_by < now and tub.left_g > 0:
            with clock.at(min(now, tub.use_by + HOUR)):
                shelf.move(actors["section"], tub.pk, _move(tub, "thrown", 0, note="past its time"))


def _tubs(actor: Actor) -> list[TubRow]:
    return list(reads.tubs(actor).order_by("id"))


def _do(actor: Actor, one: Told, went: Went, at: datetime, number: int) -> None:
    rows = [tub for tub in _tubs(actor) if tub.batch_id == one.batch_id and tub.what != "whites"]
    tub = next((tub for tub in rows if (tub.what == "churned") == (went.of == "ice")), None)
    if tub is None:
        return
    grams = min(float(tub.left_g), round(went.share * float(tub.made_g), 0))
    if went.share >= 1 or abs(float(tub.left_g) - grams) <= 2:
        grams = float(tub.left_g)
    with clock.at(at):
        if went.kind == "promised":
            shelf.promise(actor, tub.pk, NewPromise(grams=grams, dish=went.to))
            return
        amount = grams if went.kind in ("used", "churned", "thrown") else None
        why = went.kind == "thrown"
        words = {"note": went.to} if why else {"to": went.to}
        shelf.move(actor, tub.pk, _move(tub, went.kind, number, grams=amount, **words))


def take(actor: Actor, of: Told, into_batch_id: int) -> None:
    """Most of an earlier batch goes into one that is being made."""
    tub = next(tub for tub in _tubs(actor) if tub.batch_id == of.batch_id and tub.what == "sauce")
    grams = round(TAKEN_SHARE * float(tub.made_g))
    shelf.move(actor, tub.pk, _move(tub, "used", 0, grams=grams, into_batch_id=into_batch_id))


def _move(tub: TubRow, kind: str, number: int, **words: object) -> NewMove:
    key = uuid.uuid5(uuid.NAMESPACE_OID, f"demo {tub.pk} {kind} {number} {words}")
    return NewMove.model_validate({"id": key, "kind": kind, **words})


def _whites(actor: Actor, one: Told, number: int, now: datetime) -> None:
    """Whites are whipped the next day, or frozen; those of today are still there."""
    for tub in _tubs(actor):
        if tub.batch_id != one.batch_id or tub.what != "whites" or one.at + WHITES_AFTER > now:
            continue
        with clock.at(one.at + WHITES_AFTER):
            if number % 5 == 4:
                shelf.move(actor, tub.pk, _move(tub, "frozen", number))
            else:
                dish = WHITES_USED[number % len(WHITES_USED)]
                shelf.move(actor, tub.pk, _move(tub, "used", number, grams=float(tub.left_g), to=dish))
