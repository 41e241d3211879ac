"""What joins after the heat, at the batch; cups in the oven; layers, crusts and pasted recipes."""

from __future__ import annotations

import pytest
from custard.vocabulary import StageName
from stove.models import Batch

from tests.conftest import ANGLAISE, mark

LATER = [
    {"ingredient": "dark-chocolate-70", "amount": "90 g"},
    {"ingredient": "bay-leaf", "amount": "2", "when": "infused", "minutes": 15},
    {"ingredient": "whipping-cream-36", "amount": "120 g", "when": "folded when cool"},
]
BEFORE = ("weigh", "warm", "temper", "cook", "test")


@pytest.fixture
def begun(cook, version):
    """Take a draft to the stove; returns its path and the batch."""

    def begin(**more):
        draft = {**ANGLAISE, **more}
        body = cook(
            "POST", "/api/k/here/batches", {"formula_id": version.formula_id, "version": 1, "draft": draft}
        ).json()
        return f"/api/k/here/batches/{body['id']}", body

    return begin


def test_a_batch_with_additions_has_a_stage_for_them(cook, begun):
    path, body = begun(lines=[*ANGLAISE["lines"], *LATER])
    assert [one["kind"] for one in body["plan"]["finish"]["additions"]] == ["chocolate", "fold-whipped"]
    assert body["plan"]["infusing"]["seconds"] == 900
    for stage in BEFORE:
        body = cook("POST", f"{path}/marks", mark("done", stage)).json()
    assert body["stage"] == "finish"
    cook("POST", f"{path}/marks", mark("pour", "finish", line=0))
    body = cook("POST", f"{path}/marks", mark("tick", "finish", line=1, temperature_c=22.5)).json()
    assert (body["joined"], body["poured"], body["ticked"]) == ([1], [0], [])
    refused = cook("POST", f"{path}/marks", mark("tick", "finish", line=2))
    assert (refused.status_code, refused.json()["fields"][0]["field"]) == (422, "line")
    body = cook("POST", f"{path}/marks", mark("done", "finish")).json()
    assert body["stage"] == "chill"
    assert Batch.objects.get(pk=body["id"]).when_done(StageName.FINISH) is not None


def test_without_additions_the_stage_is_left_out(cook, begun):
    path, body = begun()
    assert "finish" not in [stage["stage"] for stage in body["plan"]["stages"]]
    for stage in BEFORE:
        body = cook("POST", f"{path}/marks", mark("done", stage)).json()
    assert body["stage"] == "chill"


def test_what_was_left_when_strained_is_kept(cook, begun):
    path, body = begun(lines=[*ANGLAISE["lines"], LATER[1]])
    assert body["topped_up_g"] is None
    assert cook("POST", f"{path}/marks", mark("top-up", "warm")).status_code == 422
    cook("POST", f"{path}/marks", mark("infusing", "warm"))
    body = cook("POST", f"{path}/marks", mark("top-up", "warm", grams=488)).json()
    assert body["topped_up_g"] == 488
    _, found = post(cook, "top-up", {"draft": body["draft"], "left_g": 488})
    assert found["missing_g"] == pytest.approx(27.5)
    assert found["add"] == [{"name": "whole milk", "grams": 27.5}]


CUSTARD = [
    {"ingredient": "whole-milk", "amount": "500 g"},
    {"ingredient": "whole-egg", "amount": "4"},
    {"ingredient": "white-sugar", "amount": "80 g"},
]


def test_a_baked_batch_asks_for_cups_and_says_what_they_take(cook, begun):
    path, body = begun(family="baked-custard", lines=CUSTARD)
    assert body["cups"]["count"] > 3
    oven = cook("GET", f"{path}/oven").json()
    assert oven["enough"]
    assert 1200 < oven["out_s"] < 4000
    few = {"cups": {**body["cups"], "count": 40, "solid": "bread-white", "solid_share": 0.4}}
    body = cook("PUT", f"{path}/setup", few).json()
    assert body["cups"]["count"] == 40
    oven = cook("GET", f"{path}/oven").json()
    assert not oven["enough"]
    assert oven["filled"]["drunk_g"] > 0
    refused = cook("PUT", f"{path}/setup", {"cups": {**few["cups"], "solid": "salt"}})
    assert (refused.status_code, refused.json()["fields"][0]["field"]) == (422, "solid")
    anglaise, _ = begun()
    assert cook("GET", f"{anglaise}/oven").json() is None


def post(api, what, body):
    answer = api("POST", f"/api/k/here/{what}", body)
    return answer.status_code, answer.json()


def test_layers_and_crusts(cook, version):
    two = [{"formula_id": version.formula_id, "height_mm": height} for height in (20, 10)]
    status, found = post(cook, "layers", {"length_cm": 18, "layers": two})
    assert status == 200
    assert found[0]["grams"] == pytest.approx(2 * found[1]["grams"], rel=0.01)
    assert post(cook, "layers", {"length_cm": 900, "layers": two})[0] == 422
    laid = [{"ingredient": "biscuit-crumbs", "grams": 150}, *two]
    status, found = post(cook, "layers", {"length_cm": 18, "layers": laid})
    assert (status, found[0]["grams"], found[0]["batches"]) == (200, 150, None)
    status, refused = post(
        cook, "layers", {"length_cm": 18, "layers": [{"ingredient": "rubble", "grams": 9}]}
    )
    assert (status, refused["fields"][0]["field"]) == (422, "layers[0].ingredient")


@pytest.mark.parametrize(("across", "words"), [(24, "it fills"), (8, "does not go in")])
def test_a_dish_says_how_full_it_is_as_the_batch_stands(cook, across, words):
    body = {"draft": ANGLAISE, "vessel": "dish", "shape": "round", "length_cm": across, "height_cm": 5}
    status, found = post(cook, "fit", body)
    assert status == 200
    assert words in found["say"]
    assert "times this batch" in found["say"]
    assert (found["fills"] > 1) == (across == 8)
    assert post(cook, "crust", {"diameter_cm": 10})[1]["grams"] == pytest.approx(7.9)
    assert post(cook, "crust", {"diameter_cm": 1})[0] == 422


def test_its_destinations_are_its_size(cook):
    wanted = {**ANGLAISE, "destinations": [{"name": "plates", "count": 10, "amount": "60 g"}]}
    scaled = post(cook, "scale", {"draft": wanted, "by": "destinations"})[1]
    shared = post(cook, "assess", scaled)[1]["shared"]
    assert shared["wanted_g"] == 600
    assert abs(shared["left_over_g"]) < 3
    assert post(cook, "scale", {"draft": ANGLAISE, "by": "destinations"})[0] == 422
    status, refused = post(cook, "assess", {**wanted, "destinations": [{"name": "…", "amount": "a lot"}]})
    assert status == 422
    assert refused["fields"][0]["field"] == "destinations[0].amount"


def test_a_pasted_recipe_and_a_saved_page_are_settled(cook):
    status, found = post(cook, "import", {"text": "500 ml whole milk, 5 yolks, a knob of butter"})
    assert status == 200
    knob = found["lines"][2]
    assert [line["why"] for line in found["lines"]] == ["", "", ""]
    assert (knob["ingredient"], knob["amount"]) == ("butter-unsalted", "15 g")
    assert "knob: 15 g each" in knob["assumed"]
    assert len(knob["options"]) > 1
    page = (
        '<html><script type="application/ld+json">{"@type": "Recipe", "name": "Cream",'
        ' "recipeIngredient": ["6 egg yolks"]}</script></html>'
    )
    assert post(cook, "import", {"text": page})[1]["name"] == "Cream"
    assert post(cook, "import", {"text": "<html>nothing</html>"})[0] == 422
    boxes = post(cook, "import", {"text": "[ ] 500 ml whole milk\n[x] 6 yolks"})[1]
    assert [line["ingredient"] for line in boxes["lines"]] == ["whole-milk", "egg-yolk"]


def test_an_addition_stands_in_the_method_that_is_carried_away(chef):
    draft = {**ANGLAISE, "lines": [*ANGLAISE["lines"], LATER[0]]}
    made = chef("POST", "/api/k/here/formulas", {"draft": draft}).json()
    recipe = chef("GET", f"/api/k/here/formulas/{made['id']}/versions/1/export/recipe").content.decode()
    assert "Pour the sauce onto dark chocolate 70" in recipe
