"""What a formula becomes in the bowl: its composition, and what the physics needs to know of it.

A mixture's numbers may be arrays of one length: then it is a whole map of mixes, and every law computes all
of them at once.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from types import MappingProxyType

import numpy as np

from custard.formula import Formula
from custard.larder.ingredients import COMPONENTS, EGG_PROTEINS, SUGARS, Ingredient
from custard.larder.starches import all_kinds
from custard.physics import thermal
from custard.physics.real import Real

NEUTRAL_PH = 7.0
GELATINE_BLOOM = 200.0
NOTHING = 1e-12
"""Stands in for a mass that is not there, where something is divided by it."""


@dataclass(frozen=True)
class Mixture:
    """A uniform mix, or a map of them.

    Attributes
    ----------
    mass_g : total mass [g].
    fractions : mass fraction of each component; they add up to 1.
    starch_by_kind : mass fraction of each kind of starch.
    dextrin : mass fraction of oligosaccharides, part of `rest`.
    free_fat : mass fraction of butter's fat, part of `fat`: it is in no droplets.
    gelatine : mass fraction of gelatine, as if all were of `GELATINE_BLOOM`.
    ph : buffer-weighted pH of the mix.
    """

    mass_g: Real
    fractions: Mapping[str, Real]
    starch_by_kind: Mapping[str, Real]
    dextrin: Real
    free_fat: Real
    gelatine: Real
    ph: Real

    @cached_property
    def sugars(self) -> Real:
        """Mass fraction of all sugars."""
        return sum(self.fractions[name] for name in SUGARS)

    @cached_property
    def aqueous(self) -> Real:
        """Mass fraction of the aqueous phase: water, sugars and ethanol."""
        return self.fractions["water"] + self.sugars + self.fractions["ethanol"]

    def _in_aqueous(self, part: Real) -> Real:
        return 100 * part * (self.aqueous > 0) / np.maximum(self.aqueous, NOTHING)

    @cached_property
    def sugars_in_aqueous_percent(self) -> Real:
        """S: percent of sugars in the aqueous phase."""
        return self._in_aqueous(self.sugars)

    @cached_property
    def ethanol_in_aqueous_percent(self) -> Real:
        """E: percent of ethanol in the aqueous phase."""
        return self._in_aqueous(self.fractions["ethanol"])

    @cached_property
    def starch_in_aqueous_percent(self) -> Real:
        """Dry starch over the aqueous phase, percent."""
        return self._in_aqueous(self.fractions["starch"])

    @cached_property
    def serum_solids_percent(self) -> Real:
        """Sugars and dextrins in the serum they are dissolved in, percent; sets its viscosity."""
        dissolved = self.sugars + self.dextrin
        serum = self.aqueous + self.dextrin
        return 100 * dissolved / np.maximum(serum, NOTHING)

    @cached_property
    def egg_protein_percent(self) -> Real:
        """p: egg protein as percent of the whole mix."""
        return 100 * sum(self.fractions[name] for name in EGG_PROTEINS)

    @cached_property
    def proximate(self) -> thermal.Proximate:
        """Mass fractions by the classes of the thermal property laws."""
        f = self.fractions
        return thermal.Proximate(
            water=f["water"],
            protein=f["yolk_protein"] + f["white_protein"] + f["milk_protein"],
            fat=f["fat"] + f["cocoa_butter"],
            carbohydrate=self.sugars + f["starch"] + f["rest"] + f["acid"],
            fibre=f["cocoa_solids"],
            ash=f["salt"],
            ethanol=f["ethanol"],
        )

    def density_kg_m3(self, temperature_c: float) -> Real:
        """Density [kg/m3] at a temperature [degC]."""
        return thermal.density(self.proximate, temperature_c)

    def heat_capacity_j_kgk(self, temperature_c: float) -> Real:
        """Specific heat capacity [J/kgK] at a temperature [degC]."""
        return thermal.heat_capacity(self.proximate, temperature_c)

    def conductivity_w_mk(self, temperature_c: float) -> Real:
        """Thermal conductivity [W/mK] at a temperature [degC]."""
        return thermal.conductivity(self.proximate, temperature_c)

    @cached_property
    def starch(self) -> BlendedStarch:
        """The starches of the mix as one, weighted by mass; maize's rates when there is none."""
        kinds = all_kinds()
        total = sum(self.starch_by_kind.values())
        none = 1.0 * (total <= 0)

        def mean(attribute: str) -> Real:
            parts = sum(part * getattr(kinds[kind], attribute) for kind, part in self.starch_by_kind.items())
            return (parts + none * getattr(kinds["maize"], attribute)) / (total + none)

        return BlendedStarch(
            reference_c=mean("reference_c"),
            rate_per_s=mean("rate_per_s"),
            z_k=mean("z_k"),
            swelling_ml_g=mean("swelling_ml_g"),
            setback=mean("setback"),
            weeps=mean("weeps"),
        )


@dataclass(frozen=True)
class BlendedStarch:
    """The starches of one mix taken together; fields as in `larder.starches.StarchKind`."""

    reference_c: Real
    rate_per_s: Real
    z_k: Real
    swelling_ml_g: Real
    setback: Real
    weeps: Real


def blend(parts: Iterable[tuple[Ingredient, Real]]) -> Mixture:
    """A uniform mix of ingredients with their masses [g]; masses may be arrays of one length.

    Mass is conserved component by component; pH is the mean weighted by buffering.
    """
    pairs = [(ingredient, mass) for ingredient, mass in parts if np.any(mass > 0)]
    total = sum(mass for _, mass in pairs)
    sums: dict[str, Real] = dict.fromkeys(COMPONENTS, 0.0)
    kinds: dict[str, Real] = {}
    dextrin: Real = 0.0
    free_fat: Real = 0.0
    gelatine: Real = 0.0
    buffering: Real = 0.0
    acidity: Real = 0.0
    for ingredient, mass in pairs:
        for name in COMPONENTS:
            sums[name] = sums[name] + mass * ingredient.composition[name] / 100
        if ingredient.starch_kind:
            starch = mass * ingredient.composition["starch"] / 100
            kinds[ingredient.starch_kind] = kinds.get(ingredient.starch_kind, 0.0) + starch
        dextrin = dextrin + mass * ingredient.dextrin / 100
        if ingredient.is_butter:
            free_fat = free_fat + mass * ingredient.composition["fat"] / 100
        gelatine = gelatine + mass * ingredient.bloom / GELATINE_BLOOM
        buffering = buffering + mass * ingredient.buffer
        acidity = acidity + mass * ingredient.buffer * ingredient.ph
    return Mixture(
        mass_g=total,
        fractions=MappingProxyType({name: part / total for name, part in sums.items()}),
        starch_by_kind=MappingProxyType({kind: part / total for kind, part in kinds.items()}),
        dextrin=dextrin / total,
        free_fat=free_fat / total,
        gelatine=gelatine / total,
        ph=(acidity + NEUTRAL_PH * (buffering <= 0)) / (buffering + (buffering <= 0)),
    )


def dried(mixture: Mixture, left: float) -> Mixture:
    """A mix of which steam has left so much [1]: the water is gone, and nothing else.

    Acid and buffers are in what is left; its pH is taken to be that of before.
    """
    gone = min(1 - left, float(mixture.fractions["water"]))
    rest = 1 - gone
    parts = {name: part / rest for name, part in mixture.fractions.items()}
    parts["water"] = (mixture.fractions["water"] - gone) / rest
    return replace(
        mixture,
        mass_g=rest * mixture.mass_g,
        fractions=MappingProxyType(parts),
        starch_by_kind=MappingProxyType({kind: part / rest for kind, part in mixture.starch_by_kind.items()}),
        dextrin=mixture.dextrin / rest,
        free_fat=mixture.free_fat / rest,
        gelatine=mixture.gelatine / rest,
    )


def combined(first: Mixture, second: Mixture) -> Mixture:
    """Two mixes as one; mass is conserved component by component."""
    total = first.mass_g + second.mass_g
    a, b = first.mass_g / total, second.mass_g / total
    kinds = {**first.starch_by_kind, **second.starch_by_kind}
    return Mixture(
        mass_g=total,
        fractions=MappingProxyType(
            {name: a * first.fractions[name] + b * second.fractions[name] for name in COMPONENTS}
        ),
        starch_by_kind=MappingProxyType(
            {
                kind: a * first.starch_by_kind.get(kind, 0.0) + b * second.starch_by_kind.get(kind, 0.0)
                for kind in kinds
            }
        ),
        dextrin=a * first.dextrin + b * second.dextrin,
        free_fat=a * first.free_fat + b * second.free_fat,
        gelatine=a * first.gelatine + b * second.gelatine,
        ph=a * first.ph + b * second.ph,
    )


def mix(formula: Formula) -> Mixture:
    """The uniform mix of all a formula's lines.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    """
    return blend(zip((line.ingredient for line in formula.lines), formula.weights_g(), strict=True))
