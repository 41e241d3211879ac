"""Two addresses that say how the application is: whether it is alive, and whether it is ready to be used.

A supervisor asks the first, and starts the process again when it does not answer; whoever hands out requests
asks the second.
"""

from __future__ import annotations

import asyncio
import shutil
from dataclasses import dataclass
from datetime import timedelta

from common import clock
from django.conf import settings
from django.db import Error, connection
from django.db.migrations.executor import MigrationExecutor
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_safe
from health_check.base import HealthCheck
from health_check.exceptions import HealthCheckException, ServiceUnavailable
from psycopg_pool import PoolTimeout

SILENT = timedelta(seconds=60)
"""A worker that has not given a sign for so long is taken for dead; it gives one every ten seconds."""


@require_safe
@never_cache
def alive(request: HttpRequest) -> HttpResponse:
    """That the process answers; nothing else is asked."""
    return JsonResponse({"alive": "ok"})


@dataclass
class Asked(HealthCheck):  # type: ignore[misc]
    """Something that is asked of the database, in a thread whose connection is then given back."""

    timeout = timedelta(seconds=4)

    def run(self) -> None:
        """Ask.

        Raises
        ------
        HealthCheckException
            with the sentence that is told.
        """
        try:
            self.ask()
        except (Error, PoolTimeout, OSError):
            raise ServiceUnavailable("the database does not answer") from None
        finally:
            connection.close()

    def ask(self) -> None:
        """What is asked: here, whether there is an answer at all."""
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")


@dataclass
class Migrated(Asked):
    """Whether the tables are those of this code."""

    def ask(self) -> None:
        """Compare what was applied with what there is."""
        executor = MigrationExecutor(connection)
        behind = executor.migration_plan(executor.loader.graph.leaf_nodes())
        if behind:
            raise ServiceUnavailable(
                f"{len(behind)} changes of its tables are still to be made: ./spoon manage prepare"
            )


@dataclass
class Working(Asked):
    """Whether a worker has given a sign lately; without one no alarm comes when nobody looks."""

    def ask(self) -> None:
        """When the last one did."""
        with connection.cursor() as cursor:
            cursor.execute("SELECT max(last_heartbeat) FROM procrastinate_workers")
            (last,) = cursor.fetchone() or (None,)
        if last is None or clock.now() - last > SILENT:
            raise ServiceUnavailable("no worker has given a sign for a minute: ./spoon worker")


LEAST_FREE = 200_000_000
"""With less room than this [bytes] the database will soon not write any more."""


@dataclass
class Room(Asked):
    """Whether there is room on the disks that are written to, as far as this machine sees them."""

    def ask(self) -> None:
        """Look at what backups and files are kept on."""
        for folder in (settings.BACKUPS, settings.FILES):
            there = next((path for path in (folder, *folder.parents) if path.exists()), None)
            if there is not None and shutil.disk_usage(there).free < LEAST_FREE:
                raise ServiceUnavailable(f"the disk of {there} is full: make room, then all goes on")


CHECKS = {"database": Asked, "migrations": Migrated, "worker": Working, "room": Room}


@require_safe
@never_cache
async def ready(request: HttpRequest) -> HttpResponse:
    """What the application needs, each with "ok" or a sentence; 503 unless all are."""
    results = await asyncio.gather(*(check().get_result() for check in CHECKS.values()))
    found = {name: _told(result.error) for name, result in zip(CHECKS, results, strict=True)}
    return JsonResponse(found, status=200 if set(found.values()) == {"ok"} else 503)


def _told(error: HealthCheckException | None) -> str:
    return "ok" if error is None else str(error.message)
