"""Cooks against kitchen practice: each figure is a published or common one, named beside it."""

from __future__ import annotations

import custard
import numpy as np
import pytest
from custard.advice.trouble import curds
from custard.process.heating import kernel
from custard.process.heating.cook import constants


@pytest.fixture
def sauce(make):
    """0.7 kg of a plain anglaise."""
    formula = make("anglaise", ("whole-milk", "530 g"), ("egg-yolk", "85 g"), ("white-sugar", "85 g"))
    return custard.mix(formula)


@pytest.fixture
def pastry(make):
    lines = ("whole-milk", "500 ml"), ("egg-yolk", 6), ("white-sugar", "110 g"), ("cornstarch", "45 g")
    return custard.mix(make("pastry-cream", *lines))


def lift(mixture, power, start=60.0, **more):
    return custard.process.cook(mixture, start, 82, custard.process.Stove(power_w=power, **more)).lift_s / 60


def test_from_tempered_60_to_82_at_350_w_takes_about_3_minutes(sauce):
    """Datasheet: 3 min, 2 to 6."""
    assert 2.5 <= lift(sauce, 350) <= 4.5


@pytest.mark.parametrize(("power", "minutes"), [(250, 12), (350, 8.5), (500, 6), (800, 3.7)])
def test_from_cold_at_net_power(sauce, power, minutes):
    """Datasheet, from the heat capacities alone; the base's own lag is on top here."""
    assert lift(sauce, power, start=20) == pytest.approx(minutes, rel=0.2)


@pytest.mark.parametrize(("start", "low", "high"), [(20, 8, 20), (60, 4, 10)])
def test_over_steam_takes_about_twice_as_long(sauce, start, low, high):
    """Datasheet: 12 min (8 to 20) from 20 degC, 6 min (4 to 10) from 60 degC."""
    stove = custard.process.Stove(power_w=1500, over_steam=True)
    assert low <= custard.process.cook(sauce, start, 80, stove).lift_s / 60 <= high


@pytest.mark.parametrize("power", [350, 500])
@pytest.mark.parametrize(("pan", "low", "high"), [("thin", 1, 2), ("clad", 2, 4), ("cast-iron", 5, 8)])
def test_carry_over_by_pan(sauce, pan, low, high, power):
    """Thin 1 to 2, clad 2 to 4, cast iron 5 to 8 K in practice."""
    done = custard.process.cook(
        sauce, 65, 80, custard.process.Stove(pan=pan, power_w=power), left_in_pan_s=240
    )
    assert low <= done.peak_c - 80 <= high


def test_the_same_anglaise_thickens_degrees_apart_at_1_and_10_k_a_minute(sauce):
    """Lowe & Andross 1940 as remembered."""
    heat = sauce.mass_g / 1000 * sauce.heat_capacity_j_kgk(70) * 1.3

    def thick_at(rate):
        done = custard.process.cook(sauce, 50, 92, custard.process.Stove(power_w=heat * rate / 60))
        return np.interp(0.5, done.column(kernel.THICKENED), done.column(kernel.SAUCE_C))

    assert 4 <= thick_at(10) - thick_at(1) <= 9


def test_left_in_the_hot_pan_it_goes_on_and_curdles_at_the_base(sauce):
    stove = custard.process.Stove(power_w=450)
    lifted = custard.process.cook(sauce, 65, 85, stove)
    left = custard.process.cook(sauce, 65, 85, stove, left_in_pan_s=300)
    assert left.peak_c > lifted.peak_c + 2
    assert left.bits_percent > 10 * lifted.bits_percent


def test_unstirred_it_makes_bits_and_catches(sauce):
    whisked, still = (
        custard.process.cook(sauce, 65, 82, custard.process.Stove(stir=s)) for s in ("whisk", "none")
    )
    assert still.bits_percent > 20 * whisked.bits_percent
    assert still.caught
    assert not whisked.caught


def test_a_spatula_leaves_a_little_more_than_a_whisk(sauce):
    whisk, spatula, none = (
        custard.process.cook(sauce, 65, 82, custard.process.Stove(stir=s)).bits_percent
        for s in ("whisk", "spatula", "none")
    )
    assert whisk < spatula < none
    assert spatula < 2


def boiled(make, starch_g, hold_s=10):
    lines = [("whole-milk", "500 ml"), ("egg-yolk", 5), ("white-sugar", "80 g")]
    if starch_g:
        lines.append(("cornstarch", f"{starch_g} g"))
    mixture = custard.mix(make("pouring-custard", *lines))
    return custard.process.cook(mixture, 70, 120, custard.process.Stove(power_w=400), hold_s=hold_s)


def test_boiling_splits_without_starch_half_with_one_percent_not_with_two_and_a_half(make):
    """McGee as remembered."""
    none, one, enough = (float(boiled(make, g).final[kernel.CURDLED]) for g in (0, 8, 21))
    assert none > 0.95
    assert 0.02 < one < 0.6
    assert enough < 0.02
    words = [curds(*pair) for pair in ((none, 0.0), (one, 1.16), (enough, 2.9))]
    assert words == ["stay", "whisk out", "none"]


def test_pastry_cream_boils_for_a_minute_without_curdling(pastry):
    done = custard.process.cook(pastry, 70, 120, custard.process.Stove(power_w=400), hold_s=60)
    assert done.peak_c == pytest.approx(100.3, abs=0.2)
    assert done.final[kernel.CURDLED] < 0.02
    assert not done.caught


def test_off_at_the_first_bubbles_enzyme_is_left_after_a_held_boil_it_is_not(pastry):
    early = custard.process.cook(pastry, 70, 93, custard.process.Stove(power_w=400))
    held = custard.process.cook(pastry, 70, 120, custard.process.Stove(power_w=400), hold_s=60)
    assert early.final[kernel.AMYLASE] > 0.005
    assert held.final[kernel.AMYLASE] < 1e-6


def test_seventy_degrees_for_two_minutes_is_many_logs(sauce):
    """Custard rules: 70 degC for 2 min exceeds any target."""
    done = custard.process.cook(sauce, 69, 70, custard.process.Stove(power_w=300), hold_s=120)
    assert done.final[kernel.LOGS] > 7


def test_heat_given_is_heat_found(sauce):
    """Over a net-power cook the energy in sauce and base is the power times the time."""
    done = custard.process.cook(sauce, 30, 75, custard.process.Stove(power_w=300))
    k = constants(sauce, custard.process.Stove(power_w=300))
    warmed = k.sauce_j_k * (75 - 30) + k.base_j_k * (done.final[kernel.BASE_C] - 30)
    assert warmed == pytest.approx(300 * done.lift_s, rel=2e-3)


def logs(make, sugar_g, hold_s=60):
    """Logs of Salmonella in a custard held at 62 degC."""
    mix = custard.mix(
        make("anglaise", ("whole-milk", "500 g"), ("egg-yolk", "6"), ("white-sugar", f"{sugar_g} g"))
    )
    done = custard.process.cook(mix, 61, 62, custard.process.Stove(power_w=400), hold_s=hold_s)
    return mix.sugars_in_aqueous_percent, float(done.final[kernel.LOGS])


def test_sugar_shields_germs(make):
    """Sugared yolk takes several times as long as plain: Garibaldi 1969, Palumbo 1995 as remembered."""
    (plain_s, plain), (sweet_s, sweet) = logs(make, 70), logs(make, 400)
    assert plain_s < 20
    assert sweet_s > 40
    times = plain / sweet
    assert 10 ** ((sweet_s - 20) / 35) < times < 10 ** ((sweet_s - 15) / 20)


def test_a_foam_and_a_cup_tell_their_lethality_too(make):
    lines = ("egg-yolk", "6"), ("white-sugar", "120 g"), ("white-wine-12", "120 ml")
    foam = custard.mix(make("sabayon", *lines))
    mild, hot = (custard.process.whisk(foam, lift_c=c).salmonella_logs for c in (62, 74))
    assert 0 < mild < hot
    cups = custard.mix(
        make("baked-custard", ("whole-milk", "500 ml"), ("whole-egg", "3"), ("white-sugar", "80 g"))
    )
    assert custard.process.bake(cups).salmonella_logs > 7
