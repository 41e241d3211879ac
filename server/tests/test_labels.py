"""Labels: what stands on one, and a QR code that a reader finds on the printed page."""

from __future__ import annotations

import builtins
import os
import re
import sys
from datetime import timedelta
from pathlib import Path

import pypdfium2
import pytest
import zxingcpp
from common import clock
from shelf.models import Tub
from stove import actions as stove

from tests.conftest import ANGLAISE, close, draft, formula_of, printed

LONG = "Bay leaf and toasted hay anglaise with a name that goes on and on for the midwinter banquet menu " * 2
SHOWN = os.environ.get("OLDSPOON_LABELS_SHOWN")
"""A folder to put the pages into as pictures, to be looked at."""


@pytest.fixture
def tub(here, version, batch):
    close(here["cook"], batch, kept_g=640, whites_g=0)
    return Tub.objects.get()


def pages(answer, name="label"):
    assert answer.status_code == 200
    assert answer["Content-Type"] == "application/pdf"
    found = pypdfium2.PdfDocument(answer.content)
    images = [page.render(scale=300 / 72).to_pil() for page in found]
    for number, image in enumerate(images if SHOWN else ()):
        image.save(Path(str(SHOWN)) / f"{name}-{number}.png")
    return images, [page.get_textpage().get_text_range() for page in found]


def test_a_label_says_what_it_is_and_until_when(cook, chef, tub):
    chef("PATCH", "/api/k/here", {"zone": "Asia/Tokyo"})
    [label] = cook("GET", f"/api/k/here/labels?tub={tub.pk}").json()
    there = tub.use_by + timedelta(hours=9)
    assert label["use_by"] == there.strftime("%a %-d %b %Y, %H:%M")
    assert label["allergens"] == "milk, egg"
    assert label["storage"] == "Fridge, covered, 5 °C or colder"
    assert (label["grams"], label["batch"]) == ("640 g", f"batch {tub.batch.number}")
    assert label["who"] == "cook there"
    assert chef("PATCH", "/api/k/here", {"zone": "Nowhere/Land"}).status_code == 422


def test_the_code_on_the_printed_label_opens_the_batch(cook, tub):
    [image], [text] = pages(printed(cook, f"/api/k/here/labels.pdf?tub={tub.pk}"))
    [code] = zxingcpp.read_barcodes(image)
    assert code.text == f"http://localhost/k/here/stove/{tub.batch_id}"
    assert "Bay leaf anglaise" in text
    assert "Allergens: milk, egg" in text.replace("\r\n", " ")
    width, height = image.size
    assert width == height == pytest.approx(62 / 25.4 * 300, abs=2)


def test_a_label_shows_times_by_the_clock_of_whoever_prints_it(cook, tub):
    habits = {"units": "metric", "decimal": "point", "clock": "12", "week": "monday"}
    assert cook("PUT", "/api/me/habits", habits).status_code == 200
    [label] = cook("GET", f"/api/k/here/labels?tub={tub.pk}").json()
    for time in (label["made"], label["use_by"]):
        assert re.fullmatch(r"\w+ \d+ \w+ \d+, (1[0-2]|[1-9]):\d\d [AP]M", time)


def test_the_label_of_what_is_past_its_day_says_to_throw_it_away(cook, tub):
    with clock.at(tub.use_by + timedelta(hours=1)):
        _, [text] = pages(printed(cook, f"/api/k/here/labels.pdf?tub={tub.pk}"))
    assert "Not to be used: throw it away" in text
    assert "use by" not in text


def test_a_sheet_of_labels_has_all_of_them_readable(here, version, cook):
    ids, urls = [], set()
    for _ in range(11):
        batch = stove.start(here["cook"], version.formula_id, 1, formula_of(draft(name=LONG[:200])))
        stove.for_guests(here["cook"], batch.pk, vulnerable=True)
        close(here["cook"], batch, kept_g=400, whites_g=0)
        ids.append(Tub.objects.get(batch=batch).pk)
        urls.add(f"http://localhost/k/here/stove/{batch.pk}")
    query = "&".join(f"tub={key}" for key in ids)
    images, texts = pages(printed(cook, f"/api/k/here/labels.pdf?size=a4&{query}"), "sheet")
    assert {code.text for image in images for code in zxingcpp.read_barcodes(image)} == urls
    assert len(images) == 2
    assert sum(text.count("for vulnerable guests") for text in texts) == 11
    rolls, _ = pages(printed(cook, f"/api/k/here/labels.pdf?{query}"), "roll")
    assert len(rolls) == 11


def test_a_frozen_one_and_what_went_into_it(here, cook, version, tub):
    other = stove.start(
        here["cook"], version.formula_id, 1, formula_of(draft(lines=[*ANGLAISE["lines"], FLOUR]))
    )
    close(here["cook"], other, kept_g=300, whites_g=0)
    flour = Tub.objects.get(batch=other)
    trifle = stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    move = {"kind": "used", "grams": 100, "into_batch_id": trifle.pk}
    cook("POST", f"/api/k/here/tubs/{flour.pk}/moves", {"id": "0" * 31 + "1", **move})
    close(here["cook"], trifle, kept_g=300, whites_g=0)
    made = Tub.objects.get(batch=trifle)
    cook("POST", f"/api/k/here/tubs/{made.pk}/moves", {"id": "0" * 31 + "2", "kind": "frozen"})
    [label] = cook("GET", f"/api/k/here/labels?tub={made.pk}").json()
    assert label["allergens"] == "milk, egg, gluten (wheat)"
    assert label["storage"].startswith("Freezer, -18 °C")
    assert label["use_by_why"] == "frozen"


FLOUR = {"ingredient": "wheat-flour", "amount": "20 g"}


def test_labels_of_another_kitchen_are_not_there(here, there, cook, tub):
    assert cook("GET", f"/api/k/here/labels?tub={tub.pk + 999}").status_code == 404
    assert cook("GET", "/api/k/here/labels").status_code == 422


def test_without_pango_it_is_said_and_nothing_breaks(cook, tub, monkeypatch):
    monkeypatch.setitem(sys.modules, "weasyprint", None)
    real = builtins.__import__

    def without(name, *rest, **more):
        if name == "weasyprint":
            raise OSError("cannot load library 'libpangoft2'")
        return real(name, *rest, **more)

    monkeypatch.setattr(builtins, "__import__", without)
    answer = printed(cook, f"/api/k/here/labels.pdf?tub={tub.pk}")
    assert answer.status_code == 503
    assert "Print from the page instead" in answer.json()["detail"]
