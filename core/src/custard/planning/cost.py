"""What a plan costs: never late if that can be, then as fresh as can be, then the least rush, then the fewest
changes. One number, so that plans can be told apart; each part outweighs all that come after it.
"""

from __future__ import annotations

from dataclasses import dataclass

from custard.planning.day import Day, Job, Plan

MOVED_MIN = 2
"""A step that begins so few minutes from where it was has not been moved [min]."""
WHOLE = 100


@dataclass(frozen=True)
class Weights:
    """What one of each costs: a minute late, a hundredth of a life, a minute too few to spare, a change."""

    late: int
    stale: int
    rush: int
    change: int = 1


@dataclass(frozen=True)
class Cost:
    """What a plan costs, part by part.

    Attributes
    ----------
    late : minutes late in all [min].
    stale : how old things are when they are wanted, in hundredths of their lives, beyond what can be told.
    rush : minutes too few to spare [min], the worst of them counted once for every job.
    changes : blocks of steps that were moved.
    """

    late: int
    stale: int
    rush: int
    changes: int

    def total(self, by: Weights) -> int:
        """As one number."""
        return self.late * by.late + self.stale * by.stale + self.rush * by.rush + self.changes * by.change


def weights(day: Day, *, begun: bool) -> Weights:
    """Weights by which each part outweighs all after it; `begun` where changes of a plan count.

    Parameters
    ----------
    day : a day of work: its jobs, its people, its room.
    begun : whether changes of what stands count.
    """
    wanted = [job for job in day.jobs if job.due is not None and not job.settled]
    most_changes = sum(len(job.blocks) for job in day.jobs) if begun else 0
    slacks = [job.slack for job in wanted] or [0]
    rush = 1 + most_changes
    stale = rush * (sum(slacks) + len(slacks) * max(slacks) + 1)
    return Weights(stale * (WHOLE * len(slacks) + 1), stale, rush)


def fresh_for(job: Job) -> int:
    """How old it may be when it is wanted and still counts as just made [min]."""
    return max(job.slack, job.fades)


def staleness(job: Job, age: int) -> int:
    """How old it is when it is wanted, in whole hundredths of its life beyond what can be told."""
    return 0 if job.life is None else max(0, WHOLE * (age - fresh_for(job)) // job.life)


def starts(plan: Plan) -> dict[tuple[str, int], int]:
    """When every step of a plan begins [min], by job and place."""
    return {(one.job, one.place): one.start for one in plan.steps}


def ready(plan: Plan) -> dict[str, int]:
    """When the last step of every job is over [min].

    Parameters
    ----------
    plan : when each step is done, and by whom.
    """
    found: dict[str, int] = {}
    for one in plan.steps:
        found[one.job] = max(one.end, found.get(one.job, one.end))
    return found


def cost(day: Day, plan: Plan, before: Plan | None = None) -> Cost:
    """What a plan costs, compared with the plan before it.

    Parameters
    ----------
    day : a day of work: its jobs, its people, its room.
    plan : when each step is done, and by whom.
    before : the plan that stood before; None where there was none.
    """
    at = ready(plan)
    late = stale = 0
    short: list[int] = []
    for job in day.jobs:
        if job.due is None or job.settled:
            continue
        age = job.due - at[job.key]
        late += max(0, -age)
        stale += staleness(job, age)
        short.append(min(job.slack, max(0, job.slack - age)))
    rush = sum(short) + len(short) * max(short, default=0)
    return Cost(late, stale, rush, 0 if before is None else _changes(day, plan, before))


def _changes(day: Day, plan: Plan, before: Plan) -> int:
    was, now = starts(before), starts(plan)
    firsts = [(job.key, block[0]) for job in day.jobs for block in job.blocks]
    return sum(abs(now[first] - was[first]) > MOVED_MIN for first in firsts if first in was)
