"""Views of the log that are kept under a name: each person's own, written over, and forgotten."""

from __future__ import annotations

from log.views import MOST

from tests.conftest import logged_in

VIEWS = "/api/k/here/log/views"


def names(answer):
    assert answer.status_code in (200, 201), answer.content
    return [one["name"] for one in answer.json()]


def test_a_view_is_kept_and_asks_for_the_same_again(here, cook, chef):
    asked = {"verdict": "discarded", "words": "caught", "since": "2026-01-01"}
    assert names(cook("POST", VIEWS, {"name": "spoiled", "asked": asked})) == ["spoiled"]
    [one] = cook("GET", VIEWS).json()
    assert {name: value for name, value in one["asked"].items() if value} == asked
    assert names(chef("GET", VIEWS)) == [], "each has views of their own"
    assert names(cook("POST", VIEWS, {"name": "spoiled", "asked": {"verdict": "good"}})) == ["spoiled"]
    [now] = cook("GET", VIEWS).json()
    assert now["asked"]["verdict"] == "good", "the same name is written over"
    assert chef("DELETE", f"{VIEWS}/{now['id']}").status_code == 404
    assert names(cook("DELETE", f"{VIEWS}/{now['id']}")) == []


def test_what_cannot_be_kept_is_refused_by_its_field(here):
    viewer = logged_in("here-viewer")
    answer = viewer("POST", VIEWS, {"name": "", "asked": {}})
    assert [one["field"] for one in answer.json()["fields"]] == ["name"]
    assert viewer("POST", VIEWS, {"name": "x", "asked": {"verdict": "lovely"}}).status_code == 422
    for number in range(MOST):
        assert viewer("POST", VIEWS, {"name": f"view {number}", "asked": {}}).status_code == 201
    assert viewer("POST", VIEWS, {"name": "one more", "asked": {}}).status_code == 422
    assert viewer("POST", VIEWS, {"name": "view 3", "asked": {"wrong": True}}).status_code == 201
