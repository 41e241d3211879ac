"""The body of a mix: the volumes that texture is made of, and how thick they make it hot."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from custard.larder.parameters import Parameters
from custard.mixture import Mixture
from custard.physics import texture
from custard.physics.real import Real

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Body:
    """The volumes that texture is made of, per volume of mix.

    Attributes
    ----------
    protein : room of all the egg protein once coagulated [1].
    starch : room of all the starch once fully swollen [1].
    room : what fat, casein and cocoa leave [1].
    particles : volume of fat, casein and cocoa [1].
    milk_fat, cocoa_butter : volume fractions [1]; `free_fat` of the milk fat that which butter brought.
    """

    protein: Real
    starch: Real
    room: Real
    particles: Real
    milk_fat: Real
    free_fat: Real
    cocoa_butter: Real

    def reduced_to(self, left: float) -> Body:
        """The same once steam has left only so much of the mix [1]: everything else is in less room."""
        particles = np.minimum(0.9, self.particles / left)
        return Body(
            protein=self.protein / left,
            starch=self.starch / left,
            room=1 - particles,
            particles=particles,
            milk_fat=self.milk_fat / left,
            free_fat=self.free_fat / left,
            cocoa_butter=self.cocoa_butter / left,
        )


def body_of(mixture: Mixture, p: Parameters) -> Body:
    """The volumes of a mix, at the density of the hot sauce."""
    density = mixture.density_kg_m3(p.texture.hot_reference_c) / 1000
    f = mixture.fractions
    egg = (f["yolk_protein"] + f["white_protein"]) * density
    milk_fat = f["fat"] * density / 0.90
    cocoa_butter = f["cocoa_butter"] * density / 0.90
    casein = f["milk_protein"] * density * p.texture.casein_volume_ml_g
    cocoa = f["cocoa_solids"] * density * p.texture.cocoa_volume_ml_g
    particles = np.minimum(0.9, milk_fat + cocoa_butter + casein + cocoa)
    return Body(
        protein=egg * p.texture.protein_swelling_ml_g,
        starch=f["starch"] * density * mixture.starch.swelling_ml_g,
        room=1 - particles,
        particles=particles,
        milk_fat=milk_fat,
        free_fat=mixture.free_fat * density / 0.90,
        cocoa_butter=cocoa_butter,
    )


def hot_yield(
    mixture: Mixture,
    vol: Body,
    thickened: Array,
    curdled: Array,
    swollen: Array,
    temperature: Array,
    p: Parameters,
    *,
    undisturbed: bool = False,
) -> Array:
    """Yield stress [Pa] of the cooking mix; `swollen` is the swollen share of its starch [1].

    Fat is taken as liquid: this is the sauce in the pan, not in the fridge.
    """
    protein = vol.protein * thickened * (1 - curdled)
    granules = vol.starch * swollen
    base = texture.network_yield(
        protein,
        granules,
        vol.room,
        np.inf if undisturbed else p.texture.stirred_limit_pa,
        texture.Network(
            p.texture.crowding_exponent,
            p.texture.network_blend,
            p.texture.yield_scale_pa,
            p.texture.yield_slope,
            p.texture.yield_limit_pa,
        ),
    )
    return np.asarray(base * _firming(protein, granules, mixture.starch.setback, temperature, p))


def _firming(
    protein: Array, granules: Array, starch_setback: float, temperature: Array, p: Parameters
) -> Array:
    """Set-back of the two networks [1], weighted by the room each fills."""
    total = np.maximum(protein + granules, 1e-9)
    cold = (protein * p.texture.protein_setback + granules * starch_setback) / total
    bounded = np.maximum(cold, 1.0)
    return np.asarray(
        texture.setback(temperature, p.texture.hot_reference_c, p.texture.cold_reference_c, bounded)
    )
