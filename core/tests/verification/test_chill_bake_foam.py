"""Cooling, baking and whisking against practice, and against solutions that need no model."""

from __future__ import annotations

import custard
import numpy as np
import pytest
from custard.mixture import blend
from custard.physics import conduction, thermal


@pytest.fixture
def sauce(anglaise):
    return custard.mix(anglaise.for_mass(700))


def minutes(sauce, by, stirred=False, **more):
    made = custard.process.chill(sauce, 82, 5, custard.process.CooledBy(by, stirred=stirred, **more), 700, 50)
    return made.time_to_21_s / 60


def test_ice_water_stirred_4_to_11_minutes_still_12_to_30(sauce):
    """Common practice, 0.7 kg from 82 to 21 degC."""
    assert 4 <= minutes(sauce, "ice-bath", stirred=True) <= 11
    assert 12 <= minutes(sauce, "ice-bath") <= 30


def test_ice_without_water_is_several_times_slower(sauce):
    assert 3 <= minutes(sauce, "ice-only", stirred=True) / minutes(sauce, "ice-bath", stirred=True) <= 12


def test_ice_needed_is_what_the_heat_melts(sauce):
    """Datasheet: 0.7 kg from 82 to 5 degC removes 182 kJ, 0.55 kg of ice."""
    made = custard.process.chill(sauce, 82, 5, custard.process.CooledBy("ice-bath", stirred=True), 700, 50)
    assert made.ice_g == pytest.approx(550, rel=0.07)


@pytest.mark.parametrize("rule", ["us", "uk", "codex", "au", "fr"])
def test_a_5_cm_tray_in_the_fridge_fails_every_rule_and_a_shallow_one_passes(sauce, rule):
    deep = custard.process.chill(sauce, 80, 5, "fridge", 3000, 50, conditions=custard.Conditions(rule=rule))
    assert deep.verdict == "fails"
    shallow = custard.process.chill(
        sauce, 80, 5, "fridge", 3000, deep.greatest_depth_mm - 0.5, conditions=custard.Conditions(rule=rule)
    )
    assert shallow.verdict == "passes"
    assert 4 <= deep.greatest_depth_mm <= 30


def test_blast_chilled_it_passes(sauce):
    assert custard.process.chill(sauce, 80, 5, "blast", 3000, 50).verdict == "passes"


def test_the_counter_never_gets_there(sauce):
    made = custard.process.chill(sauce, 80, 5, "counter", 700, 50, custard.Conditions(rule="us"))
    assert made.time_to_5_s is None
    assert "21" in made.why


@pytest.mark.parametrize("biot", [0.1, 1.0, 10.0])
def test_a_slab_agrees_with_the_series_solution(biot):
    """First three terms of the classical series; late enough that the rest is nothing."""
    half, alpha, step, steps = 0.02, 1.4e-7, 10.0, 400
    field = conduction.conduct(
        conduction.Body(half, alpha, biot, conduction.SLAB), 80, 4, step, steps, nodes=121
    )
    roots = [
        _root(lambda z: z * np.tan(z) - biot, n * np.pi + 1e-9, n * np.pi + np.pi / 2 - 1e-9)
        for n in range(3)
    ]
    fourier = alpha * step * steps / half**2
    middle = sum(4 * np.sin(z) / (2 * z + np.sin(2 * z)) * np.exp(-z * z * fourier) for z in roots)
    assert (field[-1, 0] - 4) / 76 == pytest.approx(middle, abs=2e-4)


def _root(function, low, high):
    for _ in range(200):
        middle = (low + high) / 2
        low, high = (middle, high) if function(middle) < 0 else (low, middle)
    return low


@pytest.mark.parametrize("shape", [conduction.SLAB, conduction.CYLINDER])
def test_conduction_conserves_heat_when_nothing_leaves(shape):
    field = conduction.conduct(conduction.Body(0.02, 1.4e-7, 0.0, shape), 60, 4, 5.0, 200)
    assert field[-1] == pytest.approx(60)


def test_deeper_cools_slower(sauce):
    times = [custard.process.chill(sauce, 80, 5, "fridge", 2000, d).time_to_21_s for d in (10, 20, 40, 80)]
    assert times == sorted(times)


def test_cups_in_a_bath_take_28_to_45_minutes_and_more_from_cold(make):
    """120 ml cups, hot bath, custard at 50 to 55 degC; datasheet."""
    mixture = custard.mix(
        make("baked-custard", ("whole-milk", "500 ml"), ("whole-egg", 4), ("white-sugar", "80 g"))
    )
    warm, cold = custard.process.bake(mixture, 120, 52), custard.process.bake(mixture, 120, 8)
    assert 28 <= warm.out_s / 60 <= 45
    assert 40 <= cold.out_s / 60 <= 70
    assert 74 <= np.interp(warm.out_s, warm.t_s, warm.centre_c) <= 83
    assert 0.5 <= warm.carry_over_k <= 6


@pytest.fixture
def sabayon(make):
    """0.35 kg, as the datasheet's time is stated."""
    formula = make("sabayon", ("egg-yolk", 6), ("white-sugar", "100 g"), ("fortified-wine-sweet", "150 ml"))
    return custard.mix(formula.for_mass(350))


@pytest.mark.parametrize("electric", [False, True])
@pytest.mark.parametrize("lift_c", [68, 72, 75, 78])
def test_a_sabayon_grows_two_and_a_half_to_four_and_a_half_times(sabayon, lift_c, electric):
    """Common practice over the whole range it is best at, 68 to 78 degC."""
    assert 2.5 <= 1 + custard.process.whisk(sabayon, 20, lift_c, electric).overrun[-1] <= 4.5


@pytest.mark.parametrize("lift_c", [72, 75, 78])
def test_a_sabayon_takes_5_to_12_minutes_over_steam(sabayon, lift_c):
    """Datasheet: 0.35 kg over steam in 7 min, 5 to 12."""
    assert 5 <= custard.process.whisk(sabayon, 20, lift_c).t_s[-1] / 60 <= 12


def test_a_sabayon_stands_once_it_has_been_hot_enough(sabayon):
    """Datasheet: half of an unheated foam drains in 15 to 60 min; little an hour once taken to its best."""
    raw, best = (custard.process.whisk(sabayon, 20, t).weeps_per_h for t in (50, 76))
    assert raw > 0.5
    assert best < 0.15


def test_a_sabayon_taken_too_far_falls(make):
    mixture = custard.mix(
        make("sabayon", ("egg-yolk", 6), ("white-sugar", "90 g"), ("white-wine-12", "150 ml"))
    )
    stove = custard.process.Stove(power_w=3000, over_steam=True)
    good, far = (custard.process.whisk(mixture, 20, t, stove=stove) for t in (76, 87))
    assert far.overrun[-1] < 0.7 * good.overrun.max()


def test_enthalpy_of_cooling_is_conserved():
    water = blend([(custard.larder.ingredient("water"), 1000.0)])
    drop = thermal.enthalpy(water.proximate, 80) - thermal.enthalpy(water.proximate, 20)
    assert drop == pytest.approx(60 * 4190, rel=0.01)


@pytest.mark.parametrize("eggs", ["2 eggs", "3 eggs"])
def test_cups_are_planned_for_where_they_land(make, eggs):
    """A cup creeps, and sets several degrees under a sauce that is stirred to it at 4 K a minute."""
    formula = make(
        "baked-custard",
        ("whole-milk", "500 ml"),
        ("whole-egg", eggs),
        ("white-sugar", "70 g"),
        eggs="US-large",
    )
    made = custard.assess(formula)
    cup = custard.process.bake(made.pan, start_c=55)
    out_c = float(np.interp(cup.out_s, cup.t_s, cup.centre_c))
    assert made.stop.at_c == pytest.approx(out_c + cup.carry_over_k, abs=1.5)
    assert 76 < made.stop.at_c < 83
    stirred = custard.assess(formula, custard.Conditions(rate_k_per_min=4))
    assert stirred.stop.at_c > made.stop.at_c + 3


def test_what_is_stirred_is_made_at_the_standard_rate(anglaise):
    standard = custard.assess(anglaise, custard.Conditions(rate_k_per_min=4))
    told = custard.assess(anglaise)
    for figure in ("window", "stop", "hot", "cold", "yield_g"):
        assert getattr(told, figure) == getattr(standard, figure)
