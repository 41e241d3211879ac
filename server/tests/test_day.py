"""The day: what is wanted, planned at once and better by a worker, lived, listed, copied and carried away."""

from __future__ import annotations

import json
from datetime import UTC, datetime, timedelta

import custard
import icalendar
import jsonschema_rs
import pytest
from common import clock
from custard import planning
from day import pace, tasks
from day.models import Day, Plan, StepDone, Want
from django.db import connection
from django.test.utils import CaptureQueriesContext
from kitchen.models import AuditEntry
from procrastinate.contrib.django.models import ProcrastinateJob
from stove.models import Batch

from tests.conftest import ANGLAISE, Api, close, logged_in, mark, put, work_off

WHEN = "2026-03-05"
MORNING = datetime(2026, 3, 5, 7, 0, tzinfo=UTC)
NOON = 12 * 60
DAY = f"/api/k/here/days/{WHEN}"
COOKS = {"name": "pastry cook", "there": [[480, 960]]}


@pytest.fixture(autouse=True)
def morning():
    """It is seven in the morning of that day."""
    with clock.at(MORNING):
        yield


def at(minute: int):
    """It is that minute of the day."""
    return clock.at(datetime(2026, 3, 5, tzinfo=UTC) + timedelta(minutes=minute))


def ok(answer):
    assert answer.status_code == 200, answer.content
    return answer.json()


@pytest.fixture
def wanted(cook, version):
    """A dish at half past twelve, planned."""
    return ok(cook("POST", f"{DAY}/wants", want(version, name="poached quince", covers=20, each="60 g")))


def want(version, **more):
    return {"formula_id": version.formula_id, "at": NOON + 30, **more}


def steps(day, name=None):
    return {one["step"]: one for one in day["steps"] if name is None or one["job"] == name}


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
    assert after["plan"]["proven"]


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
        ok(cook("POST", f"{DAY}/wants", want(version, name=name, at=565, covers=1 + 0.01 * len(name))))
        # Each is made for itself: a foam's life is short, a sauce's is not, so its size tells them apart.
    works = [{"name": f"sugar {n}", "minutes": 40, "by": 565} for n in range(2)]
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


def test_a_step_is_moved_and_the_rest_follows_or_says_why_not(cook, wanted):
    job, cook_at = wanted["steps"][0]["job"], steps(wanted)["cook"]["start"]
    moved = ok(cook("POST", f"{DAY}/move", {"job": job, "step": "cook", "start": cook_at - 60}))
    found = steps(moved)
    assert found["cook"]["start"] == cook_at - 60
    assert found["cook"]["pinned"]
    assert found["warm"]["end"] == found["cook"]["start"]
    assert found["chill"]["start"] == found["cook"]["end"]
    late = cook("POST", f"{DAY}/move", {"job": job, "step": "cook", "start": NOON + 30})
    assert late.status_code == 409
    assert "min late. It stays." in late.json()["detail"]
    early = cook("POST", f"{DAY}/move", {"job": job, "step": "cook", "start": 400})
    assert early.status_code == 409
    assert steps(ok(cook("GET", DAY)))["cook"]["start"] == cook_at - 60
    anyway = {"job": job, "step": "cook", "start": NOON + 30, "anyway": True}
    assert ok(cook("POST", f"{DAY}/move", anyway))["plan"]["late_min"] > 0
    free = ok(cook("POST", f"{DAY}/move", {"job": job, "step": "cook"}))
    assert not steps(free)["cook"]["pinned"]


def test_what_goes_together_is_put_somewhere_once_and_never_before_it_can_be(cook, wanted):
    job, found = wanted["steps"][0]["job"], steps(wanted)
    warm, stirred = found["warm"]["start"], found["cook"]["start"]
    ok(cook("POST", f"{DAY}/move", {"job": job, "step": "cook", "start": stirred - 30}))
    moved = steps(ok(cook("POST", f"{DAY}/move", {"job": job, "step": "warm", "start": warm - 60})))
    assert moved["warm"]["start"] == warm - 60
    assert moved["cook"]["start"] == stirred - 60
    assert [one["step"] for one in moved.values() if one["pinned"]] == ["warm"]
    # Nobody is there before eight, and what comes before it at once takes its minutes too.
    early = cook("POST", f"{DAY}/move", {"job": job, "step": "cook", "start": 481})
    assert early.status_code == 409
    assert "takes longer than that. It stays where it was." in early.json()["detail"]
    assert steps(ok(cook("GET", DAY)))["warm"]["start"] == warm - 60


def test_what_a_tub_leaves_over_of_a_whole_formula_is_what_goes_to_the_stove(cook, version, tub):
    day = ok(cook("POST", f"{DAY}/wants", want(version)))
    job, drawn = day["jobs"][0], day["wants"][0]["drawn_g"]
    assert drawn == 600
    key = ok(cook("POST", f"{DAY}/stove", {"job": job["key"]}))["batch_id"]
    made = custard.assess(custard.read_formula(Batch.objects.get(pk=key).content)).yield_g
    assert made == pytest.approx(job["grams"], rel=0.01)
    whole = custard.assess(custard.read_formula(version.content)).yield_g
    assert made + drawn == pytest.approx(whole, rel=0.02)


def test_a_batch_goes_to_the_stove_from_the_board_once(cook, wanted):
    job = wanted["jobs"][0]
    key = ok(cook("POST", f"{DAY}/stove", {"job": job["key"]}))["batch_id"]
    again = ok(cook("POST", f"{DAY}/stove", {"job": job["key"]}))["batch_id"]
    assert again == key
    assert Batch.objects.count() == 1
    batch = Batch.objects.get()
    result = custard.assess(custard.read_formula(batch.content))
    assert result.yield_g == pytest.approx(job["grams"], rel=0.01)
    assert ok(cook("GET", DAY))["wants"][0]["batch"] == batch.number


def test_marks_move_the_plan_and_planning_again_keeps_what_is_begun(cook, wanted):
    with at(600):
        key = ok(cook("POST", f"{DAY}/stove", {"job": wanted["jobs"][0]["key"]}))["batch_id"]
        marks = f"/api/k/here/batches/{key}/marks"
        assert steps(ok(cook("GET", DAY)))["weigh"]["state"] == "running"
    with at(610):
        ok(cook("POST", marks, mark("done", "weigh")))
    with at(618):
        ok(cook("POST", marks, mark("done", "warm")))
        day = ok(cook("GET", DAY))
        found = steps(day)
        assert (found["weigh"]["state"], found["cook"]["state"]) == ("over", "running")
        assert (found["weigh"]["begins"], found["weigh"]["ends"]) == (600, 610)
        assert found["cook"]["begins"] == 618
        again = steps(ok(cook("POST", f"{DAY}/plan")))
        assert again["cook"]["start"] == 618
        assert again["chill"]["start"] >= again["cook"]["end"]
    with at(640):
        ok(cook("POST", marks, mark("done", "temper")))
        ok(cook("POST", marks, mark("done", "cook")))
        ok(cook("POST", marks, mark("done", "test")))
        ok(cook("POST", marks, mark("done", "chill")))
        day = ok(cook("GET", DAY))
        assert {one["state"] for one in day["steps"]} == {"over"}
        told = ok(cook("GET", f"{DAY}/after"))
        assert [one["took"] for one in told["steps"]][:2] == [10, 8]
        assert "steps took" in told["say"]


def test_late_steps_show_what_they_endanger(cook, wanted):
    with at(NOON + 10):
        day = ok(cook("GET", DAY))
    assert day["dangers"][0]["late_min"] > 0
    assert "poached quince" in day["dangers"][0]["say"]
    assert "held up by “Weigh out”" in day["dangers"][0]["say"]
    assert steps(day)["weigh"]["late"]
    assert day["jobs"][0]["late_min"] == day["dangers"][0]["late_min"]


def test_what_was_thrown_away_is_wanted_anew(cook, here, wanted):
    key = ok(cook("POST", f"{DAY}/stove", {"job": wanted["jobs"][0]["key"]}))["batch_id"]
    close(here["cook"], Batch.objects.get(pk=key), verdict="discarded", note="split")
    day = ok(cook("POST", f"{DAY}/plan"))
    assert {one["state"] for one in day["steps"]} == {"to come"}
    other = ok(cook("POST", f"{DAY}/stove", {"job": day["jobs"][0]["key"]}))["batch_id"]
    assert other != key


def test_other_work_is_begun_and_ended_on_the_board(cook, wanted):
    day = ok(cook("POST", f"{DAY}/others", {"name": "caramel", "minutes": 20, "needs": "ring", "by": 700}))
    job = next(one["key"] for one in day["jobs"] if one["name"] == "caramel")
    mine = day["hands"][0]["id"]
    with at(500):
        body = {"job": job, "step": "work", "what": "begun"}
        day = ok(cook("POST", f"{DAY}/steps", body))
        assert day["next_things"][0]["at"]["job"] == job
        assert StepDone.objects.get().hands_id == mine
    with at(515):
        day = ok(cook("POST", f"{DAY}/steps", {**body, "what": "ended"}))
        assert steps(day, job)["work"]["state"] == "over"
        day = ok(cook("POST", f"{DAY}/steps", {**body, "what": "neither"}))
        assert steps(day, job)["work"]["state"] == "to come"


def test_lists_of_the_day(cook, chef, wanted):
    found = ok(cook("GET", f"{DAY}/lists"))
    assert found["lists"]["eggs"]["to_break"] >= 10
    pull = {one["ingredient"]: one for one in found["lists"]["pull"]}
    assert pull["whole-milk"]["missing_g"] == pull["whole-milk"]["grams"] > 900
    assert (
        cook("PUT", "/api/k/here/house", {"ingredient": "whole-milk", "amount": "1/2 l"}).status_code == 204
    )
    chef("PUT", "/api/k/here/prices", {"ingredient": "whole-milk", "price": 1.2, "per": "1 l"})
    milk = {one["ingredient"]: one for one in ok(cook("GET", f"{DAY}/lists"))["lists"]["pull"]}["whole-milk"]
    assert milk["house_g"] == pytest.approx(515, abs=5)
    assert milk["packages"] == 1
    bad = cook("PUT", "/api/k/here/house", {"ingredient": "whole-milk", "amount": "some"})
    assert bad.status_code == 422
    assert set(found["lists"]["allergens"]) == {"egg", "milk"}
    key = ok(cook("POST", f"{DAY}/stove", {"job": wanted["jobs"][0]["key"]}))
    assert key
    assert ok(cook("GET", f"{DAY}/lists"))["lists"]["pull"] == [], "what is weighed is not pulled again"


def test_a_day_is_kept_as_a_template_and_copied(cook, chef, wanted):
    ok(cook("POST", f"{DAY}/others", {"name": "caramel", "minutes": 20}))
    templates = ok(cook("POST", f"{DAY}/template", {"name": "a weekday"}))["templates"]
    assert [(one["name"], one["wants"]) for one in templates] == [("a weekday", 1)]
    friday = "/api/k/here/days/2026-03-06"
    copied = ok(cook("POST", f"{friday}/copy", {"template_id": templates[0]["id"]}))
    assert [one["name"] for one in copied["wants"]] == ["poached quince"]
    assert copied["plan"]["late_min"] == 0
    saturday = "/api/k/here/days/2026-03-07"
    assert len(ok(cook("POST", f"{saturday}/copy", {"date": "2026-03-06"}))["others"]) == 1
    assert cook("POST", f"{saturday}/copy", {"date": "2026-03-20"}).status_code == 422
    listed = ok(cook("GET", f"/api/k/here/days?around={WHEN}"))
    assert [one["date"] for one in listed["days"]] == [WHEN, "2026-03-06", "2026-03-07"]
    gone = ok(cook("DELETE", f"/api/k/here/templates/{templates[0]['id']}"))
    assert gone["templates"] == []


def test_a_day_goes_out_as_json_and_comes_in_again(cook, chef, wanted, version):
    ok(cook("POST", f"{DAY}/others", {"name": "caramel", "minutes": 20, "needs": "ring", "by": 700}))
    file = ok(cook("GET", f"{DAY}/day.json"))
    jsonschema_rs.validate(planning.day_schema(custard.formats.formula_schema()), file)
    assert {one["step"] for one in file["plan"]} == {"weigh", "warm", "cook", "chill", "work"}
    there = "/api/k/here/days/2026-03-09"
    day = ok(chef("POST", f"{there}/day.json", file))
    assert [(one["name"], one["covers"], one["each"]) for one in day["wants"]] == [
        ("poached quince", 20, "60 g")
    ]
    back = ok(cook("GET", f"{there}/day.json"))
    assert {**back, "date": WHEN} == {**file, "name": back["name"]}
    renamed, otherwise = json.loads(json.dumps(file)), json.loads(json.dumps(file))
    renamed["wanted"][0]["formula"]["name"] = "anglaise of another name"
    assert ok(chef("POST", f"{there}/day.json", renamed))["wants"][1]["formula_id"] == version.formula_id
    # The name of a formula of the book, and something else in it.
    otherwise["wanted"][0]["formula"]["lines"].pop()
    refused = chef("POST", f"{there}/day.json", otherwise)
    assert refused.status_code == 422
    assert "as it is made in this file is not in the book" in refused.json()["detail"]
    assert "wanted[0].formula" in str(refused.json()["fields"])


def test_the_calendar_holds_what_hands_do_and_what_is_wanted(cook, chef, wanted):
    answer = cook("GET", f"{DAY}/day.ics")
    events = icalendar.Calendar.from_ical(answer.content).walk("VEVENT")
    names = [str(event["summary"]) for event in events]
    assert any(name.startswith("First pair of hands: Temper, cook, sieve") for name in names)
    assert "poached quince: Bay leaf anglaise" in names
    wanted_at = next(event for event in events if event["summary"] == "poached quince: Bay leaf anglaise")
    assert wanted_at["dtstart"].dt == datetime(2026, 3, 5, 12, 30, tzinfo=UTC)


def test_the_address_to_subscribe_to_has_a_secret_that_can_be_taken_back(chef, wanted):
    made = ok(chef("POST", "/api/k/here/calendar"))
    address = made["address"].partition("/api/")[2]
    stranger = Api()
    answer = stranger("GET", f"/api/{address}")
    assert answer.status_code == 200
    assert b"Bay leaf anglaise" in answer.content
    assert ok(chef("GET", "/api/k/here/calendar"))["address"] is None
    ok(chef("POST", "/api/k/here/calendar"))
    assert stranger("GET", f"/api/{address}").status_code == 404
    ok(chef("DELETE", "/api/k/here/calendar"))
    assert stranger("GET", f"/api/{address}").status_code == 404
    assert stranger("GET", "/api/calendar/guess.ics").status_code == 404


def test_a_day_that_is_over_is_not_planned_again(cook, wanted):
    with clock.at(MORNING + timedelta(days=1)):
        day = ok(cook("GET", DAY))
        assert day["now"] is None
        assert cook("POST", f"{DAY}/plan").status_code == 409


def test_a_day_goes_on_past_midnight_and_one_that_has_been_is_shown_as_it_was_planned(cook, wanted):
    hands = wanted["hands"][0]
    late = {"name": hands["name"], "there": [[480, 1470]], "seen": hands["revision"]}
    day = ok(cook("PUT", f"{DAY}/hands/{hands['id']}", late))
    planned = [(one["step"], one["start"]) for one in day["steps"]]
    with clock.at(datetime(2026, 3, 6, 0, 20, tzinfo=UTC)):
        after = ok(cook("GET", DAY))
        assert (after["now"], after["over"]) == (1460, False)
        assert after["dangers"]
    with clock.at(datetime(2026, 3, 6, 9, 0, tzinfo=UTC)):
        over = ok(cook("GET", DAY))
        assert (over["now"], over["over"], over["dangers"]) == (None, True, [])
        assert [(one["step"], one["begins"]) for one in over["steps"]] == planned


def test_a_kitchen_learns_its_pace_from_batches_that_were_closed(here, cook, version):
    with clock.at(MORNING - timedelta(days=3)):
        for number in range(4):
            batch = _cooked(cook, version, number, slow=2.0)
            close(here["cook"], batch, kept_g=500, whites_g=0)
    known = pace.learned(here["cook"])["coats"]
    assert known["weigh"].batches == 4
    assert 1.3 < known["weigh"].times < 1.6
    day = ok(cook("POST", f"{DAY}/wants", want(version)))
    assert steps(day)["weigh"]["batches"] == 4
    told = ok(cook("GET", f"{DAY}/after"))["lessons"]
    assert any("weighing takes" in one["say"] and "longer than computed" in one["say"] for one in told)
    pace._of_closed.cache_clear()


def _cooked(cook, version, number, slow) -> Batch:
    start = MORNING - timedelta(days=3) + timedelta(hours=number)
    computed = planning.steps_of(custard.assess(custard.read_formula(version.content)))
    with clock.at(start):
        body = {"formula_id": version.formula_id, "version": 1, "draft": ANGLAISE}
        answer = cook("POST", "/api/k/here/batches", body)
        assert answer.status_code == 201
    key, moment = answer.json()["id"], start
    for step, stages in (("weigh", ["weigh"]), ("warm", ["warm"]), ("cook", ["temper", "cook", "test"])):
        minutes = next(one.minutes.usual for one in computed if one.step == step)
        moment += timedelta(minutes=slow * minutes)
        with clock.at(moment):
            for stage in stages:
                ok(cook("POST", f"/api/k/here/batches/{key}/marks", mark("done", stage)))
    return Batch.objects.get(pk=key)


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


def test_a_plan_of_a_day_that_changed_meanwhile_is_thrown_away(cook, wanted):
    """The worker's answer is of what was wanted before: it does not stand over what is wanted now."""
    day = Day.objects.get()
    Day.objects.update(revision=day.revision + 1)
    before = Plan.objects.get().made_at
    work_off()
    assert Plan.objects.get().made_at == before
    assert not ok(cook("GET", DAY))["plan"]["fresh"]


def test_a_plan_that_was_forgotten_is_taken_up_again(cook, wanted):
    """The worker died with it, or was away: once a minute it is asked for anew."""
    ProcrastinateJob.objects.all().delete()
    tasks.look_all(0)
    assert not ProcrastinateJob.objects.exists()
    with clock.at(MORNING + timedelta(minutes=2)):
        tasks.look_all(0)
        work_off()
        assert ok(cook("GET", DAY))["plan"]["state"] == "done"
        tasks.look_all(0)
    assert not ProcrastinateJob.objects.filter(status="todo").exists()


def test_a_tub_that_is_put_away_is_no_batch_of_the_day(cook, wanted, batch):
    put(cook, batch, kept_g=100)
    day = ok(cook("POST", f"{DAY}/plan"))
    assert day["wants"][0]["drawn_g"] == 100
