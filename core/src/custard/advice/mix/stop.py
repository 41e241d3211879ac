"""Where a cook who knows this mix would stop."""

from __future__ import annotations

import numpy as np

from custard.advice.mix.window import EGGLESS_PERCENT, Window
from custard.larder.families import BOILS, Family
from custard.larder.parameters import Parameters
from custard.mixture import Mixture
from custard.process.heating import ramp
from custard.process.heating.state import State, held_at_boil, on_ramp

MUST_BOIL_PERCENT = 2.0
"""Starch in the aqueous phase from which it tastes raw, and thins by tomorrow, unless it is boiled."""


DAIRY_STOP_C = 82.0
"""Where a base without egg is stopped [degC]: milk and cream are pasteurised well before; 80 to 85, as
remembered."""
HALF = 0.5
"""The way to the boil begins at half as much starch as lets a sauce go there, and ends half above."""


def stop_state(
    mixture: Mixture, course: ramp.Ramp, window: Window, boil_c: float, family: Family, p: Parameters
) -> State:
    """Where a cook who knows this mix would stop.

    What sets undisturbed is taken to where it is fully set. A sauce on the stove is stopped at its family's
    coat, or where enough of its egg has set if it coats thinly; none closer to curdling than the margin. The
    more starch guards the egg, the nearer to the boil it is taken; a family that is boiled, and any mix with
    enough starch to need it, is boiled and held where hardly any of its egg curdles by that.
    """
    if family.way.undisturbed:
        return on_ramp(mixture, course, _least(window.heavy_c, _clear(window, p), boil_c), p)
    starch = mixture.starch_in_aqueous_percent
    if mixture.egg_protein_percent < EGGLESS_PERCENT and starch <= 0:
        # Nothing in it thickens: it is heated until it is safe, as dairy is.
        return on_ramp(mixture, course, min(DAIRY_STOP_C, boil_c), p)
    coats = ramp.first_reach(course.temperature_c, course.yield_pa, family.target_pa)
    enough = ramp.first_reach(course.temperature_c, course.thickened, p.cook.thickened_enough)
    stop_c = max(_least(coats, enough, _clear(window, p), boil_c), min(window.thickens_c or 0.0, boil_c))
    if not family.way.may_boil or starch <= 0:
        return on_ramp(mixture, course, stop_c, p)
    if starch >= MUST_BOIL_PERCENT or family.way is BOILS:
        held = held_at_boil(mixture, course, boil_c, p)
        if held.curdled <= p.cook.boiled_curdled:
            return held
    near_c = boil_c if window.curdles_c is None else window.curdles_c - p.cook.near_margin_k
    # Around as much starch as lets a sauce near the boil it is taken ever nearer, so that no stop jumps.
    share = float(np.clip(starch / p.cook.boils_from_percent - HALF, 0.0, 1.0))
    return on_ramp(mixture, course, stop_c + share * max(0.0, min(near_c, boil_c) - stop_c), p)


def _clear(window: Window, p: Parameters) -> float | None:
    """As near to curdling as one goes [degC]."""
    return None if window.curdles_c is None else window.curdles_c - p.cook.curdle_margin_k


def _least(*temperatures: float | None) -> float:
    return min(t for t in temperatures if t is not None)
