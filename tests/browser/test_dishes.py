"""Dishes from the pasted recipe to the label, as a cook goes, with touches and typing counted.

One of every way of making in each test run, all eighteen with `./spoon dishes`.
"""

from __future__ import annotations

import os
import re
from dataclasses import dataclass, field

import pytest
from conftest import KITCHEN
from playwright.sync_api import Locator, Page, expect

MOST_TOUCHES, MOST_TYPED = 20, 10
"""What an ordinary dish may take; each thing that joins after the heat is a touch more."""


@dataclass(frozen=True)
class Dish:
    """What is pasted; `label` is what must stand on its label, `label` empty for what is served at once."""

    name: str
    family: str
    lines: tuple[str, ...]
    label: tuple[str, ...] = ("milk", "egg")


MILK, YOLKS, SUGAR = "500 ml whole milk", "6 egg yolks", "90 g white sugar"
CREAM = "250 ml whipping cream 36 %"
DISHES = (
    Dish("Plain anglaise", "crème anglaise", (MILK, YOLKS, SUGAR)),
    Dish("Rich anglaise", "crème anglaise", (MILK, CREAM, YOLKS, SUGAR, "1 vanilla pod")),
    Dish("Coconut sauce", "crème anglaise", ("500 ml coconut milk", YOLKS, SUGAR), ("egg",)),
    Dish("Tea anglaise", "crème anglaise", (MILK, "10 g tea leaves", YOLKS, SUGAR)),
    Dish(
        "Brandy anglaise", "crème anglaise", (MILK, YOLKS, SUGAR, "40 ml brandy"), ("milk", "egg", "alcohol")
    ),
    Dish("Plum sabayon", "sabayon", (YOLKS, "100 g white sugar", "150 ml white wine"), ()),
    Dish(
        "Chocolate sabayon",
        "sabayon",
        (YOLKS, "100 g white sugar", "100 ml white wine", "80 g dark chocolate 70 %"),
        ("egg", "alcohol"),
    ),
    Dish("Pouring custard", "pouring custard", (MILK, "4 egg yolks", "60 g white sugar", "15 g cornstarch")),
    Dish(
        "Barley cream",
        "pastry cream",
        ("1 l whole milk", "9 egg yolks", "180 g white sugar", "80 g cornstarch", "50 g unsalted butter"),
    ),
    Dish(
        "Flour cream",
        "pastry cream",
        (MILK, "4 egg yolks", "100 g white sugar", "45 g wheat flour"),
        ("milk", "egg", "gluten"),
    ),
    Dish("White pudding", "cold-start pudding", (MILK, "50 g white sugar", "40 g cornstarch"), ("milk",)),
    Dish("Nut pudding", "cold-start pudding", (MILK, "50 g white sugar", "45 g rice flour"), ("milk",)),
    Dish(
        "Dark crémeux",
        "chocolate crémeux",
        ("250 ml whole milk", CREAM, "5 egg yolks", "50 g white sugar", "180 g dark chocolate 65 %"),
    ),
    Dish("Plain ice", "ice-cream base", (MILK, CREAM, YOLKS, "140 g white sugar")),
    Dish("Tin filling", "milk filling", ("400 g condensed milk", "4 egg yolks", "30 g unsalted butter")),
    Dish("Cup custard", "baked custard", (MILK, "4 whole eggs", "80 g white sugar")),
    Dish("Cocoa cups", "baked custard", (MILK, "4 whole eggs", "80 g white sugar", "60 g white chocolate")),
    Dish("Thick cream", "burnt cream", ("500 ml double cream 48 %", YOLKS, "80 g white sugar")),
)


@dataclass
class Walk:
    """A cook at the page: each touch and each typed character is counted."""

    page: Page
    touches: int = 0
    typed: int = 0
    shown: list[str] = field(default_factory=list)

    def touch(self, what: Locator) -> None:
        what.click()
        self.touches += 1

    def button(self, name: str | re.Pattern[str]) -> None:
        self.touch(self.page.get_by_role("button", name=name, exact=isinstance(name, str)).first)

    def type(self, label: str, text: str) -> None:
        self.page.get_by_label(label).fill(text)
        self.typed += len(text)

    def bring_in(self, dish: Dish) -> None:
        """From a recipe on the clipboard to the stove."""
        page = self.page
        page.goto(f"{KITCHEN}/book")
        self.touch(page.get_by_role("link", name="Import a recipe"))
        self.touch(page.get_by_label("The recipe"))
        page.keyboard.insert_text("\n".join((dish.name, *dish.lines)))
        self.button("Read it")
        family = page.get_by_label("Family")
        family.wait_for()
        if family.locator("option:checked").inner_text() != dish.family:
            family.select_option(label=dish.family)
            self.touches += 1
        self.button("Into the book")
        self.button("Take it to the stove")

    def stage(self) -> str:
        return self.page.locator("[aria-current=step]").inner_text().split("\n")[0].strip().lower()

    def go_on(self, stage: str) -> None:
        """Do what one stage wants, with the touches that it takes."""
        page = self.page
        if stage == "cook":
            told = page.locator("p.figure").first.inner_text()
            self.type("Temperature", re.search(r"\d+", told)[0])
            self.button(re.compile("^(Off the heat|Bowl off the steam|Out of the oven)$"))
        elif stage == "test":
            self.touch(page.get_by_role("button", name="As expected"))
        elif stage == "finish":
            for one in page.get_by_role("button", name=re.compile("is in$")).all():
                self.touch(one)
            self.button("Finished")
        elif stage == "chill":
            away = page.get_by_role(
                "button", name=re.compile("^(Into the ice|Into the fridge|Away to cool)$")
            )
            cold = page.get_by_role("button", name="Chilled", exact=True)
            expect(away.or_(cold).first).to_be_visible()
            if away.count():
                page.get_by_role("region", name="How it is cooled").get_by_role("img").wait_for()
                self.touch(away.first)
                self.type("Temperature", "4")
            self.touch(cold)
        else:
            done = {"weigh": "All weighed", "warm": "Warmed", "temper": "Tempered"}
            self.button(done[stage])

    def to_the_label(self) -> None:
        page = self.page
        for _ in range(8):
            stage = self.stage()
            self.shown.append(stage)
            if stage == "keep":
                break
            self.go_on(stage)
            expect(page.locator("[aria-current=step]")).not_to_have_text(
                re.compile(f"^{stage}", re.IGNORECASE)
            )
        self.touch(page.get_by_role("radio", name="good"))
        self.button("Close the batch")
        expect(page.get_by_text("Closed: good")).to_be_visible()


def walked(page: Page, dish: Dish) -> Walk:
    walk = Walk(page)
    walk.bring_in(dish)
    page.get_by_role("button", name="All weighed").wait_for()
    walk.to_the_label()
    labels = page.get_by_role("region", name="Labels").get_by_role("listitem").filter(has_text=dish.name)
    if dish.label:
        expect(labels).to_contain_text("use by")
        for allergen in dish.label:
            expect(labels).to_contain_text(allergen)
        if "gluten" not in dish.label:
            expect(labels).not_to_contain_text("gluten")
    else:
        expect(page.get_by_text("Served at once")).to_have_count(0)
        expect(labels).to_have_count(0)
    return walk


EACH_WAY = (
    "Rich anglaise",
    "Plum sabayon",
    "Chocolate sabayon",
    "Flour cream",
    "White pudding",
    "Dark crémeux",
    "Cocoa cups",
)
WALKED = [dish for dish in DISHES if "OLDSPOON_DISHES" in os.environ or dish.name in EACH_WAY]


@pytest.mark.parametrize("part", range(3))
def test_a_dish_goes_from_the_recipe_to_its_label_in_few_touches(device, part):
    page = device("pastry")
    for dish in WALKED[part::3]:
        walk = walked(page, dish)
        print(f"{dish.name}: {walk.touches} touches, {walk.typed} typed, {' '.join(walk.shown)}")
        joins = walk.shown.count("finish") * len(dish.lines)
        assert walk.touches <= MOST_TOUCHES + joins, dish.name
        assert walk.typed <= MOST_TYPED, dish.name
