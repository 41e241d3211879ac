"""Changing hands at a shared tablet: what a PIN opens, and what only a password does."""

from __future__ import annotations

import pytest
from kitchen.models import AuditEntry, Membership, Role
from people import hands
from stove.models import Mark

from tests.conftest import PASSWORD, Api, by_password, logged_in, mark, person


def with_pin(username: str, pin: str = "2580") -> dict:
    user = person(username)
    hands.set_pin(user, pin)
    return {"person_id": user.pk, "pin": pin}


def test_hands_change_and_marks_are_whose_they_are(here, batch):
    tablet = logged_in("here-cook")
    taking = with_pin("here-chef")
    assert [one["title"] for one in tablet("GET", "/api/k/here/hands").json()] == ["chef there"]
    changed = tablet("POST", "/api/k/here/hands", taking)
    assert changed.json()["person"]["by_pin"]
    known = mark()
    assert tablet("POST", f"/api/k/here/batches/{batch.pk}/marks", known).status_code == 200
    assert Mark.objects.get(pk=known["id"]).by == person("here-chef")
    entry = AuditEntry.objects.filter(action="crew.hands").get()
    assert entry.subject == "from cook there to chef there"


def test_a_pin_opens_less_than_a_password(here):
    tablet = logged_in("here-cook")
    tablet("POST", "/api/k/here/hands", with_pin("here-chef"))
    for method, path, body in (
        ("POST", "/api/k/here/invitations", {"role": "chef", "title": "me"}),
        ("PATCH", f"/api/k/here/people/{person('here-cook').pk}", {"role": "chef"}),
        ("DELETE", f"/api/k/here/people/{person('here-viewer').pk}", None),
        ("PUT", "/api/me/password", {"old": PASSWORD, "new": "another-long-one"}),
        ("PUT", "/api/me/pin", {"pin": "9173"}),
        ("PATCH", "/api/me", {"title": "somebody else"}),
        ("DELETE", "/api/me/sessions", None),
        ("POST", "/api/kitchens/begin", {"name": "Mine", "altitude_m": 0}),
        ("POST", "/api/k/here/throw-away", None),
        ("POST", "/api/kitchens/here/bring-back", None),
        ("POST", "/api/k/here/people/taken-off/1/back", None),
        ("PATCH", "/api/k/here", {"altitude_m": 900}),
        ("POST", "/api/k/here/devices", {"name": "mine", "kind": "probe"}),
        ("POST", "/api/k/here/calendar", None),
    ):
        refused = tablet(method, path, body)
        assert refused.status_code == 403, path
        assert "password" in refused.json()["detail"]


def test_a_pin_opens_its_own_kitchen_alone(here, there):
    """Whoever looks over a shoulder in one kitchen reads nothing of the other one that person has."""
    Membership.objects.create(user=person("here-chef"), kitchen=there["chef"].kitchen, role=Role.CHEF)
    by_word = by_password("here-chef")
    assert [one["slug"] for one in by_word("GET", "/api/kitchens").json()] == ["here", "there"]
    assert by_word("GET", "/api/k/there").status_code == 200
    tablet = logged_in("here-cook")
    tablet("POST", "/api/k/here/hands", with_pin("here-chef"))
    assert [one["slug"] for one in tablet("GET", "/api/kitchens").json()] == ["here"]
    assert tablet("GET", "/api/k/here").status_code == 200
    for path in ("/api/k/there", "/api/k/there/audit", "/api/k/there/formulas"):
        assert tablet("GET", path).status_code == 404
    assert tablet("POST", "/api/k/there/calendar").status_code in (403, 404)


def test_a_pin_joins_no_other_kitchen(here, there):
    made = logged_in("there-chef")("POST", "/api/k/there/invitations", {"role": "chef", "title": "me"})
    path = f"/api/invitations/{made.json()['token']}"
    tablet = logged_in("here-cook")
    tablet("POST", "/api/k/here/hands", with_pin("here-chef"))
    refused = tablet("POST", path, {})
    assert refused.status_code == 403
    assert "password" in refused.json()["detail"]
    assert by_password("here-chef")("POST", path, {}).status_code == 200


def test_wrong_pins_lock_it_until_the_password_is_used(here):
    tablet = logged_in("here-cook")
    taking = with_pin("here-chef")
    for _ in range(hands.MOST_WRONG):
        assert tablet("POST", "/api/k/here/hands", {**taking, "pin": "0417"}).status_code == 401
    assert tablet("POST", "/api/k/here/hands", taking).status_code == 429
    assert tablet("GET", "/api/session").json()["person"]["username"] == "here-cook"
    assert Api().log_in("here-chef").status_code == 200
    assert tablet("POST", "/api/k/here/hands", taking).status_code == 200


def test_another_pin_ends_what_the_old_one_opened(here):
    tablet, chef = logged_in("here-cook"), by_password("here-chef")
    tablet("POST", "/api/k/here/hands", with_pin("here-chef"))
    assert tablet("GET", "/api/kitchens").status_code == 200
    assert chef("PUT", "/api/me/pin", {"pin": "9173"}).status_code == 200
    assert tablet("GET", "/api/kitchens").status_code == 401
    assert chef("GET", "/api/kitchens").status_code == 200


@pytest.mark.parametrize("pin", ["1234", "7777", "98765", "12", "123456789", "abcd", "١٢٤٧"])
def test_a_pin_anybody_would_try_is_refused(here, chef, pin):
    refused = chef("PUT", "/api/me/pin", {"pin": pin})
    assert refused.status_code == 422
    assert refused.json()["fields"][0]["field"] == "pin"


def test_who_is_of_another_kitchen_takes_nothing_over(here, there):
    taking = with_pin("there-chef")
    assert logged_in("here-cook")("POST", "/api/k/here/hands", taking).status_code == 404
