"""Days so small that the best plan is known by hand."""

from __future__ import annotations

from dataclasses import replace

import pytest
from custard import errors, planning
from custard.planning import BOWL, CHURN, ICE, LOOKS, OVEN, RING, Begun, Day, Job, Minutes, Step
from days import NINE, NOON, day, one, room, sauce


def planned(problem: Day, **more) -> planning.Plan:
    found = planning.solve(problem, seconds=5, **more)
    assert planning.broken(problem, found) == ()
    return found


def late(problem: Day) -> int:
    return planning.cost(problem, planned(problem)).late


def test_one_sauce_ends_when_it_is_wanted_with_as_much_to_spare_as_is_wanted():
    problem = day(sauce("anglaise", NOON))
    found = planned(problem)
    assert found.proven
    # Minutes that never stray want the least slack: five.
    assert planning.ready(found)["anglaise"] == NOON - 5
    assert [(step.start, step.end) for step in found.of("anglaise")] == [
        (NOON - 29, NOON - 21), (NOON - 21, NOON - 15), (NOON - 15, NOON - 5),
    ]  # fmt: skip


def test_two_who_stir_need_two_pairs_of_hands_at_once():
    """Twenty-four minutes each from nine, wanted at 9:30: one cook makes one, two make both."""
    both = (sauce("a", NINE + 30), sauce("b", NINE + 30))
    alone = planned(day(*both))
    assert alone.proven
    # Both are weighed, the first warming meanwhile; what is hot is cooked at once, and whoever stirs looks at
    # nothing else, so the second warms only then: 8 + 8 + 10 + 6 + 10 minutes.
    assert planning.cost(day(*both), alone).late == 42 - 30
    assert late(day(*both, hands=2)) == 0


def test_a_look_now_and_then_leaves_hands_to_weigh_but_not_to_stir():
    """Weighing eight minutes fits beside a warming of eight; stirring does not."""
    warm = one("warm", NINE + 8, 8, LOOKS)
    assert late(day(warm, one("weigh", NINE + 8, 8, 0.7))) == 0
    assert late(day(warm, one("stir", NINE + 8, 8))) == 8


def test_one_ring_is_one_ring():
    pots = (one("a", NINE + 10, 10, 0.3, ring=1), one("b", NINE + 10, 10, 0.3, ring=1))
    assert late(day(*pots, ring=1)) == 10
    assert late(day(*pots, ring=2)) == 0
    assert {step.at[RING] for step in planned(day(*pots, ring=2)).steps} == {0, 1}


def test_an_oven_has_one_temperature_and_takes_ten_minutes_to_another():
    def cups(name: str, celsius: float, share: float = 50) -> Job:
        return Job(name, name, (Step("bake", "bake", Minutes(30), 0, {OVEN: share}, celsius),), NINE + 30)

    assert late(day(cups("a", 160), cups("b", 160))) == 0
    assert late(day(cups("a", 160), cups("b", 150))) == 40
    assert late(day(cups("a", 160, 60), cups("b", 160, 60))) == 30


def test_a_bowl_freezes_twelve_hours_before_it_churns_again():
    def ice(name: str) -> Job:
        return Job(name, name, (Step("churn", "churn", Minutes(30), 0.3, {CHURN: 1, BOWL: 1}),), NINE + 120)

    two = (ice("a"), ice("b"))
    one_bowl = Day(replace(room(1, closes=2 * 1440), bowls=1), two)
    assert late(one_bowl) == 30 + 720 + 30 - 120
    two_bowls = Day(replace(room(1, closes=2 * 1440), bowls=2), two)
    assert late(two_bowls) == 0


def test_ice_that_is_used_is_gone_until_more_is_made():
    def cold(name: str) -> Job:
        return Job(name, name, (Step("chill", "chill", Minutes(10), 0, {ICE: 1000}),), NINE + 15)

    two = (cold("a"), cold("b"))
    scarce = Day(replace(room(1), ice_g=1000, ice_g_h=1000), two)
    # A kilogram is made by ten.
    assert late(scarce) >= 60 + 10 - 15
    plenty = Day(replace(room(1), ice_g=2000), two)
    assert late(plenty) == 0
    # What was begun in the night makes no ice before anybody counted it.
    night = Begun(NINE - 300, NINE - 290)
    begun = replace(one("dough", None, 10), begun={0: night})
    assert late(Day(replace(room(1), ice_g=1000, ice_g_h=1000), (*two, begun), NINE)) >= 60 + 10 - 15


def test_a_large_batch_wants_a_bowl_for_each_charge():
    jobs = tuple(
        Job(key, key, (Step("churn", "churn", Minutes(30 * bowls), 0, {CHURN: 1, BOWL: bowls}),), NOON)
        for key, bowls in (("a", 2), ("b", 1))
    )
    two, three = (Day(replace(room(1, closes=2 * 1440), bowls=many), jobs) for many in (2, 3))
    found = planned(three)
    assert late(three) == 0
    assert [set(broken.jobs) for broken in planning.broken(two, found)] == [{"a", "b"}]
    assert late(two) > 600


def test_what_stands_for_minutes_is_made_last():
    """A foam that stands ten minutes is not made before the sauce that keeps for days."""
    foam = replace(one("sabayon", NOON, 10), life=10)
    found = planned(day(foam, sauce("anglaise", NOON, life=3 * 1440)))
    assert NOON - 10 <= planning.ready(found)["sabayon"] <= NOON
    assert planning.ready(found)["anglaise"] <= planning.ready(found)["sabayon"] - 10


def test_what_has_begun_stays_and_the_rest_follows_it():
    problem = sauce("a", NOON)
    begun = replace(problem, begun={0: Begun(NINE, NINE + 12, 0), 1: Begun(NINE + 12, None, 0)})
    found = planned(Day(room(), (begun,), now=NINE + 15))
    steps = found.of("a")
    assert (steps[0].start, steps[0].end) == (NINE, NINE + 12)
    # It warms until 9:18 as planned, and what is hot does not wait.
    assert (steps[1].start, steps[1].end) == (NINE + 12, NINE + 18)
    assert steps[2].start == NINE + 18


def test_a_plan_that_has_begun_changes_no_more_than_it_must():
    before = planned(day(sauce("a", NOON), sauce("b", NOON - 60), sauce("c", NOON + 60)))
    more = day(sauce("a", NOON), sauce("b", NOON - 60), sauce("c", NOON + 60), sauce("d", NOON + 90))
    after = planning.solve(more, before, seconds=5)
    assert planning.cost(more, after, before).changes == 0
    moved = {(s.job, s.place): s.start for s in after.steps}
    assert all(abs(moved[s.job, s.place] - s.start) <= 2 for s in before.steps)


def test_where_somebody_put_a_step_it_stays():
    put = replace(sauce("a", NOON), pinned={2: Begun(NINE + 90, hands=1)})
    found = planned(day(put, hands=2))
    assert found.of("a")[2].start == NINE + 90
    assert found.of("a")[2].hands == 1


def test_what_is_over_counts_no_more():
    """Ready ten minutes late: nothing can be done about it, and it makes no other day impossible."""
    over = replace(
        sauce("a", NINE + 20),
        begun={n: Begun(NINE + 10 * n, NINE + 10 * (n + 1), 0) for n in range(3)},
    )
    problem = Day(room(), (over, sauce("b", NOON)), now=NINE + 40)
    assert late(problem) == 0
    assert planning.why(problem) is None
    assert [one.job for one in planning.risks(problem, planned(problem))] == ["b"]


def test_nothing_wanted_is_an_empty_plan():
    assert planning.solve(day()).steps == ()
    assert planning.risks(day(), planning.solve(day())) == ()


@pytest.mark.parametrize(
    ("field", "problem"),
    [
        ("jobs.churned", lambda: day(one("churned", NOON, 10, churn=2))),
        ("there", lambda: planning.Hands("cook", ((NINE, NINE),))),
        ("needs", lambda: Step("a", "a", Minutes(1), needs={"lamp": 1})),
        ("most", lambda: Step("a", "a", Minutes(1), least=5, most=1)),
        ("minutes", lambda: Minutes(-1)),
        ("due", lambda: sauce("a", 10**6)),
        ("jobs", lambda: day(sauce("a", NOON), sauce("a", NOON))),
    ],
)
def test_what_cannot_be_is_refused_by_its_field(field, problem):
    with pytest.raises(errors.CustardError) as refused:
        problem()
    assert refused.value.field == field


def test_a_day_too_short_for_anything_says_so():
    short = Day(room(1, closes=NINE + 10), (sauce("a", NOON),))
    with pytest.raises(errors.Impossible, match="no place in this day"):
        planning.solve(short)
