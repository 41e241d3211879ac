"""The lane of players beside the usual way."""

from __future__ import annotations

import asyncio
import json
import time

import pytest
from django.db import connections
from practice import passes
from practice.lane import Lane
from practice.models import Acts

from tests.conftest import logged_in
from tests.practice.practising import K, acts, begun


async def sent(application, api, path, body, token=None):
    """A request as an ASGI server would make it; status and answer."""
    cookies = "; ".join(f"{name}={morsel.value}" for name, morsel in api.client.cookies.items())
    scope = {
        "type": "http",
        "method": "POST",
        "path": path,
        "query_string": b"",
        "headers": [
            (b"host", b"localhost"),
            (b"cookie", cookies.encode()),
            (b"content-type", b"application/json"),
            (b"x-csrftoken", (token or api.client.cookies["csrftoken"].value).encode()),
        ],
    }
    said = []
    received = iter([{"type": "http.request", "body": json.dumps(body).encode(), "more_body": False}])

    async def receive():
        return next(received)

    async def send(message):
        said.append(message)

    await application(scope, receive, send)
    return said[0]["status"], json.loads(said[1]["body"])


async def usual(scope, receive, send):
    """Stands for Django: says that it was asked, and with what."""
    body = (await receive())["body"]
    await send({"type": "http.response.start", "status": 299, "headers": []})
    await send({"type": "http.response.body", "body": body})


@pytest.fixture
def lane(transactional_db):
    passes.forget()
    made = Lane(usual, threads=1)
    yield made
    made.threads.submit(connections.close_all).result()
    made.threads.shutdown()


def test_the_lane_answers_those_with_a_pass_and_hands_everything_else_on(lane, trainee):
    attempt = begun(trainee)
    path = f"{K}/attempts/{attempt['id']}/acts"
    body = {"after": 0, "acts": [{"at": 0.1, "do": "flame", "to": 7}], "until": 0.2}

    def ask(body, **how):
        return asyncio.run(sent(lane, trainee, path, body, **how))

    assert ask(body) == (299, body)
    assert acts(trainee, attempt, 0, 0.2, *body["acts"]).status_code == 200
    status, shown = ask({"after": 1, "acts": [{"at": 0.3, "do": "flame", "to": 5}], "until": 0.4})
    assert (status, shown["after"], shown["picture"]["flame"]) == (200, 2, 5)
    assert acts(trainee, attempt, 2, 0.6).json()["after"] == 3
    assert ask({"after": 3, "acts": [], "until": 0.8}, token="x" * 32)[0] == 299
    assert ask({"after": 3, "acts": [{"at": 0.7, "do": "sing"}], "until": 0.8})[0] == 299
    assert ask({"after": 9, "acts": [], "until": 0.8})[0] == 299
    assert ask({"after": "many"})[0] == 299
    assert ask({"after": 3, "acts": [], "until": 0.8})[0] == 200
    kept = list(Acts.objects.values_list("number", "until_s"))
    assert kept == [(1, 0.2), (2, 0.4), (3, 0.6), (4, 0.8)]


def test_a_pass_is_one_persons_for_one_attempt_and_not_for_long(lane, trainee, monkeypatch):
    attempt, other = begun(trainee), logged_in("here-cook")
    acts(trainee, attempt, 0, 0.2)
    path = f"{K}/attempts/{attempt['id']}/acts"
    body = {"after": 1, "acts": [], "until": 0.4}
    assert asyncio.run(sent(lane, other, path, body))[0] == 299
    now = time.monotonic()
    monkeypatch.setattr(passes.time, "monotonic", lambda: now + passes.GOOD_FOR_S + 1)
    assert asyncio.run(sent(lane, trainee, path, body))[0] == 299
