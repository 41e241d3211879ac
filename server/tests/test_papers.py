"""What is printed is set by a worker: a request waits a moment for it, and never longer."""

from __future__ import annotations

import os
import re
import subprocess
from types import SimpleNamespace

import pytest
from common import clock
from common.refusals import Refusal
from django.core.management import call_command
from django.db import OperationalError
from django.utils import timezone
from kitchen.models import Membership
from log import records
from papers import orders, tasks
from papers.models import Paper
from procrastinate.contrib.django import app
from procrastinate.exceptions import ConnectorException

from tests.conftest import logged_in, printed, work_off

DAY = "/api/k/here/day/record.pdf"


def test_until_it_is_set_a_page_says_so_and_asks_again_by_itself(cook, batch):
    answer = cook("GET", DAY)
    assert answer.status_code == 202
    assert answer["Refresh"] == f"2; url={answer['Location']}"
    page = answer.content.decode()
    assert "has not begun yet" in page
    # Its style is one that the policy lets in.
    [nonce] = re.findall(r'<style nonce="([^"]+)">', page)
    assert f"'nonce-{nonce}'" in answer["Content-Security-Policy"]
    # Asked again before it is there, it is the same one.
    assert cook("GET", DAY)["Location"] == answer["Location"]
    assert Paper.objects.count() == 1
    Paper.objects.update(pages=3)
    assert "3 pages done so far" in cook("GET", answer["Location"]).content.decode()
    work_off()
    done = cook("GET", answer["Location"])
    assert done.content[:4] == b"%PDF"
    assert done["Content-Disposition"] == f'inline; filename="here-day-{clock.now():%Y-%m-%d}.pdf"'
    # What is asked for after that is set again, as it then stands.
    assert cook("GET", DAY)["Location"] != answer["Location"]


def test_a_paper_is_for_whoever_asked_for_it(here, cook, batch):
    where = cook("GET", DAY)["Location"]
    assert logged_in("here-chef")("GET", where).status_code == 404
    assert cook("GET", where).status_code == 202


def test_whoever_has_left_meanwhile_gets_nothing(here, cook, batch):
    cook("GET", DAY)
    Membership.objects.filter(user=here["cook"].user).delete()
    work_off()
    paper = Paper.objects.get()
    assert paper.content is None
    assert paper.refused == orders.GONE


def test_what_cannot_be_set_ends_with_a_sentence(cook, batch, monkeypatch):
    def broken(*_: object) -> bytes:
        raise ZeroDivisionError

    monkeypatch.setitem(orders.MAKERS, "day record", (broken, orders.PDF))
    answer = printed(cook, DAY)
    assert answer.status_code == 500
    assert answer.json()["detail"] == orders.BROKEN


def test_a_person_has_a_few_papers_set_at_once(here, batch):
    for number in range(orders.MOST_WAITING):
        orders.order(here["cook"], "batch record", {"batch": number}, "a batch")
    with pytest.raises(Refusal) as refusal:
        orders.order(here["cook"], "batch record", {"batch": 99}, "a batch")
    assert refusal.value.status == 429
    assert refusal.value.retry_s
    orders.order(here["chef"], "batch record", {"batch": 99}, "another's")


def test_one_that_was_lost_with_its_worker_is_asked_for_again(cook, batch):
    lost = cook("GET", DAY)["Location"]
    Paper.objects.update(made_at=clock.now() - orders.LOST)
    assert cook("GET", DAY)["Location"] != lost


def test_it_is_set_once_and_forgotten_the_night_after(here, cook, batch):
    answer = cook("GET", DAY)
    key = answer["Location"].rsplit("/", 1)[1]
    orders.make(key)
    done = Paper.objects.get()
    orders.make(key)
    assert Paper.objects.get().done_at == done.done_at
    assert orders.forget(timezone.now()) == 0
    assert orders.forget(timezone.now() + orders.KEPT * 2) == 1
    assert cook("GET", answer["Location"]).status_code == 404


def test_pages_are_counted_while_they_are_laid_out(cook, batch, monkeypatch):
    reported = []
    record, media = orders.MAKERS["day record"]
    monkeypatch.setitem(
        orders.MAKERS, "day record", (lambda actor, asked, _: record(actor, asked, reported.append), media)
    )
    assert printed(cook, DAY).status_code == 200
    assert reported
    assert reported[0] == 1


@pytest.mark.parametrize(("kind", "begins"), [("csv", "batch,name"), ("json", "{")])
def test_the_record_of_a_day_as_a_table_is_no_request_s_work_either(cook, batch, monkeypatch, kind, begins):
    """A day of a hundred batches takes longer than a request may."""
    inside = []
    made = records.of_day
    monkeypatch.setattr(records, "of_day", lambda *asked: inside.append("made") or made(*asked))
    answer = cook("GET", DAY.replace("pdf", kind))
    assert (answer.status_code, inside) == (202, [])
    work_off()
    done = cook("GET", answer["Location"])
    assert inside == ["made"]
    assert done.content.decode().startswith(begins)
    assert f'filename="here-day-{clock.now():%Y-%m-%d}.{kind}"' in done["Content-Disposition"]


def test_a_database_that_goes_away_meanwhile_is_no_fault_of_the_paper(cook, batch, monkeypatch):
    """It is set again by the job's next try, and nobody is told that it cannot be drawn."""

    def gone(actor, asked, report):
        raise OperationalError("terminating connection")

    answer = cook("GET", DAY)
    paper = Paper.objects.get()
    with monkeypatch.context() as patched:
        patched.setitem(orders.MAKERS, "day record", (gone, orders.PDF))
        with pytest.raises(OperationalError):
            orders.make(str(paper.pk))
    assert cook("GET", answer["Location"]).status_code == 202
    work_off()
    assert cook("GET", answer["Location"]).content[:4] == b"%PDF"


@pytest.mark.parametrize(
    ("failed", "tried_again"),
    [
        (OperationalError("terminating connection"), True),
        (subprocess.CalledProcessError(-9, "set_paper"), True),
        (subprocess.TimeoutExpired("set_paper", 600), False),
    ],
)
def test_a_lost_process_is_tried_again_one_whose_time_was_up_is_not(failed, tried_again):
    decision = app.tasks["papers.make"].retry_strategy.get_retry_decision(
        exception=failed, job=SimpleNamespace(attempts=1)
    )
    assert (decision is not None) == tried_again


def test_a_job_that_cannot_be_queued_is_a_database_that_is_away(cook, batch, monkeypatch):
    """The disk was full where jobs are kept: whoever asked is told to come back, not that something broke."""

    def full(*args, **more):
        raise ConnectorException from OperationalError("No space left on device")

    monkeypatch.setattr(orders.app, "configure_task", full)
    answer = cook("GET", DAY)
    assert (answer.status_code, "Retry-After" in answer) == (503, True)


def test_a_large_paper_is_set_by_a_process_of_its_own(cook, batch, monkeypatch):
    cook("GET", DAY)
    paper, called = Paper.objects.get(), []
    with monkeypatch.context() as patched:
        patched.setattr(tasks, "connection", SimpleNamespace(in_atomic_block=False))
        patched.setattr(tasks.database, "release_connection", lambda: None)
        patched.setattr(tasks.subprocess, "run", lambda words, **_: called.append(words))
        tasks.make(str(paper.pk))
    assert called[0][-2:] == ["set_paper", str(paper.pk)]
    monkeypatch.setattr(os, "nice", called.append)
    call_command("set_paper", str(paper.pk))
    assert bytes(Paper.objects.get().content)[:4] == b"%PDF"
    assert called[-1] > 0


def test_labels_are_set_where_the_worker_is(cook, batch, monkeypatch):
    monkeypatch.setattr(tasks.subprocess, "run", lambda *words, **_: pytest.fail("no process for a label"))
    assert "labels" not in orders.LARGE
    assert set(orders.MAKERS) >= orders.LARGE
