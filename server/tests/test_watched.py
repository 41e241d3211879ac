"""What the application tells of itself, and how it tidies up after itself."""

from __future__ import annotations

import json
import logging
import shutil
from datetime import timedelta

import pytest
from axes.models import AccessAttempt
from common import clock
from devices import actions as devices
from devices.models import Reading
from django.contrib.sessions.models import Session
from django.db import OperationalError, connection
from django.test import Client
from oldspoon import health
from oldspoon.tasks import tidy_up
from pythonjsonlogger.json import JsonFormatter
from stove.models import Mark, ProbeUse

pytestmark = pytest.mark.django_db


def test_a_line_tells_who_asked_for_what_and_nothing_that_was_sent(here, cook, caplog):
    with caplog.at_level(logging.INFO, "oldspoon.request"):
        answer = cook("POST", "/api/k/here/scale?secret=word", {"draft": "a-secret-sauce"})
    (record,) = caplog.records
    line = json.loads(JsonFormatter("{message}", style="{").format(record))
    assert line["request"] == answer["X-Request-ID"]
    assert (line["person"], line["kitchen"]) == (here["cook"].user.pk, "here")
    assert (line["method"], line["route"], line["status"]) == ("POST", "api/k/<kitchen>/scale", 422)
    assert line["ms"] > 0
    assert "secret" not in json.dumps(line)


@pytest.mark.parametrize(("given", "kept"), [("from-the-proxy.1", True), ("a b", False), ("x" * 65, False)])
def test_a_proxy_s_name_for_a_request_is_kept_when_it_is_one(given, kept):
    answer = Client().get("/health/alive", headers={"X-Request-ID": given})
    assert (answer["X-Request-ID"] == given) is kept


def test_figures_are_for_whoever_has_the_token(settings, cook):
    settings.METRICS_TOKEN = ""
    assert Client().get("/metrics").status_code == 404
    settings.METRICS_TOKEN = "for the watch"
    assert Client().get("/metrics", headers={"Authorization": "Bearer other"}).status_code == 404
    cook("GET", "/api/k/here/batches")
    text = Client().get("/metrics", headers={"Authorization": "Bearer for the watch"}).content.decode()
    for figure in (
        'oldspoon_requests_total{method="GET",route="api/k/<kitchen>/batches",status="200"}',
        "oldspoon_live_lag_seconds",
        "oldspoon_jobs_waiting",
        "oldspoon_open_batches",
        "oldspoon_readings_total",
        "oldspoon_cooks_computed_total",
    ):
        assert figure in text


def test_alive_needs_nothing_and_ready_says_what_is_missing(monkeypatch):
    def gone(self: object) -> None:
        raise OperationalError("connection refused")

    answer = Client().get("/health/ready")
    assert answer.status_code == 503
    assert answer.json()["database"] == answer.json()["migrations"] == "ok"
    assert "./spoon worker" in answer.json()["worker"]
    monkeypatch.setattr(health.Asked, "ask", gone)
    assert Client().get("/health/alive").status_code == 200
    assert Client().get("/health/ready").json()["database"] == "the database does not answer"


@pytest.fixture
def thinned(here, batch):
    """A batch closed 100 days ago, with two minutes of readings and as many after it."""
    kept, probe = batch.pk, devices.register(here["chef"], "a probe", devices.new_token(), "probe")
    since = (clock.now() - timedelta(days=100)).replace(second=0, microsecond=0)
    ProbeUse.objects.create(batch_id=kept, device=probe, since=since, until=since + timedelta(minutes=2))
    type(batch).objects.filter(pk=kept).update(closed_at=since + timedelta(minutes=2))
    Reading.objects.bulk_create(
        Reading(device=probe, at=since + timedelta(seconds=10 * n), celsius=60 + n) for n in range(24)
    )
    return since


def test_readings_of_long_ago_are_thinned_to_one_a_minute_and_no_others(here, thinned):
    assert tidy_up()["readings"] == 10
    left = Reading.objects.order_by("at").values_list("at", flat=True)
    assert [round((at - thinned).total_seconds()) for at in left] == [0, 60, *range(120, 240, 10)]
    assert tidy_up()["readings"] == 0


def test_a_kitchen_chooses_how_long_they_are_kept_whole(here, chef, thinned):
    assert chef("PATCH", "/api/k/here", {"readings_days": 365}).json()["readings_days"] == 365
    assert tidy_up()["readings"] == 0


def test_what_has_ended_is_forgotten_and_marks_are_not(here, batch, cook):
    marks = Mark.objects.count()
    old = clock.now() - timedelta(days=3)
    Session.objects.create(session_key="over", session_data="", expire_date=old)
    AccessAttempt.objects.create(username="x", ip_address="127.0.0.1", failures_since_start=3)
    AccessAttempt.objects.update(attempt_time=old)
    found = tidy_up()
    assert (found["sessions"], found["tries"]) == (1, 1)
    assert Mark.objects.count() == marks
    assert cook("GET", "/api/k/here").status_code == 200


def test_the_owner_s_function_is_called_and_nothing_deleted_by_ourselves():
    with connection.cursor() as cursor:
        cursor.execute("SELECT prosecdef FROM pg_proc WHERE proname = 'stove_thin_readings'")
        assert cursor.fetchone() == (True,)


@pytest.mark.django_db(transaction=True)
def test_a_full_disk_is_said_before_the_database_stops(monkeypatch):
    full = shutil.disk_usage("/")._replace(free=health.LEAST_FREE - 1)
    assert Client().get("/health/ready").json()["room"] == "ok"
    monkeypatch.setattr(health.shutil, "disk_usage", lambda _: full)
    answer = Client().get("/health/ready")
    assert answer.status_code == 503
    assert "make room" in answer.json()["room"]
