"""Recipes as they were met at first sight: lists and methods on one line, numbers without a unit."""

from __future__ import annotations

import pytest
from custard.reading import read


@pytest.mark.parametrize(
    ("text", "ids", "step"),
    [
        (
            "Flan: 1 can (12 oz) evaporated milk, 1 can (14 oz) sweetened condensed milk, 5 eggs. "
            "Blend all of it. Bake in a water bath at 350F for 60 min.",
            ["evaporated-milk", "condensed-milk", "whole-egg"],
            "Blend all of it.",
        ),
        (
            "Natillas\nIngredientes para 4: 1/2 l de leche, 4 yemas, 100 gr de azúcar.\nHervir la leche.",
            ["whole-milk", "egg-yolk", "white-sugar"],
            "Hervir la leche.",
        ),
        (
            "Bavarois\nJaunes 80 g\nSucre 90 g\nLait 150 g\n"
            "Anglaise à 83°C avec lait, jaunes, sucre. Ajouter la gélatine, purée. Incorporer la crème.",
            ["egg-yolk", "white-sugar", "whole-milk"],
            "Anglaise à 83°C avec lait, jaunes, sucre.",
        ),
    ],
)
def test_a_list_and_a_method_on_one_line_are_told_apart_and_nothing_is_lost(text, ids, step):
    recipe = read(text)
    assert [line.ingredient for line in recipe.lines] == ids
    assert step in [one.text for one in recipe.method]


def test_many_yolks_without_a_unit_are_never_sure_and_in_grams_where_they_would_outweigh_the_rest():
    table = read("Base\nMilk 520 g\nDextrose 40\nEgg yolks 60")
    assert [line.grams for line in table.lines] == [520, 40, 60]
    [line] = [one for one in read("Base\n5 l milk\n40 egg yolks").lines if one.ingredient == "egg-yolk"]
    assert line.amount == "40"
    assert (line.sure, [one.amount for one in line.options][:1]) == (False, ["40 g"])


def test_chocolate_under_a_heading_to_finish_is_poured_over_as_the_method_says():
    recipe = read(
        "Crémeux\n250 g cream\n100 g yolks\n40 g sugar\nFor finishing:\n300 g milk chocolate\n\n"
        "Make an anglaise at 84°C, pour over chocolate in 3 goes."
    )
    assert recipe.lines[-1].when == "under it"


def test_bare_numbers_below_one_are_kilos_and_never_a_part_of_an_egg():
    recipe = read("Gelato\nlatte intero 0,560\ntuorlo 0,080\nsaccarosio 0,150")
    assert [line.grams for line in recipe.lines] == [560, 80, 150]
    assert not any(line.sure for line in recipe.lines)
    assert read("Plain\n500 ml milk\n½ egg yolk").lines[1].amount == "0.5"
    # A little salt in a list of grams is no 700 g.
    salt = read("Base\nLatte 500\nTuorli 100 g\nSale 0,7").lines[2]
    assert (salt.ingredient, salt.grams) == ("salt", None)


def test_a_numbered_step_without_an_amount_and_a_method_with_plus_signs_are_no_lines():
    recipe = read(
        "Leche frita\n1 litro de leche entera\n4 yemas\nElaboración\n"
        "1. Infusionamos la leche con canela y piel.\n2. Mezclamos todo."
    )
    assert len(recipe.lines) == 2
    recipe = read(
        "Custard\n600 ml milk\n6 yolks\nMethod: infuse cardamom in milk + cream 30 min. Yolks + sugar."
    )
    assert [line.ingredient for line in recipe.lines] == ["whole-milk", "egg-yolk"]
