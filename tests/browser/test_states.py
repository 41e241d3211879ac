"""Every place as it also can be: with nothing in it, unreachable, still fetching, and only looked at."""

from __future__ import annotations

import json
import re

from conftest import KITCHEN, no_axe_violation, no_sideways_scroll
from playwright.sync_api import Page, Route, expect
from prepared import call, go

PLACES = (
    "book",
    "stove",
    "shelf",
    "shelf/closing",
    "day",
    "day/2030-01-02/lists",
    "day/2030-01-02/after",
    "trouble",
    "practice",
    "practice/section",
    "log",
    "kitchen/people",
    "kitchen/hobs",
    "kitchen/vessels",
    "kitchen/cooling",
    "kitchen/own",
    "kitchen/probes",
    "kitchen/audit",
)
"""Places that fetch something before they can tell it."""
ELSEWHERE = [place for place in PLACES if place != "log"]
"""Those that the test does not begin in."""
PHONE = {"width": 360, "height": 740}
"""Where there is least room."""
MARKED = """() => document.querySelectorAll("main h1, main h2, main [role]").forEach(
  (one, _, all) => { if (one === all[all.length - 1]) one.setAttribute("data-before", ""); }
)"""
"""Mark the last thing that only this place has."""
WRITES = re.compile(r"^(Take|Add|Save|Begin|Put|Make|Keep|Change)\b")
BROKEN = {"kind": "broken", "detail": "Something went wrong in the kitchen’s machine.", "fields": []}


def opened(page: Page, path: str) -> None:
    """Another place, once nothing of the one before is left."""
    page.evaluate(MARKED)
    go(page, path)
    expect(page.locator("[data-before]")).to_have_count(0)


def settled(page: Page) -> None:
    """What is fetched was fetched."""
    page.get_by_role("main").get_by_role("heading").first.wait_for()
    expect(page.get_by_text(re.compile(r"^Fetching .* …$"))).to_have_count(0)


def test_every_place_of_a_new_kitchen_says_in_a_sentence_what_will_be_there(device):
    page = device("section")
    made = call(page, "POST", "/api/kitchens/begin", {"name": "Nothing yet", "altitude_m": 0})
    page.set_viewport_size(PHONE)
    page.goto(f"/k/{made['slug']}")
    for place in PLACES:
        opened(page, f"/k/{made['slug']}/{place}")
        settled(page)
        said = page.get_by_role("main").inner_text()
        assert re.search(r"[A-Z][^.]{20,}\.", said), place
        no_axe_violation(page)
        no_sideways_scroll(page)


def test_a_place_that_cannot_be_fetched_says_so_and_can_be_asked_again(device):
    page = device("section")
    page.goto(f"{KITCHEN}/log")
    page.get_by_text("✕ discarded").first.wait_for()

    def broken(route: Route) -> None:
        route.fulfill(status=500, content_type="application/json", body=json.dumps(BROKEN))

    page.route("**/api/k/tidemill-house/**", broken)
    page.set_viewport_size(PHONE)
    for place in ELSEWHERE:
        opened(page, f"{KITCHEN}/{place}")
        expect(page.get_by_role("alert").first).to_be_visible()
        no_sideways_scroll(page)
    # They all say it the same way.
    no_axe_violation(page)
    page.unroute("**/api/k/tidemill-house/**")
    page.get_by_role("button", name="Try again").first.click()
    expect(page.get_by_role("alert")).to_have_count(0)


def test_a_place_that_is_still_fetched_says_what_it_waits_for(device):
    page = device("section")
    page.goto(f"{KITCHEN}/log")
    page.get_by_text("✕ discarded").first.wait_for()
    page.route("**/api/k/tidemill-house/**", lambda _: None)
    for place in ELSEWHERE:
        opened(page, f"{KITCHEN}/{place}")
        expect(page.get_by_text(re.compile(r"^Fetching .* …$")).first).to_be_visible()
    # They all say it the same way.
    no_axe_violation(page)


def test_who_only_looks_is_offered_nothing_to_change(device):
    page = device("guest", width=PHONE["width"])
    page.goto(KITCHEN)
    for place in ("book", "stove", "shelf", "day", "log", "kitchen/people", "kitchen/hobs"):
        opened(page, f"{KITCHEN}/{place}")
        settled(page)
        writes = page.get_by_role("main").get_by_role("button", name=WRITES)
        assert writes.all_inner_texts() == [], place
        no_sideways_scroll(page)
