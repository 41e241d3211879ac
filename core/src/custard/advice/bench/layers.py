"""A dish built up in layers: how much of each batch it takes, and when the next may go on."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from custard.advice.bench.portions import dish_ml
from custard.advice.finish.additions import finishing
from custard.advice.finish.room import finished_g_ml
from custard.advice.mix.assess import Assessment
from custard.conditions import USUAL, Conditions
from custard.errors import OutOfRange, within
from custard.figures import Grams, Hundredths, Tenths
from custard.larder.ingredients import Ingredient
from custard.process.cooling.chill import CooledBy, chill, flows
from custard.process.whisking.folding import whips

SET_C, COOL_C = 8.0, 20.0
"""What has set carries another layer below this; what flows is only to be cool. Practice as remembered."""
MOST_LAYERS = 12


@dataclass(frozen=True)
class Dish:
    """The dish a thing is built in, as in `portions.dish_ml` [cm], and how many of them."""

    shape: str
    length_cm: float
    width_cm: float = 1.0
    count: float = 1.0


@dataclass(frozen=True)
class Layer:
    """One layer of a built-up dish.

    Attributes
    ----------
    grams : what it takes of its batch in all the dishes [g]; `batches` of it as written [1], None for a
        thing as it is bought.
    height_mm : how high it stands [mm].
    ready : "set" or "cool", what the next layer waits for; "" where it waits for nothing.
    ready_c : the warmth it may then have at most [degC].
    ready_h : how long that takes in the fridge at this height [h]; None where it never comes there.
    """

    name: str
    height_mm: Tenths
    grams: Grams
    batches: Hundredths | None
    ready: str
    ready_c: float | None
    ready_h: Hundredths | None


@dataclass(frozen=True)
class Course:
    """What a layer is to be.

    Attributes
    ----------
    made : a formula as assessed, or a thing as it is bought: biscuits, cake, fruit; cream is whipped.
    height_mm, grams : how high it stands in each dish [mm], or what goes into all of them [g]; one of them.
    """

    made: Assessment | Ingredient
    height_mm: float | None = None
    grams: float | None = None


def layers(dish: Dish, stack: Sequence[Course], conditions: Conditions = USUAL) -> tuple[Layer, ...]:
    """The layers of a dish from the bottom up, each by its height or its weight.

    Parameters
    ----------
    dish : what it is built in.
    stack : what is laid in it, from the bottom up.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.

    Raises
    ------
    OutOfRange
        when a size cannot be a dish's, a layer has neither height nor weight, or there are too many.
    """
    within("layers", len(stack), 1, MOST_LAYERS)
    return tuple(_layer(dish, one, conditions) for one in stack)


def _layer(dish: Dish, course: Course, conditions: Conditions) -> Layer:
    made = course.made
    if isinstance(made, Ingredient):
        g_ml = bulk_g_ml(made, conditions)
    else:
        g_ml = finished_g_ml(made, finishing(made))
    a_millimetre = dish_ml(dish.shape, dish.length_cm, dish.width_cm, 1.0, dish.count) / 10 * g_ml
    if course.grams is not None:
        height_mm = course.grams / a_millimetre
    elif course.height_mm is not None:
        height_mm = course.height_mm
    else:
        raise OutOfRange("height_mm", "", "is missing: say how high it stands, or how much it is")
    within("height_mm", height_mm, 1, 200)
    grams = height_mm * a_millimetre
    if isinstance(made, Ingredient):
        return Layer(made.name, height_mm, grams, None, "", None, 0.0)
    sets = made.way.undisturbed or not flows(made.whole)
    ready_c = SET_C if sets else COOL_C
    from_c = max(ready_c + 1, min(finishing(made).from_c, made.stop.at_c))
    mass_g = max(1.0, grams / dish.count)
    cooled = chill(
        replace(made.whole, mass_g=mass_g),
        from_c,
        ready_c,
        CooledBy("fridge", sets=sets),
        mass_g,
        height_mm,
        made.conditions,
    )
    took_s = cooled.time_to_goal_s
    return Layer(
        name=made.formula.name,
        height_mm=height_mm,
        grams=grams,
        batches=grams / made.yield_g,
        ready="set" if sets else "cool",
        ready_c=ready_c,
        ready_h=None if took_s is None else took_s / 3600,
    )


def is_laid(thing: Ingredient) -> bool:
    """Whether a thing is a layer as it is bought: biscuits, cake, fruit; or cream, which is whipped.

    Parameters
    ----------
    thing : an ingredient.
    """
    return thing.group in ("dry", "fruit") or whips(thing)


def bulk_g_ml(thing: Ingredient, conditions: Conditions = USUAL) -> float:
    """What a millilitre of a thing weighs as it lies in a dish: cream whipped, the rest level [g/ml]."""
    if whips(thing):
        return thing.density_g_ml / (1 + conditions.parameters.finish.cream_overrun)
    return thing.level_g_ml
