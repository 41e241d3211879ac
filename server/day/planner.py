"""Planning a day: an answer at once where it was asked for, better ones from a worker as it finds them."""

from __future__ import annotations

import logging
import os
import threading
from concurrent.futures import ThreadPoolExecutor, wait
from datetime import timedelta
from typing import Any

import custard
from common import clock
from common.events import notify
from common.fair_limiter import in_turn
from custard import planning
from django.db import transaction
from django.db.models import F
from kitchen.access import Actor, as_cook

from day import clocks, documents, problem
from day.models import Day, Plan

LOOKS_S = 10.0
"""So long a worker looks for a better plan [s]."""
AT_ONCE_S = 1.0
"""So long is looked at once where placing one job after another finds nothing [s]."""
WORKERS = 2
STEPS_BACK = 10
"""How nice a worker's looking is to what runs beside it."""
ASKED_S = 0.25
"""How often what was found meanwhile is written down [s]."""
MOST_SAID = 1000
LEFT, MOST_LEFT = timedelta(minutes=1), 20
"""A plan that stands unlooked for so long was forgotten; so many are taken up at once."""
log = logging.getLogger("oldspoon.day")


@in_turn
def quick(actor: Actor, day: Day) -> Plan:
    """A first plan in the turn of whoever asks for it.

    Raises
    ------
    Busy
        when too much is computed just now.
    """
    return first(actor, day)


def first(actor: Actor, day: Day) -> Plan:
    """A plan of all that is wanted now: computed outside any transaction, kept if nothing changed meanwhile.
    What has been begun stays where it is."""
    revision = day.revision
    try:
        found = problem.build(actor, day)
    except custard.CustardError as refused:
        return _none(day, revision, refused)
    before = _before(day, found.day, found.people)
    try:
        plan = _at_once(found.day, before)
    except custard.Impossible as refused:
        return _none(day, revision, refused, jobs=found.told, drawn=found.drawn)
    plan = _rather(day, found, plan, before)
    return keep(day, revision, found.day, found.people, plan, before, jobs=found.told, drawn=found.drawn)


def _rather(
    day: Day, found: problem.Problem, plan: planning.Plan, before: planning.Plan | None
) -> planning.Plan:
    """The plan that stands, where it can still be done and is no dearer: no worse one is shown meanwhile."""
    kept = Plan.objects.filter(day=day, revision=day.revision).first()
    stands = None
    if kept is not None and kept.document:
        stands = documents.plan_of(kept.document["steps"], found.people, found.day.jobs)
    if stands is None or planning.broken(found.day, stands):
        return plan
    by = planning.weights(found.day, begun=before is not None)
    costs = [planning.cost(found.day, one, before).total(by) for one in (stands, plan)]
    return stands if costs[0] <= costs[1] else plan


def _at_once(of: planning.Day, before: planning.Plan | None) -> planning.Plan:
    """One job after another where that goes; else whatever the solver finds within a moment."""
    try:
        return planning.greedy(of, before)
    except custard.Impossible:
        return planning.solve(of, before, AT_ONCE_S, WORKERS)


def _before(day: Day, problem_day: planning.Day, people: list[int]) -> planning.Plan | None:
    """The plan that stands, where something of it has begun or was put somewhere."""
    kept = Plan.objects.filter(day=day).first()
    moved = any(job.begun or job.pinned for job in problem_day.jobs)
    if kept is None or not kept.document or not moved:
        return None
    return documents.plan_of(kept.document["steps"], people, problem_day.jobs)


def keep(
    day: Day,
    revision: int,
    of: planning.Day,
    people: list[int],
    plan: planning.Plan,
    before: planning.Plan | None,
    *,
    state: str = "first",
    **document: Any,
) -> Plan:
    """Keep a plan, unless the day has changed since; it is tidied, and tried against hundreds of days."""
    plan = planning.tidy(of, plan, before)
    paid = planning.cost(of, plan, before)
    risks = [custard.plain(one) | {"brittle": one.brittle} for one in planning.risks(of, plan)]
    with transaction.atomic():
        locked = Day.objects.select_for_update(no_key=True).get(pk=day.pk)
        kept = Plan.objects.filter(day=locked).first() or Plan(day=locked)
        if locked.revision != revision:
            return kept
        kept.document = {
            "version": documents.VERSION,
            **{key: value for key, value in (kept.document or {}).items() if key in ("jobs", "drawn")},
            **document,
            "steps": documents.placed_json(plan, people),
        }
        if kept.revision != revision or paid.late == 0:
            kept.why, kept.helps = "", []
        kept.revision, kept.state, kept.made_at = revision, state, clock.now()
        kept.late_min, kept.gap, kept.proven, kept.risks = paid.late, plan.gap, plan.proven, risks
        kept.save()
        notify(day.kitchen_id, {"day": day.pk})
    return kept


def _none(day: Day, revision: int, refused: custard.CustardError, **document: Any) -> Plan:
    """That there is no plan, and why; with the jobs, where it is known what they are."""
    with transaction.atomic():
        locked = Day.objects.select_for_update(no_key=True).get(pk=day.pk)
        kept = Plan.objects.filter(day=locked).first() or Plan(day=locked)
        if locked.revision != revision:
            return kept
        kept.revision, kept.state, kept.made_at = revision, "none", clock.now()
        kept.document = {"version": documents.VERSION, "steps": [], **document} if document else {}
        kept.late_min, kept.gap, kept.proven = 0, 1.0, False
        kept.why, kept.helps, kept.risks = refused.sentence()[:MOST_SAID], [], []
        kept.save()
        notify(day.kitchen_id, {"day": day.pk})
    return kept


def improve(day_id: int, user_id: int | None = None) -> None:
    """What a worker does: look for a better plan, writing down what it finds, then say why and what helps.

    Where there was no time for a first plan it makes that too, for whoever changed the day.
    """
    day = Day.objects.select_related("kitchen").filter(pk=day_id).first()
    if day is None or clocks.is_over(day):
        return
    kept = Plan.objects.filter(day=day).first()
    actor = as_cook(user_id, day.kitchen)
    if actor is not None and (kept is None or kept.revision != day.revision):
        kept = first(actor, day)
    if kept is None or kept.revision != day.revision or not kept.document:
        return
    of, people = problem.kept(day, kept.document)
    stands = documents.plan_of(kept.document["steps"], people, of.jobs)
    if kept.state == "done" or not of.jobs:
        return
    before = stands if any(job.begun or job.pinned for job in of.jobs) else None
    try:
        plan = _looked(day, of, people, before)
    except custard.Impossible as refused:
        told = {key: kept.document[key] for key in ("jobs", "drawn")}
        _none(day, day.revision, refused, **told)
        _explain(day, of, "none")
        return
    if plan is None:
        return
    state = "looking" if planning.cost(of, plan).late else "done"
    keep(day, day.revision, of, people, plan, before, state=state)
    if state == "looking":
        _explain(day, of, "done")


def _looked(
    day: Day, of: planning.Day, people: list[int], before: planning.Plan | None
) -> planning.Plan | None:
    """The best plan found in time; each better one is written down meanwhile. None when the day changed."""
    found: list[planning.Plan] = []
    changed = threading.Event()

    def look() -> planning.Plan:
        return planning.solve(of, before, LOOKS_S, WORKERS, found.append, stop=changed.is_set)

    told = 0
    with _aside() as pool:
        looking = pool.submit(look)
        while not looking.done():
            wait([looking], timeout=ASKED_S)
            if _changed(day):
                changed.set()
            elif len(found) > told and not looking.done():
                told = len(found)
                keep(day, day.revision, of, people, found[-1], before, state="looking")
        plan = looking.result()
    return None if changed.is_set() or _changed(day) else plan


def _aside() -> ThreadPoolExecutor:
    """A thread for what takes long, which steps back for everything else that this machine has to do."""
    return ThreadPoolExecutor(1, thread_name_prefix="plan", initializer=_step_back)


def _step_back() -> None:
    # On Linux this is of the calling thread alone, and of the solver's that it starts.
    os.setpriority(os.PRIO_PROCESS, threading.get_native_id(), STEPS_BACK)


def left() -> list[int]:
    """The days, not over yet, whose plan has stood for a while and was never looked for better."""
    found = Plan.objects.filter(
        state__in=("first", "looking"),
        made_at__lt=clock.now() - LEFT,
        revision=F("day__revision"),
        day__date__gte=clock.now() - timedelta(days=2),
    )
    return list(found.values_list("day_id", flat=True)[:MOST_LEFT])


def _changed(day: Day) -> bool:
    return not Day.objects.filter(pk=day.pk, revision=day.revision).exists()


def _explain(day: Day, of: planning.Day, state: str) -> None:
    """Why not all is in time, and what would help, as each is found; then the plan is in that state."""
    with _aside() as pool:
        because = pool.submit(planning.why, of, WORKERS).result()
        if because is None:
            _say(day, state=state)
            return
        _say(day, why=because.say[:MOST_SAID])
        found = iter(planning.helps(of, because, workers=WORKERS))
        helps: list[dict[str, Any]] = []
        while (one := pool.submit(next, found, None).result()) is not None:
            if _changed(day):
                return
            helps.append(change_json(of, one))
            _say(day, helps=helps)
    _say(day, state=state)


def change_json(of: planning.Day, one: planning.Change) -> dict[str, Any]:
    """A change that helps, as it is kept: in words, and in what is to be written for it."""
    room, was = one.day.room, of.room
    more = {name: room.places.get(name, 0) for name in room.places if room.places[name] != was.places[name]}
    dues = {
        job.key: job.due
        for job, before in zip(one.day.jobs, of.jobs, strict=False)
        if len(one.day.jobs) == len(of.jobs) and job.due != before.due
    }
    return {
        "kind": one.kind,
        "say": one.say,
        "minutes": one.minutes,
        "job": one.job,
        "hands": [
            {"name": hands.name, "there": [list(span) for span in hands.there]} for hands in room.hands
        ],
        "places": more,
        "ice_g": room.ice_g,
        "bowls": room.bowls,
        "dues": dues,
    }


def _say(day: Day, **values: Any) -> None:
    """Write something into the plan, unless the day has changed since."""
    with transaction.atomic():
        if Plan.objects.filter(day=day, revision=day.revision).update(**values):
            notify(day.kitchen_id, {"day": day.pk})
