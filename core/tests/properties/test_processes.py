"""Anything a kitchen could do, and much it would not: nothing breaks, nothing leaves its bounds."""

from __future__ import annotations

import math

import custard
import numpy as np
from custard.advice.after.life import life
from custard.advice.after.safe import judge, since
from custard.process import Stove, cook
from custard.process.heating import kernel
from hypothesis import given, settings
from hypothesis import strategies as st
from properties.test_sense import formula, lines

DEGREES = (kernel.THICKENED, kernel.CURDLED, kernel.GELATINISED, kernel.SWOLLEN, kernel.BITS, kernel.AMYLASE)
powers = st.floats(1, 20_000)
ANGLAISE = (("whole-milk", "1 kg"), ("egg-yolk", "150 g"), ("white-sugar", "150 g"))


@given(
    lines,
    st.floats(0, 90),
    st.floats(30, 120),
    powers,
    st.sampled_from(["whisk", "spatula", "none"]),
    st.sampled_from(["clad", "thin", "cast-iron"]),
    st.booleans(),
    st.floats(0, 200),
)
@settings(max_examples=80, deadline=None)
def test_any_cook_stays_in_bounds(pairs, start, lift, power, stir, pan, steam, left):
    mixture = custard.mix(formula("anglaise", pairs))
    stove = custard.process.Stove(power_w=power, stir=stir, pan=pan, over_steam=steam)
    done = custard.process.cook(mixture, start, lift, stove, left_in_pan_s=left, longest_s=1800)
    assert np.isfinite(done.rows).all()
    for column in DEGREES:
        assert done.rows[:, column].min() >= 0
        assert done.rows[:, column].max() <= 1
    assert done.peak_c <= 131
    assert 0 <= done.bits_percent <= 100


@given(st.floats(100, 2000), st.floats(1.05, 3))
@settings(max_examples=30, deadline=None)
def test_more_power_gets_there_sooner(power, more):
    mixture = custard.mix(
        formula("anglaise", [("whole-milk", "500 g"), ("egg-yolk", "90 g"), ("white-sugar", "80 g")])
    )
    slow, fast = (
        custard.process.cook(mixture, 40, 80, custard.process.Stove(power_w=w)).lift_s
        for w in (power, power * more)
    )
    assert fast < slow


@given(
    lines,
    st.sampled_from(["ice-bath", "ice-only", "counter", "fridge", "blast"]),
    st.floats(1, 20_000),
    st.floats(2, 300),
    st.booleans(),
    st.sampled_from(["us", "uk", "codex", "au", "fr"]),
)
@settings(max_examples=30, deadline=None)
def test_any_cooling_falls_toward_its_medium(pairs, by, mass, depth, stirred, rule):
    mixture, conditions = custard.mix(formula("anglaise", pairs)), custard.Conditions(rule=rule)
    made = custard.process.chill(
        mixture, 80, 5, custard.process.CooledBy(by, stirred=stirred), mass, depth, conditions=conditions
    )
    assert (np.diff(made.core_c) <= 1e-6).all()
    assert made.core_c.max() <= 80 + 1e-9
    assert (made.verdict == "passes") == made.why.startswith("keeps to")


@given(lines, st.sampled_from(["ladle", "stream", "reverse", "none"]), st.floats(40, 100), st.floats(5, 2000))
@settings(max_examples=60, deadline=None)
def test_any_tempering_lands_between_its_sides(pairs, school, hot, ladle):
    sauce = formula("anglaise", [*pairs, ("egg-yolk", "20 g"), ("whole-milk", "100 g")])
    made = custard.process.temper(sauce, school, hot, ladle)
    assert 19 <= made.landing_c <= hot + 1e-6
    assert 0 <= made.worst_local_curdling <= 1
    assert all(0 <= pour.local_curdling <= 1 for pour in made.pours)


@given(st.floats(0.5, 3), st.floats(0.0, 12.0))
@settings(max_examples=20, deadline=None)
def test_sweeter_bases_freeze_lower(yolk, more):
    def point(sugar):
        pairs = [("whole-milk", "500 g"), ("egg-yolk", f"{40 * yolk} g"), ("white-sugar", f"{sugar} g")]
        return custard.churning(custard.mix(formula("ice-base", pairs))).freezing_point_c

    assert point(100 + more + 1) < point(100)


@given(st.floats(60, 1500), st.floats(1.05, 4))
@settings(max_examples=25, deadline=None)
def test_a_hotter_flame_leaves_no_fewer_bits_where_nobody_stirs(power, more):
    def bits(watts):
        mixture = custard.mix(formula("anglaise", ANGLAISE))
        return cook(mixture, 20, 82, Stove(watts, stir="none")).final[kernel.BITS]

    assert bits(power * more) >= bits(power) * 0.999


@given(st.floats(300, 3000), st.floats(1.02, 4))
@settings(max_examples=25, deadline=None)
def test_more_flame_under_the_bath_is_never_slower(flame, more):
    def seconds(watts):
        done = cook(custard.mix(formula("anglaise", ANGLAISE)), 20, 78, Stove(watts, over_steam=True))
        return math.inf if done.lift_s is None else done.lift_s

    assert seconds(flame * more) <= seconds(flame)


@given(st.sampled_from(["ice-bath", "fridge", "blast"]), st.floats(15, 150), st.floats(1.05, 2.5))
@settings(max_examples=25, deadline=None)
def test_deeper_in_the_same_vessel_never_cools_sooner(by, depth, more):
    def seconds(mm):
        mixture = custard.mix(formula("anglaise", ANGLAISE))
        found = custard.process.chill(mixture, 80, 21, by, 40 * mm, mm, deepest=False)
        return math.inf if found.time_to_goal_s is None else found.time_to_goal_s

    assert seconds(depth * more) >= seconds(depth) * 0.999


@given(st.sampled_from(custard.FAMILIES), st.floats(0, 400), st.floats(0, 400), st.floats(0, 8))
@settings(max_examples=60, deadline=None)
def test_older_is_never_safe_again(family, age_h, older_h, warm_h):
    known = life(custard.assess(formula(family, ANGLAISE)))

    def safe(hours):
        return judge(known, *since(hours, warm_h=warm_h)).safe

    assert safe(age_h) or not safe(age_h + older_h)
