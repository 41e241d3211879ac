"""The shelf on the page: a batch cooled badly, put away, labelled, used, undone; the day closed."""

from __future__ import annotations

import re
import uuid
from datetime import UTC, datetime, timedelta

import zxingcpp
from conftest import KITCHEN
from PIL import Image
from playwright.sync_api import Locator, Page, expect
from prepared import API, batch_with_probe, call, open_batch
from test_cooling import another, typed
from test_every_screen import right_on_a_phone
from test_finish import stage

SLOW = {
    "mass_g": 4500,
    "from_c": 85,
    "vessel": {"kind": "bowl", "length_cm": 24, "height_cm": 14},
    "ways": [{"by": "fridge-covered"}],
}


def shelf(page: Page) -> None:
    page.goto(f"{KITCHEN}/shelf")
    page.get_by_role("heading", name="In the fridge").wait_for()


def tub(page: Page, name: str) -> Locator:
    return page.get_by_role("listitem").filter(has=page.get_by_role("link", name=name, exact=True))


def mark(page: Page, batch: int, kind: str, stage_: str, minutes_ago: float, **more: object) -> None:
    at = datetime.now(UTC) - timedelta(minutes=minutes_ago)
    body = {"id": str(uuid.uuid4()), "kind": kind, "stage": stage_, "at": at.isoformat(), **more}
    call(page, "POST", f"{API}/batches/{batch}/marks", body)


def test_a_batch_cooled_badly_is_called_with_every_screen_closed_split_and_recorded(device):
    page = device("pastry")
    batch, _ = batch_with_probe(page, "Rye pastry cream")
    for done in ("weigh", "warm", "temper", "cook", "test"):
        mark(page, batch, "done", done, 55)
    call(page, "PUT", f"{API}/batches/{batch}/cooling", SLOW)
    mark(page, batch, "into-ice", "chill", 50, temperature_c=85)
    mark(page, batch, "spot", "chill", 20, temperature_c=79)
    mark(page, batch, "spot", "chill", 1, temperature_c=74)
    # Every screen is closed; a worker says it, and who looks next finds it said.
    page.goto("about:blank")
    page.wait_for_timeout(3000)
    other = device("section")
    shelf(other)
    cools = other.get_by_role("region", name="Cooling")
    # A cooling that is too slow is the longest thing a worker computes: everything that may help is tried.
    expect(cools).to_contain_text("Too slow for 10°", timeout=60_000)
    right_on_a_phone(other)
    alarms = [
        one["what"] for one in call(other, "GET", f"{API}/batches/{batch}")["marks"] if one["kind"] == "alarm"
    ]
    assert alarms == ["cools-slowly"]
    cools.get_by_role("link", name="Decide what to do").click()
    other.get_by_role("region", name="Vulnerable guests").wait_for()
    stage(other, "7", "chill")
    other.get_by_role("button", name="Cool it otherwise").click()
    how = other.get_by_role("region", name="How it is cooled")
    another(other, "In what", "shallow tray")
    typed(other, "How many of them", "3")
    how.get_by_role("button", name="It is cooled so").click()
    other.get_by_role("region", name="Cooling now").wait_for()
    stage(other, "8", "keep")
    other.get_by_role("button", name="Film is right on it").click()
    expect(other.get_by_text("✓ Film is on it.")).to_be_visible()
    other.get_by_role("radio", name="usable").click()
    other.get_by_label("What of it goes on the shelf, in g").fill("500")
    other.get_by_label("Egg whites that are kept, in g").fill("0")
    other.get_by_role("button", name="Close the batch").click()
    went = other.get_by_role("region", name="Where it went")
    expect(went).to_contain_text("500 g Rye pastry cream")
    record = call(other, "GET", f"{API}/batches/{batch}/record")["batches"][0]
    assert [one["kind"] for one in record["marks"]].count("alarm") == 1
    assert {"into-ice", "spot", "film", "closed"} <= {one["kind"] for one in record["marks"]}
    assert record["limits"]
    expect(went.get_by_role("link", name="record, PDF")).to_have_attribute(
        "href", re.compile(r"record\.pdf$")
    )


def test_a_tub_is_used_promised_split_frozen_and_taken_back(device):
    page = device("trainee")
    shelf(page)
    right_on_a_phone(page)
    mine = tub(page, "Saffron pouring custard")
    before = mine.text_content()
    mine.get_by_role("button", name="Use").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("How much, in g").fill("9000")
    sheet.get_by_label("For what dish").fill("plum cobbler")
    sheet.get_by_role("button", name="Use").click()
    expect(sheet.get_by_role("alert")).to_contain_text("are left of it")
    expect(sheet.get_by_label("For what dish")).to_have_value("plum cobbler")
    sheet.get_by_label("How much, in g").fill("65")
    sheet.get_by_role("button", name="Use").click()
    expect(page.get_by_text("Used: Saffron pouring custard.")).to_be_visible()
    expect(mine).not_to_have_text(before)
    page.get_by_role("button", name="Undo").click()
    expect(mine).to_have_text(before)
    page.keyboard.press("f")
    mine.get_by_role("button", name="More").click()
    page.get_by_role("menuitem", name="Split").click()
    sheet.get_by_label("How much, in g").fill("100")
    sheet.get_by_label("Into what").fill("small tub")
    sheet.get_by_role("button", name="Split").click()
    expect(tub(page, "Saffron pouring custard")).to_have_count(2)
    tub(page, "Saffron pouring custard").last.get_by_role("button", name="Freeze").click()
    expect(sheet).to_contain_text("lets go")
    sheet.get_by_role("button", name="Freeze").click()
    frozen = page.get_by_role("region", name="Frozen").get_by_role("listitem").filter(has_text="small tub")
    expect(frozen).to_contain_text("good until")
    base = tub(page, "Barley ice base")
    base.get_by_role("button", name="Churn").click()
    sheet.get_by_label("How much, in g").fill("100")
    sheet.get_by_role("button", name="Churn").click()
    expect(sheet.get_by_role("alert")).to_contain_text("not cold right through")
    page.keyboard.press("Escape")
    page.get_by_label("Find a name").fill("hazelnut")
    expect(tub(page, "Burnt honey filling")).to_contain_text("nuts (hazelnuts)")
    page.get_by_label("Find a name").fill("walnut")
    expect(page.get_by_role("heading", name="Nothing like that")).to_be_visible()
    page.get_by_label("Find a name").fill("nuts")
    expect(tub(page, "Burnt honey filling")).to_be_visible()
    tub(page, "Burnt honey filling").get_by_role("button", name="More").click()
    page.get_by_role("menuitem", name="What was done with it").click()
    expect(sheet).to_contain_text("for hazelnut tartlets")


def test_labels_are_read_as_they_are_printed(device, tmp_path):
    page = device("pastry")
    shelf(page)
    link = page.get_by_role("link", name=re.compile(r"Print \d+ labels"))
    asked = int(re.findall(r"\d+", link.inner_text())[0])
    link.click()
    labels = page.get_by_role("main").get_by_role("listitem")
    expect(labels).to_have_count(asked)
    right_on_a_phone(page)
    page.emulate_media(media="print")
    shot = tmp_path / "label.png"
    labels.nth(1).screenshot(path=shot)
    [code] = zxingcpp.read_barcodes(Image.open(shot).resize((1000, 1000)))
    page.emulate_media(media="screen")
    page.get_by_role("button", name="They are stuck on").click()
    expect(page.get_by_text("each of these tubs has its label")).to_be_visible()
    page.goto(code.text)
    expect(page.get_by_role("heading", level=1)).to_have_text("Barley ice base")


def test_the_day_is_closed(device):
    page = device("section")
    shelf(page)
    page.get_by_role("link", name="Close the day").click()
    expect(page.get_by_role("region", name="Label")).to_contain_text("has no label")
    right_on_a_phone(page)
    page.get_by_role("button", name="Close the day and sign").click()
    expect(page.get_by_role("alert")).to_contain_text("Say why before you sign")
    why = page.get_by_label(re.compile(r"Why \d+ things are left to do"))
    left = re.findall(r"\d+", page.get_by_text(re.compile(r"Why \d+ things are left to do")).inner_text())[0]
    why.fill("the printer is out of labels")
    page.get_by_role("button", name="Close the day and sign").click()
    expect(page.get_by_text(f"by section chef · {left} still to do · the printer")).to_be_visible()


def test_a_batch_for_vulnerable_guests_says_what_it_reached(device):
    page = device("section")
    batch, _ = batch_with_probe(page, "Bay leaf anglaise")
    page.goto(f"{KITCHEN}/stove/{batch}")
    guests = page.get_by_role("region", name="Vulnerable guests")
    guests.get_by_role("checkbox").check()
    expect(guests.get_by_role("status")).to_contain_text("Use pasteurised egg, or show 6 logs")
    guests.get_by_role("button", name="Yes").click()
    expect(guests.get_by_role("status")).to_contain_text("Made with pasteurised egg")
    expect(guests.get_by_role("status")).to_contain_text("never clears")
    right_on_a_phone(page)


def test_a_viewer_looks_at_the_shelf_and_takes_nothing(device):
    page = device("guest", width=390, height=844)
    shelf(page)
    expect(page.get_by_role("button", name="Use", exact=True)).to_have_count(0)
    tub(page, "Bay leaf anglaise").get_by_role("button", name="More").click()
    expect(page.get_by_role("menuitem")).to_have_count(3)


def test_what_nobody_measured_is_not_to_be_used_until_somebody_decides(device):
    """From Weigh straight to good and Close it stood on the shelf for three days."""
    page = device("trainee")
    open_batch(page)
    stage(page, "8", "keep")
    expect(page.get_by_role("heading", name="Not to be used until somebody decides")).to_be_visible()
    page.get_by_role("radio", name="good").click()
    page.get_by_role("button", name="Close the batch").click()
    expect(page.get_by_text("Closed: good")).to_be_visible()
    shelf(page)
    row = page.get_by_role("listitem").filter(has_text="not to be used").first
    row.get_by_role("button", name="Decide").click()
    right_on_a_phone(page)
    page.get_by_label("Why it may be used all the same").fill("the chef read 4 degrees")
    page.get_by_role("button", name="It may be used").click()
    expect(page.get_by_text("decided by trainee: the chef read 4 degrees").first).to_be_visible()
