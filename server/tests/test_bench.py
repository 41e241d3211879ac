"""The Bench: what is computed of a draft, and how it refuses."""

from __future__ import annotations

import csv
import io
import json
from pathlib import Path

import custard
import jsonschema_rs
import pytest

from tests.conftest import ANGLAISE, draft, logged_in

DRAFT = {"draft": ANGLAISE}


def post(api, path, body):
    answer = api("POST", f"/api/k/here/{path}", body)
    return answer.status_code, answer.json()


def test_details_hold_handles_schools_measures_and_facts(cook):
    status, found = post(cook, "details", ANGLAISE)
    assert status == 200
    assert {handle["name"] for handle in found["handles"]} == {"yolk", "sugar", "starch", "cream"}
    yolk = next(one for one in found["sensitivities"] if one["handle"] == "yolk")
    assert yolk["step"] == "one yolk more"
    assert yolk["nappe_k"] < 0 < yolk["coat_mm"]
    assert {question["question"] for question in found["questions"]} >= {"heat", "temper", "sugar", "sieve"}
    assert found["measures"][1] == {
        "name": "egg yolk",
        "mass_g": 101.4,
        **dict.fromkeys(("metric", "us", "imperial", "au"), "6 yolks"),
    }
    assert found["facts"]["meringue_sugar_g"] == 420
    assert found["facts"]["cost"] is None
    assert "whole-milk" in found["facts"]["no_price"]


def test_cost_comes_from_prices_in_any_measure(chef):
    for ingredient, price, per in (
        ("whole-milk", 1.2, "1 l"),
        ("egg-yolk", 0.2, "1 yolk"),
        ("white-sugar", 0.7, "1 lb"),
    ):
        body = {"ingredient": ingredient, "price": price, "per": per}
        assert chef("PUT", "/api/k/here/prices", body).status_code == 200
    _, found = post(chef, "details", ANGLAISE)
    assert found["facts"]["cost"] == pytest.approx(0.6 + 1.2 + 0.7 * 90 / 453.592, abs=0.01)
    bad = chef("PUT", "/api/k/here/prices", {"ingredient": "whole-milk", "price": 1, "per": "3 sticks"})
    assert bad.status_code == 422
    gone = chef("PUT", "/api/k/here/prices", {"ingredient": "whole-milk", "price": None})
    assert "whole-milk" not in gone.json()["prices"]


def test_the_band_holds_the_window(cook):
    _, band = post(cook, "band", ANGLAISE)
    _, assessed = post(cook, "assess", ANGLAISE)
    low, high = band["nappe_c"]
    assert low - 1 < assessed["window"]["nappe_c"] < high + 1


def test_turning_a_handle_changes_that_line_only(cook):
    status, found = post(cook, "turn", {**DRAFT, "values": {"yolk": 150.0}})
    assert status == 200
    amounts = {line["ingredient"]: line["amount"] for line in found["draft"]["lines"]}
    assert amounts["whole-milk"] == "500 ml"
    assert amounts["egg-yolk"] == "75.1 g"
    assert found["assessment"]["yolk_g_per_l"] == pytest.approx(150, abs=1)


def test_another_starch_for_as_much_dry_starch(cook):
    lines = [*ANGLAISE["lines"], {"ingredient": "cornstarch", "amount": "20 g"}]
    _, found = post(cook, "turn", {"draft": draft(lines=lines), "starch_kind": "wheat-flour"})
    assert found["draft"]["lines"][-1]["ingredient"] == "wheat-flour"
    assert float(found["draft"]["lines"][-1]["amount"].split()[0]) == pytest.approx(24.8, abs=0.1)
    status, refused = post(cook, "turn", {**DRAFT, "starch_kind": "sawdust"})
    assert status == 422
    assert refused["fields"][0]["field"] == "kind"


def test_the_map_is_a_grid_with_its_words(cook):
    status, found = post(cook, "map", DRAFT)
    assert status == 200
    side = len(found["x"])
    assert len(found["stress_pa"]) == len(found["film_mm"]) == len(found["y"]) == side
    assert all(len(row) == side for row in found["nappe_c"])
    assert found["here"][0] == pytest.approx(203, abs=2)
    assert {"thin coat", "nappe"} <= {label[0] for label in found["labels"]}
    status, refused = post(cook, "map", {**DRAFT, "x": "yolk", "y": "yolk"})
    assert status == 422
    assert refused["fields"][0]["field"] == "y_name"


def test_solving_shows_changes_before_they_are_taken(cook):
    _, ways = post(cook, "solve", {**DRAFT, "goal": "texture", "texture": "spoonable", "at_c": 4})
    assert len({one["title"] for one in ways}) == len(ways) > 1
    assert all(one["title"].startswith("spoonable at the plate, with ") for one in ways)
    assert any(change.startswith("cornstarch") for change in ways[0]["changes"])
    for one in ways:
        _, bench = post(cook, "assess", one["draft"])
        assert one["assessment"] == bench
        assert "spoonable" in one["reached"]
    _, two = post(cook, "solve", {**DRAFT, "goal": "yolks", "yolks": 4})
    assert [one["title"] for one in two] == ["a smaller batch", "starch for the missing yolks"]
    _, [swap] = post(cook, "solve", {**DRAFT, "goal": "dairy", "ingredient": "single-cream-18"})
    assert "single-cream-18" in json.dumps(swap["draft"])


def test_the_impossible_is_said_with_the_nearest(cook):
    body = {**DRAFT, "goal": "texture", "texture": "pipeable", "max_yolks": 6, "max_starch_g": 0}
    status, [nearest] = post(cook, "solve", body)
    assert status == 200
    assert "The nearest is" in nearest["why"]
    assert nearest["binds"] == "at most 0 g of starch"
    _, bench = post(cook, "assess", nearest["draft"])
    assert nearest["assessment"] == bench
    _, [found, *_] = post(cook, "solve", {**DRAFT, "goal": "texture", "texture": "heavy coat"})
    assert (found["why"], found["binds"]) == ("", "")
    status, refused = post(cook, "solve", {**DRAFT, "goal": "texture"})
    assert (status, refused["fields"][0]["field"]) == (422, "texture")


def test_a_dish_is_filled_and_a_pan_is_split(cook):
    dish = {**DRAFT, "vessel": "dish", "shape": "rectangle", "length_cm": 20, "width_cm": 10, "height_cm": 5}
    _, found = post(cook, "fit", dish)
    assert found["holds_ml"] == 1000
    _, assessed = post(cook, "assess", found["draft"])
    assert assessed["yield_g"] == pytest.approx(900 * 1.075, rel=0.03)
    pan = {**DRAFT, "vessel": "pan", "length_cm": 12, "height_cm": 6}
    _, found = post(cook, "fit", pan)
    assert found["batches"] == 2
    assert "2 batches" in found["say"]
    status, refused = post(cook, "fit", {**pan, "length_cm": 0})
    assert (status, refused["fields"][0]["field"]) == (422, "length_cm")


def test_infused_milk_is_topped_up(cook):
    _, found = post(cook, "top-up", {**DRAFT, "left_g": 470})
    assert found["missing_g"] == pytest.approx(45.5)
    assert found["add"] == [{"name": "whole milk", "grams": 45.5}]
    assert post(cook, "top-up", {**DRAFT, "left_g": 900})[0] == 422


def test_two_versions_side_by_side(chef, version):
    leaner = draft(lines=[*ANGLAISE["lines"][:1], {"ingredient": "egg-yolk", "amount": "4 yolks"}])
    chef("POST", f"/api/k/here/formulas/{version.formula_id}/versions", {"draft": leaner, "base": 1})
    path = f"/api/k/here/compare?a={version.formula_id}&a_version=1&b={version.formula_id}&b_version=2"
    found = chef("GET", path).json()
    assert "egg yolk: 101 g to 68 g" in found["lines"]
    assert "white sugar: 90 g to none" in found["lines"]
    assert any(text.startswith("nappe {") for text in found["differences"])


def test_schools_change_the_method_and_the_batch(chef, version):
    url = f"/api/k/here/formulas/{version.formula_id}"
    chosen = chef("PUT", f"{url}/schools", {"schools": {"heat": "steam", "temper": "ladle"}}).json()
    assert chosen["schools"] == {"heat": "steam", "temper": "ladle"}
    body = {**DRAFT, "formula_id": version.formula_id, "version": 1}
    stages = chef("POST", "/api/k/here/batches", body).json()["plan"]["stages"]
    assert "simmering water" in stages[3]["say"]
    assert stages[2]["say"].startswith("Ladle by ladle")
    assert any("bowl over steam" in way for way in stages[3]["ways"])
    assert chef("PUT", f"{url}/schools", {"schools": {"heat": "volcano"}}).status_code == 422


def test_archive_restore_and_duplicate(chef, version):
    url = f"/api/k/here/formulas/{version.formula_id}"
    assert chef("POST", f"{url}/archive").json()["archived"]
    assert chef("GET", "/api/k/here/formulas").json()["lines"] == []
    assert len(chef("GET", "/api/k/here/formulas?archived=true").json()["lines"]) == 1
    assert not chef("POST", f"{url}/restore").json()["archived"]
    copied = chef("POST", f"{url}/duplicate", {"name": "Thyme anglaise"})
    assert copied.status_code == 201
    assert copied.json()["draft"]["name"] == "Thyme anglaise"
    assert len(chef("GET", "/api/k/here/formulas").json()["lines"]) == 2
    assert chef("POST", f"{url}/duplicate", {"name": "🍮"}).status_code == 422


def exported(api, version, kind):
    path = f"/api/k/here/formulas/{version.formula_id}/versions/1/export/{kind}"
    answer = api("GET", path)
    assert "attachment" in answer["Content-Disposition"]
    return answer.content.decode()


def test_a_formula_goes_out_and_comes_back_whole(chef, version):
    text = exported(chef, version, "formula")
    jsonschema_rs.validate(chef("GET", "/api/schemas/formula-2").json(), json.loads(text))
    _, back = post(chef, "import", {"text": text})
    assert back["draft"]["lines"][0]["note"] == "two bay leaves"
    _, recipe = post(chef, "import", {"text": exported(chef, version, "recipe")})
    assert recipe["draft"] == back["draft"]


def test_a_strange_recipe_is_read_and_says_what_it_assumed(cook):
    recipe = {
        "@graph": [
            {
                "@type": ["Recipe"],
                "name": "Grandmother's custard",
                "recipeIngredient": [
                    "1 pint milk",
                    "6 egg yolks",
                    "2-3 tbsp butter",
                    "a little salt",
                    "30 g zorblax",
                ],
                "recipeInstructions": [{"@type": "HowToStep", "text": "Whisk over steam to 82 °C."}],
            }
        ]
    }
    _, found = post(cook, "import", {"text": json.dumps(recipe)})
    assert (found["draft"], found["family"], found["ours"]) == (None, "anglaise", True)
    milk, yolks, butter, salt, odd = found["lines"]
    assert milk["ingredient"] == "whole-milk"
    assert milk["assumed"]
    assert [one["ingredient"] for one in milk["options"]] == ["milk-2-percent", "skim-milk"]
    assert (yolks["ingredient"], yolks["amount"], yolks["assumed"]) == ("egg-yolk", "6", [])
    assert butter["assumed"][1] == "the middle of 2 to 3"
    assert (salt["as_note"], salt["why"]) == (True, "")
    assert odd["why"] == "say which ingredient this is"
    assert found["method"][0]["settings"] == [
        {"what": "cook_to_c", "value": "82.0"},
        {"what": "heat", "value": "steam"},
    ]
    assert (found["card"]["cook_to_c"], found["schools"]) == (82, {"heat": "steam"})


def test_the_recipe_stays_with_the_formula_that_was_read_from_it(chef, cook):
    text = "Plain sauce\n500 ml whole milk\n6 egg yolks\nWhisk."
    body = {"draft": draft(name="Plain sauce"), "recipe": text, "schools": {"temper": "ladle"}}
    for who in (chef, cook):
        status, made = post(who, "formulas", body)
        assert (status, made["recipe"], made["schools"]) == (201, text, {"temper": "ladle"})
    copied = chef("POST", f"/api/k/here/formulas/{made['id']}/duplicate", {"name": "Copy"}).json()
    assert copied["recipe"] == text
    assert post(chef, "formulas", {**body, "schools": {"temper": "hope"}})[0] == 422
    assert post(chef, "formulas", {**body, "recipe": "x" * 500_001})[0] == 422


def test_a_recipe_is_read_by_what_the_book_used_last(chef):
    for cream in ("double-cream-48", "double-cream-48", "single-cream-18"):
        lines = [{"ingredient": cream, "amount": "500 g"}, {"ingredient": "egg-yolk", "amount": "6"}]
        post(chef, "formulas", {"draft": {**draft(name=f"With {cream}"), "lines": lines}})
    _, found = post(chef, "import", {"text": "300 g cream\n4 egg yolks"})
    assert found["lines"][0]["ingredient"] == "single-cream-18"
    assert "as in this book" in found["lines"][0]["assumed"][0]


def test_a_recipe_may_name_the_kitchen_s_own_ingredients(chef):
    made = {
        "name": "House praline",
        "composition": {"sucrose": 50, "fat": 40, "rest": 10},
        "allergens": ["nuts"],
    }
    kept = chef("POST", "/api/k/here/ingredients", made).json()
    text = "Plain\n500 ml whole milk\n6 yolks\n80 g house praline, soft"
    _, found = post(chef, "import", {"text": text})
    praline = found["lines"][2]
    assert (praline["ingredient"], praline["amount"]) == (f"own {kept['id']}", "80 g")
    assert "this kitchen’s own" in praline["assumed"][0]
    assert found["lines"][0]["ingredient"] == "whole-milk"


def test_a_long_page_goes_into_the_book_by_its_words(chef):
    row = "<li class='ingredient'>500 ml whole milk</li><li>6 egg yolks</li>"
    page = (
        f"<html><head><style>{'x' * 300_000}</style></head><body><h1>Plain</h1><ul>{row}</ul></body></html>"
    )
    _, found = post(chef, "import", {"text": page})
    assert found["text"] == "Plain\n500 ml whole milk\n6 egg yolks"
    status, made = post(chef, "formulas", {"draft": draft(name="Plain"), "recipe": found["text"]})
    assert (status, made["recipe"]) == (201, found["text"])


@pytest.mark.parametrize(
    "text", ["not a recipe", "{not json", "{}", "[1, 2]", '{"format": "old-spoon/formula"}', "[" * 9000]
)
def test_what_cannot_be_read_is_said(cook, text):
    assert post(cook, "import", {"text": text})[0] == 422


def test_the_slip_as_csv(chef, version):
    rows = list(csv.DictReader(io.StringIO(exported(chef, version, "slip"))))
    assert [row["grams"] for row in rows] == ["515.50", "45.00", "101.40", "45.00"]
    assert [row["tare grams"] for row in rows] == ["515.50", "560.50", "101.40", "146.40"]


def test_own_ingredients_must_add_up(chef):
    good = {
        "name": "oat drink of the house",
        "composition": {"water": 90, "other_sugars": 4, "starch": 1, "rest": 5},
    }
    made = chef("POST", "/api/k/here/ingredients", good)
    assert made.status_code == 201
    assert chef("POST", "/api/k/here/ingredients", good).status_code == 409
    short = chef("POST", "/api/k/here/ingredients", {"name": "air", "composition": {"water": 40}})
    assert (short.status_code, short.json()["fields"][0]["field"]) == (422, "composition")
    assert chef("DELETE", f"/api/k/here/ingredients/{made.json()['id']}").status_code == 200
    assert chef("GET", "/api/k/here/ingredients").json() == []


def test_the_published_schema_is_the_served_one(cook):
    published = Path(custard.__file__).parents[3] / "docs/formats/formula-2.schema.json"
    assert json.loads(published.read_text()) == cook("GET", "/api/schemas/formula-2").json()


def test_a_stranger_sees_no_file(there, version):
    stranger = logged_in("there-chef")
    path = f"/api/k/there/formulas/{version.formula_id}/versions/1/export/formula"
    assert stranger("GET", path).status_code == 404
