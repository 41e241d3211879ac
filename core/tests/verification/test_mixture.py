"""Composition, boiling and freezing against tables and conservation."""

from __future__ import annotations

import custard
import numpy as np
import pytest
from custard.larder.ingredients import COMPONENTS
from custard.mixture import blend, combined
from custard.physics import boiling, evaporation, heat, kinetics, starch, texture


def parts(*pairs):
    return blend([(custard.larder.ingredient(name), grams) for name, grams in pairs])


def test_mixing_conserves_every_component():
    milk, yolk = parts(("whole-milk", 500)), parts(("egg-yolk", 120))
    both = combined(milk, yolk)
    assert both.mass_g == 620
    for name in COMPONENTS:
        apart = milk.mass_g * milk.fractions[name] + yolk.mass_g * yolk.fractions[name]
        assert both.mass_g * both.fractions[name] == pytest.approx(apart)
    assert sum(both.fractions.values()) == pytest.approx(1)


def test_a_blend_at_once_equals_a_blend_in_steps():
    at_once = parts(("whole-milk", 500), ("egg-yolk", 120), ("cornstarch", 20), ("white-sugar", 90))
    in_steps = combined(
        parts(("whole-milk", 500), ("cornstarch", 20)), parts(("egg-yolk", 120), ("white-sugar", 90))
    )
    assert dict(in_steps.fractions) == pytest.approx(dict(at_once.fractions))
    assert dict(in_steps.starch_by_kind) == pytest.approx(dict(at_once.starch_by_kind))


def test_sugars_are_those_of_the_aqueous_phase_lactose_counted():
    """20 g of sugar in 100 g of milk: 24.75 of 112.45 g."""
    mixture = parts(("whole-milk", 100), ("white-sugar", 20))
    assert mixture.sugars_in_aqueous_percent == pytest.approx(100 * 24.75 / 112.45, rel=5e-3)


def test_alcohol_is_counted_in_the_aqueous_phase():
    mixture = parts(("brandy-40", 50), ("water", 50))
    assert mixture.ethanol_in_aqueous_percent == pytest.approx(16.65, rel=0.01)


@pytest.mark.parametrize(
    ("lines", "low", "high"),
    [
        ([("whole-milk", 500), ("egg-yolk", 100), ("white-sugar", 90)], 6.4, 6.8),
        ([("egg-yolk", 100), ("white-sugar", 80), ("white-wine-12", 150)], 4.3, 5.3),
        ([("egg-white", 100)], 7.6, 9.4),
        ([("lemon-juice", 100)], 2.2, 2.5),
    ],
)
def test_ph_of_known_mixes(lines, low, high):
    """Datasheet: custard 6.4 to 6.8, sabayon 4.3 to 5.3, white 7.6 to 9.4, lemon juice 2.2 to 2.5."""
    assert low <= parts(*lines).ph <= high


@pytest.mark.parametrize(
    ("sugars", "kelvin"), [(10, 0.1), (20, 0.3), (30, 0.6), (40, 1.0), (50, 1.8), (60, 3.0), (70, 5.1)]
)
def test_sugar_raises_the_boil_by_the_table(sugars, kelvin):
    assert boiling.boiling_point(sugars, 0, 0) - boiling.water_boils_at(0) == pytest.approx(kelvin)


@pytest.mark.parametrize(("ethanol", "boils"), [(5, 95), (10, 91.5), (15, 89), (20, 87)])
def test_alcohol_lowers_it(ethanol, boils):
    """Vapour-liquid tables, +-1 degC."""
    assert boiling.boiling_point(0, ethanol, 0) == pytest.approx(boils, abs=1)


def test_evaporation_rises_and_steam_costs_its_latent_heat():
    flux = [float(evaporation.flux(t)) for t in range(20, 101, 5)]
    assert flux == sorted(flux)
    assert heat.latent_heat(100) == pytest.approx(2.26e6, rel=5e-3)


@pytest.mark.parametrize(("temperature", "seconds"), [(70, 0.9), (75, 0.09)])
def test_custard_holds_no_germ_for_long(temperature, seconds):
    """Datasheet: with D60 1.5 min and z 5, D70 is 0.9 s and D75 0.1 s."""
    assert kinetics.decimal_time(temperature, 60, 90, 5) == pytest.approx(seconds)


@pytest.mark.parametrize(("percent", "shift"), [(20, 5), (40, 14), (50, 20)])
def test_sugar_delays_starch_as_recalled(percent, shift):
    """Spies & Hoseney 1982 as remembered."""
    assert starch.sugar_shift(percent, 0.15, 0.005) == pytest.approx(shift, abs=0.6)


@pytest.mark.parametrize(
    ("at_c", "swelling"), [(60, 2), (65, 3.5), (70, 7), (75, 9.5), (80, 11.5), (85, 14.5), (90, 18), (95, 23)]
)
def test_maize_swells_as_recalled(at_c, swelling):
    """Leach 1959 as remembered, g/g."""
    assert 23 * float(starch.capacity(at_c, 0.0)) == pytest.approx(swelling, rel=0.01)


def test_texture_rises_with_the_network_and_saturates():
    values = [
        float(texture.network_yield(n / 10, 0.0, 1.0, np.inf, texture.Network(0.3, 2.0, 0.5, 4.6, 700)))
        for n in range(0, 100)
    ]
    assert values == sorted(values)
    assert values[0] == 0
    assert 699 < values[-1] <= 700


@pytest.mark.parametrize(("name", "point"), [("whole-milk", -0.54), ("water", 0.0)])
def test_freezing_points_of_known_things(name, point):
    """Milk freezes at -0.52 to -0.55 degC."""
    assert custard.churning(parts((name, 100))).freezing_point_c == pytest.approx(point, abs=0.06)


def test_an_ice_base_freezes_where_practice_has_it(make):
    """Initial freezing point -2.2 to -3.5 degC; 0.65 to 0.8 of the water frozen at -8 to -13."""
    base = make(
        "ice-base",
        ("whole-milk", "520 ml"),
        ("whipping-cream-36", "240 ml"),
        ("egg-yolk", 6),
        ("white-sugar", "160 g"),
    )
    found = custard.churning(custard.mix(base))
    assert -3.5 <= found.freezing_point_c <= -2.0
    shares = {one.at_c: one.share for one in found.frozen_share}
    assert 0.6 <= shares[-8.0] < shares[-13.0] <= 0.85
