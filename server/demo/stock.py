"""What became of the fortnight's batches on the shelf: used, churned, frozen, promised, thrown away."""

from __future__ import annotations

import uuid
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any

from common import clock
from kitchen.access import Actor
from shelf import actions, facts, move_checks
from shelf.models import Contents, Movement, MovementKind, Promise, Tub
from shelf.tubs import tenths, unsaved, unsaved_movement
from stove.models import Batch

from demo.fortnight import Tale, Went
from demo.rows import Rows

WHITES_USED = ("meringue", "almond biscuits", "wafers")
WHITES_AFTER = timedelta(hours=20)
HOUR = timedelta(hours=1)
TAKEN_SHARE = 0.6


@dataclass(frozen=True)
class Finished:
    """A batch of the fortnight, when it was put away, and when its probe was last heard of."""

    tale: Tale
    batch: Batch
    at: datetime
    probe_at: datetime


@dataclass
class Shelf:
    """The tubs of the demo as they stand, and all that was done with them."""

    rows: Rows
    tubs: list[Tub] = field(default_factory=list)
    moves: dict[int, list[Movement]] = field(default_factory=dict)
    finished: list[Finished] = field(default_factory=list)

    def put(self, actor: Actor, batch: Batch, grams: float, part: int, **values: Any) -> Tub:
        """A new tub with so much in it [g]."""
        tub = self.rows.add(unsaved(actor, batch, grams, part, **values))
        self.tubs.append(tub)
        self._moved(actor, tub, MovementKind.MADE, change_g=tub.made_g)
        return tub

    def move(self, actor: Actor, tub: Tub, kind: str, number: int, **values: Any) -> Movement:
        """Do something with a tub now, as `shelf.actions.move` does."""
        grams = values.pop("grams", None)
        words = {**({} if grams is None else {"grams": grams}), **values.pop("words", {})}
        key = uuid.uuid5(uuid.NAMESPACE_OID, f"demo {tub.pk} {kind} {number} {words}")
        at = move_checks.in_order(self.moves[tub.pk][-1].at, clock.now())
        change_g = -tenths(grams) if grams is not None else 0
        if kind == MovementKind.THROWN and grams is None:
            change_g = -tub.left_g
        if kind == MovementKind.CHURNED:
            part = actions.churned_of(tub, at)
            values["other"] = self.put(actor, tub.batch, float(-change_g), 1, **part)
        made = self._moved(actor, tub, kind, key, change_g=change_g, at=at, **values)
        self.rows.done(actor, "shelf.move", made)
        return made

    def _moved(
        self, actor: Actor, tub: Tub, kind: str, key: uuid.UUID | None = None, **values: Any
    ) -> Movement:
        made = self.rows.add(unsaved_movement(actor, tub, kind, key, **values))
        self.moves.setdefault(tub.pk, []).append(made)
        tub.left_g += made.change_g
        facts.read(tub, self.moves[tub.pk])
        return made

    def promise(self, actor: Actor, tub: Tub, grams: float, dish: str) -> None:
        """Promise some of a tub to a dish [g]."""
        made = Promise(tub=tub, grams=tenths(grams), dish=dish, by=actor.user, at=clock.now())
        tub.promised_g += made.grams
        self.rows.done(actor, "shelf.promise", self.rows.add(made))

    def take(self, actor: Actor, of: Finished, into: Batch) -> Tub:
        """Most of an earlier batch goes into one that is being made."""
        tub = next(tub for tub in self.tubs if tub.batch is of.batch and tub.what == Contents.SAUCE)
        grams = round(TAKEN_SHARE * float(tub.made_g))
        words = {"into_batch_id": into.pk}
        self.move(actor, tub, MovementKind.USED, 0, grams=grams, into=into, words=words)
        return tub

    def write(self) -> None:
        """Write all of it: the database adds the movements up, so tubs begin empty and are dated after."""
        stand = [(tub, tub.left_g, tub.promised_g) for tub in self.tubs]
        for tub in self.tubs:
            tub.left_g = tub.promised_g = tenths(0)
        self.rows.write(Tub, Movement)
        for tub, left_g, promised_g in stand:
            tub.left_g, tub.promised_g = left_g, promised_g
        Tub.objects.bulk_update(self.tubs, ["promised_g"])
        self.rows.write(Promise)


def write(actors: Mapping[str, Actor], shelf: Shelf) -> None:
    """Do with every batch's tubs what was done, in the order in which it was."""
    now = clock.now()
    done = [
        (one.at + timedelta(hours=went.after_h), number, one, went)
        for number, one in enumerate(shelf.finished)
        for went in one.tale.went
    ]
    for at, number, one, went in sorted(done, key=lambda each: each[:2]):
        if at < now:
            with clock.at(at):
                _do(shelf, actors[one.tale.by], one, went, number)
    _whites(shelf, actors["pastry"], now)
    for tub in shelf.tubs:
        if tub.use_by < now and tub.left_g > 0:
            with clock.at(min(now, tub.use_by + HOUR)):
                words = {"note": "past its time"}
                shelf.move(actors["section"], tub, MovementKind.THROWN, 0, note=words["note"], words=words)


def _do(shelf: Shelf, actor: Actor, one: Finished, went: Went, number: int) -> None:
    tubs = [tub for tub in shelf.tubs if tub.batch is one.batch and tub.what != Contents.WHITES]
    tub = next((tub for tub in tubs if (tub.what == Contents.CHURNED) == (went.of == "ice")), None)
    if tub is None:
        return
    grams = min(float(tub.left_g), round(went.share * float(tub.made_g), 0))
    if went.share >= 1 or abs(float(tub.left_g) - grams) <= 2:
        grams = float(tub.left_g)
    if went.kind == "promised":
        shelf.promise(actor, tub, grams, went.to)
        return
    amount = {"grams": grams} if went.kind in ("used", "churned", "thrown") else {}
    said = {"note": went.to} if went.kind == "thrown" else {"to": went.to}
    kept = said if went.kind in ("used", "thrown") else {}
    shelf.move(actor, tub, went.kind, number, **amount, **kept, words=said)


def _whites(shelf: Shelf, actor: Actor, now: datetime) -> None:
    """Whites are whipped the next day, or frozen; those of today are still there."""
    for number, one in enumerate(shelf.finished):
        for tub in _of(shelf.tubs, one.batch):
            if one.at + WHITES_AFTER > now:
                continue
            with clock.at(one.at + WHITES_AFTER):
                if number % 5 == 4:
                    shelf.move(actor, tub, MovementKind.FROZEN, number)
                else:
                    dish = {"to": WHITES_USED[number % len(WHITES_USED)]}
                    shelf.move(
                        actor, tub, MovementKind.USED, number, grams=float(tub.left_g), **dish, words=dish
                    )


def _of(tubs: Sequence[Tub], batch: Batch) -> list[Tub]:
    return [tub for tub in tubs if tub.batch is batch and tub.what == Contents.WHITES]
