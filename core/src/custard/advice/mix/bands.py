"""How sure an answer is: a seeded Monte Carlo over the ranges of the uncertain parameters."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from functools import lru_cache

import numpy as np

from custard.advice.mix.assess import Assessment, assess
from custard.advice.mix.texture import yield_stress
from custard.advice.mix.window import boiling_c, window_of
from custard.conditions import USUAL, Conditions
from custard.errors import OutOfRange
from custard.formula import Formula
from custard.larder.families import all_families
from custard.larder.parameters import Origin, Parameters, origins
from custard.larder.vessels import Cooling
from custard.mixture import Mixture, mix
from custard.process.baking.bake import USUAL_OVEN_C, bake
from custard.process.cooling.chill import Chill, CooledBy, chill
from custard.process.heating import kernel, ramp
from custard.process.heating.cook import DT_S, LONGEST_S, Stove, constants
from custard.process.heating.many import simulate_many
from custard.process.heating.pan import rows_of
from custard.process.heating.state import State, held_at_boil, on_ramp
from custard.process.heating.temper import temper
from custard.process.whisking.whisk import whisk

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


def _with(base: Parameters, which: Sequence[Origin], values: Sequence[float]) -> Parameters:
    changed: dict[str, dict[str, float]] = {}
    for one, value in zip(which, values, strict=True):
        changed.setdefault(one.group, {})[one.name] = value
    return replace(base, **{group: replace(getattr(base, group), **new) for group, new in changed.items()})


def _either_side(rng: np.random.Generator, middle: float, bounds: tuple[float, float]) -> float:
    """Below the value half the time and above it half the time, ever more rarely toward the ends.

    Where a value is not in the middle of its range, the longer side is no more likely for that.
    """
    end = bounds[int(rng.integers(2))]
    far = 1 - np.sqrt(1 - rng.random())
    return float(middle + far * (end - middle))


def _about(rng: np.random.Generator, middle: float, by: float) -> float:
    return _either_side(rng, middle, (middle - by, middle + by))


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
    found = [answer(conditions.by(one), rng) for one in drawn_sets(conditions.parameters, draws, seed)]
    return {name: _band([one[name] for one in found], own.get(name)) for name in found[0]}


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
    heated = formula.under(conditions).in_the_pan()
    boil = boiling_c(mix(heated), conditions.altitude_m)
    family = all_families()[formula.family]
    rate, still = conditions.rate_k_per_min or family.rate_k_per_min, family.way.undisturbed

    names = ("thickens_c", "nappe_c", "heavy_c", "curdles_c")

    def answer(drawn: Conditions, rng: np.random.Generator) -> dict[str, float | None]:
        mixture = mix(heated.with_yolks_times(_about(rng, 1.0, YOLK_SHARE)))
        course = ramp.run(mixture, drawn.parameters, rate, boil, COARSE_K, undisturbed=still)
        window = window_of(mixture, course, rate)
        return {name: getattr(window, name) for name in names}

    own = assess(formula, conditions).window
    return band_of(answer, {name: getattr(own, name) for name in names}, conditions, draws, seed)


def texture_band(
    formula: Formula, conditions: Conditions = USUAL, draws: int = TEXTURE_DRAWS, seed: int = SEED
) -> dict[str, Band]:
    """Band of the stop [degC], of the yield stress hot and cold if stopped as told [Pa], of the yield [g].

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
        # Whoever cooks it goes by the stop that was told, with a probe and eggs of their own.
        result = assess(formula.with_yolks_times(_about(rng, 1.0, YOLK_SHARE)), drawn)
        told_c = min(_about(rng, goal.at_c, PROBE_K), result.boiling_c)
        if goal.boiled:
            state = held_at_boil(result.pan, result.course(), result.boiling_c, drawn.parameters)
        else:
            state = on_ramp(result.pan, result.course(), told_c, drawn.parameters)
        return figures(result, state)

    return band_of(answer, figures(own, goal), conditions, draws, seed)


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
    drawn = (conditions.by(one) for one in drawn_sets(conditions.parameters, draws, SEED))
    hobs = (replace(stove, power_w=stove.power_w * _about(rng, 1.0, HOB_SHARE)) for _ in range(draws))
    pairs = zip(hobs, drawn, strict=True)
    rows = np.concatenate([rows_of(constants(mixture, hob, one)) for hob, one in pairs])
    # The first of all is the cook itself; whoever lifts the others goes by a probe that reads wrong.
    rows = np.concatenate([rows_of(constants(mixture, stove, conditions)), rows])
    lifts = np.array([lift_c, *(_about(rng, lift_c, PROBE_K) for _ in range(draws))])
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
    return {name: _band(values[1:].tolist(), float(values[0])) for name, values in found.items()}


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
        return figures(drawn, min(_about(rng, hot_c, PROBE_K), 105.0))

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
        return figures(drawn, _about(rng, lift_c, PROBE_K))

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
        warm_c = None if bath_c is None else min(100.0, max(60.0, _about(rng, bath_c, BATH_K)))
        return figures(drawn, _about(rng, oven_c, OVEN_K), warm_c)

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
            stirred_w_m2k=_either_side(rng, way.stirred_w_m2k, way.stirred_range),
            thick_w_m2k=_either_side(rng, way.thick_w_m2k, way.thick_range),
            still_w_m2k=_either_side(rng, way.still_w_m2k, way.still_range),
            outside_w_m2k=_either_side(rng, way.outside_w_m2k, way.outside_range),
        )
        found.append(cooled(drawn))
    names = ("time_to_21_s", "time_to_5_s", "time_to_goal_s", "greatest_depth_mm")
    own = cooled(how.own)
    return {name: _band([getattr(one, name) for one in found], getattr(own, name)) for name in names}


def _band(values: Sequence[float | None], own: float | None) -> Band:
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
