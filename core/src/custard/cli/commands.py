"""What the commands of Bench and bench-side advice do: options in, plain data out."""

from __future__ import annotations

import sys
from importlib import import_module
from pathlib import Path
from types import ModuleType
from typing import Any

from custard.advice.bench import scale, solve, thickness
from custard.advice.bench.limits import Limits
from custard.advice.mix.assess import assess
from custard.advice.mix.bands import texture_band, window_band
from custard.advice.mix.churning import churning
from custard.advice.mix.used import parameters_used
from custard.advice.stove.calibrate import calibrate
from custard.advice.trouble.answer import answer, rescue
from custard.advice.trouble.kept import story_of_batch
from custard.advice.trouble.story import story_of, story_of_cups
from custard.cli import answers, given
from custard.conditions import Conditions
from custard.errors import OutOfRange, UnknownName, within
from custard.figures import plain
from custard.formats.formula_json import write_formula
from custard.mixture import mix
from custard.process.heating.cook import Stove


def assess_command(options: Any) -> dict[str, Any]:
    """Window with its band, texture, yield and allergens; freezing too for a base to churn."""
    formula, conditions = given.formula(options), given.conditions(options)
    result = assess(formula, conditions)
    answer = answers.of_assessment(result, parameters_used(formula, conditions))
    answer["window"] |= answers.banded(window_band(formula, conditions))
    answer["texture"] |= answers.banded(texture_band(formula, conditions))
    if result.family.churned:
        answer["churn"] = plain(churning(result.whole))
    return answer


def scale_command(options: Any) -> dict[str, Any]:
    """The formula at another size."""
    conditions = given.conditions(options)
    formula = given.formula(options).under(conditions)
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


def solve_command(options: Any) -> dict[str, Any]:
    """A changed formula that does what is wanted."""
    formula, conditions = given.formula(options), given.conditions(options)
    if options.texture is not None:
        limits = Limits(
            max_yolks=options.max_yolks,
            max_starch_g=0.0 if options.no_starch else options.max_starch_g,
            max_fat_percent=options.max_fat_percent,
            max_cost=options.max_cost,
            prices_per_kg=given.prices(options.prices),
        )
        ways = thickness.ways_to_texture(formula, options.texture, options.at_c, limits, conditions)
        first, *others = ways.items()
        return answers.of_solution(first[1]) | {
            "by": first[0],
            "others": [{"by": by, **answers.of_solution(one)} for by, one in others],
        }
    if options.dairy is not None:
        return answers.of_solution(solve.swap_dairy(formula, options.dairy, options.at_c, conditions))
    if options.chocolate is not None:
        return answers.of_solution(solve.swap_chocolate(formula, options.chocolate, conditions))
    smaller, thickened = solve.with_missing_yolks(formula, options.yolks_in_hand, conditions=conditions)
    return {"smaller_batch": answers.of_solution(smaller), "with_starch": answers.of_solution(thickened)}


def rescue_command(options: Any) -> dict[str, Any]:
    """The remedy for a fault, weighed."""
    asked = (options.fault, options.have_g, options.over_k, given.conditions(options))
    return answers.of_remedy(rescue(given.formula(options), *asked))


def calibrate_command(options: Any) -> dict[str, Any]:
    """What a hob and a pan did, from a logged curve."""
    t, sauce = given.curve(options.curve)
    known = Stove(stir=options.stir, pan=options.pan)
    found: dict[str, Any] = plain(calibrate(mix(given.formula(options).in_the_pan()), t, sauce, known))
    return found


def diagnose_command(options: Any) -> dict[str, Any]:
    """What made a fault that is seen, how sure that is, what to do now, and what to change."""
    content = given.read_json(options.file)
    told_of = given.told(options.say or [])
    if given.is_batch(content):
        kept = given.batch(content)
        result = assess(kept.formula, Conditions(altitude_m=kept.altitude_m))
        return answers.of_trouble(
            answer(result, options.seen, story_of_batch(result, kept), told_of, options.have_g)
        )
    # Standard input is read once: what was read of it is handed on.
    result = assess(given.formula(options, content), given.conditions(options))
    still = given.spans(options.still or [])
    story = None
    if options.curve is not None:
        t, sauce = given.curve(options.curve)
        readings = list(zip(t, sauce, strict=True))
        if result.way.in_the_oven:
            story = story_of_cups(result, readings)
        else:
            known = still if options.still else None
            story = story_of(
                result,
                readings,
                Stove(pan=options.pan),
                off_s=options.off_s,
                out_s=options.out_s,
                still=known,
            )
    return answers.of_trouble(answer(result, options.seen, story, told_of, options.have_g))


def in_the_checkout(name: str) -> ModuleType:
    """A module that stands beside the library in a checkout and does not ship with it.

    Raises
    ------
    UnknownName
        where there is no checkout.
    """
    home = Path(__file__).parents[3]
    if not (home / name.partition(".")[0]).is_dir():
        raise UnknownName("command", name, "does not ship with the library", "Run it in a checkout.")
    if str(home) not in sys.path:
        sys.path.append(str(home))
    return import_module(name)


def validation_command(options: Any) -> dict[str, Any]:
    """What cooks find, beside what is computed."""
    answer: dict[str, Any] = in_the_checkout("validation").report()
    return answer


def plan_command(options: Any) -> dict[str, Any]:
    """A day planned."""
    # Loaded only here: the solver takes longer to load than most answers take.
    answer: dict[str, Any] = import_module("custard.cli.day").plan(options)
    return answer


def _of_batches(name: str, options: Any) -> dict[str, Any]:
    """A command that learns; loaded only when it is called, for the statistics take longer to load than most
    answers take."""
    answer: dict[str, Any] = getattr(import_module("custard.cli.learning"), name)(options)
    return answer


def learn_command(options: Any) -> dict[str, Any]:
    """What a kitchen's batches teach, for the house and for each formula."""
    return _of_batches("learn_from", options)


def compare_command(options: Any) -> dict[str, Any]:
    """Why one batch came out other than another."""
    return _of_batches("compare_two", options)


def replay_command(options: Any) -> dict[str, Any]:
    """The live states of a batch, as its screens showed them."""
    return _of_batches("replay", options)


def bench_command(options: Any) -> dict[str, Any]:
    """Speed, as ratios measured in this run."""
    within("cooks", options.cooks, 1, 1_000_000)
    # Loaded only here: the general integrator it measures against takes as long to load as a whole cook.
    answer: dict[str, Any] = in_the_checkout("benchmarks.speed").run(options.cooks)
    return answer
