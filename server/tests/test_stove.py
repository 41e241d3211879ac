"""Batches: marked once, in any order, from any device, and kept."""

from __future__ import annotations

import threading
from datetime import timedelta

import custard
import pytest
from common import clock
from django.db import connection
from kitchen.access import Actor
from stove import actions
from stove.models import Batch, Mark

from tests.conftest import ANGLAISE, formula_of, logged_in, mark, work_off


def _lifted(line):
    return next(one for one in line["temperatures"] if one["stage"] == "cook")


@pytest.fixture
def path(batch):
    return f"/api/k/here/batches/{batch.pk}"


def test_a_batch_keeps_its_own_slip_and_plan(cook, version):
    scaled = {**ANGLAISE, "lines": [{**ANGLAISE["lines"][0], "amount": "1 l"}, *ANGLAISE["lines"][1:]]}
    made = cook(
        "POST", "/api/k/here/batches", {"formula_id": version.formula_id, "version": 1, "draft": scaled}
    )
    assert made.status_code == 201
    body = made.json()
    assert (body["number"], body["stage"], body["done"]) == (1, "weigh", [])
    assert body["plan"]["slip"][0]["mass_g"] == 1031
    assert body["draft"]["lines"][0]["amount"] == "1 l"


def test_ticks_are_kept(cook, path):
    cook("POST", f"{path}/marks", mark("tick", "weigh", line=0))
    body = cook("POST", f"{path}/marks", mark("tick", "weigh", line=2)).json()
    assert body["ticked"] == [0, 2]


def test_a_whole_batch(cook, path):
    for stage in ("weigh", "warm", "temper"):
        cook("POST", f"{path}/marks", mark("done", stage))
    cook("POST", f"{path}/marks", mark("off-heat", "cook", temperature_c=80.9))
    cook("POST", f"{path}/marks", mark("done", "cook", temperature_c=81.2, note="front ring"))
    cook("POST", f"{path}/marks", mark("spoon", "test", coat="nappe", finger_line="holds"))
    cook("POST", f"{path}/marks", mark("sieve", "test", sieve="a few bits"))
    body = cook("POST", f"{path}/marks", mark("done", "test")).json()
    assert body["stage"] == "chill"
    assert body["done"] == ["weigh", "warm", "temper", "cook", "test"]
    closed = cook("POST", f"{path}/close", {"verdict": "good", "note": "smooth"}).json()
    assert closed["verdict"] == "good"
    [line] = cook("GET", "/api/k/here/log").json()["lines"]
    assert (_lifted(line)["left_c"], line["coat"], line["finger_line"], line["sieve"]) == (
        81.2,
        "nappe",
        "holds",
        "a few bits",
    )
    assert _lifted(line)["planned_c"] == pytest.approx(80.4, abs=0.5)
    assert line["verdict_note"] == "smooth"


def test_a_mark_sent_twice_counts_once(cook, path, batch):
    same = mark("done", "warm", temperature_c=92)
    first = cook("POST", f"{path}/marks", same).json()
    assert cook("POST", f"{path}/marks", same).json()["marks"] == first["marks"]
    assert batch.marks.count() == 1


def test_a_late_mark_takes_its_place_by_time(cook, path):
    early = mark("done", "weigh", at=(clock.now() - timedelta(minutes=9)).isoformat())
    cook("POST", f"{path}/marks", mark("done", "warm"))
    body = cook("POST", f"{path}/marks", early).json()
    assert [m["stage"] for m in body["marks"]] == ["weigh", "warm"]


@pytest.mark.parametrize(
    ("bad", "field"),
    [
        (mark(temperature_c=300), "temperature_c"),
        (mark(temperature_c=-80), "temperature_c"),
        (mark(at="2199-01-01T00:00:00Z"), "at"),
        (mark(at="2001-01-01T00:00:00Z"), "at"),
        (mark(at="2026-01-01T00:00:00"), "at"),
        (mark("tick", "weigh", line=50), "line"),
        (mark("sign", "cook", what="smoke"), "what"),
        (mark("pour", "temper", line=500), "line"),
        (mark("tick", "weigh"), "request"),
        (mark("nudge", "test"), "request"),
        (mark("nudge", "test", what="lift-now"), "request"),
        (mark("alarm", "cook", what="liquid"), "request"),
        (mark("spoon", "test", coat="nappe"), "request"),
        (mark("spoon", "test", coat="thick", finger_line="holds"), "coat"),
        (mark(stage="fry"), "stage"),
        (mark(note="x" * 501), "note"),
        (mark(note="a\x00b"), "note"),
        (mark(id="7"), "id"),
        (mark(colour="red"), "colour"),
    ],
)
def test_bad_marks_are_a_sentence_by_the_field(cook, path, batch, bad, field):
    answer = cook("POST", f"{path}/marks", bad)
    assert answer.status_code == 422
    assert answer.json()["fields"][0]["field"] == field
    assert batch.marks.count() == 0


def test_a_mark_taken_back_stays_in_the_record(cook, path, batch):
    wrong = mark("done", "warm")
    cook("POST", f"{path}/marks", wrong)
    body = cook("POST", f"{path}/marks/{wrong['id']}/withdraw").json()
    assert body["marks"] == []
    assert body["stage"] == "weigh"
    assert Mark.objects.get().withdrawal.by.username == "here-cook"


def test_what_a_worker_said_and_that_it_was_closed_stay(cook, path, batch):
    cook("POST", f"{path}/close", {"verdict": "good"})
    cook("POST", f"{path}/reopen")
    kinds = {one["kind"]: one["id"] for one in cook("GET", path).json()["marks"]}
    assert set(kinds) == {"closed", "reopened"}
    for key in kinds.values():
        assert cook("POST", f"{path}/marks/{key}/withdraw").status_code == 409
    assert len(cook("GET", path).json()["marks"]) == 2


def test_a_closed_batch_takes_no_marks_until_it_is_opened_again(cook, path):
    cook("POST", f"{path}/close", {"verdict": "discarded"})
    assert cook("POST", f"{path}/marks", mark()).status_code == 409
    assert cook("POST", f"{path}/close", {"verdict": "good"}).status_code == 409
    assert cook("POST", f"{path}/reopen").json()["verdict"] is None
    assert cook("POST", f"{path}/marks", mark()).status_code == 200


def test_two_devices_see_the_same_batch(here, cook, path):
    cook("POST", f"{path}/marks", mark("done", "weigh"))
    tablet = logged_in("here-chef")
    assert tablet("GET", path).json()["done"] == ["weigh"]
    assert [row["stage"] for row in tablet("GET", "/api/k/here/batches").json()] == ["warm"]


def test_the_log_needs_as_many_queries_for_many_batches(here, version, cook, django_assert_max_num_queries):
    for _ in range(6):
        actions.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    with django_assert_max_num_queries(6):
        assert len(cook("GET", "/api/k/here/log").json()["lines"]) == 6


@pytest.mark.django_db(transaction=True)
def test_nothing_is_computed_inside_a_transaction(here, version, cook, monkeypatch):
    held, assess = [], custard.assess

    def watched(*args, **more):
        held.append(connection.in_atomic_block)
        return assess(*args, **more)

    monkeypatch.setattr(custard, "assess", watched)
    body = {"formula_id": version.formula_id, "version": 1, "draft": ANGLAISE}
    path = f"/api/k/here/batches/{cook('POST', '/api/k/here/batches', body).json()['id']}"
    assert cook("PUT", f"{path}/setup", {}).status_code == 200
    for stage in ("weigh", "warm", "temper"):
        assert cook("POST", f"{path}/marks", mark("done", stage)).status_code == 200
    assert cook("POST", f"{path}/close", {"verdict": "good"}).status_code == 200
    work_off()
    assert held
    assert not any(held)


def test_an_open_batch_is_not_opened_again(cook, path):
    answer = cook("POST", f"{path}/reopen")
    assert (answer.status_code, answer.json()["type"]) == (409, "open")
    assert "reopened" not in {one["kind"] for one in cook("GET", path).json()["marks"]}


def test_a_formula_taken_to_the_stove_is_assessed_once(here, version, monkeypatch):
    assess, many = custard.assess, []
    monkeypatch.setattr(custard, "assess", lambda *args, **more: many.append(args) or assess(*args, **more))
    actions.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    assert len(many) == 1


def test_what_it_came_to_is_kept_until_it_is_opened_again(cook, path):
    assert cook("POST", f"{path}/close", {"verdict": "good", "yield_g": -3}).status_code == 422
    assert cook("POST", f"{path}/close", {"verdict": "good", "yield_g": 612.5}).json()["yield_g"] == 612.5
    assert cook("GET", "/api/k/here/log").json()["lines"][0]["yield_g"] == 612.5
    assert cook("POST", f"{path}/reopen").json()["yield_g"] is None


@pytest.mark.django_db(transaction=True)
def test_batches_started_at_once_get_numbers_of_their_own_and_nobody_is_ended(here, version):
    """Without the lock on the kitchen two of them would take the same number. That lock must not stand in the
    way of a foreign key that another checks as it ends, with the kitchen's chain in its hands."""
    many, each = 3, 4
    gate = threading.Barrier(2 * many)
    actor: Actor = here["cook"]
    others = [actions.start(actor, version.formula_id, 1, formula_of(ANGLAISE)) for _ in range(many)]
    before = _deadlocks()

    def start(_):
        actions.start(actor, version.formula_id, 1, formula_of(ANGLAISE))

    def change(batch):
        vulnerable = Batch.objects.get(pk=batch.pk).vulnerable
        actions.for_guests(actor, batch.pk, vulnerable=not vulnerable)

    def go_on(what, batch=None):
        try:
            gate.wait(timeout=10)
            for _ in range(each):
                what(batch)
        finally:
            connection.close()

    threads = [threading.Thread(target=go_on, args=(start,)) for _ in range(many)]
    threads += [threading.Thread(target=go_on, args=(change, batch)) for batch in others]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    numbers = sorted(Batch.objects.values_list("number", flat=True))
    assert numbers == list(range(1, many * (each + 1) + 1))
    assert _deadlocks() == before


def _deadlocks() -> int:
    with connection.cursor() as cursor:
        cursor.execute("SELECT deadlocks FROM pg_stat_database WHERE datname = current_database()")
        return cursor.fetchone()[0]
