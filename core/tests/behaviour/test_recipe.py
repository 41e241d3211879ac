"""Recipes in and out: nothing is lost on the way out, nothing guessed on the way in."""

from __future__ import annotations

import csv
import io
import json

import custard
import pytest
from custard.formats.recipe_jsonld import read_recipe, write_recipe
from custard.larder.tables import rows


def lines(*texts, **more):
    recipe = {"@type": "Recipe", "name": "A custard", "recipeIngredient": list(texts)}
    return read_recipe(recipe, **more).lines


def test_our_own_recipe_comes_back_whole(make):
    formula = make("cremeux", ("whole-milk", "1 1/2 cups"), ("egg-yolk", 5), ("dark-chocolate-70", "120 g"))
    data = json.loads(json.dumps(write_recipe(formula, ("Stir.",), "4 plates")))
    assert read_recipe(data).formula == formula
    assert data["recipeIngredient"][0] == "1 1/2 cups whole milk"


def test_without_our_part_the_lines_are_still_understood(make):
    formula = make("anglaise", ("whole-milk", "500 ml"), ("egg-yolk", 6), ("white-sugar", "90 g"))
    data = {k: v for k, v in write_recipe(formula).items() if k != "isBasedOn"}
    found = read_recipe(data)
    assert found.formula is None
    assert [(line.ingredient, line.amount, line.why) for line in found.lines] == [
        ("whole-milk", "500 ml", ""),
        ("egg-yolk", "6", ""),
        ("white-sugar", "90 g", ""),
    ]


@pytest.mark.parametrize(
    ("text", "ingredient", "amount"),
    [
        ("2 cups whole milk", "whole-milk", "2 cups"),
        ("½ cup heavy cream (cold)", "whipping-cream-36", "½ cup"),
        ("6 large egg yolks", "egg-yolk", "6"),
        ("3 tbsp of cornflour, sifted", "cornstarch", "3 tbsp"),
        ("1 vanilla bean", "vanilla-pod", "1"),
    ],
)
def test_a_clear_line_is_read(text, ingredient, amount):
    [line] = lines(text)
    assert (line.ingredient, line.amount, line.why) == (ingredient, amount, "")


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("1 pint milk", "which ingredient"),
        ("2-3 tbsp honey", "range"),
        ("2 to 3 tbsp honey", "range"),
        ("a little salt", "how much"),
        ("3 egg", ""),
        ("2 cups egg yolks of happiness", "which ingredient"),
        ("4 whole milk", "no unit"),
        ("3 sticks honey", "butter"),
    ],
)
def test_what_is_not_clear_is_asked(text, why):
    [line] = lines(text)
    assert why in line.why
    assert bool(line.why) == bool(why)


def test_brackets_and_what_follows_a_comma_are_kept_as_a_note():
    [line] = lines("1 cup (240 ml) heavy cream, cold, well shaken")
    assert (line.ingredient, line.amount) == ("whipping-cream-36", "1 cup")
    assert line.note == "240 ml, cold, well shaken"


def test_a_hostile_recipe_is_read_without_what_cannot_be_printed():
    deep: object = "Stir."
    for _ in range(900):
        deep = [deep]
    found = read_recipe(
        {
            "@type": "Recipe",
            "name": "Tea\u0000\ud800 custard",
            "recipeIngredient": ["6\u0000 egg yolks"],
            "recipeInstructions": ["Wait\ud800.", deep],
            "recipeYield": [{"a": 1}],
            "isBasedOn": {
                "encodingFormat": "application/vnd.old-spoon.formula+json",
                "text": "[" * 100_000,
            },
        }
    )
    assert (found.name, found.serves, found.method) == ("Tea custard", "", ("Wait.",))
    assert found.lines[0].text == "6 egg yolks"
    assert found.formula is None


def test_what_it_could_mean_is_offered_nearest_first():
    [line] = lines("500 ml milk")
    assert not line.ingredient
    assert {"whole-milk", "skim-milk"} <= set(line.candidates)


@pytest.mark.parametrize(
    "data",
    [None, 5, [], {}, {"@type": "Recipe"}, {"@type": "Recipe", "recipeIngredient": [3]}, [[[[[[]]]]]]],
)
def test_what_is_no_recipe_is_refused(data):
    with pytest.raises(custard.CustardError):
        read_recipe(data)


def test_a_broken_formula_inside_a_recipe_is_left_aside():
    recipe = {
        "@type": "Recipe",
        "name": "x",
        "recipeIngredient": ["6 egg yolks"],
        "isBasedOn": {"encodingFormat": "application/vnd.old-spoon.formula+json", "text": "{}"},
    }
    assert read_recipe(recipe).formula is None


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


def test_every_known_name_means_a_real_ingredient():
    names = [name for row in rows("names") for name in row["names"].split("|")]
    assert {row["id"] for row in rows("names")} <= set(custard.larder.all_ingredients())
    assert len(names) == len(set(names))
