"""A formula out as a recipe and in again; the slip for a spreadsheet."""

from __future__ import annotations

import csv
import io
import json

import custard
import pytest
from custard.formats import write_recipe
from custard.reading import read


def given(*lines, **more):
    return json.dumps({"@type": "Recipe", "name": "A custard", "recipeIngredient": list(lines), **more})


def test_our_own_recipe_comes_back_whole(make):
    formula = make("cremeux", ("whole-milk", "1 1/2 cups"), ("egg-yolk", 5), ("dark-chocolate-70", "120 g"))
    data = write_recipe(formula, ("Stir.",), "4 plates")
    assert read(json.dumps(data)).formula == formula
    assert data["recipeIngredient"][0] == "1 1/2 cups whole milk"


def test_without_our_part_the_lines_are_still_understood(make):
    formula = make("anglaise", ("whole-milk", "500 ml"), ("egg-yolk", 6), ("white-sugar", "90 g"))
    data = {k: v for k, v in write_recipe(formula).items() if k != "isBasedOn"}
    found = read(json.dumps(data))
    assert found.formula is None
    assert [(line.ingredient, line.amount, line.sure) for line in found.lines] == [
        ("whole-milk", "500 ml", True),
        ("egg-yolk", "6", True),
        ("white-sugar", "90 g", True),
    ]


@pytest.mark.parametrize(
    ("wrap", "name"),
    [
        (lambda recipe: recipe, "A custard"),
        (lambda recipe: [[recipe]], "A custard"),
        (lambda recipe: {"@graph": [{"@type": "WebPage"}, recipe]}, "A custard"),
    ],
)
def test_a_recipe_is_found_in_lists_and_graphs(wrap, name):
    recipe = json.loads(
        given("6 egg yolks", recipeYield=["4 plates"], recipeInstructions=[{"text": "Stir."}])
    )
    found = read(json.dumps(wrap(recipe)))
    assert (found.name, found.serves, found.method[0].text) == (name, "4 plates", "Stir.")


@pytest.mark.parametrize("text", ["5", "[]", "{}", '{"@type": "Recipe"}', given(3), "[[[[[[]]]]]]"])
def test_what_is_no_recipe_is_refused(text):
    with pytest.raises(custard.CustardError):
        read(text)


def test_a_broken_formula_inside_a_recipe_is_left_aside():
    kind = "application/vnd.old-spoon.formula+json"
    assert read(given("6 egg yolks", isBasedOn={"encodingFormat": kind, "text": "{}"})).formula is None


def test_the_slip_is_a_table_a_spreadsheet_does_not_run(make):
    formula = make("anglaise", ("whole-milk", "500 ml"), ("egg-yolk", 6))

    def slip(of):
        return custard.formats.write_slip(of, custard.bench.weighings(of))

    first, second = list(csv.DictReader(io.StringIO(slip(formula))))
    assert (first["grams"], first["into"]) == ("515.50", "pan")
    assert (second["tare grams"], second["into"]) == ("101.40", "yolk bowl")
    own = custard.read_formula(
        {
            **custard.write_formula(formula),
            "lines": [{"ingredient": {"name": "=1+1", "composition": {"water": 100}}, "amount": "5 g"}],
        }
    )
    assert "'=1+1" in slip(own)
