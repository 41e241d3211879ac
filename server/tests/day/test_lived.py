"""A day as it is lived: steps moved, begun and ended, batches taken to the stove, pace learned."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import custard
import pytest
from common import clock
from custard import planning
from custard.vocabulary import StageName
from day import pace
from day.models import StepDone
from stove.after import learning, paces
from stove.models import Batch

from tests.conftest import ANGLAISE, close, mark, put, work_off
from tests.day.days import DAY, MORNING, NOON, at, ok, steps, want


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
    work_off()
    known = pace.learned(here["cook"])["coats"]
    assert known["weigh"].batches == 4
    assert 1.3 < known["weigh"].times < 1.6
    # Opened, put right and closed again it says something else.
    for batch in Batch.objects.filter(done_at__has_key=StageName.WEIGH):
        batch.done_at[StageName.WEIGH] = (batch.started_at + timedelta(minutes=5)).isoformat()
        batch.save(update_fields=["done_at"])
        learning.learn(batch.pk, here["cook"].user.pk)
    assert pace.learned(here["cook"])["coats"]["weigh"].times < known["weigh"].times
    # What was closed by a version that did not write it down is caught up with at night.
    kept = sorted(str(took) for took in Batch.objects.values_list("took", flat=True))
    Batch.objects.update(took=None)
    assert pace.learned(here["cook"]) == {}
    assert paces.fill_in() == 4
    assert sorted(str(took) for took in Batch.objects.values_list("took", flat=True)) == kept
    day = ok(cook("POST", f"{DAY}/wants", want(version)))
    assert steps(day)["weigh"]["batches"] == 4
    told = ok(cook("GET", f"{DAY}/after"))["lessons"]
    assert any("weighing takes" in one["say"] and "than computed" in one["say"] for one in told)


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


def test_a_tub_that_is_put_away_is_no_batch_of_the_day(cook, wanted, batch):
    put(cook, batch, kept_g=100)
    day = ok(cook("POST", f"{DAY}/plan"))
    assert day["wants"][0]["drawn_g"] == 100
