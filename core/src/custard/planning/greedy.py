"""A plan at once: every job from its deadline backward, each as late as it fits; the solver's hint.

It is good on an easy day and a beginning on a hard one. Several orders are tried, the best is kept.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

import numpy as np

from custard.errors import Impossible
from custard.planning.blocks import Block, begun, blocks_of
from custard.planning.cost import cost, starts, weights
from custard.planning.day import DAY_MIN, PLACES, Day, Job, Placed, Plan
from custard.planning.free import Bools, Free, no_room

Found = list[tuple[Block, int, int | None]]


def greedy(day: Day, before: Plan | None = None) -> Plan:
    """The best of the plans that placing one job after another finds, in a few orders.

    Parameters
    ----------
    day : a day of work: its jobs, its people, its room.
    before : the plan that stood before; what can stay where it was does.

    Raises
    ------
    Impossible
        when a job finds no place at all.
    """
    by = weights(day, begun=before is not None)
    best: Plan | None = None
    refused: Impossible | None = None
    for order, soon in _orders(day):
        try:
            plan = _placed(day, order, before, soon=soon)
        except Impossible as none:
            refused = none
            continue
        total = cost(day, plan, before).total(by)
        if best is None or total < best.cost:
            best = replace(plan, cost=total)
        if total == 0:
            break
    if best is None and refused is not None:
        raise refused
    return best or Plan(())


def packed(day: Day) -> Plan:
    """Every job as soon as can be, in their order."""
    return _placed(day, day.jobs, None, soon=True)


def _by_due(jobs: Sequence[Job]) -> list[Job]:
    return sorted(jobs, key=lambda job: (10**7 if job.due is None else job.due - job.work, job.key))


def _orders(day: Day) -> Iterator[tuple[Sequence[Job], bool]]:
    """Orders of the jobs, and whether each is put as soon as can be: first those with little choice."""

    def choice(job: Job) -> tuple[int, int]:
        return (job.life or 10**6) if job.due is not None else 10**7, -(job.due or 0)

    yield sorted(day.jobs, key=choice), False
    yield sorted(day.jobs, key=lambda job: (job.due is None, -(job.due or 0))), False
    yield _by_due(day.jobs), False
    yield _by_due(day.jobs), True


def _placed(day: Day, order: Sequence[Job], before: Plan | None, *, soon: bool) -> Plan:
    free = Free(day)
    steps: list[Placed] = []
    for job, one in begun(day):
        free.take(job, one)
        steps.append(one)
    was = {} if before is None else starts(before)
    for job in order:
        blocks = blocks_of(day, job)
        if not blocks:
            continue
        found = _Job(free, blocks, was).found(soon=soon)
        if found is None:
            raise no_room(job)
        for block, start, hands in found:
            for one in block.placed(start, hands):
                free.take(job, one)
                steps.append(one)
    return in_lanes(day, steps)


class _Job:
    """The search for a place for the blocks of one job.

    A block's beginning is possible when the block itself fits there, and those before it can be so placed
    that the waits between them are kept; that is found for all minutes at once, so nothing is tried in vain.
    """

    def __init__(self, free: Free, blocks: tuple[Block, ...], was: dict[tuple[str, int], int]) -> None:
        self.first, self.blocks, self.job = free.first, blocks, blocks[0].job
        self.was = [was.get((self.job.key, block.places[0])) for block in blocks]
        people = range(len(free.day.room.hands))
        self.fits: list[dict[int | None, Bools]] = []
        self.possible: list[Bools] = []
        for block in blocks:
            hands: Sequence[int | None] = (None,)
            if block.by_hand:
                hands = tuple(people) if block.hands is None else (block.hands,)
            self.fits.append({one: free.fits(self.job, block.places, one) for one in hands})
            here = np.logical_or.reduce(list(self.fits[-1].values()))
            here[: max(0, block.earliest - self.first)] = False
            if block.latest is not None:
                here[max(0, block.latest - self.first + 1) :] = False
            if self.possible:
                here &= self._follows(len(self.possible))
            self.possible.append(here)

    def _follows(self, number: int) -> Bools:
        """At which minutes the block before ended as long ago as this one waits."""
        block, before = self.blocks[number], self.blocks[number - 1]
        done = np.concatenate(([0], np.cumsum(self.possible[number - 1])))
        index = np.arange(done.size - 1)
        high = np.clip(index - before.long - block.least + 1, 0, done.size - 1)
        low = np.zeros_like(index)
        if block.most is not None:
            low = np.clip(index - before.long - block.most, 0, done.size - 1)
        return np.asarray(done[high] > done[low])

    def found(self, *, soon: bool) -> Found | None:
        """Each as late as can be for the deadline, with time to spare if that goes; else soon."""
        last, due, long = self.possible[-1], self.job.due, self.blocks[-1].long
        if due is None:
            return self._first(last)
        floor = 0 if self.job.life is None else due - self.job.life - long - self.first
        for ends in () if soon else (due - self.job.slack, due):
            ok = np.flatnonzero(last[max(0, floor) : max(0, ends - long - self.first + 1)])
            if ok.size:
                return self._from(int(ok[-1]) + max(0, floor))
        return self._first(last, max(0, floor))

    def _first(self, last: Bools, floor: int = 0) -> Found | None:
        ok = np.flatnonzero(last[floor:])
        return self._from(int(ok[0]) + floor) if ok.size else None

    def _from(self, end: int) -> Found:
        """The blocks, when the last begins at that minute of the day's arrays."""
        found: Found = []
        at = end
        for number in reversed(range(len(self.blocks))):
            was = self.was[number]
            low, high = (at, at) if number == len(self.blocks) - 1 else self._window(number, at)
            ok = np.flatnonzero(self.possible[number][low : high + 1]) + low
            at = was - self.first if was is not None and was - self.first in ok else int(ok[-1])
            found.insert(0, (self.blocks[number], at + self.first, self._whose(number, at, found)))
        return found

    def _window(self, number: int, after: int) -> tuple[int, int]:
        """When a block can begin for the next to begin then."""
        block, following = self.blocks[number], self.blocks[number + 1]
        high = after - following.least - block.long
        low = 0 if following.most is None else max(0, after - following.most - block.long)
        return low, high

    def _whose(self, number: int, at: int, others: Found) -> int | None:
        """In whose hands: whoever has the batch already where that goes."""
        free = [who for who, fits in self.fits[number].items() if fits[at]]
        theirs = next((hands for _, _, hands in others if hands is not None), None)
        return theirs if theirs in free else free[0]


def in_lanes(day: Day, steps: Sequence[Placed]) -> Plan:
    """A plan of steps, each given the first of several rings, baths and the like that is free."""
    jobs = {job.key: job for job in day.jobs}
    ordered = sorted(steps, key=lambda one: (one.start, one.end, one.job, one.place))
    ends: dict[str, list[int]] = {
        name: [-10 * DAY_MIN] * day.room.places.get(name, 0) for name in PLACES if name != "oven"
    }
    # A step that goes on with the ring of the one before stays on it.
    held: dict[tuple[str, str], int] = {}
    found = []
    for one in ordered:
        at = {}
        for need in jobs[one.job].steps[one.place].needs:
            lanes = ends.get(need)
            if not lanes:
                continue
            kept = held.get((one.job, need))
            free = [lane for lane, end in enumerate(lanes) if end <= one.start]
            lane = kept if kept in free else free[0] if free else int(np.argmin(lanes))
            lanes[lane] = one.end
            held[one.job, need] = lane
            at[need] = lane
        found.append(replace(one, at=at))
    return Plan(tuple(found))
