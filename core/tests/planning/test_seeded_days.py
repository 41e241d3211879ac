"""Days of which a plan in time is known: whatever is planned can be done, and nothing comes late."""

from __future__ import annotations

import functools
from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest
from benchmarks.days import seeded
from custard import planning
from custard.planning.run import planned, run

DAYS = [(seed, batches, hands) for batches, hands in ((8, 1), (8, 2), (14, 1), (14, 2)) for seed in range(5)]


pytestmark = pytest.mark.xdist_group("seeded days")
"""Each day is solved once and looked at in several ways."""


@functools.cache
def planned_day(seed: int, batches: int, hands: int) -> tuple[planning.Day, planning.Plan]:
    """A day, solved by one thread: two solve at once on two cores."""
    day, known = seeded(seed, batches, hands)
    assert planning.broken(day, known) == ()
    assert planning.cost(day, known).late == 0
    return day, planning.tidy(day, planning.solve(day, seconds=10, workers=1))


@pytest.fixture(params=DAYS, ids=lambda one: "-".join(map(str, one)))
def solved(request):
    return planned_day(*request.param)


def test_it_can_be_done_and_is_in_time(solved):
    day, plan = solved
    assert planning.broken(day, plan) == ()
    assert planning.cost(day, plan).late == 0
    assert plan.proven


def test_no_two_things_have_one_pair_of_hands_whole(solved):
    """Counted here minute by minute, without the words of the check."""
    day, plan = solved
    used = np.zeros((len(day.room.hands), 3 * 1440))
    for one in plan.steps:
        if one.hands is not None:
            step = next(job for job in day.jobs if job.key == one.job).steps[one.place]
            used[one.hands, one.start : one.end] += step.hands
    assert used.max() <= 1 + 1e-9


def test_all_waits_are_kept(solved):
    day, plan = solved
    for job in day.jobs:
        for before, after in pairwise(plan.of(job.key)):
            step, waited = job.steps[after.place], after.start - before.end
            assert waited >= step.least
            assert step.most is None or waited <= step.most


def test_a_day_that_goes_as_planned_ends_as_planned(solved):
    day, plan = solved
    went = run(day, plan, planned(day, plan))
    assert [int(start) for start in went.starts[0]] == [one.start for one in plan.steps]
    assert [int(end) for end in went.ends[0]] == [one.end for one in plan.steps]


def test_better_answers_come_in_order_and_the_first_is_a_plan():
    day, _ = seeded(1, 14, 2)
    told: list[planning.Plan] = []
    last = planning.solve(day, seconds=10, workers=1, better=told.append)
    assert all(planning.broken(day, plan) == () for plan in told)
    assert [plan.cost for plan in told] == sorted((plan.cost for plan in told), reverse=True)
    assert last.cost <= told[-1].cost
    assert all(plan.bound <= last.cost for plan in told)


def test_the_hint_alone_is_a_plan_that_can_be_done():
    for seed in range(12):
        day, _ = seeded(seed, 20, 2)
        assert planning.broken(day, planning.greedy(day)) == ()


def test_half_of_a_day_is_replanned_from_now_with_what_has_begun_as_it_is():
    day, known = seeded(3, 14, 2)
    now = 9 * 60
    jobs = []
    for job in day.jobs:
        begun = {
            one.place: planning.Begun(one.start, one.end if one.end <= now else None, one.hands)
            for one in known.of(job.key)
            if one.start < now
        }
        jobs.append(replace(job, begun=begun))
    later = planning.Day(day.room, tuple(jobs), now)
    plan = planning.solve(later, known, seconds=10, workers=1)
    assert planning.broken(later, plan) == ()
    assert planning.cost(later, plan).late == 0
    was = {(one.job, one.place): one for one in known.steps}
    for one in plan.steps:
        if was[one.job, one.place].start < now:
            assert one.start == was[one.job, one.place].start
        else:
            assert one.start >= now
