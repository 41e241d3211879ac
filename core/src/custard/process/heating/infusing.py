"""Infusing and poaching: what the leaves hold back and what goes as steam, to be topped up."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

from custard.conditions import USUAL, Conditions
from custard.errors import OutOfRange
from custard.figures import Grams, WholeSeconds
from custard.formula import Formula
from custard.larder.tables import rows
from custard.mixture import blend
from custard.physics import evaporation
from custard.process.heating.surface import clings_g, open_surface_m2
from custard.vocabulary import When

WARM_S, WARM_C = 120.0, 85.0
"""How long and how hot the dairy steams while it is brought to the boil."""
INFUSING_C = 70.0
"""How warm it is on the whole under its lid, taken from the boil; an estimate."""
MOST_GONE = 0.9
"""However much the leaves would hold, so much of the dairy at most is gone."""


@dataclass(frozen=True)
class Infusing:
    """What an infusion takes [g].

    Attributes
    ----------
    lines : places of the infused lines in the formula.
    dairy_g : what the dairy weighs before; strained, it is brought back to that.
    held_g, steamed_g : held back by what is strained out and by pan and sieve, and gone as steam.
    left_g, top_up_g : what is left once it is strained, and what brings it back to its weight.
    seconds : how long it infuses [s].
    """

    lines: tuple[int, ...]
    names: tuple[str, ...]
    dairy_g: Grams
    held_g: Grams
    steamed_g: Grams
    left_g: Grams
    top_up_g: Grams
    seconds: WholeSeconds


@cache
def holding() -> Mapping[str, float]:
    """Dairy held back by a gram of what is infused [g/g], by ingredient; "*" for all others."""
    return MappingProxyType({row["ingredient"]: float(row["holds_g_g"]) for row in rows("infusing")})


def infusing(formula: Formula, conditions: Conditions = USUAL) -> Infusing | None:
    """What the infusing of a formula takes of its dairy; None where nothing is infused.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    """
    p = conditions.parameters
    found = formula.joining(When.INFUSED)
    if not found:
        return None
    dairy = [(line.ingredient, g) for line, g in formula.poured()]
    if not dairy:
        raise OutOfRange("lines", found[0][1].ingredient.name, "has nothing to infuse in")
    poured = blend(dairy)
    minutes = max(line.minutes or p.infuse.least_min for _, line, _ in found)
    area = open_surface_m2(poured, p)
    open_g = WARM_S * float(evaporation.flux(WARM_C))
    lidded_g = 60 * minutes * p.infuse.lid_share * float(evaporation.flux(INFUSING_C))
    steamed_g = area * p.losses.evaporation_share * (open_g + lidded_g)
    holds = holding()
    held_g = clings_g(area, p) + sum(g * holds.get(line.ingredient.id, holds["*"]) for _, line, g in found)
    dairy_g = float(poured.mass_g)
    # Nobody strains out more than there is.
    most = min(1.0, MOST_GONE * dairy_g / max(held_g + steamed_g, 1e-9))
    gone_g = most * (held_g + steamed_g)
    return Infusing(
        lines=tuple(i for i, _, _ in found),
        names=tuple(line.ingredient.name for _, line, _ in found),
        dairy_g=dairy_g,
        held_g=most * held_g,
        steamed_g=most * steamed_g,
        left_g=dairy_g - gone_g,
        top_up_g=gone_g,
        seconds=60 * minutes,
    )
