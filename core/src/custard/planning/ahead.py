"""From now on: what is late, what that endangers, and what each pair of hands does next."""

from __future__ import annotations

from dataclasses import dataclass

from custard.planning.day import Day, Placed, Plan
from custard.planning.run import ON_TIME, Run, planned, run

FORGIVEN_MIN = 2
"""Nobody is called late within so many minutes [min]."""


@dataclass(frozen=True)
class Ahead:
    """A step as it is now believed to go.

    Attributes
    ----------
    job, place : which step.
    start, end : when it begins and ends, if all goes on as planned [min].
    late : whether it should have begun, or have ended, by now.
    """

    job: str
    place: int
    start: int
    end: int
    late: bool


@dataclass(frozen=True)
class Endangered:
    """A deadline that will be missed if all goes on as planned.

    Attributes
    ----------
    job : whose it is; `late_min` by how much [min].
    because : the step, as job and place, that holds it up.
    """

    job: str
    late_min: int
    because: tuple[str, int]


@dataclass(frozen=True)
class Outlook:
    """How the day goes on from now."""

    steps: tuple[Ahead, ...]
    endangered: tuple[Endangered, ...]

    def of(self, job: str, place: int) -> Ahead:
        """One step."""
        return next(one for one in self.steps if one.job == job and one.place == place)


def outlook(day: Day, plan: Plan) -> Outlook:
    """How a plan goes on from `day.now`, with what has begun as it is.

    Parameters
    ----------
    day : a day of work: its jobs, its people, its room.
    plan : when each step is done, and by whom.
    """
    if not plan.steps:
        return Outlook((), ())
    went = run(day, plan, planned(day, plan))
    jobs = {job.key: job for job in day.jobs}
    steps = []
    for number, one in enumerate(plan.steps):
        begun = jobs[one.job].begun.get(one.place)
        start, end = int(went.starts[0, number]), int(went.ends[0, number])
        ended = begun is not None and begun.end is not None
        late = day.now is not None and _late(one, begun is not None, ended, day.now)
        steps.append(Ahead(one.job, one.place, start, end, late))
    endangered = []
    for job in day.jobs:
        done = len(job.begun) == len(job.steps) and all(one.end is not None for one in job.begun.values())
        if job.due is None or done:
            continue
        late_min = int(went.ready(job.key)[0]) - job.due
        if late_min > 0:
            endangered.append(Endangered(job.key, late_min, _holds(went, job.key)))
    return Outlook(tuple(steps), tuple(endangered))


def _late(one: Placed, begun: bool, ended: bool, now: int) -> bool:
    if ended:
        return False
    return now > (one.end if begun else one.start) + FORGIVEN_MIN


def _holds(went: Run, job: str) -> tuple[str, int]:
    """The first of the steps it waits for, one after another."""
    at = went.last(job)
    while (before := int(went.because[0, at])) != ON_TIME:
        at = before
    return went.plan.steps[at].job, went.plan.steps[at].place


def next_for(day: Day, plan: Plan, who: int) -> tuple[Placed | None, Placed | None]:
    """What a pair of hands is at, and what comes next for it; None for nothing.

    Parameters
    ----------
    day : a day of work: its jobs, its people, its room.
    plan : when each step is done, and by whom.
    who : which pair of hands, from 0.
    """
    jobs = {job.key: job for job in day.jobs}
    mine = [one for one in plan.steps if one.hands == who]
    at = next_one = None
    for one in mine:
        begun = jobs[one.job].begun.get(one.place)
        if begun is not None and begun.end is None:
            at = one if at is None else at
        elif begun is None and next_one is None:
            next_one = one
    return at, next_one
