"""Cooling planned and followed: what it rests on adds up, and what a kitchen really does is found."""

from __future__ import annotations

from dataclasses import replace

import custard
import numpy as np
import pytest
from custard.advice.after.cooling import chain
from custard.process import Vessel

after = custard.after
US = custard.Conditions(rule="us")
BOWL = Vessel("bowl", 26, 14)


@pytest.fixture
def sauce(make):
    milk, yolk, sugar = ("whole-milk", "2 l"), ("egg-yolk", 20), ("white-sugar", "360 g")
    return custard.assess(make("anglaise", milk, yolk, sugar), US)


@pytest.fixture
def cream(make):
    lines = ("whole-milk", "1.6 l"), ("egg-yolk", 18), ("white-sugar", "340 g"), ("cornstarch", "130 g")
    return custard.assess(make("pastry-cream", *lines), US)


def test_a_vessel_holds_what_it_holds(sauce):
    assert BOWL.holds_ml == pytest.approx(3.1416 / 4 * 26**2 * 14, rel=1e-4)
    depth = BOWL.depth_mm(sauce.whole, 2500)
    assert Vessel("bowl", 26, 14, count=2).depth_mm(sauce.whole, 2500) == pytest.approx(depth / 2)
    assert Vessel("tray", 26, 14, 26).depth_mm(sauce.whole, 2500) == pytest.approx(depth * 0.7854, rel=1e-3)
    with pytest.raises(custard.OutOfRange, match="hold"):
        BOWL.depth_mm(sauce.whole, 12_000)


@pytest.mark.parametrize("mass_g", [900, 2500])
def test_what_passes_at_the_greatest_depth_passes_and_deeper_does_not(cream, mass_g):
    found = after.cooling(cream, mass_g, 75, BOWL, [after.Cooler("fridge")])
    assert found.passes == (found.depth_mm <= found.greatest_depth_mm + 1)
    assert found.greatest_g == pytest.approx(mass_g * found.greatest_depth_mm / found.depth_mm, rel=0.02)
    quick, slow = found.quick_c[40], found.slow_c[40]
    assert quick <= found.core_c[40] <= slow


def test_every_help_that_is_said_to_pass_does(cream):
    found = after.cooling(cream, 2500, 75, BOWL, [after.Cooler("fridge")])
    assert not found.passes
    split = next(one for one in found.helps if one.say.startswith("share"))
    assert split.passes
    count = int(split.say.split(":")[1].split()[0])
    shared = after.cooling(cream, 2500, 75, replace(BOWL, count=count), [after.Cooler("fridge")])
    assert shared.passes
    # The least that helps is told: with one less it would not.
    less = after.cooling(cream, 2500, 75, replace(BOWL, count=count - 1), [after.Cooler("fridge")])
    assert not less.passes
    blast = next(one for one in found.helps if "blast" in one.say)
    assert blast.passes == after.cooling(cream, 2500, 75, BOWL, [after.Cooler("blast")]).passes


def test_ice_that_runs_out_is_shared_by_all_vessels(sauce):
    bath = after.Cooler("ice-bath", stirred=True, ice_g=900, water_g=2000)
    one = after.cooling(sauce, 2500, 75, BOWL, [bath])
    four = after.cooling(sauce, 2500, 75, replace(BOWL, count=4), [bath])
    assert one.ice_gone_s is not None
    assert four.ice_gone_s is not None
    assert not one.passes
    plenty = after.cooling(sauce, 2500, 75, BOWL, [after.Cooler("ice-bath", stirred=True)])
    assert plenty.passes
    assert plenty.ice_g > 900


def test_first_one_then_the_other_is_between_the_two(sauce):
    ice, fridge = after.Cooler("ice-bath", 5, stirred=True), after.Cooler("fridge")
    both = after.cooling(sauce, 2500, 75, BOWL, [ice, fridge])
    alone = [
        after.cooling(sauce, 2500, 75, BOWL, [way]).cold_s for way in (replace(ice, minutes=None), fridge)
    ]
    assert alone[0] < both.cold_s < alone[1]
    with pytest.raises(custard.OutOfRange, match="how long"):
        after.cooling(sauce, 2500, 75, BOWL, [replace(ice, minutes=None), fridge])


@pytest.mark.parametrize("share", [0.6, 1.0, 1.7])
def test_a_hidden_fridge_is_found_from_spot_checks(cream, share):
    hidden = chain(cream, 2000, BOWL.depth_mm(cream.whole, 2000), 75, [after.Cooler("fridge", share=share)])
    times = (600.0, 2400.0, 5400.0, 9000.0)
    read = [(t, float(custard_at(hidden, t))) for t in times]
    seen = after.live_cooling(cream, 2000, BOWL, [after.Moved(0, after.Cooler("fridge"))], read, 9000.0, 75.0)
    assert seen.share == pytest.approx(share, rel=0.12)
    assert seen.core_c == pytest.approx(read[-1][1], abs=0.5)


def custard_at(found, t):
    return np.interp(t, found.t_s, found.core_c)


def test_a_limit_goes_from_kept_in_time_to_missed(cream):
    moved = [after.Moved(0, after.Cooler("fridge"))]
    early = after.live_cooling(cream, 2500, BOWL, moved, [(1200, 70.0)], 1200, 75.0)
    assert early.deadlines[0].state == "will be missed"
    assert early.helps
    assert any(one.passes for one in early.helps)
    late = after.live_cooling(cream, 2500, BOWL, moved, [(1200, 70.0), (20_000, 33.0)], 20_000, 75.0)
    assert late.deadlines[0].state == "missed"
    assert after.coach(late).urgency == 3
    moved.append(after.Moved(1300, after.Cooler("blast")))
    saved = after.live_cooling(cream, 2500, BOWL, moved, [(1200, 70.0), (5400, 12.0)], 5400, 75.0)
    assert saved.deadlines[0].state == "kept"
    assert "in time" in after.coach(saved).say or "cold" in after.coach(saved).say


def test_a_fridge_no_colder_than_the_limit_is_not_called_slow(cream):
    rule = custard.larder.own_rule(60, 21, 2, 4, 40)
    own = custard.assess(cream.formula, custard.Conditions(rule="own", own_rule=rule))
    bath, fridge = after.Cooler("ice-bath", stirred=True), after.Cooler("fridge", medium_c=5)
    moved = [after.Moved(0, bath), after.Moved(3600, fridge)]
    say = after.coach(after.live_cooling(own, 900, BOWL, moved, [(0, 75.0), (3600, 16.0)], 3600)).say
    assert say.startswith("It does not get below {4 C} where it is: ")
    colder = [moved[0], after.Moved(3600, replace(fridge, medium_c=1))]
    say = after.coach(after.live_cooling(own, 900, BOWL, colder, [(0, 75.0), (3600, 16.0)], 3600)).say
    assert "below {4 C} in time" in say


def test_an_own_rule_is_a_rule_like_any_other(cream):
    rule = custard.larder.own_rule(60, 10, 1, 4, 3)
    own = custard.Conditions(rule="own", own_rule=rule)
    assert custard.Conditions.of(own.as_json(), own.parameters) == own
    strict = custard.assess(cream.formula, own)
    assert after.cooling(strict, 900, 75, BOWL, [after.Cooler("fridge")]).rule.second_h == 3
    with pytest.raises(custard.OutOfRange):
        custard.larder.own_rule(60, 10, 4, 4, 3)
    with pytest.raises(custard.UnknownName):
        custard.Conditions(rule="own")


def test_a_limit_is_reached_where_the_warmest_spot_passes_it(cream):
    found = after.cooling(
        cream, 1500, 75, BOWL, [after.Cooler("ice-bath", stirred=True, minutes=30), after.Cooler("fridge")]
    )
    assert found.limits
    for limit in found.limits:
        after_it = int(np.searchsorted(found.t_s, limit.reached_s))
        assert found.core_c[after_it - 1] > limit.limit_c > found.core_c[after_it + 1]
    warm = after.cooling(cream, 1500, 75, BOWL, [after.Cooler("counter")])
    assert warm.limits[-1].reached_s is None
    assert not warm.limits[-1].kept
