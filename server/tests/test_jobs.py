"""Jobs go on after the death of the database and of workers; logs can be read meanwhile."""

from __future__ import annotations

import asyncio
import logging

import psycopg
import pytest
from asgiref.sync import sync_to_async
from common.events import address
from django.db import connection, connections
from oldspoon import jobs, quiet
from oldspoon.tasks import forget_failed_jobs
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob
from procrastinate.exceptions import ConnectorException

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture(autouse=True)
def nothing_left():
    """The library's tables are none of Django's: nobody else empties them."""
    yield
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM procrastinate_jobs")
        cursor.execute("DELETE FROM procrastinate_workers")


def backend() -> int:
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_backend_pid()")
        return cursor.fetchone()[0]


def kill(pid: int) -> None:
    with psycopg.connect(**address(), autocommit=True) as other:
        other.execute("SELECT pg_terminate_backend(%s)", [pid])


async def asked() -> int:
    return await app.tasks["book.fill"].defer_async(timestamp=1)


def test_periodic_jobs_are_asked_for_again_once_the_database_is_back():
    """The library defers them by a connection at which no request ever ends: it stayed dead for good."""

    async def through_a_death() -> int:
        kill(await sync_to_async(backend)())
        for _ in range(3):
            with pytest.raises(ConnectorException):
                await asked()
        await jobs.drop_dead_connection()
        job = await asked()
        await sync_to_async(connections.close_all)()
        return job

    assert ProcrastinateJob.objects.filter(pk=asyncio.run(through_a_death()), status="todo").exists()


def doing(worker: str) -> int:
    """A job that a worker is doing: one that is alive, or one that has said nothing for long."""
    with connection.cursor() as cursor:
        age = "0 s" if worker == "alive" else "90 s"
        cursor.execute(
            "INSERT INTO procrastinate_workers (last_heartbeat) VALUES (now() - %s::interval) RETURNING id",
            [age],
        )
        [key] = cursor.fetchone()
        cursor.execute(
            "INSERT INTO procrastinate_jobs (queue_name, task_name, status, worker_id, lock) "
            "VALUES ('default', 'day.improve', 'doing', %s, %s) RETURNING id",
            [key, worker],
        )
        return cursor.fetchone()[0]


def test_what_a_dead_worker_was_doing_is_taken_up_and_what_a_living_one_does_is_not():
    dead, alive = doing("dead"), doing("alive")

    async def look() -> list[int]:
        worker = app.with_connector(app.connector.get_worker_connector())
        async with worker.open_async():
            return await jobs.take_up_stalled(worker)

    assert asyncio.run(look()) == [dead]
    found = dict(ProcrastinateJob.objects.values_list("pk", "status"))
    assert (found[dead], found[alive]) == ("todo", "doing")


def failed(days: int) -> None:
    """A job that failed so long ago."""
    with connection.cursor() as cursor:
        cursor.execute(
            "INSERT INTO procrastinate_jobs (queue_name, task_name, status) "
            "VALUES ('default', 'x', 'failed') RETURNING id"
        )
        [key] = cursor.fetchone()
        cursor.execute("DELETE FROM procrastinate_events WHERE job_id = %s", [key])
        cursor.execute(
            "INSERT INTO procrastinate_events (job_id, type, at) VALUES (%s, 'failed', now() - %s::interval)",
            [key, f"{days} d"],
        )


def test_failed_jobs_are_kept_a_week():
    failed(days=1)
    failed(days=9)
    forget_failed_jobs()
    assert ProcrastinateJob.objects.filter(status="failed").count() == 1


def test_a_loop_says_the_same_thing_once_a_minute(monkeypatch):
    now = [0.0]
    monkeypatch.setattr(quiet.time, "monotonic", lambda: now[0])
    once = quiet.OncePerMinute()

    def said(text: str) -> str | None:
        record = logging.LogRecord("a", logging.WARNING, "", 0, text, None, None)
        return record.getMessage() if once.filter(record) else None

    assert said("gone") == "gone"
    assert [said("gone") for _ in range(5)] == [None] * 5
    assert said("other") == "other"
    now[0] = 61.0
    assert said("gone") == "gone (5 times more in the last minute)"
