"""Photographs of recipes and labels, sent from the page, read by the worker, shown next to what was read."""

from __future__ import annotations

import shutil

import pytest
from conftest import KITCHEN
from playwright.sync_api import Page, expect

CARD = """<body style="margin: 60px; font: 26px/1.6 sans-serif; color: #222; white-space: pre-line">
Harbour sauce

500 ml whole milk
6 egg yolks (120 g)
90 g caster sugar

Heat the milk, pour it over the yolks whisked with the
sugar and cook to 85 °C, stirring all the time.</body>"""
READ_MS = 90_000
needs_tesseract = pytest.mark.skipif(shutil.which("tesseract") is None, reason="tesseract is not installed")


def photograph(page: Page, of: str) -> dict[str, object]:
    """A picture of a page of text, as a file to choose."""
    other = page.context.new_page()
    other.set_viewport_size({"width": 900, "height": 640})
    other.set_content(of)
    taken = other.screenshot(type="jpeg", quality=80)
    other.close()
    return {"name": "card.jpg", "mimeType": "image/jpeg", "buffer": taken}


@needs_tesseract
@pytest.mark.parametrize("width", [360, 1280])
def test_a_photographed_card_goes_into_the_book_with_its_picture(device, width):
    page = device("pastry")
    page.set_viewport_size({"width": width, "height": 800})
    page.goto(f"{KITCHEN}/book/import")
    page.get_by_label("Or photograph a card or a page").set_input_files([photograph(page, CARD)])
    expect(page.get_by_role("form", name="Settle")).to_be_visible(timeout=READ_MS)
    picture = page.get_by_role("img", name="The photograph of the recipe")
    expect(picture).to_be_visible()
    expect(page.get_by_text("0 sure · 3 assumed · 0 open")).to_be_visible()
    expect(page.get_by_text("Your card says 85.0°.")).to_be_visible()
    page.get_by_role("button", name="Accept all that was assumed").click()
    page.get_by_role("button", name="Into the book").click()
    page.get_by_role("tab", name="Method").click()
    page.get_by_text("The recipe as it was photographed").click()
    expect(picture).to_be_visible()
    assert picture.evaluate("image => image.naturalWidth") == 900


def test_where_pictures_are_not_read_the_page_says_what_to_install(device):
    page = device("pastry")
    page.route(
        "**/pictures", lambda route: route.fulfill(json={"languages": [], "install": ["tesseract-ocr"]})
    )
    page.goto(f"{KITCHEN}/book/import")
    expect(page.get_by_text("Whoever runs it installs: tesseract-ocr")).to_be_visible()
    expect(page.get_by_label("Or photograph a card or a page")).to_be_disabled()
    expect(page.get_by_label("The recipe")).to_be_enabled()


def test_a_file_that_is_no_picture_is_refused_in_the_browser(device):
    page = device("pastry")
    page.route("**/pictures", lambda route: route.fulfill(json={"languages": ["English"], "install": []}))
    page.goto(f"{KITCHEN}/book/import")
    file = {"name": "card.jpg", "mimeType": "image/jpeg", "buffer": b"no picture"}
    page.get_by_label("Or photograph a card or a page").set_input_files([file])
    expect(page.get_by_role("alert")).to_have_text(
        "This browser cannot open this picture. Choose a JPEG or PNG."
    )


def test_two_labels_are_compared(device):
    page = device("pastry")
    page.goto(f"{KITCHEN}/kitchen/own")
    page.get_by_text("Compare two labels").click()
    page.get_by_label("One packet’s label").fill(
        "Fat 35 g, carbohydrate 3.2 g, protein 2.2 g. Ingredients: cream"
    )
    page.get_by_label("The other packet’s label").fill("hello")
    page.get_by_role("button", name="Compare").click()
    expect(page.get_by_role("alert")).to_be_visible()
    page.get_by_label("The other packet’s label").fill(
        "Fat 30 g, carbohydrate 3.2 g, protein 2.2 g. Ingredients: cream, wheat flour"
    )
    page.get_by_role("button", name="Compare").click()
    found = page.get_by_role("region", name="What they differ in")
    expect(found.get_by_role("row").nth(1)).to_contain_text("fat")
    expect(found.get_by_role("row").nth(1)).to_contain_text("−5.0")
    expect(found).to_contain_text("Only the other holds gluten (wheat).")
