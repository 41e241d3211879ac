"""Coconut, nuts, oats and crumbs take up water: it goes on thickening."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

import numpy as np

from custard.errors import within
from custard.larder.ingredients import Ingredient
from custard.larder.tables import rows
from custard.process.cooling.later import LONGEST_H

MOST_OF_THE_WATER = 0.7
"""However thirsty, so much of the water at most is drawn out of a sauce; an estimate."""
OWN_G_G, OWN_H = 1.0, 3.0
"""What a kitchen's own dry thing takes up over its fibre, starch and protein [g/g], in what time [h]."""
DRY_WATER_PERCENT = 40.0
"""With more water than this a thing has drunk already."""


@dataclass(frozen=True)
class Thirst:
    """What a gram of something takes up in the end [g/g], and its time constant [h]."""

    takes_up_g_g: float
    hours: float


NO_THIRST = Thirst(0.0, OWN_H)


@cache
def thirsts() -> Mapping[str, Thirst]:
    """Everything that is known to drink, by ingredient."""
    return MappingProxyType(
        {
            row["ingredient"]: Thirst(float(row["takes_up_g_g"]), float(row["hours"]))
            for row in rows("drinking")
        }
    )


def thirst(thing: Ingredient) -> Thirst:
    """What an ingredient drinks: from the table, or from its composition for a kitchen's own."""
    if thing.id:
        return thirsts().get(thing.id, NO_THIRST)
    shares = thing.composition
    dry = shares["rest"] + shares["starch"] + shares["cocoa_solids"]
    wet = thing.form == "liquid" or shares["water"] >= DRY_WATER_PERCENT
    return Thirst(0.0 if wet else OWN_G_G * dry / 100, OWN_H)


def drunk_g(things: Iterable[tuple[Ingredient, float]], water_g: float, hours: float) -> float:
    """Water taken up after some hours [g], of a sauce that holds `water_g`.

    Raises
    ------
    OutOfRange
        when the time cannot be.
    """
    within("hours", hours, 0, LONGEST_H)
    found = 0.0
    for thing, mass_g in things:
        thirsty = thirst(thing)
        found += mass_g * thirsty.takes_up_g_g * -np.expm1(-hours / thirsty.hours)
    return float(min(found, MOST_OF_THE_WATER * water_g))
