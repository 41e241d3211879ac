"""Better plans, from a worker."""

from __future__ import annotations

import threading
import time
from concurrent.futures import wait
from contextlib import ExitStack
from datetime import timedelta

from common import clock, fair_limiter
from custard import planning
from day import planner, tasks
from day.models import Day, Plan
from django.db.models import F
from procrastinate.contrib.django.models import ProcrastinateJob

from tests.conftest import work_off
from tests.day.days import DAY, MORNING, NOON, ok, want


def test_a_plan_of_a_day_that_changed_meanwhile_is_thrown_away(cook, wanted, monkeypatch):
    """The worker's answer is of what was wanted before: it does not stand over what is wanted now."""
    solve, told = planning.solve, threading.Event()

    def until_told(*args, stop, **kwargs):
        for _ in range(200):
            if stop():
                told.set()
                break
            time.sleep(0.02)
        return solve(*args, **kwargs)

    def meanwhile(*args, **kwargs):
        Day.objects.update(revision=F("revision") + 1)
        return wait(*args, **kwargs)

    monkeypatch.setattr(planning, "solve", until_told)
    monkeypatch.setattr(planner, "wait", meanwhile)
    before = Plan.objects.get()
    work_off()
    assert told.is_set()
    after = Plan.objects.get()
    assert (after.made_at, after.state, after.document) == (before.made_at, before.state, before.document)
    assert not ok(cook("GET", DAY))["plan"]["fresh"]


def test_what_is_changed_while_all_is_busy_stands_and_a_worker_plans_it(cook, wanted, version):
    with ExitStack() as others:
        for _ in range(fair_limiter.LIMITER.at_once):
            others.enter_context(fair_limiter.LIMITER.taken("somebody else"))
        fair_limiter.LIMITER.longest_s, usual = 0.05, fair_limiter.LIMITER.longest_s
        try:
            day = ok(cook("POST", f"{DAY}/wants", want(version, name="second", at=NOON + 120)))
        finally:
            fair_limiter.LIMITER.longest_s = usual
    assert [one["name"] for one in day["wants"]] == ["poached quince", "second"]
    assert (day["plan"]["fresh"], day["plan"]["sure"]) == (False, "Being planned again …")
    work_off()
    found = ok(cook("GET", DAY))
    assert found["plan"]["fresh"]
    assert {want for job in found["jobs"] for want in job["wants"]} == {one["id"] for one in day["wants"]}


def test_a_plan_that_was_forgotten_is_taken_up_again(cook, wanted):
    """The worker died with it, or was away: once a minute it is asked for again."""
    ProcrastinateJob.objects.all().delete()
    tasks.look_all(0)
    assert not ProcrastinateJob.objects.exists()
    with clock.at(MORNING + timedelta(minutes=2)):
        tasks.look_all(0)
        work_off()
        assert ok(cook("GET", DAY))["plan"]["state"] == "done"
        tasks.look_all(0)
    assert not ProcrastinateJob.objects.filter(status="todo").exists()
