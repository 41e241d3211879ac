"""The shelf: put away, used, promised, split, churned, frozen, thrown; never below nothing, and traced."""

from __future__ import annotations

import csv
import io
import json
import uuid
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from pathlib import Path

import pytest
from book import actions as book
from common import clock
from django.db import IntegrityError, connection, connections, transaction
from kitchen.models import Kitchen
from shelf import actions as shelf
from shelf.models import Kind, Movement, Tub
from shelf.schemas import Closing
from shelf.stock import Stock
from stove import actions as stove

from tests.conftest import ANGLAISE, draft, formula_of, logged_in, make_kitchen, mark

SCHEMA = Path(__file__).parents[2] / "docs" / "formats" / "stock-1.schema.json"
BASE = draft(name="Barley ice base", family="ice-base")


def put(api, batch, **closing):
    body = {"verdict": "good", **closing}
    answer = api("POST", f"/api/k/here/batches/{batch.pk}/close", body)
    assert answer.status_code == 200, answer.content
    return Tub.objects.filter(batch=batch, what="sauce").first()


def do(api, tub, kind, **more):
    body = {"id": str(uuid.uuid4()), "kind": kind, **more}
    return api("POST", f"/api/k/here/tubs/{tub.pk}/moves", body)


def left(tub):
    return float(Tub.objects.get(pk=tub.pk).left_g)


@pytest.fixture
def tub(cook, batch):
    return put(cook, batch, kept_g=600)


def start(here, content):
    version = book.add(here["chef"], formula_of(content))
    return stove.start(here["cook"], version.formula_id, 1, formula_of(content))


def test_closing_puts_away_what_is_kept_and_the_whites(cook, batch):
    tub = put(cook, batch)
    plan = cook("GET", f"/api/k/here/batches/{batch.pk}").json()["plan"]
    assert float(tub.left_g) == pytest.approx(plan["yield_g"], abs=0.06)
    whites = Tub.objects.get(batch=batch, what="whites")
    assert float(whites.left_g) == pytest.approx(6 * 33, rel=0.1)
    shelf_ = cook("GET", "/api/k/here/shelf").json()
    assert [one["what"] for one in shelf_["tubs"]] == ["whites", "sauce"]
    assert shelf_["totals"]["fridge_g"] == float(tub.left_g)
    line = shelf_["tubs"][1]
    assert line["allergens"] == ["milk", "egg"]
    assert line["use_by_why"].startswith("usual for")
    assert not line["past"]


@pytest.mark.parametrize(
    ("closing", "status", "tubs"),
    [
        ({"verdict": "discarded"}, 200, {"whites"}),
        ({"verdict": "good", "kept_g": 0, "whites_g": 0}, 200, set()),
        ({"verdict": "good", "kept_g": 5000}, 422, set()),
        ({"verdict": "good", "kept_g": -1}, 422, set()),
        ({"verdict": "usable", "yield_g": 500, "kept_g": 500}, 200, {"sauce", "whites"}),
    ],
)
def test_what_is_kept_is_what_was_said(cook, batch, closing, status, tubs):
    answer = cook("POST", f"/api/k/here/batches/{batch.pk}/close", closing)
    assert answer.status_code == status
    assert {tub.what for tub in Tub.objects.filter(batch=batch)} == tubs
    if status == 422:
        assert answer.json()["fields"][0]["field"] == "kept_g"


def test_a_rehearsal_puts_nothing_away(here, version, cook):
    batch = stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE), pace=20)
    path = f"/api/k/here/batches/{batch.pk}/close"
    assert cook("POST", path, {"verdict": "good", "kept_g": 100}).status_code == 422
    assert cook("POST", path, {"verdict": "good"}).status_code == 200
    assert not Tub.objects.exists()


def test_a_batch_opened_and_closed_again_is_put_away_once(cook, batch, tub):
    cook("POST", f"/api/k/here/batches/{batch.pk}/reopen")
    put(cook, batch, kept_g=600)
    assert Tub.objects.filter(batch=batch, what="sauce").count() == 1
    cook("POST", f"/api/k/here/batches/{batch.pk}/reopen")
    put(cook, batch, verdict="discarded")
    assert left(tub) == 0


def test_using_takes_away_and_a_movement_sent_twice_counts_once(cook, tub):
    body = {"id": str(uuid.uuid4()), "kind": "used", "grams": 150.5, "to": "poached quince"}
    for _ in range(2):
        assert cook("POST", f"/api/k/here/tubs/{tub.pk}/moves", body).status_code == 200
    assert left(tub) == 449.5
    told = cook("GET", f"/api/k/here/tubs/{tub.pk}").json()
    assert [one["kind"] for one in told["movements"]] == ["used", "made"]
    assert told["tub"]["use_by_why"] == "opened"


def test_never_more_than_there_is(cook, tub):
    answer = do(cook, tub, "used", grams=700, to="trifle")
    assert answer.status_code == 409
    assert "Only {600 g} are left" in answer.json()["detail"]
    with pytest.raises(IntegrityError, match="never_less"), transaction.atomic():
        Tub.objects.filter(pk=tub.pk).update(left_g=-1)
    with pytest.raises(IntegrityError, match="never_less"), transaction.atomic():
        Movement.objects.create(
            id=uuid.uuid4(),
            kitchen=tub.kitchen,
            tub=tub,
            kind=Kind.USED,
            at=clock.now(),
            by=tub.batch.started_by,
            change_g=-601,
        )


@pytest.mark.parametrize(
    ("body", "said"),
    [
        ({"kind": "used", "grams": 10}, "for what"),
        ({"kind": "used", "to": "x"}, "grams"),
        ({"kind": "used", "grams": 0, "to": "x"}, "more than nothing"),
        ({"kind": "thrown"}, "why"),
        ({"kind": "warm"}, "celsius"),
        ({"kind": "undone"}, "which movement"),
        ({"kind": "made"}, "kind"),
        ({"kind": "used", "grams": 5, "to": "x", "anyway": True}, "why"),
    ],
)
def test_half_said_is_refused_in_words(cook, tub, body, said):
    answer = cook("POST", f"/api/k/here/tubs/{tub.pk}/moves", {"id": str(uuid.uuid4()), **body})
    assert answer.status_code == 422
    assert said in answer.content.decode()
    assert left(tub) == 600


def test_what_is_promised_is_nobody_else_s(cook, tub):
    path = f"/api/k/here/tubs/{tub.pk}/promises"
    promised = cook("POST", path, {"grams": 400, "dish": "trifle"}).json()["tub"]
    assert promised["promised_g"] == 400
    assert cook("POST", path, {"grams": 300, "dish": "tart"}).status_code == 409
    refused = do(cook, tub, "used", grams=300, to="tart")
    assert refused.status_code == 409
    assert "{200 g} are free" in refused.json()["detail"]
    key = promised["promises"][0]["id"]
    kept = do(cook, tub, "used", grams=380, promise_id=key).json()
    assert kept["movements"][0]["to"] == "trifle"
    assert kept["tub"]["promised_g"] == 0
    assert left(tub) == 220
    # Taken back, the promise stands again.
    back = do(cook, tub, "undone", corrects=kept["movements"][0]["id"]).json()
    assert (back["tub"]["promised_g"], back["tub"]["left_g"]) == (400, 600)
    gone = cook("DELETE", f"{path}/{key}").json()["tub"]
    assert (gone["promised_g"], gone["promises"]) == (0, [])


def test_thrown_away_with_a_reason_lets_its_promises_go(cook, tub):
    cook("POST", f"/api/k/here/tubs/{tub.pk}/promises", {"grams": 400, "dish": "trifle"})
    assert do(cook, tub, "thrown", note="the fridge stood open").status_code == 200
    assert left(tub) == 0
    assert cook("GET", "/api/k/here/shelf?place=fridge").json()["tubs"] == []


def test_frozen_it_keeps_longer_and_thawed_a_day(cook, tub):
    made = Tub.objects.get(pk=tub.pk)
    frozen = do(cook, tub, "frozen").json()["tub"]
    assert (frozen["place"], frozen["use_by_why"], frozen["freezes"]) == ("frozen", "frozen", False)
    assert frozen["use_by"] > made.use_by.isoformat()
    assert do(cook, tub, "frozen").status_code == 409
    later = clock.now() + timedelta(days=20)
    with clock.at(later):
        out = do(cook, tub, "out").json()["tub"]
        assert (out["place"], out["use_by_why"]) == ("thawing", "thawed")
        thawed = do(cook, tub, "thawed").json()["tub"]
        assert thawed["place"] == "fridge"
        assert do(cook, tub, "frozen").status_code == 409
    assert Tub.objects.get(pk=tub.pk).use_by == later + timedelta(days=1)


def test_past_its_time_it_is_used_only_with_a_reason(cook, tub):
    with clock.at(clock.now() + timedelta(days=4)):
        refused = do(cook, tub, "used", grams=10, to="butter cream")
        assert (refused.status_code, refused.json()["type"]) == (409, "past")
        assert cook("GET", "/api/k/here/shelf").json()["totals"]["past"] >= 1
        assert (
            do(cook, tub, "used", grams=10, to="bin test", anyway=True, note="tasted by the chef").status_code
            == 200
        )


def test_kept_warm_it_has_hours(cook, tub):
    warm = do(cook, tub, "warm", celsius=64).json()["tub"]
    assert warm["use_by_why"] == "kept warm"
    assert clock.now() + timedelta(hours=3) > Tub.objects.get(pk=tub.pk).use_by
    assert do(cook, tub, "warm", celsius=50).json()["tub"]["use_by_why"].startswith("kept at less than")


def test_split_off_it_is_as_old_and_in_the_same_state(cook, tub):
    do(cook, tub, "opened")
    do(cook, tub, "split", grams=250, to="small tub")
    other = Tub.objects.get(parent=tub)
    whole = Tub.objects.get(pk=tub.pk)
    assert (float(other.left_g), float(whole.left_g), other.part) == (250, 350, 2)
    assert (other.made_at, other.opened_at, other.use_by) == (whole.made_at, whole.opened_at, whole.use_by)
    assert do(cook, tub, "split", grams=400).status_code == 409
    assert Tub.objects.filter(parent=tub).count() == 1


def test_a_base_says_from_when_it_may_be_churned(here, cook):
    base = put(cook, start(here, BASE), kept_g=500)
    assert base.ready_at > clock.now() + timedelta(hours=3)
    refused = do(cook, base, "churned", grams=500)
    assert (refused.status_code, refused.json()["type"]) == (409, "early")
    with clock.at(clock.now() + timedelta(hours=5)):
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


def test_weighed_again_and_taken_back_stay_in_the_record(cook, tub):
    counted = do(cook, tub, "counted", grams=580).json()
    assert counted["movements"][0]["change_g"] == -20
    back = do(cook, tub, "undone", corrects=counted["movements"][0]["id"]).json()
    assert left(tub) == 600
    assert [one["undone"] for one in back["movements"]] == [False, True, False]
    assert do(cook, tub, "undone", corrects=counted["movements"][0]["id"]).status_code == 409
    made = back["movements"][-1]["id"]
    assert do(cook, tub, "undone", corrects=made).status_code == 409


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
    assert SCHEMA.read_text(encoding="utf-8") == written, "write docs/formats/stock-1.schema.json anew"
    rows = list(csv.DictReader(io.StringIO(cook("GET", "/api/k/here/stock.csv").content.decode())))
    assert {row["what"] for row in rows} == {"sauce", "whites"}
    assert "50 g =plum cobbler" in [row["promised_to"] for row in rows]


def test_the_shelf_is_read_in_few_queries(cook, tub, django_assert_max_num_queries):
    with django_assert_max_num_queries(12):
        cook("GET", "/api/k/here/shelf")


@pytest.mark.django_db(transaction=True)
def test_two_who_draw_the_last_of_it_at_once_never_draw_it_twice():
    actors = make_kitchen("here", "The kitchen here")
    version = book.add(actors["chef"], formula_of(ANGLAISE))
    batch = stove.start(actors["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    shelf.close(actors["cook"], batch.pk, Closing(verdict="good", kept_g=500, whites_g=0))
    tub = Tub.objects.get()
    hands = 12

    def draw(number):
        api = logged_in("here-cook" if number % 2 else "here-chef")
        try:
            return do(api, tub, "used", grams=90, to=f"plate {number}").status_code
        finally:
            connections.close_all()

    with ThreadPoolExecutor(hands) as pool:
        came = list(pool.map(draw, range(hands)))
    assert sorted(came) == [200] * 5 + [409] * (hands - 5)
    tub.refresh_from_db()
    assert float(tub.left_g) == 50
    assert sum(one.change_g for one in tub.movements.all()) == tub.left_g


@pytest.mark.django_db(transaction=True)
def test_past_the_lock_the_database_itself_refuses():
    """Two transactions that take no lock of ours: the second finds what the first has left."""
    actors = make_kitchen("here", "The kitchen here")
    version = book.add(actors["chef"], formula_of(ANGLAISE))
    batch = stove.start(actors["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    shelf.close(actors["cook"], batch.pk, Closing(verdict="good", kept_g=100, whites_g=0))
    tub = Tub.objects.get()
    values = {"tub": tub, "kitchen": Kitchen.objects.get(), "kind": "used", "by": actors["cook"].user}

    def draw(_):
        try:
            Movement.objects.create(id=uuid.uuid4(), at=clock.now(), change_g=-60, **values)
        except IntegrityError:
            return "refused"
        finally:
            connection.close()
        return "drawn"

    with ThreadPoolExecutor(6) as pool:
        came = sorted(pool.map(draw, range(6)))
    assert came == ["drawn"] + ["refused"] * 5


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
    stove.close(here["cook"], open_.pk, "discarded", "")
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
