"""Where a sauce is lifted when no probe is read: by hob and pan, as the live stove would lift it."""

from __future__ import annotations

from dataclasses import replace

import custard
import pytest
from custard.advice.stove import History, heat_warnings, live, planned_lift, unmeasured
from custard.process import Stove, cook
from custard.process.heating import kernel
from validation import mixes

ANGLAISE = mixes.of("anglaise", *mixes.SIX)


def on(result, **stove):
    usual = unmeasured(result, {})
    return replace(usual, stove=replace(usual.stove, **stove))


def test_a_pan_that_holds_more_heat_is_lifted_sooner():
    result = custard.assess(ANGLAISE)
    thin, clad, iron = (
        planned_lift(result, on(result, pan=pan), 70) for pan in ("thin", "clad", "cast-iron")
    )
    assert iron.at_c < clad.at_c - 0.5 < thin.at_c
    # A heavy pan of this very kitchen counts as it was found to be.
    heavy = planned_lift(result, replace(on(result), pan_share=2.0), 70)
    assert heavy.at_c < clad.at_c


@pytest.mark.parametrize("pan", ["thin", "clad", "cast-iron"])
def test_lifted_there_it_lands_as_thick_as_planned_and_does_not_curdle(pan):
    result = custard.assess(ANGLAISE)
    found = planned_lift(result, on(result, pan=pan), 70)
    done = cook(result.pan, 70, found.at_c, on(result, pan=pan).stove, left_in_pan_s=12)
    assert done.final[kernel.YIELD_PA] == pytest.approx(result.hot.yield_stress_pa, rel=0.05)
    assert done.final[kernel.CURDLED] < 0.05
    assert found.lands_c < result.window.curdles_c


def test_the_live_stove_agrees_as_far_as_a_hob_and_a_pan_stray():
    result = custard.assess(ANGLAISE)
    setup = on(result, pan="cast-iron")
    real = custard.process.StoveRehearsal(result.pan, setup.stove, 70.0, 3)
    readings = []
    while real.sauce_c < 76:
        real.on(2.0)
        readings.append((real.t_s, round(real.probe_c, 1)))
    seen = live(result, setup, History(readings=readings), real.t_s)
    assert seen.lift.at_c == pytest.approx(planned_lift(result, setup, 70).at_c, abs=1.5)


def test_steam_that_cannot_boil_stops_where_the_sauce_coats_and_says_so():
    result = custard.assess(mixes.POURED)
    found = planned_lift(result, replace(on(result), stove=Stove(1500, over_steam=True)), 70)
    assert found.at_c == pytest.approx(result.window.nappe_c + 1, abs=0.1)
    assert "cannot reach" in found.cannot
    assert planned_lift(result, on(result), 70) is None, "on a flame it comes off by the clock of its boil"


def test_what_is_baked_is_not_lifted():
    assert planned_lift(custard.assess(mixes.CUPS), on(custard.assess(mixes.CUPS))) is None


def test_the_bench_warns_of_a_heat_that_cannot_do_it():
    starchy, plain = custard.assess(mixes.POURED), custard.assess(ANGLAISE)
    assert "cannot reach" in heat_warnings(starchy, {"heat": "steam"})[0]
    assert heat_warnings(starchy, {"heat": "direct"}) == heat_warnings(starchy, None) == ()
    assert heat_warnings(plain, {"heat": "steam"}) == (), "an anglaise comes to its stop over steam"
