"""The least changes that make an impossible day possible, each found and checked by the solver."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from custard.planning.check import said
from custard.planning.cost import ready
from custard.planning.day import (
    BATH,
    BOWL,
    CHURN,
    ICE,
    MOST_HANDS,
    OVEN,
    RING,
    STEAM,
    Day,
    Hands,
    Job,
    Plan,
    Room,
)
from custard.planning.model import Model
from custard.planning.why import HANDS, Why, listed, spell

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

LOOK_S = 2.5
"""So long each change is looked for [s]."""
EARLIER_MIN = 5 * 60
"""Nobody is asked to begin earlier by more than this [min]."""
ROUND_MIN = 5
MOST_HALVES = 40
"""Nobody is asked for more than so many half kilograms of ice beside what there is."""
MORE: dict[str, str] = {
    RING: "one more ring",
    STEAM: "one more steam bath",
    BATH: "room for one more bowl in ice",
    OVEN: "a second oven",
    CHURN: "a second churn",
}


@dataclass(frozen=True)
class Change:
    """One change with which nothing is late.

    Attributes
    ----------
    kind : "helper", "more", "earlier", "later", "ice", "unpin" or "without".
    say : what to do, in a sentence.
    minutes : how long, how much earlier or later [min]; 0 where that is no question.
    job : which job is later, let go of or left out; "" for none.
    day : the day so changed.
    plan : a plan of it in which nothing is late.
    """

    kind: str
    say: str
    minutes: int
    job: str
    day: Day
    plan: Plan


def helps(day: Day, because: Why, seconds: float = LOOK_S, workers: int = 2) -> Iterator[Change]:
    """Changes that help, as they are found: the least of each kind.

    Parameters
    ----------
    day : a day of work: its jobs, its people, its room.
    workers : threads to look with [1].
    because : why the day cannot be.
    seconds : how long each is looked for [s].
    """
    look = _Look(day, because, seconds, workers)
    simple = 0
    for find in (look.unpin, look.helper, look.more, look.ice):
        for change in find():
            simple += 1
            yield change
    if not simple and len(because.jobs) > 1:
        yield from look.both()
    for find in (look.earlier, look.later, look.without):
        yield from find()


@dataclass
class _Look:
    day: Day
    because: Why
    seconds: float
    workers: int

    def _jobs(self) -> list[Job]:
        return [job for job in self.day.jobs if job.key in self.because.jobs]

    def _found(
        self, day: Day, least: cp_model.LinearExprT | None = None, model: Model | None = None
    ) -> Plan | None:
        model = model or Model(day, late=False)
        if least is not None:
            model.cp.minimize(least)
        found = model.run(self.seconds, self.workers)
        return None if found is None else found[0]

    def helper(self) -> Iterator[Change]:
        """Another pair of hands for as short as can be."""
        day, room = self.day, self.day.room
        if (HANDS not in self.because.needs and self.because.needs) or self._is_full():
            return
        span = (day.opens, max(room.closes, day.opens + 1))
        longer = replace(room, hands=(*room.hands, Hands("a helper", (span,))))
        changed = replace(day, room=longer)
        model, who = Model(changed, late=False), len(room.hands)
        comes = model.cp.new_int_var(*span, "comes")
        goes = model.cp.new_int_var(*span, "goes")
        model.cp.add(goes >= comes)
        for var in model.vars:
            theirs = var.whose.get(who)
            if theirs is None:
                continue
            by_hand = [
                (offset, offset + step.long)
                for offset, step in zip(var.block.offsets, var.block.steps, strict=True)
                if step.hands
            ]
            model.cp.add(comes <= var.start + by_hand[0][0]).only_enforce_if(theirs)
            model.cp.add(goes >= var.start + by_hand[-1][1]).only_enforce_if(theirs)
        plan = self._found(changed, goes - comes, model)
        mine = [] if plan is None else [one for one in plan.steps if one.hands == who]
        if plan is None or not mine:
            return
        start, end = min(one.start for one in mine), max(one.end for one in mine)
        start, end = start // ROUND_MIN * ROUND_MIN, -(-end // ROUND_MIN) * ROUND_MIN
        start = max(span[0], start)
        names = {job.key: job for job in day.jobs}
        does = list(dict.fromkeys(f"{names[o.job].steps[o.place].say}, {names[o.job].name}" for o in mine))
        minutes = end - start
        say = f"A helper for {spell(minutes)}, from {said(start)} to {said(end)}: {'; '.join(does)}."
        helped = replace(room, hands=(*room.hands, Hands("a helper", ((start, end),))))
        yield Change("helper", say, minutes, "", replace(day, room=helped), plan)

    def _is_full(self) -> bool:
        """Whether no more hands can be planned for."""
        return len(self.day.room.hands) >= MOST_HANDS

    def more(self) -> Iterator[Change]:
        """One more of what they fight for."""
        room = self.day.room
        for need in self.because.needs:
            if need in MORE:
                many = room.places.get(need, 0) + (100 if need == OVEN else 1)
                yield from self._with(replace(room, places={**room.places, need: many}), MORE[need])
            elif need == BOWL and room.bowls is not None:
                yield from self._with(replace(room, bowls=room.bowls + 1), "one more frozen churn bowl")

    def _with(self, room: Room, what: str) -> Iterator[Change]:
        changed = replace(self.day, room=room)
        plan = self._found(changed)
        if plan is not None:
            yield Change("more", f"With {what} all are in time.", 0, "", changed, plan)

    def both(self) -> Iterator[Change]:
        """A helper all day and one more of a place, where neither helps alone."""
        room = self.day.room
        if self._is_full():
            return
        helped = replace(room, hands=(*room.hands, Hands("a helper", ((self.day.opens, room.closes),))))
        for need, what in MORE.items():
            many = room.places.get(need, 0) + (100 if need == OVEN else 1)
            found = list(
                self._with(replace(helped, places={**room.places, need: many}), f"a helper and {what}")
            )
            yield from found
            if found:
                return

    def ice(self) -> Iterator[Change]:
        """As much more ice as is needed, to half a kilogram."""
        room = self.day.room
        if ICE not in self.because.needs or room.ice_g is None:
            return
        found: tuple[int, Day, Plan] | None = None
        least, most = 1, MOST_HALVES
        half = most
        while least <= most:
            changed = replace(self.day, room=replace(room, ice_g=room.ice_g + 500.0 * half))
            plan = self._found(changed)
            if plan is not None:
                found, most = (half, changed, plan), half - 1
            elif half == MOST_HALVES:
                return
            else:
                least = half + 1
            half = (least + most) // 2
        if found is not None:
            half, changed, plan = found
            yield Change("ice", f"With {half / 2:g} kg more ice all are in time.", 0, "", changed, plan)

    def earlier(self) -> Iterator[Change]:
        """Begin earlier by as little as can be."""
        day, room = self.day, self.day.room
        if day.now is not None and day.now >= room.opens:
            return
        opens = max(day.now or -(10**6), room.opens - EARLIER_MIN)
        hands = tuple(
            replace(one, there=((max(opens, one.there[0][0] - EARLIER_MIN), one.there[0][1]), *one.there[1:]))
            for one in room.hands
        )
        changed = replace(day, room=replace(room, hands=hands))
        model = Model(changed, late=False)
        first = model.cp.new_int_var(opens, room.closes, "first")
        for var in model.vars:
            model.cp.add(first <= var.start)
        plan = self._found(changed, -first, model)
        if plan is None:
            return
        begins = min(one.start for one in plan.steps if one.hands is not None)
        minutes = room.opens - begins
        if minutes <= 0:
            return
        names = {job.key: job for job in day.jobs}
        early = [one for one in plan.steps if one.start < room.opens and one.hands is not None]
        what = list(dict.fromkeys(names[one.job].name for one in early))
        say = f"Begin at {said(begins)}, {spell(minutes)} earlier, with {listed(what)}."
        from_then = tuple(
            replace(one, there=((min(one.there[0][0], begins), one.there[0][1]), *one.there[1:]))
            for one in room.hands
        )
        yield Change("earlier", say, minutes, "", replace(day, room=replace(room, hands=from_then)), plan)

    def later(self) -> Iterator[Change]:
        """One dish later by as little as can be."""
        found = []
        for job in self._jobs():
            if job.due is None:
                continue
            free = replace(job, due=None, life=None)
            changed = replace(self.day, jobs=tuple(free if one is job else one for one in self.day.jobs))
            model = Model(changed, late=False)
            plan = self._found(changed, model.ends[job.key], model)
            if plan is None:
                continue
            at = ready(plan)[job.key]
            minutes = -(-(at - job.due) // ROUND_MIN) * ROUND_MIN
            if minutes <= 0:
                continue
            due = job.due + minutes
            moved = replace(job, due=due)
            day = replace(self.day, jobs=tuple(moved if one is job else one for one in self.day.jobs))
            say = f"{job.name} {spell(minutes)} later, at {said(due)}."
            found.append(Change("later", say, minutes, job.key, day, plan))
        yield from sorted(found, key=lambda one: one.minutes)[:2] or self._all_later()

    def _all_later(self) -> Iterator[Change]:
        """Several later, by as little as can be in all."""
        wanted = [job for job in self.day.jobs if job.due is not None and not job.begun]
        free = {job.key: replace(job, due=None, life=None) for job in wanted}
        changed = replace(self.day, jobs=tuple(free.get(job.key, job) for job in self.day.jobs))
        model = Model(changed, late=False)
        lates = []
        for job in wanted:
            late = model.cp.new_int_var(0, 10**5, f"late:{job.key}")
            model.cp.add(late >= model.ends[job.key] - (job.due or 0))
            lates.append(late)
        plan = self._found(changed, sum(lates), model)
        if plan is None:
            return
        at = ready(plan)
        by = {job.key: -(-(at[job.key] - (job.due or 0)) // ROUND_MIN) * ROUND_MIN for job in wanted}
        moved = {job.key: replace(job, due=(job.due or 0) + by[job.key]) for job in wanted if by[job.key] > 0}
        if not moved:
            return
        day = replace(self.day, jobs=tuple(moved.get(job.key, job) for job in self.day.jobs))
        says = [f"{job.name} {spell(by[job.key])} later, at {said(job.due or 0)}" for job in moved.values()]
        yield Change(
            "later", f"{'; '.join(says)}.", sum(by[key] for key in moved), next(iter(moved)), day, plan
        )

    def unpin(self) -> Iterator[Change]:
        """Let go of what somebody put where it is."""
        for job in self.day.jobs:
            if not job.pinned:
                continue
            free = replace(job, pinned={})
            changed = replace(self.day, jobs=tuple(free if one is job else one for one in self.day.jobs))
            plan = self._found(changed)
            if plan is not None:
                says = [job.steps[place].say for place in job.pinned]
                say = f"Let “{says[0]}” of {job.name} go where there is room for it."
                yield Change("unpin", say, 0, job.key, changed, plan)

    def without(self) -> Iterator[Change]:
        """Leave one out, or make it the day before; the one that asks least."""
        for job in sorted(self._jobs(), key=lambda one: one.work):
            if job.begun:
                continue
            changed = replace(self.day, jobs=tuple(one for one in self.day.jobs if one is not job))
            plan = self._found(changed)
            if plan is not None:
                say = f"Without {job.name}, made the day before or not at all."
                yield Change("without", say, 0, job.key, changed, plan)
                return
