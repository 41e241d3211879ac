"""A day as constraints: every block has one beginning and, where somebody is needed, one pair of hands."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from itertools import pairwise
from math import ceil
from typing import TYPE_CHECKING

from custard.planning.blocks import Block, begun, blocks_of
from custard.planning.cost import MOVED_MIN, WHOLE, Weights, fresh_for, starts
from custard.planning.day import BOWL, ICE, OVEN, PLACES, STEAM, Day, Job, Placed, Plan
from custard.planning.free import OVEN_TURNS_MIN, Free, oven_is_shared
from custard.planning.greedy import in_lanes
from custard.planning.watched import watched

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

TENTHS = 10
"""A pair of hands in tenths."""
ALONE = 0.5
"""What takes more of a pair of hands than this is not done beside another such thing."""
CLOSE = 1e-6
ICE_STEP_MIN = 15
"""How often the ice that was made meanwhile is counted [min]."""


@dataclass
class Var:
    """A block as the solver sees it: when it begins, and in whose hands."""

    block: Block
    start: cp_model.IntVar
    whose: dict[int, cp_model.IntVar] = field(default_factory=dict)


class Model:
    """The constraints of a day.

    Parameters
    ----------
    late : whether a deadline may be missed at a price; otherwise it is kept, or there is no plan.
    """

    def __init__(self, day: Day, *, late: bool = True) -> None:
        from ortools.sat.python import cp_model  # noqa: PLC0415 loading it takes half a second, and few need it

        self.day, self.late = day, late
        self.cp = cp_model.CpModel()
        self.free = Free(day)
        self.vars: list[Var] = []
        self.ends: dict[str, cp_model.LinearExprT] = {}
        self._fixed = begun(day)
        self._last = self.free.first + self.free.size
        for job in day.jobs:
            self._chain(job)
        self._people()
        for place in PLACES:
            self._places(place)
        self._oven()
        self._bowls()
        self._ice()

    def _chain(self, job: Job) -> None:
        before: Var | None = None
        for block in blocks_of(self.day, job):
            low = max(block.earliest, self.free.first)
            high = self._last - block.long if block.latest is None else block.latest
            start = self.cp.new_int_var(low, max(low, high), f"{job.key}:{block.places[0]}")
            var = Var(block, start)
            if before is not None:
                ended = before.start + before.block.long
                self.cp.add(start >= ended + block.least)
                if block.most is not None:
                    self.cp.add(start <= ended + block.most)
            self.vars.append(var)
            before = var
        if before is not None:
            self.ends[job.key] = before.start + before.block.long
        else:
            self.ends[job.key] = max(one.end for mine, one in self._fixed if mine is job)
        if job.due is not None and before is not None:
            if not self.late:
                self.cp.add(self.ends[job.key] <= job.due)
            if job.life is not None:
                self.cp.add(self.ends[job.key] >= job.due - job.life)

    def _people(self) -> None:
        """Every block with work for hands is in one pair of them; what they do at once is no more than they
        are."""
        people = range(len(self.day.room.hands))
        alone: dict[int, list[cp_model.IntervalVar]] = {who: [] for who in people}
        shared: dict[int, list[tuple[cp_model.IntervalVar, int]]] = {who: [] for who in people}
        everyone: list[tuple[cp_model.IntervalVar, int]] = []
        for var in self.vars:
            if not var.block.by_hand:
                continue
            for who in people if var.block.hands is None else (var.block.hands,):
                var.whose[who] = self.cp.new_bool_var(f"{var.start.name}@{who}")
            self.cp.add_exactly_one(var.whose.values())
            for offset, step in zip(var.block.offsets, var.block.steps, strict=True):
                if not step.hands:
                    continue
                name = f"{var.start.name}+{offset}"
                demand = round(TENTHS * step.hands)
                whole = self.cp.new_fixed_size_interval_var(var.start + offset, step.long, name)
                if step.hands > ALONE:
                    everyone.append((whole, 1))
                for who, is_theirs in var.whose.items():
                    theirs = self.cp.new_optional_fixed_size_interval_var(
                        var.start + offset, step.long, is_theirs, f"{name}@{who}"
                    )
                    shared[who].append((theirs, demand))
                    if step.hands > ALONE:
                        alone[who].append(theirs)
        for who in people:
            gone = self._taken(who)
            for start, end, tenths in gone:
                interval = self.cp.new_fixed_size_interval_var(start, end - start, f"gone:{who}:{start}")
                shared[who].append((interval, tenths))
                if tenths > TENTHS * (1 - ALONE) - 1:
                    alone[who].append(interval)
                    everyone.append((interval, 1))
            self.cp.add_no_overlap(alone[who])
            self._cumulative(shared[who], TENTHS)
        if len(people) > 1:
            # Nothing new, but it lets the solver see all hands at once.
            self._cumulative(everyone, len(people))
        self._alike()

    def _alike(self) -> None:
        """Hands that are there at the same times and have nothing in them are as good as one another."""
        room, held = self.day.room, {one.hands for _, one in self._fixed}
        pinned = {var.block.hands for var in self.vars}
        first = next((var for var in self.vars if len(var.whose) > 1), None)
        if first is None or pinned != {None} or held - {None} or len({one.there for one in room.hands}) > 1:
            return
        self.cp.add(first.whose[0] == 1)

    def _taken(self, who: int) -> Iterable[tuple[int, int, int]]:
        """When somebody is away or has begun something: from, until [min], and how many tenths of them."""
        for start, end, used in self._profile(
            [(one.start, one.end, TENTHS * job.steps[one.place].hands) for job, one in self._fixed
             if one.hands == who]
        ):  # fmt: skip
            yield start, end, min(TENTHS, round(used))
        last = self.free.first
        for start, end in self.day.room.hands[who].there:
            if start > last:
                yield last, start, TENTHS
            last = max(last, end)
        if last < self._last:
            yield last, self._last, TENTHS

    @staticmethod
    def _profile(uses: list[tuple[int, int, float]]) -> Iterable[tuple[int, int, float]]:
        """Spans in which the same is used at once."""
        times = sorted({time for start, end, _ in uses for time in (start, end)})
        for start, end in pairwise(times):
            used = sum(amount for begins, ends, amount in uses if begins <= start and end <= ends)
            if used:
                yield start, end, used

    def _cumulative(self, demands: list[tuple[cp_model.IntervalVar, int]], capacity: int) -> None:
        if sum(demand for _, demand in demands) > capacity:
            self.cp.add_cumulative(*zip(*demands, strict=True), capacity)

    def _uses(self, need: str) -> Iterable[tuple[Var, int, int, float, float | None]]:
        """The steps that need something: their block, offset, length [min], how much, and how hot [degC]."""
        for var in self.vars:
            for offset, step in zip(var.block.offsets, var.block.steps, strict=True):
                if need in step.needs:
                    yield var, offset, step.long, step.needs[need], step.oven_c

    def _begun_uses(self, need: str) -> list[tuple[int, int, float]]:
        return [
            (one.start, one.end, job.steps[one.place].needs[need])
            for job, one in self._fixed
            if need in job.steps[one.place].needs
        ]

    def _places(self, need: str) -> None:
        capacity = self.day.room.places.get(need, 0)
        demands = []
        # A ring that is held through a block is one interval: fewer, longer ones are seen further.
        spans: dict[tuple[int, float], list[tuple[Var, int, int]]] = {}
        for var, offset, long, amount, _ in self._uses(need):
            mine = spans.setdefault((id(var), amount), [])
            if mine and mine[-1][1] + mine[-1][2] == offset and need != STEAM:
                mine[-1] = (var, mine[-1][1], mine[-1][2] + long)
            else:
                mine.append((var, offset, long))
        for (_, amount), found in spans.items():
            for var, offset, long in found:
                interval = self.cp.new_fixed_size_interval_var(
                    var.start + offset, long, f"{need}:{var.start.name}+{offset}"
                )
                demands.append((interval, round(amount)))
        for start, end, used in self._profile(self._begun_uses(need)):
            fixed = self.cp.new_fixed_size_interval_var(start, end - start, f"{need}:{start}")
            demands.append((fixed, min(capacity, round(used))))
        self._cumulative(demands, capacity)

    def _oven(self) -> None:
        """One oven has one temperature, and takes a while to another."""
        if not oven_is_shared(self.day):
            return
        bakes: list[tuple[cp_model.IntervalVar, float | None]] = [
            (self.cp.new_fixed_size_interval_var(
                var.start + offset, long + OVEN_TURNS_MIN, f"oven_c:{var.start.name}"), celsius)
            for var, offset, long, _, celsius in self._uses(OVEN)
            if celsius is not None
        ]  # fmt: skip
        for job, one in self._fixed:
            step = job.steps[one.place]
            if step.oven_c is not None:
                long = one.end - one.start + OVEN_TURNS_MIN
                fixed = self.cp.new_fixed_size_interval_var(one.start, long, f"oven_c:{one.start}")
                bakes.append((fixed, step.oven_c))
        for number, (bake, celsius) in enumerate(bakes):
            for other, others_c in bakes[number + 1 :]:
                if celsius != others_c:
                    self.cp.add_no_overlap([bake, other])

    def _bowls(self) -> None:
        if self.day.room.bowls is None:
            return
        freezes = round(60 * self.day.room.bowl_h)
        demands = [
            (self.cp.new_fixed_size_interval_var(
                var.start + offset, long + freezes, f"bowl:{var.start.name}"), round(amount))
            for var, offset, long, amount, _ in self._uses(BOWL)
        ]  # fmt: skip
        used = [(start, end + freezes, amount) for start, end, amount in self._begun_uses(BOWL)]
        for start, end, amount in self._profile(used):
            fixed = self.cp.new_fixed_size_interval_var(start, end - start, f"bowl:{start}")
            demands.append((fixed, min(self.day.room.bowls, round(amount))))
        self._cumulative(demands, self.day.room.bowls)

    def _ice(self) -> None:
        """No more ice is used than there is by then; asked only where it could run out."""
        room, uses = self.day.room, list(self._uses(ICE))
        if room.ice_g is None:
            return
        gone = sum(amount for *_, amount in self._begun_uses(ICE))
        if gone + sum(amount for *_, amount, _ in uses) <= room.ice_g:
            return
        times: list[cp_model.LinearExprT] = [var.start + offset for var, offset, *_ in uses]
        levels = [-round(amount) for *_, amount, _ in uses]
        made = room.ice_g_h / 60 * ICE_STEP_MIN
        if made:
            steps = range(room.opens + ICE_STEP_MIN, self._last, ICE_STEP_MIN)
            times += list(steps)
            levels += [int(made)] * len(steps)
        there = max(0, int(room.ice_g - gone))
        self.cp.add_reservoir_constraint(times, levels, -there, 10**9)

    def toward(self, by: Weights, before: Plan | None) -> None:
        """What is to be made small."""
        terms: list[cp_model.LinearExprT] = []
        wanted = [job for job in self.day.jobs if job.due is not None and not job.settled]
        worst = self.cp.new_int_var(0, max((job.slack for job in wanted), default=0), "worst")
        for job in wanted:
            due, end = job.due or 0, self.ends[job.key]
            late = self.cp.new_int_var(0, self._last - self.free.first, f"late:{job.key}")
            self.cp.add(late >= end - due)
            short = self.cp.new_int_var(0, job.slack, f"short:{job.key}")
            self.cp.add(short >= job.slack - due + end - late)
            self.cp.add(worst >= short)
            terms += [by.late * late, by.rush * short]
            if job.life is not None:
                most = WHOLE * self._last // job.life + WHOLE
                stale = self.cp.new_int_var(0, most, f"stale:{job.key}")
                old = due - fresh_for(job) - end
                self.cp.add(job.life * stale >= WHOLE * old - job.life + 1)
                terms.append(by.stale * stale)
        terms.append(by.rush * len(wanted) * worst)
        if before is not None:
            terms += [by.change * moved for moved in self._moved(starts(before))]
        self.cp.minimize(sum(terms))

    def _moved(self, was: dict[tuple[str, int], int]) -> Iterable[cp_model.IntVar]:
        for var in self.vars:
            start = was.get((var.block.job.key, var.block.places[0]))
            if start is not None:
                moved = self.cp.new_bool_var(f"moved:{var.start.name}")
                self.cp.add(var.start <= start + MOVED_MIN).only_enforce_if(~moved)
                self.cp.add(var.start >= start - MOVED_MIN).only_enforce_if(~moved)
                yield moved

    def hint(self, plan: Plan) -> None:
        """Begin from a plan."""
        at = {(one.job, one.place): one for one in plan.steps}
        for var in self.vars:
            places = var.block.places
            self.cp.add_hint(var.start, at[var.block.job.key, places[0]].start)
            theirs = {at[var.block.job.key, place].hands for place in places} - {None}
            for who, is_theirs in var.whose.items():
                self.cp.add_hint(is_theirs, who in theirs)

    def run(
        self,
        seconds: float,
        workers: int,
        better: Callable[[Plan, int], object] | None = None,
        stop: Callable[[], bool] | None = None,
    ) -> tuple[Plan, int] | None:
        """The best plan found and what no plan can cost less than; None when none was found."""
        from custard.planning.solutions import Found, cp_model  # noqa: PLC0415 loading it takes half a second, and few need it

        solver = cp_model.CpSolver()
        solver.parameters.max_time_in_seconds = seconds
        solver.parameters.num_workers = workers
        solver.parameters.random_seed = 1
        with watched(solver, stop):
            status = solver.solve(self.cp, Found(self.plan, self.bound, better))
        self.impossible = status == cp_model.INFEASIBLE
        if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            return None
        return self.plan(solver.value), self.bound(solver.best_objective_bound)

    def bound(self, best: float) -> int:
        """What no plan can cost less than, by what the solver says of it."""
        return ceil(best - CLOSE) if self.cp.has_objective() else 0

    def plan(self, value: Callable[[cp_model.IntVar], int]) -> Plan:
        """The plan of a solution."""
        steps: list[Placed] = [one for _, one in self._fixed]
        for var in self.vars:
            whose = next((who for who, is_theirs in var.whose.items() if value(is_theirs)), None)
            steps += var.block.placed(int(value(var.start)), whose)
        return in_lanes(self.day, steps)
