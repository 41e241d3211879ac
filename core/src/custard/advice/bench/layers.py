"""A dish built up in layers: how much of each batch it takes, and when the next may go on."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from custard.advice.bench.portions import dish_ml
from custard.advice.finish.additions import finishing
from custard.advice.finish.room import finished_g_ml
from custard.advice.mix.assess import Assessment
from custard.errors import within
from custard.figures import Grams, Hundredths
from custard.process.chill import chill, flows

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
    grams : what it takes of its batch in all the dishes [g]; `batches` of it as written [1].
    height_mm : how high it stands [mm].
    ready : "set" or "cool", what the next layer waits for.
    ready_c : the warmth it may then have at most [degC].
    ready_h : how long that takes in the fridge at this height [h]; None where it never comes there.
    """

    name: str
    height_mm: float
    grams: Grams
    batches: Hundredths
    ready: str
    ready_c: float
    ready_h: Hundredths | None


def layers(dish: Dish, stack: Sequence[tuple[Assessment, float]]) -> tuple[Layer, ...]:
    """The layers of a dish from the bottom up, each a formula and how high it stands [mm].

    Raises
    ------
    OutOfRange
        when a size cannot be a dish's, or there are too many layers.
    """
    within("layers", len(stack), 1, MOST_LAYERS)
    return tuple(_layer(dish, result, height_mm) for result, height_mm in stack)


def _layer(dish: Dish, result: Assessment, height_mm: float) -> Layer:
    within("height_mm", height_mm, 2, 200)
    done = finishing(result)
    ml = dish_ml(dish.shape, dish.length_cm, dish.width_cm, height_mm / 10, dish.count)
    grams = ml * finished_g_ml(result, done)
    sets = result.way.undisturbed or not flows(result.whole)
    ready_c = SET_C if sets else COOL_C
    from_c = max(ready_c + 1, min(done.from_c, result.stop.at_c))
    mass_g = max(1.0, grams / dish.count)
    cooled = chill(
        replace(result.whole, mass_g=mass_g),
        from_c,
        ready_c,
        "fridge",
        mass_g,
        height_mm,
        conditions=result.conditions,
        sets=sets,
    )
    took_s = cooled.time_to_goal_s
    return Layer(
        name=result.formula.name,
        height_mm=height_mm,
        grams=grams,
        batches=grams / result.yield_g,
        ready="set" if sets else "cool",
        ready_c=ready_c,
        ready_h=None if took_s is None else took_s / 3600,
    )
