"""How sure a plan is: tried against hundreds of days on which everything takes as long as it happens to."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from custard.figures import Hundredths, WholeSeconds
from custard.planning.day import Day, Plan
from custard.planning.run import ON_TIME, Floats, Run, planned, run

DAYS = 500
SURE = 0.9
"""A deadline that is kept on fewer days than this is brittle [1]."""
LATE_SHARE = 0.9
WORTH_MIN = 1.0
"""Later than planned by less than this is nothing to point at [min]."""


@dataclass(frozen=True)
class Risk:
    """How sure one deadline is.

    Attributes
    ----------
    job : whose it is.
    chance : share of the days on which it is kept [1].
    late_min : by how much it is late on the worst day in ten [min]; 0 where it is kept on those too.
    because : the steps, as job and place, that most often made it late, the worst first.
    say : a sentence about where it is brittle; "" where it is not.
    """

    job: str
    chance: Hundredths
    late_min: WholeSeconds
    because: tuple[tuple[str, int], ...]
    say: str

    @property
    def brittle(self) -> bool:
        """Whether it is kept too seldom to count on."""
        return self.chance < SURE


def risks(day: Day, plan: Plan, days: int = DAYS, seed: int = 1) -> tuple[Risk, ...]:
    """Every deadline of a plan, tried against so many days; the same seed gives the same days.

    Parameters
    ----------
    day : a day of work: its jobs, its people, its room.
    plan : when each step is done, and by whom.
    days : how many days are tried [1].
    seed : chooses what is left to chance; the same seed gives the same answer.
    """
    if not plan.steps:
        return ()
    took = drawn(day, plan, days, seed)
    went = run(day, plan, took)
    found = []
    for job in day.jobs:
        if job.due is None or job.settled:
            continue
        late = went.ready(job.key) - job.due
        missed = np.flatnonzero(late > 1e-9)
        blamed = _blamed(day, went, job.key, missed, took)
        chance = 1 - missed.size / days
        worst = max(0.0, float(np.quantile(late, LATE_SHARE)))
        say = "" if chance >= SURE else _say(day, job.name, chance, worst, blamed)
        found.append(Risk(job.key, chance, worst, tuple(blamed), say))
    return tuple(found)


def drawn(day: Day, plan: Plan, days: int, seed: int) -> Floats:
    """How long every step takes, day by day [min]: about its median, as far as it strays."""
    jobs = {job.key: job for job in day.jobs}
    minutes = [jobs[one.job].steps[one.place].minutes for one in plan.steps]
    usual = np.array([one.usual for one in minutes])
    spread = np.array([one.spread for one in minutes])
    luck = np.random.default_rng(seed).standard_normal((days, len(minutes)))
    took = np.asarray(usual * np.exp(spread * luck))
    believed = planned(day, plan)[0]
    for number, one in enumerate(plan.steps):
        begun = jobs[one.job].begun.get(one.place)
        if begun is None:
            continue
        if begun.end is not None:
            took[:, number] = begun.end - begun.start
        elif day.now is not None:
            # It still runs: it takes at least as long as it has.
            took[:, number] = np.maximum(took[:, number], min(believed[number], day.now - begun.start + 1))
    return took


def _blamed(
    day: Day, went: Run, job: str, missed: Sequence[int] | np.ndarray, took: Floats
) -> list[tuple[str, int]]:
    """On each day it was late: back along what it waited for, the step that overran most."""
    steps, over = went.plan.steps, took - planned(day, went.plan)
    count: Counter[tuple[str, int]] = Counter()
    for one in missed:
        at = went.last(job)
        worst, most = at, float(over[one, at])
        while (before := int(went.because[one, at])) != ON_TIME:
            at = before
            if over[one, at] > most:
                worst, most = at, float(over[one, at])
        if most >= WORTH_MIN:
            count[steps[worst].job, steps[worst].place] += 1
    return [step for step, _ in count.most_common(2)]


def _say(day: Day, name: str, chance: float, worst: float, blamed: Sequence[tuple[str, int]]) -> str:
    kept = f"{name} is in time on {100 * chance:.0f} days of 100"
    late = f", up to {worst:.0f} min late on nine days of ten" if worst >= 1 else ""
    if not blamed:
        return f"{kept}{late}."
    jobs = {job.key: job for job in day.jobs}
    key, place = blamed[0]
    step = jobs[key].steps[place]
    whose = "its own" if jobs[key].name == name else f"that of {jobs[key].name}"
    return f"{kept}{late}; most often “{step.say}”, {whose}, runs over."
