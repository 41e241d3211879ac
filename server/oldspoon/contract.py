"""The API's contract says what can be answered besides success: problem documents, by status."""

from __future__ import annotations

from typing import Any

from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema

from oldspoon.problems import CONTENT_TYPE, TITLES, Problem

ANY = (400, 503)
"""Whatever is asked: the request cannot be read, or the database is away."""
WRITES = (409, 413)
"""Someone was faster; more was sent than is read at once."""


class Documented(NinjaAPI):
    """An API whose contract names the refusals of every route."""

    def get_openapi_schema(self, **how: Any) -> OpenAPISchema:
        """The contract, with the refusals that the shape of each route makes possible."""
        found = super().get_openapi_schema(**how)
        schema = Problem.model_json_schema(ref_template="#/components/schemas/{model}")
        parts = schema.pop("$defs")
        found["components"]["schemas"].update({**parts, "Problem": schema})
        for path, operations in found["paths"].items():
            for method, operation in operations.items():
                for status in sorted(_possible(path, method, operation)):
                    operation["responses"].setdefault(status, _answer(status))
        return found


def _possible(path: str, method: str, operation: dict[str, Any]) -> set[int]:
    """The statuses a route may refuse with, besides those it declares itself."""
    found = set(ANY)
    has_body = "requestBody" in operation
    if operation.get("security") or path.endswith("/session"):
        found |= {401, 403}
    if operation.get("parameters") or has_body:
        found.add(422)
    if "{" in path:
        found.add(404)
    if method != "get":
        found |= {*WRITES, 403}
    # A question that is computed in turn may be one too many, and so may be a log-in.
    if has_body or "/pours" in path or "/remedies" in path or path.endswith("/compare"):
        found.add(429)
    return found


def _answer(status: int) -> dict[str, Any]:
    schema = {"$ref": "#/components/schemas/Problem"}
    return {"description": TITLES[status], "content": {CONTENT_TYPE: {"schema": schema}}}
