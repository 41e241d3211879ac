"""Devices: a token shown once, taken away at will; weights that count once."""

from __future__ import annotations

import json
import uuid
from datetime import timedelta

import pytest
from common import clock
from devices.models import Device, Weight
from django.test import Client


@pytest.fixture
def token(chef):
    made = chef("POST", "/api/k/here/devices", {"name": "bench scale"}).json()
    return made["token"]


def send(token, **more):
    body = {"id": str(uuid.uuid4()), "at": clock.now().isoformat(), "grams": 412.5, **more}
    answer = Client().post(
        "/api/device/weights",
        json.dumps(body),
        content_type="application/json",
        headers={"Authorization": f"Bearer {token}"},
    )
    return answer.status_code


def test_only_the_hash_of_a_token_is_kept(token):
    device = Device.objects.get()
    assert token not in (device.token_hash, device.name)
    assert len(token) > 30


def test_the_kitchen_sees_what_its_scale_shows(chef, token):
    assert chef("GET", "/api/k/here/weight").json()["grams"] is None
    assert send(token) == 204
    assert chef("GET", "/api/k/here/weight").json()["grams"] == 412.5


def test_a_weight_sent_twice_counts_once(token):
    same = str(uuid.uuid4())
    assert send(token, id=same) == send(token, id=same, grams=1) == 204
    assert Weight.objects.get().grams == 412.5


def test_old_weights_are_not_what_it_shows_and_do_not_pile_up(chef, token):
    assert send(token, at=(clock.now() - timedelta(minutes=2)).isoformat()) == 204
    assert chef("GET", "/api/k/here/weight").json()["grams"] is None
    assert send(token, at=(clock.now() - timedelta(days=2)).isoformat()) == 204
    assert send(token) == 204
    assert Weight.objects.count() == 2


@pytest.mark.parametrize(
    "bad",
    [{"grams": 1e9}, {"grams": "heavy"}, {"at": "2999-01-01T00:00:00Z"}, {"id": "x"}, {"colour": "red"}],
)
def test_what_no_scale_says_is_refused(token, bad):
    assert send(token, **bad) == 422


def test_a_revoked_token_opens_nothing(chef, token):
    device = Device.objects.get()
    assert chef("POST", f"/api/k/here/devices/{device.pk}/revoke").json()["revoked_at"]
    assert send(token) == 401
    assert send("made-up") == 401
    assert chef("GET", "/api/k/here/weight").json()["grams"] is None
