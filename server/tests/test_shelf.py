"""Tubs: put away, used, promised, split, frozen, thrown away; never below nothing, and taken back."""

from __future__ import annotations

import uuid
from datetime import timedelta

import pytest
from book import actions as book
from common import clock
from devices import actions as devices
from devices.schemas import NewReading
from django.db import IntegrityError, transaction
from shelf.models import Movement, MovementKind, Tub
from stove import actions as stove
from stove import setting_up
from stove.schemas import EquipmentWanted

from tests.conftest import (
    ANGLAISE,
    do,
    formula_of,
    put,
)


def left(tub):
    return float(Tub.objects.get(pk=tub.pk).left_g)


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


def test_a_discarded_batch_says_so_and_keeps_nowhere(cook, batch):
    """It was to be labelled and used within three days, in the largest type of its page."""
    path = f"/api/k/here/batches/{batch.pk}/life"
    cook("POST", f"/api/k/here/batches/{batch.pk}/decision", {"reason": "read by hand"})
    assert cook("GET", path).json()["say"].startswith("Label it")
    assert put(cook, batch, verdict="discarded") is None
    life = cook("GET", path).json()
    assert life["say"] == "Discarded: none of it is used"
    assert [life[name] for name in ("days", "chilled_h", "freezes_days", "warm_h", "lukewarm_h")] == [0] * 5


CUPS = {
    "family": "baked-custard",
    "lines": [
        {"ingredient": "whole-milk", "amount": "500 ml"},
        {"ingredient": "whole-egg", "amount": "4"},
        {"ingredient": "white-sugar", "amount": "90 g"},
    ],
}


@pytest.mark.parametrize("opened_again", [False, True])
def test_cake_in_the_cups_is_on_the_label_and_found(here, cook, opened_again):
    """Chosen at the oven and nowhere in the formula: its gluten was on no label."""
    content = {**ANGLAISE, **CUPS}
    version = book.add(here["chef"], formula_of(content))
    batch = stove.start(here["cook"], version.formula_id, 1, formula_of(content))
    path = f"/api/k/here/batches/{batch.pk}"
    if opened_again:
        assert put(cook, batch, kept_g=400) is not None
        assert cook("POST", f"{path}/reopen").status_code == 200
    cups = {"count": 6, "cup_ml": 120, "solid": "cake-crumbs", "solid_share": 0.2}
    assert cook("PUT", f"{path}/setup", {"cups": cups}).status_code == 200
    assert "gluten (wheat)" in cook("GET", path).json()["allergens"]
    tub = put(cook, batch, **({} if opened_again else {"kept_g": 400}))
    assert {"gluten (wheat)", "milk", "egg"} <= set(Tub.objects.get(pk=tub.pk).allergens)
    found = cook("GET", "/api/k/here/shelf?q=gluten").json()
    assert [one["id"] for one in found["tubs"]] == [tub.pk]
    label = cook("GET", f"/api/k/here/labels?tub={tub.pk}").json()
    assert "gluten (wheat)" in str(label)


def test_a_rehearsal_puts_nothing_away(here, version, cook):
    batch = stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE), pace=20)
    path = f"/api/k/here/batches/{batch.pk}/close"
    assert cook("POST", path, {"verdict": "good", "kept_g": 100}).status_code == 422
    assert cook("POST", path, {"verdict": "good"}).status_code == 200
    assert not Tub.objects.exists()


def test_a_batch_opened_and_closed_again_is_put_away_once(cook, batch, tub):
    cook("POST", f"/api/k/here/batches/{batch.pk}/reopen")
    path = f"/api/k/here/batches/{batch.pk}/close"
    refused = cook("POST", path, {"verdict": "good", "kept_g": 600})
    assert refused.json()["fields"][0]["field"] == "kept_g"
    put(cook, batch)
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
            kind=MovementKind.USED,
            at=clock.now(),
            by=tub.batch.started_by,
            change_g=-601,
        )


@pytest.mark.parametrize(
    ("body", "field", "said"),
    [
        ({"kind": "used", "grams": 10}, "to", "for what"),
        ({"kind": "used", "to": "x"}, "grams", "how many grams"),
        ({"kind": "used", "grams": 0, "to": "x"}, "grams", "more than nothing"),
        ({"kind": "used", "grams": 0.04, "to": "x"}, "grams", "at least 0.1 g"),
        ({"kind": "split"}, "grams", "how many grams"),
        ({"kind": "thrown"}, "note", "why"),
        ({"kind": "warm"}, "celsius", "how warm"),
        ({"kind": "undone"}, "corrects", "which movement"),
        ({"kind": "made"}, "kind", "must be"),
        ({"kind": "used", "grams": 5, "to": "x", "anyway": True}, "note", "why"),
        ({"kind": "used", "grams": 5, "to": "x", "into_batch_id": 10**9}, "into_batch_id", "not a batch"),
        ({"kind": "used", "grams": 5, "promise_id": 10**9}, "promise_id", "not a promise"),
        ({"kind": "opened", "at": "2001-01-01T00:00:00Z"}, "at", "before it was made"),
        ({"kind": "opened", "at": "2099-01-01T00:00:00Z"}, "at", "not come yet"),
    ],
)
def test_half_said_is_refused_by_its_field(cook, tub, body, field, said):
    answer = cook("POST", f"/api/k/here/tubs/{tub.pk}/moves", {"id": str(uuid.uuid4()), **body})
    assert answer.status_code == 422
    [one] = answer.json()["fields"]
    assert one["field"] == field
    assert said in one["message"]
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


def test_weighed_again_and_taken_back_stay_in_the_record(cook, tub):
    counted = do(cook, tub, "counted", grams=580).json()
    assert counted["movements"][0]["change_g"] == -20
    back = do(cook, tub, "undone", corrects=counted["movements"][0]["id"]).json()
    assert left(tub) == 600
    assert [one["undone"] for one in back["movements"]] == [False, True, False]
    assert do(cook, tub, "undone", corrects=counted["movements"][0]["id"]).status_code == 409
    made = back["movements"][-1]["id"]
    assert do(cook, tub, "undone", corrects=made).status_code == 409


def test_the_least_that_is_promised_is_a_tenth_of_a_gram(cook, tub):
    path = f"/api/k/here/tubs/{tub.pk}/promises"
    assert cook("POST", path, {"grams": 0.04, "dish": "trifle"}).status_code == 422


def test_closed_again_a_weight_for_what_is_there_is_refused_and_what_was_not_kept_is_put_away(cook, batch):
    path = f"/api/k/here/batches/{batch.pk}"
    put(cook, batch, kept_g=0)
    cook("POST", f"{path}/reopen")
    refused = cook("POST", f"{path}/close", {"verdict": "good", "whites_g": 50})
    assert refused.json()["fields"][0]["field"] == "whites_g"
    assert cook("GET", path).json()["closed_at"] is None
    assert left(put(cook, batch, kept_g=120)) == 120
    assert Tub.objects.filter(batch=batch, what="whites").count() == 1


def test_thrown_away_by_mistake_its_promises_stand_again(cook, tub):
    cook("POST", f"/api/k/here/tubs/{tub.pk}/promises", {"grams": 400, "dish": "trifle"})
    thrown = do(cook, tub, "thrown", note="the wrong tub").json()["movements"][0]
    back = do(cook, tub, "undone", corrects=thrown["id"]).json()["tub"]
    assert (back["left_g"], back["promised_g"]) == (600, 400)
    assert [one["dish"] for one in back["promises"]] == ["trifle"]


def test_where_nobody_marked_it_its_life_is_counted_from_the_earliest_it_can_have_been(cook, batch):
    later = clock.now() + timedelta(hours=9)
    with clock.at(later):
        tub = put(cook, batch)
    assert tub.made_at == batch.started_at
    assert "decided by" in tub.use_by_why


def test_a_batch_whose_probe_never_read_it_hot_keeps_a_day_at_most(here, cook, batch):
    probe = devices.register(here["chef"], "silver probe", devices.new_token(), "probe")
    setting_up.set_up(here["cook"], batch.pk, EquipmentWanted(probe_id=probe.pk))
    later = clock.now() + timedelta(minutes=5)
    with clock.at(later):
        devices.take_readings(
            probe, [NewReading(at=later - timedelta(seconds=n), celsius=64) for n in range(9)]
        )
        tub = put(cook, batch, kept_g=300)
    assert "less than {70 C}" in tub.use_by_why
    assert tub.use_by < later + timedelta(hours=12)
