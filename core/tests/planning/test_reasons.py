"""Days that cannot be: the true cause is named, and what is offered makes them possible."""

from __future__ import annotations

from dataclasses import replace

import pytest
from custard import planning
from custard.planning import BATH, BOWL, CHURN, ICE, OVEN, RING, STEAM, Begun, Day, Hands, Job, Minutes, Step
from days import NINE, NOON, day, one, room, sauce


def reason(problem: Day) -> planning.Why:
    found = planning.why(problem)
    assert found is not None
    return found


def offers(problem: Day) -> dict[str, planning.Change]:
    """What is offered, by kind; each is checked again here."""
    found = list(planning.helps(problem, reason(problem)))
    for change in found:
        assert planning.broken(change.day, change.plan) == ()
        assert planning.cost(change.day, change.plan).late == 0
    return {change.kind: change for change in reversed(found)}


def test_a_day_that_can_be_has_no_reason():
    assert planning.why(day(sauce("a", NOON))) is None


def test_one_that_takes_too_long_by_itself_is_told_when_to_begin():
    """Aged four hours, wanted after three."""
    base = Job(
        "base", "Barley base", (*sauce("x", None).steps, Step("rest", "Ageing", Minutes(240))), NINE + 180
    )
    problem = day(base, sauce("other", NOON))
    found = reason(problem)
    assert found.jobs == ("base",)
    assert "Barley base takes 4 h 24 min" in found.say
    assert "ready at {13:24 h}" in found.say
    assert "wanted at {12:00 h}" in found.say
    assert "Begin by {7:36 h}" in found.say
    assert offers(problem)["earlier"].minutes == 84
    later = offers(problem)["later"]
    assert later.job == "base"
    assert later.minutes == 85


def test_hands_are_named_with_minutes_and_between_when():
    """Three times thirty minutes of stirring between eleven and noon, and one pair of hands."""
    three = [replace(one(name, NOON, 30), open=NOON - 60) for name in ("a", "b", "c")]
    found = reason(day(*three, one("easy", NOON + 60, 10)))
    assert found.needs == ("hands",)
    assert (found.start, found.end) == (NOON - 60, NOON)
    assert found.say == (
        "Between {11:00 h} and {12:00 h} three things need the one pair of hands (cook 1): a, b and c. "
        "That is 90 min of work and there are 60 min of it."
    )
    change = offers(day(*three))["helper"]
    assert change.minutes == 30
    assert "A helper for 30 min, from {11:" in change.say


def test_what_has_nothing_to_do_with_it_is_not_named():
    clash = [replace(one(name, NOON, 40), open=NOON - 60) for name in ("a", "b")]
    rest = [sauce(f"s{number}", NINE + 90 + 5 * number) for number in range(2)]
    assert set(reason(day(*clash, *rest)).jobs) == {"a", "b"}


@pytest.mark.parametrize(
    ("need", "words", "more"),
    [
        (RING, "the one ring", "one more ring"),
        (STEAM, "the steam bath", "one more steam bath"),
        (BATH, "the place in the ice bath", "room for one more bowl in ice"),
        (CHURN, "the churn", "a second churn"),
    ],
)
def test_a_place_is_named(need, words, more):
    two = [replace(one(name, NOON, 40, 0.0, **{need: 1}), open=NOON - 60) for name in ("a", "b")]
    problem = day(*two, hands=2, **{need: 1})
    found = reason(problem)
    assert found.needs == (need,)
    assert f"two things need {words}: a and b. That is 80 min of work and there are 60" in found.say
    assert more in offers(problem)["more"].say


def test_an_oven_at_two_temperatures_is_named():
    def cups(name: str, celsius: float) -> Job:
        bake = Step("bake", "bake", Minutes(40), 0, {OVEN: 30}, celsius)
        return Job(name, name, (bake,), NINE + 60, open=NINE)

    found = reason(day(cups("a", 160), cups("b", 120)))
    assert found.jobs == ("a", "b")
    assert found.say == (
        "Between {9:00 h} and {10:00 h} the oven would have to be two things: a at {160 C} for 40 min and "
        "b at {120 C} for 40 min. It has one temperature, and takes 10 min to another."
    )
    assert offers(day(cups("a", 160), cups("b", 120)))["later"].minutes == 30


def test_ice_and_bowls_are_counted():
    cold = [Job(n, n, (Step("c", "c", Minutes(10), 0, {ICE: 800}),), NINE + 30) for n in ("a", "b")]
    found = reason(Day(replace(room(), ice_g=1000), tuple(cold)))
    assert found.needs == (ICE,)
    assert "a and b need 1.6 kg of ice in time and there are 1.0 kg: have 600 g more" in found.say
    assert "1 kg more ice" in offers(Day(replace(room(), ice_g=1000), tuple(cold)))["ice"].say
    churned = [Job(n, n, (Step("c", "c", Minutes(30), 0, {CHURN: 1, BOWL: 1}),), NOON) for n in ("a", "b")]
    found = reason(Day(replace(room(), bowls=1), tuple(churned)))
    assert found.needs == (BOWL,)
    assert "2 frozen churn bowls and there are 1" in found.say


def test_what_somebody_put_there_is_let_go_of_first():
    put = replace(sauce("a", NOON), pinned={2: Begun(NOON - 5)})
    found = offers(day(put))
    assert found["unpin"].job == "a"


def test_hands_that_are_not_there_when_it_is_needed():
    """The only cook leaves at ten; the sauce may not be made before eleven."""
    gone = Day(
        replace(room(), hands=(Hands("cook", ((NINE, NINE + 60),)),)), (sauce("a", NOON, open=NOON - 60),)
    )
    found = reason(gone)
    assert found.jobs == ("a",)
    assert "cook is not there when it needs hands" in found.say


def test_nothing_is_asked_of_anybody_before_now():
    three = [replace(one(name, NOON, 30), open=NOON - 60) for name in ("a", "b", "c")]
    late = Day(room(), tuple(three), now=NOON - 50)
    for change in planning.helps(late, reason(late)):
        assert all(step.start >= NOON - 50 for step in change.plan.steps)


def test_a_full_house_is_offered_no_ninth_pair_of_hands():
    """Eight people, one ring and more than it can take: what is offered keeps within what can be planned."""
    eight = tuple(Hands(f"cook {n}", ((NINE, NOON),)) for n in range(planning.MOST_HANDS))
    full = Day(
        replace(room(), hands=eight, places={RING: 1}), tuple(sauce(f"s{n}", NINE + 70) for n in range(4))
    )
    found = planning.why(full)
    if found is None:
        pytest.fail("this day was to be impossible")
    kinds = {change.kind for change in planning.helps(full, found)}
    assert not kinds & {"helper", "both"}
