"""Mixing by enthalpy: conservation, and the limits that need no model."""

from __future__ import annotations

import custard
import pytest
from custard.mixture import blend
from custard.physics import thermal
from custard.process.heating.temper import mixed_c


def water(grams):
    return blend([(custard.larder.ingredient("water"), grams)])


def test_equal_waters_meet_in_the_middle():
    assert mixed_c(water(500), 20, water(500), 80) == pytest.approx(50, abs=0.4)


def test_mixing_conserves_enthalpy(anglaise):
    yolk = blend([(custard.larder.ingredient("egg-yolk"), 100.0)])
    milk = blend([(custard.larder.ingredient("whole-milk"), 500.0)])
    both = blend(
        [(custard.larder.ingredient("egg-yolk"), 100.0), (custard.larder.ingredient("whole-milk"), 500.0)]
    )
    met = mixed_c(yolk, 18, milk, 93)
    before = 100 * thermal.enthalpy(yolk.proximate, 18) + 500 * thermal.enthalpy(milk.proximate, 93)
    assert 600 * thermal.enthalpy(both.proximate, met) == pytest.approx(before, rel=1e-6)


def test_the_temper_lands_where_cooks_find_it(anglaise):
    """Dairy just under the boil onto whisked yolks lands around 70 degC; common practice."""
    assert custard.process.landing_c(anglaise, 92) == pytest.approx(71, abs=4)


def test_nothing_to_temper_is_said_not_invented(make):
    assert custard.process.landing_c(make("anglaise", ("egg-yolk", 6), ("white-sugar", "90 g")), 92) is None


@pytest.mark.parametrize(
    ("name", "temperature", "expected"),
    [
        ("whole-milk", 20, (3880, 3940)),
        ("egg-yolk", 20, (3000, 3200)),
        ("egg-white", 20, (3850, 3950)),
        ("whipping-cream-36", 50, (3150, 3350)),
    ],
)
def test_heat_capacity_of_known_things(name, temperature, expected):
    """Datasheet cross-checks of the property laws."""
    low, high = expected
    assert low <= blend([(custard.larder.ingredient(name), 1.0)]).heat_capacity_j_kgk(temperature) <= high


def test_density_of_hot_and_cold_custard_sauce(anglaise):
    """1093 kg/m3 at 20 and 1069 at 80 degC, datasheet, +-2.5 % for this formula's own sugar."""
    mixture = custard.mix(anglaise)
    assert mixture.density_kg_m3(20) == pytest.approx(1093, rel=0.025)
    assert mixture.density_kg_m3(80) == pytest.approx(1069, rel=0.025)


def test_a_stream_lands_where_the_one_sum_says(anglaise):
    """Heat adds up the same pour by pour as at once, but for what a changing heat capacity rounds off."""
    for hot in (70.0, 92.0):
        poured = custard.process.temper(anglaise, "stream", hot)
        assert poured.landing_c == pytest.approx(custard.process.landing_c(anglaise, hot), abs=0.1)
        assert poured.landing_c == pytest.approx(poured.pours[-1].bowl_c, abs=1e-6)
