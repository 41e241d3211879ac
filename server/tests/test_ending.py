"""What a chef opened ends with the role that allowed it."""

from __future__ import annotations

import pytest
from day.models import Calendar
from devices.models import Device
from kitchen.models import Invitation, Membership, Role

from tests.conftest import Api
from tests.test_crew import NEW, by_password


@pytest.fixture
def second(here):
    """Another chef, who opened what a chef can open."""
    Membership.objects.filter(user=here["cook"].user).update(role=Role.CHEF)
    api = by_password("here-cook")
    link = api("POST", "/api/k/here/invitations", {"role": "chef", "title": "a friend"}).json()["token"]
    device = api("POST", "/api/k/here/devices", {"name": "side scale", "kind": "scale"}).json()
    assert api("POST", "/api/k/here/calendar").status_code in (200, 201)
    return {"api": api, "link": link, "device": device, "id": here["cook"].user.pk}


def joins(link: str) -> int:
    return Api()("POST", f"/api/invitations/{link}", NEW).status_code


@pytest.mark.parametrize("how", ["removed", "made a cook"])
def test_a_chef_who_is_none_any_more_leaves_no_door_open(second, how):
    chef, path = by_password("here-chef"), f"/api/k/here/people/{second['id']}"
    answer = chef("DELETE", path) if how == "removed" else chef("PATCH", path, {"role": "cook"})
    assert answer.status_code == 200, answer.content
    assert answer.json()["ended"] == "one invitation, one device's token, the calendar's address"
    assert not Invitation.objects.filter(used_by=None).exists()
    assert Device.objects.get(name="side scale").revoked_at is not None
    assert not Calendar.objects.exists()
    assert joins(second["link"]) == 404


def test_a_link_is_good_only_while_who_made_it_is_a_chef_whatever_took_the_role(second, here):
    """By hand in the database, or in a way that nobody thought of yet."""
    Membership.objects.filter(user=second["id"]).update(role=Role.COOK)
    assert Invitation.objects.filter(used_by=None).exists()
    assert joins(second["link"]) == 404


def test_a_chef_who_stays_keeps_what_they_opened(second):
    by_password("here-chef")("PATCH", f"/api/k/here/people/{second['id']}", {"role": "chef"})
    assert joins(second["link"]) == 200
