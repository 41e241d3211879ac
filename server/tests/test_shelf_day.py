"""The shelf over a day: churning, whites, chains and allergens, lists and files, the day closed, guests."""

from __future__ import annotations

import csv
import io
import json
import uuid
from datetime import timedelta
from pathlib import Path

from book import actions as book
from common import clock
from devices import actions as devices
from shelf.models import Tub
from shelf.stock import Stock
from stove import actions as stove
from stove import setting_up
from stove.schemas import EquipmentWanted

from tests.conftest import (
    ANGLAISE,
    close,
    do,
    draft,
    formula_of,
    logged_in,
    mark,
    put,
)

SCHEMA = Path(__file__).parents[2] / "docs" / "formats" / "stock-1.schema.json"
BASE = draft(name="Barley ice base", family="ice-base")
FLOUR = {"ingredient": "wheat-flour", "amount": "20 g"}


def left(tub):
    return float(Tub.objects.get(pk=tub.pk).left_g)


def start(here, content):
    version = book.add(here["chef"], formula_of(content))
    return stove.start(here["cook"], version.formula_id, 1, formula_of(content))


def test_a_base_says_from_when_it_may_be_churned(here, cook):
    base = put(cook, start(here, BASE), kept_g=500)
    assert base.ready_at > clock.now() + timedelta(hours=3)
    refused = do(cook, base, "churned", grams=500)
    assert (refused.status_code, refused.json()["type"]) == (409, "early")
    with clock.at(clock.now() + timedelta(hours=9)):
        assert do(cook, base, "churned", grams=500).status_code == 200
    ice = Tub.objects.get(parent=base)
    assert (ice.what, ice.place, ice.use_by_why) == ("churned", "frozen", "frozen")
    assert left(base) == 0
    assert cook("GET", "/api/k/here/shelf?place=frozen").json()["tubs"][0]["name"].endswith("churned")


def test_only_a_base_is_churned(cook, tub):
    assert do(cook, tub, "churned", grams=100).status_code == 409


def test_a_chain_is_followed_both_ways(here, cook, version, batch):
    custard, base = put(cook, batch, kept_g=600), start(here, BASE)
    assert do(cook, custard, "used", grams=200, into_batch_id=base.pk).status_code == 200
    ice = put(cook, base, kept_g=500)
    trifle = stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    do(cook, ice, "used", grams=100, into_batch_id=trifle.pk)
    do(cook, ice, "used", grams=50, to="malted ice, table 4")
    went = cook("GET", f"/api/k/here/batches/{batch.pk}/trace").json()
    assert [(one["grams"], one["steps"]) for one in went["went_to"]] == [(200, 1), (100, 2), (50, 2)]
    assert {one["batch_id"] for one in went["left"]} == {batch.pk, base.pk}
    came = cook("GET", f"/api/k/here/batches/{trifle.pk}/trace").json()
    assert [one["batch_id"] for one in came["came_from"]] == [base.pk, batch.pk]
    closed = do(cook, custard, "used", grams=5, into_batch_id=base.pk)
    assert closed.status_code == 422
    assert do(cook, ice, "used", grams=5, into_batch_id=base.pk).status_code == 422


def test_whites_are_counted_and_have_uses(cook, batch):
    put(cook, batch, whites_g=200)
    tub = Tub.objects.get(what="whites")
    do(cook, tub, "used", grams=80, to="meringue")
    do(cook, tub, "thrown", grams=20, note="spilt")
    told = cook("GET", "/api/k/here/whites").json()
    assert (told["made_g"], told["used_g"], told["thrown_g"], told["there_g"]) == (200, 80, 20, 100)
    assert told["uses"][0]["sugar_g"] == 200
    do(cook, tub, "frozen")
    assert cook("GET", "/api/k/here/whites").json()["frozen_g"] == 100


def test_a_shelf_is_searched_and_paged(cook, here, version):
    rows = []
    for number in range(3):
        batch = stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
        rows.append(put(cook, batch, kept_g=100 + number, whites_g=0))
    cook("POST", f"/api/k/here/tubs/{rows[1].pk}/promises", {"grams": 50, "dish": "plum cobbler"})
    cook("POST", f"/api/k/here/tubs/{rows[1].pk}/promises", {"grams": 20, "dish": "cobbler, staff"})
    found = cook("GET", "/api/k/here/shelf?q=cobbler").json()
    assert [one["id"] for one in found["tubs"]] == [rows[1].pk]
    assert len(cook("GET", "/api/k/here/shelf?q=bay").json()["tubs"]) == 3
    assert cook("GET", f"/api/k/here/shelf?q={rows[2].batch.number}").json()["tubs"][0]["id"] == rows[2].pk
    assert cook("GET", "/api/k/here/shelf?after=nonsense").status_code == 422


def test_the_shelf_as_a_file(cook, tub):
    cook("POST", f"/api/k/here/tubs/{tub.pk}/promises", {"grams": 50, "dish": "=plum cobbler"})
    do(cook, tub, "used", grams=100, to="quince")
    kept = Stock.model_validate_json(cook("GET", "/api/k/here/stock.json").content)
    assert [one.left_g for one in kept.tubs if one.what == "sauce"] == [500]
    assert [one.kind for one in kept.movements if one.tub_id == tub.pk] == ["made", "used"]
    written = json.dumps(Stock.model_json_schema(), indent=2, sort_keys=True) + "\n"
    assert SCHEMA.read_text(encoding="utf-8") == written, "write docs/formats/stock-1.schema.json again"
    rows = list(csv.DictReader(io.StringIO(cook("GET", "/api/k/here/stock.csv").content.decode())))
    assert {row["what"] for row in rows} == {"sauce", "whites"}
    assert "50 g =plum cobbler" in [row["promised_to"] for row in rows]


def test_the_shelf_is_read_in_few_queries(cook, tub, django_assert_max_num_queries):
    with django_assert_max_num_queries(12):
        cook("GET", "/api/k/here/shelf")


def test_the_day_is_closed_with_a_list_and_signed(cook, chef, here, version, batch):
    tub = put(cook, batch, kept_g=300, whites_g=0)
    open_ = stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    path = "/api/k/here/closing"
    told = cook("GET", path).json()
    kinds = [(one["kind"], one["must"]) for one in told["tasks"]]
    assert ("open", True) in kinds
    assert ("label", True) in kinds
    assert ("cover", False) in kinds
    assert told["allergens"] == ["egg", "milk"]
    body = {"id": str(uuid.uuid4()), "day": told["day"]}
    refused = cook("POST", path, body)
    assert refused.json()["fields"][0]["field"] == "note"
    signed = cook("POST", path, {**body, "note": "the open one is the night cook's"}).json()["signed"]
    assert [(one["by"], one["left"]) for one in signed] == [("cook there", 2)]
    assert len(cook("POST", path, {**body, "note": "again"}).json()["signed"]) == 1
    do(cook, tub, "labelled")
    close(here["cook"], open_, verdict="discarded", whites_g=0)
    assert not any(one["must"] for one in cook("GET", path).json()["tasks"])
    assert cook("GET", f"{path}?day=2099-01-01").status_code == 422
    with clock.at(clock.now() + timedelta(days=4)):
        assert "throw" in [one["kind"] for one in cook("GET", path).json()["tasks"]]


def test_vulnerable_guests_ask_and_are_told(cook, batch):
    path = f"/api/k/here/batches/{batch.pk}"
    assert cook("PUT", f"{path}/guests", {"vulnerable": True}).json()["vulnerable"]
    asked = cook("GET", f"{path}/guests").json()
    assert (asked["asked_logs"], asked["met"]) == (6, None)
    assert "pasteurised egg" in asked["say"]
    cook("POST", f"{path}/marks", mark("pasteurised", "weigh", what="yes"))
    told = cook("GET", f"{path}/guests").json()
    assert told["met"]
    assert "never clears" in told["say"]
    put(cook, batch, kept_g=100)
    assert cook("GET", "/api/k/here/shelf").json()["tubs"][0]["vulnerable"]
    assert not Tub.objects.filter(what="whites").exists()


def test_allergens_go_with_it_through_every_batch(here, cook, version, batch):
    """What went into what went into it stands on list, tub, label and record."""
    floury = start(here, draft(name="Floury", lines=[*ANGLAISE["lines"], FLOUR]))
    middle, last = (stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE)) for _ in range(2))
    drawn = do(cook, put(cook, floury, kept_g=300), "used", grams=50, into_batch_id=middle.pk)
    assert drawn.status_code == 200
    assert "gluten (wheat)" in cook("GET", f"/api/k/here/batches/{middle.pk}").json()["allergens"]
    do(cook, put(cook, middle, kept_g=300), "used", grams=50, into_batch_id=last.pk)
    listed = {one["id"]: one["allergens"] for one in cook("GET", "/api/k/here/batches").json()}
    assert "gluten (wheat)" in listed[last.pk]
    assert "gluten (wheat)" not in listed[batch.pk]
    tub = put(cook, last, kept_g=300)
    [label] = cook("GET", f"/api/k/here/labels?tub={tub.pk}").json()
    assert label["allergens"] == "milk, egg, gluten (wheat)"
    [record] = cook("GET", f"/api/k/here/batches/{last.pk}/record").json()["batches"]
    assert record["allergens"] == ["milk", "egg", "gluten (wheat)"]


def test_taken_back_what_went_in_its_allergens_go_too(here, cook, version, batch):
    floury = start(here, draft(name="Floury", lines=[*ANGLAISE["lines"], FLOUR]))
    tub = put(cook, floury, kept_g=300)
    drawn = do(cook, tub, "used", grams=50, into_batch_id=batch.pk).json()["movements"][0]
    do(cook, tub, "undone", corrects=drawn["id"])
    assert cook("GET", f"/api/k/here/batches/{batch.pk}").json()["allergens"] == ["milk", "egg"]


def test_a_base_whose_cooling_nobody_followed_waits_for_longer(here, cook):
    base = put(cook, start(here, BASE), kept_g=500)
    assert base.ready_at > clock.now() + timedelta(hours=7)


def test_a_probe_goes_on_after_its_batch_was_closed_and_opened_again(here, cook, batch):
    """What happened to the batch as a whole is among the marks that a stand-in is told."""
    token = devices.new_token()
    probe = devices.register(here["chef"], "silver probe", token, "probe")
    put(cook, batch)
    cook("POST", f"/api/k/here/batches/{batch.pk}/reopen")
    setting_up.set_up(here["cook"], batch.pk, EquipmentWanted(probe_id=probe.pk))
    told = cook.client.get("/api/device/batch", headers={"Authorization": f"Bearer {token}"})
    assert told.status_code == 200
    assert [one["kind"] for one in told.json()["marks"]] == ["decided", "closed", "reopened"]


def test_a_day_that_is_over_shows_who_signed_it_and_no_list(cook, tub):
    yesterday = f"{clock.now() - timedelta(days=1):%Y-%m-%d}"
    told = cook("GET", f"/api/k/here/closing?day={yesterday}").json()
    assert (told["tasks"], told["signed"]) == ([], [])
    answer = cook("POST", "/api/k/here/closing", {"id": str(uuid.uuid4()), "day": yesterday, "note": "late"})
    assert answer.json()["fields"][0]["field"] == "day"


def test_a_signature_under_another_kitchen_s_id_is_told(cook, there, tub):
    key, day = str(uuid.uuid4()), f"{clock.now():%Y-%m-%d}"
    elsewhere = logged_in("there-cook")
    assert elsewhere("POST", "/api/k/there/closing", {"id": key, "day": day}).status_code == 200
    assert cook("POST", "/api/k/here/closing", {"id": key, "day": day, "note": "x"}).status_code == 409
