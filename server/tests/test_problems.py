"""One error shape, whatever is thrown at the API, and never a 500."""

from __future__ import annotations

from pathlib import Path
from urllib.parse import urlencode, urlsplit

import pytest
import schemathesis
from hypothesis import HealthCheck, settings

from tests.conftest import logged_in

CONTRACT = schemathesis.openapi.from_path(str(Path(__file__).parents[1] / "openapi.json"))


@pytest.mark.parametrize(
    ("method", "path", "status"),
    [
        ("GET", "/api/nothing-here", 404),
        ("PUT", "/api/session", 405),
        ("GET", "/api/k/nowhere", 404),
        ("GET", "/api/k/here/batches/0", 404),
        ("GET", "/api/k/here/batches/x", 422),
        ("GET", "/api/k/here/log?before=x", 422),
        ("GET", "/api/k/here/formulas?family=%00", 422),
        ("GET", "/api/k/here/formulas?words=%00", 422),
        ("GET", "/api/k/here/batches/99999999999999999999999", 404),
    ],
)
def test_errors_have_one_shape(here, method, path, status):
    answer = logged_in("here-chef")(method, path)
    assert answer.status_code == status
    assert answer["content-type"] == "application/problem+json"
    assert set(answer.json()) == {"type", "title", "status", "detail", "fields"}


def test_a_body_beyond_all_measure_is_refused(here):
    answer = logged_in("here-chef")("POST", "/api/k/here/import", {"text": "milk " * 300_000})
    assert answer.status_code == 413
    assert "1 MB" in answer.json()["detail"]


@CONTRACT.parametrize()
@settings(max_examples=5, deadline=None, derandomize=True, suppress_health_check=list(HealthCheck))
def test_nothing_the_contract_allows_or_forbids_breaks_the_server(case, chef, batch):
    """Generated requests to every route, as a chef of the kitchen."""
    case.path_parameters = {**(case.path_parameters or {}), "kitchen": "here"}
    sent = case.as_transport_kwargs(base_url="http://testserver")
    body = sent.get("json", sent.get("data"))
    query = urlencode(sent.get("params") or {}, doseq=True)
    path = urlsplit(sent["url"]).path
    answer = chef(sent["method"], f"{path}?{query}" if query else path, body)
    assert answer.status_code < 500
    if answer.status_code >= 400:
        assert answer["content-type"] == "application/problem+json"
