"""A day carried away: lists, templates, files and calendars."""

from __future__ import annotations

import json
from datetime import UTC, datetime

import custard
import icalendar
import jsonschema_rs
import pytest
from custard import planning

from tests.conftest import Api
from tests.day.days import DAY, WHEN, ok


def test_lists_of_the_day(cook, chef, wanted):
    found = ok(cook("GET", f"{DAY}/lists"))
    assert found["lists"]["eggs"]["to_break"] >= 10
    pull = {one["ingredient"]: one for one in found["lists"]["pull"]}
    assert pull["whole-milk"]["missing_g"] == pull["whole-milk"]["grams"] > 900
    assert (
        cook("PUT", "/api/k/here/house", {"ingredient": "whole-milk", "amount": "1/2 l"}).status_code == 204
    )
    chef("PUT", "/api/k/here/prices", {"ingredient": "whole-milk", "price": 1.2, "per": "1 l"})
    milk = {one["ingredient"]: one for one in ok(cook("GET", f"{DAY}/lists"))["lists"]["pull"]}["whole-milk"]
    assert milk["house_g"] == pytest.approx(515, abs=5)
    assert milk["packages"] == 1
    bad = cook("PUT", "/api/k/here/house", {"ingredient": "whole-milk", "amount": "some"})
    assert bad.status_code == 422
    assert set(found["lists"]["allergens"]) == {"egg", "milk"}
    key = ok(cook("POST", f"{DAY}/stove", {"job": wanted["jobs"][0]["key"]}))
    assert key
    assert ok(cook("GET", f"{DAY}/lists"))["lists"]["pull"] == [], "what is weighed is not pulled again"


def test_a_day_is_kept_as_a_template_and_copied(cook, chef, wanted):
    ok(cook("POST", f"{DAY}/others", {"name": "caramel", "minutes": 20}))
    templates = ok(cook("POST", f"{DAY}/template", {"name": "a weekday"}))["templates"]
    assert [(one["name"], one["wants"]) for one in templates] == [("a weekday", 1)]
    friday = "/api/k/here/days/2026-03-06"
    copied = ok(cook("POST", f"{friday}/copy", {"template_id": templates[0]["id"]}))
    assert [one["name"] for one in copied["wants"]] == ["poached quince"]
    assert copied["plan"]["late_min"] == 0
    saturday = "/api/k/here/days/2026-03-07"
    assert len(ok(cook("POST", f"{saturday}/copy", {"date": "2026-03-06"}))["others"]) == 1
    assert cook("POST", f"{saturday}/copy", {"date": "2026-03-20"}).status_code == 422
    listed = ok(cook("GET", f"/api/k/here/days?around={WHEN}"))
    assert [one["date"] for one in listed["days"]] == [WHEN, "2026-03-06", "2026-03-07"]
    gone = ok(cook("DELETE", f"/api/k/here/templates/{templates[0]['id']}"))
    assert gone["templates"] == []
    thrown = f"/api/k/here/templates/{templates[0]['id']}"
    assert cook("POST", f"{friday}/copy", {"template_id": templates[0]["id"]}).status_code == 404
    assert ok(cook("POST", f"{thrown}/back"))["templates"] == templates
    ok(cook("DELETE", thrown))
    ok(cook("POST", f"{DAY}/template", {"name": "a weekday"}))
    assert "another template “a weekday”" in cook("POST", f"{thrown}/back").json()["detail"]


def test_a_day_goes_out_as_json_and_comes_in_again(cook, chef, wanted, version):
    ok(cook("POST", f"{DAY}/others", {"name": "caramel", "minutes": 20, "needs": "ring", "by": 700}))
    file = ok(cook("GET", f"{DAY}/day.json"))
    jsonschema_rs.validate(planning.day_schema(custard.formats.formula_schema()), file)
    assert {one["step"] for one in file["plan"]} == {"weigh", "warm", "cook", "chill", "work"}
    there = "/api/k/here/days/2026-03-09"
    day = ok(chef("POST", f"{there}/day.json", file))
    assert [(one["name"], one["covers"], one["each"]) for one in day["wants"]] == [
        ("poached quince", 20, "60 g")
    ]
    back = ok(cook("GET", f"{there}/day.json"))
    assert {**back, "date": WHEN} == file
    renamed, otherwise = json.loads(json.dumps(file)), json.loads(json.dumps(file))
    renamed["wanted"][0]["formula"]["name"] = "anglaise of another name"
    assert ok(chef("POST", f"{there}/day.json", renamed))["wants"][1]["formula_id"] == version.formula_id
    # The name of a formula of the book, and something else in it.
    otherwise["wanted"][0]["formula"]["lines"].pop()
    refused = chef("POST", f"{there}/day.json", otherwise)
    assert refused.status_code == 422
    assert "as it is made in this file is not in the book" in refused.json()["detail"]
    assert "wanted[0].formula" in str(refused.json()["fields"])


def test_the_calendar_holds_what_hands_do_and_what_is_wanted(cook, chef, wanted):
    answer = cook("GET", f"{DAY}/day.ics")
    events = icalendar.Calendar.from_ical(answer.content).walk("VEVENT")
    names = [str(event["summary"]) for event in events]
    assert any(name.startswith("First pair of hands: Temper, cook, sieve") for name in names)
    assert "poached quince: Bay leaf anglaise" in names
    wanted_at = next(event for event in events if event["summary"] == "poached quince: Bay leaf anglaise")
    assert wanted_at["dtstart"].dt == datetime(2026, 3, 5, 12, 30, tzinfo=UTC)


def test_the_address_to_subscribe_to_has_a_secret_that_can_be_taken_back(chef, wanted):
    made = ok(chef("POST", "/api/k/here/calendar"))
    address = made["address"].partition("/api/")[2]
    stranger = Api()
    answer = stranger("GET", f"/api/{address}")
    assert answer.status_code == 200
    assert b"Bay leaf anglaise" in answer.content
    assert ok(chef("GET", "/api/k/here/calendar"))["address"] is None
    ok(chef("POST", "/api/k/here/calendar"))
    assert stranger("GET", f"/api/{address}").status_code == 404
    ok(chef("DELETE", "/api/k/here/calendar"))
    assert stranger("GET", f"/api/{address}").status_code == 404
    assert stranger("GET", "/api/calendar/guess.ics").status_code == 404
