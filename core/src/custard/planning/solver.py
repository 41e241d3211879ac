"""The best plan, by constraint solving: never late if it can be, then fresh, then calm, then as it was.

Steps that follow one another by fixed waits are one block with one beginning. Nothing here knows the time of
day: how long may be looked is given, and the best so far is handed out whenever it gets better.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from custard.errors import Impossible
from custard.planning.cost import Weights, cost, weights
from custard.planning.day import Day, Plan
from custard.planning.greedy import greedy
from custard.planning.model import Model

Better = Callable[[Plan], None]


def solve(
    day: Day,
    before: Plan | None = None,
    seconds: float = 10.0,
    workers: int = 2,
    better: Better | None = None,
    hint: Plan | None = None,
    stop: Callable[[], bool] | None = None,
) -> Plan:
    """The best plan that is found in that time, with how far it is from proven.

    Parameters
    ----------
    day : a day of work: its jobs, its people, its room.
    before : the plan that stood before; changes of it are counted last.
    seconds, workers : how long is looked at most [s], by how many threads.
    better : told every plan that is better than the one before, the first at once.
    hint : where to begin; the greedy plan where nothing is given.
    stop : asked now and then whether to look no further.

    Raises
    ------
    Impossible
        when a job finds no place at all.
    """
    search = _Search(day, before, better, stop, workers)
    best = search.take(hint or _first(day, before, FIRST_SHARE * seconds, workers), 0)
    if best.proven or not day.jobs:
        return best
    in_time = cost(day, best).late == 0
    if not in_time:
        # With every deadline kept whatever it costs, a plan is found sooner than by making lateness dear.
        found = search.run(Model(day, late=False), best, FIRST_SHARE * seconds)
        in_time = found is not None
        best, seconds = found or best, (1 - FIRST_SHARE) * seconds
    model = Model(day, late=not in_time)
    model.toward(search.by, before)
    return search.run(model, best, seconds) or best


def _first(day: Day, before: Plan | None, seconds: float, workers: int) -> Plan:
    """A plan to begin with: one job after another where that goes, else whatever can be done at all.

    Raises
    ------
    Impossible
        when a job finds no place.
    """
    try:
        return greedy(day, before)
    except Impossible:
        found = Model(day).run(seconds, workers)
        if found is None:
            raise
        return found[0]


FIRST_SHARE = 0.4
"""Share of the time in which nothing but being in time is looked for [1]."""


@dataclass
class _Search:
    """What goes on from one model to the next: the best plan so far, and who is told of it."""

    day: Day
    before: Plan | None
    better: Better | None
    stop: Callable[[], bool] | None
    workers: int
    best: Plan | None = None

    @property
    def by(self) -> Weights:
        return weights(self.day, begun=self.before is not None)

    def take(self, plan: Plan, bound: int) -> Plan:
        """A plan with its cost; told if it is better than the best so far, which is given back."""
        total = cost(self.day, plan, self.before).total(self.by)
        if self.best is None or total < self.best.cost:
            self.best = replace(plan, cost=total, bound=min(bound, total))
            if self.better is not None:
                self.better(self.best)
        return self.best

    def run(self, model: Model, hint: Plan, seconds: float) -> Plan | None:
        """The best plan after a model was looked at; None when that model found none."""
        model.hint(hint)
        found = model.run(seconds, self.workers, self.take, self.stop)
        if found is None:
            return None
        plan, bound = found
        best = self.take(plan, bound)
        self.best = replace(best, bound=min(best.cost, bound))
        return self.best
