"""Every screen: no axe violation, no sideways scroll from a phone to a wall, keys that reach everything."""

from __future__ import annotations

import re

from conftest import KITCHEN, no_axe_violation, no_sideways_scroll
from playwright.sync_api import Page, expect
from prepared import go, open_batch, open_bench
from test_journey import tick

WIDTHS = (360, 768, 1280, 1920)
KITCHEN_PAGES = (
    "People",
    "Hobs and pans",
    "What was learned",
    "Cooling",
    "Vessels",
    "Probes, scales, screens",
    "Prices",
    "Our own ingredients",
    "Rules",
    "Who did what",
    "You",
)
STAGES = ("weigh", "warm", "temper", "cook", "test", "finish", "chill", "keep")


def right_at_every_width(page: Page) -> None:
    """No axe violation on a phone, and no sideways scroll from there to a wall.

    What is only on a larger screen is the same on every page, and looked at where one page is.
    """
    page.set_viewport_size({"width": WIDTHS[0], "height": 740})
    no_axe_violation(page)
    fits_every_width(page)


def right_on_a_phone(page: Page) -> None:
    """No axe violation and no sideways scroll where there is least room; left at a tablet's width.

    For states that only a longer story reaches; what is reached by itself is looked at in every width here.
    """
    page.set_viewport_size({"width": WIDTHS[0], "height": 740})
    no_axe_violation(page)
    no_sideways_scroll(page)
    page.set_viewport_size({"width": 1280, "height": 800})


def fits_every_width(page: Page) -> None:
    """No sideways scroll from a phone to a wall; it is left at the width of a tablet lying down."""
    for width in (*WIDTHS, 1280):
        page.set_viewport_size({"width": width, "height": 800})
        no_sideways_scroll(page)


def book(page: Page) -> None:
    page.goto(f"{KITCHEN}/book")
    page.get_by_role("link", name="Bay leaf anglaise").wait_for()


def logging_in(page: Page) -> None:
    page.goto("/")
    page.get_by_label("Password").wait_for()


def test_the_book(device):
    page = device("pastry")
    book(page)
    right_at_every_width(page)
    no_axe_violation(page)
    page.get_by_role("button", name="Removed formulas").click()
    page.get_by_role("heading", name="Removed formulas").wait_for()
    right_at_every_width(page)
    page.keyboard.press("?")
    page.get_by_role("dialog").wait_for()
    right_at_every_width(page)


def test_what_the_book_leads_to(device):
    page = device("pastry")
    book(page)
    for name in ("Bay leaf anglaise", "Perry sabayon"):
        page.get_by_role("checkbox", name=f"Compare {name}").check()
    page.get_by_role("link", name="Compare").click()
    page.get_by_role("img", name="Rule:").nth(1).wait_for()
    right_at_every_width(page)
    go(page, f"{KITCHEN}/book/import")
    page.get_by_label("The recipe").fill("Plain\n1 pint milk\n6 egg yolks\nzorblax, 20 g\nCook to 82 C.")
    page.get_by_role("button", name="Read it").click()
    page.get_by_role("button", name="Into the book").wait_for()
    right_at_every_width(page)
    page.get_by_role("button", name="Change the text").click()
    cards = [("a.txt", b"Plain\n500 ml milk\n6 yolks"), ("b.txt", b"call the dairy")]
    files = [{"name": name, "mimeType": "text/plain", "buffer": text} for name, text in cards]
    page.get_by_label("Or from files").set_input_files(files)
    page.get_by_role("button", name="Read them").click()
    page.get_by_text("1 left out").wait_for()
    right_at_every_width(page)
    go(page, f"{KITCHEN}/book/new")
    page.get_by_role("img", name="Rule:").wait_for()
    right_at_every_width(page)


def test_the_bench(device):
    page = device("pastry")
    open_bench(page)
    page.get_by_role("img", name="Ratio map").wait_for()
    for key in "5432":
        page.keyboard.press(key)
        right_at_every_width(page)
    no_axe_violation(page)
    page.get_by_role("button", name="More").click()
    page.get_by_role("menuitem", name="Print the slip").wait_for()
    no_axe_violation(page)
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Solve for me").click()
    page.get_by_role("button", name="Solve", exact=True).click()
    page.get_by_role("button", name="Take it", exact=True).first.wait_for()
    right_at_every_width(page)
    page.keyboard.press("Escape")
    page.set_viewport_size({"width": 1280, "height": 800})
    page.get_by_role("button", name="Name, eggs, cups").click()
    page.get_by_label("Amount of white sugar").fill(
        "some of the very fine kind that was left over from last week"
    )
    page.get_by_role("alert").wait_for()
    right_at_every_width(page)


def test_the_stages_of_a_batch(device):
    page = device("pastry")
    open_batch(page)
    for number in (1, 2, 4, 5, 8):
        page.keyboard.press(str(number))
        page.locator("[aria-current=step]").get_by_text(STAGES[number - 1]).wait_for()
        right_at_every_width(page)
    page.goto(f"{KITCHEN}/stove")
    page.get_by_text("batch ").first.wait_for()
    right_at_every_width(page)


def test_the_log_and_the_kitchen(device):
    page = device("pastry")
    page.goto(f"{KITCHEN}/log")
    page.get_by_text("✕ discarded").first.wait_for()
    right_at_every_width(page)
    page.get_by_role("link", name="Twelve months at a glance").click()
    page.get_by_role("img", name="What front ring gave").wait_for()
    right_at_every_width(page)
    page.goto(f"{KITCHEN}/kitchen")
    page.get_by_label("Height above the sea").wait_for()
    right_at_every_width(page)
    for name in KITCHEN_PAGES:
        page.get_by_role("link", name=name, exact=True).click()
        page.get_by_role("heading", name=name, exact=True).wait_for()
        right_at_every_width(page)


def test_the_log_in(device):
    page = device(None)
    logging_in(page)
    no_axe_violation(page)
    for width in WIDTHS:
        page.set_viewport_size({"width": width, "height": 800})
        no_sideways_scroll(page)


def test_keys_alone_are_enough(device):
    page = device(None)
    logging_in(page)
    page.get_by_label("Name").focus()
    page.keyboard.type("trainee")
    page.keyboard.press("Tab")
    page.keyboard.type("nappe-at-82")
    page.keyboard.press("Enter")
    # The heading is there before the lines are; there is nothing to tab to until then.
    page.get_by_role("link", name="Bay leaf anglaise").wait_for()
    for _ in range(40):
        page.keyboard.press("Tab")
        if "Bay leaf anglaise" in page.evaluate("document.activeElement.innerText ?? ''"):
            break
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Take it to the stove").focus()
    page.keyboard.press("Enter")
    page.get_by_role("button", name="All weighed").wait_for()
    tick(page, "whole milk").focus()
    page.keyboard.press("Space")
    expect(tick(page, "whole milk")).to_have_attribute("aria-pressed", "true")
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("4")
    expect(page.locator("[aria-current=step]")).to_contain_text("Cook", ignore_case=True)
    page.keyboard.press("o")
    expect(page.get_by_role("button", name="Take back: off the heat")).to_be_visible()
    page.keyboard.press("Space")
    # Off the heat it is to be tested.
    expect(page.get_by_text("a moment in test")).to_be_visible()
    page.keyboard.press("4")
    page.keyboard.press("u")
    expect(page.get_by_label("Temperature, °F")).to_be_visible()
    page.keyboard.press("u")


def test_fahrenheit_and_ounces_everywhere(device):
    page = device("pastry")
    book(page)
    page.keyboard.press("u")
    expect(page.get_by_role("link", name="Bay leaf anglaise")).to_contain_text("oz")
    page.get_by_role("link", name="Bay leaf anglaise").click()
    expect(page.get_by_role("img", name="Rule:")).to_have_attribute("aria-label", re.compile("212°"))
