"""Wrong passwords lock a name only where it is not known; who is logged in stays so; a chef can lift it."""

from __future__ import annotations

from contextlib import contextmanager
from datetime import timedelta

import pytest
from common import clock
from people import actions, guessing, known

from tests.conftest import PASSWORD, Api
from tests.test_crew import by_password, person

TRIES = 7


def tries(api: Api, username: str, password: str = "wrong-wrong-wrong") -> int:  # noqa: S107 of a test
    body = {"username": username, "password": password}
    return api("POST", "/api/session", body).status_code


def attacked(username: str) -> list[int]:
    """What a stranger is told who guesses."""
    stranger = Api()
    return [tries(stranger, username) for _ in range(TRIES)]


def test_a_stranger_who_guesses_locks_out_strangers_and_not_the_device_that_knows_the_name(here):
    tablet = by_password("here-cook")
    assert 429 in attacked("here-cook")
    assert tries(Api(), "here-cook", PASSWORD) == 429
    # Who is logged in stays so, and logs in again where they did before.
    assert tablet("GET", "/api/kitchens").status_code == 200
    tablet("DELETE", "/api/session")
    assert tries(tablet, "here-cook", PASSWORD) == 200


def test_a_device_that_knows_one_name_is_a_stranger_to_the_others(here):
    tablet = by_password("here-cook")
    attacked("here-chef")
    assert tries(tablet, "here-chef", PASSWORD) == 429


def test_a_known_device_may_not_guess_for_ever(here):
    tablet = by_password("here-cook")
    tablet("DELETE", "/api/session")
    assert 429 in [tries(tablet, "here-cook") for _ in range(TRIES)]


def test_a_cookie_of_one_s_own_making_is_none(here):
    stranger = Api()
    stranger.client.cookies[known.COOKIE] = "eyJkZXZpY2UiOiJ4In0:forged:signature"
    attacked("here-cook")
    assert tries(stranger, "here-cook", PASSWORD) == 429


def test_a_chef_lifts_it(here):
    chef = by_password("here-chef")
    attacked("here-cook")
    listed = {one["username"]: one for one in chef("GET", "/api/k/here/people").json()["people"]}
    assert (listed["here-cook"]["locked"], listed["here-viewer"]["locked"]) == (True, False)
    key = person("here-cook").pk
    assert chef("POST", f"/api/k/here/people/{key}/unlock").status_code == 200
    assert tries(Api(), "here-cook", PASSWORD) == 200


@pytest.mark.parametrize(
    ("wrong", "left"), [(4, 0), (5, 30), (6, 60), (7, 120), (9, 480), (10, 900), (500, 900)]
)
def test_each_wrong_password_makes_one_wait_longer(wrong, left):
    now = clock.now()
    assert guessing.wait_s(wrong, now, now) == left
    assert guessing.wait_s(wrong, now - timedelta(seconds=left), now) == 0


def test_the_wait_is_said_and_over_when_it_is_over(here):
    stranger = Api()
    for _ in range(guessing.FREE):
        assert tries(stranger, "here-cook") == 401
    body = {"username": "here-cook", "password": PASSWORD}
    answer = stranger("POST", "/api/session", body)
    assert (answer.status_code, int(answer["Retry-After"])) == (429, 30)
    assert "Try again in 30 seconds." in answer.json()["detail"]
    with clock.at(clock.now() + timedelta(seconds=31)):
        assert tries(stranger, "here-cook") == 401
        # That one cost a minute.
        assert stranger("POST", "/api/session", body).status_code == 429
    with clock.at(clock.now() + timedelta(seconds=95)):
        assert tries(stranger, "here-cook", PASSWORD) == 200
    # Who knew it at last begins with a clean slate.
    stranger("DELETE", "/api/session")
    assert tries(stranger, "here-cook") == 401


def test_of_many_that_come_at_once_those_behind_pay_for_those_before(here, monkeypatch):
    """Forty at once were all let by before the first was counted."""
    seen = []

    @contextmanager
    def turn():
        # While this one waited for its turn, others were wrong.
        if not seen:
            seen.append(1)
            attacked("here-cook")
        yield

    monkeypatch.setattr(actions, "in_turn", turn)
    assert tries(Api(), "here-cook", PASSWORD) == 429
