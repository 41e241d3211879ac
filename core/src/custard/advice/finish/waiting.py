"""While one waits: a bowl turned over ice, and the alcohol that goes meanwhile."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from custard.advice.finish.outcome import Addition, Alcohol
from custard.advice.mix.assess import Assessment
from custard.larder.vessels import coolings
from custard.process.cooling.chill import flows
from custard.process.cooling.chocolate import ROOM_C
from custard.process.cooling.resting import MEAN_C, Resting
from custard.process.heating import kernel, spirit
from custard.process.heating.cook import cook, usual_stove
from custard.process.heating.pot import Pot

Floats = NDArray[np.float64]

OVER_ICE_MM = 60.0
"""How deep a sauce lies in the bowl that is turned over ice while one waits."""
DRAINED_C = 20.0
"""Below this hardly any alcohol goes; the wait is followed to here."""


def over_ice(pot: Pot, to_c: float) -> tuple[Floats, Floats]:
    """Times [s] and temperatures [degC] of a bowl turned over ice and stirred, from where it is."""
    area_m2 = pot.mass_g / 1000 / float(pot.mixture.density_kg_m3(MEAN_C)) / (OVER_ICE_MM / 1000)
    lies = Resting(pot.mixture, coolings()["ice-bath"], pot.at_c, area_m2, True, flows(pot.mixture))
    done = lies.cooled(OVER_ICE_MM)
    end = int(np.argmax(done.mean_c <= to_c)) or done.t_s.size - 1
    return done.t_s[: end + 1], done.mean_c[: end + 1]


def waits_s(pot: Pot, to_c: float) -> float:
    """How long it takes there to be so cold [s]."""
    return float(over_ice(pot, to_c)[0][-1])


def alcohol_kept(pot: Pot, result: Assessment) -> float:
    """Share of an addition's alcohol that is left once it is stirred in and cooled over ice [1]."""
    p = result.conditions.parameters
    kept = spirit.kept_at(pot.at_c, p.finish.stir_in_min, p)
    if pot.at_c > DRAINED_C:
        kept *= spirit.kept(*over_ice(pot, DRAINED_C), p)
    return kept


def alcohol(result: Assessment, done: Sequence[Addition]) -> Alcohol | None:
    """All the alcohol of a formula: what cooks with it, and what joins later."""
    cooked_g = float(result.pan.mass_g * result.pan.fractions["ethanol"])
    given_g = cooked_g + sum(one.alcohol_g for one in done)
    if given_g <= 0:
        return None
    kept_g = sum(one.alcohol_g * (one.alcohol_kept or 0.0) for one in done)
    if cooked_g > 0:
        kept_g += cooked_g * _kept_in_the_pan(result)
    return Alcohol(given_g, kept_g, given_g - kept_g)


def _kept_in_the_pan(result: Assessment) -> float:
    """Share of the alcohol that is left of what cooks with the sauce on its usual heat [1]."""
    p = result.conditions.parameters
    stove = usual_stove(result.pan, p, over_steam=result.way.foams)
    start_c = min(ROOM_C, result.stop.at_c - 1)
    hold_s = p.cook.boil_hold_s if result.stop.boiled else 0.0
    done = cook(result.pan, start_c, result.stop.at_c, stove, hold_s, conditions=result.conditions)
    return spirit.kept(done.column(kernel.T_S), done.column(kernel.SAUCE_C), p)
