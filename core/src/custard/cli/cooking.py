"""What the commands that cook, cool and keep do: options in, plain data out."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from custard.advice.after.life import life
from custard.advice.after.safe import judge, since
from custard.advice.finish.additions import finishing
from custard.advice.mix.assess import assess
from custard.advice.mix.bands import bake_band, chill_band, cook_band, temper_band, whisk_band
from custard.advice.mix.keeping import keeping
from custard.advice.mix.texture import texture_at
from custard.advice.trouble.remedies.rescued import curds
from custard.cli import answers, given
from custard.errors import Impossible, OutOfRange
from custard.figures import plain
from custard.larder.families import all_families
from custard.larder.parameters import Parameters
from custard.larder.vessels import coolings
from custard.mixture import Mixture, mix
from custard.physics import kinetics
from custard.process.baking.bake import HOLDS_PA, bake, set_pa
from custard.process.cooling.chill import Chill, CooledBy, chill, chill_on
from custard.process.cooling.chocolate import onto_chocolate
from custard.process.cooling.later import aged, held_warm, reheated, thawed
from custard.process.heating import kernel
from custard.process.heating.cook import NEVER_CLEARANCE, Stove, cook
from custard.process.heating.infusing import infusing
from custard.process.heating.state import State, left_of, state_of
from custard.process.heating.temper import temper
from custard.process.whisking.whisk import whisk

NEXT_DAY_H = 24.0


def temper_command(options: Any) -> dict[str, Any]:
    """Pour by pour, the landing, the worst spot, and what is left to heat."""
    formula, conditions = given.formula(options), given.conditions(options)
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
        answer |= answers.banded(temper_band(formula, *asked))
    return answer


def cook_command(options: Any) -> dict[str, Any]:
    """The curve of one cook, what it left in the sieve, and what the sauce is like."""
    conditions = given.conditions(options)
    formula, p = given.formula(options).under(conditions), conditions.parameters
    pan, stove = mix(formula.in_the_pan()), given.stove(options, formula)
    held = (options.hold_s, options.left_in_pan_s)
    done = cook(pan, options.start_c, options.lift_c, stove, *held, conditions=conditions)
    state = state_of(done.final, float(pan.mass_g), boiled=False, undisturbed=stove.stir == "none")
    landing = onto_chocolate(formula, state.at_c)
    bands = (
        answers.banded(cook_band(pan, options.start_c, options.lift_c, stove, *held, conditions=conditions))
        if options.band
        else {}
    )
    enzyme, steamed_g = float(done.final[kernel.AMYLASE]), float(done.final[kernel.STEAMED_G])
    hot = texture_at(pan, state, state.at_c, min(p.spoon.spoon_c, state.at_c), p)
    return {
        "curve": done.curve_json(),
        **bands,
        "lift_s": None if done.lift_s is None else round(done.lift_s, 2),
        "peak_c": round(done.peak_c, 3),
        "base_peak_c": round(float(done.column(kernel.BASE_C).max()), 1),
        "thickened": round(state.thickened, 5),
        "curdled": round(state.curdled, 5),
        "curds": curds(state.curdled, pan.starch_in_aqueous_percent),
        "texture": {"hot": plain(hot), "cold": _cold(mix(formula), state, steamed_g, p)},
        "bits_percent": round(done.bits_percent, 3),
        "caught": done.caught,
        "steamed_g": round(steamed_g, 1),
        "left_g": round(float(pan.mass_g) - steamed_g, 1),
        "enzyme_left": round(enzyme, 6) if pan.starch_in_aqueous_percent > 0 else None,
        "thins_by_tomorrow": _thinning(pan, enzyme, p),
        "onto_chocolate": plain(landing),
        "salmonella_logs": answers.logs(float(done.final[kernel.LOGS])),
        "caution": NEVER_CLEARANCE,
    }


def _cold(whole: Mixture, state: State, steamed_g: float, p: Parameters) -> dict[str, Any]:
    """Cold, with what joins after the heat: of the whole, the same steam has taken a smaller share."""
    cold, left = p.texture.cold_reference_c, left_of(float(whole.mass_g), steamed_g)
    found: dict[str, Any] = plain(texture_at(whole, replace(state, left=left), cold, cold, p))
    return found


def _thinning(pan: Mixture, enzyme: float, p: Parameters) -> float | None:
    """Share of a starch cream's network that its yolk's enzyme eats by tomorrow."""
    if pan.starch_in_aqueous_percent <= 0 or pan.fractions["yolk_protein"] <= 0:
        return None
    return round(kinetics.thinning(enzyme, p.enzyme.thinning_per_h, NEXT_DAY_H), 4)


def chill_command(options: Any) -> dict[str, Any]:
    """The cooling curve, the verdict of a rule, and the greatest depth that passes."""
    formula = given.formula(options)
    mixture, sets = mix(formula), all_families()[formula.family].way.undisturbed
    stirred = options.stirred or options.stirred_every_min is not None
    lying = (options.mass_g, options.depth_mm, given.conditions(options))
    ice, every_s = given.ice(options), given.every_s(options)
    if options.then is None:
        how = CooledBy(options.by, stirred, every_s, sets, ice)
        asked = (mixture, options.from_c, options.to_c, how, *lying)
        answer = answers.of_cooling(chill(*asked))
        return answer | (answers.banded(chill_band(*asked)) if options.band else {})
    if options.band:
        raise OutOfRange("band", "with --then", "is not worked out for two ways", "Leave out one of them.")

    def cooled(from_c: float, by: str) -> Chill:
        iced = ice if coolings()[by].faces == "walls" else None
        how = CooledBy(by, stirred, every_s, sets, iced)
        return chill(mixture, from_c, options.to_c, how, *lying)

    first = cooled(options.from_c, options.by)
    both = chill_on(
        first,
        60 * options.after_min,
        lambda from_c: cooled(from_c, options.then),
        options.to_c,
        mixes=every_s is not None,
    )
    return answers.of_cooling(both)


def bake_command(options: Any) -> dict[str, Any]:
    """Cups or a dish in the oven, until the centre is set."""
    mixture, asked = (
        mix(given.formula(options).in_the_pan()),
        (options.cup_ml, options.start_c, options.bath_c, given.conditions(options)),
    )
    oven: dict[str, Any] = {"oven_c": options.oven_c, "bath": not options.no_bath}
    done = bake(mixture, *asked, **oven)
    if done.out_s is None and set_pa(mixture, given.conditions(options).parameters) < HOLDS_PA:
        egg = f"{float(mixture.egg_protein_percent):.1f} % of egg protein"
        raise Impossible("formula", egg, "is too little to set", "Add egg, or starch.")
    if done.out_s is None:
        hours = done.t_s[-1] / 3600
        raise Impossible(
            "cup_ml",
            f"{options.cup_ml:g} ml",
            f"never sets in the middle within {hours:g} h",
            "Take a hotter bath or oven, smaller cups, or more egg.",
        )
    answer = answers.of_baking(done)
    return answer | (answers.banded(bake_band(mixture, *asked, **oven)) if options.band else {})


def finish_command(options: Any) -> dict[str, Any]:
    """What joins after the heat, in order, and what comes of it."""
    result = assess(given.formula(options), given.conditions(options))
    infusion = infusing(result.formula, result.conditions)
    return answers.of_finishing(finishing(result, options.dish_cm), infusion)


def whisk_command(options: Any) -> dict[str, Any]:
    """A foam over steam, until it is lifted."""
    stove = None if options.power_w is None else Stove(power_w=options.power_w, over_steam=True)
    mixture = mix(given.formula(options).in_the_pan())
    asked = (options.start_c, options.lift_c, options.electric, stove, given.conditions(options))
    answer = answers.of_whisking(whisk(mixture, *asked))
    return answer | (answers.banded(whisk_band(mixture, *asked)) if options.band else {})


def keep_command(options: Any) -> dict[str, Any]:
    """How long it keeps, and what standing cold, waiting warm, warming again or freezing does to it."""
    formula, conditions = given.formula(options), given.conditions(options)
    result, p = assess(formula, conditions), conditions.parameters
    stood = aged(options.hours, options.enzyme_left, p)
    cold_c = p.texture.cold_reference_c
    texture = texture_at(result.whole, result.stop, cold_c, cold_c, p, stood)
    hottest_c = result.stop.at_c if options.hottest_c is None else options.hottest_c
    sugars = result.whole.sugars_in_aqueous_percent
    keeps = keeping(formula, result.family, hottest_c, sugars, cooled=not options.cooled_too_slowly)
    known = life(result, cooled=not options.cooled_too_slowly, hottest_c=hottest_c)
    warm_h = options.warm_h if options.warm_c is not None else 0.0
    frozen_days = options.frozen_days or 0.0
    happened = since(options.hours, warm_h=warm_h, warm_c=options.warm_c, frozen_days=frozen_days)
    answer: dict[str, Any] = {
        "keeps": answers.of_keeping(keeps),
        "now": answers.of_judgement(judge(known, *happened)),
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
