"""Thermal properties of foods from their composition.

Polynomials of Choi & Okos 1986, recalled as printed in refrigeration handbooks (confidence high), with
two corrections of known misprints: the slope of the conductivity of fat is -2.7604e-4 (some reprints
have ten times that, which would make it negative above 65 degC), and the constant of water's heat
capacity is 4176.2. Ethanol, absent from the set, is from common tables.
"""

from __future__ import annotations

from dataclasses import dataclass

from custard.larder.tables import rows
from custard.physics.real import Real


@dataclass(frozen=True)
class Proximate:
    """Mass fractions of a mix by the classes of the property laws; they add up to 1."""

    water: Real
    protein: Real
    fat: Real
    carbohydrate: Real
    fibre: Real
    ash: Real
    ethanol: Real

    def shares(self) -> tuple[Real, ...]:
        """The fractions in the order of the property tables [1]."""
        return (self.water, self.protein, self.fat, self.carbohydrate, self.fibre, self.ash, self.ethanol)


_CLASSES = ("water", "protein", "fat", "carbohydrate", "fibre", "ash", "ethanol")


def _table(law: str) -> tuple[tuple[float, float, float], ...]:
    found = {row["component"]: row for row in rows("choi_okos") if row["property"] == law}
    return tuple((float(found[c]["a"]), float(found[c]["b"]), float(found[c]["c"])) for c in _CLASSES)


TRACE = 1e-12
"""A volume that changes nothing, next to some 1e-3 a kilogram [m3/kg]."""
_FAT = _CLASSES.index("fat")
_HEAT_CAPACITY = _table("heat_capacity")
_DENSITY = _table("density")
_CONDUCTIVITY = _table("conductivity")


def _at(abc: tuple[float, float, float], t: Real) -> Real:
    return abc[0] + abc[1] * t + abc[2] * t * t


def heat_capacity(mix: Proximate, temperature: Real) -> Real:
    """Specific heat capacity [J/kgK], the mass-weighted mean.

    Parameters
    ----------
    mix : mass fractions [1]
    temperature : temperature [degC], valid 0 to 100

    >>> whole_milk = Proximate(0.877, 0.033, 0.035, 0.0475, 0.0, 0.0075, 0.0)
    >>> 3880 < heat_capacity(whole_milk, 20) < 3930
    True
    """
    return sum(x * _at(abc, temperature) for x, abc in zip(mix.shares(), _HEAT_CAPACITY, strict=True))


def density(mix: Proximate, temperature: Real) -> Real:
    """Density [kg/m3] by adding volumes.

    Parameters
    ----------
    mix : mass fractions [1]
    temperature : temperature [degC], valid 0 to 100
    """
    return 1 / sum(x / _at(abc, temperature) for x, abc in zip(mix.shares(), _DENSITY, strict=True))


def conductivity(mix: Proximate, temperature: Real) -> Real:
    """Thermal conductivity [W/mK]: the volume-weighted mean of what is dissolved, with the fat as drops in it
    (Maxwell and Eucken, as remembered; high confidence).

    Parameters
    ----------
    mix : mass fractions [1]
    temperature : temperature [degC], valid 0 to 100
    """
    volumes = [x / _at(abc, temperature) for x, abc in zip(mix.shares(), _DENSITY, strict=True)]
    each = [_at(abc, temperature) for abc in _CONDUCTIVITY]
    drops, of_fat = volumes[_FAT], each[_FAT]
    around = sum(volumes) - drops
    between = sum(v * k for v, k in zip(volumes, each, strict=True)) - drops * of_fat
    # With a trace of itself around it, pure fat is fat.
    serum, share = (between + TRACE * of_fat) / (around + TRACE), drops / (around + drops)
    both = 2 * serum + of_fat
    return serum * (both - 2 * share * (serum - of_fat)) / (both + share * (serum - of_fat))


def enthalpy(mix: Proximate, temperature: Real) -> Real:
    """Enthalpy above 0 degC [J/kg], the integral of the heat capacity.

    Parameters
    ----------
    mix : mass fractions [1]
    temperature : temperature [degC], valid 0 to 100
    """
    t = temperature
    pairs = zip(mix.shares(), _HEAT_CAPACITY, strict=True)
    return sum(x * (a * t + b * t * t / 2 + c * t**3 / 3) for x, (a, b, c) in pairs)


def temperature_at(mix: Proximate, heat: Real) -> Real:
    """Temperature [degC] at which a mix holds that enthalpy; Newton's method on `enthalpy`.

    Parameters
    ----------
    mix : mass fractions [1]
    heat : enthalpy above 0 degC [J/kg]

    >>> water = Proximate(1, 0, 0, 0, 0, 0, 0)
    >>> round(temperature_at(water, enthalpy(water, 63.0)), 6)
    63.0
    """
    t = heat / heat_capacity(mix, 40.0)
    for _ in range(8):
        t -= (enthalpy(mix, t) - heat) / heat_capacity(mix, t)
    return t
