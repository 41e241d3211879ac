"""One error shape for the whole API: problem details (RFC 9457) that name the fields."""

from __future__ import annotations

import logging
from collections.abc import Callable, Sequence
from typing import Any

from common.refusals import Refusal
from custard import CustardError
from django.conf import settings
from django.core.exceptions import PermissionDenied, RequestDataTooBig, SuspiciousOperation
from django.db import DataError, OperationalError
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse, UnreadablePostError
from django.http.multipartparser import MultiPartParserError
from ninja import NinjaAPI, Schema
from ninja.errors import AuthenticationError, HttpError, ValidationError
from psycopg_pool import PoolTimeout

CONTENT_TYPE = "application/problem+json"
MOST_FIELDS = 20
"""So many fields are named at most: whoever sends thousands of wrong ones is told of the first."""
MOST_NAME = 80
RETRY_S = 2
"""After so long a database that is back is found again."""


class FieldProblem(Schema):
    """What is wrong with one field; `field` is a path, as "lines[2].amount"."""

    field: str
    message: str


class Problem(Schema):
    """What went wrong, for a person (`detail`) and by field."""

    type: str
    title: str
    status: int
    detail: str
    fields: list[FieldProblem]


TITLES = {
    405: "Not possible here",
    400: "The request could not be read",
    401: "Log in first",
    403: "Not allowed",
    404: "Not found",
    409: "Someone was faster",
    413: "Too much at once",
    422: "Something needs changing",
    429: "Too many tries",
    500: "Our mistake",
    503: "Not available just now",
}


def problem(
    status: int, detail: str, fields: Sequence[tuple[str, str]] = (), kind: str = "about:blank"
) -> HttpResponse:
    """A problem response."""
    return JsonResponse(body_of(status, detail, fields, kind), status=status, content_type=CONTENT_TYPE)


def body_of(
    status: int, detail: str, fields: Sequence[tuple[str, str]] = (), kind: str = "about:blank"
) -> dict[str, Any]:
    """A problem as plain data; of many fields the first ones are named."""
    return {
        "type": kind,
        "title": TITLES.get(status, "Problem"),
        "status": status,
        "detail": detail,
        "fields": [{"field": field, "message": message} for field, message in fields[:MOST_FIELDS]],
    }


def away() -> HttpResponse:
    """While the database is gone: nothing is lost, and it is worth trying again at once."""
    answer = problem(
        503, "The kitchen's book cannot be reached just now. Marks are kept on this device; try again."
    )
    answer["Retry-After"] = str(RETRY_S)
    return answer


def csrf_failure(request: HttpRequest, reason: str = "") -> HttpResponse:
    """What Django shows for a missing CSRF token."""
    return problem(403, "This page is out of date. Reload it and try again; nothing was changed.")


def register(api: NinjaAPI) -> None:
    """Turn every refusal the application makes into the one shape."""

    @api.exception_handler(Refusal)
    def refusal(request: HttpRequest, error: Refusal) -> HttpResponse:
        answer = problem(error.status, str(error), error.fields, error.kind)
        if error.retry_s is not None:
            answer["Retry-After"] = str(error.retry_s)
        return answer

    @api.exception_handler(CustardError)
    def from_core(request: HttpRequest, error: CustardError) -> HttpResponse:
        return problem(422, error.sentence(), [(error.field, error.sentence())])

    @api.exception_handler(ValidationError)
    def from_schema(request: HttpRequest, error: ValidationError) -> HttpResponse:
        fields = [(_path(found["loc"]), _sentence(found)) for found in error.errors[:MOST_FIELDS]]
        return problem(422, "; ".join(f"{field}: {text}" for field, text in fields), fields)

    @api.exception_handler(Http404)
    def not_found(request: HttpRequest, error: Http404) -> HttpResponse:
        return problem(404, "There is nothing here, or it is not yours to see.")

    @api.exception_handler(AuthenticationError)
    def not_logged_in(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return problem(401, "Log in to go on; what you typed is still here.")

    @api.exception_handler(PermissionDenied)
    def denied(request: HttpRequest, error: PermissionDenied) -> HttpResponse:
        return problem(403, str(error) or "Your role does not allow this.")

    @api.exception_handler(RequestDataTooBig)
    def too_big(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
        most = settings.DATA_UPLOAD_MAX_MEMORY_SIZE / 1e6
        return problem(413, f"That is more than {most:g} MB, the most that is read at once.")

    @api.exception_handler(SuspiciousOperation)
    @api.exception_handler(MultiPartParserError)
    @api.exception_handler(UnreadablePostError)
    def unreadable(request: HttpRequest, error: Exception) -> HttpResponse:
        return problem(400, "The request could not be read.")

    @api.exception_handler(HttpError)
    def http_error(request: HttpRequest, error: HttpError) -> HttpResponse:
        detail = "The request is not readable JSON." if error.status_code == 400 else str(error)
        return problem(error.status_code, detail)

    @api.exception_handler(DataError)
    def too_large(request: HttpRequest, error: DataError) -> HttpResponse:
        return problem(422, "A number in it is larger than any that is kept here.")

    @api.exception_handler(OperationalError)
    @api.exception_handler(PoolTimeout)
    def no_database(request: HttpRequest, error: Exception) -> HttpResponse:
        logging.getLogger("oldspoon").error("no database at %s: %s", request.path, error)
        return away()

    @api.exception_handler(Exception)
    def unexpected(request: HttpRequest, error: Exception) -> HttpResponse:
        logging.getLogger("oldspoon").exception("unexpected error at %s", request.path)
        return problem(500, "Something broke on our side. Nothing you typed is lost; try again.")


def _path(parts: Sequence[str | int]) -> str:
    """("body", "draft", "lines", 2, "amount") as "lines[2].amount"."""
    text = ""
    for part in parts:
        if part in ("body", "path", "query", "draft", "mark", "batch", "change", "login") and not text:
            continue
        text += f"[{part}]" if isinstance(part, int) else f".{part}" if text else str(part)
    return text[:MOST_NAME] or "request"


_BOUNDS = {"ge": "at least", "gt": "more than", "le": "at most", "lt": "less than"}
_PLAIN = {
    "missing": "must be given",
    "string_type": "must be text",
    "float_type": "must be a number",
    "float_parsing": "must be a number",
    "int_parsing": "must be a whole number",
    "uuid_parsing": "is not an identifier",
    "extra_forbidden": "is not a field we know",
}


def _sentence(found: dict[str, Any]) -> str:
    context = found.get("ctx", {})
    match found["type"]:
        case "string_too_long":
            return f"is longer than {context['max_length']} characters"
        case "string_too_short":
            return "must not be empty"
        case "greater_than_equal" | "less_than_equal" | "greater_than" | "less_than":
            return _bounded(*next(iter(context.items())))
        case "literal_error":
            return f"must be {context['expected']}"
        case "value_error":
            return str(context.get("error", found["msg"]))
        case kind:
            return _PLAIN.get(kind, str(found["msg"]).lower())


def _bounded(name: str, bound: object) -> str:
    shown = f"{bound:.10g}" if isinstance(bound, int | float) else str(bound)
    return f"must be {_BOUNDS[name]} {shown}"


BODIES = ("POST", "PUT", "PATCH")


def _unreadable(request: HttpRequest) -> HttpResponse | None:
    """What the API never reads: a body that is not JSON, an address with a character that no text has."""
    if not request.path.startswith("/api/"):
        return None
    if "\0" in request.path:
        return problem(404, "There is nothing here.")
    kind = request.content_type or ""
    sends = request.method in BODIES and request.headers.get("Content-Length", "0") not in ("", "0")
    if sends and kind and kind != "application/json" and not kind.endswith("+json"):
        return problem(415, "Only JSON is read here. Send it as application/json.")
    return None


def _not_kept(response: HttpResponse) -> HttpResponse:
    """An answer that no browser or proxy keeps: what it says is a kitchen's own, and soon another."""
    if not response.has_header("Cache-Control"):
        response["Cache-Control"] = "private, no-store"
    return response


class OneShape:
    """Middleware: whatever fails under /api/ outside a route answers in the same shape."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Turn Django's own error pages into problem details, and what no route can read into a sentence."""
        refused = _unreadable(request)
        response = refused or self.get_response(request)
        if (
            request.path.startswith("/api/")
            and response.status_code >= 400
            and response.get("Content-Type") != CONTENT_TYPE
        ):
            known = {404: "There is nothing here.", 405: "That cannot be done to this address."}
            answer = problem(response.status_code, known.get(response.status_code, "That did not work."))
            if response.has_header("Allow"):
                answer["Allow"] = response["Allow"]
            return _not_kept(answer)
        return _not_kept(response) if request.path.startswith("/api/") else response
