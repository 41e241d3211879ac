"""Cooling a batch on the page: judged before, followed by hand, in the kitchen's own vessels and coolers."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime

from conftest import KITCHEN
from playwright.sync_api import Page, expect
from prepared import API, call, open_batch
from test_every_screen import right_on_a_phone
from test_finish import stage


def test_a_cooling_is_judged_chosen_and_followed(device):
    page = device("trainee")
    batch = open_batch(page, "Rye pastry cream")
    stage(page, "7", "chill")
    how = page.get_by_role("region", name="How it is cooled")
    # The answer stands first, as this kitchen usually cools it, with nothing to fill in; a word of it that is
    # touched can be changed, and the answer follows.
    verdict = how.get_by_role("status")
    expect(verdict).to_contain_text("In time.")
    assert how.get_by_role("textbox").or_(how.get_by_role("combobox")).count() == 0
    how.get_by_role("button", name="Not that").click()
    expect(how.get_by_role("button", name="Not that")).to_have_count(0)
    another(page, "In what", "steel bowl, 24 cm")
    typed(page, "How much, g", "4500")
    another(page, "Stirred or not", "left alone")
    another(page, "Cooled by", "bench fridge")
    expect(verdict).to_contain_text("Too slow.")
    expect(how.get_by_role("listitem").first).to_contain_text("in time")
    right_on_a_phone(page)
    typed(page, "How much, g", "45000")
    expect(how.get_by_role("alert").first).to_contain_text("is too few for 45000 g: it holds")
    typed(page, "How much, g", "")
    another(page, "Cooled by", "walk-in fridge")
    expect(verdict).to_contain_text("In time.")
    expect(how.get_by_role("alert")).to_have_count(0)
    # It is as warm as it was read last, as nobody typed otherwise.
    read = {"id": str(uuid.uuid4()), "kind": "moment", "stage": "test", "temperature_c": 64.0}
    call(page, "POST", f"{API}/batches/{batch}/marks", {**read, "at": datetime.now(UTC).isoformat()})
    expect(how.get_by_role("button", name="It is now, °C: 64°")).to_be_visible()
    typed(page, "How many of them", "1.5", taken=False)
    expect(page.get_by_text("Write a whole number.")).to_be_visible()
    page.keyboard.press("Escape")
    # In full it is asked as before, and begins from what was chosen.
    how.get_by_role("button", name="Something else").click()
    expect(how.get_by_label("across, cm")).to_have_value("24")
    how.get_by_role("button", name="Is it in time?").click()
    expect(how.get_by_role("status")).to_contain_text("In time.")
    how.get_by_role("button", name="Cool it so").click()
    expect(how.get_by_role("button", name="Cooled by: walk-in fridge")).to_be_visible()
    # Whoever looks next finds it chosen.
    page.reload()
    page.get_by_role("button", name="All weighed").wait_for()
    stage(page, "7", "chill")
    expect(how.get_by_role("button", name="Cooled by: walk-in fridge")).to_be_visible()
    page.get_by_role("button", name="Into the fridge").click()
    now = page.get_by_role("region", name="Cooling now")
    now.get_by_label("read in the middle, °C").fill("68.5")
    now.get_by_role("button", name="Keep it").click()
    expect(now.get_by_role("status")).to_contain_text("68.")
    expect(now.get_by_role("list", name="Limits").get_by_role("listitem").first).to_contain_text("in time")
    expect(page.get_by_role("button", name="Take back: read in the middle · 68.5°")).to_be_visible()
    right_on_a_phone(page)


def another(page: Page, about: str, name: str) -> None:
    """Touch a word of the answer and take another from its list."""
    page.get_by_role("button", name=f"{about}: ").click()
    page.get_by_role("menuitemradio", name=name, exact=True).click()
    expect(page.get_by_role("button", name=f"{about}: {name}")).to_be_visible()


def typed(page: Page, about: str, text: str, *, taken: bool = True) -> None:
    """Touch a figure of the answer and type another, which is taken or not."""
    page.get_by_role("button", name=f"{about}: ").click()
    box = page.get_by_role("textbox", name=about)
    box.fill(text)
    box.press("Enter")
    expect(box).to_have_count(0 if taken else 1)


def test_a_busy_server_is_asked_again_instead_of_the_cook(device):
    page = device("trainee")
    page.route("**/cooling", lambda route: route.fulfill(status=502, body=""))
    open_batch(page, "Rye pastry cream")
    stage(page, "7", "chill")
    again = page.get_by_role("button", name="Try again")
    again.wait_for()
    page.unroute("**/cooling")
    again.click()
    how = page.get_by_role("region", name="How it is cooled")
    expect(how.get_by_role("status")).to_contain_text("In time.")


def test_coolers_vessels_and_a_rule_of_our_own(device):
    page = device("pastry")
    page.goto(f"{KITCHEN}/kitchen/cooling")
    ours = page.get_by_role("region", name="Cooling", exact=True)
    ours.get_by_label("A new cooler’s name").fill("blast")
    ours.get_by_label("it is", exact=True).select_option("blast")
    ours.get_by_role("button", name="Add the cooler").click()
    expect(ours.get_by_role("button", name="Remove: blast")).to_be_visible()
    page.get_by_role("link", name="Vessels").click()
    ours = page.get_by_role("region", name="Vessels")
    ours.get_by_label("A new vessel’s name").fill("flat tub")
    ours.get_by_label("length, cm").fill("30")
    ours.get_by_label("height, cm").fill("6")
    ours.get_by_role("button", name="Add the vessel").click()
    expect(ours.get_by_role("alert")).to_contain_text("from 1 to 200")
    ours.get_by_label("width, cm").fill("20")
    ours.get_by_role("button", name="Add the vessel").click()
    expect(ours.get_by_role("listitem").filter(has_text="flat tub")).to_contain_text("holds 3.6 l")
    page.get_by_role("link", name="Rules").click()
    page.get_by_label("Cooling rule").select_option("own")
    page.get_by_label("within, h", exact=True).fill("1.5")
    page.get_by_role("button", name="Keep these").click()
    expect(page.get_by_text("never laxer")).to_be_visible()
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("u")
    page.get_by_label("Cooling rule").select_option("own")
    expect(page.get_by_label("below, °F", exact=True)).to_have_value("69.8")
