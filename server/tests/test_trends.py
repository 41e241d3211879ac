"""Months at a glance, and versions with what came of them."""

from __future__ import annotations

from datetime import timedelta

import pytest
from common import clock
from kitchen import actions as larder
from stove import actions as stove
from stove.models import Batch

from tests.conftest import ANGLAISE, close, formula_of, logged_in, rewrite


def ended(actors, version, days_ago, verdict="good", over_k=0.5, watts=None, hob=None, pace=1) -> Batch:
    batch = stove.start(actors["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    close(actors["cook"], batch, verdict=verdict)
    began = clock.now() - timedelta(days=days_ago)
    planned = batch.planned_c["cook"]
    rewrite(
        Batch.objects.filter(pk=batch.pk),
        started_at=began,
        closed_at=began + timedelta(minutes=50),
        left_c={"cook": planned + over_k},
        fitted_w=watts,
        hob=hob,
        pace=pace,
    )
    return batch


def test_months_at_a_glance(here, there, version, cook):
    hob = larder.add_hob(here["chef"], "left ring", 400, over_steam=False)
    ended(here, version, 70, watts=400, hob=hob)
    ended(here, version, 70, "discarded", over_k=3.5, watts=420, hob=hob)
    ended(here, version, 1, watts=300, hob=hob)
    ended(here, version, 1, "discarded", pace=20)
    ended(here, version, 600, "discarded")
    found = cook("GET", "/api/k/here/log/months").json()
    old, new = found["months"]
    assert (old["batches"], old["good"], old["discarded"]) == (2, 1, 1)
    assert old["over_k"] == pytest.approx(2.0)
    assert old["over_spread_k"] == pytest.approx(1.5)
    assert (new["batches"], new["discarded"], new["minutes"]) == (1, 0, 50)
    assert [(one["hob"], one["watts"], one["batches"]) for one in found["hobs"]] == [
        ("left ring", 410, 2),
        ("left ring", 300, 1),
    ]
    assert cook("GET", f"/api/k/here/log/months?formula_id={version.formula_id}").json()["months"] == [
        old,
        new,
    ]
    assert cook("GET", "/api/k/here/log/months?formula_id=999999").json()["months"] == []
    other = logged_in("there-cook")("GET", "/api/k/there/log/months").json()
    assert {name for name, value in other.items() if value} == {"currency"}, "nothing of another kitchen's"


def test_versions_with_what_came_of_them(here, there, version, cook):
    ended(here, version, 2)
    ended(here, version, 1, "usable", over_k=-1.5)
    [one] = cook("GET", f"/api/k/here/formulas/{version.formula_id}/outcomes").json()
    assert (one["version"], one["batches"], one["good"], one["usable"], one["discarded"]) == (1, 2, 1, 1, 0)
    assert one["over_k"] == pytest.approx(-0.5)
    stranger = logged_in("there-cook")
    assert stranger("GET", f"/api/k/there/formulas/{version.formula_id}/outcomes").status_code == 404
