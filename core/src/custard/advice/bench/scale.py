"""The same formula at the size that is wanted."""

from __future__ import annotations

from custard.advice.finish.additions import finishing
from custard.advice.finish.room import finished_g_ml
from custard.advice.mix.assess import assess
from custard.conditions import USUAL, Conditions
from custard.errors import OutOfRange, within
from custard.formula import MAX_TOTAL_G, Formula
from custard.mixture import mix

HOT_C = 80.0
ROUNDS = 4
"""Losses do not grow quite as the mass does, so the finished amount is approached in rounds."""

HEAD_ROOM = 0.4
"""Share of a pan left free, so that it can be stirred hard and can rise; common practice as remembered."""


def for_finished_g(formula: Formula, finished_g: float, conditions: Conditions = USUAL) -> Formula:
    """Rescaled so that `finished_g` grams reach the jug, after evaporation, pan and sieve.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    finished_g : what is to reach the jug [g], above 0.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    """
    if not 0 < finished_g <= MAX_TOTAL_G:
        raise OutOfRange("finished_g", finished_g, f"must be more than 0 and at most {MAX_TOTAL_G:.0f}")
    factor = 1.0
    for _ in range(ROUNDS):
        reached = assess(formula.times(factor), conditions).yield_g
        factor *= finished_g / max(reached, 1e-3 * finished_g)
    return formula.times(factor)


def for_portions(
    formula: Formula, portions: float, portion_g: float, conditions: Conditions = USUAL
) -> Formula:
    """Rescaled for `portions` plates of `portion_g` grams each, finished.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    portions : how many [1], above 0, up to 10000.
    portion_g : what each weighs, finished [g], above 0, up to 5000.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    """
    if not 0 < portions <= 10_000:
        raise OutOfRange("portions", portions, "must be more than 0 and at most 10000")
    if not 0 < portion_g <= 5_000:
        raise OutOfRange("portion_g", portion_g, "must be more than 0 and at most 5000")
    return for_finished_g(formula, portions * portion_g, conditions)


def for_dish(
    formula: Formula, dish_ml: float, filled: float = 1.0, conditions: Conditions = USUAL
) -> Formula:
    """Rescaled to fill a dish of `dish_ml` millilitres to the share `filled`, finished and cooled.

    A foam and what is folded in count with their air.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    dish_ml : what the dish holds to the rim [ml].
    filled : share of it that is filled [0 to 1].
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    """
    if not 0 < dish_ml <= MAX_TOTAL_G:
        raise OutOfRange("dish_ml", dish_ml, f"must be more than 0 and at most {MAX_TOTAL_G:.0f}")
    if not 0 < filled <= 1:
        raise OutOfRange("filled", filled, "must be more than 0 and at most 1")
    result = assess(formula, conditions)
    g_ml = finished_g_ml(result, finishing(result))
    return for_finished_g(formula, dish_ml * filled * g_ml, conditions)


def finished_ml(formula: Formula, conditions: Conditions = USUAL) -> float:
    """Room [ml] that all that reaches the dish takes, finished and cooled, with its air.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    """
    result = assess(formula, conditions)
    return result.yield_g / finished_g_ml(result, finishing(result))


def hot_ml(formula: Formula) -> float:
    """Room [ml] that what is heated takes in the pan, hot."""
    heated = mix(formula.in_the_pan())
    return float(heated.mass_g / (heated.density_kg_m3(HOT_C) / 1000))


def for_pan(formula: Formula, pan_ml: float, head_room: float = HEAD_ROOM) -> Formula:
    """Rescaled to the most that a pan of `pan_ml` millilitres takes with `head_room` of it left free.

    What is in the pan at the stove counts, hot; what joins off the heat does not.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    pan_ml : what the pan holds to the rim [ml], above 0.
    head_room : share of the pan left free [0 to 1].
    """
    if not 0 < pan_ml <= MAX_TOTAL_G:
        raise OutOfRange("pan_ml", pan_ml, f"must be more than 0 and at most {MAX_TOTAL_G:.0f}")
    within("head_room", head_room, 0, 0.9)
    return formula.times(pan_ml * (1 - head_room) / hot_ml(formula))
