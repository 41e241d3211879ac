"""Writing on a day: planned again, steps moved, begun and ended, batches taken to the stove, helps taken."""

from __future__ import annotations

import contextlib
from dataclasses import replace
from datetime import date, datetime, timedelta
from typing import Any

import custard
from book import reads as book
from common import clock
from common.events import notify
from common.fair_limiter import Busy, in_turn
from common.refusals import Conflict, Refusal
from custard import planning
from django.http import Http404
from kitchen import reads as kitchen
from kitchen.access import Actor, Role, action
from stove import actions as stove
from stove.mark_checks import LATE

from day import clocks, documents, editing, planner, problem, tasks
from day.models import Day, Hands, Pin, Plan, StepDone, Want
from day.reads import day_of
from day.requests import Doing, Moving

MOVE_S, SURELY_S = 0.5, 2.0
"""How long the rest is looked for when a hand moved a step, and where that was not enough to be sure [s]."""
SOON_DAYS, LONG_AGO_MIN = 3, -3 * planning.DAY_MIN
"""So many days ahead a batch of a day can be begun."""
OVER = "That day is over; plan another."


def replan(actor: Actor, when: date) -> Plan:
    """Plan a day from now, at once, and let a worker look for better. What has begun stays."""
    actor.must(Role.COOK)
    day = day_of(actor, when)
    if day is None:
        raise Http404
    if clocks.is_over(day):
        raise Conflict(OVER)
    _asked(actor, day)
    found = planner.quick(actor, day)
    tasks.look(day.pk, actor.user.pk)
    return found


@action("day.plan", Role.COOK)
def _asked(actor: Actor, day: Day) -> Day:
    Plan.objects.filter(day=day).update(state="first")
    return day


def planned(actor: Actor, when: date) -> None:
    """After a change: a plan of it at once, unless the day is over.

    Where too much is computed just now the change stands all the same, and a worker plans it.
    """
    day = day_of(actor, when)
    if day is None or clocks.is_over(day):
        return
    with contextlib.suppress(Busy):
        planner.quick(actor, day)
    tasks.look(day.pk, actor.user.pk)


def move(actor: Actor, when: date, wanted: Moving) -> Plan:
    """Put a step somewhere; the rest follows, or it is said why not and all stays as it was.

    Raises
    ------
    Conflict
        when the rest cannot follow, or something would come late and that was not wanted anyway.
    """
    actor.must(Role.COOK)
    day, kept = with_plan(actor, when)
    of, people = problem.kept(day, kept.document)
    job, place = _step(of, wanted.job, wanted.step)
    if place in job.begun:
        raise Conflict("That has begun already; what has begun stays where it is.")
    # What follows it by a fixed wait goes with it, so it is put somewhere by one of its steps only.
    block = next(block for block in job.blocks if place in block)
    pinned = {key: one for key, one in job.pinned.items() if key not in block}
    if wanted.start is not None:
        if wanted.start < of.opens:
            raise Conflict(
                f"{planning.said(wanted.start)} is before anybody can begin.", kind="cannot-follow"
            )
        hands = None if wanted.hands_id is None else _who(people, wanted.hands_id)
        pinned[place] = planning.Begun(wanted.start, hands=hands)
    moved = replace(of, jobs=tuple(replace(job, pinned=pinned) if one is job else one for one in of.jobs))
    before = documents.plan_of(kept.document["steps"], people, of.jobs)
    try:
        plan = _rearranged(actor, moved, before, kept.late_min)
    except custard.Impossible:
        there = "" if wanted.start is None else f" at {planning.said(wanted.start)}"
        say = f"With “{job.steps[place].say}”{there} the rest finds no place in this day."
        raise Conflict(f"{say} It stays where it was.", kind="cannot-follow") from None
    if wanted.start not in (None, plan.of(job.key)[place].start):
        say = f"“{job.steps[place].say}” cannot begin at {planning.said(wanted.start)}"
        raise Conflict(
            f"{say}: what comes before it takes longer than that. It stays where it was.",
            kind="cannot-follow",
        )
    late = planning.cost(moved, plan).late
    if late > kept.late_min and not wanted.anyway:
        raise Conflict(_why_not(moved, plan, job, place), kind="would-be-late")
    day = _move(actor, day, wanted, [job.steps[one].step for one in block])
    planner.keep(day, day.revision, moved, people, plan, before)
    tasks.look(day.pk, actor.user.pk)
    return Plan.objects.get(day=day)


@in_turn
def _rearranged(_: Actor, moved: planning.Day, before: planning.Plan | None, late_min: int) -> planning.Plan:
    plan = planning.solve(moved, before, MOVE_S, planner.WORKERS)
    if not plan.proven and planning.cost(moved, plan).late > late_min:
        # Nobody is told that something would be late only because there was no time to look.
        plan = planning.solve(moved, before, SURELY_S, planner.WORKERS)
    return plan


def _why_not(moved: planning.Day, plan: planning.Plan, job: planning.Job, place: int) -> str:
    ready = planning.ready(plan)
    names = [
        f"{one.name} {ready[one.key] - one.due} min late"
        for one in moved.jobs
        if one.due is not None and ready[one.key] > one.due
    ]
    start = planning.said(job.pinned[place].start if place in job.pinned else plan.of(job.key)[place].start)
    return f"With “{job.steps[place].say}” at {start} there would be {' and '.join(names)}. It stays."


def _who(people: list[int], hands_id: int) -> int:
    if hands_id not in people:
        sentence = "are no hands of this day"
        raise Refusal(422, f"Those {sentence}.", [("hands_id", sentence)])
    return people.index(hands_id)


def _step(of: planning.Day, key: str, name: str) -> tuple[planning.Job, int]:
    job = next((one for one in of.jobs if one.key == key), None)
    place = next((n for n, step in enumerate(job.steps) if step.step == name), None) if job else None
    if job is None or place is None:
        raise Http404
    return job, place


def with_plan(actor: Actor, when: date) -> tuple[Day, Plan]:
    """A day with a plan of all that is wanted now.

    Raises
    ------
    Http404, Conflict
        when there is none, or it is being made.
    """
    day = day_of(actor, when)
    kept = None if day is None else Plan.objects.filter(day=day).first()
    if day is None or kept is None or not kept.document:
        raise Http404
    if kept.revision != day.revision:
        raise Conflict("Something was changed meanwhile and is being planned. Try again in a moment.")
    return day, kept


@action("day.move", Role.COOK)
def _move(actor: Actor, day: Day, wanted: Moving, block: list[str]) -> Day:
    day = editing.here(actor, day.date or date.min)
    Pin.objects.filter(day=day, job=wanted.job, step__in=block).delete()
    if wanted.start is not None:
        Pin.objects.create(
            day=day, job=wanted.job, step=wanted.step, start=wanted.start, hands_id=wanted.hands_id
        )
    return editing.changed(day)


def _near(day: Day) -> None:
    """Refuse to begin what is over, or planned for another week."""
    if clocks.is_over(day):
        raise Conflict(OVER)
    if day.date is not None and day.date > clocks.today_of(day.kitchen) + timedelta(days=SOON_DAYS):
        raise Conflict("That day is still far off; begin it when it is there.")


@action("day.step", Role.COOK)
def step(actor: Actor, when: date, doing: Doing) -> Day:
    """A step began, or ended, or neither. It is no change of the plan, only of what is believed to come."""
    day, kept = with_plan(actor, when)
    _near(day)
    of, people = problem.kept(day, kept.document)
    _step(of, doing.job, doing.step)
    at = doing.at or clock.now()
    if at > clock.now() + LATE:
        raise Refusal(422, "That time has not come yet.", [("at", "has not come yet")])
    if day.date is not None and clocks.minute(at, day.date, kitchen.zone_of(actor.kitchen)) < LONG_AGO_MIN:
        raise Refusal(422, "That was long before this day.", [("at", "is long before this day")])
    if doing.hands_id is not None:
        _who(people, doing.hands_id)
    if doing.what == "neither":
        StepDone.objects.filter(day=day, job=doing.job, step=doing.step).delete()
    else:
        row, _ = StepDone.objects.select_for_update(no_key=True).get_or_create(
            day=day,
            job=doing.job,
            step=doing.step,
            defaults={
                "began_at": _began(of, doing, at),
                "by": actor.user,
                "hands_id": doing.hands_id or _planned_hands(kept, of, doing),
            },
        )
        row.ended_at = at if doing.what == "ended" else None
        row.save(update_fields=["ended_at"])
    notify(actor.kitchen.pk, {"day": day.pk})
    return day


def _began(of: planning.Day, doing: Doing, at: datetime) -> datetime:
    """When something began that is only now said to be over: as long ago as it is planned to take."""
    if doing.what == "begun":
        return at
    job, place = _step(of, doing.job, doing.step)
    return at - timedelta(minutes=job.steps[place].long)


def _planned_hands(kept: Plan, of: planning.Day, doing: Doing) -> int | None:
    _, place = _step(of, doing.job, doing.step)
    found = (one for one in kept.document["steps"] if one["job"] == doing.job and one["place"] == place)
    hands: int | None = next((one["hands"] for one in found), None)
    return hands if hands is not None and Hands.objects.filter(pk=hands).exists() else None


def to_stove(actor: Actor, when: date, key: str) -> int:
    """Take a job's batch to the stove, as large as planned; asked twice it is the one that was started."""
    actor.must(Role.COOK)
    day, kept = with_plan(actor, when)
    _near(day)
    told = next((one for one in kept.document["jobs"] if one["key"] == key and one["wants"]), None)
    if told is None:
        raise Http404
    version, formula = book.version(actor, told["formula_id"]), custard.read_formula(told["content"])
    if version.number != told["version"]:
        # It was written again since it was planned: as the book has it now, as much of it as was planned.
        written = custard.read_formula(version.content)
        formula = custard.bench.for_finished_g(written, told["grams"], kitchen.conditions_of(actor.kitchen))
    return _to_stove(actor, day, told, version.number, formula)


@action("day.stove", Role.COOK)
def _to_stove(actor: Actor, day: Day, told: dict[str, Any], number: int, formula: custard.Formula) -> int:
    """Of two who take it at once the second finds what the first has started: the day is locked meanwhile."""
    Day.objects.select_for_update(of=("self",), no_key=True).get(pk=day.pk)
    wants = list(Want.objects.select_related("batch").filter(day=day, pk__in=told["wants"]))
    started = next((one.batch_id for one in wants if one.batch_id is not None and one.stands), None)
    if started is not None:
        return started
    if not wants:
        raise Http404
    batch = stove.start(actor, told["formula_id"], number, formula)
    Want.objects.filter(pk__in=[one.pk for one in wants]).update(batch=batch.pk)
    notify(actor.kitchen.pk, {"day": day.pk})
    return batch.pk
