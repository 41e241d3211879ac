"""A trainee who lifts when told: every formula of the demo kitchen, on one of five hobs that nobody knows."""

from __future__ import annotations

import json
import random
from dataclasses import replace
from pathlib import Path

import custard
import pytest
from custard.process import Rehearsal, Stove, rehearse

FORMULAS = json.loads((Path(__file__).parents[1] / "demo/formulas.json").read_text("utf-8"))
HOBS = 5
COOKS = [(content, place % HOBS) for place, content in enumerate(FORMULAS)]
"""Every formula, and every hob with two of them."""
ROOM_C, CUPS_C = 18.0, 45.0
OVEN = custard.stove.Equipment(Stove())
CONDITIONS = custard.Conditions(altitude_m=12)
EVERY_S, FAR_S = 2.0, 16.0


def looks_again_after(seen: custard.stove.Live) -> float:
    """Far from the lift a glance now and then is enough."""
    if seen.lift is None:
        return FAR_S
    return EVERY_S if seen.lift.in_s < 2 * FAR_S else FAR_S


def cooked_as_told(
    result: custard.Assessment, setup: custard.stove.Equipment, real: Rehearsal, seed: int
) -> None:
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
        told = custard.stove.History(readings=readings)
        seen = custard.stove.live(result, setup, told, real.t_s)
        assert isinstance(seen, custard.stove.Live)
        if custard.stove.coach(result, setup, told, seen, 1.0).phase in ("lift", "past"):
            break
        looks_at = real.t_s + looks_again_after(seen)
    else:
        pytest.fail("never told to lift")
    real.on(12.0, lit=False)


@pytest.mark.parametrize(
    ("content", "seed"), COOKS, ids=lambda value: value["name"] if isinstance(value, dict) else str(value)
)
def test_it_lands_as_planned(content, seed):
    result = custard.assess(custard.read_formula(content), CONDITIONS)
    landing = custard.stove.landing_of(custard.stove.stages(result))
    if result.way.in_the_oven:
        cups_set_as_told(result, seed)
        return
    steam = result.way.foams
    power = 1500.0 if steam else (900.0 if landing is None else 500.0) * result.pan.mass_g / 1000
    stove = Stove(power_w=power, over_steam=steam)
    real = rehearse(
        result.way, result.pan, stove, ROOM_C if landing is None else landing, seed, result.conditions
    )
    cooked_as_told(result, custard.stove.Equipment(stove), real, seed)
    assert custard.word(real.yield_pa) == result.hot.word
    if result.hot.word == "nappe":
        assert 1.5 <= real.yield_pa < 6.0
    assert real.curdled < 0.05


@pytest.mark.parametrize("turned", [0.7, 1.4])
@pytest.mark.parametrize("content", FORMULAS[:2], ids=lambda content: content["name"])
def test_a_flame_set_unlike_its_well_known_self_is_noticed(content, turned):
    result = custard.assess(custard.read_formula(content), CONDITIONS)
    steam = result.way.foams
    stove = Stove(power_w=1500 if steam else 350, over_steam=steam)
    real = rehearse(result.way, result.pan, stove, ROOM_C if steam else 70, 3, result.conditions)
    known = stove if steam else replace(stove, power_w=real.power_w)
    real.turned(turned)
    cooked_as_told(result, custard.stove.Equipment(known, power_spread=0.06, pan_spread=0.05), real, 3)
    assert custard.word(real.yield_pa) == "nappe"
    assert real.curdled < 0.05


def cups_set_as_told(result: custard.Assessment, seed: int) -> None:
    real = custard.process.OvenRehearsal(result.pan, CUPS_C, seed)
    dice = random.Random(seed)
    readings: list[tuple[float, float]] = []
    while real.t_s < 6000:
        real.on(30.0)
        readings.append((real.t_s, round(real.probe_c + dice.gauss(0, 0.2), 1)))
        told = custard.stove.History(readings=readings)
        seen = custard.stove.live(result, OVEN, told, real.t_s)
        if custard.stove.coach(result, OVEN, told, seen, 1.0).phase == "lift":
            break
    assert 0.65 < real.set_centre < 0.95
