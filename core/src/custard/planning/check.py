"""Whether a plan can be done at all: found again from the plan itself, by counting minute by minute.

The solver has its own words for all of this; that both agree is what the tests hold it to, and whatever
a hand has moved is looked at by this.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise

from custard.planning.blocks import begun
from custard.planning.day import BOWL, ICE, PLACES, WORDS, Day, Job, Placed, Plan
from custard.planning.free import OVEN_TURNS_MIN

CLOSE = 1e-6


@dataclass(frozen=True)
class Broken:
    """Something a plan asks that cannot be: when [min], the jobs it is about, and a sentence of it."""

    at: int
    jobs: tuple[str, ...]
    say: str


def broken(day: Day, plan: Plan) -> tuple[Broken, ...]:
    """All that cannot be in a plan, in the order of time; nothing for one that can be done.

    A deadline that is missed is no part of it, nor what cannot be in what has begun already.

    Parameters
    ----------
    day : a day of work: its jobs, its people, its room.
    plan : when each step is done, and by whom.
    """
    found = [*_missing(day, plan), *_begun(day, plan), *_waits(day, plan)]
    found += [*_hands(day, plan), *_places(day, plan)]
    found += [*_oven(day, plan), *_stocks(day, plan)]
    return tuple(sorted(found, key=lambda one: one.at))


def clock(minute: int) -> str:
    """A minute as a clock shows it.

    Parameters
    ----------
    minute : minutes since the midnight at which the day begins [min]; below 0 the day before.

    >>> clock(570), clock(-30), clock(1445)
    ('9:30', '23:30 the day before', '0:05 the day after')
    """
    days, of_day = divmod(minute, 1440)
    return _near(f"{of_day // 60}:{of_day % 60:02d}", days)


def said(minute: int) -> str:
    """A minute within a sentence, as temperatures are written there: whoever shows it writes it as they do.

    Parameters
    ----------
    minute : minutes since the midnight at which the day begins [min]; below 0 the day before.

    >>> said(570), said(-30)
    ('{9:30 h}', '{23:30 h} the day before')
    """
    days, of_day = divmod(minute, 1440)
    return _near(f"{{{of_day // 60}:{of_day % 60:02d} h}}", days)


def _near(shown: str, days: int) -> str:
    if days == 0:
        return shown
    if days == -1:
        return f"{shown} the day before"
    if days == 1:
        return f"{shown} the day after"
    return f"{shown}, {abs(days)} days {'before' if days < 0 else 'after'}"


def _jobs(day: Day) -> dict[str, Job]:
    return {job.key: job for job in day.jobs}


def _missing(day: Day, plan: Plan) -> Iterator[Broken]:
    for job in day.jobs:
        if [one.place for one in plan.of(job.key)] != list(range(len(job.steps))):
            yield Broken(0, (job.key,), f"{job.name} is not planned from its first step to its last.")


def _begun(day: Day, plan: Plan) -> Iterator[Broken]:
    """What has begun is where it is, wherever a plan would have had it."""
    there = {(one.job, one.place): one for one in plan.steps}
    for job, one in begun(day):
        planned = there.get((job.key, one.place))
        if planned is not None and (planned.start, planned.end) != (one.start, one.end):
            say = f"{job.steps[one.place].say}, {job.name}, began at {said(one.start)}."
            yield Broken(one.start, (job.key,), say)


def _waits(day: Day, plan: Plan) -> Iterator[Broken]:
    for job in day.jobs:
        steps = plan.of(job.key)
        for one in steps:
            step = job.steps[one.place]
            if one.place not in job.begun and one.start < max(day.opens, job.open):
                yield Broken(one.start, (job.key,), f"{step.say}, {job.name}: before the day begins.")
            if one.place not in job.begun and one.end - one.start != step.long:
                yield Broken(one.start, (job.key,), f"{step.say}, {job.name}: takes {step.long} min.")
        for before, one in pairwise(steps):
            step, waited = job.steps[one.place], one.start - before.end
            if one.place in job.begun:
                continue
            late = before.place in job.begun and one.start <= day.opens
            if waited < step.least:
                say = f"{step.say}, {job.name}, needs {step.least} min after “{job.steps[before.place].say}”"
                yield Broken(one.start, (job.key,), f"{say} and has {waited}.")
            elif step.most is not None and waited > step.most and not late:
                say = f"{step.say}, {job.name}, waits {step.most} min at most"
                yield Broken(one.start, (job.key,), f"{say} and would wait {waited}.")
        if steps and job.due is not None and job.life is not None and len(job.begun) < len(job.steps):
            age = job.due - steps[-1].end
            if age > job.life:
                say = f"{job.name} is good for {job.life} min and would be {age} min old"
                yield Broken(steps[-1].end, (job.key,), f"{say} at {said(job.due)}.")


def _hands(day: Day, plan: Plan) -> Iterator[Broken]:
    jobs, room = _jobs(day), day.room
    begun_steps = {(one.job, one.place) for _, one in begun(day)}
    for who, hands in enumerate(room.hands):
        mine = [one for one in plan.steps if one.hands == who]
        for one in mine:
            there = any(start <= one.start and one.end <= end for start, end in hands.there)
            if not there and (one.job, one.place) not in begun_steps:
                step, job = jobs[one.job].steps[one.place], jobs[one.job]
                yield Broken(one.start, (job.key,), f"{step.say}, {job.name}: {hands.name} is not there.")
        yield from _over(
            ((one, jobs[one.job].steps[one.place].hands) for one in mine), 1.0, hands.name, jobs, begun_steps
        )
    for one in plan.steps:
        job = jobs[one.job]
        if job.steps[one.place].hands and one.hands is None and one.place not in job.begun:
            yield Broken(one.start, (job.key,), f"{job.steps[one.place].say}, {job.name}: nobody does it.")


def _places(day: Day, plan: Plan) -> Iterator[Broken]:
    jobs = _jobs(day)
    begun_steps = {(one.job, one.place) for _, one in begun(day)}
    for place in PLACES:
        uses = (
            (one, jobs[one.job].steps[one.place].needs[place])
            for one in plan.steps
            if place in jobs[one.job].steps[one.place].needs
        )
        yield from _over(uses, day.room.places.get(place, 0), WORDS[place], jobs, begun_steps)


def _over(
    uses: Iterator[tuple[Placed, float]],
    most: float,
    what: str,
    jobs: dict[str, Job],
    begun_steps: set[tuple[str, int]],
) -> Iterator[Broken]:
    """Where more is used at once than there is; what has begun is what it is."""
    found = list(uses)
    for one, _ in found:
        together = [(other, amount) for other, amount in found if other.start <= one.start < other.end]
        if sum(amount for _, amount in together) > most + CLOSE:
            if all((other.job, other.place) in begun_steps for other, _ in together):
                continue
            names = [f"“{jobs[o.job].steps[o.place].say}”, {jobs[o.job].name}" for o, _ in together]
            keys = tuple(dict.fromkeys(other.job for other, _ in together))
            yield Broken(
                one.start, keys, f"At {said(one.start)} {what} cannot be in {' and '.join(names)} at once."
            )


def _oven(day: Day, plan: Plan) -> Iterator[Broken]:
    jobs = _jobs(day)
    bakes = [
        (one, celsius) for one in plan.steps if (celsius := jobs[one.job].steps[one.place].oven_c) is not None
    ]
    for number, (one, celsius) in enumerate(bakes):
        for other, others_c in bakes[number + 1 :]:
            apart = other.start - one.end if one.start <= other.start else one.start - other.end
            if celsius != others_c and apart < OVEN_TURNS_MIN:
                names = f"{jobs[one.job].name} at {{{celsius:g} C}} and {jobs[other.job].name}"
                say = f"The oven cannot be right for {names} at {{{others_c:g} C}} so close together."
                yield Broken(max(one.start, other.start), (one.job, other.job), say)


def _stocks(day: Day, plan: Plan) -> Iterator[Broken]:
    jobs, room = _jobs(day), day.room
    used: dict[str, list[Placed]] = defaultdict(list)
    for one in plan.steps:
        for need in jobs[one.job].steps[one.place].needs:
            used[need].append(one)
    if room.ice_g is not None:
        gone = 0.0
        for one in sorted(used[ICE], key=lambda one: one.start):
            gone += jobs[one.job].steps[one.place].needs[ICE]
            there = room.ice_g + room.ice_g_h / 60 * max(0, one.start - room.opens)
            if gone > there + 1:
                say = f"At {said(one.start)} {gone / 1000:.1f} kg of ice are wanted and there are"
                yield Broken(one.start, (one.job,), f"{say} {there / 1000:.1f}.")
    if room.bowls is not None:
        freezes = round(60 * room.bowl_h)
        for one in used[BOWL]:
            busy = [other for other in used[BOWL] if other.start <= one.start < other.end + freezes]
            if sum(jobs[other.job].steps[other.place].needs[BOWL] for other in busy) > room.bowls:
                keys = tuple(dict.fromkeys(other.job for other in busy))
                say = f"No churn bowl is frozen for {jobs[one.job].name} at {said(one.start)}."
                yield Broken(one.start, keys, say)
