"""The Log: batches found, laid over one another, compared; what they taught, left out and gone by again."""

from __future__ import annotations

import re

from conftest import KITCHEN
from playwright.sync_api import expect
from prepared import open_bench
from test_every_screen import right_at_every_width


def test_batches_are_found_laid_over_one_another_and_compared(device):
    page = device("pastry")
    page.goto(f"{KITCHEN}/log")
    lines = page.get_by_role("link", name="Bay leaf anglaise")
    expect(lines).to_have_count(5)
    page.get_by_role("searchbox", name="Find").fill("sieve looked")
    expect(lines).to_have_count(1)
    expect(page).to_have_url(re.compile("words=sieve"))
    page.get_by_role("searchbox", name="Find").fill("nobody wrote that")
    page.get_by_text("No such batch").wait_for()
    page.get_by_role("button", name="Everything", exact=True).click()
    page.get_by_text("By formula, family").click()
    page.get_by_label("Verdict").select_option("discarded")
    expect(page.get_by_role("checkbox")).to_have_count(2)
    page.get_by_role("button", name="Everything", exact=True).click()
    page.get_by_role("searchbox", name="Find").fill("bay leaf")
    boxes = page.get_by_role("checkbox")
    expect(boxes).to_have_count(5)
    boxes.first.check()
    boxes.last.check()
    page.get_by_role("link", name="Lay them over one another").click()
    page.get_by_role("heading", name="2 batches of Bay leaf anglaise, laid over one another").wait_for()
    page.get_by_role("img", name="2 curves laid over one another").wait_for()
    # The oldest was left in its hot pan: that is what the answer begins with.
    why = page.get_by_role("region", name="Why was one better?")
    expect(why.get_by_role("listitem").first).to_contain_text("What the pan gave after the flame")
    expect(page.get_by_role("table")).to_contain_text("discarded")
    page.get_by_role("radio", name="at the lift").click()
    expect(page.get_by_role("radio", name="at the lift")).to_be_checked()
    right_at_every_width(page)
    page.get_by_role("link", name="Back to the log").click()
    page.get_by_role("heading", name="The log of Tidemill House").wait_for()


def test_what_was_learned_is_left_out_and_gone_by_again(device):
    page = device("pastry")
    open_bench(page)
    here = page.get_by_text("Here it coats")
    here.wait_for()
    page.goto(f"{KITCHEN}/kitchen/learned")
    sauce = page.get_by_role("article", name="Bay leaf anglaise")
    sauce.get_by_role("button", name="Leave it out").click()
    sauce.get_by_role("button", name="Go by it again").wait_for()
    open_bench(page)
    page.get_by_text("Likely range in brackets.").wait_for()
    expect(here).to_have_count(0)
    page.goto(f"{KITCHEN}/kitchen/learned")
    sauce.get_by_role("button", name="Go by it again").click()
    sauce.get_by_role("button", name="Leave it out").wait_for()
    page.goto(f"{KITCHEN}/log?words=bay+leaf&verdict=discarded")
    page.get_by_role("link", name="Bay leaf anglaise").click()
    page.get_by_role("button", name="It was odd: learn nothing from it").click()
    page.get_by_role("button", name="Learn from it after all").wait_for()
    expect(page.get_by_text("called odd: nothing is learned of it").first).to_be_visible()
