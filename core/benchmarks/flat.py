"""A day as a plain flat model, to measure the planner beside: every step an interval of its own.

The same rules and the same price as the planner's; no blocks, no hint, no looking for time first, and none
of what only lets a solver see further. Nothing of the product uses it.
"""

from __future__ import annotations

from custard.planning.cost import WHOLE, fresh_for, weights
from custard.planning.day import BOWL, DAY_MIN, ICE, PLACES, Day
from custard.planning.free import OVEN_TURNS_MIN
from ortools.sat.python import cp_model

TENTHS = 10


def solved(day: Day, seconds: float, workers: int = 2) -> tuple[int | None, int, float]:
    """What the best plan found costs, what none can cost less than, and how long that took [s]; None for no
    plan at all.

    Only for days on which nothing has begun and where ice is plenty.
    """
    cp, room = cp_model.CpModel(), day.room
    last = room.closes + max((job.work for job in day.jobs), default=0) + DAY_MIN
    starts = {
        (job.key, place): cp.new_int_var(max(room.opens, job.open), last, f"{job.key}:{place}")
        for job in day.jobs
        for place in range(len(job.steps))
    }
    for job in day.jobs:
        for place in range(1, len(job.steps)):
            step, ended = job.steps[place], starts[job.key, place - 1] + job.steps[place - 1].long
            cp.add(starts[job.key, place] >= ended + step.least)
            if step.most is not None:
                cp.add(starts[job.key, place] <= ended + step.most)
    _people(cp, day, starts, last)
    _places(cp, day, starts)
    _price(cp, day, starts, last)
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = seconds
    solver.parameters.num_workers = workers
    status = solver.solve(cp)
    found = status in (cp_model.OPTIMAL, cp_model.FEASIBLE)
    return (
        (round(solver.objective_value) if found else None),
        int(solver.best_objective_bound),
        solver.wall_time,
    )


Starts = dict[tuple[str, int], cp_model.IntVar]


def _people(cp: cp_model.CpModel, day: Day, starts: Starts, last: int) -> None:
    hands: list[list[tuple[cp_model.IntervalVar, int]]] = [[] for _ in day.room.hands]
    for job in day.jobs:
        for place, step in enumerate(job.steps):
            if not step.hands:
                continue
            name, start = f"{job.key}:{place}", starts[job.key, place]
            whose = [cp.new_bool_var(f"{name}@{who}") for who in range(len(hands))]
            cp.add_exactly_one(whose)
            for who, theirs in enumerate(whose):
                interval = cp.new_optional_fixed_size_interval_var(start, step.long, theirs, f"{name}@{who}")
                hands[who].append((interval, round(TENTHS * step.hands)))
    for who, mine in enumerate(hands):
        there = day.room.hands[who].there
        for begins, ends in ((day.room.opens, there[0][0]), (there[-1][1], last)):
            if ends > begins:
                gone = cp.new_fixed_size_interval_var(begins, ends - begins, f"gone:{who}:{begins}")
                mine.append((gone, TENTHS))
        cp.add_cumulative([one for one, _ in mine], [demand for _, demand in mine], TENTHS)


def _places(cp: cp_model.CpModel, day: Day, starts: Starts) -> None:
    room = day.room
    places: dict[str, list[tuple[cp_model.IntervalVar, int]]] = {name: [] for name in (*PLACES, BOWL)}
    bakes: list[tuple[cp_model.IntervalVar, float]] = []
    for job in day.jobs:
        for place, step in enumerate(job.steps):
            start, name = starts[job.key, place], f"{job.key}:{place}"
            for need, amount in step.needs.items():
                if need != ICE:
                    long = step.long + (round(60 * room.bowl_h) if need == BOWL else 0)
                    interval = cp.new_fixed_size_interval_var(start, long, f"{name}:{need}")
                    places[need].append((interval, round(amount)))
            if step.oven_c is not None:
                turns = cp.new_fixed_size_interval_var(start, step.long + OVEN_TURNS_MIN, f"{name}:c")
                bakes.append((turns, step.oven_c))
    for need, uses in places.items():
        most = room.bowls if need == BOWL else room.places.get(need, 0)
        if uses and most is not None:
            cp.add_cumulative([one for one, _ in uses], [demand for _, demand in uses], most)
    for number, (bake, celsius) in enumerate(bakes):
        for other, others_c in bakes[number + 1 :]:
            if celsius != others_c:
                cp.add_no_overlap([bake, other])


def _price(cp: cp_model.CpModel, day: Day, starts: dict[tuple[str, int], cp_model.IntVar], last: int) -> None:
    by = weights(day, begun=False)
    wanted = [job for job in day.jobs if job.due is not None]
    worst = cp.new_int_var(0, max((job.slack for job in wanted), default=0), "worst")
    terms: list[cp_model.LinearExprT] = [by.rush * len(wanted) * worst]
    for job in wanted:
        due, place = job.due or 0, len(job.steps) - 1
        end = starts[job.key, place] + job.steps[place].long
        late = cp.new_int_var(0, last, f"late:{job.key}")
        short = cp.new_int_var(0, job.slack, f"short:{job.key}")
        cp.add(late >= end - due)
        cp.add(short >= job.slack - due + end - late)
        cp.add(worst >= short)
        terms += [by.late * late, by.rush * short]
        if job.life is not None:
            cp.add(end >= due - job.life)
            stale = cp.new_int_var(0, WHOLE * last, f"stale:{job.key}")
            cp.add(job.life * stale >= WHOLE * (due - fresh_for(job) - end) - job.life + 1)
            terms.append(by.stale * stale)
    cp.minimize(sum(terms))
