"""From the rows of a day to what the core plans: jobs computed again, or as the plan has kept them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from datetime import datetime
from functools import lru_cache
from typing import Any

import custard
from book import reads as book
from book.models import FormulaVersion
from common import database
from custard import planning
from kitchen import reads as kitchen
from kitchen.access import Actor
from shelf import reads as shelf
from stove import reads as stove

from day import clocks, pace
from day.documents import job_json, job_of
from day.models import Day, Other, Plan, Want

PLACES: Mapping[str, str] = {
    "rings": planning.RING,
    "steam": planning.STEAM,
    "ice_bath": planning.BATH,
    "ovens": planning.OVEN,
    "churns": planning.CHURN,
}


NO_BATCH: Mapping[str, Any] = {
    "wants": [], "batch_id": None, "grams": None, "formula_id": None, "version": None, "content": None,
}  # fmt: skip
"""What is told of other work beside its job."""


@dataclass(frozen=True)
class Problem:
    """A day as the core plans it, with what is told of its jobs, what comes out of tubs, and whose hands.

    Attributes
    ----------
    people : ids of the hands, in their order.
    told : the jobs as a plan's document keeps them.
    results : what each batch that is still to be weighed is, by its job.
    """

    day: planning.Day
    people: list[int]
    told: list[dict[str, Any]]
    drawn: list[dict[str, Any]]
    results: Mapping[str, custard.Assessment]


def room_of(day: Day) -> tuple[planning.Room, list[int]]:
    """What there is to work with, and the ids of its hands.

    Raises
    ------
    CustardError
        when nobody is there, or a figure cannot be.
    """
    people = list(day.hands.all())
    hands = tuple(planning.Hands(one.name, tuple((span[0], span[1]) for span in one.there)) for one in people)
    if not hands:
        raise custard.OutOfRange("hands", "", "works on this day", "Say who is there, and when.")
    room = day.room
    places = {place: int(room.get(name, 0)) for name, place in PLACES.items()}
    places[planning.OVEN] *= planning.SHELVES
    bowls = room.get("bowls")
    return planning.Room(
        hands, places, ice_g=room.get("ice_g"), ice_g_h=room.get("ice_g_h") or 0.0, bowls=bowls
    ), [one.pk for one in people]


def build(actor: Actor, day: Day) -> Problem:
    """Everything computed again: wants from the shelf first, what is missing made; some tenths of a second.

    Raises
    ------
    CustardError
        when something wanted cannot be made, naming it.
    """
    room, people = room_of(day)
    wants = list(day.wants.select_related("formula", "batch"))
    # What was thrown away is wanted again.
    made = {one.pk: one.batch_id for one in wants if one.stands}
    versions = book.latest_by_formula(actor, (one.formula_id for one in wants))
    wanted = [wanted_of(one, versions[one.formula_id], one.batch if one.stands else None) for one in wants]
    others = [other_of(one) for one in day.others.all()]
    tubs = [] if day.date is None else _tubs(actor, day)
    conditions, learned = kitchen.conditions_of(actor.kitchen), pace.learned(actor)
    ovens = max(1, int(day.room.get("ovens", 0)))
    made_in = planning.Made({}, own_cold=day.room.get("bowls") is None, ovens=ovens)
    now = clocks.now_of(day)
    database.release_connection()
    work = planning.work(wanted, others, tubs, conditions, learned, made_in)
    told = [_told_batch(one, made, versions[int(one.sauce)]) for one in work.batches]
    told += [job_json(job, short=job.name, **NO_BATCH) for job in work.other]
    jobs = tuple(job_of(one) for one in told)
    drawn = [
        {"want_id": int(one.want.removeprefix("want-")), "tub_id": int(one.tub), "grams": round(one.grams, 1)}
        for one in work.drawn
    ]
    results = {one.job.key: one.result for one in work.batches if _still_to_weigh(one, made)}
    problem = planning.Day(room, standing(day, jobs, people), now)
    return Problem(problem, people, told, drawn, results)


def _still_to_weigh(batch: planning.Batch, made: Mapping[int, int | None]) -> bool:
    return all(int(key.removeprefix("want-")) not in made for key in batch.wants)


def _told_batch(
    batch: planning.Batch, made: Mapping[int, int | None], version: FormulaVersion
) -> dict[str, Any]:
    """What is told of a batch, with what it is to be weighed of: the amount planned is the amount taken."""
    ids = [int(key.removeprefix("want-")) for key in batch.wants]
    return job_json(
        batch.job,
        short=batch.result.formula.name,
        wants=ids,
        batch_id=made.get(ids[0]),
        grams=round(batch.grams, 1),
        formula_id=version.formula_id,
        version=version.number,
        content=custard.write_formula(batch.result.formula),
    )


def kept(day: Day, document: Mapping[str, Any]) -> tuple[planning.Day, list[int]]:
    """The same from a plan's document, with what has begun since; computes nothing."""
    room, people = room_of(day)
    jobs = tuple(job_of(one) for one in document["jobs"])
    return planning.Day(room, standing(day, jobs, people), clocks.now_of(day)), people


def wanted_of(one: Want, version: FormulaVersion, batch: stove.BatchRow | None = None) -> planning.Wanted:
    """One thing that is wanted, as the core takes it: of the book, or as its batch was weighed."""
    content = version.content if batch is None else batch.content
    return planning.Wanted(
        key=f"want-{one.pk}",
        name=one.name,
        sauce=str(one.formula_id),
        formula=_formula(_frozen(content)),
        at=one.at,
        covers=one.covers,
        each=one.each,
        schools=version.formula.schools if batch is None else batch.schools,
        batch="" if batch is None else str(batch.pk),
    )


def _frozen(content: Any) -> Any:
    """Plain data that can be a key."""
    if isinstance(content, dict):
        return ("{", *sorted((key, _frozen(value)) for key, value in content.items()))
    return ("[", *map(_frozen, content)) if isinstance(content, list) else content


def _thawed(frozen: Any) -> Any:
    if isinstance(frozen, tuple):
        rest = frozen[1:]
        return {key: _thawed(value) for key, value in rest} if frozen[0] == "{" else [*map(_thawed, rest)]
    return frozen


@lru_cache(maxsize=256)
def _formula(content: Any) -> custard.Formula:
    return custard.read_formula(_thawed(content))


def other_of(one: Other) -> planning.Other:
    """Other work, as the core takes it."""
    work = planning.OtherWork(one.name, one.minutes, one.hands, one.needs)
    return planning.Other(f"work-{one.pk}", work, one.by)


def _tubs(actor: Actor, day: Day) -> list[planning.Tub]:
    """What is on the shelf and promised to nobody, by the formula it is made of."""
    assert day.date is not None  # noqa: S101 - a template has no shelf
    zone = kitchen.zone_of(actor.kitchen)
    rows = shelf.free_sauces(actor)
    # What another day has planned to draw is no more free for this one.
    gone: dict[int, float] = {}
    others = Plan.objects.filter(day__kitchen=actor.kitchen, day__date__gte=clocks.today_of(actor.kitchen))
    for plan in others.exclude(day=day):
        for one in plan.document.get("drawn", ()):
            gone[one["tub_id"]] = gone.get(one["tub_id"], 0.0) + one["grams"]
    return [
        planning.Tub(
            key=str(row.pk),
            sauce=str(row.batch.version.formula_id),
            grams=max(0.0, float(row.left_g - row.promised_g) - gone.get(row.pk, 0.0)),
            ready=clocks.minute(row.ready_at or row.made_at, day.date, zone),
            use_by=clocks.minute(row.use_by, day.date, zone),
        )
        for row in rows
    ]


def standing(day: Day, jobs: Iterable[planning.Job], people: list[int]) -> tuple[planning.Job, ...]:
    """Jobs with what has begun, as marks and rows say it, and what somebody pinned."""
    if day.date is None:
        return tuple(jobs)
    place: dict[int | None, int] = {key: number for number, key in enumerate(people)}
    pins = _by_job(day.pins.all())
    done = _by_job(day.done.all())
    batches = {f"want-{one.pk}": one.batch for one in day.wants.select_related("batch") if one.stands}
    found, now = [], clocks.now_of(day)
    for job in jobs:
        begun: dict[str, planning.Begun] = {}
        batch = batches.get(job.key)
        if batch is not None:
            begun = pace.of_batch(day, job, batch)
        for row in done.get(job.key, ()):
            begun[row.step] = _begun(day, row, place)
        pinned = {
            row.step: planning.Begun(row.start, hands=place.get(row.hands_id))
            for row in pins.get(job.key, ())
        }
        found.append(_whole(planning.standing(job, begun, pinned), now))
    return tuple(found)


def _whole(job: planning.Job, now: int | None) -> planning.Job:
    """What needs nobody and nothing ends by itself; and what came before what has begun is over."""
    begun = dict(job.begun)
    last = max(begun, default=-1)
    for place in range(last):
        step = job.steps[place]
        after = min(begun[later].start for later in begun if later > place)
        if place not in begun:
            begun[place] = planning.Begun(after - step.long, after)
        elif begun[place].end is None:
            begun[place] = replace(begun[place], end=max(begun[place].start, after))
    if last >= 0 and begun[last].end is None and now is not None:
        step, start = job.steps[last], begun[last].start
        if not step.hands and not step.needs and start + step.long <= now:
            begun[last] = replace(begun[last], end=start + step.long)
    return replace(job, begun=begun)


def _by_job(rows: Iterable[Any]) -> dict[str, list[Any]]:
    found: dict[str, list[Any]] = {}
    for row in rows:
        found.setdefault(row.job, []).append(row)
    return found


def _begun(day: Day, row: Any, place: Mapping[int | None, int]) -> planning.Begun:
    def minute(at: datetime) -> int:
        assert day.date is not None  # noqa: S101 - a template has nothing begun
        return clocks.minute(at, day.date, kitchen.zone_of(day.kitchen))

    end = None if row.ended_at is None else max(minute(row.began_at) + 1, minute(row.ended_at))
    return planning.Begun(minute(row.began_at), end, place.get(row.hands_id))
