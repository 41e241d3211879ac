"""One error shape, whatever is wrong. Made-up calls to every route: `tests/served/test_fuzz.py`."""

from __future__ import annotations

import pytest

from tests.conftest import logged_in


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


@pytest.mark.parametrize(
    ("value", "said"),
    [(0, "must be more than 0"), (-3, "must be more than 0"), (1e9, "must be at most 1000000")],
)
def test_a_bound_is_said_as_it_is(here, batch, value, said):
    body = {"verdict": "good", "yield_g": value}
    answer = logged_in("here-cook")("POST", f"/api/k/here/batches/{batch.pk}/close", body)
    assert [one["message"] for one in answer.json()["fields"]] == [said]
