"""The larder: every row adds up, every word leads to one ingredient or to a choice."""

from __future__ import annotations

from collections import Counter

import custard
import pytest
from custard.larder.tables import rows
from custard.reading.tokens import fold
from custard.reading.word_table import larder_words
from custard.reading.words import LANGUAGES

LARDER = custard.larder.all_ingredients()
CHOICES = larder_words().choices


def test_the_larder_has_what_pastry_kitchens_have():
    assert len(LARDER) >= 250
    assert {"egg-yolk", "half-and-half", "custard-powder", "cocoa-powder-11", "salt"} <= set(LARDER)
    assert Counter(thing.group for thing in LARDER.values())["fruit"] >= 40


@pytest.mark.parametrize("language", LANGUAGES)
def test_a_word_of_one_language_names_one_ingredient(language):
    owners: dict[str, set[str]] = {}
    for row in rows("words"):
        for word in filter(None, row[language].split("|")):
            owners.setdefault(fold(word), set()).add(row["id"])
    assert {word: ids for word, ids in owners.items() if len(ids) > 1} == {}
    assert {word for word in owners if word in CHOICES} == set()


def test_every_ingredient_has_words_in_every_language():
    few = {row["id"] for row in rows("words") if sum(bool(row[one]) for one in LANGUAGES) < 4}
    assert {row["id"] for row in rows("words")} == set(LARDER)
    assert few <= {"half-and-half", "whipping-cream-33", "sour-cream-10", "clotted-cream", "rich-milk-5",
                   "butter-salted", "milk-1-percent"}  # fmt: skip


def test_a_choice_is_between_ingredients_and_its_usual_one_is_among_them():
    for word, choice in CHOICES.items():
        assert {choice.usual, *choice.but.values(), *choice.options} <= set(LARDER), word
        assert choice.usual in choice.options, word


def test_the_creams_differ_by_their_fat_and_weigh_accordingly():
    creams = [thing for name, thing in LARDER.items() if "cream-" in name and thing.is_milk]
    assert len(creams) >= 10
    by_fat = sorted(creams, key=lambda thing: thing.composition["fat"])
    densities = [thing.density_g_ml for thing in by_fat if thing.ph > 6]
    assert densities == sorted(densities, reverse=True)


def test_chocolates_hold_the_cocoa_that_their_name_says():
    for name, thing in LARDER.items():
        if name.startswith("dark-chocolate-"):
            cocoa = thing.composition["cocoa_butter"] + thing.composition["cocoa_solids"]
            assert cocoa == pytest.approx(float(name.rsplit("-", 1)[1]), abs=1.5), name


@pytest.mark.parametrize(
    ("name", "european", "american"),
    [
        ("wheat-flour", ("gluten (wheat)",), ("wheat",)),
        ("rolled-oats", ("gluten (oats)",), ()),
        ("ground-almonds", ("nuts (almonds)",), ("tree nuts (almonds)",)),
        ("soya-drink", ("soya",), ("soy",)),
        ("white-wine-12", ("sulphites", "alcohol"), ()),
        ("gelatine-fish-200", ("fish",), ("fish",)),
    ],
)
def test_allergens_stand_in_both_lists(name, european, american):
    assert LARDER[name].allergens == european
    assert LARDER[name].us_allergens == american


def test_what_holds_egg_milk_or_nuts_says_so():
    for name, thing in LARDER.items():
        parts = thing.composition
        if parts["yolk_protein"] + parts["white_protein"] > 0:
            assert "egg" in thing.allergen_groups, name
        if parts["milk_protein"] > 0 or (parts["lactose"] > 0 and thing.group != "own"):
            assert "milk" in thing.allergen_groups, name


def test_every_ingredient_says_how_far_it_varies():
    assert {name for name, thing in LARDER.items() if not thing.range} <= {
        "water",
        "food-colour",
        "espresso",
        "flower-water",
    }


def test_what_the_model_does_not_know_is_said():
    for name in ("xanthan", "agar", "pectin", "modified-starch-cold", "tapioca-pearls", "whey-protein"):
        assert LARDER[name].unmodelled
    assert LARDER["whole-milk"].unmodelled == ""
