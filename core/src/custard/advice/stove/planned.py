"""The number to lift at where no probe is read: by the hob and the pan that were chosen."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from custard.advice.mix.assess import Assessment
from custard.advice.stove.account import Equipment, unmeasured
from custard.advice.stove.lift import LEFT_IN_PAN_S, MOST_CURDLED, goal_pa
from custard.figures import Kelvin, TenthsCelsius
from custard.process.heating import kernel
from custard.process.heating.cook import DT_S, constants, step_s
from custard.process.whisking.whisk import under_foam
from custard.vocabulary import HeatName

UNKNOWN_START_C = 60.0
LONGEST_S = 3600.0
LOWEST_K, HIGHEST_K, NARROW_K = 12.0, 6.0, 0.05
"""How far under and over its stop a lift is looked for, and how finely [K]."""
ROOM_K = 1.0
"""So much above where it first coats a sauce is lifted that its heat brings no further [K]."""


@dataclass(frozen=True)
class PlannedLift:
    """When to lift a sauce that no probe reads.

    Attributes
    ----------
    at_c : lifted at [degC].
    lands_c, carry_over_k : where it then peaks in its pan [degC], and what the pan gave after the flame [K].
    cannot : what the chosen heat cannot do, in a sentence; "" where it can do everything.
    """

    at_c: TenthsCelsius
    lands_c: TenthsCelsius
    carry_over_k: Kelvin
    cannot: str = ""


def planned_lift(
    result: Assessment, equipment: Equipment, start_c: float | None = None
) -> PlannedLift | None:
    """Where to lift so that it lands as thick as planned once the pan has given what it holds.

    It asks the same of a landing as the live stove does, of the same pan on the same hob; so with a probe in
    the sauce the two agree as soon as hob and pan are what they were taken for.

    Parameters
    ----------
    result : what is cooked.
    equipment : the hob and the pan.
    start_c : where it lands in the pan [degC]; `UNKNOWN_START_C` where nobody knows.

    Returns
    -------
    None for what is baked, and for what comes off by the clock of its boil on a heat that boils it.
    """
    if result.way.in_the_oven:
        return None
    p = result.conditions.parameters
    under = result.conditions.by(under_foam(p) if result.way.foams else p)
    k = constants(result.pan, equipment.stove, under)
    k = k._replace(base_j_k=k.base_j_k * equipment.pan_share)
    dt, none = step_s(k, DT_S), np.empty((0, kernel.COLUMNS))
    begins = float(min(UNKNOWN_START_C if start_c is None else start_c, result.stop.at_c - LOWEST_K))

    def cooked(lift_c: float) -> tuple[float, np.ndarray]:
        _, lifted, final = kernel.simulate(
            k, kernel.Asked(begins, float(lift_c), 0.0, LEFT_IN_PAN_S, LONGEST_S), dt, 1 << 30, none
        )
        return lifted, final

    lifted_s, ended = cooked(result.stop.at_c)
    if lifted_s < 0:
        return _what_it_reaches(result, float(ended[kernel.HOTTEST_C]))
    if result.stop.boiled:
        return None
    goal = goal_pa(result)

    def enough(lift_c: float) -> bool:
        lifted, final = cooked(lift_c)
        return lifted < 0 or final[kernel.YIELD_PA] >= goal or final[kernel.CURDLED] >= MOST_CURDLED

    low, high = result.stop.at_c - LOWEST_K, min(result.stop.at_c + HIGHEST_K, result.boiling_c - 0.5)
    while high - low > NARROW_K:
        middle = (low + high) / 2
        low, high = (low, middle) if enough(middle) else (middle, high)
    peak = float(cooked(high)[1][kernel.HOTTEST_C])
    return PlannedLift(high, peak, max(0.0, peak - high))


def heat_warnings(result: Assessment, schools: Mapping[str, str] | None) -> tuple[str, ...]:
    """What the heat that was chosen cannot do, for a sauce that is no foam; empty where it can everything.

    Parameters
    ----------
    result : what is cooked.
    schools : the answers of its formula, where some were given.
    """
    if result.way.foams or (schools or {}).get("heat") != HeatName.STEAM:
        return ()
    found = planned_lift(result, unmeasured(result, schools or {}))
    return (found.cannot,) if found is not None and found.cannot else ()


def _what_it_reaches(result: Assessment, hottest_c: float) -> PlannedLift:
    """The stop that a heat too weak for the planned one can still bring: where it coats, if it does."""
    coats_c = result.window.nappe_c
    cannot = f"This heat cannot reach {{{result.stop.at_c:.1f} C}}: use the flame."
    if coats_c is None or coats_c > hottest_c:
        return PlannedLift(hottest_c, hottest_c, 0.0, cannot)
    at_c = min(coats_c + ROOM_K, hottest_c)
    return PlannedLift(at_c, at_c, 0.0, f"{cannot} Here it coats, and no more: its starch is not done.")
