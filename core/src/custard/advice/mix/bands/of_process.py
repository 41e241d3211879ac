"""How sure it is what a cook, a tempering, a whisking, a baking and a cooling end with."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from custard.advice.mix.bands.drawing import (
    BATH_K,
    DRAWS,
    FEW_DRAWS,
    HOB_SHARE,
    OVEN_K,
    PROBE_K,
    SEED,
    Band,
    about,
    band_of,
    drawn_under,
    either_side,
    spanned,
)
from custard.conditions import USUAL, Conditions
from custard.errors import OutOfRange
from custard.formula import Formula
from custard.larder.vessels import Cooling
from custard.mixture import Mixture
from custard.process.baking.bake import USUAL_OVEN_C, bake
from custard.process.cooling.chill import Chill, CooledBy, chill
from custard.process.heating import kernel
from custard.process.heating.cook import DT_S, LONGEST_S, Stove, constants
from custard.process.heating.many import simulate_many
from custard.process.heating.pan import rows_of
from custard.process.heating.temper import temper
from custard.process.whisking.whisk import whisk


def cook_band(
    mixture: Mixture,
    start_c: float,
    lift_c: float,
    stove: Stove,
    hold_s: float = 0.0,
    left_in_pan_s: float = 0.0,
    conditions: Conditions = USUAL,
    draws: int = DRAWS,
) -> dict[str, Band]:
    """Band of what a cook ends with: time [s], peak [degC], degrees [1], bits [%], yield stress [Pa].

    Parameters
    ----------
    mixture : the uniform mix.
    start_c : temperature at which it begins [degC], 0 to 105.
    lift_c : temperature at which it is taken off [degC], 20 to 130.
    stove : what it is cooked on and in; None for the usual.
    hold_s : held there [s], up to 7200.
    left_in_pan_s : left in the hot pan after that [s], up to 7200.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    draws : how many are drawn [1].
    """
    rng = np.random.default_rng((SEED, draws))
    drawn = (conditions.by(one) for one in drawn_under(conditions, draws, SEED))
    hobs = (replace(stove, power_w=stove.power_w * about(rng, 1.0, HOB_SHARE)) for _ in range(draws))
    pairs = zip(hobs, drawn, strict=True)
    rows = np.concatenate([rows_of(constants(mixture, hob, one)) for hob, one in pairs])
    # The first of all is the cook itself; whoever lifts the others goes by a probe that reads wrong.
    rows = np.concatenate([rows_of(constants(mixture, stove, conditions)), rows])
    lifts = np.array([lift_c, *(about(rng, lift_c, PROBE_K) for _ in range(draws))])
    starts = np.full(draws + 1, float(start_c))
    ends = simulate_many(rows, starts, lifts, float(hold_s), float(left_in_pan_s), LONGEST_S, DT_S / 2)
    found = {
        "lift_s": ends[:, kernel.T_S] - left_in_pan_s,
        "peak_c": ends[:, kernel.HOTTEST_C],
        "thickened": ends[:, kernel.THICKENED],
        "curdled": ends[:, kernel.CURDLED],
        "bits_percent": 100 * (1 - (1 - ends[:, kernel.CURDLED]) * (1 - ends[:, kernel.BITS])),
        "yield_stress_pa": ends[:, kernel.YIELD_PA],
    }
    return {name: spanned(values[1:].tolist(), float(values[0])) for name, values in found.items()}


def temper_band(
    formula: Formula,
    school: str,
    hot_c: float,
    ladle_g: float = 80.0,
    bowl_c: float = 20.0,
    conditions: Conditions = USUAL,
) -> dict[str, Band]:
    """Band of where a tempering lands [degC] and of its worst local curdling [1].

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    school : how it is poured: "stream", "ladle", "reverse" or "none".
    hot_c : temperature of the dairy as it is poured [degC], up to 105.
    ladle_g : what one ladle holds [g].
    bowl_c : temperature of the yolks in their bowl [degC].
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    """

    def figures(under: Conditions, poured_c: float) -> dict[str, float | None]:
        done = temper(formula, school, poured_c, ladle_g, bowl_c, under)
        return {"landing_c": done.landing_c, "worst_local_curdling": done.worst_local_curdling}

    def answer(drawn: Conditions, rng: np.random.Generator) -> dict[str, float | None]:
        return figures(drawn, min(about(rng, hot_c, PROBE_K), 105.0))

    return band_of(answer, figures(conditions, hot_c), conditions)


def whisk_band(
    mixture: Mixture,
    start_c: float,
    lift_c: float,
    electric: bool,
    stove: Stove | None = None,
    conditions: Conditions = USUAL,
) -> dict[str, Band]:
    """Band of a sabayon's time [s], volume over the raw mix [1] and weeping [1/h]; None where not reached.

    Parameters
    ----------
    mixture : the uniform mix.
    start_c : temperature at which it begins [degC], 0 to 105.
    lift_c : temperature at which it is taken off [degC], 20 to 130.
    electric : with a machine; else by hand.
    stove : what it is cooked on and in; None for the usual.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    """

    def figures(under: Conditions, taken_c: float) -> dict[str, float | None]:
        try:
            done = whisk(mixture, start_c, taken_c, electric, stove, under)
        except OutOfRange:
            return {"lift_s": None, "volume_ratio": None, "weeps_per_h": None}
        return {
            "lift_s": float(done.t_s[-1]),
            "volume_ratio": 1 + float(done.overrun[-1]),
            "weeps_per_h": done.weeps_per_h,
        }

    def answer(drawn: Conditions, rng: np.random.Generator) -> dict[str, float | None]:
        return figures(drawn, about(rng, lift_c, PROBE_K))

    return band_of(answer, figures(conditions, lift_c), conditions)


def bake_band(
    mixture: Mixture,
    cup_ml: float,
    start_c: float,
    bath_c: float | None = None,
    conditions: Conditions = USUAL,
    *,
    oven_c: float = USUAL_OVEN_C,
    bath: bool = True,
) -> dict[str, Band]:
    """Band of when cups come out [s] and how far they then rise [K].

    Parameters
    ----------
    mixture : the uniform mix.
    cup_ml : what one cup takes [ml].
    start_c : temperature of the mix as it goes in [degC].
    bath_c : temperature of the bath [degC]; None for what the oven makes of it.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    oven_c : temperature of the oven [degC].
    bath : whether the cups stand in water.
    """

    def figures(under: Conditions, hot_c: float, warm_c: float | None) -> dict[str, float | None]:
        done = bake(mixture, cup_ml, start_c, warm_c, under, oven_c=hot_c, bath=bath)
        return {"out_s": done.out_s, "carry_over_k": done.carry_over_k}

    def answer(drawn: Conditions, rng: np.random.Generator) -> dict[str, float | None]:
        warm_c = None if bath_c is None else min(100.0, max(60.0, about(rng, bath_c, BATH_K)))
        return figures(drawn, about(rng, oven_c, OVEN_K), warm_c)

    return band_of(answer, figures(conditions, oven_c, bath_c), conditions, FEW_DRAWS)


def chill_band(
    mixture: Mixture,
    from_c: float,
    to_c: float,
    how: CooledBy,
    mass_g: float,
    depth_mm: float,
    conditions: Conditions = USUAL,
) -> dict[str, Band]:
    """Band of the cooling times [s] and of the greatest depth that passes [mm], over the coefficients.

    Parameters
    ----------
    mixture : the uniform mix.
    from_c : temperature at which it begins [degC], 1 to 110.
    to_c : temperature at which it ends [degC], -5 to 100.
    how : how it is cooled.
    mass_g : how much of it there is [g].
    depth_mm : how deep it lies [mm].
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    """
    rng, way = np.random.default_rng(SEED), how.way

    def cooled(own: Cooling | None) -> Chill:
        return chill(mixture, from_c, to_c, replace(how, own=own), mass_g, depth_mm, conditions)

    found = []
    for _ in range(FEW_DRAWS):
        drawn = replace(
            way,
            stirred_w_m2k=either_side(rng, way.stirred_w_m2k, way.stirred_range),
            thick_w_m2k=either_side(rng, way.thick_w_m2k, way.thick_range),
            still_w_m2k=either_side(rng, way.still_w_m2k, way.still_range),
            outside_w_m2k=either_side(rng, way.outside_w_m2k, way.outside_range),
        )
        found.append(cooled(drawn))
    names = ("time_to_21_s", "time_to_5_s", "time_to_goal_s", "greatest_depth_mm")
    own = cooled(how.own)
    return {name: spanned([getattr(one, name) for one in found], getattr(own, name)) for name in names}
