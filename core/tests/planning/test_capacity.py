"""What a kitchen holds is kept: more cups than the oven takes are baked in turns, and no ice is no plan."""

from __future__ import annotations

import math
from itertools import pairwise

import custard
import pytest
from custard import planning
from custard.planning.of_formula import Made, steps_of

EIGHT, EIGHTEEN = 8 * 60, 18 * 60


def cups(make, count):
    """As many usual cups of a baked custard."""
    litres = count * 0.072
    milk, egg = ("whole-milk", f"{litres:g} l"), ("whole-egg", f"{8 * litres:.0f}")
    return make("baked-custard", milk, egg, ("white-sugar", f"{180 * litres:.0f} g"))


def day_of(formula, ovens=1, **room):
    hands = tuple(planning.Hands(name, ((EIGHT, EIGHTEEN + 120),)) for name in ("one", "another"))
    places = {"ring": 4, "steam": 1, "bath": 2, "oven": 100 * ovens, "churn": 1}
    wanted = [planning.Wanted("w", formula.name, "s", formula, EIGHTEEN)]
    work = planning.work(wanted, made=Made({}, ovens=ovens))
    return planning.Day(planning.Room(hands, places, **room), tuple(work.jobs))


def turns(steps):
    return [step for step in steps if step.step.startswith("bake")]


@pytest.mark.parametrize(("count", "ovens"), [(20, 1), (60, 1), (104, 1), (104, 2)])
def test_every_cup_is_baked_and_none_in_an_oven_that_is_full(make, count, ovens):
    steps = steps_of(custard.assess(cups(make, count)), Made({}, ovens=ovens))
    baked = turns(steps)
    each = [int(step.say.split(", ")[1].split(" of ")[0]) for step in baked]
    assert len(baked) == math.ceil(sum(each) / (24 * ovens))
    assert sum(each) == pytest.approx(count, rel=0.15)
    assert all(step.needs["oven"] <= 100 * ovens for step in baked)
    assert all(one.needs["oven"] == math.ceil(100 * n / 24) for one, n in zip(baked, each, strict=True))
    # What waits for its turn is cold when it goes in, and takes longer for it.
    assert all(later.minutes.usual >= baked[0].minutes.usual for later in baked[1:])


def test_a_plan_of_many_cups_keeps_to_the_oven(make):
    day = day_of(cups(make, 104))
    plan = planning.solve(day, seconds=4.0, workers=1)
    assert planning.broken(day, plan) == ()
    placed = plan.of("w")
    for before, after in pairwise(one for one in placed if "oven" in day.jobs[0].steps[one.place].needs):
        assert before.end <= after.start


def test_far_too_many_cups_are_refused_with_what_the_oven_holds(make):
    with pytest.raises(custard.Impossible, match=r"what the oven holds at once \(24\)"):
        steps_of(custard.assess(cups(make, 400)))


@pytest.mark.parametrize(("ice_g", "says"), [(0.0, True), (2000.0, True), (None, False)])
def test_no_ice_is_said_with_the_grams_that_would_do(make, ice_g, says):
    sauce = make("anglaise", ("whole-milk", "3 l"), ("egg-yolk", "40"), ("white-sugar", "700 g"))
    day = day_of(sauce, ice_g=ice_g)
    found = planning.why(day, workers=1)
    assert (found is not None) == says
    if found is None:
        return
    [needs] = [step.needs["ice"] for step in day.jobs[0].steps if "ice" in step.needs]
    assert f"have {needs - ice_g:.0f} g more" in found.say
    assert found.needs == ("ice",)
    there = day_of(sauce, ice_g=needs)
    assert planning.why(there, workers=1) is None
