"""The demo kitchen: made by the application's own actions, sensible by its own model."""

from __future__ import annotations

import json

import custard
import pytest
from kitchen.models import Kitchen
from oldspoon.demo.seed import FORTNIGHT, HERE, seed
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
    assert len(api("GET", "/api/k/tidemill-house/formulas").json()) == 9
    assert len(api("GET", "/api/k/tidemill-house/log").json()["lines"]) == len(FORTNIGHT)


@pytest.mark.parametrize("content", FORMULAS, ids=lambda content: content["name"])
def test_each_formula_stops_below_curdling(content):
    result = custard.assess(custard.read_formula(content), altitude_m=12)
    assert result.stop.curdled < 0.05
    assert result.hot.word in ("nappe", "heavy coat", "spoonable", "pipeable")
    if content["family"] in ("pastry-cream", "cold-start-pudding", "pouring-custard"):
        assert result.stop.boiled
    else:
        assert result.stop.at_c < result.window.curdles_c
