"""The API's contract says what can be answered besides success: one problem document, the same everywhere."""

from __future__ import annotations

from typing import Any

from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema

from oldspoon.problems import CONTENT_TYPE, TITLES, Problem

REFUSED = {"$ref": "#/components/responses/Problem"}


class Documented(NinjaAPI):
    """An API whose contract gives every route the same answer for whatever is no success."""

    def get_openapi_schema(self, **how: Any) -> OpenAPISchema:
        """The contract, with one default answer."""
        found = super().get_openapi_schema(**how)
        schema = Problem.model_json_schema(ref_template="#/components/schemas/{model}")
        parts = schema.pop("$defs")
        found["components"]["schemas"].update({**parts, "Problem": schema})
        found["components"]["responses"] = {"Problem": _answer()}
        for operations in found["paths"].values():
            for operation in operations.values():
                operation["responses"]["default"] = REFUSED
        return found


def _answer() -> dict[str, Any]:
    said = "; ".join(f"{status} {title}" for status, title in sorted(TITLES.items()) if status < 600)
    schema = {"$ref": "#/components/schemas/Problem"}
    return {"description": said, "content": {CONTENT_TYPE: {"schema": schema}}}
