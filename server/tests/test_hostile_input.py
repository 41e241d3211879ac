"""What no kitchen would send is refused in a sentence by its field, and leaves nothing behind."""

from __future__ import annotations

import json

import pytest
from kitchen.models import Kitchen, OwnIngredient

from tests.conftest import ANGLAISE, draft

DRAFT = {"draft": ANGLAISE}
SALT = {"draft": draft(lines=[{"ingredient": "salt", "amount": "1 g"}])}
NAN, ENDLESS = float("nan"), float("inf")
WATER = {"name": "tap", "composition": {"water": 100}}
PAN = {**DRAFT, "vessel": "pan", "length_cm": 20, "height_cm": 10}


def formula(amount: str, name: str = "x") -> str:
    line = f'{{"ingredient": "egg-yolk", "amount": {amount}}}'
    top = f'"format": "old-spoon/formula", "version": 1, "name": "{name}", "family": "anglaise"'
    return f'{{{top}, "lines": [{line}]}}'


REFUSED = [
    ("PATCH", "", {"currency": "\0"}, "currency"),
    ("PATCH", "", {"currency": "  "}, "currency"),
    ("PUT", "/prices", {"ingredient": "whole-milk", "price": 1, "per": "0 g"}, "amount"),
    ("PUT", "/prices", {"ingredient": "whole-milk", "price": 1, "per": "1\0 g"}, "per"),
    ("PUT", "/prices", {"ingredient": "whole-milk", "price": NAN}, "price"),
    ("PUT", "/prices", {"ingredient": "moon-dust", "price": 1}, "ingredient"),
    ("POST", "/ingredients", {**WATER, "name": " - "}, "name"),
    ("POST", "/ingredients", {**WATER, "composition": {"water": NAN}}, "composition.water"),
    ("POST", "/ingredients", {**WATER, "composition": {}}, "composition"),
    ("POST", "/ingredients", {**WATER, "density_g_per_ml": 0}, "density_g_per_ml"),
    ("POST", "/ingredients", {**WATER, "density_g_per_ml": NAN}, "density_g_per_ml"),
    ("POST", "/devices", {"name": "   "}, "name"),
    ("POST", "/turn", {**DRAFT, "values": {"yolk": NAN}}, "yolk"),
    ("POST", "/turn", {**DRAFT, "values": {"cream": ENDLESS}}, "cream"),
    ("POST", "/turn", {**DRAFT, "values": {"sugar": 1e6}}, "lines[2].amount"),
    ("POST", "/turn", {"draft": SALT["draft"], "values": {"cream": 5}}, "cream"),
    ("POST", "/solve", {**DRAFT, "goal": "dairy", "ingredient": "white-sugar"}, "dairy"),
    ("POST", "/solve", {**DRAFT, "goal": "chocolate", "ingredient": "whole-milk"}, "chocolate"),
    ("POST", "/solve", {**DRAFT, "goal": "texture"}, "texture"),
    ("POST", "/solve", {**SALT, "goal": "texture", "texture": "nappe"}, "texture"),
    ("POST", "/fit", {**PAN, "length_cm": NAN}, "length_cm"),
    ("POST", "/fit", {**PAN, "head_room": 1}, "head_room"),
    ("POST", "/fit", {**PAN, "vessel": "dish", "filled": 0}, "filled"),
    ("POST", "/top-up", {**SALT, "left_g": 0}, "left_g"),
    ("POST", "/import", {"text": "null"}, "text"),
    ("POST", "/import", {"text": "[" * 100_000}, "text"),
    ("POST", "/import", {"text": formula("9" * 4000)}, "lines[0].amount"),
    ("POST", "/import", {"text": formula("NaN")}, "lines[0].amount"),
    ("POST", "/import", {"text": formula("2", "a\\u0000b")}, "name"),
]


@pytest.mark.parametrize(("method", "path", "body", "field"), REFUSED)
def test_it_is_refused_by_its_field_and_nothing_is_kept(chef, method, path, body, field):
    before = Kitchen.objects.values().get(slug="here")
    answer = chef(method, f"/api/k/here{path}", body)
    assert answer.status_code == 422, answer.content
    assert [found["field"] for found in answer.json()["fields"]] == [field]
    assert Kitchen.objects.values().get(slug="here") == before
    assert not OwnIngredient.objects.exists()


@pytest.mark.parametrize("name", ["whole-milk", "Whole Milk", "whole milk", "OURS"])
def test_a_name_that_means_something_already_is_refused(chef, name):
    assert chef("POST", "/api/k/here/ingredients", {**WATER, "name": "ours"}).status_code == 201
    answer = chef("POST", "/api/k/here/ingredients", {**WATER, "name": name})
    assert answer.status_code == 409
    assert name in answer.json()["detail"]


def test_what_cannot_be_printed_in_a_recipe_is_left_out(chef):
    recipe = {"@type": "Recipe", "name": "Tea\ud800", "recipeIngredient": ["2\0 egg yolks (cold)"]}
    answer = chef("POST", "/api/k/here/import", {"text": json.dumps(recipe)})
    assert answer.status_code == 200
    found = answer.json()
    assert (found["name"], found["lines"][0]["text"]) == ("Tea", "2 egg yolks (cold)")
    assert found["lines"][0]["note"] == "cold"
