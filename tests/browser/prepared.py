"""What a test is not about is prepared over the API, so that the browser draws only what it is about."""

from __future__ import annotations

from typing import Any

from conftest import KITCHEN
from playwright.sync_api import Page

API = f"/api{KITCHEN}"
DEMO = "Bay leaf anglaise"


def call(page: Page, method: str, path: str, body: object = None) -> Any:
    """Ask the API as whoever is logged in on a page's device."""
    [token] = (one["value"] for one in page.context.cookies() if one["name"] == "csrftoken")
    answer = page.context.request.fetch(path, method=method, data=body, headers={"X-CSRFToken": token})
    assert answer.ok, f"{method} {path}: {answer.status} {answer.text()}"
    return answer.json() if answer.body() else None


_ids: dict[str, int] = {}
"""Formulas of the demo kitchen by name: every test finds the same."""


def formula_id(page: Page, name: str) -> int:
    if name not in _ids:
        _ids.update({one["name"]: one["id"] for one in call(page, "GET", f"{API}/formulas")["lines"]})
    return _ids[name]


def open_bench(page: Page, name: str = DEMO) -> None:
    """The Bench with a formula of the book on it."""
    page.goto(f"{KITCHEN}/book/{formula_id(page, name)}")
    page.get_by_role("button", name="Take it to the stove").or_(page.get_by_text("You can look")).wait_for()


def new_batch(page: Page, name: str = DEMO, pace: float = 1) -> int:
    """A formula of the book, taken to the stove as it is written."""
    key = formula_id(page, name)
    found = call(page, "GET", f"{API}/formulas/{key}")
    body = {"formula_id": key, "version": found["latest"], "draft": found["draft"], "pace": pace}
    return call(page, "POST", f"{API}/batches", body)["id"]


def batch_with_probe(page: Page, name: str = DEMO, pace: float = 1) -> tuple[int, str]:
    """A batch on the front ring with a new probe in it: the batch, and the probe's token."""
    batch = new_batch(page, name, pace)
    made = call(page, "POST", f"{API}/devices", {"name": "silver probe", "kind": "probe"})
    hob = next(one for one in call(page, "GET", f"{API}/hearth")["hobs"] if one["name"] == "front ring")
    call(page, "PUT", f"{API}/batches/{batch}/setup", {"probe_id": made["id"], "hob_id": hob["id"]})
    return batch, made["token"]


def open_batch(page: Page, name: str = DEMO) -> int:
    """A new batch at the stove, its page open where everything is weighed."""
    batch = new_batch(page, name)
    page.goto(f"{KITCHEN}/stove/{batch}")
    page.get_by_role("button", name="All weighed").wait_for()
    return batch


def go(page: Page, path: str) -> None:
    """Another place, as a link inside the application leads there: nothing is loaded again."""
    page.evaluate(
        """path => {
          history.pushState({}, "", path);
          dispatchEvent(new PopStateEvent("popstate", {state: {}}));
        }""",
        path,
    )
