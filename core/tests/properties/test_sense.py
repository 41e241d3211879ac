"""Over the whole input space: nothing breaks, fractions stay fractions, and physics stays monotonic."""

from __future__ import annotations

import math

import custard
from custard.larder.parameters import standard
from custard.process.heating import ramp
from hypothesis import given, settings
from hypothesis import strategies as st

NAMES = sorted(custard.larder.all_ingredients())
grams = st.floats(0.01, 50_000).map(lambda g: f"{g:.3f} g")
lines = st.lists(st.tuples(st.sampled_from(NAMES), grams), min_size=1, max_size=12)


def formula(family, pairs):
    return custard.read_formula(
        {
            "format": "old-spoon/formula",
            "version": 1,
            "name": "any",
            "family": family,
            "lines": [{"ingredient": name, "amount": amount} for name, amount in pairs],
        }
    )


@given(st.sampled_from(custard.FAMILIES), lines, st.floats(-400, 5000))
@settings(max_examples=150, deadline=None)
def test_any_mix_can_be_assessed(family, pairs, altitude):
    result = custard.assess(formula(family, pairs), custard.Conditions(altitude_m=altitude))
    assert math.isclose(sum(result.whole.fractions.values()), 1, abs_tol=1e-9)
    assert 0 <= result.yield_g <= result.whole.mass_g
    for degree in (result.stop.thickened, result.stop.curdled, result.stop.gelatinised, result.stop.swollen):
        assert 0 <= degree <= 1
    for texture in (result.hot, result.cold):
        assert math.isfinite(texture.yield_stress_pa)
        assert texture.film_mm > 0
    for reached in (result.window.thickens_c, result.window.nappe_c, result.window.curdles_c):
        assert reached is None or reached <= result.boiling_c + 0.1


@given(lines, st.sampled_from([0.5, 1.0, 4.0, 20.0]))
@settings(max_examples=80, deadline=None)
def test_degrees_only_rise_on_a_ramp(pairs, rate):
    course = ramp.run(custard.mix(formula("anglaise", pairs)), standard(), rate, 100)
    for degree in (course.thickened, course.curdled, course.gelatinised):
        assert degree.min() >= 0
        assert degree.max() <= 1
        assert (degree[1:] >= degree[:-1] - 1e-12).all()


@given(st.floats(2, 14), st.floats(20, 250), st.floats(5, 60))
@settings(max_examples=60, deadline=None)
def test_more_sugar_sets_later_and_more_yolk_thickens_sooner(yolks, sugar, more):
    def window(y, s):
        pairs = [("whole-milk", "1000 g"), ("egg-yolk", f"{17 * y} g"), ("white-sugar", f"{s} g")]
        return custard.assess(formula("anglaise", pairs)).window

    base = window(yolks, sugar)
    assert window(yolks, sugar + more).thickens_c > base.thickens_c
    richer = window(yolks + 1, sugar)
    assert richer.thickens_c < base.thickens_c
    assert base.nappe_c is None or richer.nappe_c < base.nappe_c


@given(st.floats(-400, 4000), st.floats(50, 1000))
@settings(max_examples=40, deadline=None)
def test_higher_kitchens_boil_lower(altitude, climb):
    pairs = [("whole-milk", "500 g"), ("egg-yolk", "100 g"), ("white-sugar", "80 g")]
    low = custard.assess(formula("anglaise", pairs), custard.Conditions(altitude_m=altitude))
    assert (
        custard.assess(formula("anglaise", pairs), custard.Conditions(altitude_m=altitude + climb)).boiling_c
        < low.boiling_c
    )


@given(st.floats(0.01, 500))
@settings(max_examples=40, deadline=None)
def test_size_changes_no_temperature(factor):
    pairs = [("whole-milk", "500 g"), ("egg-yolk", "100 g"), ("white-sugar", "80 g")]
    whole = formula("anglaise", pairs)
    base, scaled = custard.assess(whole).window, custard.assess(whole.times(factor)).window
    assert math.isclose(base.nappe_c, scaled.nappe_c, abs_tol=0.05)
