"""Rows of windows: when a mix thickens, coats, stops and curdles."""

from __future__ import annotations

from collections.abc import Callable, Iterator

import numpy as np
from custard.advice.mix.assess import Assessment, assess
from custard.conditions import Conditions
from custard.formula import Formula
from custard.mixture.setting import setting_c
from custard.physics import coagulation
from custard.process.heating import ramp

from validation.mixes import (
    BASE,
    CUPS,
    FILLING,
    LEAN_BASE,
    RICH_CUPS,
    SIX,
    anglaise,
    of,
    pastry,
    sabayon,
)
from validation.row import Row, of_assessment


def rows() -> Iterator[Row]:
    """When a mix thickens, coats, stops and curdles."""
    for yolks, sugar_g in ((5, 100), (8, 150), (10, 200)):
        name, mixed = f"anglaise of {yolks} yolks and {sugar_g} g of sugar a litre", anglaise(yolks, sugar_g)
        yield Row(f"{name}, nappe", "°C", 80, 84, _window(mixed, "nappe_c"))
        yield Row(f"{name}, curdles", "°C", 85, 88, _window(mixed, "curdles_c"))
        yield Row(
            f"{name}, curdles on a fast flame",
            "°C",
            86,
            92,
            _window(mixed, "curdles_c", rate_k_per_min=10),
            held_out=True,
        )
    yolk = of("anglaise", ("egg-yolk", "100 g"))
    yield Row("plain yolk, thickens", "°C", 63, 67, _window(yolk, "thickens_c"))
    for held_c, low, high in ((60, 60, 360), (64, 12, 50)):
        what = f"plain yolk held at {{{held_c} C}}, nine tenths set after"
        yield Row(what, "min", low, high, _holding(yolk, held_c), held_out=True)
    egg = of("baked-custard", ("whole-egg", "100 g"))
    four = Conditions(rate_k_per_min=4)
    yield Row("beaten whole egg, half set", "°C", 70, 73, lambda: _half_set(egg, four))
    series = of(
        "baked-custard",
        ("whole-egg", 1),
        ("whole-milk", "1 cup"),
        ("white-sugar", "2 tbsp"),
        eggs="US-large",
        measures="us",
    )
    yield Row(
        "1 egg, 1 cup of milk, 2 spoons of sugar, half set", "°C", 79, 83, lambda: _half_set(series, four)
    )
    for name, cups, low, high in (
        ("baked whole-egg custard", CUPS, 78, 83),
        ("baked rich cream", RICH_CUPS, 76, 80),
    ):
        gap = "fully set is what is computed, and cooks say set a little before or after"
        yield Row(f"{name}, sets", "°C", low, high, of_assessment(cups, _stop), held_out=True, gap=gap)
    yield Row("ice base of 6 yolks, stop", "°C", 82, 86, of_assessment(BASE, _stop))
    yield Row("lean ice base of 4 yolks, stop", "°C", 82, 86, of_assessment(LEAN_BASE, _stop))
    yield Row("filling of evaporated milk, stop", "°C", 87, 93, of_assessment(FILLING, _stop))
    condensed = of("milk-filling", ("condensed-milk", "400 g"), ("egg-yolk", 5))
    yield Row("filling of condensed milk, stop", "°C", 87, 95, of_assessment(condensed, _stop), held_out=True)
    one = of("pouring-custard", *SIX, ("cornstarch", "7 g"))
    yield Row("custard with 1 % of starch, stop", "°C", 90, 98, of_assessment(one, _stop))
    yield Row("custard with 1 % of starch, curdles", "°C", 93, 99, _window(one, "curdles_c"), held_out=True)
    yield Row(
        "pastry cream, curdled after its boil",
        "%",
        0,
        5,
        of_assessment(pastry(), lambda r: 100 * r.stop.curdled),
    )
    slow, fast = (_window(anglaise(), "thickens_c", rate_k_per_min=rate) for rate in (1, 10))
    yield Row(
        "a ten times faster flame, thickens later by", "K", 4, 9, lambda: fast() - slow(), held_out=True
    )
    yield Row("the same, room from nappe to curdling", "K", 2, 8, lambda: _room(10), held_out=True)
    for wine in ("fortified-wine-sweet", "white-wine-12"):
        yield Row(f"sabayon of {wine}, coats", "°C", 68, 78, _window(sabayon(wine), "nappe_c"))
        yield Row(f"sabayon of {wine}, curdles", "°C", 82, 85, _window(sabayon(wine), "curdles_c"))
    honeyed = of("anglaise", ("whole-milk", "500 ml"), ("egg-yolk", 6), ("honey", "110 g"))
    yield Row("anglaise with honey, nappe", "°C", 78, 84, _window(honeyed, "nappe_c"), held_out=True)


def _half_set(formula: Formula, conditions: Conditions) -> float:
    course = assess(formula, conditions).course()
    return ramp.first_reach(course.temperature_c, course.thickened, 0.5) or 0.0


def _room(rate: float) -> float:
    window = assess(anglaise(), Conditions(rate_k_per_min=rate)).window
    return (window.curdles_c or 0.0) - (window.nappe_c or 0.0)


def _window(formula: Formula, name: str, **conditions: float) -> Callable[[], float]:
    def compute() -> float:
        found = getattr(assess(formula, Conditions(**conditions)).window, name)  # type: ignore[arg-type]
        return 200.0 if found is None else float(found)

    return compute


def _stop(result: Assessment) -> float:
    return result.stop.at_c


def _holding(formula: Formula, held_c: float) -> Callable[[], float]:
    """Minutes until nine tenths are set of what is held at one temperature [degC]."""

    def compute() -> float:
        result = assess(formula)
        p = result.conditions.parameters
        egg = p.coagulation
        setting = coagulation.rate(held_c, setting_c(result.pan, p), egg.set_rate_per_s, egg.set_z_k)
        return float(np.log(10) / setting / 60)

    return compute
