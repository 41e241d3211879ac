"""The day on the page: planned, moved, lived, explained, listed; on a phone, by keys, by two at once."""

from __future__ import annotations

import re
from datetime import UTC, datetime, timedelta

from conftest import KITCHEN, no_axe_violation, no_sideways_scroll
from playwright.sync_api import Page, expect
from prepared import API, call
from test_every_screen import right_at_every_width, right_on_a_phone

TEMPLATE = "a weekday with apples"


def ahead(days: int) -> str:
    return f"{datetime.now(UTC) + timedelta(days=days):%Y-%m-%d}"


def planned(page: Page, when: str) -> None:
    """A day after the demo's template, made over the API; its board stands."""
    templates = call(page, "GET", f"{API}/days?around={when}")["templates"]
    key = next(one["id"] for one in templates if one["name"] == TEMPLATE)
    call(page, "POST", f"{API}/days/{when}/copy", {"template_id": key})
    page.goto(f"{KITCHEN}/day/{when}")
    page.get_by_test_id("board").wait_for()


def step(page: Page, name: str):
    return page.get_by_test_id("board").get_by_role("button", name=re.compile(name)).first


def test_a_day_from_nothing_to_its_lists(device):
    page = device("pastry")
    when = ahead(5)
    page.goto(f"{KITCHEN}/day/{when}")
    expect(page.get_by_role("heading", name="Nothing is wanted on this day yet")).to_be_visible()
    no_axe_violation(page)
    page.get_by_role("button", name="Add the first dish").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("What is made").select_option(label="Bay leaf anglaise")
    dialog.get_by_role("button", name=re.compile("poached quince")).click()
    dialog.get_by_label("At", exact=True).fill("half past")
    dialog.get_by_role("button", name="Add it").click()
    expect(dialog.get_by_text("Write a time like 12:30")).to_be_visible()
    no_axe_violation(page)
    dialog.get_by_label("At", exact=True).fill("12.30")
    dialog.get_by_label("Each takes").fill("sixty")
    dialog.get_by_role("button", name="Add it").click()
    expect(dialog.get_by_text("“sixty”").first).to_be_visible()
    dialog.get_by_label("Each takes").fill("60 g")
    dialog.get_by_role("button", name="Add it").click()
    expect(page.get_by_text("One batch, one pair of hands, all in time.").first).to_be_visible()
    expect(page.get_by_text("No plan is better.")).to_be_visible()
    page.get_by_role("button", name="More").click()
    page.get_by_role("menuitem", name="Add other work").click()
    dialog.get_by_label("What", exact=True).fill("caramel for the quince")
    dialog.get_by_label("Minutes").fill("25")
    dialog.get_by_label("It needs").select_option(label="a ring")
    dialog.get_by_role("button", name="Add it").click()
    expect(step(page, "caramel for the quince")).to_be_visible()
    page.get_by_role("link", name="What to pull and buy").click()
    milk = page.get_by_role("listitem").filter(has_text="whole milk")
    expect(milk).to_contain_text("missing")
    milk.get_by_label("whole milk in the house").fill("5 l")
    milk.get_by_role("button", name="is there").click()
    expect(milk).to_contain_text("it is there")
    expect(page.get_by_text("to break")).to_be_visible()
    right_on_a_phone(page)
    page.emulate_media(media="print")
    expect(page.get_by_role("button", name="Print")).to_be_hidden()


def test_a_full_board_is_right_at_every_width_and_its_steps_tell_all(device):
    page = device("pastry")
    planned(page, ahead(5))
    expect(page.get_by_text("Six batches, two pairs of hands, all in time.").first).to_be_visible()
    right_at_every_width(page)
    for block in page.get_by_test_id("board").get_by_role("button").all():
        assert block.bounding_box()["height"] >= 24
    page.emulate_media(media="print")
    expect(page.locator(".printed").get_by_role("cell", name="Temper, boil, sieve")).to_be_visible()
    page.emulate_media(media="screen")
    step(page, "Temper, boil, sieve").click()
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_text("full: nothing else can be done meanwhile")).to_be_visible()
    no_axe_violation(page)


def test_a_step_is_dragged_or_pushed_by_keys_and_the_rest_follows_or_says_why_not(device):
    page = device("pastry")
    # A day with room to move in: in a full one it is a matter of the plan found whether there is any.
    easy = ahead(6)
    page.goto(f"{KITCHEN}/day/{easy}")
    page.get_by_role("heading", name="Nothing is wanted on this day yet").wait_for()
    call(page, "POST", f"{API}/days/{easy}/others", {"name": "caramel for the quince", "minutes": 20})
    block = step(page, "caramel for the quince")
    title = block.get_attribute("title")
    block.focus()
    page.keyboard.press("ArrowDown")
    expect(page.get_by_text("is put there; the rest follows.")).to_be_visible()
    moved = step(page, "⌖ caramel for the quince")
    expect(moved).to_be_visible()
    assert moved.get_attribute("title") != title
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("⌖")).to_have_count(0)
    planned(page, ahead(5))
    expect(page.get_by_text("No plan is better.")).to_be_visible()
    block = step(page, "Whisk over steam")
    block.scroll_into_view_if_needed()
    box = block.bounding_box()
    page.mouse.move(box["x"] + 40, box["y"] + 8)
    page.mouse.down()
    page.mouse.move(box["x"] + 40, box["y"] + 150, steps=4)
    page.mouse.up()
    expect(page.get_by_role("alert")).to_contain_text("It stays")
    page.get_by_role("button", name="Leave it").click()
    expect(page.get_by_role("alert")).to_have_count(0)
    step(page, "Whisk over steam").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Begins at").fill("soon")
    dialog.get_by_role("button", name="Put it there").click()
    expect(dialog.get_by_text("Write a time like 12:30")).to_be_visible()


def test_a_day_that_cannot_be_says_why_and_offers_what_helps(device):
    page = device("pastry")
    when = ahead(5)
    planned(page, when)
    page.get_by_role("button", name="More").click()
    page.get_by_role("menuitem", name="Who is there").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="take trainee off").click()
    expect(dialog.get_by_role("button", name="take trainee off")).to_have_count(0)
    # The demo's service is later the later in the morning the demo is made.
    wants = call(page, "GET", f"{API}/days/{when}")["wants"]
    service = next(one["at"] for one in wants if one["formula"] == "Bay leaf anglaise")
    late = service - 180
    dialog.get_by_label("from").fill(f"{late // 60}:{late % 60:02d}")
    dialog.get_by_role("button", name="Keep").first.click()
    expect(dialog.get_by_role("button", name="take section chef off")).to_be_visible()
    page.keyboard.press("Escape")
    why = page.get_by_role("region", name="Why")
    expect(why.get_by_role("button", name="Do that").first).to_be_visible(timeout=60_000)
    expect(why).to_contain_text(re.compile(r"\d+:\d\d"))
    no_axe_violation(page)
    why.get_by_role("button", name="Do that").first.click()
    expect(page.get_by_text("all in time.").first).to_be_visible(timeout=60_000)
    expect(why).to_have_count(0)


def test_a_batch_goes_to_the_stove_from_the_board(device):
    """A batch of another day can be begun today; it is then the stove's, and the day leads to it."""
    page = device("trainee")
    # The demo plans today, or tomorrow where it is made in the afternoon.
    when = ahead(2)
    planned(page, when)
    step(page, "Weigh out").click()
    page.get_by_role("dialog").get_by_role("button", name="Take it to the stove").click()
    page.wait_for_url("**/stove/*")
    batch = page.url.rpartition("/")[2]
    page.goto(f"{KITCHEN}/day/{when}")
    wanted = page.get_by_role("region", name="All that is wanted")
    expect(wanted.get_by_role("link", name=re.compile("batch")).first).to_be_visible()
    wanted.get_by_role("link", name=re.compile("batch")).first.click()
    page.get_by_role("button", name="All weighed").click()
    assert page.url.endswith(f"/stove/{batch}")


def test_two_people_edit_one_day(device):
    """Both see what the other did; who changes what the other has changed meanwhile is told."""
    one, two = device("pastry"), device("trainee")
    when = ahead(5)
    planned(one, when)
    two.goto(f"{KITCHEN}/day/{when}")
    two.get_by_test_id("board").wait_for()
    wanted = two.get_by_role("region", name="All that is wanted")
    wanted.get_by_role("button", name="change choux").click()
    mine = two.get_by_role("dialog")
    mine.get_by_label("Covers").fill("12")
    one.get_by_role("button", name="change choux").click()
    theirs = one.get_by_role("dialog")
    theirs.get_by_label("Covers").fill("40")
    theirs.get_by_role("button", name="Change it").click()
    expect(one.get_by_text("40 of 40 g")).to_be_visible()
    mine.get_by_role("button", name="Change it").click()
    expect(mine.get_by_text("Somebody changed “choux” while you did")).to_be_visible()
    expect(mine.get_by_label("Covers")).to_have_value("12")
    two.keyboard.press("Escape")
    expect(two.get_by_text("40 of 40 g")).to_be_visible()
    one.get_by_role("button", name="take caramel for the quince off").click()
    expect(two.get_by_role("button", name="take caramel for the quince off")).to_have_count(0)
    one.get_by_role("button", name="Undo").click()
    expect(two.get_by_role("button", name="take caramel for the quince off")).to_have_count(1)


def test_a_phone_shows_one_pair_of_hands_and_its_next_thing(device):
    page = device("trainee", width=390, height=844)
    planned(page, ahead(5))
    following = page.get_by_role("region", name="Next")
    expect(following.get_by_text("section chef, next")).to_be_visible()
    size = following.locator(".figure").first.evaluate("e => parseFloat(getComputedStyle(e).fontSize)")
    assert size >= 30
    expect(page.get_by_role("region", name="Rings, baths and ovens")).to_be_visible()
    page.get_by_role("radio", name="trainee").click()
    expect(page.get_by_test_id("board").get_by_role("heading", name="trainee")).to_be_visible()
    expect(page.get_by_test_id("board").get_by_role("heading", name="section chef")).to_be_hidden()
    no_axe_violation(page)


def test_twenty_things_at_once_can_be_read(device):
    """Every formula of the book, what stands beside each, and other work: more than twenty on one board."""
    page = device("pastry")
    when = ahead(6)
    page.goto(f"{KITCHEN}/day/{when}")
    page.get_by_role("heading", name="Nothing is wanted on this day yet").wait_for()
    lines = call(page, "GET", f"{API}/formulas")["lines"]
    drafts = [call(page, "GET", f"{API}/formulas/{line['id']}")["draft"] for line in lines]
    wanted = [
        {
            "name": f"dish {number + 1}",
            "formula": {"format": "old-spoon/formula", "version": 2, **draft},
            "at": f"{14 + number // 2}:{30 * (number % 2):02d}",
        }
        for number, draft in enumerate(drafts)
    ]
    others = [{"name": f"work {number}", "minutes": 15, "by": f"{12 + number}:00"} for number in range(7)]
    hands = [{"name": name, "there": [["6:00", "23:00"]]} for name in ("first", "second", "third")]
    room = {"rings": 4, "steam": 2, "ice_bath": 4, "ovens": 1, "churns": 1, "bowls": 1}
    file = {"format": "old-spoon/day", "version": 1, "hands": hands, "room": room, "wanted": wanted}
    day = call(page, "POST", f"{API}/days/{when}/day.json", {**file, "other_work": others})
    assert len(day["jobs"]) >= 20
    page.get_by_test_id("board").wait_for()
    for block in page.get_by_test_id("board").get_by_role("button").all():
        assert block.bounding_box()["height"] >= 24
    no_axe_violation(page)
    page.set_viewport_size({"width": 360, "height": 740})
    no_sideways_scroll(page)


def test_what_a_day_took_and_its_calendar(device):
    page = device("pastry")
    when = ahead(5)
    planned(page, when)
    page.get_by_role("button", name="More").click()
    page.get_by_role("menuitem", name="What it really took").click()
    expect(page.get_by_text("Nothing of this day is over yet.")).to_be_visible()
    expect(page.get_by_text(re.compile("from [0-9]+ batches")).first).to_be_visible()
    no_axe_violation(page)
    page.get_by_role("link", name="Back to the day").click()
    page.get_by_role("button", name="More").click()
    page.get_by_role("menuitem", name="Subscribe to the days").click()
    page.get_by_role("dialog").get_by_role("button", name="Make an address").click()
    address = page.get_by_role("dialog").locator("code").inner_text()
    answer = page.request.get(f"/api/{address.partition('/api/')[2]}")
    assert answer.ok
    assert "BEGIN:VCALENDAR" in answer.text()
    no_axe_violation(page)
