"""Drawing parameters from their ranges, and what the answers span: a seeded Monte Carlo."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from functools import lru_cache

import numpy as np

from custard.conditions import Conditions
from custard.larder.parameters import Origin, Parameters, origins

DRAWS = 200
TEXTURE_DRAWS = 60
"""For how thick it is: each is a whole assessment."""
FEW_DRAWS = 40
"""For what is conducted through a depth, which takes longer."""
SEED = 20
INNER = (0.1, 0.9)
"""The band holds four cooks in five."""
COARSE_K = 0.25
Band = tuple[float, float] | None


YOLK_SHARE = 0.08
"""How far a yolk is from what its class says, either way; separated by hand, from memory."""
PROBE_K = 1.0
"""How far a kitchen probe reads wrong [K]."""
BATH_K = 3.0
"""How far a bath is from what it is taken for [K]; as remembered."""
OVEN_K = 10.0
"""How far an oven is [K]; home ovens as remembered."""


@lru_cache(maxsize=16)
def drawn_sets(base: Parameters, count: int, seed: int) -> tuple[Parameters, ...]:
    """Parameter sets drawn from the whole of their ranges, definitions left alone.

    Kept, as every band of a kitchen asks for the same ones.

    Parameters
    ----------
    base : the middle of what is drawn
    count, seed : how many sets, and which
    """
    uncertain = [one for one in origins() if one.confidence != "H" and one.low < one.high]
    middle = np.array([getattr(getattr(base, one.group), one.name) for one in uncertain])
    ends = np.array([(one.low, one.high) for one in uncertain]).T
    rng, shape = np.random.default_rng(seed), (count, len(uncertain))
    end = np.where(rng.integers(2, size=shape) == 0, *ends)
    values = middle + (1 - np.sqrt(1 - rng.random(shape))) * (end - middle)
    return tuple(_with(base, uncertain, row.tolist()) for row in values)


@lru_cache(maxsize=64)
def drawn_under(conditions: Conditions, count: int, seed: int) -> tuple[Parameters, ...]:
    """Parameter sets drawn as `drawn_sets` does; where the kitchen's own batches say where a sauce sets, that
    is drawn from what is left unknown of it instead of from the parameters it was computed by.

    Parameters
    ----------
    conditions : of the kitchen, with what it learned of the sauce.
    count, seed : how many sets, and which
    """
    base, spread_k = conditions.parameters, conditions.learned.set_spread_k
    sets = drawn_sets(base, count, seed)
    if spread_k is None:
        return sets
    setting = {name: getattr(base.coagulation, name) for name in SETTING}
    offs = spread_k * np.random.default_rng((seed, count, 1)).standard_normal(count)
    return tuple(
        replace(
            one,
            coagulation=replace(
                one.coagulation, **{**setting, "set_base_c": base.coagulation.set_base_c + float(off)}
            ),
        )
        for one, off in zip(sets, offs, strict=True)
    )


SETTING = (
    "set_base_c",
    "sugar_shift_k",
    "ethanol_shift_k",
    "dilution_shift_k",
    "lean_shift_k",
    "acid_shift_k",
)
"""The parameters by whose sum it is computed where a mix sets."""


def _with(base: Parameters, which: Sequence[Origin], values: Sequence[float]) -> Parameters:
    changed: dict[str, dict[str, float]] = {}
    for one, value in zip(which, values, strict=True):
        changed.setdefault(one.group, {})[one.name] = value
    return replace(base, **{group: replace(getattr(base, group), **new) for group, new in changed.items()})


def either_side(rng: np.random.Generator, middle: float, bounds: tuple[float, float]) -> float:
    """Below the value half the time and above it half the time, ever more rarely toward the ends.

    Where a value is not in the middle of its range, the longer side is no more likely for that.
    """
    end = bounds[int(rng.integers(2))]
    far = 1 - np.sqrt(1 - rng.random())
    return float(middle + far * (end - middle))


def about(rng: np.random.Generator, middle: float, by: float) -> float:
    """Drawn from a value, either way by at most so much of the same unit."""
    return either_side(rng, middle, (middle - by, middle + by))


HOB_SHARE = 0.25
"""How far what a hob really gives is from what it is taken to give; as the rehearsed ones differ."""
Drawn = Callable[[Conditions, np.random.Generator], Mapping[str, float | None]]


def band_of(
    answer: Drawn,
    own: Mapping[str, float | None],
    conditions: Conditions,
    draws: int = DRAWS,
    seed: int = SEED,
) -> dict[str, Band]:
    """The band of every number an answer holds, over drawn parameter sets; its own value is always in it.

    None where most draws never reach it.

    Parameters
    ----------
    answer : computes the figures under drawn parameters, with what else is left to chance.
    own : the figures under the parameters as they are.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    draws : how many are drawn [1].
    seed : chooses what is left to chance; the same seed gives the same answer.
    """
    rng = np.random.default_rng((seed, draws))
    found = [answer(conditions.by(one), rng) for one in drawn_under(conditions, draws, seed)]
    return {name: spanned([one[name] for one in found], own.get(name)) for name in found[0]}


def spanned(values: Sequence[float | None], own: float | None) -> Band:
    """What the inner four fifths of the values and the own one span; None where half of them are none."""
    known = [value for value in values if value is not None]
    if len(known) < len(values) / 2:
        return None
    low, high = np.quantile(known, INNER)
    if own is not None:
        low, high = min(low, own), max(high, own)
    return _short(float(low)), _short(float(high))


def _short(value: float) -> float:
    """Four significant figures."""
    return float(f"{value:.4g}")
