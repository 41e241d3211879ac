"""The Log over a year of the demo kitchen: found, laid over one another, learned from, told by the month."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect
from test_every_screen import right_at_every_width
from year import BATCHES, SINCE_K, WEAKENED, YEAR, bring_in


def figures_of(page: Page, name: str) -> list[float]:
    """What a curve of months says aloud, month by month."""
    said = page.get_by_role("img", name=re.compile(f"^{name}: ")).get_attribute("aria-label") or ""
    return [float(one.replace("−", "-")) for one in re.findall(r"\w{3,4} ([+−]?\d+(?:\.\d+)?)", said)]


def test_a_year_of_the_log(device):
    """One test: bringing the year in takes longer than looking at it."""
    bring_in()
    page = device("pastry")
    _what_was_spoiled_is_found_and_explained(page)
    _the_months_show_the_ring_that_weakens(page)
    _what_it_taught_is_near_what_it_hides(page)


def _what_was_spoiled_is_found_and_explained(page):
    page.goto(f"{YEAR}/log?verdict=discarded")
    ticks = page.get_by_role("checkbox")
    ticks.first.wait_for()
    spoiled = ticks.count()
    assert 3 <= spoiled <= 12
    expect(page.get_by_role("link", name=re.compile("trainee"))).to_have_count(spoiled)
    page.goto(f"{YEAR}/log")
    expect(page.get_by_role("checkbox", name=f"Tick batch {BATCHES}", exact=True)).to_be_visible()
    right_at_every_width(page)
    page.get_by_role("button", name="Earlier").click()
    expect(page.get_by_role("checkbox", name=f"Tick batch {BATCHES}", exact=True)).to_have_count(0)
    page.get_by_role("checkbox").first.wait_for()
    page.get_by_role("searchbox", name="Find").fill("bay leaf lifted much too late")
    expect(ticks).to_have_count(3)
    expect(page.get_by_role("link", name=re.compile("discarded"))).to_have_count(3)
    ticks.first.check()
    page.get_by_role("searchbox", name="Find").fill("bay leaf")
    page.get_by_role("link", name=re.compile("section chef")).first.wait_for()
    line = page.get_by_role("listitem").filter(has_text="section chef").first
    line.get_by_role("checkbox").check()
    page.get_by_role("link", name="Lay them over one another").click()
    why = page.get_by_role("region", name="Why was one better?")
    expect(why.get_by_role("listitem").first).to_contain_text("Where it was lifted")
    right_at_every_width(page)


def _the_months_show_the_ring_that_weakens(page):
    page.goto(f"{YEAR}/log/months")
    page.get_by_role("heading", name="Twelve months").wait_for()
    front, induction = figures_of(page, "What front ring gave"), figures_of(page, "What induction gave")
    assert len(front) >= 11
    assert abs(front[-1] / front[0] - WEAKENED) < 0.12
    assert abs(induction[-1] / induction[0] - 1) < 0.08
    # A year that does not end with a month has a part of a thirteenth.
    assert 0.9 * BATCHES <= sum(figures_of(page, "Batches")) <= BATCHES
    right_at_every_width(page)


def _what_it_taught_is_near_what_it_hides(page):
    page.goto(f"{YEAR}/kitchen/learned")
    house = page.get_by_role("article", name="All sauces here")
    expect(house).to_contain_text(f"{BATCHES} batches")
    found = re.search(r"coats ([\d.]+)° higher than computed, ± ([\d.]+)°", house.inner_text())
    assert found is not None
    assert abs(float(found[1]) - SINCE_K) < 2 * float(found[2])
    right_at_every_width(page)
    page.goto(f"{YEAR}/log")
    page.get_by_role("link", name=re.compile("^Bay leaf anglaise")).first.click()
    page.get_by_role("img", name="Curve:").first.wait_for()
    page.get_by_role("button", name="Again from here").wait_for()
