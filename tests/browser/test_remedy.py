"""Trouble on the page: asked from everywhere, answered by touch or key, written into its batch or tub."""

from __future__ import annotations

import re
from datetime import UTC, datetime, timedelta

from conftest import KITCHEN, no_axe_violation
from playwright.sync_api import Page, expect
from prepared import API, batch_with_probe, call, open_batch
from test_every_screen import right_on_a_phone
from test_shelf import mark, shelf, tub

COOKED_S = 5


def trouble(page: Page) -> None:
    page.get_by_role("heading", name="What do you see?").wait_for()


def seen(page: Page, name: str) -> None:
    page.get_by_role("radio", name=name, exact=True).click()
    page.get_by_role("heading", name="What happened").wait_for()


def answer(page: Page):
    return page.get_by_role("region", name="Answer")


def overcooked(page: Page) -> int:
    """A batch whose minutes are seconds, lifted far too late; its probe tells all of it at once."""
    batch, token = batch_with_probe(page, "Bay leaf anglaise", pace=60)
    for done in ("weigh", "warm", "temper"):
        mark(page, batch, "done", done, 0)
    began = datetime.now(UTC)
    page.wait_for_timeout(1000 * COOKED_S + 200)
    readings = [
        {
            "at": (began + timedelta(seconds=COOKED_S * i / 60)).isoformat(),
            "celsius": round(68 + 19 * i / 60, 1),
        }
        for i in range(61)
    ]
    sent = page.request.post(
        "/api/device/readings", data={"readings": readings}, headers={"Authorization": f"Bearer {token}"}
    )
    assert sent.ok
    mark(page, batch, "off-heat", "cook", 0)
    return batch


def test_a_split_sauce_from_the_live_stove_to_its_label(device):
    """Thirty seconds: w, what is seen, one answer, written; the steps are ticked and the label follows."""
    page = device("pastry")
    batch = overcooked(page)
    page.goto(f"{KITCHEN}/stove/{batch}/live")
    page.get_by_role("button", name="Something’s wrong").wait_for()
    page.keyboard.press("w")
    trouble(page)
    seen(page, "bits of egg in it")
    expect(page.get_by_role("img", name=re.compile("Its curve"))).to_be_visible()
    expect(answer(page).get_by_text("As its curve and marks tell").first).to_be_visible()
    answer(page).get_by_role("radio", name="many").click()
    expect(
        answer(page).get_by_role("heading", name=re.compile("sieve it, then blend it with"))
    ).to_be_visible()
    expect(answer(page).get_by_text("Hot liquid climbs in a blender")).to_be_visible()
    right_on_a_phone(page)
    page.get_by_role("button", name="Write it into the batch").click()
    done = page.get_by_role("region", name="What is done about it")
    expect(done.get_by_role("row", name=re.compile("keeps, days 3 2"))).to_be_visible()
    done.get_by_role("button", name=re.compile("in the blender")).click()
    expect(done.get_by_role("button", name=re.compile("in the blender"))).to_have_attribute(
        "aria-pressed", "true"
    )
    expect(page.get_by_text("something wrong · bits of egg in it")).to_be_visible()
    right_on_a_phone(page)
    page.reload()
    expect(done.get_by_role("button", name=re.compile("in the blender"))).to_have_attribute(
        "aria-pressed", "true"
    )
    done.get_by_role("button", name="Take this remedy back").click()
    expect(done).to_have_count(0)


def test_a_formula_without_a_batch_and_what_is_done_otherwise_next_time(device):
    page = device("section")
    page.goto(f"{KITCHEN}/book")
    page.get_by_role("link", name="Bay leaf anglaise").wait_for()
    page.keyboard.press("w")
    # A stranger's broken custard has its answer in three touches: what is seen, then its family.
    right_on_a_phone(page)
    page.get_by_role("radio", name="caught, brown flecks", exact=True).click()
    page.get_by_role("heading", name="Which sauce is it?").wait_for()
    right_on_a_phone(page)
    page.get_by_role("link", name="pouring custard", exact=True).click()
    expect(answer(page).get_by_role("heading").first).to_be_visible()
    expect(page.get_by_role("button", name="Say it next time")).to_have_count(0)
    page.get_by_role("link", name="another sauce").click()
    page.get_by_label("Look for").fill("anglaise")
    book = page.get_by_role("region", name="In the Book")
    book.get_by_role("link", name="Bay leaf anglaise").click()
    trouble(page)
    right_on_a_phone(page)
    expect(page.get_by_text("Nobody read it")).to_be_visible()
    expect(page.get_by_role("button", name="Write it into the batch")).to_have_count(0)
    answer(page).get_by_role("radio", name="high", exact=True).click()
    page.get_by_role("button", name="heat: bowl over steam").click()
    expect(page.get_by_text("From now on this kitchen makes it so.")).to_be_visible()
    trainee = device("trainee")
    trainee.goto(page.url)
    seen(trainee, "too thin")
    trainee.get_by_role("button", name="Say it next time").click()
    expect(trainee.get_by_text("It stands on the formula")).to_be_visible()
    open_batch(trainee)
    word = trainee.get_by_role("list", name="To do otherwise this time")
    expect(word).to_contain_text("Lift it at")
    word.get_by_role("button", name="Done").click()
    expect(word).to_have_count(0)


def test_a_tub_is_mended_from_the_shelf(device):
    page = device("pastry")
    shelf(page)
    one = tub(page, "Bay leaf anglaise").first
    one.get_by_role("button", name="More").click()
    page.get_by_role("menuitem", name="Something is wrong").click()
    trouble(page)
    seen(page, "too thick")
    answer(page).get_by_label("How much of it is there, g").fill("many")
    expect(page.get_by_role("alert").filter(has_text="Write a weight as a number")).to_be_visible()
    answer(page).get_by_label("How much of it is there, g").fill("300")
    answer(page).get_by_role("radio", name="half a minute").click()
    page.get_by_role("button", name="Write it into the tub").click()
    expect(page.get_by_role("region", name="What is done about it")).to_contain_text("tub")
    shelf(page)
    one.get_by_role("button", name="More").click()
    page.get_by_role("menuitem", name="What was done with it").click()
    expect(page.get_by_text("mended").first).to_be_visible()


def test_by_keys_alone_and_in_ounces(device):
    page = device("pastry")
    batch, _ = batch_with_probe(page, "Bay leaf anglaise")
    page.goto(f"{KITCHEN}/stove/{batch}")
    page.get_by_role("heading", name="Marked").wait_for()
    page.keyboard.press("w")
    trouble(page)
    page.get_by_role("radio", name="too thin").focus()
    page.keyboard.press("ArrowDown")
    expect(page.get_by_role("radio", name="too thick")).to_be_focused()
    page.keyboard.press("Enter")
    page.get_by_role("heading", name="What happened").wait_for()
    expect(page.get_by_role("radio", name="too thick")).to_have_attribute("aria-checked", "true")
    page.keyboard.press("u")
    expect(answer(page).get_by_role("heading", name=re.compile("oz of cream"))).to_be_visible()
    expect(answer(page).get_by_label("How much of it is there, oz")).to_be_visible()
    page.keyboard.press("u")


def test_two_at_once_and_a_connection_that_is_lost(device):
    page, other = device("pastry"), device("trainee")
    batch, _ = batch_with_probe(page, "Bay leaf anglaise")
    mark(page, batch, "done", "weigh", 1)
    for one in (page, other):
        one.goto(f"{KITCHEN}/trouble?batch={batch}&seen=too-thick")
        one.get_by_role("heading", name="What happened").wait_for()
    page.context.set_offline(True)
    page.get_by_role("button", name="Write it into the batch").click()
    expect(page.get_by_role("alert").first).to_be_visible()
    page.context.set_offline(False)
    page.get_by_role("button", name="Write it into the batch").click()
    page.get_by_role("region", name="What is done about it").wait_for()
    taken = call(page, "GET", f"{API}/batches/{batch}")["remedies"]
    assert len(taken) == 1
    guest = device("guest")
    guest.goto(f"{KITCHEN}/trouble?batch={batch}&seen=bits")
    guest.get_by_role("heading", name="What happened").wait_for()
    expect(guest.get_by_role("button", name="Write it into the batch")).to_have_count(0)
    no_axe_violation(guest)
    other.goto(f"{KITCHEN}/stove/{batch}")
    expect(other.get_by_role("region", name="What is done about it")).to_be_visible()
