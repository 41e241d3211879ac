"""The Log over a year of the demo kitchen: found, laid over one another, learned from, told by the month."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect
from test_every_screen import right_at_every_width
from year import YEAR, bring_in


@pytest.fixture(scope="module", autouse=True)
def own_kitchen(seeded):
    """These tests only look: the year is brought in once for all of them."""
    bring_in()


def test_four_hundred_batches_are_found_and_explained(device):
    page = device("pastry")
    page.goto(f"{YEAR}/log")
    boxes = page.get_by_role("checkbox")
    boxes.first.wait_for()
    print(page.locator("main").aria_snapshot()[:6000])
    page.goto(f"{YEAR}/log/months")
    page.get_by_role("heading", name="Twelve months").wait_for()
    print(page.locator("main").aria_snapshot()[:8000])
    page.goto(f"{YEAR}/kitchen/learned")
    page.get_by_role("article").first.wait_for()
    print(page.locator("main").aria_snapshot()[:6000])
    page.screenshot(path="/tmp/learned.png")
