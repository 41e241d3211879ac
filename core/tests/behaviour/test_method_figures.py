"""Temperatures, minutes and baths of methods as they were met at first sight."""

from __future__ import annotations

import pytest
from custard.card import Card
from custard.reading import card_of, read


def test_a_syrup_an_oven_and_a_bath_of_steam_are_not_taken_for_the_sauce():
    def says(method):
        recipe = read(f"Cream\n500 ml milk\n6 yolks\n100 g sugar\n\n{method}")
        return {(one.what, one.value) for one in recipe.settings if one.what != "sugar"}

    assert says("Boil the sugar to 108 °C.") == set()
    assert says("Whisk in a bowl over simmering water for 10 min.") == {("heat", "steam")}
    assert says("Pour over the pastry and cook 45 min at 180°C.") == {("oven_c", 180), ("bake_min", 45)}
    assert says("Infuse, strain, cook to 80, pass.") >= {("cook_to_c", 80)}
    assert says("Reduce the syrup to 80 g.") == set()


def test_cups_that_are_steamed_set_like_a_baked_custard():
    recipe = read("Set custards\n400 ml coconut cream\n4 eggs\n\nSteam gently 25 minutes in small bowls.")
    assert recipe.family == "baked-custard"
    assert {(one.what, one.value) for one in recipe.settings} == {("bath", "yes"), ("bake_min", 25)}


@pytest.mark.parametrize(
    ("method", "figures"),
    [
        ("Heat the dairy to 165 degrees. Whisk the yolks. Cook to 180 degrees F.", {"cook_to_c": 82.2}),
        ("Bring the milk to 90°C, pour on the yolks and cook to 83°C.", {"cook_to_c": 83}),
        ("Bake at 325 in a water bath for an hour.", {"oven_c": 162.8, "bake_min": 60, "bath": True}),
        ("Assar em banho-maria a 180°C por 1h30.", {"oven_c": 180, "bake_min": 90, "bath": True}),
        ("325°F, pan of water, 1 hour 20.", {"oven_c": 162.8, "bake_min": 80, "bath": True}),
    ],
)
def test_figures_of_methods_as_they_were_met(method, figures):
    card = card_of(read(f"Custard\n500 ml milk\n6 yolks\n100 g sugar\n\n{method}"))
    assert card == Card(**figures)


def test_degrees_of_a_low_oven_and_of_a_sauce_without_a_letter():
    def card(method):
        return card_of(read(f"Cream\n2 cups milk\n6 yolks\n100 g sugar\n\n{method}"))

    assert card("Temper. Cook to 175°. Strain.").cook_to_c == pytest.approx(79.4)
    assert card("Cuisson 95°C 45 minutes four ventilé.") == Card(oven_c=95, bake_min=45)


def test_the_warmth_of_the_dairy_is_not_what_it_is_cooked_to():
    tart = read(
        "Tart\n500 ml cream\n8 yolks\n\nWarm the cream to 60°C, whisk onto yolks. Bake at 130°C 40 minutes."
    )
    assert card_of(tart) == Card(oven_c=130, bake_min=40)
    cups = read("Crème\n400 ml Sahne\n5 Eigelb\n\nIm Wasserbad bei 120 °C etwa 50 Minuten stocken lassen.")
    assert card_of(cups) == Card(oven_c=120, bake_min=50, bath=True)
    cold = read("Ice\n500 ml cream\n5 yolks\n\nPour the cream into a bowl over ice. Cook to 82°C.")
    assert "heat" not in {one.what for one in cold.settings}


def test_a_sentence_with_a_temperature_is_no_line():
    recipe = read("Vanillesauce\n500 ml Milch\n4 Eigelb\n\nMilch aufkochen.\nBei 80 °C zur Rose abziehen.")
    assert len(recipe.lines) == 2


def test_the_boil_of_the_milk_alone_is_not_that_of_the_sauce():
    recipe = read(
        "Natillas\n750 ml leche\n6 yemas\n60 g maicena\n\nHervir la leche 5 minutos. Batir las yemas con la "
        "maicena. Mezclar, cocer 3 minutos desde que hierva."
    )
    assert card_of(recipe).boil_s == 180
