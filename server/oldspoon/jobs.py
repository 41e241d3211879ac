"""Doing the jobs that were asked for, through the death of workers and of the database."""

from __future__ import annotations

import asyncio
import contextlib
import logging
import signal

from asgiref.sync import sync_to_async
from common import clock
from django.db import close_old_connections
from procrastinate.contrib.django import app
from procrastinate.exceptions import ConnectorException

JOBS_AT_ONCE = 2
"""A plan of a day is looked for long; whatever else was asked for does not wait for it."""
POLL_S = 5.0
AGAIN_S = 1.0
GRACE_S = 7.0
STALLED_S = 30.0
"""A worker that has said nothing for so long is dead, and what it was doing is taken up by another [s]."""
KEPT_FAILED_H = 7 * 24
"""So long a job that failed can be looked at [h]."""
log = logging.getLogger("oldspoon.loops")


async def do_jobs() -> set[asyncio.Task[None]]:
    """Do jobs until told to stop. A worker of the library ends when it loses the database, sometimes without
    an error: unless we were told to stop, another takes its place. Returns what did not end in time."""
    told = asyncio.Event()
    for stop in (signal.SIGTERM, signal.SIGINT):
        asyncio.get_running_loop().add_signal_handler(stop, told.set)
    stopped = asyncio.create_task(told.wait())
    while True:
        working = asyncio.create_task(_work())
        await asyncio.wait({working, stopped}, return_when=asyncio.FIRST_COMPLETED)
        if told.is_set():
            break
        error = working.exception()
        if not isinstance(error, ConnectorException | None):
            log.error("doing jobs failed", exc_info=error)
        log.warning("jobs are done again in a moment: the worker ended, as it does without the database")
        await drop_dead_connection()
        with contextlib.suppress(TimeoutError):
            await asyncio.wait_for(asyncio.shield(stopped), AGAIN_S)
    working.cancel()
    await asyncio.wait({working}, timeout=GRACE_S)
    return {task for task in asyncio.all_tasks() if task is not asyncio.current_task()}


async def drop_dead_connection() -> None:
    """Close the connection by which jobs are asked for, if the database is gone from it.

    The library asks for periodic jobs through Django's connection of its thread. No request ends there, so
    that Django itself never looks whether that connection is still alive.
    """
    await sync_to_async(close_old_connections)()


async def _work() -> None:
    jobs = app.with_connector(app.connector.get_worker_connector())  # type: ignore[attr-defined]
    async with jobs.open_async():
        looking = asyncio.create_task(_take_up(jobs))
        try:
            await jobs.run_worker_async(
                concurrency=JOBS_AT_ONCE,
                delete_jobs="successful",
                fetch_job_polling_interval=POLL_S,
                shutdown_graceful_timeout=5,
                stalled_worker_timeout=STALLED_S,
                install_signal_handlers=False,
            )
        finally:
            looking.cancel()


async def _take_up(jobs: object) -> None:
    """Again and again, from the start on: what dead workers were doing is to be done."""
    while True:
        with contextlib.suppress(ConnectorException):
            await take_up_stalled(jobs)
        await asyncio.sleep(STALLED_S)


async def take_up_stalled(jobs: object) -> list[int]:
    """Put the jobs of dead workers back among those to be done; returns which."""
    manager = jobs.job_manager  # type: ignore[attr-defined]
    stalled = list(await manager.get_stalled_jobs(seconds_since_heartbeat=STALLED_S))
    for job in stalled:
        log.warning("a worker died while it did a job, which is done again", extra={"job": job.task_name})
        await manager.retry_job(job, retry_at=clock.now())
    return [job.id for job in stalled]
