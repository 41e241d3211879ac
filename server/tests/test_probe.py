"""Probes: readings that count once, in any order, and lie in the batch whose time they fall into."""

from __future__ import annotations

import json
from datetime import timedelta

import pytest
from common import clock
from devices import actions as devices
from devices.models import Reading
from django.test import Client
from stove import actions as stove
from stove.live import follow

from tests.conftest import ANGLAISE, formula_of, mark


@pytest.fixture
def token(here):
    made = devices.new_token()
    devices.register(here["chef"], "silver probe", made, "probe")
    return made


@pytest.fixture
def probe(here, token):
    return here["chef"].kitchen.devices.get()


def post(token, readings):
    return Client().post(
        "/api/device/readings",
        json.dumps({"readings": readings}),
        content_type="application/json",
        headers={"Authorization": f"Bearer {token}"},
    )


def reading(celsius=70.0, ago_s=0.0):
    return {"at": (clock.now() - timedelta(seconds=ago_s)).isoformat(), "celsius": celsius}


def test_a_reading_sent_twice_counts_once(token):
    one, other = reading(70), reading(71, 1)
    assert post(token, [one]).json() == {"new": 1, "clock": ""}
    assert post(token, [other, {**one, "celsius": 99}]).json() == {"new": 1, "clock": ""}
    assert sorted(Reading.objects.values_list("celsius", flat=True)) == [70, 71]


@pytest.mark.parametrize(
    "bad",
    [
        {"celsius": 300},
        {"celsius": "hot"},
        {"celsius": float("nan")},
        {"at": "2999-01-01T00:00:00Z"},
        {"at": "yesterday"},
        {"colour": "red"},
    ],
)
def test_a_bad_reading_is_named_and_nothing_is_taken(token, bad):
    answer = post(token, [reading(), {**reading(ago_s=1), **bad}])
    assert answer.status_code in (400, 422)
    if answer.status_code == 422:
        assert answer.json()["fields"][0]["field"].startswith("readings[1]")
    assert not Reading.objects.exists()


def test_a_revoked_probe_is_not_heard(here, token, probe):
    devices.revoke(here["chef"], probe.pk)
    assert post(token, [reading()]).status_code == 401


def cook_with_probe(cook, batch, probe):
    answer = cook("PUT", f"/api/k/here/batches/{batch.pk}/setup", {"probe_id": probe.pk})
    assert answer.status_code == 200, answer.content
    for stage in ("weigh", "warm", "temper"):
        cook("POST", f"/api/k/here/batches/{batch.pk}/marks", mark("done", stage))


def live(api, batch):
    follow.compute(batch.pk)
    answer = api("GET", f"/api/k/here/batches/{batch.pk}/live")
    assert answer.status_code == 200, answer.content
    return answer.json()


def test_what_a_probe_reads_is_its_batch_s_from_when_it_was_put_in(cook, batch, token, probe):
    post(token, [reading(20, 5)])
    cook_with_probe(cook, batch, probe)
    assert live(cook, batch)["probe_c"] is None
    post(token, [reading(66)])
    assert live(cook, batch)["probe_c"] == 66


def test_a_probe_lies_in_one_batch_at_a_time(here, cook, batch, version, probe):
    other = stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    cook_with_probe(cook, batch, probe)
    cook_with_probe(cook, other, probe)
    assert cook("GET", f"/api/k/here/batches/{batch.pk}").json()["probe_id"] is None
    assert cook("GET", f"/api/k/here/batches/{other.pk}").json()["probe"] == "silver probe"


def test_another_kitchen_s_probe_and_hob_are_refused(here, there, cook, batch):
    strange = devices.register(there["chef"], "theirs", devices.new_token(), "probe")
    answer = cook("PUT", f"/api/k/here/batches/{batch.pk}/setup", {"probe_id": strange.pk})
    assert answer.json()["fields"][0]["field"] == "probe_id"
    answer = cook("PUT", f"/api/k/here/batches/{batch.pk}/setup", {"hob_id": 99})
    assert answer.json()["fields"][0]["field"] == "hob_id"


def test_a_silent_probe_is_said(cook, batch, token, probe):
    cook_with_probe(cook, batch, probe)
    post(token, [reading(66)])
    assert live(cook, batch)["alarms"] == []
    with clock.at(clock.now() + timedelta(seconds=30)):
        told = live(cook, batch)
    assert [alarm["kind"] for alarm in told["alarms"]] == ["probe-lost"]
    quiet = mark("silence", "cook", what="probe-lost")
    cook("POST", f"/api/k/here/batches/{batch.pk}/marks", quiet)
    with clock.at(clock.now() + timedelta(seconds=30)):
        assert live(cook, batch)["alarms"][0]["silenced"]


def test_the_same_alarm_logged_by_two_screens_is_one_mark(cook, batch, token, probe):
    cook_with_probe(cook, batch, probe)
    same = mark("alarm", "cook", what="lift-now")
    for _ in range(2):
        cook("POST", f"/api/k/here/batches/{batch.pk}/marks", same)
    marks = cook("GET", f"/api/k/here/batches/{batch.pk}").json()["marks"]
    assert [m["what"] for m in marks if m["kind"] == "alarm"] == ["lift-now"]


def test_the_pour_plan_follows_the_school_that_was_chosen_when_it_was_taken(here, chef, batch):
    formula = batch.version.formula_id
    chef("PUT", f"/api/k/here/formulas/{formula}/schools", {"schools": {"temper": "ladle"}})
    stream = chef("GET", f"/api/k/here/batches/{batch.pk}/pours").json()
    assert stream["school"] == "stream"
    assert stream["g_per_s"] > 0
    later = stove.start(here["cook"], formula, 1, formula_of(ANGLAISE))
    ladles = chef("GET", f"/api/k/here/batches/{later.pk}/pours?ladle_g=50").json()
    assert ladles["school"] == "ladle"
    assert {pour["poured_g"] for pour in ladles["pours"][:-1]} == {50}
    assert [pour["bowl_c"] for pour in ladles["pours"]] == sorted(pour["bowl_c"] for pour in ladles["pours"])
    assert ladles["to_heat_s"] > 20
    assert 0 < ladles["to_go_k"] < 40


def test_every_pour_and_every_sign_can_be_ticked(cook, batch):
    path = f"/api/k/here/batches/{batch.pk}"
    pours = cook("GET", f"{path}/pours").json()["pours"]
    signs = next(stage for stage in batch.plan["stages"] if stage["stage"] == "cook")["signs"]
    assert len(pours) > len(batch.plan["slip"])
    marks = [mark("pour", "temper", line=line) for line in range(len(pours))]
    for new in [*marks, *(mark("sign", "cook", what=sign["sign"]) for sign in signs)]:
        answer = cook("POST", f"{path}/marks", new)
        assert answer.status_code < 300, answer.content


def test_the_probe_may_read_its_batch_and_no_other(cook, batch, token, probe):
    def told():
        answer = Client().get("/api/device/batch", headers={"Authorization": f"Bearer {token}"})
        assert answer.status_code == 200, answer.content
        return answer.json()

    assert told()["batch"] is None
    cook_with_probe(cook, batch, probe)
    assert told()["batch"] == batch.pk
    assert told()["cooks_since"] is not None
    assert [m["kind"] for m in told()["marks"]] == ["done"] * 3
