"""What a recipe says in figures: kept with the formula, judged by the mix, and the oven it is begun with."""

from __future__ import annotations

import custard
import numpy as np
import pytest
from custard.card import BOUNDS, Card
from custard.errors import BadFormula, OutOfRange

ANGLAISE = {
    "format": "old-spoon/formula", "version": 2, "name": "Plain", "family": "anglaise",
    "lines": [
        {"ingredient": "whole-milk", "amount": "500 ml"},
        {"ingredient": "egg-yolk", "amount": "120 g"},
        {"ingredient": "white-sugar", "amount": "90 g"},
    ],
}  # fmt: skip
CUPS = {
    **ANGLAISE, "family": "baked-custard",
    "lines": [*ANGLAISE["lines"], {"ingredient": "whole-egg", "amount": "2 eggs"}],
}  # fmt: skip


def made(card, content=ANGLAISE):
    return custard.read_formula({**content, "card": card})


@pytest.mark.parametrize(
    "card", [{"cook_to_c": 85.0}, {"oven_c": 150.0, "bath": False, "bake_min": 40.0}, {}]
)
def test_it_comes_back_from_the_open_format_as_it_went(card):
    formula = made(card)
    assert custard.read_formula(custard.write_formula(formula)) == formula
    assert ("card" in custard.write_formula(formula)) == bool(card)


@pytest.mark.parametrize("name", BOUNDS)
def test_what_no_kitchen_does_is_refused_by_its_field(name):
    for value in (BOUNDS[name][1] + 1, float("nan"), -1):
        with pytest.raises((OutOfRange, BadFormula)) as refused:
            made({name: value})
        assert refused.value.field == f"card.{name}"


@pytest.mark.parametrize("card", [{"bath": 1}, {"oven": 150}, [], {"cook_to_c": "hot"}])
def test_what_is_no_card_is_refused(card):
    with pytest.raises(BadFormula):
        made(card)


def test_the_first_version_of_the_format_knows_no_card():
    with pytest.raises(BadFormula):
        made({"cook_to_c": 85}, {**ANGLAISE, "version": 1})


def says(at_c: float) -> str:
    formula = made({"cook_to_c": at_c})
    found = custard.stove.overview(formula, custard.assess(formula)).card
    assert found is not None
    assert found.at_c == at_c
    return found.say


def test_its_temperature_is_judged_by_the_very_mix():
    result = custard.assess(made({}))
    window, stop_c = result.window, result.stop.at_c
    assert "where this mix is to stop" in says(stop_c)
    assert "{2.0 K} past its stop" in says(stop_c + 2)
    assert "under its stop" in says((window.thickens_c + stop_c) / 2)
    assert "{1.0 K} past where this mix curdles" in says(window.curdles_c + 1)
    assert "before this mix thickens" in says(window.thickens_c - 5)
    assert custard.stove.overview(made({}), result).card is None


def test_the_oven_and_the_bath_of_the_recipe_are_what_it_is_begun_and_planned_with():
    def cups(card):
        return custard.stove.unmeasured(custard.assess(made(card, CUPS)), {}).cups

    usual, said = cups({}), cups({"oven_c": 130.0, "bath": False, "cup_ml": 60.0})
    assert (usual.oven_c, usual.bath) == (custard.process.Cups().oven_c, True)
    assert (said.oven_c, said.bath, said.cup_ml) == (130.0, False, 60)
    assert said.count == pytest.approx(2 * usual.count, abs=1)


PASTRY = {
    **ANGLAISE,
    "family": "pastry-cream",
    "lines": [*ANGLAISE["lines"], {"ingredient": "cornstarch", "amount": "40 g"}],
}


@pytest.mark.parametrize(
    ("says_s", "held_s"), [(None, 60), (30, 60), (180, 180)], ids=["silent", "shorter", "longer"]
)
def test_a_boil_is_held_as_long_as_the_recipe_says_and_never_shorter_than_usual(says_s, held_s):
    """What is too short for the amylase of the yolk is not followed: the first bubbles are a school apart."""
    result = custard.assess(made({} if says_s is None else {"boil_s": says_s}, PASTRY))
    assert result.stop.boiled
    assert custard.stove.unmeasured(result, {}).hold_s == held_s
    assert custard.stove.unmeasured(result, {"boil": "first"}).hold_s == 0


def test_a_long_boil_is_seen_in_the_plan_and_in_the_yield():
    usual, long = (custard.assess(made(card, PASTRY)) for card in ({}, {"boil_s": 300}))
    assert long.yield_g < usual.yield_g
    assert long.conditions.parameters.cook.boil_hold_s == 300
    said = [
        next(one.say for one in custard.stove.stages(result) if one.stage == "cook")
        for result in (usual, long)
    ]
    assert said[0].endswith("hold it there a minute.")
    assert said[1].endswith("hold it there 5 minutes.")


def test_the_map_holds_the_boil_as_long_as_the_sauce_in_hand():
    usual, long = (custard.bench.ratio_map(made(card, PASTRY), side=5) for card in ({}, {"boil_s": 300}))
    assert not np.array_equal(usual.stress_pa, long.stress_pa)


def test_a_boil_in_a_method_becomes_a_figure():
    recipe = custard.reading.read(
        "Pastry cream\n500 ml milk\n4 yolks\n100 g sugar\n40 g cornflour\n\nBoil for 3 minutes, whisking."
    )
    assert custard.reading.card_of(recipe).boil_s == 180


def test_a_method_gives_its_figures():
    recipe = custard.reading.read(
        "Cups\n500 ml milk\n4 eggs\n80 g sugar\n\nBake in a water bath in an oven of 150 °C for 40 minutes. "
        "Chill for 6 hours."
    )
    found = custard.reading.card_of(recipe)
    assert found == Card(oven_c=150, bake_min=40, bath=True, chill_h=6)


@pytest.mark.parametrize(
    ("sentence", "found"),
    [
        ("Divide between six 120 ml ramekins.", (6, 120)),
        ("Pour into 8 (4-ounce) ramekins and bake.", (8, 118)),
        ("Répartir dans 6 ramequins de 15 cl.", (6, 150)),
        ("In 4 Förmchen füllen.", (4, None)),
        ("Bake for 40 minutes in the ramekins.", None),
        ("Add 2 cups of milk.", None),
    ],
)
def test_cups_are_read_from_a_method(sentence, found):
    recipe = custard.reading.read(f"Cups\n500 ml milk\n4 eggs\n80 g sugar\n\nMethod: {sentence}")
    said = {one.what: one.value for one in recipe.settings}
    assert said.get("cups") == (None if found is None else found[0])
    assert custard.reading.card_of(recipe).cup_ml == (None if found is None else found[1])
