"""The screen on the wall: opened by a code, read from across the room, touched by nobody."""

from __future__ import annotations

import re
from datetime import UTC, datetime, timedelta

from conftest import KITCHEN
from playwright.sync_api import Page, expect
from prepared import DEMO, new_batch
from test_every_screen import right_at_every_width

ALARM = {"kind": "curdling", "say": "It curdles: into the sieve, at once"}


def code_of(page: Page) -> str:
    """A screen is registered as a chef does, and its code read off."""
    page.goto(f"{KITCHEN}/kitchen/probes")
    page.get_by_label("A new one’s name").fill("over the pass")
    page.get_by_role("radio", name="a screen on the wall").click()
    page.get_by_role("button", name="Register").click()
    return page.locator("code").first.inner_text()


def opened(wall: Page, code: str) -> None:
    wall.goto("/wall")
    wall.get_by_label("The code").fill(code)
    wall.get_by_role("button", name="Show the wall").click()
    wall.get_by_role("heading", name="Tidemill House").wait_for()


def test_the_wall_is_opened_by_a_code_and_shows_what_is_on(device):
    page, wall = device("pastry"), device(None)
    code = code_of(page)
    assert len(code.split()) == 3
    wall.goto("/wall")
    wall.get_by_label("The code").fill("ABCD EFGH JKMN")
    wall.get_by_role("button", name="Show the wall").click()
    wall.get_by_text("does not open a wall").wait_for()
    opened(wall, code.lower())
    expect(wall.get_by_role("heading", name="nothing on the stove")).to_be_visible()
    new_batch(page)
    on = wall.get_by_role("list", name="On the stove").get_by_role("listitem")
    expect(on).to_have_count(1)
    expect(on).to_contain_text(DEMO)
    expect(on).to_contain_text("pastry cook")
    expect(wall.get_by_role("region", name="Today, before the end")).to_be_visible()
    right_at_every_width(wall)
    wall.reload()
    expect(on).to_contain_text(DEMO)
    page.get_by_role("button", name="Take its token away: over the pass").click()
    wall.get_by_text("does not open a wall").wait_for()


def test_the_wall_says_what_is_wrong_across_the_room_(device):
    page, wall = device("pastry"), device(None)
    wall.clock.install(time=datetime.now(UTC).replace(hour=12, minute=0, second=0))
    opened(wall, code_of(page))
    new_batch(page)
    wall.clock.run_for(3000)
    wall.get_by_text(DEMO).wait_for()

    def curdling(route):
        stove = route.fetch().json()
        stove["batches"][0]["alarms"] = [ALARM]
        route.fulfill(json=stove)

    wall.route("**/api/wall", curdling)
    wall.clock.run_for(2000)
    expect(wall.get_by_role("alert")).to_have_text(f"{DEMO}: {ALARM['say']}")
    wall.unroute_all(behavior="wait")
    wall.clock.run_for(2000)
    expect(wall.get_by_role("alert")).to_have_count(0)
    wall.context.set_offline(True)
    wall.clock.run_for(20_000)
    expect(wall.get_by_role("alert")).to_contain_text(re.compile(r"Not connected since 12:0\d"))
    expect(wall.get_by_text(DEMO)).to_be_visible()
    wall.context.set_offline(False)
    wall.clock.run_for(2500)
    expect(wall.get_by_role("alert")).to_have_count(0)


def test_the_wall_is_dim_at_night_while_nothing_is_on(device):
    page, wall = device("pastry"), device(None)
    tonight = (datetime.now(UTC) + timedelta(days=1)).replace(hour=0, minute=30)
    wall.clock.install(time=tonight)
    opened(wall, code_of(page))
    expect(wall.locator("main")).to_have_attribute("data-dim", "true")
