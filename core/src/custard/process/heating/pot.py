"""A sauce off the heat and what is stirred into it: mass and heat are conserved, melting fat is paid for."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from custard.mixture import Mixture, combined
from custard.physics import thermal
from custard.physics.texture import solid_cocoa_butter, solid_milk_fat

COCOA_BUTTER_J_KG = 155_000.0
"""Melting heat of cocoa butter, form V; 150 to 160 kJ/kg, Beckett as remembered."""
MILK_FAT_J_KG = 80_000.0
"""Melting heat of milk fat; 70 to 90 kJ/kg, Walstra as remembered."""
COLDEST_C, HOTTEST_C = -20.0, 150.0


@dataclass(frozen=True)
class Pot:
    """What has been put together so far: a mix, how warm it is [degC], and its fat that is solid [g].

    Fat once melted does not set again while things are being stirred in: it takes its time.
    """

    mixture: Mixture
    at_c: float
    solid_cocoa_g: float
    solid_milk_g: float

    @property
    def mass_g(self) -> float:
        """Its mass [g]."""
        return float(self.mixture.mass_g)

    def heat_j(self, at_c: float | None = None) -> float:
        """Its heat over liquid fat at 0 degC [J], as it is or once it has come to a temperature [degC]."""
        t = self.at_c if at_c is None else at_c
        held = self.mass_g / 1000 * thermal.enthalpy(self.mixture.proximate, t)
        fractions = self.mixture.fractions
        cocoa_g = min(self.solid_cocoa_g, self.mass_g * fractions["cocoa_butter"] * solid_cocoa_butter(t))
        milk_g = min(self.solid_milk_g, self.mass_g * fractions["fat"] * solid_milk_fat(t))
        return float(held - cocoa_g / 1000 * COCOA_BUTTER_J_KG - milk_g / 1000 * MILK_FAT_J_KG)


def laid_out(mixture: Mixture, at_c: float) -> Pot:
    """Something as it lies ready at a temperature [degC], with as much of its fat solid as is then."""
    fractions, mass_g = mixture.fractions, float(mixture.mass_g)
    return Pot(
        mixture,
        at_c,
        mass_g * float(fractions["cocoa_butter"] * solid_cocoa_butter(at_c)),
        mass_g * float(fractions["fat"] * solid_milk_fat(at_c)),
    )


def stirred(first: Pot, second: Pot) -> Pot:
    """Two together, at the temperature at which they hold as much heat as both did."""
    both = Pot(
        combined(first.mixture, second.mixture),
        0.0,
        first.solid_cocoa_g + second.solid_cocoa_g,
        first.solid_milk_g + second.solid_milk_g,
    )
    low, high = sorted((first.at_c, second.at_c))
    t = rising_to(both.heat_j, first.heat_j() + second.heat_j(), low, high)
    fractions = both.mixture.fractions
    return Pot(
        both.mixture,
        t,
        min(both.solid_cocoa_g, both.mass_g * float(fractions["cocoa_butter"] * solid_cocoa_butter(t))),
        min(both.solid_milk_g, both.mass_g * float(fractions["fat"] * solid_milk_fat(t))),
    )


def rising_to(rising: Callable[[float], float], goal: float, low: float, high: float) -> float:
    """Where a rising function comes to a goal between two ends, by halving."""
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if rising(middle) < goal else (low, middle)
    return high
