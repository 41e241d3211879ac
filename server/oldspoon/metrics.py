"""Figures for whoever watches, in the usual text format; only when the operator has given a token for it."""

from __future__ import annotations

import secrets

from common import clock
from common.fair_limiter import LIMITER
from django.conf import settings
from django.db import connection
from django.http import Http404, HttpRequest, HttpResponse
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_safe
from prometheus_client import CONTENT_TYPE_LATEST, Gauge, generate_latest

LAG = Gauge("oldspoon_live_lag_seconds", "How long the open batch that waits longest has been due.")
QUEUE = Gauge("oldspoon_jobs_waiting", "Jobs that no worker has taken yet.")
FAILED = Gauge("oldspoon_jobs_failed", "Jobs of the last week that failed for good.")
OPEN = Gauge("oldspoon_open_batches", "Batches on the stove.")
WAITING = Gauge("oldspoon_computing_waiting", "Questions that wait for their turn to be computed.")
WAITING.set_function(LIMITER.waiting)


@require_safe
@never_cache
def metrics(request: HttpRequest) -> HttpResponse:
    """All of them; for anyone without the token there is nothing here."""
    token = settings.METRICS_TOKEN
    given = request.headers.get("Authorization", "").removeprefix("Bearer ")
    if not token or not secrets.compare_digest(given.encode(), token.encode()):
        raise Http404
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT extract(epoch FROM %s - min(due_at))::float8 FROM stove_livestate", [clock.now()]
        )
        LAG.set(max(0.0, (cursor.fetchone() or (None,))[0] or 0.0))
        cursor.execute("SELECT count(*) FROM procrastinate_jobs WHERE status = 'todo'")
        QUEUE.set((cursor.fetchone() or (0,))[0])
        cursor.execute("SELECT count(*) FROM procrastinate_jobs WHERE status = 'failed'")
        FAILED.set((cursor.fetchone() or (0,))[0])
        cursor.execute("SELECT count(*) FROM stove_batch WHERE closed_at IS NULL")
        OPEN.set((cursor.fetchone() or (0,))[0])
    return HttpResponse(generate_latest(), content_type=CONTENT_TYPE_LATEST)
