"""The demo kitchen: made by the application's own actions, sensible by its own model."""

from __future__ import annotations

import json

import custard
import pytest
from kitchen.models import Hob, Kitchen
from oldspoon.demo.fortnight import FORTNIGHT, RINGS, cooked
from oldspoon.demo.seed import HERE, seed
from stove.models import Batch

from tests.conftest import Api

FORMULAS = json.loads((HERE / "formulas.json").read_text(encoding="utf-8"))


@pytest.mark.django_db
def test_it_is_made_once():
    assert seed()
    assert not seed()
    assert Kitchen.objects.count() == 1
    assert Batch.objects.count() == len(FORTNIGHT)
    api = Api()
    assert api.log_in("pastry", "nappe-at-82").status_code == 200
    assert len(api("GET", "/api/k/tidemill-house/formulas").json()["lines"]) == 10
    assert len(api("GET", "/api/k/tidemill-house/log").json()["lines"]) == len(FORTNIGHT)
    for batch in Batch.objects.all():
        live = api("GET", f"/api/k/tidemill-house/batches/{batch.pk}/live").json()
        assert len(live["past"]["c"]) > 20
        lifted = batch.marks.get(kind="off-heat")
        assert live["past"]["ago_s"][0] < (lifted.at - batch.closed_at).total_seconds() < 0
        assert 70 < lifted.temperature_c < 101
    cups = next(
        one
        for one in api("GET", "/api/k/tidemill-house/log").json()["lines"]
        if one["family"] == "baked-custard"
    )
    assert (cups["coat"], cups["planned_coat"]) == ("wobbles like a coin", "wobbles like a coin")
    assert cups["lifted_c"] == pytest.approx(cups["planned_stop_c"], abs=1.5)
    front = Hob.objects.get(name="front ring")
    assert front.power_spread < custard.stove.UNKNOWN_POWER
    ring = next(ring for ring in RINGS if ring.name == front.name)
    taken = custard.process.Stove(power_w=ring.power_w)
    anglaise = custard.mix(custard.read_formula(FORMULAS[0]).in_the_pan())
    assert front.power_w == pytest.approx(
        custard.process.StoveRehearsal(anglaise, taken, 20, ring.seed).power_w, rel=0.15
    )


def test_the_book_has_every_way_of_joining():
    assert {line["when"] for formula in FORMULAS for line in formula["lines"]} == set(custard.larder.JOINS)


def test_the_fortnight_teaches():
    """What went wrong is seen on spoon and sieve; what went well is as planned, most of the time."""
    came = {tale: cooked_as_told(tale) for tale in FORTNIGHT}
    for tale, one in came.items():
        assert (one.sieve == "many bits") == (tale.verdict == "discarded"), tale
    early = next(tale for tale in FORTNIGHT if tale.note.startswith("stopped too early"))
    assert came[early].coat in ("runs off", "thin coat")


def cooked_as_told(tale):
    formula = custard.read_formula(next(one for one in FORMULAS if one["name"] == tale.formula))
    result = custard.assess(formula, custard.Conditions(altitude_m=12))
    stages = custard.stove.stages(result)
    return cooked(tale, result, next(one.at_c for one in stages if one.stage == "temper"))


@pytest.mark.parametrize("content", FORMULAS, ids=lambda content: content["name"])
def test_each_formula_stops_below_curdling(content):
    result = custard.assess(custard.read_formula(content), custard.Conditions(altitude_m=12))
    assert result.stop.curdled < 0.05
    assert result.hot.word in ("nappe", "heavy coat", "spoonable", "pipeable")
    if content["family"] in ("pastry-cream", "cold-start-pudding", "pouring-custard"):
        assert result.stop.boiled
    else:
        assert result.stop.at_c < result.window.curdles_c
