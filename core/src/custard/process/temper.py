"""Tempering: hot dairy into cold yolks, by enthalpy."""

from __future__ import annotations

from dataclasses import dataclass

from custard.formula import IN_THE_PAN, Formula
from custard.larder.ingredients import Ingredient
from custard.larder.parameters import Parameters, standard
from custard.mixture import Mixture, blend
from custard.physics import thermal

BOWL_GROUPS = ("egg", "starch", "sugar")
"""What is whisked in the bowl before the dairy goes in; sugar is counted half here, half in the pan."""


@dataclass(frozen=True)
class Sides:
    """The two things that meet: the bowl (yolks, half the sugar, starch) and the hot dairy."""

    bowl: Mixture
    dairy: Mixture


def sides(formula: Formula) -> Sides | None:
    """How a formula divides for tempering; None when there is nothing to pour, or nothing to pour into.

    The sugar is split half and half, the commonest school.
    """
    bowl: list[tuple[Ingredient, float]] = []
    dairy: list[tuple[Ingredient, float]] = []
    for line, mass in zip(formula.lines, formula.weights_g(), strict=True):
        if line.when != IN_THE_PAN:
            continue
        group = line.ingredient.group
        if group == "sugar":
            bowl.append((line.ingredient, mass / 2))
            dairy.append((line.ingredient, mass / 2))
        elif group in BOWL_GROUPS:
            bowl.append((line.ingredient, mass))
        else:
            dairy.append((line.ingredient, mass))
    has_egg = any(ingredient.group == "egg" for ingredient, _ in bowl)
    has_dairy = any(ingredient.group != "sugar" for ingredient, _ in dairy)
    return Sides(blend(bowl), blend(dairy)) if has_egg and has_dairy else None


def mixed_c(first: Mixture, first_c: float, second: Mixture, second_c: float) -> float:
    """Temperature [degC] after mixing two mixes, conserving mass and enthalpy."""
    mass = first.mass_g + second.mass_g
    heat = first.mass_g * thermal.enthalpy(first.proximate, first_c)
    heat += second.mass_g * thermal.enthalpy(second.proximate, second_c)
    return thermal.temperature_at(_together(first, second), heat / mass)


def _together(first: Mixture, second: Mixture) -> thermal.Proximate:
    mass = first.mass_g + second.mass_g
    a, b = first.proximate, second.proximate
    shares = {
        name: (first.mass_g * getattr(a, name) + second.mass_g * getattr(b, name)) / mass
        for name in a.__dataclass_fields__
    }
    return thermal.Proximate(**shares)


def landing_c(
    formula: Formula, hot_c: float, bowl_c: float = 20.0, p: Parameters | None = None
) -> float | None:
    """Where the mix lands [degC] once all the dairy at `hot_c` has met the bowl at `bowl_c`.

    The dairy cools on its way from pan to bowl, and the bowl itself is warmed. None when the formula
    has nothing to temper.
    """
    parts = sides(formula)
    if parts is None:
        return None
    losses = (p or standard()).temper
    poured_c = max(bowl_c, hot_c - losses.pour_loss_k)
    met_c = mixed_c(parts.bowl, bowl_c, parts.dairy, poured_c)
    mix_j_kgk = thermal.heat_capacity(_together(parts.bowl, parts.dairy), met_c)
    return (mix_j_kgk * met_c + losses.bowl_j_kgk * bowl_c) / (mix_j_kgk + losses.bowl_j_kgk)
