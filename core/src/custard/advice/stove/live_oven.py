"""Cups in the oven, in progress: what the bath really is, and when to take them out, from a probe in one."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from custard.advice.stove.account import Curve
from custard.conditions import USUAL, Conditions
from custard.figures import Celsius, Kelvin, Seconds, Tenths, TenthsCelsius, Thousandths
from custard.mixture import Mixture
from custard.process.baking.bake import SET_AT, Bake, usual_bath_c, wobble
from custard.process.baking.cups import Cups
from custard.vocabulary import Wobble

BATH_SPREAD_K = 4.0
"""How far kitchens stray from the bath that is taken for granted [K]; an estimate."""
COLDEST_BATH_C, HOTTEST_BATH_C = 62.0, 99.0
PROBE_K, STEP_K, ROUNDS = 0.5, 0.5, 4
NUDGE_S = 120.0
SOON_S = 30.0


@dataclass(frozen=True)
class LiveOven:
    """A baking now.

    Attributes
    ----------
    t_s : since the cups went in [s].
    bath_c, bath_spread_k : what the bath must be for the centre to warm as it does [degC], [K].
    set_centre : set degree of the centre [0 to 1]; `wobble` what a nudged cup does.
    out_in_s : until the centre is set [s], with its span; None when it never is.
    """

    t_s: Seconds
    centre_c: Celsius
    soon_c: Celsius
    bath_c: TenthsCelsius
    bath_spread_k: Tenths
    set_centre: Thousandths
    wobble: Wobble
    out_in_s: Seconds | None
    out_low_s: Seconds | None
    out_high_s: Seconds | None
    out_c: Celsius | None
    carry_over_k: Kelvin
    ahead: Curve


def live_oven(
    mixture: Mixture,
    readings: Sequence[tuple[float, float]],
    now_s: float,
    cups: Cups | None = None,
    conditions: Conditions = USUAL,
) -> LiveOven | None:
    """What is known of cups in the oven at `now_s` [s]; None before the first reading.

    `readings` are (time [s], centre [degC]) from when the cups went in.

    Parameters
    ----------
    mixture : the uniform mix.
    readings : times since it went in [s], and what the probe read [degC].
    now_s : the moment, in the time of the readings [s].
    cups : what it is baked in; None for as many usual cups as it fills.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    """
    read_in_order, cups = sorted(set(readings)), cups or Cups()
    if not read_in_order:
        return None
    first = read_in_order[0][0]
    t = np.array([at - first for at, _ in read_in_order])
    read = np.array([c for _, c in read_in_order])
    start = float(np.clip(np.median(read[:3]), 0.0, 80.0))

    def run(bath_c: float) -> Bake:
        return cups.baked(mixture, start, bath_c, conditions)

    def centre(found: Bake) -> NDArray[np.float64]:
        return np.asarray(np.interp(t, found.t_s, found.centre_c))

    usual = usual_bath_c(cups.oven_c, conditions.parameters)
    bath, spread, found = usual, BATH_SPREAD_K, run(usual)
    for _ in range(ROUNDS):
        # Gauss and Newton on one unknown, held to what such baths are.
        off, slope = read - centre(found), (centre(run(bath + STEP_K)) - centre(found)) / STEP_K
        weight = float(slope @ slope) / PROBE_K**2 + 1 / BATH_SPREAD_K**2
        pull = float(slope @ off) / PROBE_K**2 + (usual - bath) / BATH_SPREAD_K**2
        bath = float(np.clip(bath + pull / weight, COLDEST_BATH_C, HOTTEST_BATH_C - STEP_K))
        spread, found = weight**-0.5, run(bath)
        if abs(pull / weight) < 0.05:
            break
    at = max(now_s, read_in_order[-1][0]) - first

    def here(values: NDArray[np.float64]) -> float:
        return float(np.interp(at, found.t_s, values))

    outs = [_left(run(float(np.clip(bath + by, COLDEST_BATH_C, 100.0))), at) for by in (spread, -spread)]
    left = _left(found, at)
    later = np.linspace(at, at + 1200, 61)
    return LiveOven(
        t_s=max(now_s, read_in_order[-1][0]),
        centre_c=here(found.centre_c),
        soon_c=float(np.interp(at + SOON_S, found.t_s, found.centre_c)),
        bath_c=bath,
        bath_spread_k=spread,
        set_centre=here(found.set_centre),
        wobble=wobble(here(found.set_centre)),
        out_in_s=left,
        out_low_s=outs[0],
        out_high_s=outs[1],
        out_c=None if left is None else float(np.interp(at + left, found.t_s, found.centre_c)),
        carry_over_k=found.carry_over_k,
        ahead=Curve.sure(later - at, np.interp(later, found.t_s, found.centre_c)),
    )


def _left(found: Bake, at: float) -> float | None:
    """Until the centre is set [s]."""
    done = np.flatnonzero(found.set_centre >= SET_AT)
    return None if not done.size else max(0.0, float(found.t_s[done[0]]) - at)
