"""The board of the stove: what is next with each batch, and which batches are likely next."""

from __future__ import annotations

from datetime import timedelta

from book import actions as book
from common import clock
from django.db import connection
from django.test.utils import CaptureQueriesContext
from stove import actions as stove
from stove.models import LiveState

from tests.conftest import ANGLAISE, close, draft, formula_of, logged_in, mark, work_off
from tests.day.days import DAY, MORNING, WHEN, ok

NEXT, BOARD = "/api/k/here/upcoming", "/api/k/here/batches"


def made(here, version, before: timedelta) -> None:
    """A batch that was made and closed then."""
    with clock.at(MORNING - before):
        batch = stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
        close(here["cook"], batch)


def test_what_is_planned_comes_first_and_goes_once_it_is_on(cook, wanted):
    [one] = ok(cook("GET", NEXT))
    assert one["name"] == "Bay leaf anglaise"
    assert one["say"].startswith("planned for ")
    assert one["say"].endswith(": poached quince")
    taken = cook("POST", f"{DAY}/stove", {"job": one["job"]})
    assert taken.status_code == 200
    assert ok(cook("GET", NEXT)) == []
    assert [row["id"] for row in ok(cook("GET", BOARD))] == [taken.json()["batch_id"]]


def test_with_nothing_left_of_today_it_is_tomorrows(cook, wanted):
    with clock.at(MORNING - timedelta(days=1)):
        [one] = ok(cook("GET", NEXT))
        assert one["say"].startswith("planned for tomorrow, {")
        assert one["when"] == WHEN
        assert cook("POST", f"{DAY}/stove", {"job": one["job"]}).status_code == 200
        assert ok(cook("GET", NEXT)) == []


def test_a_habit_is_this_weekday_about_now_and_more_than_once(here, cook, version):
    made(here, version, timedelta(days=7))
    made(here, version, timedelta(days=1))
    made(here, version, timedelta(days=7, hours=-5))
    assert ok(cook("GET", NEXT)) == []
    made(here, version, timedelta(days=14, hours=1))
    [one] = ok(cook("GET", NEXT))
    assert (one["name"], one["job"], one["say"]) == (
        "Bay leaf anglaise", None, "made 2 times on Thursdays about now",
    )  # fmt: skip
    stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    assert ok(cook("GET", NEXT)) == []


def test_what_was_taken_out_of_the_book_is_no_habit(here, cook, version):
    for days in (7, 14):
        made(here, version, timedelta(days=days))
    book.archive(here["chef"], version.formula_id)
    assert ok(cook("GET", NEXT)) == []


def test_the_board_has_each_batchs_rule_and_next_thing_the_most_urgent_first(here, cook, version):
    calm, urgent = (
        stove.start(here["cook"], version.formula_id, 1, formula_of(draft(name=name)))
        for name in ("calm", "urgent")
    )
    work_off()
    LiveState.objects.filter(batch=calm).update(urgency=0, say="Weigh the milk", seconds=None)
    LiveState.objects.filter(batch=urgent).update(urgency=2, say="Lift it off now", seconds=7.0)
    cook("POST", f"{BOARD}/{urgent.pk}/marks", mark())
    with CaptureQueriesContext(connection) as asked:
        first, second = ok(cook("GET", BOARD))
    assert [first["id"], second["id"]] == [urgent.pk, calm.pk]
    assert (first["say"], first["seconds"], first["urgency"]) == ("Lift it off now", 7.0, 2)
    assert 78 < first["window"]["nappe_c"] < first["window"]["curdles_c"] < 92
    assert first["stop_c"] < first["boiling_c"]
    assert sum("stove_batch" in query["sql"] for query in asked) == 1
    assert not any('"plan"' in query["sql"].split("FROM")[0].replace('"plan" ->', "") for query in asked)


def test_somebody_who_only_looks_sees_the_board(here, version):
    stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    [one] = ok(logged_in("here-viewer")("GET", BOARD))
    assert (one["say"], one["urgency"]) == ("", 0)


def test_habits_are_counted_by_the_database(here, cook, version):
    """At seventy thousand batches every one of them was fetched to be looked at."""
    for week in (1, 2, 3):
        for minutes in (0, 30, 60):
            made(here, version, timedelta(days=7 * week, minutes=minutes))
    with CaptureQueriesContext(connection) as asked:
        [one] = ok(cook("GET", NEXT))
    assert one["say"] == "made 9 times on Thursdays about now"
    [counted] = [query["sql"] for query in asked if "COUNT" in query["sql"] and "stove_batch" in query["sql"]]
    assert "GROUP BY" in counted
