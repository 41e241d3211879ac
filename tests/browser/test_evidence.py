"""What stays of a batch and a kitchen: photographs, a moment cooked again, a checked probe, an archive."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from conftest import KITCHEN
from PIL import Image
from playwright.sync_api import Page, expect
from prepared import API, DEMO, call, open_batch
from test_every_screen import right_on_a_phone


@pytest.fixture
def picture(tmp_path: Path) -> Path:
    """A photograph with more points than are sent, taken on its side."""
    made, exif = Image.new("RGB", (3000, 1200), "wheat"), Image.Exif()
    exif[0x0112] = 6
    path = tmp_path / "spoon.jpg"
    made.save(path, exif=exif)
    return path


def closed_batch(page: Page) -> int:
    lines = call(page, "GET", f"{API}/log?verdict=good")["lines"]
    return next(line["id"] for line in lines if line["name"] == DEMO)


def test_a_photograph_is_taken_named_removed_and_put_back(device, picture):
    page = device("trainee")
    open_batch(page)
    photographs = page.get_by_role("region", name="Photographs")
    photographs.get_by_label("Take a photograph").set_input_files(picture)
    one = photographs.get_by_role("button", name="Photograph 1: weigh")
    one.wait_for()
    size = one.locator("img").evaluate(
        "async img => {await img.decode(); return [img.naturalWidth, img.naturalHeight]}"
    )
    assert size == [880, 2200], "it stands upright, and no larger than it is kept"
    one.click()
    page.get_by_label("What is to be seen").fill("the slip, and six yolks")
    page.get_by_role("button", name="Keep", exact=True).click()
    named = photographs.get_by_role("button", name="Photograph 1: the slip, and six yolks")
    named.wait_for()
    right_on_a_phone(page)
    named.click()

    def answer_late(route):
        answer = route.fetch()
        # The stream of the batch brings the list without it first; it can be taken back all the same.
        expect(named).to_have_count(0)
        route.fulfill(response=answer)

    page.route("**/photos/*", answer_late, times=1)
    page.get_by_role("button", name="Remove").click()
    expect(named).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    named.wait_for()
    looks = device("guest")
    looks.goto(page.url)
    looks.get_by_role("button", name="Photograph 1: the slip").click()
    looks.get_by_text("the slip, and six yolks").last.wait_for()
    expect(looks.get_by_role("button", name="Remove")).to_have_count(0)


def test_a_photograph_taken_without_a_connection_goes_out_when_there_is_one(device, picture):
    page = device("trainee")
    batch = open_batch(page)
    photographs = page.get_by_role("region", name="Photographs")
    photographs.wait_for()
    page.context.set_offline(True)
    photographs.get_by_label("Take a photograph").set_input_files(picture)
    photographs.get_by_text("A photograph waits on this device").wait_for()
    # Whoever leaves the page, and loads it again, has it still.
    page.context.set_offline(False)
    page.goto(f"{KITCHEN}/log")
    page.goto(f"{KITCHEN}/stove/{batch}")
    photographs.get_by_role("button", name="Photograph 1: weigh").wait_for()
    expect(photographs.get_by_text("waits on this device")).to_have_count(0)
    expect(photographs.get_by_role("listitem")).to_have_count(1)


def test_a_moment_of_a_batch_is_cooked_again_and_the_debrief_says_what_saves_it(device):
    page = device("trainee")
    page.goto(f"{KITCHEN}/stove/{closed_batch(page)}")
    again = page.get_by_role("button", name="Again from here")
    again.wait_for()
    page.get_by_role("slider", name="Cook it again from").press("ArrowLeft")
    page.get_by_role("img", name=re.compile("^Curve:")).wait_for()
    again.click()
    page.get_by_role("heading", name=re.compile(f"{DEMO}, batch .* from 0:")).wait_for()
    expect(page.get_by_text("on its own hob")).to_be_visible()
    day = page.get_by_role("region", name="That day")
    expect(day).to_contain_text("It stood at")
    page.get_by_role("button", name="Begin").click()
    page.keyboard.press("i")
    page.get_by_text("That day:").wait_for()
    page.get_by_text("What saves it:").wait_for()
    page.get_by_role("link", name="The batch").wait_for()
    right_on_a_phone(page)


def test_a_probe_is_checked_and_the_check_taken_back(device):
    page = device("pastry")
    page.goto(f"{KITCHEN}/kitchen/probes")
    page.get_by_role("button", name="Check it").first.click()
    page.get_by_label("It reads in ice and water").fill("12")
    page.get_by_role("button", name="Keep this check").click()
    expect(page.get_by_label("It reads in ice and water")).to_have_attribute("aria-invalid", "true")
    page.get_by_label("It reads in ice and water").fill("0,8")
    page.get_by_label("It reads in boiling water").fill("101")
    right_on_a_phone(page)
    page.get_by_role("button", name="Keep this check").click()
    page.get_by_text("too high").first.wait_for()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("too high")).to_have_count(0)


def test_a_kitchen_is_carried_away_and_brought_in_beside_itself(device, tmp_path):
    page = device("pastry")
    page.goto(f"{KITCHEN}/kitchen/archive")
    page.get_by_role("button", name="Make an archive").click()
    save = page.get_by_role("link", name="Save it").first
    save.wait_for(timeout=60_000)
    with page.expect_download() as download:
        save.click()
    zipped = tmp_path / "kitchen.zip"
    download.value.save_as(zipped)
    page.get_by_label("The archive, a zip").set_input_files(zipped)
    page.get_by_role("link", name="open its Book").wait_for(timeout=90_000)
    right_on_a_phone(page)
    page.get_by_role("link", name="open its Book").click()
    page.get_by_role("link", name=DEMO).first.wait_for()
    expect(page).to_have_url(re.compile("tidemill-house-2"))


def test_what_is_looked_for_is_kept_under_a_name(device):
    page = device("trainee")
    page.goto(f"{KITCHEN}/log?verdict=discarded")
    page.get_by_role("button", name="Keep this view").click()
    page.get_by_label("The view’s name").fill("spoiled")
    page.get_by_role("button", name="Keep it").click()
    page.goto(f"{KITCHEN}/log")
    page.get_by_role("button", name="spoiled", exact=True).click()
    expect(page.get_by_role("checkbox")).to_have_count(2)
    right_on_a_phone(page)
    page.get_by_role("button", name="Forget the view spoiled").click()
    expect(page.get_by_role("button", name="spoiled", exact=True)).to_have_count(0)
