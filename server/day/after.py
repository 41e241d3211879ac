"""What a day really took beside what was planned, and what that teaches the minutes."""

from __future__ import annotations

from datetime import date

import custard
from custard import planning
from django.http import Http404
from kitchen.access import Actor

from day import documents, pace, problem
from day.models import Plan
from day.reads import day_of
from day.schemas import DayAfterOut, LessonOut, StepAfter

WAYS = {"coats": "stirred sauces", "boils": "boiled creams", "mounds": "foams", "sets": "baked cups"}
SAME = 0.05


def after(actor: Actor, when: date) -> DayAfterOut:
    """Steps that are over, as planned and as they were."""
    day = day_of(actor, when)
    kept = None if day is None else Plan.objects.filter(day=day).first()
    if day is None or kept is None or not kept.document:
        raise Http404
    of, people = problem.kept(day, kept.document)
    plan = documents.plan_of(kept.document["steps"], people, of.jobs)
    found = []
    for one in plan.steps if plan else ():
        job = next(job for job in of.jobs if job.key == one.job)
        begun, step = job.begun.get(one.place), job.steps[one.place]
        if begun is not None and begun.end is not None and (step.hands or step.needs):
            found.append(
                StepAfter(
                    job=job.key,
                    name=job.name,
                    say=step.say,
                    planned=step.long,
                    took=float(begun.end - begun.start),
                    planned_at=one.start,
                    began_at=begun.start,
                )
            )
    planned, took = sum(one.planned for one in found), round(sum(one.took for one in found))
    return DayAfterOut(
        steps=found,
        planned_min=planned,
        took_min=took,
        lessons=[LessonOut(way=way, lesson=one, say=_say(way, one)) for way, one in pace.lessons(actor)],
        say=_whole(len(found), planned, took),
    )


def _whole(many: int, planned: int, took: int) -> str:
    if not many:
        return "Nothing of this day is over yet."
    share = took / max(planned, 1) - 1
    beside = (
        "as planned"
        if abs(share) <= SAME
        else f"{abs(100 * share):.0f} % {'longer' if share > 0 else 'shorter'}"
    )
    return f"{many} step{'' if many == 1 else 's'} took {took} min where {planned} were planned: {beside}."


def _say(way: str, one: planning.Lesson) -> str:
    times, stage = one.times, one.stage
    if abs(times - 1) <= SAME:
        beside = "as long as computed"
    else:
        beside = f"{abs(100 * (times - 1)):.0f} % {'longer' if times > 1 else 'shorter'} than computed"
    work = custard.stove.stage_records()[stage].work
    return f"With {WAYS[way]} {work} takes {beside}, from {one.batches} batches."
