"""Windows against kitchen practice. Every figure is a published or common one, named beside it."""

from __future__ import annotations

import custard
import pytest
from custard.larder.parameters import standard
from custard.process.heating import ramp


def milk_anglaise(make, yolks, sugar_g):
    return make("anglaise", ("whole-milk", "1 l"), ("egg-yolk", yolks), ("white-sugar", f"{sugar_g} g"))


@pytest.mark.parametrize(("yolks", "sugar_g"), [(5, 100), (6, 120), (8, 150), (10, 200)])
def test_milk_anglaise_coats_at_80_to_84_and_curdles_from_85(make, yolks, sugar_g):
    """Common practice, from lean to rich; the curdling range covers slow and fast heating."""
    window = custard.assess(milk_anglaise(make, yolks, sugar_g)).window
    assert 80 <= window.nappe_c <= 84
    assert 85 <= window.curdles_c <= 92
    assert 75 <= window.thickens_c <= 80


def test_plain_yolk_thickens_at_65_and_sets_at_70(make):
    """McGee as remembered, +-2 K; "sets" lies between thickening and fully set."""
    window = custard.assess(make("anglaise", ("egg-yolk", "100 g"))).window
    assert window.thickens_c == pytest.approx(65, abs=2)
    assert window.thickens_c < 70 < window.heavy_c < 75


def test_beaten_whole_egg_sets_at_70_to_73(make):
    """McGee as remembered; "sets" is taken as half set on the way up."""
    mixture = custard.mix(make("baked-custard", ("whole-egg", "100 g")))
    course = ramp.run(mixture, standard(), 4.0, 95.0)
    assert 70 <= ramp.first_reach(course.temperature_c, course.thickened, 0.5) <= 73


def test_one_egg_a_cup_of_milk_sets_at_79_to_83(make):
    """The classic dilution series: one egg, one cup of milk, two spoons of sugar."""
    lines = ("whole-egg", 1), ("whole-milk", "1 cup"), ("white-sugar", "2 tbsp")
    window = custard.assess(
        make("baked-custard", *lines, eggs="US-large", measures="us"), custard.Conditions(rate_k_per_min=4)
    ).window
    assert 79 <= window.nappe_c <= 83
    assert 79 <= (window.thickens_c + window.heavy_c) / 2 <= 83


@pytest.mark.parametrize(("sugar_g", "cream_ml"), [(130, 250), (150, 250), (170, 150), (160, 350)])
def test_ice_cream_base_is_stopped_at_82_to_85(make, sugar_g, cream_ml):
    """20 to 25 % sugars in the aqueous phase; common practice."""
    base = make(
        "ice-base",
        ("whole-milk", "500 ml"),
        ("whipping-cream-36", f"{cream_ml} ml"),
        ("egg-yolk", 6),
        ("white-sugar", f"{sugar_g} g"),
    )
    result = custard.assess(base)
    assert 19 <= result.pan.sugars_in_aqueous_percent <= 26
    assert 82 <= result.stop.at_c <= 85


def test_yolk_and_evaporated_milk_filling_goes_to_87_to_93_without_gross_curdling(make):
    """S about 44; common practice of milk fillings."""
    filling = make("milk-filling", ("evaporated-milk", "400 g"), ("egg-yolk", 5), ("white-sugar", "235 g"))
    result = custard.assess(filling)
    assert result.pan.sugars_in_aqueous_percent == pytest.approx(44, abs=1.5)
    assert 87 <= result.stop.at_c <= 93
    assert result.stop.curdled < 0.05


@pytest.mark.parametrize("starch_g", [42, 47, 52])
def test_pastry_cream_boils_without_curdling_and_sets_to_60_to_250_pa(make, starch_g):
    """6 to 7 % starch in the water phase; datasheet range of a firm pastry cream, low confidence."""
    cream = make(
        "pastry-cream",
        ("whole-milk", "500 ml"),
        ("egg-yolk", 5),
        ("white-sugar", "100 g"),
        ("cornstarch", f"{starch_g} g"),
    )
    result = custard.assess(cream)
    assert result.window.curdles_c is None
    assert result.stop.boiled
    assert 60 <= result.cold.yield_stress_pa <= 250
    assert result.cold.word == "pipeable"


def test_one_percent_of_starch_lets_a_custard_near_the_boil(make, anglaise):
    """McGee as remembered: without it curdling comes in the eighties, with it in the nineties."""
    lines = ("whole-milk", "500 ml"), ("egg-yolk", 6), ("white-sugar", "90 g"), ("cornstarch", "7 g")
    with_starch = custard.assess(make("pouring-custard", *lines)).window
    assert with_starch.curdles_c > 94
    assert custard.assess(anglaise).window.curdles_c < 90


@pytest.mark.parametrize("wine", ["fortified-wine-sweet", "white-wine-12"])
def test_sabayon_is_best_at_68_to_78_and_curdles_at_82_to_88(make, wine):
    """Common practice."""
    sabayon = make("sabayon", ("egg-yolk", 6), ("white-sugar", "100 g"), (wine, "150 ml"))
    result = custard.assess(sabayon)
    assert 68 <= result.window.nappe_c <= 78
    assert 82 <= result.window.curdles_c <= 88
    assert 4.3 <= result.pan.ph <= 5.3


def test_a_cream_custard_cold_stays_far_below_hot_pastry_cream(make):
    """Calibration rule of the texture line."""
    cream = make("burnt-cream", ("double-cream-48", "500 ml"), ("egg-yolk", 6), ("white-sugar", "80 g"))
    pastry = make(
        "pastry-cream",
        ("whole-milk", "500 ml"),
        ("egg-yolk", 6),
        ("white-sugar", "110 g"),
        ("cornstarch", "45 g"),
    )
    assert custard.assess(cream).cold.yield_stress_pa < 0.6 * custard.assess(pastry).hot.yield_stress_pa


def test_a_ten_times_faster_cook_thickens_several_degrees_later(anglaise):
    """Lowe & Andross 1940 as remembered: slow custard thickens about 78, fast about 87 degC."""
    slow = custard.assess(anglaise, custard.Conditions(rate_k_per_min=1)).window.thickens_c
    fast = custard.assess(anglaise, custard.Conditions(rate_k_per_min=10)).window.thickens_c
    assert 4 <= fast - slow <= 9
