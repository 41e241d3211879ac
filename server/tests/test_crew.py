"""The people of a kitchen: inviting, roles, taking off, one's own things, new kitchens."""

from __future__ import annotations

from datetime import timedelta

import pytest
from common import clock
from kitchen import access, audit, beginning, crew, soft_delete
from kitchen.models import Invitation, Kitchen, Membership
from stove import actions as stove

from tests.conftest import ANGLAISE, PASSWORD, Api, by_password, formula_of, logged_in, person, rewrite

BACK = "/api/k/here/people/taken-off"
NEW = {"username": "newcomer", "title": "commis", "password": "a-long-enough-one"}


def invited(chef: Api, role: str = "cook") -> str:
    made = chef("POST", "/api/k/here/invitations", {"role": role, "title": "commis"})
    assert made.status_code == 201
    return made.json()["token"]


# Inviting


def test_a_link_lets_one_person_in_once(here, chef):
    token = invited(chef)
    newcomer = Api()
    told = newcomer("GET", f"/api/invitations/{token}").json()
    assert told["kitchen"] == "The kitchen here"
    assert told["role"] == "cook"
    joined = newcomer("POST", f"/api/invitations/{token}", NEW)
    assert joined.json()["person"]["title"] == "commis"
    assert newcomer("GET", "/api/kitchens").json()[0]["role"] == "cook"
    again = Api()("POST", f"/api/invitations/{token}", {**NEW, "username": "another"})
    assert again.status_code == 404
    assert "Ask for another" in again.json()["detail"]
    assert token not in str(list(Invitation.objects.values()))


def test_an_invitation_runs_out_and_can_be_taken_back(here, chef):
    token = invited(chef)
    with clock.at(clock.now() + crew.OPEN_FOR + timedelta(minutes=1)):
        assert Api()("POST", f"/api/invitations/{token}", NEW).status_code == 404
    made = chef("GET", "/api/k/here/people").json()["invitations"][0]
    taken = chef("DELETE", f"/api/k/here/invitations/{made['id']}").json()
    assert Api()("GET", f"/api/invitations/{token}").status_code == 404
    assert chef("POST", f"{BACK}/{taken['key']}/back").status_code == 204
    assert Api()("POST", f"/api/invitations/{token}", NEW).status_code == 200


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"username": "HERE-cook"}, "username"),
        ({"username": ""}, "username"),
        ({"password": "short"}, "password"),
        ({"password": "nappe-at-82"}, "password"),
    ],
)
def test_what_will_not_do_is_said_by_its_field_and_the_link_stays_good(here, chef, change, field):
    token = invited(chef)
    refused = Api()("POST", f"/api/invitations/{token}", {**NEW, **change})
    assert refused.status_code in (409, 422)
    assert [one["field"] for one in refused.json()["fields"]] == [field]
    assert Api()("POST", f"/api/invitations/{token}", NEW).status_code == 200


def test_who_is_known_joins_one_more_kitchen(here, there, chef):
    token = invited(chef, "viewer")
    stranger = logged_in("there-cook")
    assert stranger("GET", f"/api/invitations/{token}").json()["known"]
    assert stranger("POST", f"/api/invitations/{token}", {}).status_code == 200
    assert {one["slug"]: one["role"] for one in stranger("GET", "/api/kitchens").json()} == {
        "here": "viewer",
        "there": "cook",
    }


# Roles


def test_a_role_changes_what_one_may_do_at_once(here, chef):
    cook = logged_in("here-cook")
    path = f"/api/k/here/people/{person('here-cook').pk}"
    assert cook("PATCH", "/api/k/here", {"altitude_m": 5}).status_code == 403
    assert chef("PATCH", path, {"role": "chef"}).status_code == 200
    assert cook("PATCH", "/api/k/here", {"altitude_m": 5}).status_code == 200
    taken = chef("DELETE", path).json()
    assert taken["name"] == "cook there"
    assert cook("GET", "/api/k/here").status_code == 404
    for back in (
        f"/api/k/here/taken-off/{taken['key']}/back",
        f"/api/k/there/people/taken-off/{taken['key']}/back",
    ):
        assert chef("POST", back).status_code == 404
    assert chef("POST", f"{BACK}/{taken['key']}/back").status_code == 204
    assert cook("GET", "/api/k/here").json()["role"] == "chef"
    assert chef("POST", f"{BACK}/{taken['key']}/back").status_code == 404


def test_what_was_taken_off_long_ago_is_gone_for_good(here, chef):
    path = f"/api/k/here/people/{person('here-cook').pk}"
    with clock.at(clock.now() - soft_delete.UNDONE_WITHIN - timedelta(minutes=1)):
        long_ago = crew.take_off(here["chef"], person("here-viewer").pk)
    lately = chef("DELETE", path).json()
    assert chef("POST", f"{BACK}/{long_ago.key}/back").status_code == 404
    assert chef("POST", f"{BACK}/{lately['key']}/back").status_code == 204


def test_who_joined_again_meanwhile_is_not_there_twice(here, chef):
    taken = chef("DELETE", f"/api/k/here/people/{person('here-cook').pk}").json()
    assert logged_in("here-cook")("POST", f"/api/invitations/{invited(chef)}", {}).status_code == 200
    refused = chef("POST", f"{BACK}/{taken['key']}/back")
    assert refused.status_code == 409
    assert "again by now" in refused.json()["detail"]


def test_a_kitchen_keeps_a_chef(here, chef):
    path = f"/api/k/here/people/{person('here-chef').pk}"
    for refused in (chef("PATCH", path, {"role": "cook"}), chef("DELETE", path)):
        assert refused.status_code == 422
        assert "at least one chef" in refused.json()["detail"]
    assert Membership.objects.get(user__username="here-chef").role == "chef"


def test_who_was_taken_off_stays_named_in_what_they_did(here, chef, version):
    batch = stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    assert chef("DELETE", f"/api/k/here/people/{here['cook'].user.pk}").status_code == 200
    assert "cook there" in str(chef("GET", f"/api/k/here/batches/{batch.pk}").json())


# One's own


def test_habits_are_kept_for_the_person(here):
    habits = {"units": "us", "decimal": "comma", "clock": "12", "week": "sunday"}
    assert logged_in("here-cook")("PUT", "/api/me/habits", habits).status_code == 200
    assert logged_in("here-cook")("GET", "/api/session").json()["person"]["habits"] == habits
    refused = logged_in("here-cook")("PUT", "/api/me/habits", {"clock": "13"})
    assert refused.json()["fields"][0]["field"] == "clock"


def test_a_new_password_ends_every_other_session(here):
    here_now, elsewhere = by_password("here-cook"), by_password("here-cook")
    assert len(here_now("GET", "/api/me/sessions").json()) == 2
    wrong = here_now("PUT", "/api/me/password", {"old": "wrong", "new": "another-long-one"})
    assert wrong.json()["fields"][0]["field"] == "old"
    changed = here_now("PUT", "/api/me/password", {"old": PASSWORD, "new": "another-long-one"})
    assert changed.status_code == 200
    assert elsewhere("GET", "/api/kitchens").status_code == 401
    (left,) = here_now("GET", "/api/me/sessions").json()
    assert left["this"]
    assert Api().log_in("here-cook", "another-long-one").status_code == 200


def test_logging_out_everywhere_leaves_this_device(here):
    here_now, elsewhere = by_password("here-cook"), by_password("here-cook")
    other = logged_in("here-chef")
    assert [one["this"] for one in here_now("DELETE", "/api/me/sessions").json()] == [True]
    assert elsewhere("GET", "/api/kitchens").status_code == 401
    assert here_now("GET", "/api/kitchens").status_code == 200
    assert other("GET", "/api/kitchens").status_code == 200


def test_a_new_name_shows_everywhere(here, chef):
    cook = logged_in("here-cook")
    assert cook("PATCH", "/api/me", {"title": "chef de partie"}).status_code == 200
    assert "chef de partie" in {one["title"] for one in chef("GET", "/api/k/here/people").json()["people"]}


# The audit


def test_a_chef_reads_who_did_what_in_pages(here, chef, monkeypatch):
    monkeypatch.setattr(audit, "PAGE", 2)
    for metres in (1, 2, 3):
        chef("PATCH", "/api/k/here", {"altitude_m": metres})
    first = chef("GET", "/api/k/here/audit").json()
    assert [one["did"] for one in first["entries"]] == ["changed the kitchen's settings"] * 2
    assert first["entries"][0]["who"] == "chef there"
    rest = chef("GET", f"/api/k/here/audit?before={first['next']}").json()
    assert len(rest["entries"]) == 1
    assert rest["next"] is None


def test_every_action_has_words():
    told_by_hand = {"crew.join", "crew.hands", "kitchen.begin", "kitchen.bring-back", "archive.bring-in"}
    assert access.NAMES | told_by_hand == set(audit.words())


# Kitchens


def test_a_kitchen_is_made_by_what_water_boils_at(here):
    cook = logged_in("here-cook")
    answers = {
        "name": "High house",
        "boils_c": 95,
        "eggs": "US-large",
        "measures": "us",
        "cooling_rule": "us",
    }
    made = cook("POST", "/api/kitchens/begin", answers).json()
    assert made["slug"] == "high-house"
    assert made["role"] == "chef"
    assert made["water_boils_c"] == 95
    assert 1400 < made["altitude_m"] < 1600
    assert cook("POST", "/api/kitchens/begin", answers).json()["slug"] == "high-house-2"


@pytest.mark.parametrize(
    "wrong", [{}, {"altitude_m": 1, "boils_c": 99}, {"boils_c": 60}, {"altitude_m": 1, "cooling_rule": "own"}]
)
def test_a_kitchen_that_cannot_be_is_not_made(here, wrong):
    before = Kitchen.objects.count()
    assert logged_in("here-cook")("POST", "/api/kitchens/begin", {"name": "No", **wrong}).status_code == 422
    assert Kitchen.objects.count() == before


def test_one_person_makes_only_so_many(here):
    cook = logged_in("here-cook")
    made = [
        cook("POST", "/api/kitchens/begin", {"name": "K", "altitude_m": 0}).status_code
        for _ in range(beginning.MOST_KITCHENS + 1)
    ]
    assert made == [201] * beginning.MOST_KITCHENS + [422]


def test_only_the_demo_is_thrown_away_and_comes_back(here, chef):
    assert chef("POST", "/api/k/here/throw-away").status_code == 422
    rewrite(Kitchen.objects.all(), demo=True)
    assert chef("POST", "/api/k/here/throw-away").status_code == 204
    assert chef("GET", "/api/kitchens").json() == []
    assert chef("GET", "/api/k/here").status_code == 404
    assert logged_in("here-cook")("POST", "/api/kitchens/here/bring-back").status_code == 404
    assert chef("POST", "/api/kitchens/here/bring-back").status_code == 200
    assert chef("GET", "/api/k/here").status_code == 200


# Nobody yet


def test_whoever_comes_first_at_the_machine_begins(db):
    api = Api()
    assert api("GET", "/api/session").json() == {"person": None, "first": True}
    far = Api()
    far.client.defaults["REMOTE_ADDR"] = "10.0.0.9"
    assert far("POST", "/api/first", NEW).status_code == 403
    assert api("POST", "/api/first", NEW).status_code == 201
    assert api("POST", "/api/kitchens/begin", {"name": "Ours", "altitude_m": 10}).status_code == 201
    assert Api()("POST", "/api/first", {**NEW, "username": "second"}).status_code == 403
    assert not Api()("GET", "/api/session").json()["first"]
