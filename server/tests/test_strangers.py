"""Who gets in, and what a stranger can cost: guessed passwords, huge and odd bodies, a published password."""

from __future__ import annotations

import asyncio
import json
import threading
from collections.abc import Callable

import pytest
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.test import Client
from oldspoon.bounded import Bounded
from people import actions as people
from people.models import User
from people.published import PASSWORD as PUBLISHED

from tests.conftest import ANGLAISE, Api, logged_in


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


CHUNK = b"x" * 100_000


async def reads_all(scope, receive, send):
    while (await receive()).get("more_body"):
        pass
    await send({"type": "http.response.start", "status": 200, "headers": []})


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


@pytest.mark.parametrize("kind", ["multipart/form-data; boundary=b", "text/plain", "application/xml"])
def test_a_body_that_is_no_json_is_told_so_also_to_whoever_is_logged_in(chef, kind):
    for path in ("/api/k/here/formulas", "/api/k/here/assess", "/api/me"):
        answer = chef.client.generic("POST", path, b'{"a": 1}', content_type=kind)
        assert answer.status_code == 415, path
        assert "application/json" in answer.json()["detail"]


def test_an_address_with_a_character_that_no_text_has_leads_nowhere(chef):
    for path in ("/api/k/he%00re", "/api/k/here/batches/1%00", "/api/k/here/formulas/%00"):
        assert chef("GET", path).status_code == 404


def test_no_browser_keeps_what_the_api_says(chef):
    for path in ("/api/kitchens", "/api/k/here/batches", "/api/k/here/nothing", "/api/session"):
        assert "no-store" in chef("GET", path)["Cache-Control"]


def test_a_number_that_nothing_can_have_is_refused(chef, version):
    path = f"/api/k/here/formulas/{version.formula_id}/next-time"
    for batch in (-1, 0, 2**31, 2**63, 10**30):
        assert chef("POST", path, {"say": "less sugar", "batch": batch}).status_code == 422
    for key in (2**63, 10**30):
        assert chef("GET", f"/api/k/here/batches/{key}").status_code in (404, 422)


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
