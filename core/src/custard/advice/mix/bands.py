"""How sure an answer is: a seeded Monte Carlo over the ranges of the uncertain parameters."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace

import numpy as np

from custard.advice.mix.assess import assess
from custard.advice.mix.window import boiling_c, window_of
from custard.conditions import USUAL, Conditions
from custard.errors import OutOfRange
from custard.formula import Formula
from custard.larder.families import all_families
from custard.larder.parameters import Parameters, origins
from custard.larder.vessels import coolings
from custard.mixture import Mixture, mix
from custard.process import kernel, ramp
from custard.process.bake import bake
from custard.process.chill import chill
from custard.process.cook import DT_S, LONGEST_S, Stove, constants
from custard.process.many import simulate_many
from custard.process.pan import rows_of
from custard.process.temper import temper
from custard.process.whisk import whisk

DRAWS = 200
FEW_DRAWS = 40
"""For what is conducted through a depth, which takes longer."""
SEED = 20
INNER = (0.1, 0.9)
"""The band holds four cooks in five."""
COARSE_K = 0.25
Band = tuple[float, float] | None


def draw(rng: np.random.Generator, base: Parameters) -> Parameters:
    """A parameter set drawn from the ranges: triangular about the value, definitions left alone."""
    changed: dict[str, dict[str, float]] = {}
    for origin in origins():
        if origin.confidence != "H" and origin.low < origin.high:
            middle = getattr(getattr(base, origin.group), origin.name)
            new = _triangular(rng, middle, (origin.low, origin.high))
            changed.setdefault(origin.group, {})[origin.name] = new
    return replace(base, **{group: replace(getattr(base, group), **new) for group, new in changed.items()})


def _triangular(rng: np.random.Generator, middle: float, bounds: tuple[float, float]) -> float:
    """About a value over half its range either way: all at their far end at once is no kitchen's case."""
    low, high = ((bound + middle) / 2 for bound in bounds)
    return float(rng.triangular(low, min(max(middle, low), high), high))


def band_of(
    answer: Callable[[Conditions], Mapping[str, float | None]],
    conditions: Conditions,
    draws: int = DRAWS,
    seed: int = SEED,
) -> dict[str, Band]:
    """The band of every number an answer holds, over drawn parameter sets.

    None where most draws never reach it.
    """
    rng, base = np.random.default_rng(seed), conditions.parameters
    found = [answer(conditions.by(draw(rng, base))) for _ in range(draws)]
    return {name: _band([one[name] for one in found]) for name in found[0]}


def window_band(
    formula: Formula, conditions: Conditions = USUAL, draws: int = DRAWS, seed: int = SEED
) -> dict[str, Band]:
    """Band of each window temperature [degC]; None where most draws never reach it below the boil."""
    mixture = mix(formula.under(conditions).in_the_pan())
    boil = boiling_c(mixture, conditions.altitude_m)
    rate = conditions.rate_k_per_min or all_families()[formula.family].rate_k_per_min

    def answer(drawn: Conditions) -> dict[str, float | None]:
        course = ramp.run(mixture, drawn.parameters, rate, boil, COARSE_K)
        window = window_of(mixture, course, rate)
        return {name: getattr(window, name) for name in ("thickens_c", "nappe_c", "heavy_c", "curdles_c")}

    return band_of(answer, conditions, draws, seed)


def texture_band(
    formula: Formula, conditions: Conditions = USUAL, draws: int = DRAWS, seed: int = SEED
) -> dict[str, Band]:
    """Band of the stop [degC], the yield stress hot and cold [Pa] and the yield [g] of a formula."""

    def answer(drawn: Conditions) -> dict[str, float | None]:
        result = assess(formula, drawn)
        return {
            "stop_c": result.stop.at_c,
            "hot_yield_stress_pa": result.hot.yield_stress_pa,
            "cold_yield_stress_pa": result.cold.yield_stress_pa,
            "yield_g": result.yield_g,
        }

    return band_of(answer, conditions, draws, seed)


def cook_band(
    mixture: Mixture,
    start_c: float,
    lift_c: float,
    stove: Stove,
    hold_s: float = 0.0,
    left_in_pan_s: float = 0.0,
    conditions: Conditions = USUAL,
    draws: int = DRAWS,
    seed: int = SEED,
) -> dict[str, Band]:
    """Band of what a cook ends with: time [s], peak [degC], degrees [1], bits [%], yield stress [Pa]."""
    rng = np.random.default_rng(seed)
    drawn = (conditions.by(draw(rng, conditions.parameters)) for _ in range(draws))
    rows = np.concatenate([rows_of(constants(mixture, stove, one)) for one in drawn])
    starts, lifts = np.full(draws, float(start_c)), np.full(draws, float(lift_c))
    ends = simulate_many(rows, starts, lifts, float(hold_s), float(left_in_pan_s), LONGEST_S, DT_S / 2)
    bits = 100 * (1 - (1 - ends[:, kernel.CURDLED]) * (1 - ends[:, kernel.BITS]))
    return {
        "lift_s": _band([float(v) - left_in_pan_s for v in ends[:, kernel.T_S]]),
        "peak_c": _band([float(v) for v in ends[:, kernel.HOTTEST_C]]),
        "thickened": _band([float(v) for v in ends[:, kernel.THICKENED]]),
        "curdled": _band([float(v) for v in ends[:, kernel.CURDLED]]),
        "bits_percent": _band([float(v) for v in bits]),
        "yield_stress_pa": _band([float(v) for v in ends[:, kernel.YIELD_PA]]),
    }


def temper_band(
    formula: Formula,
    school: str,
    hot_c: float,
    ladle_g: float = 80.0,
    bowl_c: float = 20.0,
    conditions: Conditions = USUAL,
) -> dict[str, Band]:
    """Band of where a tempering lands [degC] and of its worst local curdling [1]."""

    def answer(drawn: Conditions) -> dict[str, float | None]:
        done = temper(formula, school, hot_c, ladle_g, bowl_c, drawn)
        return {"landing_c": done.landing_c, "worst_local_curdling": done.worst_local_curdling}

    return band_of(answer, conditions)


def whisk_band(
    mixture: Mixture,
    start_c: float,
    lift_c: float,
    electric: bool,
    stove: Stove,
    conditions: Conditions = USUAL,
) -> dict[str, Band]:
    """Band of a sabayon's time [s], volume over the raw mix [1] and weeping [1/h]; None where not reached."""

    def answer(drawn: Conditions) -> dict[str, float | None]:
        try:
            done = whisk(mixture, start_c, lift_c, electric, stove, drawn)
        except OutOfRange:
            return {"lift_s": None, "volume_ratio": None, "weeps_per_h": None}
        return {
            "lift_s": float(done.t_s[-1]),
            "volume_ratio": 1 + float(done.overrun[-1]),
            "weeps_per_h": done.weeps_per_h,
        }

    return band_of(answer, conditions)


def bake_band(
    mixture: Mixture, cup_ml: float, start_c: float, bath_c: float, conditions: Conditions = USUAL
) -> dict[str, Band]:
    """Band of when cups come out [s] and how far they then rise [K]."""

    def answer(drawn: Conditions) -> dict[str, float | None]:
        done = bake(mixture, cup_ml, start_c, bath_c, drawn)
        return {"out_s": done.out_s, "carry_over_k": done.carry_over_k}

    return band_of(answer, conditions, FEW_DRAWS)


def chill_band(
    mixture: Mixture,
    from_c: float,
    to_c: float,
    by: str,
    mass_g: float,
    depth_mm: float,
    stirred: bool = False,
    conditions: Conditions = USUAL,
    *,
    sets: bool = False,
) -> dict[str, Band]:
    """Band of the cooling times [s] and of the greatest depth that passes [mm], over the coefficients."""
    rng, way = np.random.default_rng(SEED), coolings()[by]
    found = []
    for _ in range(FEW_DRAWS):
        drawn = replace(
            way,
            stirred_w_m2k=_triangular(rng, way.stirred_w_m2k, way.stirred_range),
            thick_w_m2k=_triangular(rng, way.thick_w_m2k, way.thick_range),
            still_w_m2k=_triangular(rng, way.still_w_m2k, way.still_range),
            outside_w_m2k=_triangular(rng, way.outside_w_m2k, way.outside_range),
        )
        found.append(
            chill(mixture, from_c, to_c, by, mass_g, depth_mm, stirred, conditions, drawn, sets=sets)
        )
    names = ("time_to_21_s", "time_to_5_s", "time_to_goal_s", "greatest_depth_mm")
    return {name: _band([getattr(one, name) for one in found]) for name in names}


def _band(values: Sequence[float | None]) -> Band:
    known = [value for value in values if value is not None]
    if len(known) < len(values) / 2:
        return None
    low, high = np.quantile(known, INNER)
    return _short(float(low)), _short(float(high))


def _short(value: float) -> float:
    """Four significant figures."""
    return float(f"{value:.4g}")
