"""A trainee who lifts when told: every formula of the demo kitchen, on five hobs that nobody knows."""

from __future__ import annotations

import json
import random
from dataclasses import replace
from pathlib import Path

import custard
import pytest
from custard import Rehearsal

FORMULAS = json.loads((Path(__file__).parents[1] / "oldspoon/demo/formulas.json").read_text("utf-8"))
HOBS = range(5)
ROOM_C, ALTITUDE_M = 18.0, 12.0
EVERY_S, FAR_S = 2.0, 16.0


def looks_again_after(seen: custard.Live) -> float:
    """Far from the lift a glance now and then is enough."""
    if seen.lift is None:
        return FAR_S
    return EVERY_S if seen.lift.when.in_s < 2 * FAR_S else FAR_S


def cooked_as_told(result: custard.Assessment, setup: custard.Setup, real: Rehearsal, seed: int) -> None:
    """Watch a bad probe and what the coach says; off the heat when it says so, out of the pan soon after."""
    dice = random.Random(seed)
    readings: list[tuple[float, float]] = []
    looks_at = 30.0
    while real.t_s < 3000:
        real.on(EVERY_S)
        if dice.random() > 0.1:
            readings.append((real.t_s, round(real.probe_c + dice.gauss(0, 0.2), 1)))
        if real.t_s < looks_at or not readings:
            continue
        told = custard.Told(readings=readings)
        seen = custard.live(result, setup, told, real.t_s)
        assert seen is not None
        if custard.coach(result, setup, told, seen, 1.0).phase in ("lift", "past"):
            break
        looks_at = real.t_s + looks_again_after(seen)
    else:
        pytest.fail("never told to lift")
    real.on(12.0, lit=False)


@pytest.mark.parametrize("content", FORMULAS, ids=lambda content: content["name"])
@pytest.mark.parametrize("seed", HOBS)
def test_it_lands_as_planned(content, seed):
    formula = custard.read_formula(content)
    result = custard.assess(formula, altitude_m=ALTITUDE_M)
    way = custard.way_of(formula.family, boiled=result.stop.boiled)
    landing = next(stage.at_c for stage in custard.plan(result) if stage.stage == "temper")
    if way == "sets":
        cups_set_as_told(result, seed)
        return
    steam = way == "mounds"
    power = 1500.0 if steam else (900.0 if landing is None else 500.0) * result.pan.mass_g / 1000
    stove = custard.Stove(power_w=power, over_steam=steam, altitude_m=ALTITUDE_M)
    real = Rehearsal(result.pan, stove, ROOM_C if landing is None else landing, seed, foam=steam)
    cooked_as_told(result, custard.Setup(stove), real, seed)
    assert custard.word(real.yield_pa) == result.hot.word
    if result.hot.word == "nappe":
        assert 1.5 <= real.yield_pa < 6.0
    assert real.curdled < 0.05


@pytest.mark.parametrize("turned", [0.7, 1.4])
@pytest.mark.parametrize("content", FORMULAS[:2], ids=lambda content: content["name"])
def test_a_flame_set_unlike_its_well_known_self_is_noticed(content, turned):
    result = custard.assess(custard.read_formula(content), altitude_m=ALTITUDE_M)
    steam = content["family"] == "sabayon"
    stove = custard.Stove(power_w=1500 if steam else 350, over_steam=steam, altitude_m=ALTITUDE_M)
    real = Rehearsal(result.pan, stove, ROOM_C if steam else 70, 3, foam=steam)
    known = stove if steam else replace(stove, power_w=real.power_w)
    real.turned(turned)
    cooked_as_told(result, custard.Setup(known, power_spread=0.06, pan_spread=0.05), real, 3)
    assert custard.word(real.yield_pa) == "nappe"
    assert real.curdled < 0.05


def cups_set_as_told(result: custard.Assessment, seed: int) -> None:
    real = custard.OvenRehearsal(result.pan, 45.0, seed)
    dice = random.Random(seed)
    readings: list[tuple[float, float]] = []
    while real.t_s < 6000:
        real.on(30.0)
        readings.append((real.t_s, round(real.probe_c + dice.gauss(0, 0.2), 1)))
        seen = custard.live_oven(result.pan, readings, real.t_s)
        if custard.coach_oven(custard.Told(readings=readings), seen, 1.0).phase == "lift":
            break
    assert 0.65 < real.set_centre < 0.95
