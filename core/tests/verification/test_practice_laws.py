"""What holds whatever the figures: a stirred sauce stays one, starch never thins, ice runs out."""

from __future__ import annotations

from itertools import pairwise

import custard
import numpy as np
import pytest
from custard.advice.mix.texture import yield_stress
from custard.process.heating.state import on_ramp

SIX = ("whole-milk", "500 ml"), ("egg-yolk", 6), ("white-sugar", "90 g")


def taken(formula, to_c, read_c=4.0):
    """Cold yield stress of a sauce taken to a temperature."""
    result = custard.assess(formula)
    p = result.conditions.parameters
    return yield_stress(result.pan, on_ramp(result.pan, result.course(), to_c, p), read_c, p)


@pytest.mark.parametrize("yolks", [6, 10, 14])
def test_no_stirred_sauce_of_yolk_alone_is_pipeable_however_long_it_is_cooked(make, yolks):
    rich = make("anglaise", ("whole-milk", "500 ml"), ("egg-yolk", yolks), ("white-sugar", "90 g"))
    assert max(taken(rich, to_c) for to_c in np.arange(78.0, 90.0, 1.0)) < 20
    with pytest.raises(custard.Impossible):
        custard.bench.for_texture(rich, "pipeable", 4.0, custard.bench.Limits(max_starch_g=0.0))


def test_the_same_egg_left_alone_in_a_cup_sets_far_firmer(make):
    stirred, cup = (custard.assess(make(family, *SIX)) for family in ("anglaise", "baked-custard"))
    assert cup.cold.word == "pipeable"
    assert custard.word(taken(make("anglaise", *SIX), stirred.window.heavy_c)) == "heavy coat"


@pytest.mark.parametrize("family", ["anglaise", "pouring-custard", "ice-base", "milk-filling"])
def test_a_little_starch_never_thins_and_no_stop_jumps(make, family):
    cold, stops = [], []
    for grams in np.arange(0, 16, 0.5):
        result = custard.assess(make(family, *SIX, ("cornstarch", f"{grams + 0.01:.2f} g")))
        cold.append(result.cold.yield_stress_pa)
        stops.append(result.stop.at_c)
    assert all(after >= 0.99 * before for before, after in pairwise(cold))
    assert max(np.abs(np.diff(stops))) < 4


def test_only_what_stands_the_boil_is_held_at_it(make):
    for grams in (4, 8, 12, 16, 24, 40):
        stop = custard.assess(make("pouring-custard", *SIX, ("cornstarch", f"{grams} g"))).stop
        assert not stop.boiled or stop.curdled <= 0.05


def test_bits_hide_in_starch(make):
    hot = custard.process.Stove(power_w=900)
    plain, starchy = (
        custard.process.cook(custard.mix(make("pouring-custard", *SIX, *more)), 60, 85, hot).bits_percent
        for more in ((), (("cornstarch", "10 g"),))
    )
    assert starchy < 0.5 * plain


@pytest.mark.parametrize("stirred", [True, False])
def test_ice_that_runs_out_warms_its_bath(anglaise, stirred):
    mixture = custard.mix(anglaise.for_mass(700))

    def cooled(ice_g):
        ice = None if ice_g is None else custard.process.Ice(ice_g, 500)
        return custard.process.chill(
            mixture, 82, 5, custard.process.CooledBy("ice-bath", stirred=stirred, ice=ice), 700, 50
        )

    plenty, enough, little = cooled(None), cooled(5000), cooled(200)
    assert enough.core_c == pytest.approx(plenty.core_c)
    assert enough.ice_gone_s is None
    # By the heat alone: what 200 g of ice cannot take warms 700 g of water and the sauce together; the 500 g
    # that were water came from the tap at 20 degC.
    cp = mixture.heat_capacity_j_kgk(30) * 0.7
    ends_c = (cp * 82 + 500 * 4.19 * 20 - 200 * 334) / (cp + 700 * 4.19)
    assert little.bath_ends_c == pytest.approx(ends_c, abs=1.5)
    assert little.core_c[-1] == pytest.approx(little.bath_ends_c, abs=0.5)
    assert little.verdict == "fails"
    # Twice what melts, as it is fetched: in tenths of a kilogram.
    assert 0 <= plenty.ice_to_have_g - 2 * plenty.ice_g < 100


def test_less_ice_is_never_sooner(anglaise):
    mixture = custard.mix(anglaise.for_mass(700))
    times = [
        custard.process.chill(
            mixture,
            82,
            30,
            custard.process.CooledBy("ice-bath", ice=custard.process.Ice(grams, 500)),
            700,
            50,
        ).time_to_goal_s
        for grams in (2000, 500, 300)
    ]
    assert times == sorted(times)


def test_a_bath_without_ice_or_water_is_refused():
    with pytest.raises(custard.OutOfRange, match="is no bath"):
        custard.process.Ice(0, 0)


@pytest.mark.parametrize(
    ("sour", "when", "warns"),
    [
        ((), "in the pan", False),
        (("lemon-juice", "15 ml"), "in the pan", False),
        (("lemon-juice", "70 ml"), "in the pan", True),
        (("lemon-juice", "70 ml"), "off the heat", True),
        (("white-wine-12", "400 ml"), "in the pan", True),
    ],
)
def test_sour_milk_is_warned_of_before_heat(sour, when, warns):
    lines = [{"ingredient": name, "amount": str(amount)} for name, amount in SIX]
    if sour:
        lines.append({"ingredient": sour[0], "amount": sour[1], "when": when})
    head = {"format": "old-spoon/formula", "version": 1, "name": "sour", "family": "anglaise"}
    formula = custard.read_formula({**head, "lines": lines})
    assert bool(custard.assess(formula).warnings) == warns
    if warns and when == "in the pan":
        remedy = custard.trouble.rescue(formula, "split")
        assert "sour" in remedy.causes[0].say
        assert remedy.now.saved == "no"
        starched = custard.read_formula(
            {**head, "lines": [*lines, {"ingredient": "cornstarch", "amount": "20 g"}]}
        )
        assert custard.assess(starched).warnings == ()


def test_a_dish_that_never_sets_is_refused_and_a_large_one_takes_longer(make):
    eggs = custard.mix(
        make("baked-custard", ("whole-milk", "500 ml"), ("whole-egg", 4), ("white-sugar", "80 g"))
    )
    cup, dish = (custard.process.bake(eggs, ml).out_s for ml in (120, 1500))
    assert dish > 3 * cup
    assert custard.process.bake(eggs, 120, oven_c=130).out_s > cup
    dry = custard.process.bake(eggs, 120, oven_c=150, bath=False)
    at = int(np.searchsorted(dry.t_s, dry.out_s))
    wet = custard.process.bake(eggs, 120)
    assert dry.curdled_edge[at] > wet.curdled_edge[int(np.searchsorted(wet.t_s, wet.out_s))]


def test_the_value_is_always_in_its_own_band(anglaise, make):
    window, bands = custard.assess(anglaise).window, custard.bands.window_band(anglaise)
    for name, band in bands.items():
        assert band[0] <= round(getattr(window, name), 2) + 0.05
        assert band[1] >= round(getattr(window, name), 2) - 0.05
