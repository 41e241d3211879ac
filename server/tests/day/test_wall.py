"""The screen on the wall: opened by a code, shows what is on and what is next, writes nothing."""

from __future__ import annotations

from datetime import timedelta

import pytest
from common import clock
from devices.models import Device
from django.test import Client
from kitchen.models import Membership
from people.models import User
from stove.live import follow
from stove.models import LiveState

from tests.day.days import DAY, MORNING, at, ok


def look(code, path="/api/wall"):
    return Client().get(path, headers={"Authorization": f"Bearer {code}"})


@pytest.fixture
def code(chef):
    made = chef("POST", "/api/k/here/devices", {"name": "over the pass", "kind": "screen"})
    assert made.status_code == 201
    return made.json()["token"]


def test_a_code_is_short_enough_to_type_and_opens_the_wall_alone(code, chef):
    assert len(code) == 12
    assert code.isalnum()
    assert code.isupper()
    assert ok(look(code))["kitchen"] == "The kitchen here"
    assert Device.objects.get().used_at == clock.now()
    assert look(code, "/api/k/here/shelf").status_code == 401
    assert look(code, "/api/device/batch").status_code == 403
    [listed] = ok(chef("GET", "/api/k/here/devices"))
    assert listed["sends"] == "nothing"
    assert code not in str(listed)


def test_another_devices_token_opens_no_wall(chef):
    probe = chef("POST", "/api/k/here/devices", {"name": "silver", "kind": "probe"}).json()["token"]
    assert look(probe).status_code == 403
    assert look("ABCD2345EFGH").status_code == 401


def test_a_code_ends_when_it_is_taken_away_or_renewed_and_with_the_role_of_who_made_it(code, chef):
    key = Device.objects.get().pk
    renewed = ok(chef("POST", f"/api/k/here/devices/{key}/token"))["token"]
    assert (look(code).status_code, look(renewed).status_code) == (401, 200)
    Membership.objects.filter(user=User.objects.get(username="here-chef")).delete()
    refused = look(renewed)
    assert refused.status_code == 403
    assert "new code" in refused.json()["detail"]


def test_what_is_on_has_its_seconds_its_ring_and_what_must_be_seen(code, here, batch, there):
    state = LiveState.objects.get(batch=batch)
    follow.compute(batch.pk, state.due_at)
    document = LiveState.objects.get(batch=batch).document
    alarm = {"id": "0" * 32, "kind": "curdling", "say": "It curdles", "silenced": False}
    document |= {"then": "then off", "probe_c": 81.5, "alarms": [alarm, {**alarm, "silenced": True}]}
    LiveState.objects.filter(batch=batch).update(document=document, seconds=21, say="watch the spoon")
    with clock.at(MORNING + timedelta(seconds=3)):
        [shown] = ok(look(code))["batches"]
    assert (shown["say"], shown["then"], shown["seconds"]) == ("watch the spoon", "then off", 21)
    assert (shown["celsius"], shown["age_s"], shown["started_by"]) == (81.5, 3.0, "cook there")
    assert shown["alarms"] == [{"kind": "curdling", "say": "It curdles"}]


def test_what_is_next_is_said_with_whose_it_is(code, cook, wanted, version):
    with at(8 * 60):
        found = ok(look(code, "/api/wall/day"))["next"]
        planned = sorted(ok(cook("GET", DAY))["steps"], key=lambda one: one["begins"])
    assert [one["what"] for one in found] == [one["say"] for one in planned[: len(found)]]
    assert {one["whose"] for one in found} == {wanted["hands"][0]["name"]}
    times = [one["at"] for one in found]
    assert times == sorted(times)
    assert all(one.startswith("2026-03-05T") for one in times)


def test_the_evening_before_it_says_what_is_first_tomorrow(code, wanted):
    with at(-6 * 60):
        found = ok(look(code, "/api/wall/day"))["next"]
    assert found[0]["at"].startswith("2026-03-05T")
    with at(-30 * 60):
        assert ok(look(code, "/api/wall/day"))["next"] == []


def test_a_day_nobody_planned_has_nothing_next(code, cook, version):
    assert ok(look(code, "/api/wall/day"))["next"] == []


def test_what_must_go_today_is_there_and_no_more(code, tub):
    assert ok(look(code, "/api/wall/day"))["tubs"] == []
    with clock.at(tub.use_by - timedelta(minutes=5)):
        whites, line = ok(look(code, "/api/wall/day"))["tubs"]
    assert (whites["what"], whites["past"]) == ("egg whites", True)
    assert (line["what"], line["grams"], line["past"]) == (tub.name, 600, False)
    with clock.at(tub.use_by + timedelta(minutes=5)):
        found = ok(look(code, "/api/wall/day"))
    assert all(one["past"] for one in found["tubs"])
    assert found["unlabelled"] == 2
