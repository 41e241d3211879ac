"""What an attack found: strangers that cost too much, odd bodies, odd times, and races."""

from __future__ import annotations

import asyncio
import json
import re
import threading
import uuid
from collections.abc import Callable
from datetime import UTC, datetime, timedelta

import pytest
from book import reads as book
from common import clock
from common.text import printable
from devices import actions as devices
from devices.models import Device, Reading
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management import call_command
from django.db import OperationalError, connection
from django.test import Client
from kitchen.models import AuditEntry, Kitchen, Membership
from oldspoon.bounded import Bounded
from people import actions as people
from people.models import User
from people.published import PASSWORD as PUBLISHED
from psycopg_pool import PoolTimeout
from stove import actions as stove
from stove.models import ProbeUse
from stove.schemas import EquipmentWanted, NewMark

from tests.conftest import ANGLAISE, Api, formula_of, logged_in, mark


def test_guessing_is_throttled_by_address_whatever_the_names(here, monkeypatch):
    monkeypatch.setattr(people, "MOST_FROM_ONE_ADDRESS", 6)
    for number in range(6):
        assert Api().log_in(f"nobody-{number}", "wrong").status_code == 401
    assert Api().log_in("here-cook").status_code == 429
    elsewhere = Api()
    elsewhere.client.defaults |= {"REMOTE_ADDR": "10.1.2.3"}
    assert elsewhere.log_in("here-cook").status_code == 200


@pytest.mark.parametrize("address", ["", "not an address", "1.2.3.4, 5.6.7.8"])
def test_a_false_address_is_no_error(here, address):
    api = Api()
    api.client.defaults |= {"REMOTE_ADDR": address}
    assert api.log_in("here-cook", "wrong").status_code == 401


def test_only_so_many_passwords_are_checked_at_once(here, monkeypatch):
    monkeypatch.setattr(people, "QUEUED_S", 0.01)
    monkeypatch.setattr(people, "_AT_ONCE", threading.BoundedSemaphore(1))
    with people._AT_ONCE:
        answer = Api().log_in("here-cook")
        assert answer.status_code == 429
        assert "at once" in answer.json()["detail"]
    assert Api().log_in("here-cook").status_code == 200


def test_a_mebibyte_or_two_is_enough_for_a_password(settings):
    from oldspoon import settings as shipped  # noqa: PLC0415 as shipped, not as the tests have it

    settings.PASSWORD_HASHERS = shipped.PASSWORD_HASHERS
    from django.contrib.auth.hashers import check_password, make_password  # noqa: PLC0415

    kept = make_password("a-long-enough-one")
    assert "m=19456,t=2,p=1" in kept
    assert check_password("a-long-enough-one", kept)


def asked(application: Callable, headers: list[tuple[bytes, bytes]], chunks: list[bytes]):
    """What an ASGI application answers to a body that comes in chunks, and how many it took."""
    sent, taken = [], []

    async def receive():
        taken.append(1)
        more = len(taken) < len(chunks)
        return {"type": "http.request", "body": chunks[len(taken) - 1], "more_body": more}

    async def send(message):
        sent.append(message)

    scope = {"type": "http", "headers": headers, "path": "/api/x", "method": "POST"}
    asyncio.run(Bounded(application)(scope, receive, send))
    return sent, len(taken)


async def reads_all(scope, receive, send):
    while (await receive()).get("more_body"):
        pass
    await send({"type": "http.response.start", "status": 200, "headers": []})


CHUNK = b"x" * 100_000


def test_a_body_is_cut_off_while_it_comes_in():
    sent, taken = asked(reads_all, [], [CHUNK] * 400)
    assert sent[0]["status"] == 413
    assert taken == 11
    assert "1 MB" in json.loads(sent[1]["body"])["detail"]


def test_a_body_said_to_be_too_long_is_not_read_at_all():
    sent, taken = asked(reads_all, [(b"content-length", b"400000000")], [CHUNK])
    assert (sent[0]["status"], taken) == (413, 0)
    assert asked(reads_all, [(b"content-length", b"300000")], [CHUNK] * 3)[0][0]["status"] == 200


ODD_BODIES = {
    "no boundary": ("multipart/form-data", b"x=1"),
    "broken": ("multipart/form-data; boundary=b", b"--b\r\nnonsense"),
    "1100 fields": ("application/x-www-form-urlencoded", b"&".join(b"f%d=1" % n for n in range(1100))),
}


@pytest.mark.parametrize(("kind", "body"), ODD_BODIES.values(), ids=ODD_BODIES)
@pytest.mark.parametrize("path", ["/api/session", "/api/k/here/batches", "/api/device/readings"])
def test_odd_bodies_of_strangers_are_refused(here, kind, body, path):
    client = Api().client
    answer = client.generic("POST", path, body, content_type=kind)
    assert 400 <= answer.status_code < 500
    assert answer["content-type"] == "application/problem+json"


def test_thousands_of_unknown_keys_get_a_short_answer(chef):
    body = {"draft": ANGLAISE} | {f"key {number}": 1 for number in range(5000)}
    answer = chef("POST", "/api/k/here/formulas", body)
    assert answer.status_code == 422
    assert len(answer.json()["fields"]) == 20
    assert len(answer.content) < 5000


def test_what_cannot_be_done_says_what_can(here):
    answer = logged_in("here-chef")("PUT", "/api/session")
    assert answer.status_code == 405
    assert "GET" in answer["Allow"]


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
        stove.mark(here["cook"], batch.pk, new)
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
        found = at_once(*(lambda one=one: stove.set_up(actor, one.pk, wanted) for one in batches))
        assert not [one for one in found if isinstance(one, Exception)]
        assert ProbeUse.objects.filter(device=probe, until=None).count() == 1


@pytest.mark.django_db(transaction=True)
def test_one_mark_sent_to_many_batches_at_once_is_one_batch_s(here, version):
    actor = here["cook"]
    batches = [stove.start(actor, version.formula_id, 1, formula_of(ANGLAISE)) for _ in range(4)]
    for _ in range(4):
        new = NewMark(id=uuid.uuid4(), kind="moment", stage="cook", at=clock.now())
        found = at_once(*(lambda one=one, new=new: stove.mark(actor, one.pk, new) for one in batches))
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


@pytest.mark.parametrize(
    ("address", "more"),
    [
        ("203.0.113.9", {}),
        ("127.0.0.1", {"X-Forwarded-For": "203.0.113.9"}),
        ("127.0.0.1", {"Host": "kitchen.example"}),
    ],
)
def test_the_published_password_opens_nothing_from_elsewhere(here, settings, address, more):
    settings.ALLOWED_HOSTS = ["*"]
    somebody = User.objects.create_user("demo", password=PUBLISHED)

    def tried(address: str, more: dict[str, str]) -> int:
        client = Client()
        body = json.dumps({"username": somebody.username, "password": PUBLISHED})
        known = {"Host": "127.0.0.1:8000", **more}
        return client.post(
            "/api/session", body, content_type="application/json", REMOTE_ADDR=address, headers=known
        ).status_code

    assert tried(address, more) == 403
    assert tried("127.0.0.1", {}) == 200


def test_nobody_takes_the_published_password_for_their_own():
    with pytest.raises(ValidationError, match="everyone knows"):
        validate_password(PUBLISHED)


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
