"""The Kitchen's settings, the larder, and what is kept of who did what."""

from __future__ import annotations

import custard
import pytest
from django.core.management import CommandError, call_command
from kitchen import actions as larder
from kitchen.models import AuditEntry, Kitchen, Membership
from people.models import User

from tests.conftest import ANGLAISE, Api, logged_in, mark


def test_the_larder_shows_composition_and_where_it_comes_from(cook):
    larder = cook("GET", "/api/larder").json()
    assert [thing["id"] for thing in larder["ingredients"]] == list(custard.larder.all_ingredients())
    for thing in larder["ingredients"]:
        assert sum(thing["composition"].values()) == pytest.approx(100, abs=0.1)
        assert thing["confidence"] in "HML"
        assert thing["source_as_remembered"]
    assert {family["family"] for family in larder["families"]} == set(custard.FAMILIES)
    assert larder["measures"] == ["us", "imperial", "metric", "au"]


def test_settings_are_changed_one_by_one(chef):
    before = chef("GET", "/api/k/here").json()
    after = chef("PATCH", "/api/k/here", {"altitude_m": 1500}).json()
    assert after == {**before, "altitude_m": 1500, "water_boils_c": pytest.approx(95.0, abs=0.1)}
    assert chef("PATCH", "/api/k/here", {"eggs": "US-large", "measures": "us"}).json()["eggs"] == "US-large"


@pytest.mark.parametrize(
    ("bad", "field"),
    [
        ({"altitude_m": 9000}, "altitude_m"),
        ({"altitude_m": "high"}, "altitude_m"),
        ({"name": ""}, "name"),
        ({"name": "x" * 201}, "name"),
        ({"name": "a\x07b"}, "name"),
        ({"eggs": "goose"}, "eggs"),
        ({"measures": "troy"}, "measures"),
        ({"slug": "elsewhere"}, "slug"),
    ],
)
def test_bad_settings_change_nothing(chef, bad, field):
    before = chef("GET", "/api/k/here").json()
    answer = chef("PATCH", "/api/k/here", bad)
    assert answer.status_code == 422
    assert answer.json()["fields"][0]["field"] == field
    assert chef("GET", "/api/k/here").json() == before


def test_each_person_sees_their_own_kitchens(here, there):
    Membership.objects.create(user=here["cook"].user, kitchen=there["cook"].kitchen, role="viewer")
    kitchens = logged_in("here-cook")("GET", "/api/kitchens").json()
    assert [(k["slug"], k["role"]) for k in kitchens] == [("here", "cook"), ("there", "viewer")]
    assert [k["slug"] for k in logged_in("there-chef")("GET", "/api/kitchens").json()] == ["there"]


def test_every_write_leaves_who_what_and_where(here, version, chef, cook):
    made = cook(
        "POST", "/api/k/here/batches", {"formula_id": version.formula_id, "version": 1, "draft": ANGLAISE}
    ).json()
    path = f"/api/k/here/batches/{made['id']}"
    one = mark()
    cook("POST", f"{path}/marks", one)
    cook("POST", f"{path}/marks/{one['id']}/withdraw")
    cook("POST", f"{path}/close", {"verdict": "good"})
    cook("POST", f"{path}/reopen")
    chef("PATCH", "/api/k/here", {"name": "Renamed"})
    told = [(entry.action, entry.user.username) for entry in AuditEntry.objects.order_by("id")]
    assert told == [
        ("formula.add", "here-chef"),
        ("batch.start", "here-cook"),
        ("batch.mark", "here-cook"),
        ("batch.unmark", "here-cook"),
        ("batch.close", "here-cook"),
        ("batch.reopen", "here-cook"),
        ("kitchen.change", "here-chef"),
    ]


def test_a_refused_write_leaves_nothing(cook, batch):
    before = AuditEntry.objects.count()
    assert cook("POST", f"/api/k/here/batches/{batch.pk}/marks", mark(temperature_c=300)).status_code == 422
    assert AuditEntry.objects.count() == before


def test_people_are_added_from_the_command_line(db, monkeypatch):
    monkeypatch.setenv("OLDSPOON_PASSWORD", "a-long-enough-one")
    call_command("add_person", "someone", "--kitchen", "Salt Quay", "--role", "cook", "--title", "commis")
    call_command("add_person", "someone", "--kitchen", "Salt Quay", "--role", "chef")
    assert Kitchen.objects.get().slug == "salt-quay"
    assert Membership.objects.get().role == "chef"
    assert User.objects.get().shown() == "commis"
    api = logged_in_with("someone", "a-long-enough-one")
    assert api("GET", "/api/k/salt-quay").json()["role"] == "chef"


def logged_in_with(username, password):
    api = Api()
    assert api.log_in(username, password).status_code == 200
    return api


@pytest.mark.parametrize("password", ["short", "password123"])
def test_weak_passwords_are_refused(db, monkeypatch, password):
    monkeypatch.setenv("OLDSPOON_PASSWORD", password)
    with pytest.raises(CommandError):
        call_command("add_person", "someone", "--kitchen", "Salt Quay")
    assert not User.objects.exists()


def test_what_was_taken_off_comes_back_with_what_it_learned(here, chef):
    hob = larder.add_hob(here["chef"], "front ring", 350, over_steam=False)
    larder.learn_hob(here["cook"], hob.pk, 420, 10)
    before = chef("GET", "/api/k/here/hearth").json()["hobs"]
    removed = chef("DELETE", f"/api/k/here/hobs/{hob.pk}").json()
    assert removed["name"] == "front ring"
    assert chef("GET", "/api/k/here/hearth").json()["hobs"] == []
    back = f"/api/k/here/taken-off/{removed['key']}/back"
    assert chef("POST", back).status_code == 204
    assert chef("GET", "/api/k/here/hearth").json()["hobs"] == before
    assert chef("POST", back).status_code == 404


def test_what_was_taken_off_does_not_come_beside_another_of_its_name(here, chef):
    vessel = {"name": "tub", "kind": "tub", "length_cm": 30, "width_cm": 20, "height_cm": 10}
    made = chef("POST", "/api/k/here/vessels", vessel).json()
    removed = chef("DELETE", f"/api/k/here/vessels/{made['id']}").json()
    chef("POST", "/api/k/here/vessels", {**vessel, "name": "Tub"})
    refused = chef("POST", f"/api/k/here/taken-off/{removed['key']}/back")
    assert refused.status_code == 409
    assert "another tub" in refused.json()["detail"]


def test_an_ingredient_is_read_from_its_label_and_kept(chef):
    text = "per 100 g: fat 35 g, carbohydrate 3.2 g, sugars 3.2 g, protein 2.2 g. Ingredients: cream (milk)"
    read = chef("POST", "/api/k/here/label", {"text": text}).json()
    assert read["composition"]["fat"] == 35
    assert read["allergens"] == ["milk"]
    made = {"name": "valley cream", "composition": read["composition"], "allergens": read["allergens"]}
    assert chef("POST", "/api/k/here/ingredients", made).status_code == 201
    refused = chef("POST", "/api/k/here/label", {"text": "hello"})
    assert (refused.status_code, refused.json()["fields"][0]["field"]) == (422, "text")
