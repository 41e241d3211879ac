"""What is likely made next: planned and not begun, today or else tomorrow; then what is usually made now."""

from __future__ import annotations

from datetime import date, timedelta

from book import reads as book
from common import clock
from custard import planning
from kitchen import reads as kitchen
from kitchen.access import Actor
from stove import reads as stove

from day import clocks
from day.models import Plan, Want
from day.schemas import Upcoming

MOST, HABITS = 5, 3
WEEKS, ABOUT_MIN = 8, 150
"""A habit is what was made on this weekday, about this time, in so many weeks and within so many minutes."""
OFTEN = 2


def upcoming(actor: Actor) -> list[Upcoming]:
    """What is likely next, the soonest first; never what is on the stove already."""
    planned = _planned(actor)
    known = {one.formula_id for one in planned}
    known |= set(stove.lines(actor).filter(closed_at=None).values_list("version__formula_id", flat=True))
    return [*planned, *(one for one in _habits(actor) if one.formula_id not in known)][:MOST]


def _planned(actor: Actor) -> list[Upcoming]:
    today = clocks.today_of(actor.kitchen)
    # Once today's are on, tomorrow's can be begun.
    return _planned_on(actor, today, "") or _planned_on(actor, today + timedelta(days=1), "tomorrow, ")


def _planned_on(actor: Actor, when: date, said: str) -> list[Upcoming]:
    kept = Plan.objects.filter(day__kitchen=actor.kitchen, day__date=when).first()
    if kept is None or not kept.document:
        return []
    rows = Want.objects.filter(day_id=kept.day_id).select_related("formula", "batch")
    wants = {one.pk: one for one in rows}
    starts: dict[str, int] = {}
    for step in kept.document["steps"]:
        starts[step["job"]] = min(step["start"], starts.get(step["job"], step["start"]))
    found = []
    for job in sorted(kept.document["jobs"], key=lambda one: starts.get(one["key"], 0)):
        mine = [wants[want] for want in job["wants"] if want in wants]
        if not mine or job["key"] not in starts or any(one.batch_id and one.stands for one in mine):
            continue
        say = f"planned for {said}{planning.said(starts[job['key']])}"
        dishes = ", ".join(dict.fromkeys(one.name for one in mine if one.name))
        if dishes:
            say = f"{say}: {dishes}"
        found.append(
            Upcoming(
                formula_id=job["formula_id"], name=mine[0].formula.name, say=say, when=when, job=job["key"]
            )
        )
    return found


def _habits(actor: Actor) -> list[Upcoming]:
    here = clock.now().astimezone(kitchen.zone_of(actor.kitchen))
    about = timedelta(minutes=ABOUT_MIN)
    # By the wall clock: an hour given or taken in between changes nothing.
    then = [here - timedelta(weeks=week) for week in range(WEEKS + 1)]
    counts = stove.begun(actor, [(one - about, one + about) for one in then])
    often = [(formula, count) for formula, count in counts if count >= OFTEN][:HABITS]
    latest = book.latest_by_formula(actor, [formula for formula, _ in often])
    return [
        Upcoming(
            formula_id=formula,
            name=latest[formula].content["name"],
            say=f"made {count} times on {here:%A}s about now",
            when=None,
            job=None,
        )
        for formula, count in often
        if formula in latest and latest[formula].formula.archived_at is None
    ]
