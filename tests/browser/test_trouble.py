"""What goes wrong: bad input, a lost connection, two people at once. Nothing is lost."""

from __future__ import annotations

from conftest import KITCHEN
from playwright.sync_api import expect
from prepared import open_batch, open_bench
from test_journey import tick

BAD_AMOUNTS = (
    ("3 blobs", "unit we do not know"),
    ("-5 g", "must be more than nothing"),
    ("2-3 cups", "is a range"),
    ("", "is not an amount"),
    ("🥚", "no number in front"),
)


def test_a_bad_amount_gets_a_sentence_and_keeps_what_was_typed(device):
    page = device("pastry")
    open_bench(page, "Rye pastry cream")
    amount = page.get_by_label("Amount of white sugar")
    for typed, sentence in BAD_AMOUNTS:
        amount.fill(typed)
        expect(page.get_by_role("alert").filter(has_text=sentence)).to_be_visible()
        expect(amount).to_have_value(typed)
        expect(amount).to_have_attribute("aria-invalid", "true")
        expect(page.get_by_role("button", name="Take it to the stove")).to_be_disabled()
    amount.fill("90 g")
    expect(page.get_by_role("alert")).to_have_count(0)


def test_ten_thousand_yolks_and_an_emoji_for_a_name(device):
    page = device("pastry")
    page.goto(f"{KITCHEN}/book/new")
    page.get_by_label("Amount of egg yolk").fill("10000")
    expect(page.get_by_role("alert").filter(has_text="more than 2000 yolks")).to_be_visible()
    page.get_by_label("Amount of egg yolk").fill("5")
    page.get_by_label("Name", exact=True).fill("🥚")
    expect(page.get_by_role("alert").filter(has_text="no letter or number")).to_be_visible()
    expect(page.get_by_label("Name", exact=True)).to_have_value("🥚")


def test_three_hundred_degrees_is_refused_and_can_be_mended(device):
    page = device("trainee")
    open_batch(page)
    page.keyboard.press("4")
    page.get_by_label("Temperature").fill("300")
    page.get_by_text("Add a note").click()
    page.get_by_label("Note").fill("front ring")
    page.get_by_role("button", name="Off the heat").click()
    expect(page.get_by_role("alert").filter(has_text="cannot be a sauce")).to_be_visible()
    expect(page.get_by_label("Temperature")).to_have_value("300.0")
    expect(page.get_by_label("Note")).to_have_value("front ring")
    page.get_by_label("Temperature").fill("eighty")
    page.get_by_role("button", name="Off the heat").click()
    expect(page.get_by_role("alert").filter(has_text="as a number")).to_be_visible()
    page.get_by_label("Temperature").fill("80")
    page.get_by_role("button", name="Off the heat").click()
    expect(page.get_by_text("off the heat · 80.0° · front ring")).to_be_visible()


def test_a_connection_lost_in_the_middle_of_a_mark(device):
    page = device("trainee")
    open_batch(page)
    page.context.set_offline(True)
    tick(page, "whole milk").click()
    tick(page, "egg yolk").click()
    expect(page.get_by_role("alert").filter(has_text="2 marks are kept on this device")).to_be_visible()
    expect(tick(page, "egg yolk")).to_have_attribute("aria-pressed", "true")
    page.context.set_offline(False)
    expect(page.get_by_text("not sent yet")).to_have_count(0)
    expect(page.get_by_text("weighed whole milk")).to_be_visible()
    expect(page.get_by_role("alert")).to_have_count(0)
    page.reload()
    expect(tick(page, "egg yolk")).to_have_attribute("aria-pressed", "true")


def test_marks_kept_on_the_device_survive_closing_the_page(device):
    page = device("trainee")
    open_batch(page)
    url = page.url
    page.route("**/marks**", lambda route: route.abort())
    tick(page, "white sugar").first.click()
    expect(page.get_by_text("not sent yet")).to_be_visible()
    again = page.context.new_page()
    page.close()
    again.goto(url)
    expect(again.get_by_text("weighed white sugar")).to_be_visible()
    expect(again.get_by_text("not sent yet")).to_have_count(0)


def test_two_editors_of_one_formula(device):
    first, second = device("pastry"), device("section")
    for page in (first, second):
        page.goto(f"{KITCHEN}/book")
        page.get_by_role("link", name="Hay-milk cup custard").click()
        page.get_by_label("Amount of white sugar").wait_for()
    first.get_by_label("Amount of white sugar").fill("80 g")
    first.get_by_role("button", name="Save as version").click()
    expect(first.get_by_text("saved", exact=True)).to_be_visible()
    second.get_by_label("Amount of white sugar").fill("95 g")
    second.get_by_role("button", name="Save as version").click()
    expect(second.get_by_role("alert").filter(has_text="The pastry cook saved version")).to_be_visible()
    expect(second.get_by_label("Amount of white sugar")).to_have_value("95 g")
    second.get_by_role("button", name="Save mine on top").click()
    expect(second.get_by_text("saved", exact=True)).to_be_visible()


def test_a_wrong_password_is_said_by_the_field(device):
    page = device(None)
    page.goto("/")
    page.get_by_label("Name").fill("pastry")
    page.get_by_label("Password").fill("not this one")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert").first).to_be_visible()
    expect(page.get_by_label("Name")).to_have_value("pastry")


def test_a_kitchen_that_is_not_ones_own(device):
    page = device("pastry")
    page.goto("/k/somewhere-else/book")
    expect(page.get_by_text("no such kitchen")).to_be_visible()


def test_the_kitchen_s_height_moves_every_boil(device):
    page = device("section")
    page.goto(f"{KITCHEN}/kitchen")
    page.get_by_label("Height above the sea").fill("high up")
    page.get_by_role("button", name="Keep these").click()
    expect(page.get_by_role("alert").filter(has_text="number of metres")).to_be_visible()
    page.get_by_label("Height above the sea").fill("1500")
    page.get_by_role("button", name="Keep these").click()
    expect(page.get_by_text("Water boils at 95.0°")).to_be_visible()
    expect(page.get_by_role("status").filter(has_text="Kept.")).to_be_visible()
    page.get_by_label("Height above the sea").fill("12")
    page.get_by_role("button", name="Keep these").click()
    expect(page.get_by_text("Water boils at 100.0°")).to_be_visible()
