"""How sure it is where a mix thickens and curdles, and how thick it gets."""

from __future__ import annotations

import numpy as np

from custard.advice.mix.assess import Assessment, assess
from custard.advice.mix.bands.drawing import (
    COARSE_K,
    DRAWS,
    PROBE_K,
    SEED,
    TEXTURE_DRAWS,
    YOLK_SHARE,
    Band,
    about,
    band_of,
)
from custard.advice.mix.texture import yield_stress
from custard.advice.mix.window import boiling_c, window_of
from custard.conditions import USUAL, Conditions
from custard.formula import Formula
from custard.larder.families import all_families
from custard.mixture import mix
from custard.process.heating import ramp
from custard.process.heating.state import State, held_at_boil, on_ramp


def window_band(
    formula: Formula, conditions: Conditions = USUAL, draws: int = DRAWS, seed: int = SEED
) -> dict[str, Band]:
    """Band of each window temperature [degC]; None where most draws never reach it below the boil.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    draws : how many are drawn [1].
    seed : chooses what is left to chance; the same seed gives the same answer.
    """
    own = assess(formula, conditions)
    conditions = own.conditions
    heated = own.formula.in_the_pan()
    boil = boiling_c(mix(heated), conditions.altitude_m)
    family = all_families()[formula.family]
    rate, still = conditions.rate_k_per_min or family.rate_k_per_min, family.way.undisturbed

    names = ("thickens_c", "nappe_c", "heavy_c", "curdles_c")

    def answer(drawn: Conditions, rng: np.random.Generator) -> dict[str, float | None]:
        mixture = mix(heated.with_yolks_times(about(rng, 1.0, YOLK_SHARE)))
        course = ramp.run(mixture, drawn.parameters, rate, boil, COARSE_K, undisturbed=still)
        window = window_of(mixture, course, rate)
        return {name: getattr(window, name) for name in names}

    return band_of(answer, {name: getattr(own.window, name) for name in names}, conditions, draws, seed)


def texture_band(
    formula: Formula, conditions: Conditions = USUAL, draws: int = TEXTURE_DRAWS, seed: int = SEED
) -> dict[str, Band]:
    """Band of the stop [degC], of the yield stress hot and cold stopped as advised [Pa], of the yield [g].

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    draws : how many are drawn [1].
    seed : chooses what is left to chance; the same seed gives the same answer.
    """

    own = assess(formula, conditions)
    goal = own.stop

    def figures(result: Assessment, state: State) -> dict[str, float | None]:
        p = result.conditions.parameters
        return {
            "stop_c": result.stop.at_c,
            "hot_yield_stress_pa": yield_stress(result.pan, state, state.at_c, p),
            "cold_yield_stress_pa": yield_stress(result.whole, state, p.texture.cold_reference_c, p),
            "yield_g": result.yield_g,
        }

    def answer(drawn: Conditions, rng: np.random.Generator) -> dict[str, float | None]:
        # Whoever cooks it goes by the advised stop, with a probe and eggs of their own.
        result = assess(formula.with_yolks_times(about(rng, 1.0, YOLK_SHARE)), drawn)
        told_c = min(about(rng, goal.at_c, PROBE_K), result.boiling_c)
        if goal.boiled:
            state = held_at_boil(result.pan, result.course(), result.boiling_c, drawn.parameters)
        else:
            state = on_ramp(result.pan, result.course(), told_c, drawn.parameters)
        return figures(result, state)

    return band_of(answer, figures(own, goal), own.conditions, draws, seed)
