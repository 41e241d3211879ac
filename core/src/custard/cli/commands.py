"""What each command does: options in, plain data out."""

from __future__ import annotations

import json
import sys
from collections.abc import Mapping
from importlib import import_module
from pathlib import Path
from typing import Any

from custard import practice
from custard.advice.bench import scale, solve
from custard.advice.bench.limits import Limits
from custard.advice.mix.assess import assess
from custard.advice.mix.bands import (
    Band,
    bake_band,
    chill_band,
    cook_band,
    temper_band,
    texture_band,
    whisk_band,
    window_band,
)
from custard.advice.mix.churning import churning
from custard.advice.mix.texture import texture_at
from custard.advice.mix.used import parameters_used
from custard.advice.stove.calibrate import calibrate
from custard.advice.trouble.rescue import curds, rescue
from custard.cli import answers
from custard.conditions import USUAL, Conditions
from custard.errors import BadFormula, CustardError, Impossible, OutOfRange, within
from custard.figures import plain
from custard.formats.formula_json import read_formula, write_formula
from custard.formula import Formula
from custard.larder.families import all_families
from custard.larder.parameters import Parameters
from custard.larder.vessels import coolings
from custard.mixture import Mixture, mix
from custard.physics import kinetics
from custard.process import kernel
from custard.process.bake import bake
from custard.process.chill import Ice, chill, chill_on
from custard.process.chocolate import onto_chocolate
from custard.process.cook import NEVER_CLEARANCE, Cook, Stove, cook
from custard.process.later import aged, held_warm, reheated, thawed
from custard.process.state import State
from custard.process.temper import temper
from custard.process.whisk import whisk
from custard.quantities import finite

MAX_INPUT_BYTES = 5_000_000
NEXT_DAY_H = 24.0


def read_json(path: str, field: str = "FILE") -> Any:
    """JSON from a file, or from standard input for "-".

    Raises
    ------
    BadFormula, OutOfRange
        when it cannot be read or is no JSON.
    """
    try:
        data = sys.stdin.buffer.read(MAX_INPUT_BYTES + 1) if path == "-" else Path(path).read_bytes()
    except OSError as error:
        raise BadFormula(field, path, f"cannot be read: {error.strerror}") from None
    if len(data) > MAX_INPUT_BYTES:
        raise OutOfRange(field, path, "is larger than 5 MB")
    try:
        return json.loads(data.decode("utf-8"))
    except UnicodeDecodeError:
        raise BadFormula(field, path, "is not UTF-8 text") from None
    except json.JSONDecodeError as error:
        raise BadFormula(field, path, f"is not JSON: {error.msg} in line {error.lineno}") from None
    except (RecursionError, ValueError):
        raise BadFormula(field, path, "is nested too deeply, or holds a number too long") from None


def _formula(options: Any) -> Formula:
    try:
        return read_formula(read_json(options.file))
    except CustardError as error:
        error.field = error.field or "FILE"
        raise


def _conditions(options: Any) -> Conditions:
    """What was said of kitchen, eggs and rule; a command without an option for one keeps the usual."""
    said = {name: getattr(options, name, getattr(USUAL, name)) for name in ("altitude_m", "eggs", "rule")}
    return Conditions(**said, rate_k_per_min=getattr(options, "rate_k_per_min", None))


def assess_command(options: Any) -> dict[str, Any]:
    """Window with its band, texture, yield and allergens; freezing too for a base to churn."""
    formula, conditions = _formula(options), _conditions(options)
    result = assess(formula, conditions)
    answer = answers.of_assessment(result, parameters_used(formula, conditions))
    answer["window"] |= _banded(window_band(formula, conditions))
    answer["texture"] |= _banded(texture_band(formula, conditions))
    if result.family.churned:
        answer["churn"] = plain(churning(result.whole))
    return answer


def _banded(bands: Mapping[str, Band]) -> dict[str, Any]:
    return {"band": {name: None if band is None else list(band) for name, band in bands.items()}}


def scale_command(options: Any) -> dict[str, Any]:
    """The formula at another size."""
    conditions = _conditions(options)
    formula = _formula(options).under(conditions)
    if options.yolks is not None:
        return write_formula(formula.for_yolks(options.yolks))
    if options.portions is not None:
        if options.portion_g is None:
            raise OutOfRange("portion_g", None, "given with --portions", "Say how much a portion weighs.")
        return write_formula(scale.for_portions(formula, options.portions, options.portion_g, conditions))
    if options.dish_ml is not None:
        return write_formula(scale.for_dish(formula, options.dish_ml, options.filled, conditions))
    if options.dairy_g is not None:
        return write_formula(formula.for_dairy(options.dairy_g))
    if options.pan_ml is not None:
        return write_formula(scale.for_pan(formula, options.pan_ml, options.head_room))
    return write_formula(formula.for_mass(options.mass_g))


def temper_command(options: Any) -> dict[str, Any]:
    """Pour by pour, the landing, the worst spot, and what is left to heat."""
    formula, conditions = _formula(options), _conditions(options)
    result = assess(formula, conditions)
    stop = result.stop.at_c
    asked = (options.school, options.hot_c, options.ladle_g, options.bowl_c, conditions)
    done = temper(formula, *asked)
    answer = answers.of_tempering(done, stop)
    if done.landing_c < stop:
        stove = Stove(power_w=options.power_w)
        rest = cook(result.pan, done.landing_c, stop, stove, conditions=conditions)
        answer["to_go_s"] = None if rest.lift_s is None else round(rest.lift_s)
    if options.band:
        answer |= _banded(temper_band(formula, *asked))
    return answer


def _stove(options: Any) -> Stove:
    return Stove(
        power_w=options.power_w,
        stir=options.stir,
        pan=options.pan,
        over_steam=options.over_steam,
    )


def cook_command(options: Any) -> dict[str, Any]:
    """The curve of one cook, what it left in the sieve, and what the sauce is like."""
    conditions = _conditions(options)
    formula, p = _formula(options).under(conditions), conditions.parameters
    pan, stove = mix(formula.in_the_pan()), _stove(options)
    held = (options.hold_s, options.left_in_pan_s)
    done = cook(pan, options.start_c, options.lift_c, stove, *held, conditions=conditions)
    state = state_of(done, undisturbed=stove.stir == "none")
    landing = onto_chocolate(formula, state.at_c)
    bands = (
        _banded(cook_band(pan, options.start_c, options.lift_c, stove, *held, conditions=conditions))
        if options.band
        else {}
    )
    enzyme, steamed_g = float(done.final[kernel.AMYLASE]), float(done.final[kernel.STEAMED_G])
    # What steamed off is no longer in it: a filling that reduces is thicker for it.
    left = pan.less_water(steamed_g)
    hot = texture_at(left, state, state.at_c, min(p.spoon.spoon_c, state.at_c), p)
    return {
        "curve": done.curve_json(),
        **bands,
        "lift_s": None if done.lift_s is None else round(done.lift_s, 2),
        "peak_c": round(done.peak_c, 3),
        "base_peak_c": round(float(done.column(kernel.BASE_C).max()), 1),
        "thickened": round(state.thickened, 5),
        "curdled": round(state.curdled, 5),
        "curds": curds(state.curdled, pan.starch_in_aqueous_percent),
        "texture": {"hot": plain(hot), "cold": _cold(mix(formula).less_water(steamed_g), state, p)},
        "bits_percent": round(done.bits_percent, 3),
        "caught": done.caught,
        "steamed_g": round(steamed_g, 1),
        "left_g": round(float(left.mass_g), 1),
        "enzyme_left": round(enzyme, 6) if pan.starch_in_aqueous_percent > 0 else None,
        "thins_by_tomorrow": _thinning(pan, enzyme, p),
        "onto_chocolate": plain(landing),
        "salmonella_logs": answers.logs(float(done.final[kernel.LOGS])),
        "caution": NEVER_CLEARANCE,
    }


def state_of(done: Cook, *, undisturbed: bool) -> State:
    """Where a cook ended, as texture reads it."""
    y = done.final
    return State(
        at_c=float(y[kernel.SAUCE_C]),
        thickened=float(y[kernel.THICKENED]),
        curdled=float(y[kernel.CURDLED]),
        gelatinised=float(y[kernel.GELATINISED]),
        swollen=float(y[kernel.SWOLLEN]),
        boiled=False,
        undisturbed=undisturbed,
    )


def _cold(whole: Mixture, state: State, p: Parameters) -> dict[str, Any]:
    cold = p.texture.cold_reference_c
    found: dict[str, Any] = plain(texture_at(whole, state, cold, cold, p))
    return found


def _thinning(pan: Mixture, enzyme: float, p: Parameters) -> float | None:
    """Share of a starch cream's network that its yolk's enzyme eats by tomorrow."""
    if pan.starch_in_aqueous_percent <= 0 or pan.fractions["yolk_protein"] <= 0:
        return None
    return round(kinetics.thinning(enzyme, p.enzyme.thinning_per_h, NEXT_DAY_H), 4)


def chill_command(options: Any) -> dict[str, Any]:
    """The cooling curve, the verdict of a rule, and the greatest depth that passes."""
    formula = _formula(options)
    mixture, sets = mix(formula), all_families()[formula.family].way.undisturbed
    asked = (
        options.from_c,
        options.to_c,
        options.by,
        options.mass_g,
        options.depth_mm,
        options.stirred,
        _conditions(options),
    )
    ice = _ice(options)
    if options.then is not None:
        if options.band:
            raise OutOfRange(
                "band", "with --then", "is not worked out for two ways", "Leave out one of them."
            )
        iced = {by: ice if coolings()[by].faces == "walls" else None for by in (options.by, options.then)}
        first = chill(mixture, *asked, sets=sets, ice=iced[options.by])
        then = (options.to_c, options.then, *asked[3:])
        after_s = 60 * options.after_min
        done = chill_on(mixture, first, after_s, *then, sets=sets, ice=iced[options.then])
        return answers.of_cooling(done)
    answer = answers.of_cooling(chill(mixture, *asked, sets=sets, ice=ice))
    return answer | (_banded(chill_band(mixture, *asked, sets=sets, ice=ice)) if options.band else {})


def _ice(options: Any) -> Ice | None:
    """The bath that was said; None for one with plenty of ice."""
    if options.ice_g is None and options.water_g is None:
        return None
    ice_g = 0.0 if options.ice_g is None else options.ice_g
    return Ice(ice_g, ice_g if options.water_g is None else options.water_g)


def bake_command(options: Any) -> dict[str, Any]:
    """Cups or a dish in the oven, until the centre is set."""
    mixture, asked = (
        mix(_formula(options)),
        (options.cup_ml, options.start_c, options.bath_c, _conditions(options)),
    )
    oven: dict[str, Any] = {"oven_c": options.oven_c, "bath": not options.no_bath}
    done = bake(mixture, *asked, **oven)
    if done.out_s is None:
        hours = done.t_s[-1] / 3600
        raise Impossible(
            "cup_ml",
            f"{options.cup_ml:g} ml",
            f"never sets in the middle within {hours:g} h",
            "Take a hotter bath or oven, smaller cups, or more egg.",
        )
    answer = answers.of_baking(done)
    return answer | (_banded(bake_band(mixture, *asked, **oven)) if options.band else {})


def whisk_command(options: Any) -> dict[str, Any]:
    """A foam over steam, until it is lifted."""
    stove = Stove(power_w=options.power_w, over_steam=True)
    mixture = mix(_formula(options).in_the_pan())
    asked = (options.start_c, options.lift_c, options.electric, stove, _conditions(options))
    answer = answers.of_whisking(whisk(mixture, *asked))
    return answer | (_banded(whisk_band(mixture, *asked)) if options.band else {})


def solve_command(options: Any) -> dict[str, Any]:
    """A changed formula that does what is wanted."""
    formula, conditions = _formula(options), _conditions(options)
    if options.texture is not None:
        limits = Limits(
            max_yolks=options.max_yolks,
            max_starch_g=0.0 if options.no_starch else options.max_starch_g,
            max_fat_percent=options.max_fat_percent,
            max_cost=options.max_cost,
            prices_per_kg=_prices(options.prices),
        )
        found = solve.for_texture(formula, options.texture, options.at_c, limits, conditions)
        return answers.of_solution(found)
    if options.dairy is not None:
        return answers.of_solution(solve.swap_dairy(formula, options.dairy, options.at_c, conditions))
    if options.chocolate is not None:
        return answers.of_solution(solve.swap_chocolate(formula, options.chocolate, conditions))
    smaller, thickened = solve.with_missing_yolks(formula, options.yolks_in_hand, conditions=conditions)
    return {"smaller_batch": answers.of_solution(smaller), "with_starch": answers.of_solution(thickened)}


def _prices(path: str | None) -> dict[str, float]:
    if path is None:
        return {}
    found = read_json(path, "prices")
    if not isinstance(found, dict) or not all(finite(price) >= 0 for price in found.values()):
        raise BadFormula("prices", path, "must hold a price a kilogram by ingredient, each a number from 0")
    return found


def rescue_command(options: Any) -> dict[str, Any]:
    """The remedy for a fault, weighed."""
    asked = (options.fault, options.have_g, options.over_k, _conditions(options))
    return answers.of_remedy(rescue(_formula(options), *asked))


def calibrate_command(options: Any) -> dict[str, Any]:
    """What a hob and a pan did, from a logged curve."""
    curve = read_json(options.curve, "curve")
    if isinstance(curve, dict) and isinstance(curve.get("curve"), dict):
        curve = curve["curve"]
    if not isinstance(curve, dict) or not all(isinstance(curve.get(key), list) for key in ("t_s", "sauce_c")):
        raise BadFormula("curve", options.curve, "must hold the lists t_s and sauce_c")
    try:
        t, sauce = [float(v) for v in curve["t_s"]], [float(v) for v in curve["sauce_c"]]
    except (TypeError, ValueError, OverflowError):
        raise BadFormula("curve", options.curve, "must hold numbers only") from None
    known = Stove(stir=options.stir, pan=options.pan)
    found: dict[str, Any] = plain(calibrate(mix(_formula(options).in_the_pan()), t, sauce, known))
    return found


def keep_command(options: Any) -> dict[str, Any]:
    """How long it keeps, and what standing cold, waiting warm, warming again or freezing does to it."""
    formula, conditions = _formula(options), _conditions(options)
    result, p = assess(formula, conditions), conditions.parameters
    stood = aged(options.hours, options.enzyme_left, p)
    cold_c = p.texture.cold_reference_c
    texture = texture_at(result.whole, result.stop, cold_c, cold_c, p, stood)
    answer: dict[str, Any] = {
        "keeps": answers.of_keeping(result.keeping),
        "stood": {**plain(stood), "texture": plain(texture)},
    }
    if options.warm_c is not None:
        asked = (result.pan, result.stop, options.warm_c, options.warm_h)
        answer["warm"] = answers.of_held(held_warm(*asked, conditions), result.pan, p)
    if options.reheat_c is not None:
        asked = (result.pan, result.stop, options.reheat_c, options.reheat_min)
        answer["reheated"] = answers.of_held(reheated(*asked, conditions), result.pan, p)
    if options.frozen_days is not None:
        answer["thawed"] = plain(thawed(result.whole, options.frozen_days, p))
    return answer | {"caution": answers.CODES_FIRST}


def practice_command(options: Any) -> dict[str, Any]:
    """What cooks find, beside what is computed."""
    return practice.told()


def bench_command(options: Any) -> dict[str, Any]:
    """Speed, as ratios measured in this run."""
    within("cooks", options.cooks, 1, 1_000_000)
    # Loaded only here: the general integrator it measures against takes as long to load as a whole cook.
    answer: dict[str, Any] = import_module("custard.speed").run(options.cooks)
    return answer
