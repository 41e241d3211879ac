"""Hot sauce onto chopped chocolate: where it lands, and whether everything melts."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from custard.figures import TenthsCelsius
from custard.formula import OFF_THE_HEAT, Formula
from custard.mixture import blend, combined, mix
from custard.physics import thermal
from custard.physics.texture import solid_cocoa_butter

LATENT_J_KG = 155_000.0
"""Melting heat of cocoa butter, form V; 150 to 160 kJ/kg, Beckett as remembered."""
MELTED_C = 35.0
"""Above this no cocoa butter is solid."""


@dataclass(frozen=True)
class OntoChocolate:
    """Landing temperature [degC], whether all melts, and the least the sauce must have for that [degC]."""

    landing_c: TenthsCelsius
    melts: bool
    least_sauce_c: TenthsCelsius


def onto_chocolate(formula: Formula, sauce_c: float, chocolate_c: float = 20.0) -> OntoChocolate | None:
    """The formula's cooked part at `sauce_c` onto its chocolate at `chocolate_c` [degC].

    Mass and heat are conserved, the melting of cocoa butter paid for. None when no chocolate joins off
    the heat.
    """
    pairs = zip(formula.lines, formula.weights_g(), strict=True)
    pieces = [
        (line.ingredient, g)
        for line, g in pairs
        if line.when == OFF_THE_HEAT and line.ingredient.group == "chocolate"
    ]
    if not pieces:
        return None
    sauce, chocolate = mix(formula.in_the_pan()), blend(pieces)
    both = combined(sauce, chocolate)
    butter_g = chocolate.mass_g * chocolate.fractions["cocoa_butter"]
    solid = float(solid_cocoa_butter(chocolate_c))

    def heat_at(temperature: float) -> float:
        still = min(solid, float(solid_cocoa_butter(temperature)))
        held = both.mass_g * thermal.enthalpy(both.proximate, temperature)
        return float(held - butter_g * still * LATENT_J_KG)

    def given(sauce_at: float) -> float:
        cold = chocolate.mass_g * thermal.enthalpy(chocolate.proximate, chocolate_c)
        hot = sauce.mass_g * thermal.enthalpy(sauce.proximate, sauce_at)
        return float(hot + cold - butter_g * solid * LATENT_J_KG)

    landing = _where(heat_at, given(sauce_c), chocolate_c, sauce_c)
    least = _where(given, heat_at(MELTED_C), chocolate_c, 150.0)
    return OntoChocolate(landing, landing >= MELTED_C, least)


def _where(rising: Callable[[float], float], goal: float, low: float, high: float) -> float:
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if rising(middle) < goal else (low, middle)
    return high
