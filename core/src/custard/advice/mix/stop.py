"""Where a cook who knows this mix would stop."""

from __future__ import annotations

from custard.advice.mix.window import Window
from custard.larder.families import BOILS, Family, Way
from custard.larder.parameters import Parameters
from custard.mixture import Mixture
from custard.process import ramp
from custard.process.state import State, held_at_boil, on_ramp

MUST_BOIL_PERCENT = 2.0
"""Starch in the aqueous phase from which it tastes raw, and thins by tomorrow, unless it is boiled."""
TOUCHES_THE_BOIL_K = 1.0
"""A family that is brought to the boil is, when it would curdle no more than this below it."""


def stop_state(
    mixture: Mixture, course: ramp.Ramp, window: Window, boil_c: float, family: Family, p: Parameters
) -> State:
    """Where a cook who knows this mix would stop.

    A family that is boiled, and any mix with enough starch to need it, is boiled and held where it stands
    that; what sets undisturbed is taken to where it is fully set; every other stops at its family's coat.
    None goes closer to curdling than the margin.
    """
    starch_percent = mixture.starch_in_aqueous_percent
    starchy = starch_percent >= MUST_BOIL_PERCENT or (family.way is BOILS and starch_percent > 0)
    if family.way.may_boil and starchy and _stands_the_boil(window, boil_c, family.way):
        return held_at_boil(mixture, course, boil_c, p)
    goal = (
        window.heavy_c
        if family.way.undisturbed
        else ramp.first_reach(course.temperature_c, course.yield_pa, family.target_pa)
    )
    safest = boil_c if window.curdles_c is None else window.curdles_c - p.cook.curdle_margin_k
    return on_ramp(mixture, course, min(safest, boil_c if goal is None else goal), p)


def _stands_the_boil(window: Window, boil_c: float, way: Way) -> bool:
    if window.curdles_c is None:
        return True
    return way is BOILS and window.curdles_c > boil_c - TOUCHES_THE_BOIL_K
