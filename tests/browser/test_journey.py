"""A crème anglaise from formula to logged batch, as the pastry cook does it."""

from __future__ import annotations

import re

from conftest import KITCHEN, chosen, tab
from playwright.sync_api import Locator, Page, expect
from prepared import API, call, new_batch, open_batch, open_bench


def tick(page: Page, line: str) -> Locator:
    """The line of the Slip, which is a button to tick it."""
    return page.locator("button[aria-pressed]").filter(has_text=line)


def grams(page: Page) -> float:
    return float(
        page.locator("dt", has_text="weighed").locator("xpath=following-sibling::dd").inner_text().split()[0]
    )


def test_from_the_book_to_the_log(device):
    page = device("pastry")
    page.goto("/")
    expect(page.get_by_role("listitem").filter(has_text="Bay leaf anglaise")).to_contain_text("nappe from")
    page.get_by_role("link", name="Bay leaf anglaise").click()

    # Change a line in another measure, add one, and see the rule follow.
    rule = page.get_by_role("img", name="Rule:")
    before = rule.get_attribute("aria-label")
    page.get_by_label("Amount of white sugar").fill("1/2 cup")
    expect(rule).not_to_have_attribute("aria-label", before)
    page.get_by_label("Amount of egg yolk").fill("7 yolks")
    chosen(page, "Add an ingredient", "brandy")
    expect(page.get_by_label("Amount of brandy 40 %")).to_have_value("10 g")
    page.get_by_label("What changed").fill("richer, for the test")
    save = page.get_by_role("button", name="Save as version")
    latest = int(re.search(r"\d+", save.inner_text())[0])
    page.get_by_role("button", name=f"Save as version {latest}").click()
    expect(page.get_by_role("button", name=f"Save as version {latest + 1}")).to_be_visible()
    expect(page.get_by_label("version")).to_have_value(str(latest))

    # An earlier version stays readable.
    page.get_by_label("version").select_option(str(latest - 1))
    expect(page.get_by_label("Amount of egg yolk")).to_have_value("6 yolks")
    page.get_by_label("version").select_option(str(latest))
    expect(page.get_by_label("Amount of egg yolk")).to_have_value("7 yolks")

    page.get_by_role("button", name="Take it to the stove").click()
    for line in page.get_by_role("list").locator("button[aria-pressed]").all():
        line.click()
    expect(page.get_by_text("Marked")).to_be_visible()
    page.get_by_role("button", name="All weighed").click()
    for temperature, done in (("92", "Warmed"), ("72.5", "Tempered"), ("80.5", "Off the heat")):
        page.get_by_role("button", name=done).wait_for()
        page.get_by_label("Temperature").fill(temperature)
        page.get_by_role("button", name=done).click()
    page.get_by_role("radio", name="nappe").click()
    page.get_by_role("radio", name="holds").click()
    page.get_by_role("button", name="Spoon tested").click()
    page.get_by_role("radio", name="a few bits").click()
    expect(page.get_by_text("sieve: a few bits")).to_be_visible()
    page.get_by_role("button", name="Tested", exact=True).click()
    page.get_by_role("button", name="brandy 40 % is in").click()
    page.get_by_role("button", name="Finished", exact=True).click()
    page.get_by_role("button", name="Into the ice").click()
    page.get_by_role("button", name="Chilled").click()
    page.get_by_role("radio", name="good").click()
    page.get_by_label("A word for next time").fill("smooth as silk")
    page.get_by_role("button", name="Close the batch").click()
    expect(page.get_by_text("Closed: good · smooth as silk")).to_be_visible()

    page.get_by_role("link", name="Log").click()
    row = page.get_by_role("listitem").first
    expect(row).to_contain_text("smooth as silk")
    expect(row).to_contain_text("80.5°")
    expect(row).to_contain_text("72.5°")
    row.get_by_role("link").click()
    expect(page.get_by_role("img", name="Rule:")).to_have_attribute("aria-label", re.compile("lifted 80.5°"))
    page.get_by_role("button", name="Open this batch again").click()
    expect(page.get_by_role("button", name="Put away")).to_be_visible()


def test_scaling_and_undo(device):
    page = device("trainee")
    open_bench(page, "Perry sabayon")
    expect(page.get_by_role("button", name="Undo")).to_be_disabled()
    start = grams(page)
    tab(page, "How much")
    page.get_by_label("Yolks in hand").fill("12")
    page.get_by_role("button", name="Scale", exact=True).click()
    expect(page.get_by_label("Amount of egg yolk")).to_have_value("12 yolk")
    expect(page.locator("dd").filter(has_text=f"{2 * start:.0f} g").first).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_label("Amount of egg yolk")).to_have_value("6 yolks")
    page.get_by_role("heading", name="The slip").click()
    page.keyboard.press("Control+y")
    expect(page.get_by_label("Amount of egg yolk")).to_have_value("12 yolk")
    page.keyboard.press("Control+z")
    expect(page.get_by_label("Amount of egg yolk")).to_have_value("6 yolks")
    page.keyboard.press("Control+y")
    expect(page.get_by_text("Changed for this batch only")).to_be_visible()
    page.get_by_role("button", name="Take it to the stove").click()
    page.get_by_role("button", name="All weighed").wait_for()
    expect(
        page.get_by_role("definition").filter(has_text=re.compile(rf"^{2 * start:.0f} g$"))
    ).to_be_visible()


def test_everything_is_found_again_after_a_reload_and_on_a_second_device(device):
    page = device("trainee")
    open_batch(page)
    tick(page, "whole milk").click()
    expect(page.get_by_text("weighed whole milk")).to_be_visible()
    page.reload()
    expect(tick(page, "whole milk")).to_have_attribute("aria-pressed", "true")
    tablet = device("section")
    tablet.goto(page.url)
    expect(tick(tablet, "whole milk")).to_have_attribute("aria-pressed", "true")
    tick(page, "egg yolk").click()
    expect(tick(tablet, "egg yolk")).to_have_attribute("aria-pressed", "true")
    tablet.get_by_role("button", name="Take back: weighed egg yolk").click()
    expect(tick(page, "egg yolk")).to_have_attribute("aria-pressed", "false")


def test_a_draft_survives_a_reload(device):
    page = device("pastry")
    open_bench(page, "Barley ice base")
    page.get_by_label("Amount of white sugar").fill("133 g")
    expect(page.get_by_text("changed, not saved")).to_be_visible()
    page.reload()
    expect(page.get_by_label("Amount of white sugar")).to_have_value("133 g")
    page.get_by_role("button", name="Back to what is in the book").click()
    expect(page.get_by_label("Amount of white sugar")).to_have_value("120 g")


def test_a_new_formula(device):
    page = device("pastry")
    page.goto(f"{KITCHEN}/book/new")
    page.get_by_label("Name", exact=True).fill("Fig leaf anglaise")
    page.get_by_role("button", name="Save to the book").click()
    expect(page.get_by_role("heading", name="Fig leaf anglaise")).to_be_visible()
    page.get_by_role("link", name="Book", exact=True).click()
    expect(page.get_by_role("link", name="Fig leaf anglaise")).to_be_visible()


def test_a_viewer_looks_and_changes_nothing(device):
    page = device("guest")
    page.goto(f"{KITCHEN}/book")
    expect(page.get_by_role("link", name="New formula")).to_have_count(0)
    page.get_by_role("link", name="Bay leaf anglaise").click()
    expect(page.get_by_text("You can look; cooks take it to the stove.")).to_be_visible()
    expect(page.get_by_role("button", name="Save as version")).to_have_count(0)


def test_a_batch_thrown_away_half_way_opens_on_what_came_of_it(device):
    page = device("trainee")
    batch = new_batch(page)
    call(
        page, "POST", f"{API}/batches/{batch}/close", {"verdict": "discarded", "note": "the milk had turned"}
    )
    page.goto(f"{KITCHEN}/stove/{batch}")
    expect(page.get_by_text("Closed: discarded")).to_be_visible()
    expect(page.locator("[aria-current=step]")).to_contain_text("Keep")
    expect(page.get_by_role("heading", name="Discarded: none of it is used")).to_be_visible()
