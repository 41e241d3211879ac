"""What is wanted on a day, planned at once, and refused where it makes no sense."""

from __future__ import annotations

import pytest
from day.models import Day, Want
from django.db import connection
from django.test.utils import CaptureQueriesContext
from kitchen.models import AuditEntry

from tests.conftest import logged_in, work_off
from tests.day.days import COOKS, DAY, NOON, ok, steps, want


def test_a_day_nobody_wrote_down_is_empty_and_says_so(chef):
    day = ok(chef("GET", DAY))
    assert (day["there"], day["plan"], day["steps"], day["now"]) == (False, None, [], 420)
    assert day["hands"][0]["there"] == [[480, 960]]
    assert Day.objects.count() == 0


def test_what_is_wanted_is_planned_at_once_and_better_by_a_worker(cook, wanted):
    assert wanted["plan"]["state"] == "first"
    assert wanted["plan"]["fresh"]
    assert wanted["plan"]["say"] == "One batch, one pair of hands, all in time."
    found = steps(wanted)
    assert list(found) == ["weigh", "warm", "cook", "chill"]
    assert found["chill"]["end"] <= NOON + 30
    assert found["cook"]["share"] == 1
    assert found["cook"]["hands_id"] == wanted["hands"][0]["id"]
    assert wanted["jobs"][0]["grams"] > 1200
    assert wanted["jobs"][0]["chance"] > 0.8
    work_off()
    after = ok(cook("GET", DAY))
    assert after["plan"]["state"] == "done"
    assert after["plan"]["sure"] == "No plan is better."


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ({"each": "sixty"}, "each"),
        ({"covers": 0}, "covers"),
        ({"at": 99_999}, "at"),
        ({"formula_id": 10**6}, None),
    ],
)
def test_what_cannot_be_wanted_is_refused_by_its_field(cook, version, body, field):
    answer = cook("POST", f"{DAY}/wants", {**want(version), **body})
    if field is None:
        assert answer.status_code == 404
    else:
        assert answer.status_code == 422
        assert field in str(answer.json()["fields"])
    assert Want.objects.count() == 0


def test_the_shelf_is_used_first(cook, wanted, tub):
    day = ok(cook("POST", f"{DAY}/plan"))
    assert day["wants"][0]["tubs"] == [tub.pk]
    assert day["wants"][0]["drawn_g"] == 600
    assert day["jobs"][0]["grams"] == pytest.approx(wanted["jobs"][0]["grams"] - 600, abs=1)
    small = ok(cook("PATCH", f"{DAY}/wants/{day['wants'][0]['id']}", {"seen": 1, "covers": 5}))
    assert small["jobs"] == []
    assert small["steps"] == []


def test_two_days_do_not_draw_the_same_tub(cook, wanted, tub, version):
    ok(cook("POST", f"{DAY}/plan"))
    friday = "/api/k/here/days/2026-03-06"
    day = ok(cook("POST", f"{friday}/wants", want(version, covers=5, each="60 g")))
    assert day["wants"][0]["drawn_g"] == 0
    ok(cook("DELETE", f"{DAY}/wants/{wanted['wants'][0]['id']}"))
    assert ok(cook("POST", f"{friday}/plan"))["wants"][0]["drawn_g"] > 300


def test_a_room_that_became_too_small_is_told_and_the_day_can_still_be_opened(cook, wanted):
    day = ok(cook("PATCH", f"{DAY}/room", {"rings": 0}))
    assert day["plan"]["state"] == "none"
    assert "needs a ring for “Warm the dairy”: there is none" in day["plan"]["why"]
    again = ok(cook("PATCH", f"{DAY}/room", {"rings": 1}))
    assert again["plan"]["late_min"] == 0


def test_planning_again_shows_no_worse_plan_meanwhile(cook, version, wanted):
    for number in range(4):
        ok(cook("POST", f"{DAY}/others", {"name": f"work {number}", "minutes": 25, "by": 700}))
    work_off()
    best = ok(cook("GET", DAY))
    again = ok(cook("POST", f"{DAY}/plan"))
    assert [(one["job"], one["start"]) for one in again["steps"]] == [
        (one["job"], one["start"]) for one in best["steps"]
    ]


def test_what_is_promised_on_the_shelf_stands_on_the_day(cook, tub):
    promise = {"grams": 200, "dish": "trifle", "due_at": "2026-03-05T13:00:00Z"}
    ok(cook("POST", f"/api/k/here/tubs/{tub.pk}/promises", promise))
    assert ok(cook("GET", DAY))["promised"] == [
        {
            "dish": "trifle",
            "grams": 200,
            "at": 780,
            "tub_id": tub.pk,
            "tub": tub.name,
            "formula_id": tub.batch.version.formula_id,
            "past": False,
        }
    ]


def test_two_who_edit_lose_nothing(cook, chef, wanted):
    """Each another thing: both stand. The same thing: the second is told, and sees what stands."""
    key = wanted["wants"][0]["id"]
    ok(cook("PATCH", f"{DAY}/wants/{key}", {"seen": 1, "covers": 30}))
    other = chef("PATCH", f"{DAY}/wants/{key}", {"seen": 1, "covers": 10})
    assert other.status_code == 409
    assert "Somebody changed “poached quince”" in other.json()["detail"]
    same = ok(chef("PATCH", f"{DAY}/wants/{key}", {"seen": 1, "covers": 30}))
    assert same["wants"][0]["covers"] == 30
    ok(cook("PATCH", f"{DAY}/room", {"rings": 4}))
    room = ok(chef("PATCH", f"{DAY}/room", {"ice_g": 4000}))["room"]
    assert (room["rings"], room["ice_g"]) == (4, 4000)


def test_a_day_too_full_says_why_and_what_helps_and_takes_it(cook, version):
    ok(cook("POST", f"{DAY}/hands", COOKS))
    first = ok(cook("GET", DAY))["hands"][0]["id"]
    ok(cook("DELETE", f"{DAY}/hands/{first}"))
    for name in ("quince", "pie", "cake", "tart"):
        ok(cook("POST", f"{DAY}/wants", want(version, name=name, at=580, covers=1 + 0.01 * len(name))))
        # Each is made for itself: a foam's life is short, a sauce's is not, so its size tells them apart.
    works = [{"name": f"sugar {n}", "minutes": 40, "by": 580} for n in range(2)]
    for one in works:
        ok(cook("POST", f"{DAY}/others", one))
    work_off()
    day = ok(cook("GET", DAY))
    assert day["plan"]["late_min"] > 0
    assert "the one pair of hands (pastry cook)" in day["plan"]["why"]
    assert day["plan"]["state"] == "done"
    kinds = [one["kind"] for one in day["plan"]["helps"]]
    assert "helper" in kinds or "earlier" in kinds
    help_ = day["plan"]["helps"][0]
    stale = cook("POST", f"{DAY}/help", {"number": 0, "say": "something else"})
    assert stale.status_code == 409
    after = ok(cook("POST", f"{DAY}/help", {"number": 0, "say": help_["say"]}))
    work_off()
    after = ok(cook("GET", DAY))
    assert after["plan"]["late_min"] == 0
    assert after["plan"]["why"] == ""


@pytest.mark.parametrize(
    ("method", "path", "body", "status"),
    [
        ("GET", "/api/k/here/days/0001-01-01", None, 422),
        ("GET", "/api/k/here/days/9999-12-31", None, 422),
        ("GET", "/api/k/here/days?around=0001-01-01", None, 422),
        ("PATCH", f"{DAY}/room", {"rings": None, "ice_g": None}, 200),
        ("PATCH", f"{DAY}/room", {"rings": 99}, 422),
        ("POST", f"{DAY}/hands", {"name": "a", "there": [[600, 500]]}, 422),
        ("POST", f"{DAY}/hands", {"name": " ", "there": [[500, 600]]}, 422),
        ("POST", f"{DAY}/others", {"name": "a", "minutes": 0}, 422),
        ("POST", f"{DAY}/others", {"name": "a", "minutes": 5, "needs": "lamp"}, 422),
        ("POST", f"{DAY}/steps", {"job": "x", "step": "y", "what": "begun"}, 404),
        ("POST", f"{DAY}/stove", {"job": "x"}, 404),
        ("POST", f"{DAY}/copy", {}, 422),
        ("POST", f"{DAY}/copy", {"template_id": 10**6}, 404),
    ],
)
def test_what_makes_no_sense_is_refused(cook, wanted, method, path, body, status):
    assert cook(method, path, body).status_code == status


def test_nothing_said_of_a_field_leaves_it_as_it_is(cook, wanted):
    key = wanted["wants"][0]["id"]
    day = ok(cook("PATCH", f"{DAY}/wants/{key}", {"seen": 1, "name": None, "at": None, "covers": 7}))
    assert (day["wants"][0]["name"], day["wants"][0]["at"], day["wants"][0]["covers"]) == (
        "poached quince", NOON + 30, 7,
    )  # fmt: skip
    job = day["jobs"][0]["key"]
    long_ago = {"job": job, "step": "weigh", "what": "begun", "at": "2001-01-01T00:00:00Z"}
    assert cook("POST", f"{DAY}/steps", long_ago).status_code == 422


def test_nobody_there_is_said(cook, wanted):
    day = ok(cook("DELETE", f"{DAY}/hands/{wanted['hands'][0]['id']}"))
    assert day["plan"]["state"] == "none"
    assert "Say who is there" in day["plan"]["why"]
    assert day["steps"] == []


def test_every_write_is_in_the_audit(cook, wanted):
    ok(cook("PATCH", f"{DAY}/room", {"rings": 3}))
    ok(cook("POST", f"{DAY}/plan"))
    names = set(AuditEntry.objects.values_list("action", flat=True))
    assert {"day.want", "day.room", "day.plan"} <= names


def test_a_viewer_sees_the_day_and_changes_nothing(here, wanted):
    viewer = logged_in("here-viewer")
    assert viewer("GET", DAY).status_code == 200
    assert viewer("PATCH", f"{DAY}/room", {"rings": 3}).status_code == 403
    assert viewer("POST", f"{DAY}/move", {"job": "x", "step": "y"}).status_code == 403


def test_a_day_takes_no_more_queries_for_more_steps(cook, version, wanted, django_assert_num_queries):
    with CaptureQueriesContext(connection) as asked:
        ok(cook("GET", DAY))
    count = len(asked)
    for number in range(3):
        ok(cook("POST", f"{DAY}/others", {"name": f"work {number}", "minutes": 10}))
    with django_assert_num_queries(count):
        ok(cook("GET", DAY))
