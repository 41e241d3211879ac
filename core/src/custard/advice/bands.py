"""How sure an answer is: a seeded Monte Carlo over the ranges of the uncertain parameters."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from custard.advice.assess import assess
from custard.advice.window import Window, boiling_c, window_of
from custard.formula import Formula
from custard.larder.parameters import Parameters, origins, standard
from custard.mixture import Mixture
from custard.process import kernel, ramp
from custard.process.cook import DT_S, LONGEST_S, Stove, constants

DRAWS = 200
SEED = 20
INNER = (0.1, 0.9)
"""The band holds four cooks in five."""
COARSE_K = 0.25
_GROUPS = ("coagulation", "starch", "texture", "heat", "enzyme", "losses")
Band = tuple[float, float] | None


def draw(rng: np.random.Generator, base: Parameters) -> Parameters:
    """A parameter set drawn from the ranges: triangular about the value, definitions left alone."""
    changed: dict[str, dict[str, float]] = {group: {} for group in _GROUPS}
    for origin in origins():
        if origin.group in _GROUPS and origin.confidence != "H" and origin.low < origin.high:
            middle = getattr(getattr(base, origin.group), origin.name)
            # Half the range either way: all of them at their far end at once is no kitchen's case.
            low, high = (origin.low + middle) / 2, (origin.high + middle) / 2
            changed[origin.group][origin.name] = float(rng.triangular(low, min(max(middle, low), high), high))
    return replace(base, **{group: replace(getattr(base, group), **new) for group, new in changed.items()})


def window_band(
    mixture: Mixture, altitude_m: float, rate_k_per_min: float, draws: int = DRAWS, seed: int = SEED
) -> dict[str, Band]:
    """Band of each window temperature [degC]: the middle four fifths of the draws.

    None where most draws never reach it below the boil.
    """
    rng = np.random.default_rng(seed)
    boil = boiling_c(mixture, altitude_m)
    base = standard()
    found: list[Window] = []
    for _ in range(draws):
        p = draw(rng, base)
        found.append(window_of(mixture, ramp.run(mixture, p, rate_k_per_min, boil, COARSE_K), rate_k_per_min))
    names = ("thickens_c", "nappe_c", "heavy_c", "curdles_c")
    return {name: _band([getattr(window, name) for window in found]) for name in names}


def texture_band(
    formula: Formula, altitude_m: float, draws: int = DRAWS, seed: int = SEED
) -> dict[str, Band]:
    """Band of the stop [degC], the yield stress hot and cold [Pa] and the yield [g] of a formula."""
    rng = np.random.default_rng(seed)
    found = [assess(formula, altitude_m, parameters=draw(rng, standard())) for _ in range(draws)]
    return {
        "stop_c": _band([result.stop.at_c for result in found]),
        "hot_yield_stress_pa": _band([result.hot.yield_stress_pa for result in found]),
        "cold_yield_stress_pa": _band([result.cold.yield_stress_pa for result in found]),
        "yield_g": _band([result.yield_g for result in found]),
    }


def cook_band(
    mixture: Mixture,
    start_c: float,
    lift_c: float,
    stove: Stove,
    hold_s: float = 0.0,
    left_in_pan_s: float = 0.0,
    draws: int = DRAWS,
    seed: int = SEED,
) -> dict[str, Band]:
    """Band of what a cook ends with: time [s], peak [degC], degrees [1], bits [%], yield stress [Pa]."""
    rng = np.random.default_rng(seed)
    table = np.array([list(constants(mixture, stove, draw(rng, standard()))) for _ in range(draws)])
    starts, lifts = np.full(draws, float(start_c)), np.full(draws, float(lift_c))
    ends = kernel.simulate_many(
        table, starts, lifts, float(hold_s), float(left_in_pan_s), LONGEST_S, DT_S / 2
    )
    bits = 100 * (1 - (1 - ends[:, kernel.CURDLED]) * (1 - ends[:, kernel.BITS]))
    return {
        "lift_s": _band([float(v) - left_in_pan_s for v in ends[:, kernel.T_S]]),
        "peak_c": _band([float(v) for v in ends[:, kernel.HOTTEST_C]]),
        "thickened": _band([float(v) for v in ends[:, kernel.THICKENED]]),
        "curdled": _band([float(v) for v in ends[:, kernel.CURDLED]]),
        "bits_percent": _band([float(v) for v in bits]),
        "yield_stress_pa": _band([float(v) for v in ends[:, kernel.YIELD_PA]]),
    }


def _band(values: Sequence[float | None]) -> Band:
    known = [value for value in values if value is not None]
    if len(known) < len(values) / 2:
        return None
    low, high = np.quantile(known, INNER)
    return _short(float(low)), _short(float(high))


def _short(value: float) -> float:
    """Four significant figures."""
    return float(f"{value:.4g}")
