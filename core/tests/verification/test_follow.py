"""A cook followed through a bad probe finds what was hidden: hob, sauce, and when to lift."""

from __future__ import annotations

import custard
import numpy as np
import pytest
from custard.process.following.follow import Ensemble, Flame, drift, follow
from custard.process.heating import kernel
from custard.process.heating.cook import Stove, constants, cook, step_s

STOVE = Stove(power_w=350)


def cooked(formula, seed, seconds, *, start=66.0, noise=0.2, lost=0.1, stove=STOVE):
    """A hidden stove and what a probe in it read, every two seconds."""
    result = custard.assess(formula)
    real = custard.process.StoveRehearsal(result.pan, stove, start, seed)
    dice = np.random.default_rng(100 + seed)
    readings = []
    while real.t_s < seconds:
        real.on(2.0)
        if dice.random() >= lost:
            readings.append((real.t_s, round(real.probe_c + noise * dice.standard_normal(), 1)))
    return result, real, readings


def told(readings, **more):
    return custard.stove.History(readings=readings, **more)


@pytest.mark.parametrize("seed", range(6))
def test_the_hidden_hob_and_sauce_are_found(anglaise, seed):
    result, real, readings = cooked(anglaise, seed, 60)
    seen = custard.stove.live(result, custard.stove.Equipment(STOVE), told(readings), real.t_s)
    assert seen.sauce_c == pytest.approx(real.sauce_c, abs=0.7)
    assert seen.from_readings
    assert abs(seen.power_w - real.power_w) < 2.5 * max(seen.power_spread_w, 0.08 * real.power_w)
    assert seen.power_spread_w < 0.15 * seen.power_w


def test_the_calibration_is_believed_until_there_are_readings(anglaise):
    result, real, readings = cooked(anglaise, 1, 6)
    sure = custard.stove.Equipment(STOVE, power_spread=0.05)
    seen = custard.stove.live(result, sure, told(readings), real.t_s)
    assert not seen.from_readings
    assert seen.power_w == pytest.approx(350, rel=0.1)
    assert custard.stove.live(result, sure, told([]), 3.0) is None


def test_order_and_repetition_of_readings_change_nothing(anglaise):
    result, real, readings = cooked(anglaise, 2, 50)
    setup = custard.stove.Equipment(STOVE)
    once = custard.stove.live(result, setup, told(readings), real.t_s)
    again = custard.stove.live(result, setup, told([*reversed(readings), *readings[::3]]), real.t_s)
    assert once == again


def test_a_gap_widens_what_is_unsure_and_readings_close_it(anglaise):
    result, real, readings = cooked(anglaise, 3, 90, lost=0)
    setup = custard.stove.Equipment(STOVE)
    before = custard.stove.live(result, setup, told([r for r in readings if r[0] <= 60]), 60.0)
    silent = custard.stove.live(result, setup, told([r for r in readings if r[0] <= 60]), 90.0)
    after = custard.stove.live(result, setup, told(readings), 90.0)
    assert silent.sauce_spread_k > before.sauce_spread_k
    assert silent.sauce_spread_k > after.sauce_spread_k
    assert silent.sauce_c == pytest.approx(real.sauce_c, abs=1.5)


def test_one_wild_reading_is_not_believed(anglaise):
    result, real, readings = cooked(anglaise, 4, 60)
    setup = custard.stove.Equipment(STOVE)
    calm = custard.stove.live(result, setup, told(readings), real.t_s)
    wild = custard.stove.live(result, setup, told([*readings, (real.t_s + 0.5, 40.0)]), real.t_s + 0.5)
    assert wild.sauce_c == pytest.approx(calm.sauce_c, abs=0.5)


def test_a_probe_out_of_the_dairy_is_not_believed_at_first(anglaise):
    result, real, readings = cooked(anglaise, 1, 60)
    setup = custard.stove.Equipment(STOVE)
    clean = custard.stove.live(result, setup, told(readings), real.t_s)
    for strange in (21.0, 92.0):
        seen = custard.stove.live(result, setup, told([(0.5, strange), *readings]), real.t_s)
        assert seen == clean


@pytest.mark.parametrize("seed", range(1, 7))
def test_a_flame_turned_up_is_noticed(anglaise, seed):
    """Within half a minute what is believed of the hob has left what it was, whichever hob it is."""
    believed = {}
    for turned in (1.0, 2.0):
        result, real, readings = cooked(anglaise, seed, 40, lost=0)
        real.turned(turned)
        dice = np.random.default_rng(9)
        while real.t_s < 75:
            real.on(2.0)
            readings.append((real.t_s, round(real.probe_c + 0.2 * dice.standard_normal(), 1)))
        seen = custard.stove.live(result, custard.stove.Equipment(STOVE), told(readings), real.t_s)
        believed[turned] = seen.power_w / real.power_w * turned
    assert believed[1.0] == pytest.approx(1.0, abs=0.25)
    assert believed[2.0] > 1.25
    assert believed[2.0] > 1.25 * believed[1.0]


def test_a_spoon_that_disagrees_teaches_this_batch(anglaise):
    """A thin coat where nappe is computed: it sets later, and the notch moves up; or the other way round."""
    result, real, readings = cooked(anglaise, 0, 140)
    setup = custard.stove.Equipment(STOVE)

    def after(coat):
        return custard.stove.live(
            result, setup, told(readings, spoons=[custard.stove.Spoon(138, coat)]), real.t_s
        )

    plain = custard.stove.live(result, setup, told(readings), real.t_s)
    assert 0.4 < plain.yield_stress_pa < 3
    thin, thick = after("runs off"), after("heavy coat")
    assert thin.shift_k > 0.4 > -0.4 > thick.shift_k
    assert thin.lift.in_s > plain.lift.in_s
    assert 0.15 < thin.shift_spread_k < plain.shift_spread_k
    assert thin.yield_stress_pa < plain.yield_stress_pa < thick.yield_stress_pa


def test_a_spoon_that_agrees_teaches_little(anglaise):
    result, real, readings = cooked(anglaise, 0, 100)
    setup = custard.stove.Equipment(STOVE)
    plain = custard.stove.live(result, setup, told(readings), real.t_s)
    word = plain.word
    seen = custard.stove.live(
        result, setup, told(readings, spoons=[custard.stove.Spoon(real.t_s, word)]), real.t_s
    )
    assert abs(seen.shift_k) < 0.4
    assert seen.shift_spread_k <= plain.shift_spread_k


def test_the_band_holds_what_comes(anglaise):
    """Of many hidden stoves most reach nappe within the span that was told a minute before."""
    held = 0
    for seed in range(10):
        result, real, readings = cooked(anglaise, seed, 40)
        seen = custard.stove.live(result, custard.stove.Equipment(STOVE), told(readings), real.t_s)
        from_now = real.t_s
        while real.yield_pa < 1.5:
            real.on(1.0)
        came = real.t_s - from_now
        held += seen.nappe.low_s - 3 <= came <= seen.nappe.high_s + 3
    assert held >= 7


def test_off_the_heat_the_window_stays_where_it_was(anglaise):
    """Standing about in a warm pan an egg curdles in the end, but that is no place on the rule."""
    result, real, readings = cooked(anglaise, 3, 100)
    assert 80 < real.sauce_c < 83
    off_s = real.t_s
    while real.t_s < off_s + 10:
        real.on(2.0, lit=False)
        readings.append((real.t_s, round(real.probe_c, 1)))
    seen = custard.stove.live(result, custard.stove.Equipment(STOVE), told(readings, off_s=off_s), real.t_s)
    assert real.curdled < 0.05
    assert seen.window.curdles_c == pytest.approx(result.window.curdles_c, abs=0.3)


def test_hands_off_the_base_is_about_to_catch(anglaise):
    result, real, readings = cooked(anglaise, 1, 50, stove=Stove(power_w=1100))
    setup = custard.stove.Equipment(Stove(power_w=1100))
    stirred = custard.stove.live(result, setup, told(readings), real.t_s)
    left = custard.stove.live(result, setup, told(readings, hands=[(10.0, False)]), real.t_s)
    assert left.base_c > stirred.base_c
    assert left.catches_in_s is not None
    assert stirred.catches_in_s is None or left.catches_in_s < stirred.catches_in_s


def test_advancing_is_the_same_as_a_whole_cook(anglaise):
    result = custard.assess(anglaise)
    k = constants(result.pan, STOVE)
    whole = cook(result.pan, 60, 82, STOVE)
    y = kernel.at_rest(60.0)
    kernel.advance(k, y, whole.lift_s, step_s(k), 1.0, k.stirring)
    assert y[kernel.SAUCE_C] == pytest.approx(82, abs=0.1)
    assert y[kernel.THICKENED] == pytest.approx(whole.final[kernel.THICKENED], abs=0.01)


def test_compiled_members_drift_like_plain_ones(anglaise):
    result = custard.assess(anglaise)
    k = constants(result.pan, STOVE)
    one, other = (Ensemble(k, Flame(350, 0.3), 70.0) for _ in range(2))
    drift(one.rows, one.states, one.probe_c, one.lag_s, 10.0, one.dt, 1.0, -1.0)
    drift.py_func(
        other.rows[:4], other.states[:4], other.probe_c[:4], other.lag_s[:4], 10.0, other.dt, 1.0, -1.0
    )
    assert one.states[:4] == pytest.approx(other.states[:4], abs=1e-6)
    assert one.probe_c[:4] == pytest.approx(other.probe_c[:4], abs=1e-6)


def test_nothing_leaves_its_bounds_whatever_is_read(anglaise):
    result = custard.assess(anglaise)
    k = constants(result.pan, STOVE)
    members = Ensemble(k, Flame(350, 0.3), 20.0)
    dice = np.random.default_rng(3)
    follow(members, [(float(t), float(dice.uniform(-30, 130))) for t in range(1, 120, 3)], [], 130.0)
    states = members.states
    for column in (kernel.THICKENED, kernel.CURDLED, kernel.GELATINISED, kernel.AMYLASE):
        assert ((states[:, column] >= 0) & (states[:, column] <= 1)).all()
    assert np.isfinite(states).all()
    assert (states[:, kernel.SAUCE_C] <= k.boil_c).all()
    assert (members.power_w > 0).all()


def test_an_oven_s_bath_is_found_from_one_cup():
    cups = custard.assess(
        custard.read_formula(
            {
                "format": "old-spoon/formula",
                "version": 1,
                "name": "Cups",
                "family": "baked-custard",
                "lines": [
                    {"ingredient": "whole-milk", "amount": "500 ml"},
                    {"ingredient": "whole-egg", "amount": "3"},
                    {"ingredient": "white-sugar", "amount": "90 g"},
                ],
            }
        )
    ).pan
    for seed in range(4):
        real = custard.process.OvenRehearsal(cups, 45, seed)
        dice = np.random.default_rng(seed)
        readings = []
        while real.t_s < 900:
            real.on(10.0)
            readings.append((real.t_s, real.probe_c + 0.2 * dice.standard_normal()))
        seen = custard.stove.live_oven(cups, readings, real.t_s)
        assert seen.bath_c == pytest.approx(real.bath_c, abs=1.5)
        assert seen.out_in_s + real.t_s == pytest.approx(real.baked.out_s, rel=0.05)
    assert custard.stove.live_oven(cups, [], 0.0) is None


def test_a_hidden_cook_is_the_same_whatever_the_steps_it_is_asked_in(anglaise):
    """Noise is by index on a grid of its own, not by how often somebody looks."""
    result = custard.assess(anglaise)

    def ends(*steps):
        real = custard.process.rehearse(result.way, result.pan, STOVE, 65.0, 3)
        for step in steps:
            real.on(step)
        return real.t_s, real.sauce_c, real.probe_c, real.yield_pa

    assert ends(*[0.5] * 240) == ends(*[2.0] * 60) == ends(120.0) == ends(7.0, 0.5, 100.5, 12.0)
    assert ends(120.0) != ends(119.5)
