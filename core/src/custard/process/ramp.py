"""The standard cook: a mix warmed at a steady rate, seen at every temperature on the way.

On a ramp every first-order law integrates in closed form, so the whole of it is a few array
expressions; anything with a pan, a flame and a cook is simulated instead.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from custard.larder.parameters import Parameters
from custard.mixture import Mixture
from custard.physics import coagulation, starch, texture
from custard.physics.real import Real

START_C = 20.0
STEP_K = 0.05
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


@dataclass(frozen=True)
class Ramp:
    """State of the mix along the ramp; equally long arrays.

    Attributes
    ----------
    temperature_c : temperature [degC].
    thickened, curdled, gelatinised : degrees [0 to 1].
    yield_pa : yield stress at that temperature [Pa].
    undisturbed : it sets without being stirred.
    """

    temperature_c: Array
    thickened: Array
    curdled: Array
    gelatinised: Array
    yield_pa: Array
    undisturbed: bool


def body(mixture: Mixture, p: Parameters) -> Body:
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


def setting_c(mixture: Mixture, p: Parameters) -> Real:
    """Setting temperature of a mix [degC]."""
    return coagulation.setting_temperature(
        mixture.egg_protein_percent,
        mixture.sugars_in_aqueous_percent,
        mixture.ethanol_in_aqueous_percent,
        mixture.ph,
        p.coagulation,
    )


def starch_delay_k(mixture: Mixture, p: Parameters) -> Real:
    """How much sugar delays the starch of a mix [K]."""
    s = mixture.sugars_in_aqueous_percent
    return starch.sugar_shift(s, p.starch.sugar_shift_k, p.starch.sugar_shift_k2)


def curdling_gap_k(mixture: Mixture, p: Parameters, *, undisturbed: bool = False) -> Real:
    """How far above setting a mix curdles without starch [K]."""
    return coagulation.curdling_gap(mixture.sugars_in_aqueous_percent, p.coagulation, undisturbed=undisturbed)


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
        p.texture.crowding_exponent,
        p.texture.network_blend,
        p.texture.yield_scale_pa,
        p.texture.yield_slope,
        np.inf if undisturbed else p.texture.stirred_limit_pa,
        p.texture.yield_limit_pa,
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


def run(
    mixture: Mixture,
    p: Parameters,
    rate_k_per_min: float,
    to_c: float,
    step_k: float = STEP_K,
    *,
    undisturbed: bool = False,
) -> Ramp:
    """The mix warmed from 20 degC to `to_c` [degC] at a steady rate [K/min], stirred or not."""
    t = np.arange(START_C, max(to_c, START_C + 1) + step_k / 2, step_k)
    per_s = rate_k_per_min / 60
    co, kind = p.coagulation, mixture.starch
    delay = starch_delay_k(mixture, p)

    def exposure(reference: float, rate: float, z: float) -> Array:
        """Integral of a first-order rate from the start of time to each temperature [1]."""
        return np.asarray(coagulation.rate(t, reference, rate, z) * z / (np.log(10) * per_s))

    setting = setting_c(mixture, p)
    thickened = -np.expm1(-exposure(setting, co.set_rate_per_s, co.set_z_k))
    gelatinised = -np.expm1(-exposure(kind.reference_c + delay, kind.rate_per_s, kind.z_k))
    swollen_percent = mixture.starch_in_aqueous_percent * gelatinised
    curdling = coagulation.curdling_temperature(
        setting,
        swollen_percent,
        curdling_gap_k(mixture, p, undisturbed=undisturbed),
        co.starch_guard_k,
        co.starch_guard_percent,
    )
    speed = thickened * coagulation.rate(t, curdling, co.curdle_rate_per_s, co.curdle_z_k) / per_s
    spent = np.concatenate(([0.0], np.cumsum((speed[1:] + speed[:-1]) / 2 * step_k)))
    curdled = -np.expm1(-spent)
    swollen = gelatinised * starch.capacity(t, delay + kind.reference_c - starch.MAIZE_REFERENCE_C)
    vol = body(mixture, p)
    stress = hot_yield(mixture, vol, thickened, curdled, swollen, t, p, undisturbed=undisturbed)
    return Ramp(t, thickened, curdled, gelatinised, stress, undisturbed)


def first_reach(t: Array, values: Array, level: float) -> float | None:
    """Temperature at which `values` first reaches `level`, interpolated; None when it never does."""
    above = values >= level
    if not above.any():
        return None
    i = int(np.argmax(above))
    if i == 0:
        return float(t[0])
    share = (level - values[i - 1]) / (values[i] - values[i - 1])
    return float(t[i - 1] + share * (t[i] - t[i - 1]))
