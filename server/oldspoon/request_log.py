"""What is told of every request: a line in the log, and a count for whoever measures.

A line says who asked, in which kitchen, for what, how it ended and how long it took. It never says what was
sent: no bodies, no queries, no cookies, no tokens.
"""

from __future__ import annotations

import logging
import re
import time
import uuid
from collections.abc import Callable
from typing import Any

from django.http import HttpRequest, HttpResponse
from prometheus_client import Counter, Histogram

log = logging.getLogger("oldspoon.request")
REQUESTS = Counter("oldspoon_requests", "Requests that were answered.", ["method", "route", "status"])
SECONDS = Histogram("oldspoon_request_seconds", "How long answering took.", ["method", "route"])
METHODS = {"GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS"}
GIVEN = re.compile(r"[A-Za-z0-9._-]{1,64}")


class RequestLog:
    """Middleware, outermost: gives every request an id, and tells of it when it is answered."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answer, and tell."""
        given = request.headers.get("X-Request-ID", "")
        # One that a proxy gave is kept, so that its log and ours can be read side by side.
        name = given if GIVEN.fullmatch(given) else uuid.uuid4().hex
        began = time.monotonic()
        response = self.get_response(request)
        took = time.monotonic() - began
        response["X-Request-ID"] = name
        route = _route(request)
        # A stranger's own methods are all one, as every label is kept for ever.
        method = request.method if request.method in METHODS else "other"
        REQUESTS.labels(method, route, response.status_code).inc()
        SECONDS.labels(method, route).observe(took)
        log.info("request", extra=_line(request, response, name, route, took))
        return response


def _route(request: HttpRequest) -> str:
    """The pattern of an address, without what is asked for in it; what is none of ours is all one."""
    match = request.resolver_match
    if match is None:
        return "none"
    return match.route if match.route.startswith(("api/", "health/")) else "page"


def _line(request: HttpRequest, response: HttpResponse, name: str, route: str, took: float) -> dict[str, Any]:
    match = request.resolver_match
    # Only a person who was looked up already: telling costs no question to the database.
    person = getattr(request, "_cached_user", None)
    return {
        "request": name,
        "method": request.method,
        "route": route,
        "status": response.status_code,
        "ms": round(1000 * took, 1),
        "person": getattr(person, "pk", None),
        "kitchen": match.kwargs.get("kitchen") if match else None,
    }
