"""Dishes that end after the pan, from the Bench to the closed batch; and what stands beside a formula."""

from __future__ import annotations

import re

from conftest import chosen, no_axe_violation, tab
from playwright.sync_api import Page, expect
from prepared import open_batch, open_bench
from test_every_screen import right_on_a_phone


def to_the_stove(page: Page) -> None:
    page.get_by_role("button", name="Take it to the stove").click()
    page.get_by_role("button", name="All weighed").wait_for()


def stage(page: Page, key: str, name: str) -> None:
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press(key)
    expect(page.locator("[aria-current=step]")).to_contain_text(name, ignore_case=True)


def joins(page: Page, name: str) -> None:
    page.get_by_role("button", name=f"{name} is in").click()
    expect(page.get_by_role("button", name=f"Take back: {name}", exact=True)).to_be_visible()


def put_away(page: Page) -> None:
    """Closed and put away; nothing was measured, so somebody decides."""
    page.get_by_label("Why it may be used all the same").fill("a rehearsal of the page")
    page.get_by_role("button", name="It may be used").click()
    page.get_by_text("in the fridge", exact=True).wait_for()
    page.get_by_role("radio", name="good").click()
    page.get_by_role("button", name="Close the batch").click()
    expect(page.get_by_text("Closed: good")).to_be_visible()


def close(page: Page) -> None:
    """Everything has joined: on to chilling, and put away."""
    page.get_by_role("button", name="Finished", exact=True).click()
    expect(page.locator("[aria-current=step]")).to_contain_text("chill", ignore_case=True)
    stage(page, "8", "keep")
    put_away(page)


DISHES = (
    ("Rye pastry cream", ("butter, unsalted", "vanilla extract 35 %"), "once it is below 60°"),
    ("Burnt honey filling", ("roasted hazelnut paste", "desiccated coconut"), "after a night"),
)


def test_what_joins_off_the_heat_or_drinks_is_told_and_ticked(device):
    page = device("trainee")
    for dish, additions, told in DISHES:
        open_batch(page, dish)
        expect(page.get_by_role("region", name="finish tray")).to_contain_text(additions[0])
        stage(page, "6", "finish")
        expect(page.get_by_role("region", name="Finish tray", exact=True)).to_contain_text(told)
        for name in additions:
            joins(page, name)
        close(page)


def test_a_sauce_onto_chocolate_pour_by_pour(device):
    page = device("trainee")
    open_batch(page, "Bitter chocolate crémeux")
    stage(page, "6", "finish")
    pours = page.get_by_role("list", name="Pours onto the chocolate").get_by_role("button")
    expect(pours.first).to_contain_text(re.compile("stiff|splitting"))
    expect(pours.last).to_contain_text("shines")
    expect(pours.nth(1)).to_be_disabled()
    for pour in range(pours.count()):
        pours.nth(pour).click()
        expect(pours.nth(pour)).to_have_attribute("aria-pressed", "true")
    right_on_a_phone(page)
    joins(page, "dark chocolate 70 %")
    page.get_by_role("button", name="Take back: dark chocolate 70 %", exact=True).click()
    expect(page.get_by_role("button", name="dark chocolate 70 % is in")).to_be_visible()
    joins(page, "dark chocolate 70 %")
    close(page)


def test_a_sabayon_with_melted_chocolate_and_folded_cream(device):
    page = device("trainee")
    open_bench(page, "Perry sabayon")
    chosen(page, "Add an ingredient", "dark chocolate 65")
    page.get_by_label("Amount of dark chocolate 65 %").fill("60 g")
    expect(page.get_by_label("When dark chocolate 65 % joins")).to_have_value("under it")
    expect(page.get_by_label("When whipping cream 36 % joins")).to_have_value("folded when cool")
    expect(page.get_by_text("Changed for this batch only")).to_be_visible()
    to_the_stove(page)
    stage(page, "6", "finish")
    tray = page.get_by_role("region", name="Finish tray", exact=True)
    expect(tray).to_contain_text("whisk it into the warm foam")
    joins(page, "dark chocolate 65 %")
    expect(tray).to_contain_text("Wait for 25°")
    joins(page, "whipping cream 36 %")
    expect(tray).to_contain_text("times its liquid")
    close(page)


def test_a_crust_by_the_dish_that_is_there(device):
    page = device("trainee")
    open_batch(page, "Smoked salt burnt cream")
    stage(page, "6", "finish")
    page.get_by_label("dish across, cm").fill("12")
    expect(page.get_by_text("11 g a dish")).to_be_visible()
    page.get_by_label("dish across, cm").fill("200")
    expect(page.get_by_role("alert")).to_contain_text("from 3 to 60")
    page.get_by_label("dish across, cm").fill("10")
    joins(page, "white sugar")
    # It comes last, on what is cold and set.
    page.get_by_role("button", name="Finished", exact=True).click()
    expect(page.locator("[aria-current=step]")).to_contain_text("keep", ignore_case=True)
    put_away(page)


def test_an_infused_anglaise_is_topped_up(device):
    page = device("trainee")
    open_batch(page, "Bay leaf anglaise")
    expect(page.get_by_role("navigation", name="Stages").get_by_text("finish")).to_have_count(0)
    stage(page, "2", "warm")
    page.get_by_role("button", name="Lid on: start 20:00").click()
    expect(page.get_by_role("timer")).to_contain_text("to go under the lid")
    page.get_by_label("Left once strained, g").fill("480")
    page.get_by_role("button", name="How much to add").click()
    expect(page.get_by_text("Add 36 g of whole milk.")).to_be_visible()
    right_on_a_phone(page)
    page.get_by_role("button", name="Topped up").click()
    expect(page.get_by_text("480 g were left; 36 g were to be added.")).to_be_visible()
    expect(page.get_by_role("button", name="Take back: strained · 480 g left · topped up")).to_be_visible()
    stage(page, "8", "keep")
    expect(page.get_by_role("region", name="What it is for")).to_contain_text("are left over of")
    put_away(page)


def test_sugar_is_weighed_twice_and_each_bowl_has_its_tare(device):
    page = device("trainee")
    open_batch(page, "Bay leaf anglaise")
    pan, bowl = (page.get_by_role("region", name=name) for name in ("pan", "yolk bowl"))
    expect(pan.get_by_role("button", name="white sugar")).to_contain_text("50 % of 90 g")
    bowl.get_by_role("button", name="white sugar").click()
    expect(bowl.get_by_role("heading")).to_contain_text("45 g of 146 g")
    expect(pan.get_by_role("heading")).to_contain_text("0.0 g of")


def test_the_oven_asks_for_cups_and_not_for_a_ring(device):
    page = device("trainee")
    open_batch(page, "Hay-milk cup custard")
    stage(page, "4", "cook")
    setup = page.get_by_role("region", name="Setup")
    expect(setup.get_by_role("button", name=re.compile("^On:"))).to_have_count(0)
    expect(setup.get_by_role("status")).to_contain_text("out after about")
    setup.get_by_label("cups or dishes").fill("20")
    setup.get_by_role("button", name="Bake it so").click()
    expect(setup.get_by_role("status")).to_contain_text("are needed for all")
    setup.get_by_label("in them").select_option("bread-white")
    setup.get_by_label("cups or dishes").fill("9")
    setup.get_by_role("button", name="Bake it so").click()
    expect(setup.get_by_role("status")).to_contain_text(re.compile(r"drinks \d+ g of that"))
    right_on_a_phone(page)
    setup.get_by_label("each holds, ml").fill("9000")
    setup.get_by_role("button", name="Bake it so").click()
    expect(setup.get_by_role("alert")).to_contain_text("from 5 to 5000")


def test_what_it_is_for_is_its_size_and_layers_say_what_they_take(device):
    page = device("pastry")
    open_bench(page, "Bay leaf anglaise")
    tab(page, "How much")
    part = page.get_by_role("region", name="What it is for")
    part.get_by_role("button", name="And for …").click()
    part.get_by_label("Destination 2", exact=True).fill("trifle")
    part.get_by_label("Amount for one of trifle").fill("1.2 l")
    expect(part).to_contain_text("are missing")
    part.get_by_role("button", name="Make it just enough").click()
    expect(part).to_contain_text("It is just enough.")
    part.get_by_label("Amount for one of trifle").fill("6 yolks")
    expect(part.get_by_role("alert")).to_contain_text("neither a weight nor a volume")
    page.get_by_role("button", name="Undo").click()
    page.get_by_role("radio", name="in layers").click()
    form = page.get_by_role("form", name="Layers")
    form.get_by_role("button", name="Another layer").click()
    form.get_by_label("Layer 2", exact=True).select_option(label="Rye pastry cream")
    form.get_by_role("button", name="Another layer").click()
    form.get_by_label("Layer 3", exact=True).select_option(label="plain biscuit crumbs")
    form.get_by_label("Layer 3 by").select_option("g")
    form.get_by_label("Size of layer 3, g").fill("120")
    form.get_by_role("button", name="What it takes").click()
    taken = page.get_by_role("list", name="What each layer takes").get_by_role("listitem")
    expect(taken).to_have_count(3)
    expect(taken.nth(1)).to_contain_text("once it is set")
    expect(taken.last).to_contain_text("120 g")
    tab(page, "Method")
    beside = page.get_by_role("region", name="Other work")
    beside.get_by_role("button", name="Add other work").click()
    beside.get_by_label("Name of work 1").fill("poached quince")
    beside.get_by_label("Minutes of poached quince").fill("0")
    expect(beside.get_by_role("alert")).to_contain_text("from 1 to 1440")
    beside.get_by_label("Minutes of poached quince").fill("45")
    beside.get_by_label("What poached quince needs").select_option("ring")
    page.get_by_role("button", name=re.compile("Save as version")).click()
    expect(page.get_by_role("combobox", name="version")).to_contain_text("3 ·")
    page.reload()
    expect(page.get_by_label("Name of work 1")).to_have_value("poached quince")
    right_on_a_phone(page)


def test_a_line_that_cannot_join_so_is_told_by_its_field(device):
    page = device("pastry")
    open_bench(page, "Rye pastry cream")
    page.get_by_label("When butter, unsalted joins").select_option("folded when cool")
    page.get_by_label("Amount of butter, unsalted").fill("40 kg")
    expect(page.get_by_role("alert")).to_contain_text("times the")
    page.get_by_label("Amount of butter, unsalted").fill("40 g")
    page.get_by_label("When butter, unsalted joins").select_option("infused")
    page.get_by_label("Minutes that butter, unsalted infuses").fill("2000")
    expect(page.get_by_role("alert")).to_contain_text("at most a day")
    no_axe_violation(page)
    infuses = page.get_by_label("Minutes that butter, unsalted infuses")
    infuses.fill("1 h 20")
    expect(page.get_by_role("alert")).to_have_count(0)
    page.reload()
    expect(infuses).to_have_value("80")
