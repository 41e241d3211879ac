"""Handles, the ratio map, sensitivities, schools, measures and vessels: what the Bench is made of."""

from __future__ import annotations

from dataclasses import replace

import custard
import numpy as np
import pytest
from custard.advice.bench.handles import weighed
from custard.mixture import blend


def grams(formula, name):
    pairs = zip(formula.lines, formula.weights_g(), strict=True)
    return sum(g for line, g in pairs if line.ingredient.id == name)


def test_a_handle_turned_to_where_it_stands_changes_nothing(anglaise):
    assert custard.bench.turned(anglaise, custard.bench.handle_values(anglaise)) == anglaise


@pytest.mark.parametrize(
    ("name", "value"), [("yolk", 150.0), ("sugar", 25.0), ("starch", 2.0), ("cream", 40.0)]
)
def test_a_handle_turned_stands_where_it_was_put(anglaise, name, value):
    changed = custard.bench.turned(anglaise, {name: value})
    assert custard.bench.handle_values(changed)[name] == pytest.approx(value, rel=0.01)


def test_cream_for_milk_keeps_the_dairy_s_weight(anglaise):
    changed = custard.bench.turned(anglaise, {"cream": 30.0})
    assert changed.dairy_g() == pytest.approx(anglaise.dairy_g(), abs=0.2)
    assert grams(changed, "whipping-cream-36") == pytest.approx(0.3 * anglaise.dairy_g(), abs=0.2)
    back = custard.bench.turned(changed, {"cream": 0.0})
    assert grams(back, "whole-milk") == pytest.approx(anglaise.dairy_g(), abs=0.2)


@pytest.mark.parametrize("values", [{"salt": 3.0}, {"yolk": -1.0}])
def test_what_is_no_handle_is_refused(anglaise, values):
    with pytest.raises(custard.OutOfRange):
        custard.bench.turned(anglaise, values)


def test_cream_cannot_be_turned_without_dairy(make):
    with pytest.raises(custard.Impossible):
        custard.bench.turned(make("sabayon", ("egg-yolk", 6), ("white-wine-12", "150 ml")), {"cream": 20.0})


def test_a_map_of_mixes_is_each_mix_alone(anglaise):
    """Arrays through the same laws: every cell equals the formula turned there and mixed by itself."""
    yolk, starch = np.array([60.0, 150.0, 240.0]), np.array([0.5, 0.0, 2.0])
    together = blend((line.ingredient, g) for line, g in weighed(anglaise, {"yolk": yolk, "starch": starch}))
    for i in range(3):
        alone = custard.mix(custard.bench.turned(anglaise, {"yolk": yolk[i], "starch": starch[i]}))
        assert together.egg_protein_percent[i] == pytest.approx(alone.egg_protein_percent, rel=2e-3)
        assert together.ph[i] == pytest.approx(alone.ph, abs=1e-3)
        assert together.starch.swelling_ml_g[i] == pytest.approx(alone.starch.swelling_ml_g)


def test_more_yolk_is_thicker_and_coats_sooner_across_the_map(anglaise):
    found = custard.bench.ratio_map(anglaise, side=11)
    assert (np.diff(found.stress_pa[0]) > 0).all()
    coats = found.nappe_c[0][~np.isnan(found.nappe_c[0])]
    assert (np.diff(coats) <= 1e-9).all()


def test_starch_lifts_the_curdling_line_up_the_map(anglaise):
    found = custard.bench.ratio_map(anglaise, side=11)
    column = np.nan_to_num(found.curdles_c[:, 5], nan=200.0)
    assert (np.diff(column) >= -1e-9).all()
    assert column[0] < 90 < column[-1]


def test_the_map_agrees_with_the_rule_at_the_dot(anglaise):
    """The nearest cell to the mix in hand coats and curdles where its own assessment says, within a kelvin
    and a half: the map simulates a pan, the rule a steady ramp."""
    result, found = custard.assess(anglaise), custard.bench.ratio_map(anglaise, side=61)
    column = int(np.argmin(np.abs(found.x - found.here[0])))
    assert found.nappe_c[0, column] == pytest.approx(result.window.nappe_c, abs=1.5)
    assert found.curdles_c[0, column] == pytest.approx(result.window.curdles_c, abs=1.5)


def test_the_map_s_spoon_is_the_mix_s_own_where_their_textures_are_the_same(anglaise):
    """Along the row without starch the coat grows with the yolk; read at the yield stress of the
    formula's own stop it is the coat its own assessment gives."""
    hot, found = custard.assess(anglaise).hot, custard.bench.ratio_map(anglaise, side=61)
    coats = found.film_mm[0]
    assert (np.diff(coats) > 0).all()
    assert np.interp(hot.yield_stress_pa, found.stress_pa[0], coats) == pytest.approx(hot.film_mm, rel=0.03)


def test_the_map_says_what_to_weigh(anglaise):
    found = custard.bench.ratio_map(anglaise, "yolk", "cream", side=9)
    there = custard.bench.turned(anglaise, {"yolk": float(found.x[4]), "cream": float(found.y[4])})
    assert grams(there, "egg-yolk") == pytest.approx(found.x_g[4], abs=0.1)
    assert grams(there, "whipping-cream-36") == pytest.approx(found.y_g[4], abs=0.1)


def test_a_boiled_cream_s_map_is_boiled(make):
    cream = make(
        "pastry-cream",
        ("whole-milk", "500 ml"),
        ("egg-yolk", 5),
        ("white-sugar", "100 g"),
        ("cornstarch", "40 g"),
    )
    found = custard.bench.ratio_map(cream, "starch", "sugar", side=9)
    assert found.boiled
    assert {word for word, _, _ in found.labels} & {"spoonable", "pipeable"}


def test_labels_stand_in_their_regions(anglaise):
    found = custard.bench.ratio_map(anglaise, side=31)
    for word, x, y in found.labels:
        column, row = int(np.argmin(np.abs(found.x - x))), int(np.argmin(np.abs(found.y - y)))
        assert custard.word(float(found.stress_pa[row, column])) == word


def test_what_changes_if_points_the_right_way(anglaise):
    steps = {one.handle: one for one in custard.bench.sensitivities(custard.assess(anglaise))}
    assert steps["yolk"].nappe_k < 0 < steps["yolk"].coat_mm
    assert steps["sugar"].nappe_k > 0 > steps["sugar"].coat_mm
    assert steps["sugar"].firmer_percent < 0 < steps["yolk"].firmer_percent
    assert steps["starch"].curdles_k > 2
    assert steps["eggs"].step == "eggs EU-L"


def test_another_starch_brings_as_much_dry_starch(make):
    cream = make("pastry-cream", ("whole-milk", "500 ml"), ("egg-yolk", 4), ("cornstarch", "40 g"))
    other = custard.bench.with_starch_kind(cream, "potato-starch")
    before, after = custard.mix(cream), custard.mix(other)
    assert after.mass_g * after.fractions["starch"] == pytest.approx(
        before.mass_g * before.fractions["starch"], rel=3e-3
    )
    with pytest.raises(custard.UnknownName):
        custard.bench.with_starch_kind(cream, "sawdust")


def school(result, question, name):
    found = next(one for one in custard.bench.questions(result) if one.question == question)
    return next(one for one in found.schools if one.school == name)


def test_each_school_says_what_it_does_to_this_mix(anglaise):
    result = custard.assess(anglaise)
    flame, steam = (school(result, "heat", name).consequence for name in ("direct", "steam"))
    assert float(flame.split()[0]) < float(steam.split()[0])
    assert "Lands at {" in school(result, "temper", "ladle").consequence
    assert "more on the flame" in school(result, "temper", "none").consequence


def test_a_cream_off_at_the_first_bubbles_thins_and_one_held_does_not(make):
    """McGee as remembered: an enzyme of the yolk eats what was not boiled."""
    lines = ("whole-milk", "500 ml"), ("egg-yolk", 5), ("white-sugar", "100 g"), ("cornstarch", "40 g")
    result = custard.assess(make("pastry-cream", *lines))
    assert "nothing" in school(result, "boil", "held").consequence
    assert int(school(result, "boil", "first").consequence.split()[1]) > 5


def test_answers_are_the_usual_ones_unless_chosen(anglaise):
    assert custard.bench.answers(anglaise, {}) == custard.bench.usual(anglaise)
    assert custard.bench.answers(anglaise, {"heat": "steam"})["heat"] == "steam"
    assert "boil" not in custard.bench.answers(anglaise, {"boil": "first"})
    for wrong in ({"heat": "volcano"}, {"mood": "good"}):
        with pytest.raises(custard.UnknownName):
            custard.bench.answers(anglaise, wrong)


def test_the_method_follows_the_school(anglaise):
    result = custard.assess(anglaise)
    by = {stage.stage: stage for stage in custard.stove.stages(result, {"heat": "steam", "temper": "none"})}
    assert "simmering" in by["cook"].say
    assert "temper" not in by
    assert "heat: bowl over steam" in by["cook"].ways


@pytest.mark.parametrize(
    ("ingredient", "weight", "measures", "told"),
    [
        ("whole-milk", 515.5, "metric", "500 ml"),
        ("whole-milk", 244, "us", "1 cup"),
        ("whole-milk", 585.9, "imperial", "1 pint"),
        ("white-sugar", 100, "us", "1/2 cup"),
        ("white-sugar", 170.1, "imperial", "6 oz"),
        ("cornstarch", 8, "us", "1 tbsp"),
        ("egg-yolk", 101.4, "au", "6 yolks"),
        ("dark-chocolate-70", 113.4, "us", "4 oz"),
        ("vanilla-extract", 4.9, "metric", "1 tsp"),
    ],
)
def test_weights_are_told_back_as_cooks_write_them(ingredient, weight, measures, told):
    """Cups, pints, ounces and spoons of the four worlds; the weights are those of food tables."""
    assert (
        custard.measures.as_measured(
            weight, custard.larder.ingredient(ingredient), custard.larder.egg_size("EU-M"), measures
        )
        == told
    )


@pytest.mark.parametrize("measures", custard.quantities.MEASURES)
@pytest.mark.parametrize("name", ["whole-milk", "white-sugar", "cornstarch", "honey", "egg-yolk", "salt"])
@pytest.mark.parametrize("weight", [2.0, 17.0, 90.0, 480.0])
def test_what_is_told_weighs_what_it_was(name, measures, weight):
    """Read back, a told measure is the weight again, to half a step of the measure."""
    thing = custard.larder.ingredient(name)
    text = custard.measures.as_measured(
        weight, thing, custard.larder.egg_size("EU-M"), measures
    ).removeprefix("about ")
    if text.startswith("less than"):
        return
    again = custard.quantities.grams(
        custard.quantities.read_quantity(text), thing, custard.larder.egg_size("EU-M"), measures
    )
    assert again == pytest.approx(weight, rel=0.25, abs=1.0)


def test_dishes_hold_what_geometry_says():
    assert custard.bench.dish_ml("rectangle", 20, 10, 5) == pytest.approx(1000)
    assert custard.bench.dish_ml("round", 20, 1, 5) == pytest.approx(np.pi * 500)
    assert custard.bench.dish_ml("cups", 8, 1, 4, 6) == pytest.approx(6 * np.pi * 64)
    with pytest.raises(custard.OutOfRange):
        custard.bench.dish_ml("star", 20, 10, 5)
    with pytest.raises(custard.OutOfRange):
        custard.bench.dish_ml("oval", 20, float("nan"), 5)


def test_a_batch_too_large_for_its_pan_is_split_evenly(anglaise):
    fit = custard.bench.fit_pan(anglaise, 500)
    assert not fit.fits
    assert fit.batches * fit.each.mass_g() == pytest.approx(anglaise.mass_g(), rel=1e-3)
    assert custard.bench.fit_pan(fit.each, 500).fits
    assert custard.bench.fit_pan(anglaise, 5000).batches == 1


def test_topping_up_brings_back_the_weight(anglaise):
    found = custard.bench.top_up(anglaise, 450)
    assert 450 + sum(g for _, g in found.add) == pytest.approx(anglaise.dairy_g())
    with pytest.raises(custard.OutOfRange):
        custard.bench.top_up(anglaise, 5000)


def test_a_cup_beside_a_sauce_is_told_apart_by_its_rate(anglaise):
    cup = custard.assess(replace(anglaise, family="baked-custard"))
    [rate, *_] = custard.bench.differences(custard.assess(anglaise), cup)
    assert rate.startswith("it warms at {0.5 K} a minute instead of {4 K}")
    assert not any("a minute" in said for said in custard.bench.differences(cup, cup))
