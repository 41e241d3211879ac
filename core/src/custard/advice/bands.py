"""How sure a window is: a seeded Monte Carlo over the ranges of the uncertain parameters."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from custard.advice.window import Window, boiling_c, window_of
from custard.larder.parameters import Parameters, origins, standard
from custard.mixture import Mixture
from custard.process import ramp

DRAWS = 200
SEED = 20
INNER = (0.1, 0.9)
"""The band holds four cooks in five."""
COARSE_K = 0.25
_GROUPS = ("coagulation", "starch", "texture")
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


def _band(values: list[float | None]) -> Band:
    known = [value for value in values if value is not None]
    if len(known) < len(values) / 2:
        return None
    low, high = np.quantile(known, INNER)
    return round(float(low), 2), round(float(high), 2)
