"""Recipes as they were met at first sight: their lists, tables, titles and single lines."""

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


def read_as(text: str) -> list[tuple[str, float | None]]:
    return [(line.ingredient, line.grams and round(line.grams)) for line in read(text).lines]


@pytest.mark.parametrize(
    "listed", ["250 g milk 250 g cream 35% 100 g egg yolk", "milk 250 g cream 35% 250 g egg yolk 100 g"]
)
def test_things_that_nothing_sets_apart_are_lines_of_their_own(listed):
    found = read_as(f"Crémeux\n{listed}\nCook to 84°C.")
    assert found == [("whole-milk", 250), ("whipping-cream-35", 250), ("egg-yolk", 100)]


def test_a_running_recipe_that_begins_with_take_gives_all_its_things():
    recipe = read(
        "Take a litre of milk and half a litre of cream, bring them to scalding with a bay leaf, and pour on "
        "the yolks of six eggs beaten with three ounces of sugar. Strain and add a tablespoon of rum."
    )
    assert [line.ingredient for line in recipe.lines] == [
        "whole-milk", "whipping-cream-36", "bay-leaf", "egg-yolk", "white-sugar", "rum-40",
    ]  # fmt: skip
    assert recipe.lines[3].amount == "6"
    assert recipe.family == "anglaise"


@pytest.mark.parametrize("separator", [";", ","])
def test_the_head_of_a_column_gives_every_bare_number_its_unit(separator):
    rows = ["Ingredient;g", "whole milk 3.6%;561", "yolk;25", "LBG;1.5"]
    found = read_as("Lab sheet\n" + "\n".join(row.replace(";", separator) for row in rows))
    assert found == [("whole-milk", 561), ("egg-yolk", 25), ("locust-bean", 2)]


def test_cubic_centimetres_are_no_spoons_and_degrees_no_cups():
    assert read_as("Purin\n400 cc milk\n3 eggs")[0] == ("whole-milk", pytest.approx(412, abs=2))
    assert read_as("Crème\n2 cc de vanille liquide\n50 cl de lait")[0][1] == 10
    recipe = read(
        "Custard\n470 ml double cream\n6 yolks\n150C fan? no, 140 in a bain marie 35 mins til wobbly"
    )
    assert len(recipe.lines) == 2
    assert {(one.what, one.value) for one in recipe.settings} >= {("oven_c", 150), ("bath", "yes")}


def test_brackets_that_name_another_thing_do_not_weigh_this_one():
    bread = read("Pudding\n300 ml milk\n4 eggs\n6 slices white bread, buttered (about 50 g butter)").lines[2]
    assert (bread.ingredient, bread.amount, bread.sure) == ("bread-white", "210 g", False)
    yolks = read("Custard\n500 ml milk\n6 yolks (about 110 g yolk)").lines[1]
    assert yolks.grams == 110


def test_sheets_in_a_list_of_grams_are_weighed():
    assert read_as("Bavarois, tout en g\nLait 500\nJaunes 120\nGélatine feuilles 10 (5 feuilles)")[2][1] == 10


@pytest.mark.parametrize(
    ("title", "name", "serves"),
    [
        ("Crème anglaise pour 6 personnes", "Crème anglaise", "6 personnes"),
        ("Zabaione classico per 4", "Zabaione classico", "4"),
        ("Bayerische Creme für 8 Portionen", "Bayerische Creme", "8 Portionen"),
        ("creme brulee (4)", "creme brulee", "4"),
        ("Custard for a tart", "Custard for a tart", ""),
        ("Custard no. 5", "Custard no. 5", ""),
    ],
)
def test_a_title_says_for_how_many_it_is(title, name, serves):
    recipe = read(f"{title}\n500 ml milk\n5 egg yolks")
    assert (recipe.name, recipe.serves) == (name, serves)


def test_zest_says_its_fruit_behind_a_comma():
    assert read_as("Custard\n500 ml milk\nlemon zest, 2 lemons") == [("whole-milk", 516), ("citrus-zest", 10)]


def test_numbered_steps_that_list_things_are_steps():
    recipe = read(
        "Ice cream\n480 ml cream\n6 yolks\n1. Warm the cream, milk, half the sugar and the vanilla bean."
    )
    assert [line.ingredient for line in recipe.lines] == ["whipping-cream-36", "egg-yolk"]
    recipe = read(
        "Pudding\n500 ml Milch\n40 g Stärke\n2 Eigelb\n\n5 EL Milch mit Stärke und Eigelb glatt rühren."
    )
    assert len(recipe.lines) == 3


def test_a_line_with_much_behind_it_is_not_lost():
    text = "Anglaise\nwhole milk 250 mL\negg yolks 100 g\ncream liqueur 60 mL (added at the end, off heat)"
    assert read_as(text)[2][0] == "cream-liqueur-17"
    text = "Cups\nCustard: 600 ml semi-skimmed milk, 5 eggs, thumb of ginger, sliced\nBake at 150 °C."
    assert read_as(text)[2] == ("fresh-ginger", 15)


def test_a_column_of_shares_is_no_fat_and_bloom_no_weight():
    rows = (
        "Whole milk 1000 g 100%",
        "Sugar 220 g 22%",
        "Whipped cream (35%) 300 g 30%",
        "Egg yolk 200 g 20%",
    )
    found = read_as("Cream\nFor 25 eclairs.\n" + "\n".join(rows))
    assert found == [
        ("whole-milk", 1000),
        ("white-sugar", 220),
        ("whipping-cream-35", 300),
        ("egg-yolk", 200),
    ]
    # One share behind an amount is of fat.
    assert read_as("Cream\nCream 500 g 35%\nEgg yolk 100 g")[0] == ("whipping-cream-35", 500)
    assert read_as("Cream\nLait 500 g\nGélatine poudre 200 bloom 3g")[1] == ("gelatine-powder-200", 3)


def test_millilitres_go_before_ounces_and_sticks_are_butter_or_spice():
    assert read_as("Custard\nDouble cream: 5 fl oz / 150 ml\n4 yolks")[0] == ("double-cream-48", 147)
    assert read_as("Custard\nmilk 300 g\ncinnamon 1 stick")[1] == ("whole-spice", 4)


@pytest.mark.parametrize(
    ("text", "line", "found"),
    [
        ("10 yolks from large eggs (about 3/4 cup)", 1, ("egg-yolk", 169)),
        ("1/3 c. all-purpose flour", 1, ("wheat-flour", 42)),
        ("4 citrons (jus) soit 16 cl", 1, ("lemon-juice", 165)),
        ("yolk past.", 1, ("egg-yolk", None)),
        ("3/4 pint milk (semi)", 1, ("milk-2-percent", 440)),
    ],
)
def test_lines_as_they_were_met(text, line, found):
    assert read_as(f"Custard\n500 ml cream\n{text}\n100 g sugar")[line] == found


def test_a_title_a_list_and_a_method_on_one_line():
    recipe = read(
        "Rezept von Oma: Weinschaum. Man nehme 6 Dotter, 150 g Zucker, 1/4 l Weißwein, etwas Zitronenschale. "
        "Über Dampf dick schlagen."
    )
    ids = [line.ingredient for line in recipe.lines]
    assert ids == ["egg-yolk", "white-sugar", "white-wine-12", "citrus-zest"]
    assert recipe.family == "sabayon"


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("5 Bl. Gelatine", ("gelatine-sheets-200", 10)),
        ("1 colher (chá) de essência de baunilha", ("vanilla-aroma", 5)),
        ("1/2 xícara (chá) de açúcar", ("white-sugar", 101)),
        ("about 18 raspberries", ("soft-fruit", 72)),
        ("una copita de whisky", ("whisky-40", 38)),
        ("3 pandan leaves", ("fresh-herbs", 1)),
        ("gelatine mass 1:5 — 24 g", ("gelatine-mass-1-5", 24)),
        ("cream 35 400 g", ("whipping-cream-35", 400)),
    ],
)
def test_more_lines_as_they_were_met(text, found):
    assert read_as(f"Custard\n500 ml milk\n{text}\n100 g sugar")[1] == found


def test_zest_and_juice_of_one_fruit_are_two_lines_in_either_order():
    for line in ("zest and juice of 2 lemons", "juice and grated zest of 2 lemons"):
        assert sorted(read_as(f"Custard\n500 ml milk\n{line}")[1:]) == [
            ("citrus-zest", 10),
            ("lemon-juice", 90),
        ]


def test_a_table_whose_column_of_names_has_no_head_is_in_the_unit_of_the_other():
    found = read_as("Gelato\n| | g | % |\n| whole milk | 580 | 58 |\n| yolks | 50 | 5 |\n| salt | 2 | 0.2 |")
    assert found == [("whole-milk", 580), ("egg-yolk", 50), ("salt", 2)]
    assert read_as("Namelaka\nmilk 200\nsalt 2\n(grams)")[1] == ("salt", 2)


def test_a_running_recipe_names_peel_and_spice_too_and_a_year_serves_nobody():
    recipe = read(
        "Custard (1880)\nTo a quart of new milk put a stick of cinnamon and the peel of a lemon; boil; beat "
        "the yolks of eight eggs with a quarter of a pound of sugar; set it on the fire till it thickens."
    )
    assert [line.ingredient for line in recipe.lines] == [
        "whole-milk", "whole-spice", "citrus-zest", "egg-yolk", "white-sugar",
    ]  # fmt: skip
    assert recipe.serves == ""


def test_columns_may_be_set_apart_by_strokes():
    rows = "ITEM / AMOUNT / UNIT\nMilk, whole / 2 / qt\nSugar / 2 / lb\nYolks / 48 / ea"
    lines = read(f"Vanilla sauce\n{rows}").lines
    assert [(line.ingredient, line.amount) for line in lines] == [
        ("whole-milk", "2 quart"), ("white-sugar", "2 lb"), ("egg-yolk", "48"),
    ]  # fmt: skip


@pytest.mark.parametrize("text", ["4 Eier (nur Eigelb)", "4 eggs, yolks only", "4 œufs (jaunes uniquement)"])
def test_eggs_of_which_only_the_yolks_are_used_are_yolks(text):
    assert read_as(f"Cream\n500 ml milk\n{text}\n80 g sugar")[1] == ("egg-yolk", 68)
    assert read_as("Cream\n500 ml milk\n4 eggs")[1][0] == "whole-egg"
