"""When things join, by recipes as they were met at first sight."""

from __future__ import annotations

import pytest
from custard.reading import read


def test_chocolate_under_a_heading_to_finish_is_poured_over_as_the_method_says():
    recipe = read(
        "Crémeux\n250 g cream\n100 g yolks\n40 g sugar\nFor finishing:\n300 g milk chocolate\n\n"
        "Make an anglaise at 84°C, pour over chocolate in 3 goes."
    )
    assert recipe.lines[-1].when == "under it"


@pytest.mark.parametrize(
    ("method", "when"),
    [
        ("Simmer the milk until thick. Off the heat stir in the yolks.", "off the heat"),
        ("Simmer the milk. Beat yolks with cream, stir in off the heat.", "off the heat"),
        ("Hervir la leche. Fuera del fuego, añadir las yemas.", "off the heat"),
        (
            "Take it off the heat, pour onto the yolks. Return and cook to 82°C.",
            "with the yolks",
        ),
        (
            "Off the heat stir in the yolks. Bake in cups at 150°C for 30 minutes.",
            "with the yolks",
        ),
        ("Simmer the milk. Cook with the yolks to 82°C. Beat in butter off the heat.", "with the yolks"),
    ],
)
def test_yolks_that_join_off_the_heat_and_are_not_heated_again_are_raw(method, when):
    """A label must say so: it errs to the safe side."""
    recipe = read(f"Pudding\n500 ml milk\n100 ml cream\n3 yolks\n20 g butter\n\n{method}")
    assert recipe.lines[2].when == when
    assert recipe.lines[2].sure == (when != "off the heat"), "a person is asked to look"


def test_whites_under_their_own_heading_or_whipped_do_not_cook_with_the_sauce():
    island = read(
        "Île flottante\nPour la crème :\n½ l de lait\n5 jaunes\nPour les blancs :\n5 blancs\n40 g de sucre"
    )
    assert [line.when for line in island.lines[2:]] == ["on top", "on top"]
    pudding = read("Flammeri\n750 ml Milch\n2 Eigelb\n2 Eiweiß, steif geschlagen")
    assert pudding.lines[2].when == "folded when cool"


def test_pastry_and_what_greases_the_tin_are_no_part_of_the_custard():
    recipe = read(
        "Custard tarts\nPastry: 225 g plain flour, 125 g butter, 1 egg\nFilling: 700 ml milk, 7 yolks\n"
        "20 g butter for greasing"
    )
    assert [line.when for line in recipe.lines[:3]] == ["on top"] * 3
    assert recipe.lines[-1].when == "on top"
    assert [line.when for line in recipe.lines[3:5]] == ["in the dairy", "with the yolks"]


def test_a_heading_that_may_be_of_pastry_is_of_the_custard_where_all_eggs_stand_under_it():
    recipe = read("Pudim\nCalda:\n200 g açúcar\nMassa:\n500 ml leite\n4 ovos\n150 g açúcar")
    assert [line.when for line in recipe.lines[1:3]] == ["in the dairy", "with the yolks"]


def test_a_part_called_cream_ends_the_part_before_it():
    recipe = read("Ingredients\nCaramel: 250 g sugar, 80 g water\nCream: 1 L milk, 6 eggs, 200 g sugar")
    assert [line.when for line in recipe.lines] == [
        "on top", "on top", "in the dairy", "with the yolks", "in the pan",
    ]  # fmt: skip


def test_cream_behind_an_and_is_a_thing_and_no_verb():
    recipe = read(
        "Eggnog\n12 yolks\n1 l milk\n700 ml double cream\n\nCook yolks, milk to 71C. Cool. Add cream."
    )
    assert recipe.lines[2].when == "folded when cool"
    recipe = read(
        "Eggnog\n12 yolks\n1 l milk\n700 ml double cream\n\nCook yolks, milk to 71C. Cool. Add rum and cream."
    )
    assert recipe.lines[2].when == "folded when cool"


def test_sugar_for_the_caramel_lines_the_cups_where_the_custard_has_its_own():
    flan = read(
        "Flan\n500 ml leche\n4 huevos\n125 g azúcar\n100 g de azúcar para el caramelo\n\n"
        "Hacer un caramelo y repartir en 6 flaneras. Hornear al baño maría a 160 ºC 45 minutos."
    )
    assert [line.when for line in flan.lines[2:]] == ["in the pan", "on top"]
    assert {(one.what, one.value) for one in flan.settings} >= {("cups", 6), ("bake_min", 45)}
    pots = read(
        "Caramel pots\n200 g sugar (for caramel)\n400 ml cream\n7 yolks\n\nBake at 130 °C for 50 min."
    )
    assert pots.lines[0].when == "in the pan"
