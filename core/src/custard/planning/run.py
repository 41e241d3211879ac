"""A plan as it goes when things take as long as they take: one day, or many at once.

Nothing begins before it was planned, before the step before it is done, nor before the hands and the places
it needs are free of what the plan put before it. Who does what, on which ring and in which order stays.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from custard.planning.day import OVEN, Day, Placed, Plan, Step
from custard.planning.free import OVEN_TURNS_MIN

Floats = NDArray[np.float64]
ON_TIME = -1
"""The step began when it was planned to: nothing held it up."""


@dataclass(frozen=True)
class Run:
    """How it went; rows are days, columns the steps of the plan in its order.

    Attributes
    ----------
    starts, ends : when every step began and ended [min].
    because : the step, as its place in the plan, for which it had to wait; `ON_TIME` where for none.
    """

    plan: Plan
    starts: Floats
    ends: Floats
    because: NDArray[np.int64]

    def ready(self, job: str) -> Floats:
        """When the last step of a job was over, day by day [min]."""
        mine = [n for n, one in enumerate(self.plan.steps) if one.job == job]
        return np.asarray(np.max(self.ends[:, mine], axis=1))

    def last(self, job: str) -> int:
        """The place in the plan of a job's last step."""
        mine = [(one.place, n) for n, one in enumerate(self.plan.steps) if one.job == job]
        return max(mine)[1]


def run(day: Day, plan: Plan, took: Floats) -> Run:
    """Follow a plan through days on which its steps took so long.

    Parameters
    ----------
    took : how long every step took [min]: days by steps, in the order of the plan.
    """
    jobs = {job.key: job for job in day.jobs}
    steps = [jobs[one.job].steps[one.place] for one in plan.steps]
    many = took.shape[0]
    starts, ends = np.zeros_like(took), np.zeros_like(took)
    because = np.full(took.shape, ON_TIME, dtype=np.int64)
    for number, one in enumerate(plan.steps):
        begun = jobs[one.job].begun.get(one.place)
        if begun is not None:
            starts[:, number] = begun.start
            ends[:, number] = begun.start + took[:, number] if begun.end is None else begun.end
            continue
        earliest = float(one.start if day.now is None else max(one.start, day.now))
        start = np.full(many, earliest)
        for before, wait in _before(plan, steps, number, day.room.places.get(OVEN, 0)):
            held = ends[:, before] + wait
            later = held > start + 1e-9
            because[later, number] = before
            start = np.maximum(start, held)
        starts[:, number] = start
        ends[:, number] = start + took[:, number]
    return Run(plan, starts, ends, because)


def _before(plan: Plan, steps: list[Step], number: int, oven: int) -> list[tuple[int, float]]:
    """What must be over before a step begins: places in the plan, and how long it waits after that [min]."""
    one, step = plan.steps[number], steps[number]
    found: list[tuple[int, float]] = []
    for before in range(number):
        other, theirs = plan.steps[before], steps[before]
        if other.job == one.job:
            if other.place == one.place - 1:
                found.append((before, float(step.least)))
            continue
        if other.end > one.start:
            continue
        if _cannot_share(one, step, other, theirs, oven):
            turns = OVEN_TURNS_MIN if OVEN in step.needs and step.oven_c != theirs.oven_c else 0
            found.append((before, float(turns if OVEN in theirs.needs else 0)))
    return found


def _cannot_share(one: Placed, step: Step, other: Placed, theirs: Step, oven: int) -> bool:
    if one.hands is not None and one.hands == other.hands and step.hands + theirs.hands > 1 + 1e-9:
        return True
    if any(other.at.get(need) == lane for need, lane in one.at.items()):
        return True
    both_bake = OVEN in step.needs and OVEN in theirs.needs
    return both_bake and (step.oven_c != theirs.oven_c or step.needs[OVEN] + theirs.needs[OVEN] > oven)


def planned(day: Day, plan: Plan) -> Floats:
    """How long every step is planned to take [min], as one day; what runs ends when it is believed to."""
    jobs = {job.key: job for job in day.jobs}
    found = [float(one.end - one.start) for one in plan.steps]
    for number, one in enumerate(plan.steps):
        begun = jobs[one.job].begun.get(one.place)
        if begun is not None and begun.end is None:
            long = float(jobs[one.job].steps[one.place].long)
            found[number] = long if day.now is None else max(long, day.now + 1.0 - begun.start)
    return np.array([found])
