"""The live stove in a browser, with the stand-in probe in the batch."""

from __future__ import annotations

import contextlib
import random
import re
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime

from conftest import KITCHEN, no_axe_violation, no_sideways_scroll
from kitchenhand.probe import Link, StandIn
from playwright.sync_api import Page, expect
from prepared import API, batch_with_probe, call, formula_id, open_bench
from test_every_screen import right_on_a_phone

PACE = 5


@contextmanager
def probe_in_it(address: str, token: str, seed: int) -> Iterator[StandIn]:
    """The stand-in, ticking while the block runs."""
    probe = StandIn(Link(address, token, random.Random(seed), perfect=False), seed)
    going = threading.Event()

    def tick() -> None:
        while not going.is_set():
            with contextlib.suppress(OSError):
                probe.tick()
            time.sleep(0.25)

    thread = threading.Thread(target=tick, daemon=True)
    thread.start()
    yield probe
    going.set()
    thread.join(timeout=10)


def test_a_batch_is_followed_to_the_ice_on_two_screens(device, address):
    page = device("pastry")
    batch, token = batch_with_probe(page, "Bay leaf anglaise", PACE)
    page.goto(f"{KITCHEN}/stove/{batch}/live")
    other = device("trainee")
    other.goto(f"{KITCHEN}/stove/{batch}/live")
    with probe_in_it(address, token, seed=4):
        page.get_by_role("button", name="The mix is in the pan, heat on").click()
        say = page.get_by_label("What to do now").get_by_role("status").first
        expect(say).to_have_text("Keep stirring, scrape the base", timeout=15_000)
        page.get_by_role("button", name="foam on top thins and goes").click()
        expect(other.get_by_role("button", name="foam on top thins and goes")).to_have_attribute(
            "aria-pressed", "true"
        )
        expect(say).to_have_text("Lift it off now", timeout=60_000)
        page.keyboard.press("o")
        expect(say).to_have_text("Out of the pan, through the sieve")
        page.keyboard.press("i")
        expect(say).to_have_text("Stir it in the ice, film on top")
        expect(other.get_by_label("What to do now").get_by_role("status").first).to_have_text(
            "Stir it in the ice, film on top"
        )
    call(page, "POST", f"{API}/batches/{batch}/close", {"verdict": "good", "note": ""})
    page.goto(f"{KITCHEN}/stove/{batch}")
    record = page.get_by_label("Plan and fact")
    expect(record.get_by_role("img", name="Curve:")).to_be_visible()
    expect(record).to_contain_text("front ring gave")
    expect(page.get_by_text("alarm: lift now")).to_have_count(1)


def send(page: Page, token: str, celsius: float) -> None:
    sent = page.request.post(
        "/api/device/readings",
        data={"readings": [{"at": datetime.now(UTC).isoformat(), "celsius": celsius}]},
        headers={"Authorization": f"Bearer {token}"},
    )
    assert sent.ok


def cooking(page: Page, name: str = "Bay leaf anglaise") -> tuple[int, str]:
    batch, token = batch_with_probe(page, name)
    page.goto(f"{KITCHEN}/stove/{batch}/live")
    page.get_by_role("button", name="heat on").or_(page.get_by_role("button", name="in the oven")).click()
    expect(page.get_by_label("What to do now").get_by_role("status").first).to_have_text(
        "Put the probe in the sauce"
    )
    return batch, token


def test_the_live_stove_is_right_at_every_width(device):
    page = device("pastry")
    _, token = cooking(page)
    send(page, token, 71.5)
    expect(page.get_by_text("71.5")).to_be_visible()
    no_axe_violation(page)
    for width in (360, 768, 1280, 1920):
        page.set_viewport_size({"width": width, "height": 800})
        no_sideways_scroll(page)
        for name in ("Spoon tested", "Off the heat", "Into the ice", "Something’s wrong"):
            assert page.get_by_role("button", name=name).bounding_box()["height"] >= 72
    page.set_viewport_size({"width": 360, "height": 740})
    no_axe_violation(page)


def test_a_spoon_and_something_wrong(device):
    page = device("trainee")
    chef = device("pastry")
    batch, token = cooking(chef)
    send(chef, token, 79.0)
    page.goto(f"{KITCHEN}/stove/{batch}/live")
    expect(page.get_by_text("79.0")).to_be_visible()
    page.keyboard.press("t")
    page.get_by_role("radio", name="heavy coat").click()
    page.get_by_role("radio", name="holds").click()
    expect(page.get_by_text("You saw heavy coat: this batch sets")).to_be_visible()
    page.keyboard.press("w")
    page.get_by_role("radio", name="grainy, split").click()
    expect(page.get_by_role("region", name="Answer")).to_contain_text("saved")


def test_marks_made_without_a_network_arrive_in_order(device):
    page = device("pastry")
    batch, _ = cooking(page)
    page.context.set_offline(True)
    page.get_by_role("button", name="steam").click()
    page.keyboard.press("o")
    expect(page.get_by_text("2 marks are kept on this device")).to_be_visible()
    page.context.set_offline(False)
    expect(page.get_by_text("kept on this device")).to_have_count(0)
    marks = call(page, "GET", f"{API}/batches/{batch}")["marks"]
    assert [mark["kind"] for mark in marks][-2:] == ["sign", "off-heat"]


OTHER_WAYS = (
    ("Hay-milk cup custard", "Cup nudged", "A nudged cup now: liquid"),
    ("Perry sabayon", "Ribbon tested", "times the volume"),
    ("Rye pastry cream", "Spoon tested", "boiled 0:00 of 1:00"),
)


def test_every_way_has_its_screen(device):
    page = device("pastry")
    for formula, touch, sees in OTHER_WAYS:
        _, token = cooking(page, formula)
        for celsius in (48.0, 48.2):
            send(page, token, celsius)
            page.wait_for_timeout(50)
        expect(page.get_by_text(sees)).to_be_visible()
        expect(page.get_by_role("button", name=touch)).to_be_visible()


def test_pours_are_ticked_and_sugar_is_timed(device):
    page = device("pastry")
    batch, _ = batch_with_probe(page, "Bay leaf anglaise")
    page.goto(f"{KITCHEN}/stove/{batch}")
    page.get_by_role("button", name="All weighed").wait_for()
    page.keyboard.press("3")
    page.get_by_role("button", name="Sugar is on the yolks").click()
    expect(page.get_by_text("Sugar has lain on the yolks for")).to_be_visible()
    pours = page.get_by_label("Pours").get_by_role("listitem")
    for pour in pours.all():
        pour.get_by_role("button").click()
    for pour in pours.all():
        expect(pour.get_by_role("button")).to_have_attribute("aria-pressed", "true")
    page.reload()
    for pour in pours.all():
        expect(pour.get_by_role("button")).to_have_attribute("aria-pressed", "true")
    expect(page.get_by_text("Sugar has lain on the yolks for")).to_have_count(0)


def test_a_rehearsal_is_begun_from_the_bench(device):
    page = device("trainee")
    open_bench(page)
    page.get_by_role("button", name="Rehearse it").click()
    page.get_by_role("button", name="All weighed").wait_for()
    page.keyboard.press("4")
    page.get_by_role("link", name="To the live stove").click()
    expect(page.get_by_text("rehearsal, 10 times as fast")).to_be_visible()
    expect(page.get_by_text("no probe; put one in")).to_be_visible()


def test_an_alarm_is_said_aloud_once_logged_and_silenced_for_everyone(device):
    page = device("pastry")
    other = device("trainee")
    batch, token = cooking(page, "Rye pastry cream")
    page.evaluate(
        "() => { window.spoken = []; speechSynthesis.speak = (said) => { window.spoken.push(said.text); }; }"
    )
    for _ in range(2):
        page.get_by_role("button", name="Sound:").click()
    expect(page.get_by_role("button", name="Sound: spoken")).to_be_visible()
    for celsius in (85.0, 85.4, 85.8):
        send(page, token, celsius)
        page.wait_for_timeout(60)
    page.keyboard.press("o")
    short = "Not boiled long enough: it would thin by tomorrow"
    expect(page.get_by_role("alert").get_by_text(short)).to_be_visible()
    other.goto(f"{KITCHEN}/stove/{batch}/live")
    expect(other.get_by_role("alert").get_by_text(short)).to_be_visible()
    send(page, token, 86.0)
    page.wait_for_timeout(1500)
    assert page.evaluate("window.spoken") == [short]
    marks = call(page, "GET", f"{API}/batches/{batch}")["marks"]
    assert [mark["what"] for mark in marks if mark["kind"] == "alarm"] == ["starch-short"]
    other.get_by_role("button", name=f"Heard: {short}").click()
    for screen in (page, other):
        expect(screen.get_by_role("alert").get_by_text(short)).to_have_count(0)


def test_the_board_of_the_stove(device):
    """Nothing on: what is likely next, one touch away; then what is on, with its rule and its next thing."""
    page = device("pastry")
    key = formula_id(page, "Bay leaf anglaise")
    habit = {"formula_id": key, "name": "Bay leaf anglaise", "say": "made 3 times on Fridays about now"}
    page.route("**/upcoming", lambda route: route.fulfill(json=[{**habit, "when": None, "job": None}]))
    page.goto(f"{KITCHEN}/stove")
    expect(page.get_by_role("heading", name="Nothing on the stove")).to_be_visible()
    expect(page.get_by_role("region", name="Likely next")).to_contain_text("made 3 times on Fridays")
    right_on_a_phone(page)
    page.get_by_role("button", name="Take it to the stove: Bay leaf anglaise").click()
    page.get_by_role("button", name="All weighed").wait_for()
    page.goto(f"{KITCHEN}/stove")
    row = page.get_by_role("listitem").filter(has_text="batch")
    expect(row.get_by_role("img", name=re.compile("nappe from"))).to_be_visible()
    expect(row).to_contain_text("weigh")
    right_on_a_phone(page)
    row.get_by_role("link").click()
    page.get_by_role("button", name="All weighed").wait_for()
