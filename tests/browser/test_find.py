"""Anything is found by typing, from any page, by keys alone; on a phone by a touch."""

from __future__ import annotations

import re

from conftest import KITCHEN, no_axe_violation, no_sideways_scroll
from playwright.sync_api import Page, expect
from prepared import API, call, new_batch


def looked_for(page: Page, words: str, kind: str):
    """Type words; the things of a kind that are found, once there are any."""
    page.get_by_role("combobox").fill(words)
    found = page.get_by_role("option").filter(has_text=kind)
    found.first.wait_for()
    return found


def test_anything_is_found_by_keys_alone(device):
    page = device("pastry")
    batch = new_batch(page)
    number = call(page, "GET", f"{API}/batches/{batch}")["number"]
    page.goto(f"{KITCHEN}/book")
    page.get_by_role("link", name="Bay leaf anglaise").wait_for()
    page.keyboard.press("/")
    # Before anything is typed it says what can be done.
    expect(page.get_by_role("option", name="New formula")).to_be_visible()
    expect(looked_for(page, f"batch {number}", "batch")).to_have_count(1)
    expect(looked_for(page, str(number), f"batch {number}").first).to_contain_text("Bay leaf anglaise")
    expect(looked_for(page, "today", f"batch {number}")).to_have_count(1)
    expect(looked_for(page, "saffron", "on the shelf").first).to_contain_text("Saffron pouring custard")
    expect(looked_for(page, "trainee", "person")).to_have_count(1)
    expect(looked_for(page, "hobs", "kitchen")).to_contain_text(["Hobs and pans"])
    # Entered before anything is found, what was meant is waited for.
    page.get_by_role("combobox").fill("bay leaf")
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile(r"/book/\d+$"))
    page.get_by_role("button", name="Take it to the stove").wait_for()
    page.keyboard.press("Control+k")
    looked_for(page, "new form", "do")
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile("/book/new$"))
    # What the keys of a page do is found as well, and done.
    page.goto(f"{KITCHEN}/stove/{batch}")
    page.get_by_role("button", name="All weighed").wait_for()
    page.keyboard.press("/")
    looked_for(page, "mark this moment", "do here")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name=re.compile("Take back: .*moment"))).to_be_visible()


def test_on_a_phone_it_is_a_field(device):
    page = device("guest", width=360, height=740)
    page.goto(f"{KITCHEN}/book")
    page.get_by_role("button", name="Search everything").click()
    page.get_by_role("option").first.wait_for()
    no_axe_violation(page)
    no_sideways_scroll(page)
    expect(page.get_by_role("option", name="New formula")).to_have_count(0)
    page.get_by_role("combobox").fill("nothing is called so")
    expect(page.get_by_text("Nothing of that name.")).to_be_visible()
    # What cannot be asked is said, and not taken for nothing.
    page.route("**/log?*", lambda route: route.fulfill(status=404, body=""))
    page.get_by_role("combobox").fill("nor is this")
    expect(page.get_by_role("alert")).to_be_visible()
    expect(page.get_by_text("Nothing of that name.")).to_have_count(0)
    page.unroute("**/log?*")
    looked_for(page, "log", "page").first.click()
    expect(page).to_have_url(re.compile("/log$"))


def test_on_a_phone_five_places_are_at_the_thumb(device):
    page = device("guest", width=360, height=740)
    page.goto(f"{KITCHEN}/book")
    places = page.get_by_role("navigation", name="Places")
    expect(places.get_by_role("link")).to_have_text(["Day", "Stove", "Book", "Shelf", "Trouble"])
    for link in places.get_by_role("link").all():
        box = link.bounding_box()
        assert box["height"] >= 44
        assert box["y"] > 640
    places.get_by_role("button", name="More").click()
    no_axe_violation(page)
    page.get_by_role("menuitem", name="Practice").click()
    expect(page).to_have_url(re.compile("/practice$"))
    expect(places.get_by_role("button", name="Practice")).to_be_visible()
    # Held across there is no height to spare: they are at the top, all eight.
    page.set_viewport_size({"width": 740, "height": 360})
    expect(places.get_by_role("link")).to_have_count(8)
    no_sideways_scroll(page)
