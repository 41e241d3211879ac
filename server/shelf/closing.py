"""What is still to do before a day is closed, out of what is on the shelf and on the stove."""

from __future__ import annotations

from datetime import date, datetime, timedelta

from common import clock
from common.refusals import Refusal
from django.db.models import Q
from kitchen import reads as kitchen
from kitchen.access import Actor
from stove import reads as stove
from stove.after import keeping
from stove.reads import shown

from shelf import reads
from shelf.models import DayClosing
from shelf.schemas import ClosingOut, Signed, Task, TaskKind, TubLine

AWAY = timedelta(days=2)


def day_of(actor: Actor, wanted: date | None) -> date:
    """The day that is meant: today by this kitchen's clock, or one that has been.

    Raises
    ------
    Refusal
        when that day has not come yet.
    """
    today = clock.now().astimezone(kitchen.zone_of(actor.kitchen)).date()
    if wanted is None:
        return today
    if wanted > today:
        raise Refusal(422, "That day has not come yet.", [("day", "has not come yet")])
    return wanted


def closing(actor: Actor, wanted: date | None = None) -> ClosingOut:
    """The list of a day as it stands, and who signed it."""
    day = day_of(actor, wanted)
    there = reads.tubs(actor).filter(left_g__gt=0)
    now = clock.now()
    tasks: list[Task] = []
    if day == day_of(actor, None):
        # Only what may have something to do is fetched whole: a freezer full of labelled tubs has not.
        asks = Q(labelled=False) | Q(filmed=False) | Q(use_by__lt=now + AWAY) | ~Q(place="frozen")
        lines = [reads.line(row, now) for row in there.filter(asks)]
        tasks = [*_stove(actor), *(task for one in lines for task in _tub(one, now))]
    return ClosingOut(day=day, tasks=tasks, allergens=reads.allergens(actor), signed=signed(actor, day))


def signed(actor: Actor, day: date) -> list[Signed]:
    """Who closed a day."""
    rows = DayClosing.objects.filter(kitchen=actor.kitchen, day=day).select_related("by")
    return [
        Signed(
            at=row.at, by=shown(row.by), note=row.note, left=len([one for one in row.content if one["must"]])
        )
        for row in rows
    ]


def _stove(actor: Actor) -> list[Task]:
    cools = {one.batch_id: one for one in keeping.cooling_now(actor, clock.now())}
    found = []
    for batch in stove.on_the_stove(actor):
        name = f"{batch.name}, batch {batch.number}"
        one = cools.get(batch.id)
        if one is None:
            say = f"{name} is still on the stove: finish it, or close it"
            found.append(Task(kind="open", say=say, allergens=batch.allergens, batch_id=batch.id, must=True))
        else:
            say = f"{name} is still cooling: {one.say}"
            found.append(Task(kind="cooling", say=say, allergens=one.allergens, batch_id=batch.id, must=True))
            if not one.filmed:
                say = f"{name}: film right on it, or a skin forms"
                found.append(
                    Task(kind="cover", say=say, allergens=one.allergens, batch_id=batch.id, must=False)
                )
    return found


def _tub(tub: TubLine, now: datetime) -> list[Task]:
    """What is to do with one tub."""
    name = f"{tub.name}, batch {tub.batch}" + (f", tub {tub.part}" if tub.part > 1 else "")
    found: list[Task] = []

    def say(kind: TaskKind, text: str, *, must: bool) -> None:
        found.append(
            Task(
                kind=kind,
                say=f"{name}: {text}",
                allergens=tub.allergens,
                tub_id=tub.id,
                must=must,
            )
        )

    if tub.undecided:
        say("decide", f"{tub.use_by_why}: decide whether it may be used, or throw it away", must=True)
        return found
    if tub.past:
        say("throw", f"past its time ({tub.use_by_why}), throw it away", must=True)
        return found
    if tub.place == "warm":
        say("warm", "still kept warm: throw it away or cool it now", must=True)
    if tub.place == "thawing":
        say("thaw", "thawing: in the fridge overnight", must=False)
    if tub.soon:
        freezing = tub.freezes and not tub.promises
        say("freeze" if freezing else "use-first", _soon(freezing), must=False)
    elif tub.what == "whites" and tub.freezes and tub.use_by < now + AWAY:
        say("freeze", "freeze what is not used tomorrow", must=False)
    if not tub.labelled:
        say("label", "has no label", must=True)
    if not tub.filmed and tub.what == "sauce" and tub.place == "fridge":
        say("cover", "film right on it, or a skin forms", must=False)
    return found


def _soon(freezing: bool) -> str:
    return "freeze it, or use it first tomorrow" if freezing else "use it first tomorrow"
