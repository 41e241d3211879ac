"""The record an inspector gets: temperatures, limits, who, what was decided, corrections beside it all."""

from __future__ import annotations

import csv
import io
import json
import os
import re
import uuid
from datetime import timedelta
from pathlib import Path

import pypdfium2
import pytest
from common import clock
from common.text import inert
from log.record_schemas import Record
from stove.models import Batch

from tests.conftest import mark, printed, work_off
from tests.test_cooling import FRIDGE, put_away, spot

SCHEMA = Path(__file__).parents[2] / "docs" / "formats" / "record-1.schema.json"
SHOWN = os.environ.get("OLDSPOON_LABELS_SHOWN")


@pytest.fixture
def badly(cook, batch):
    """A batch that cooled too slowly, with what was decided, a mark taken back, a note that is a formula."""
    path = f"/api/k/here/batches/{batch.pk}"
    began = put_away(cook, path, batch, 300)
    for minutes, celsius in ((60, 62), (150, 48), (240, 33)):
        spot(cook, path, began + timedelta(minutes=minutes), celsius)
    cook("POST", f"{path}/marks", mark("tick", "weigh", line=1))
    wrong = mark("spot", "chill", temperature_c=3)
    cook("POST", f"{path}/marks", wrong)
    cook("POST", f"{path}/marks/{wrong['id']}/withdraw")
    work_off()
    cook("POST", f"{path}/marks", mark("decided", "chill", note="=thrown away, the chef was told"))
    assert (
        cook("POST", f"{path}/close", {"verdict": "usable", "kept_g": 300, "whites_g": 0}).status_code == 200
    )
    return path


def test_a_missed_limit_is_in_it_with_what_was_decided(cook, badly):
    record = cook("GET", f"{badly}/record").json()
    [one] = record["batches"]
    assert one["limits"][0]["state"] == "missed"
    assert one["limits"][0]["due_at"] < one["limits"][0]["reached_at"]
    assert one["decided"] == ["=thrown away, the chef was told (cook there)"]
    assert {"alarm", "decided", "closed"} <= {each["kind"] for each in one["marks"]}
    assert {each["by"] for each in one["marks"] if each["kind"] == "alarm"} == {"the worker"}
    slip = cook("GET", badly).json()["plan"]["slip"]
    assert next(each["what"] for each in one["marks"] if each["kind"] == "tick") == slip[1]["name"]
    [back] = [each for each in one["marks"] if each["taken_back_at"]]
    assert (back["temperature_c"], back["taken_back_by"]) == (3, "cook there")
    assert 3 not in [each["celsius"] for each in one["temperatures"]]
    assert [each["kind"] for each in record["movements"]] == ["made"]
    assert len(record["hash"]) in (0, 64)
    # What cooled too slowly is put away as past its time, and the shelf says so.
    [tub] = cook("GET", "/api/k/here/shelf").json()["tubs"]
    assert tub["past"]
    assert "too slowly" in tub["use_by_why"]


def test_a_table_that_no_spreadsheet_takes_for_formulas(cook, badly):
    answer = cook("GET", f"{badly}/record.csv")
    assert "attachment" in answer["Content-Disposition"]
    rows = list(csv.DictReader(io.StringIO(answer.content.decode())))
    assert {row["what"] for row in rows} >= {"typed", "limit missed", "spot", "made"}
    assert any(row["note"].startswith("'=thrown") for row in rows)
    assert [row["taken_back_by"] for row in rows if row["taken_back_at"]] == ["cook there"]


def test_the_file_is_of_the_published_shape(cook, badly):
    answer = cook("GET", f"{badly}/record.json")
    told = Record.model_validate(cook("GET", f"{badly}/record").json())
    kept = Record.model_validate_json(answer.content)
    assert (kept.format, kept.version) == ("old-spoon/record", 1)
    assert [mark.id for mark in kept.batches[0].marks] == [mark.id for mark in told.batches[0].marks]
    assert kept.batches[0].formula == told.batches[0].formula
    written = json.dumps(Record.model_json_schema(), indent=2, sort_keys=True) + "\n"
    assert SCHEMA.read_text(encoding="utf-8") == written, "write docs/formats/record-1.schema.json again"


def words(answer, name):
    found = pypdfium2.PdfDocument(answer.content)
    if SHOWN:
        for number, page in enumerate(found):
            page.render(scale=1.4).to_pil().save(Path(SHOWN) / f"{name}-{number}.png")
    return " ".join(page.get_textpage().get_text_range() for page in found).replace("\r\n", " ")


def test_on_paper_a_batch(cook, badly):
    text = words(printed(cook, f"{badly}/record.pdf"), "record")
    for said in (
        "Bay leaf anglaise",
        "Allergens: egg, milk",
        "missed",
        "Decided: =thrown away",
        "taken back",
    ):
        assert said in text
    assert "informs and never clears" in text


def test_on_paper_the_units_and_the_clock_are_those_of_whoever_prints_it(cook, badly):
    plain = words(printed(cook, f"{badly}/record.pdf"), "record")
    cook("PUT", "/api/me/habits", {"units": "us", "decimal": "point", "clock": "12", "week": "sunday"})
    text = words(printed(cook, f"{badly}/record.pdf"), "record-us")
    assert "°C" in plain
    assert "°C" not in text
    assert re.search(r"\d+ °F", text)
    assert not re.search(r"\d [AP]M", plain)
    assert re.search(r"\d:\d\d [AP]M", text)
    assert not re.search(r"(?<![:\d])(1[3-9]|2[0-3]):\d\d", text)


def test_on_paper_a_day(cook, chef, badly, here):
    chef("PATCH", "/api/k/here", {"zone": "Pacific/Auckland"})
    day = cook("GET", "/api/k/here/closing").json()["day"]
    body = {"id": str(uuid.uuid4()), "day": day, "note": "the tub is thrown away tomorrow"}
    assert cook("POST", "/api/k/here/closing", body).status_code == 200
    text = words(printed(cook, "/api/k/here/day/record.pdf"), "day")
    assert "The day was closed" in text
    assert "the tub is thrown away tomorrow" in text
    assert "The shelf" in text
    told = json.loads(printed(cook, f"/api/k/here/day/record.json?day={day}").content)
    assert told["day"] == day
    assert told["allergens"] == ["egg", "milk"]
    with clock.at(clock.now() + timedelta(days=2)):
        empty = json.loads(printed(cook, "/api/k/here/day/record.json").content)
        assert (empty["batches"], empty["movements"]) == ([], [])
    assert cook("GET", "/api/k/here/day/record.json?day=2099-01-01").status_code == 422
    assert cook("GET", "/api/k/here/day/record.txt").status_code == 422


def test_for_vulnerable_guests_the_record_says_what_was_reached(cook, batch):
    path = f"/api/k/here/batches/{batch.pk}"
    cook("PUT", f"{path}/guests", {"vulnerable": True})
    cook("PUT", f"{path}/cooling", FRIDGE)
    [one] = cook("GET", f"{path}/record").json()["batches"]
    assert one["guests"]["met"] is None
    assert Batch.objects.get(pk=batch.pk).vulnerable


@pytest.mark.parametrize("starts", ["=", "+", "-", "@", "\t", "\r", "\n", "＝", "＋", "－", "＠"])
def test_no_cell_of_a_table_is_a_formula_of_a_spreadsheet(starts):
    assert inert(f'{starts}HYPERLINK("x")') == f'\'{starts}HYPERLINK("x")'
    assert inert("a plain note") == "a plain note"
    assert inert(-3.5) == -3.5
