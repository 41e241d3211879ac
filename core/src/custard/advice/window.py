"""The window of a mix: where it thickens, reaches nappe, is fully set, curdles and boils."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from custard.larder.families import BOILS, SETS, all_families
from custard.larder.parameters import Parameters
from custard.mixture import Mixture
from custard.physics import boiling, coagulation, starch
from custard.physics.texture import NAPPE_PA
from custard.process import ramp
from custard.process.cook import CURDLED_AT

THICKENED_AT = 0.10
SET_AT = 0.95
MUST_BOIL_PERCENT = 2.0
"""Starch in the aqueous phase from which it tastes raw, and thins by tomorrow, unless it is boiled."""
TOUCHES_THE_BOIL_K = 1.0
"""A family that is brought to the boil is, when it would curdle no more than this below it."""
EGGLESS_PERCENT = 0.05
"""Below this egg protein there is no egg network: the window speaks of the starch instead."""


@dataclass(frozen=True)
class Window:
    """Temperatures [degC] on a ramp of `rate_k_per_min`; None when not reached below the boil."""

    rate_k_per_min: float
    thickens_c: float | None
    nappe_c: float | None
    heavy_c: float | None
    curdles_c: float | None

    def as_json(self) -> dict[str, Any]:
        """Plain data, temperatures to 0.01 degC."""
        return {
            "rate_k_per_min": self.rate_k_per_min,
            "thickens_c": _rounded(self.thickens_c),
            "nappe_c": _rounded(self.nappe_c),
            "heavy_c": _rounded(self.heavy_c),
            "curdles_c": _rounded(self.curdles_c),
        }


@dataclass(frozen=True)
class State:
    """Where a cook has brought the mix: temperature [degC], degrees [0 to 1].

    `swollen` is the share of its starch's full swelling.
    """

    at_c: float
    thickened: float
    curdled: float
    gelatinised: float
    swollen: float
    boiled: bool


def _rounded(value: float | None) -> float | None:
    return None if value is None else round(value, 2)


def boiling_c(mixture: Mixture, altitude_m: float) -> float:
    """Boiling point of a mix [degC] at a kitchen's altitude [m]."""
    sugars, ethanol = mixture.sugars_in_aqueous_percent, mixture.ethanol_in_aqueous_percent
    return float(boiling.boiling_point(sugars, ethanol, altitude_m))


def window_of(mixture: Mixture, course: ramp.Ramp, rate_k_per_min: float) -> Window:
    """The window words on a ramp already run to the boil."""
    t = course.temperature_c
    eggless = mixture.egg_protein_percent < EGGLESS_PERCENT
    if eggless and mixture.starch_in_aqueous_percent <= 0:
        return Window(rate_k_per_min, None, None, None, None)
    network = course.gelatinised if eggless else course.thickened
    return Window(
        rate_k_per_min=rate_k_per_min,
        thickens_c=ramp.first_reach(t, network, THICKENED_AT),
        nappe_c=ramp.first_reach(t, course.yield_pa, NAPPE_PA),
        heavy_c=ramp.first_reach(t, network, SET_AT),
        curdles_c=None if eggless else ramp.first_reach(t, course.curdled, CURDLED_AT),
    )


def stop_state(
    mixture: Mixture, course: ramp.Ramp, window: Window, boil_c: float, family: str, p: Parameters
) -> State:
    """Where a cook who knows this mix would stop.

    A family that is boiled, and any mix with enough starch to need it, is boiled and held where it stands
    that; a baked custard is taken to where it is fully set; every other stops at its family's coat. None
    goes closer to curdling than the margin.
    """
    kind = all_families()[family]
    starch_percent = mixture.starch_in_aqueous_percent
    starchy = starch_percent >= MUST_BOIL_PERCENT or (kind.done == BOILS and starch_percent > 0)
    if starchy and _stands_the_boil(window, boil_c, kind.done):
        return _held_at_boil(mixture, course, boil_c, p)
    goal = (
        window.heavy_c
        if kind.done == SETS
        else ramp.first_reach(course.temperature_c, course.yield_pa, kind.target_pa)
    )
    safest = boil_c if window.curdles_c is None else window.curdles_c - p.cook.curdle_margin_k
    return on_ramp(mixture, course, min(safest, boil_c if goal is None else goal), p)


def _stands_the_boil(window: Window, boil_c: float, done: str) -> bool:
    if window.curdles_c is None:
        return True
    return done == BOILS and window.curdles_c > boil_c - TOUCHES_THE_BOIL_K


def on_ramp(mixture: Mixture, course: ramp.Ramp, at_c: float, p: Parameters) -> State:
    """The state of a mix at a temperature [degC] on a ramp already run."""

    def here(values: ramp.Array) -> float:
        return float(np.interp(at_c, course.temperature_c, values))

    gelatinised = here(course.gelatinised)
    return State(
        at_c=at_c,
        thickened=here(course.thickened),
        curdled=here(course.curdled),
        gelatinised=gelatinised,
        swollen=gelatinised * _capacity(mixture, at_c, p),
        boiled=False,
    )


def _held_at_boil(mixture: Mixture, course: ramp.Ramp, boil_c: float, p: Parameters) -> State:
    setting = ramp.setting_c(mixture, p)
    co, kind, hold = p.coagulation, mixture.starch, p.cook.boil_hold_s
    delay = ramp.starch_delay_k(mixture, p)

    def after(degree: float, rate: float) -> float:
        return float(1 - (1 - degree) * np.exp(-rate * hold))

    start = on_ramp(mixture, course, boil_c, p)
    gelatinised = after(
        start.gelatinised, coagulation.rate(boil_c, kind.reference_c + delay, kind.rate_per_s, kind.z_k)
    )
    curdling = coagulation.curdling_temperature(
        setting,
        mixture.starch_in_aqueous_percent * gelatinised,
        co.curdle_gap_k,
        co.starch_guard_k,
        co.starch_guard_percent,
    )
    return State(
        at_c=boil_c,
        thickened=after(start.thickened, coagulation.rate(boil_c, setting, co.set_rate_per_s, co.set_z_k)),
        curdled=after(start.curdled, coagulation.rate(boil_c, curdling, co.curdle_rate_per_s, co.curdle_z_k)),
        gelatinised=gelatinised,
        swollen=gelatinised * _capacity(mixture, boil_c, p),
        boiled=True,
    )


def _capacity(mixture: Mixture, at_c: float, p: Parameters) -> float:
    kind_shift = mixture.starch.reference_c - starch.MAIZE_REFERENCE_C
    return float(starch.capacity(at_c, ramp.starch_delay_k(mixture, p) + kind_shift))
