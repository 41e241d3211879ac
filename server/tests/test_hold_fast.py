"""What an attack found: tokens, odd times, turned writing, races, and a database that is gone."""

from __future__ import annotations

import json
import re
import threading
import uuid
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from book import reads as book
from common import clock
from common.text import printable
from devices import actions as devices
from devices.models import Device, Reading
from django.core.management import call_command
from django.db import OperationalError, connection
from django.test import Client
from kitchen.models import AuditEntry, Kitchen, Membership
from psycopg_pool import PoolTimeout
from stove import actions as stove
from stove import marking, setting_up
from stove.models import ProbeUse
from stove.schemas import EquipmentWanted, NewMark

from tests.conftest import ANGLAISE, Api, formula_of, mark


def sends(kind: str, token: str, path: str, body: object) -> int:
    client = Api().client
    headers = {"Authorization": f"Bearer {token}"}
    return client.post(path, json.dumps(body), content_type="application/json", headers=headers).status_code


@pytest.fixture
def tokens(here):
    made = {kind: devices.new_token() for kind in ("scale", "probe")}
    for kind, token in made.items():
        devices.register(here["chef"], f"a {kind}", token, kind)
    return made


def test_a_token_is_good_for_its_own_kind_of_device(tokens):
    now = datetime.now(UTC).isoformat()
    weight = {"id": str(uuid.uuid4()), "at": now, "grams": 5}
    readings = {"readings": [{"at": now, "celsius": 70}]}
    assert sends("probe", tokens["probe"], "/api/device/weights", weight) == 403
    assert sends("scale", tokens["scale"], "/api/device/readings", readings) == 403
    assert sends("scale", tokens["scale"], "/api/device/weights", weight) == 204
    assert sends("probe", tokens["probe"], "/api/device/readings", readings) == 200


def test_a_weight_with_another_scale_s_id_is_told_and_not_dropped(here, there, tokens):
    token = devices.new_token()
    devices.register(there["chef"], "theirs", token)
    weight = {"id": str(uuid.uuid4()), "at": datetime.now(UTC).isoformat(), "grams": 5}
    assert sends("scale", tokens["scale"], "/api/device/weights", weight) == 204
    assert sends("scale", token, "/api/device/weights", weight) == 409
    assert sends("scale", tokens["scale"], "/api/device/weights", weight) == 204


@pytest.mark.parametrize("at", ["0001-01-01T00:00:00Z", "1999-12-31T23:59:59Z", "9999-12-31T23:59:59-12:00"])
def test_times_that_no_clock_shows_are_refused_by_their_field(tokens, cook, batch, at):
    readings = {"readings": [{"at": at, "celsius": 70}]}
    assert sends("probe", tokens["probe"], "/api/device/readings", readings) == 422
    answer = cook("POST", f"/api/k/here/batches/{batch.pk}/marks", {**mark(), "at": at})
    assert answer.status_code == 422
    assert answer.json()["fields"][0]["field"] == "at"


def test_a_time_of_a_place_that_is_none_is_its_moment(tokens):
    """A device said +19:47, which no database takes."""
    readings = {"readings": [{"at": "2026-01-02T00:00:00+19:47", "celsius": 70}]}
    assert sends("probe", tokens["probe"], "/api/device/readings", readings) == 200
    assert Reading.objects.get().at == datetime(2026, 1, 1, 4, 13, tzinfo=UTC)


@pytest.mark.parametrize("turned", ["\u202e", "\u2066", "\u202a"])
def test_names_cannot_turn_the_writing_round(chef, turned):
    with pytest.raises(ValueError, match="cannot be printed"):
        printable(f"gnp{turned}exe")
    answer = chef("POST", "/api/k/here/formulas", {"draft": {**ANGLAISE, "name": f"a{turned}b"}})
    assert answer.status_code == 422


def test_a_mark_sent_again_is_no_second_line_in_the_audit(here, batch):
    new = NewMark(id=uuid.uuid4(), kind="moment", stage="cook", at=clock.now())
    for _ in range(3):
        marking.mark(here["cook"], batch.pk, new)
    assert AuditEntry.objects.filter(action="batch.mark").count() == 1


def at_once(*what: Callable[[], object]) -> list[object]:
    """What comes of doing things in as many threads at the same moment."""
    gate, found = threading.Barrier(len(what)), [None] * len(what)

    def run(number: int, do: Callable[[], object]) -> None:
        try:
            gate.wait(timeout=10)
            found[number] = do()
        except Exception as error:  # what came of it is for the test to judge
            found[number] = error
        finally:
            connection.close()

    threads = [threading.Thread(target=run, args=one) for one in enumerate(what)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(timeout=30)
    return found


@pytest.mark.django_db(transaction=True)
def test_a_probe_put_into_many_batches_at_once_lies_in_one(here, version):
    actor = here["cook"]
    probe = devices.register(here["chef"], "silver", devices.new_token(), "probe")
    batches = [stove.start(actor, version.formula_id, 1, formula_of(ANGLAISE)) for _ in range(4)]
    wanted = EquipmentWanted(probe_id=probe.pk)
    for _ in range(4):
        found = at_once(*(lambda one=one: setting_up.set_up(actor, one.pk, wanted) for one in batches))
        assert not [one for one in found if isinstance(one, Exception)]
        assert ProbeUse.objects.filter(device=probe, until=None).count() == 1


@pytest.mark.django_db(transaction=True)
def test_one_mark_sent_to_many_batches_at_once_is_one_batch_s(here, version):
    actor = here["cook"]
    batches = [stove.start(actor, version.formula_id, 1, formula_of(ANGLAISE)) for _ in range(4)]
    for _ in range(4):
        new = NewMark(id=uuid.uuid4(), kind="moment", stage="cook", at=clock.now())
        found = at_once(*(lambda one=one, new=new: marking.mark(actor, one.pk, new) for one in batches))
        refused = [one for one in found if isinstance(one, Exception)]
        assert len(refused) == 3
        assert {type(one).__name__ for one in refused} == {"Conflict"}


def test_a_renamed_kitchen_is_still_the_same_to_add_a_person_to(here, monkeypatch, capsys):
    Kitchen.objects.filter(slug="here").update(name="The new name")
    monkeypatch.setenv("OLDSPOON_PASSWORD", "a-long-enough-one")
    call_command("add_person", "someone", "--kitchen", "The new name", "--role", "cook")
    assert Kitchen.objects.count() == 1
    assert Membership.objects.filter(user__username="someone", kitchen__slug="here").exists()
    call_command("add_person", "someone", "--kitchen", "The new name", "--role", "chef")
    assert "the password given is not used" in capsys.readouterr().out


@pytest.mark.parametrize("error", [OperationalError("gone"), PoolTimeout("none to be had")])
def test_without_the_database_one_is_told_to_come_again(chef, monkeypatch, error):
    def gone(*_: object) -> None:
        raise error

    monkeypatch.setattr(book, "page", gone)
    answer = chef("GET", "/api/k/here/formulas")
    assert answer.status_code == 503
    assert answer["Retry-After"] == "2"
    assert "kept on this device" in answer.json()["detail"]


def test_a_token_can_be_changed_and_the_old_one_is_good_for_nothing(here, chef, tokens):
    device = Device.objects.get(kind="probe", kitchen__slug="here")
    reading = {"readings": [{"at": clock.now().isoformat(), "celsius": 60}]}
    assert sends("probe", tokens["probe"], "/api/device/readings", reading) == 200
    made = chef("POST", f"/api/k/here/devices/{device.pk}/token").json()
    assert made["token"] != tokens["probe"]
    assert made["rotated_at"]
    assert sends("probe", tokens["probe"], "/api/device/readings", reading) == 401
    assert sends("probe", made["token"], "/api/device/readings", reading) == 200
    listed = {one["id"]: one for one in chef("GET", "/api/k/here/devices").json()}[device.pk]
    assert (listed["sends"], listed["used_at"] is not None) == ("readings", True)
    chef("POST", f"/api/k/here/devices/{device.pk}/revoke")
    assert chef("POST", f"/api/k/here/devices/{device.pk}/token").status_code == 409


@pytest.mark.parametrize(
    ("off", "status", "said"), [(61, 422, "61 min ahead"), (-61, 200, "61 min behind"), (0, 200, "")]
)
def test_a_device_whose_clock_is_wrong_is_told_and_the_kitchen_sees_it(here, chef, tokens, off, status, said):
    at = (clock.now() + timedelta(minutes=off)).isoformat()
    answer = Client().post(
        "/api/device/readings",
        json.dumps({"readings": [{"at": at, "celsius": 60}]}),
        content_type="application/json",
        headers={"Authorization": f"Bearer {tokens['probe']}"},
    )
    assert answer.status_code == status
    assert said in answer.content.decode()
    listed = {one["kind"]: one for one in chef("GET", "/api/k/here/devices").json()}["probe"]
    assert (said in listed["clock"]) if said else listed["clock"] == ""


def test_a_mark_never_goes_out_under_another_s_name(here, batch, cook):
    made = {**mark("moment", "cook"), "by": "somebody-else"}
    answer = cook("POST", f"/api/k/here/batches/{batch.pk}/marks", made)
    assert (answer.status_code, answer.json()["type"]) == (409, "someone-else")
    mine = {**made, "by": here["cook"].user.username}
    assert cook("POST", f"/api/k/here/batches/{batch.pk}/marks", mine).status_code == 200


def test_the_page_is_not_there_while_the_database_is_gone(here, settings, tmp_path, monkeypatch):
    (tmp_path / "index.html").write_text('<meta name="style-nonce" content="">')
    settings.WEB_DIST = tmp_path
    answer = Client().get("/")
    nonce = re.search(r'content="(\S+)"', answer.content.decode())[1]
    assert answer.status_code == 200
    assert f"style-src 'self' 'nonce-{nonce}'" in answer["Content-Security-Policy"]

    def gone(*_: object) -> None:
        raise OperationalError("connection refused")

    with monkeypatch.context() as patch:
        patch.setattr("oldspoon.page.connection.cursor", gone)
        answer = Client().get("/")
    assert (answer.status_code, answer["Retry-After"]) == (503, "2")
    assert "Marks that were made are kept" in answer.content.decode()


def test_no_lock_stands_in_the_way_of_a_foreign_key():
    """A chain is held while a transaction ends, when foreign keys are looked at: whoever locks their row and
    then waits for the chain would wait for ever."""
    server = Path(__file__).parents[1]
    locks = [
        (path.name, found)
        for path in server.glob("*/*.py")
        if path.parent.name != "tests"
        for found in re.findall(r"select_for_update\((.*?)\)\.", path.read_text("utf-8"), re.DOTALL)
    ]
    assert len(locks) > 20
    assert not [one for one in locks if "no_key=True" not in one[1]]
