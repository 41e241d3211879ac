"""A plan made pleasant to work by, at no cost: what waits for nothing is done right before what it is for."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from custard.planning.blocks import Block, begun, blocks_of
from custard.planning.day import Day, Placed, Plan
from custard.planning.free import Free
from custard.planning.greedy import in_lanes


def tidy(day: Day, plan: Plan, before: Plan | None = None) -> Plan:
    """The same plan with every block as near to the next of its job as there is room for in the same hands.

    When everything is ready stays, and so does what has begun, what somebody pinned and what is where it was.

    Parameters
    ----------
    day : a day of work: its jobs, its people, its room.
    plan : when each step is done, and by whom.
    before : the plan that stood before; None where there was none.
    """
    free, at = Free(day), {(one.job, one.place): one for one in plan.steps}
    was = set() if before is None else {(one.job, one.place, one.start) for one in before.steps}
    for job, fixed in begun(day):
        free.take(job, fixed)
    chains = {job.key: blocks_of(day, job) for job in day.jobs}
    for chain in chains.values():
        for block in chain:
            for place in block.places:
                free.take(block.job, at[block.job.key, place])
    pairs = [
        (chain[n - 1] if n else None, chain[n], chain[n + 1])
        for chain in chains.values()
        for n in range(len(chain) - 1)
    ]
    for ahead, block, after in sorted(pairs, key=lambda three: -_starts(at, three[1])):
        first = at[block.job.key, block.places[0]]
        if (first.job, first.place, first.start) in was or block.latest is not None:
            continue
        if any(step.oven_c is not None for step in block.steps):
            continue
        ends = _starts(at, after) - after.least
        if ahead is not None and block.most is not None:
            ends = min(ends, _starts(at, ahead) + ahead.long + block.most + block.long)
        _later(free, block, ends, at)
    lanes = in_lanes(day, list(at.values()))
    return replace(plan, steps=lanes.steps)


def _starts(at: dict[tuple[str, int], Placed], block: Block) -> int:
    return at[block.job.key, block.places[0]].start


def _later(free: Free, block: Block, ends: int, at: dict[tuple[str, int], Placed]) -> None:
    """Move a block as late as it fits, to end by then."""
    mine = [at[block.job.key, place] for place in block.places]
    for one in mine:
        free.give_back(block.job, one)
    hands = next((one.hands for one in mine if one.hands is not None), None)
    now, latest = mine[0].start, ends - block.long
    fits = free.fits(block.job, block.places, hands)[now - free.first : max(now, latest) - free.first + 1]
    ok = np.flatnonzero(fits)
    start = now + int(ok[-1]) if ok.size else now
    for one in block.placed(start, hands):
        at[one.job, one.place] = one
        free.take(block.job, one)
