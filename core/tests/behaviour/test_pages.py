"""Pages that were copied whole: what stands around the recipe is left out, and nothing of it is lost."""

from __future__ import annotations

import pytest
from custard.card import Card
from custard.reading import card_of, read


def test_who_wrote_it_is_no_ingredient():
    recipe = read("Custard sauce\nFrom the kitchen of Dot\n\n2 c. milk\n5 egg yolks")
    assert [line.ingredient for line in recipe.lines] == ["whole-milk", "egg-yolk"]


PAGE = """Skip to content
HOME » DESSERTS » CUSTARD
The Best Creamy Vanilla Pudding
★★★★★ 4.8 from 213 votes
Prep Time: 5 mins
Servings: 4
Calories: 310 kcal
Print Pin Rate

Ingredients
1x 2x 3x
US Customary - Metric
▢ ½ cup granulated sugar (100g)
▢ 3 Tablespoons cornstarch
▢ 2 ¾ cups whole milk
▢ 3 large egg yolks

Instructions
Whisk all in a saucepan. Cook until it bubbles.

Nutrition
Calories: 310kcal | Protein: 7g | Fat: 14g
"""


def test_a_page_that_was_copied_whole_is_its_recipe_and_nothing_else():
    recipe = read(PAGE)
    assert (recipe.name, recipe.serves) == ("The Best Creamy Vanilla Pudding", "4")
    ids = [line.ingredient for line in recipe.lines]
    assert ids == ["white-sugar", "cornstarch", "whole-milk", "egg-yolk"]
    assert all(line.grams for line in recipe.lines)
    assert "Prep Time: 5 mins" in recipe.notes, "what stands around it is kept as a note"


@pytest.mark.parametrize(
    "rating", ["★★★★★ 4.8 from 213 votes", "4,7 (89 Bewertungen)", "4.5/5 stars", "5 (12 avis)"]
)
def test_a_rating_is_left_out_and_half_a_lemon_is_not(rating):
    recipe = read(f"Custard\n{rating}\n500 ml milk\n4 yolks\n1 / 2 lemon\n1 / 2 cup sugar")
    assert [line.ingredient for line in recipe.lines] == [
        "whole-milk",
        "egg-yolk",
        "lemon-juice",
        "white-sugar",
    ]
    assert not any("vote" in note or "star" in note for note in recipe.notes)


def test_emoji_are_bullets_and_numbers_on_keys_are_steps():
    recipe = read(
        "🍮 Crème vanille 🍮\n👉 Ingrédients :\n✅ 500 ml de lait\n✅ 2 jaunes d’œufs\n✅ 30 g de maïzena\n"
        "👩‍🍳 Préparation\n1️⃣ Mélanger jaunes + maïzena\n② Faire chauffer le lait"
    )
    assert recipe.name == "Crème vanille"
    assert [line.ingredient for line in recipe.lines] == ["whole-milk", "egg-yolk", "cornstarch"]
    assert [step.text for step in recipe.method] == ["Mélanger jaunes + maïzena", "Faire chauffer le lait"]


def test_a_list_before_the_heading_of_the_ingredients_is_kept():
    recipe = read("Flan\nfor Sunday\n6 egg yolks\nIngredients\n1 l milk")
    assert [line.ingredient for line in recipe.lines] == ["egg-yolk", "whole-milk"]
    recipe = read("Flan\n250 g pâte sucrée\nIngrédients\n1 l lait\n4 œufs")
    assert [line.ingredient for line in recipe.lines] == ["shortcrust", "whole-milk", "whole-egg"]


def test_headings_that_stand_alone_are_no_ingredients():
    recipe = read("Flan\nPâte sucrée : 250 g\nAppareil\n1 l lait\n4 œufs\nPour décorer\n100 g crème")
    assert [line.ingredient for line in recipe.lines[:3]] == ["shortcrust", "whole-milk", "whole-egg"]
    assert recipe.lines[-1].when == "on top"


def test_a_date_before_the_ingredients_is_no_amount_and_a_step_alone_is_no_line():
    recipe = read(
        "Homemade Custard | Simply Sweet\nBy Sam\nPublished 3 March\nJust 15 minutes!\n"
        "Ingredients (serves 4)\n300ml milk\n4 egg yolks\nMethod\nStep 1\nHeat it.\nStep 2\nPour it on."
    )
    assert (recipe.name, len(recipe.lines), len(recipe.method)) == ("Homemade Custard", 2, 2)


def test_steps_are_numbered_with_a_stroke_or_a_bracket_and_a_low_oven_is_preheated():
    recipe = read(
        "Crème brûlée\n6 jaunes\n50 cl de crème\n\n1/ Préchauffez le four à 100°C.\n"
        "2/ Versez dans 6 ramequins et enfournez 1 h.\n3/ Placez 3 h au frigo."
    )
    assert len(recipe.lines) == 2
    assert card_of(recipe) == Card(oven_c=100, bake_min=60, chill_h=3)
    assert read("Custard\n1/2 cup milk\n4 yolks").lines[0].amount == "0.5 cup"
