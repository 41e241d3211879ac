"""Formulas in and out, scaled, and refused."""

from __future__ import annotations

import copy

import custard
import pytest

PERRY = {"name": "dry perry", "composition": {"water": 92, "ethanol": 5, "other_sugars": 2.5, "acid": 0.5}}
GOOD = {
    "format": "old-spoon/formula",
    "version": 1,
    "name": "Bay leaf anglaise",
    "family": "anglaise",
    "eggs": "EU-M",
    "measures": "metric",
    "lines": [
        {"ingredient": "whole-milk", "amount": "500 ml", "note": "infused with two bay leaves"},
        {"ingredient": "egg-yolk", "amount": "6"},
        {"ingredient": "white-sugar", "amount": "90 g"},
        {"ingredient": PERRY, "amount": "20 ml", "when": "off the heat"},
    ],
}


def changed(path, value):
    data = copy.deepcopy(GOOD)
    target = data
    for key in path[:-1]:
        target = target[key]
    target[path[-1]] = value
    return data


def test_round_trip_keeps_everything():
    formula = custard.read_formula(GOOD)
    written = custard.write_formula(formula)
    assert custard.write_formula(custard.read_formula(written)) == written
    assert [line["amount"] for line in written["lines"]] == ["500 ml", "6", "90 g", "20 ml"]
    assert written["lines"][3]["when"] == "off the heat"


@pytest.mark.parametrize(
    ("path", "value", "field"),
    [
        (("format",), "other", "format"),
        (("version",), 3, "version"),
        (("version",), True, "version"),
        (("name",), " ", "name"),
        (("name",), 7, "name"),
        (("family",), "soup", "family"),
        (("eggs",), "goose", "eggs"),
        (("measures",), "troy", "measures"),
        (("lines",), [], "lines"),
        (("lines",), "milk", "lines"),
        (("colour",), "red", "colour"),
        (("lines", 0, "ingredient"), "whole milk", "lines[0].ingredient"),
        (("lines", 1, "amount"), "3 blobs", "lines[1].amount"),
        (("lines", 1, "amount"), None, "lines[1].amount"),
        (("lines", 1, "note"), 5, "lines[1].note"),
        (("lines", 1, "colour"), 5, "lines[1].colour"),
        (("lines", 1, "when"), "later", "lines[1].when"),
        (("lines", 1), "milk", "lines[1]"),
        (("lines", 3, "ingredient", "composition", "water"), 80, "lines[3].ingredient.composition"),
        (("lines", 3, "ingredient", "composition", "gold"), 1, "lines[3].ingredient.composition.gold"),
        (("lines", 3, "ingredient", "composition", "water"), -1, "lines[3].ingredient.composition.water"),
        (("lines", 3, "ingredient", "colour"), 1, "lines[3].ingredient.colour"),
    ],
)
def test_bad_input_names_the_place(path, value, field):
    with pytest.raises(custard.CustardError) as refused:
        custard.read_formula(changed(path, value))
    assert refused.value.field == field


def test_the_closest_ingredient_is_offered():
    with pytest.raises(custard.UnknownName, match="whole-milk"):
        custard.read_formula(changed(("lines", 0, "ingredient"), "whole milk"))


def test_a_count_too_high_names_its_line():
    formula = custard.read_formula(changed(("lines", 1, "amount"), "10000"))
    with pytest.raises(custard.OutOfRange, match="2000") as refused:
        custard.assess(formula)
    assert refused.value.field == "lines[1].amount"


def test_scaling_by_yolks_scales_every_line(anglaise):
    bigger = anglaise.for_yolks(9)
    assert bigger.yolks() == pytest.approx(9)
    assert bigger.mass_g() == pytest.approx(1.5 * anglaise.mass_g(), rel=1e-3)
    assert [line.amount for line in bigger.lines] == ["750 ml", "9", "135 g"]


def test_scaling_by_mass_and_dairy(anglaise):
    assert anglaise.for_mass(900).mass_g() == pytest.approx(900, rel=1e-3)
    assert anglaise.for_dairy(1031).lines[0].quantity.number == pytest.approx(1000, rel=1e-3)


def test_portions_are_what_reaches_the_plate(anglaise):
    scaled = custard.bench.for_portions(anglaise, 12, 60)
    assert custard.assess(scaled).yield_g == pytest.approx(720, rel=2e-3)
    assert scaled.mass_g() > 720


def test_a_dish_is_filled(anglaise):
    scaled = custard.bench.for_dish(anglaise, 1500)
    result = custard.assess(scaled)
    assert 1000 * result.yield_g / result.whole.density_kg_m3(20) == pytest.approx(1500, rel=2e-3)


@pytest.mark.parametrize("yolks", [0, -1, 1e9, float("nan"), float("inf")])
def test_impossible_sizes_are_refused(anglaise, yolks):
    with pytest.raises(custard.OutOfRange):
        anglaise.for_yolks(yolks)


def test_no_yolk_cannot_be_scaled_by_yolks(make):
    with pytest.raises(custard.Impossible, match="mass"):
        make("baked-custard", ("whole-egg", 2), ("whole-milk", "300 ml")).for_yolks(4)


def test_what_joins_off_the_heat_does_not_move_the_window(make, anglaise):
    data = custard.write_formula(anglaise)
    data["lines"].append({"ingredient": "brandy-40", "amount": "30 ml", "when": "off the heat"})
    later = custard.assess(custard.read_formula(data))
    data["lines"][-1]["when"] = "in the pan"
    cooked = custard.assess(custard.read_formula(data))
    plain = custard.assess(anglaise)
    assert later.window == plain.window
    assert cooked.window.thickens_c < plain.window.thickens_c
    assert later.whole.mass_g == cooked.whole.mass_g
    assert later.allergens[-1] == "alcohol"


def test_whites_left_are_those_of_the_yolks(make, anglaise):
    assert custard.assess(anglaise).whites_left_g == pytest.approx(6 * 35)
    used = make("sabayon", ("egg-yolk", 4), ("egg-white", 4), ("white-sugar", "80 g"))
    assert custard.assess(used).whites_left_g == pytest.approx(0, abs=1)


@pytest.mark.parametrize("height_m", [-490, 0, 12, 850, 1500, 3000, 5990])
def test_a_height_is_told_by_what_water_boils_at(height_m):
    assert custard.altitude_boiling_at(custard.water_boils_at(height_m)) == pytest.approx(height_m, abs=0.1)


@pytest.mark.parametrize("celsius", [60, 79.9, 101.7, 212, float("nan")])
def test_where_nobody_cooks_water_does_not_boil(celsius):
    with pytest.raises(custard.OutOfRange, match="must be from"):
        custard.altitude_boiling_at(celsius)


@pytest.mark.parametrize("family", custard.larder.all_families())
def test_every_family_begins_with_a_plain_formula_of_its_own(family):
    lines = [{"ingredient": name, "amount": amount} for name, amount in custard.larder.patterns()[family]]
    content = {"format": "old-spoon/formula", "version": 1, "name": "plain", "family": family, "lines": lines}
    result = custard.assess(custard.read_formula(content))
    assert result.way.name == custard.larder.all_families()[family].way.name
    assert result.window.nappe_c is not None
