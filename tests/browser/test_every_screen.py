"""Every screen: no axe violation, no sideways scroll from a phone to a wall, keys that reach everything."""

from __future__ import annotations

import re

import pytest
from conftest import KITCHEN, no_axe_violation, no_sideways_scroll
from playwright.sync_api import Page, expect
from test_journey import tick, to_the_stove

WIDTHS = (360, 768, 1280, 1920)


def book(page: Page) -> None:
    page.goto(f"{KITCHEN}/book")
    page.get_by_role("link", name="Bay leaf anglaise").wait_for()


def bench(page: Page) -> None:
    book(page)
    page.get_by_role("link", name="Bay leaf anglaise").click()
    page.get_by_role("img", name="Ratio map").wait_for()
    page.get_by_role("heading", name="Where good cooks disagree").wait_for()


def bench_refusing(page: Page) -> None:
    bench(page)
    page.get_by_role("button", name="Name, eggs, cups").click()
    page.get_by_label("Amount of white sugar").fill(
        "some of the very fine kind that was left over from last week"
    )
    page.get_by_role("alert").wait_for()


def new(page: Page) -> None:
    page.goto(f"{KITCHEN}/book/new")
    page.get_by_role("img", name="Rule:").wait_for()


def stove(page: Page) -> None:
    to_the_stove(page)
    page.goto(f"{KITCHEN}/stove")
    page.get_by_text("batch ").first.wait_for()


def batch(number: int):
    def show(page: Page) -> None:
        to_the_stove(page)
        page.keyboard.press(str(number))
        page.locator("[aria-current=step]").wait_for()
        page.wait_for_timeout(100)

    show.__name__ = f"batch-{number}"
    return show


def log(page: Page) -> None:
    page.goto(f"{KITCHEN}/log")
    page.get_by_text("discarded").first.wait_for()


def kitchen(page: Page) -> None:
    page.goto(f"{KITCHEN}/kitchen")
    page.get_by_label("Height above the sea").wait_for()


def keys(page: Page) -> None:
    book(page)
    page.keyboard.press("?")
    page.get_by_role("dialog").wait_for()


def logging_in(page: Page) -> None:
    page.goto("/")
    page.get_by_label("Password").wait_for()


def comparing(page: Page) -> None:
    page.goto(f"{KITCHEN}/book/compare?a=1&b=2")
    page.get_by_role("img", name="Rule:").nth(1).wait_for()


def importing(page: Page) -> None:
    page.goto(f"{KITCHEN}/book/import")
    text = '{"@type": "Recipe", "name": "x", "recipeIngredient": ["1 pint milk", "6 egg yolks"]}'
    page.get_by_label("Or the text itself").fill(text)
    page.get_by_role("button", name="Read it").click()
    page.get_by_role("button", name="Into the book").wait_for()


def solving(page: Page) -> None:
    bench(page)
    page.get_by_role("button", name="Solve for me").click()
    page.get_by_role("button", name="Solve", exact=True).click()
    page.get_by_role("button", name="Take it", exact=True).wait_for()


def more(page: Page) -> None:
    bench(page)
    page.get_by_role("button", name="More").click()
    page.get_by_role("menuitem", name="Print the slip").wait_for()


def taken_out(page: Page) -> None:
    book(page)
    page.get_by_role("button", name="Taken out").click()
    page.get_by_role("heading", name="Taken out of the book").wait_for()


SCREENS = [
    *(book, taken_out, comparing, importing, new, bench, bench_refusing, solving, more),
    *(stove, *(batch(n) for n in (1, 2, 4, 5, 7)), log, kitchen, keys),
]


@pytest.mark.parametrize("screen", SCREENS, ids=lambda screen: screen.__name__)
def test_screens(device, screen):
    page = device("pastry")
    screen(page)
    no_axe_violation(page)
    for width in WIDTHS:
        page.set_viewport_size({"width": width, "height": 800})
        no_sideways_scroll(page)
    page.set_viewport_size({"width": 360, "height": 740})
    no_axe_violation(page)


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
    page.get_by_role("heading", name="The book of").wait_for()
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
    expect(page.get_by_text("a moment in cook")).to_be_visible()
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
