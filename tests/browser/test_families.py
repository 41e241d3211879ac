"""Other families at the stove, and the smaller promises of the pages."""

from __future__ import annotations

import re

from conftest import KITCHEN, chosen, tab
from playwright.sync_api import expect
from test_journey import tick, to_the_stove


def test_a_batch_as_scaled_is_weighed_as_scaled(device):
    page = device("trainee")
    page.goto(f"{KITCHEN}/book")
    page.get_by_role("link", name="Barley ice base").click()
    tab(page, "How much")
    page.get_by_role("radio", name="by mass").click()
    page.get_by_label("In all").fill("2 kg")
    page.get_by_role("button", name="Scale", exact=True).click()
    expect(page.get_by_text("Changed for this batch only")).to_be_visible()
    page.get_by_role("button", name="Take it to the stove").click()
    page.get_by_role("button", name="All weighed").wait_for()
    expect(page.get_by_role("definition").filter(has_text=re.compile(r"^2000 g$"))).to_be_visible()


def test_what_was_weighed_is_summed(device):
    page = device("trainee")
    to_the_stove(page, "Saffron pouring custard")
    tare = page.get_by_role("region", name="pan").get_by_role("heading")
    expect(tare).to_contain_text("0.0 g of")
    tick(page, "whole milk").click()
    expect(tare).to_contain_text("586 g of")
    tick(page, "white sugar").first.click()
    expect(tare).to_contain_text("614 g of")
    expect(page.get_by_role("button", name="Take back: weighed white sugar")).to_be_visible()
    tick(page, "white sugar").first.click()
    expect(tare).to_contain_text("586 g of")


def test_a_closed_batch_can_be_opened_again(device):
    page = device("trainee")
    to_the_stove(page)
    page.keyboard.press("8")
    page.get_by_role("radio", name="discarded").click()
    page.get_by_role("button", name="Close the batch").click()
    expect(page.get_by_text("Closed: discarded")).to_be_visible()
    expect(page.get_by_role("button", name="Put away")).to_have_count(0)
    page.get_by_role("button", name="Open this batch again").click()
    expect(page.get_by_role("button", name="Put away")).to_be_visible()


def test_a_line_can_join_off_the_heat_and_be_taken_out(device):
    page = device("pastry")
    page.goto(f"{KITCHEN}/book/new")
    chosen(page, "Add an ingredient", "brandy")
    page.get_by_label("Amount of brandy 40 %").fill("60 ml")
    rule = page.get_by_role("img", name="Rule:")
    expect(page.get_by_role("region", name="Rule and spoon")).to_contain_text("milk, egg and alcohol")
    plain = rule.get_attribute("aria-label")
    expect(page.get_by_label("When brandy 40 % joins")).to_have_value("off the heat")
    page.get_by_label("When brandy 40 % joins").select_option("in the pan")
    expect(rule).not_to_have_attribute("aria-label", plain)
    page.get_by_role("button", name="Take out brandy 40 %").click()
    expect(page.get_by_label("Amount of brandy 40 %")).to_have_count(0)


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
