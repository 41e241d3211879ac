"""Whether a movement can be: that it says what it must, when it was, and that a tub as it is allows it."""

from __future__ import annotations

from datetime import datetime, timedelta

from common import clock
from common.refusals import Conflict, Refusal
from django.db.models import Max

from shelf import facts
from shelf.models import Contents, Tub
from shelf.schemas import LEAST_G, NewMove

LATE = timedelta(minutes=2)
MOMENT, TICK = timedelta(seconds=1), timedelta(microseconds=1)
MUST_SAY = {
    "used": ("grams",),
    "split": ("grams",),
    "churned": ("grams",),
    "counted": ("grams",),
    "warm": ("celsius",),
    "thrown": ("note",),
    "undone": ("corrects",),
}
"""What goes with what; nothing with the others."""
ASKS = {
    "grams": "say how many grams",
    "celsius": "say how warm it is kept",
    "note": "say why",
    "corrects": "say which movement is taken back",
}
SOME = ("used", "split", "churned")


def said(new: NewMove) -> None:
    """Refuse a movement that leaves something out, by the field that is missing.

    Raises
    ------
    Refusal
        naming the field.
    """
    for field in MUST_SAY.get(new.kind, ()):
        if getattr(new, field) in (None, ""):
            raise _missing(field, ASKS[field])
    if new.kind in SOME and (new.grams or 0.0) < LEAST_G:
        raise _missing("grams", f"{ASKS['grams']}, more than nothing")
    if new.kind == "used" and not (new.to or new.into_batch_id or new.promise_id):
        raise _missing("to", "say for what: a dish, a batch or a promise")
    if new.anyway and not new.note:
        raise _missing("note", "say why it is done all the same")


def _missing(field: str, sentence: str) -> Refusal:
    return Refusal(422, f"{sentence[0].upper()}{sentence[1:]}.", [(field, sentence)])


def when(tub: Tub, new: NewMove) -> datetime:
    """When it was done: as told, and after what was done before.

    Raises
    ------
    Refusal
        when that cannot be.
    """
    now = clock.now()
    at = new.at or now
    if at > now + LATE:
        raise Refusal(
            422, "That time has not come yet.", [("at", "has not come yet; check the device's clock")]
        )
    if at < tub.made_at:
        raise Refusal(422, "That was before it was made.", [("at", "is before it was made")])
    return in_order(tub.movements.aggregate(last=Max("at"))["last"], at)


def in_order(last: datetime | None, at: datetime) -> datetime:
    """When something counts as done: two things done in one moment stay in the order in which they were."""
    return last + TICK if last is not None and timedelta(0) <= last - at < MOMENT else at


USES = ("used", "split", "churned", "frozen", "warm")
"""What is not done with a tub that may not be eaten."""


def must_be_decided(tub: Tub) -> None:
    """Refuse whatever somebody wants of a tub of which nobody knows that it was cooked and cooled.

    Raises
    ------
    Conflict
        with what its record lacks.
    """
    missing = facts.life_of(tub).missing
    if missing:
        raise Conflict(
            f"Not to be used until somebody decides: {'; '.join(missing)}. Decide on the batch's page.",
            kind="undecided",
        )


def may(tub: Tub, new: NewMove, at: datetime) -> None:
    """Refuse what cannot be done with a tub as it is, and what is not advised unless it is wanted anyway.

    Raises
    ------
    Conflict
        with why.
    """
    life, kind = facts.life_of(tub), new.kind
    if tub.left_g <= 0 and kind not in ("undone", "counted"):
        raise Conflict("Nothing is left of it.", kind="too-little")
    if kind in USES:
        must_be_decided(tub)
    judged = facts.judged(tub, at)
    if kind in USES and not judged.safe and not new.anyway:
        raise Conflict(
            f"{judged.why} Throw it away, or say why it is used all the same.",
            kind="past",
        )
    if kind == "frozen":
        if tub.place not in ("fridge",) or tub.frozen_at is not None:
            raise Conflict("Only what is in the fridge and was never frozen goes into the freezer.")
        if life.freezes_days <= 0:
            raise Conflict(life.freezing or "It does not freeze.")
    if kind == "out" and (tub.place != "frozen" or tub.what == Contents.CHURNED):
        raise Conflict("Only what is frozen can be taken out to thaw, and no ice.")
    if kind == "thawed" and tub.place != "thawing":
        raise Conflict("It is not thawing.")
    if kind == "warm" and tub.place not in ("fridge", "warm"):
        raise Conflict("Let it thaw first.")
    if kind == "churned":
        if life.rests_to != "churn" or tub.place != "fridge":
            raise Conflict("Only a base out of the fridge is churned.")
        if tub.ready_at is not None and at < tub.ready_at and not new.anyway:
            raise Conflict(
                "It is not cold right through and rested yet. Wait, or say why it is churned all the same.",
                kind="early",
            )
