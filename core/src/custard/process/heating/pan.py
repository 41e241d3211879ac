"""One pan as plain numbers, and the laws of its heat, compiled: what the kernel steps.

`Constants` holds everything about one cook: SI units and degrees Celsius, degrees and shares from 0 to 1.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numba import njit  # typed as Any: its decorators do not keep signatures
from numpy.typing import NDArray

from custard.physics import evaporation, heat, starch, texture, viscosity

_yield = njit(inline="always")(texture.network_yield)
_setback = njit(inline="always")(texture.setback)
_flow_index = njit(inline="always")(texture.flow_index)
_apparent = njit(inline="always")(texture.apparent_viscosity)
_serum = njit(viscosity.sugar_serum)
_suspension = njit(inline="always")(viscosity.suspension)
_stirred = njit(inline="always")(heat.stirred_coefficient)
_still = njit(inline="always")(heat.still_coefficient)
latent_heat = njit(inline="always")(heat.latent_heat)

# The two tabulated laws on an even grid that holds all their points: looked up, not searched.
GRID_C, GRID_STEP_K = 0.0, 5.0
_GRID = np.arange(GRID_C, 131.0, GRID_STEP_K)
FLUX_TABLE = np.asarray(evaporation.flux(_GRID))
CAPACITY_TABLE = np.asarray(starch.capacity(_GRID, 0.0))

WHISK, SPATULA, STILL = 0, 1, 2
STIR_SHEAR_PER_S = 50.0
LEAST_LEFT = 0.2
"""A mix is never reckoned drier than this share of itself [1]; it would have burnt long before."""


class Constants(NamedTuple):
    """One cook as plain numbers: SI units, degrees Celsius; degrees and shares from 0 to 1."""

    # heat
    sauce_j_k: float
    base_j_k: float
    area_m2: float  # of the surface
    heated_m2: float  # of what is hot under the sauce: a pan's base, or a bowl's whole bottom
    power_w: float
    net_power: float  # 1 when `power_w` is what is left after steam; 0 when steam is paid from it
    steam_w_k: float  # above 0: over steam, with at most `power_w`, which is what the steam carries
    steam_air_w_k: float  # the least of `steam_w_k`, where the flame is so low that air stays under the bowl
    steam_c: float
    stirring: float
    whisk: float
    whisk_least: float
    spatula_share: float
    still: float
    thickening_power: float
    air_w_m2k: float
    air_c: float
    off_heat_share: float
    carry_over: float  # what the base adds off the heat, over what is computed
    evaporation_share: float
    boil_c: float
    mass_kg: float
    conductivity: float
    density: float
    # reactions
    set_c: float
    set_rate: float
    set_z: float
    curdle_gap: float
    curdle_rate: float
    curdle_z: float
    guard: float
    guard_scale: float
    bits_guard: float
    starch_percent: float
    starch_c: float
    starch_rate: float
    starch_z: float
    capacity_shift: float
    enzyme_c: float
    enzyme_z: float
    lag_k: float
    lag_share: float
    d60_s: float
    kill_z: float
    # texture
    protein_volume: float
    starch_volume: float
    room: float
    crowding: float
    blend: float
    scale: float
    slope: float
    stirred_limit: float
    limit: float
    setback: float
    hot_c: float
    cold_c: float
    solids: float
    particles: float
    packing: float
    packing_power: float
    consistency: float
    consistency_power: float
    # the film at the wall
    film_share: float
    renew_whisk: float
    renew_spatula: float
    renew_still: float
    catch_c: float
    catch_s: float
    catch_z: float
    scraped_share: float
    loose_share: float  # of the film on a base that nobody sweeps, what comes off when it is poured out
    # what is followed, and what is noted on the way
    traces: float  # 1: wall film, browning, enzyme and germs too; 0: only heat, setting, curdling and starch
    look_c: float
    nappe_pa: float
    thickened_at: float
    curdled_at: float


@njit(cache=True, inline="always")
def lookup(table: NDArray[np.float64], t: float) -> float:
    """A tabulated law at a temperature [degC], linear between its points and flat beyond them."""
    at = min(max((t - GRID_C) / GRID_STEP_K, 0.0), table.shape[0] - 1.0)
    i = min(int(at), table.shape[0] - 2)
    return float(table[i] + (at - i) * (table[i + 1] - table[i]))


ROWS = np.dtype((np.record, [(name, np.float64) for name in Constants._fields]))
"""Many cooks as one structured array: a row has the fields of a `Constants`, plain and compiled."""


def rows_of(k: Constants, count: int = 1) -> NDArray[np.void]:
    """One cook `count` times, or the constants of a map, whose figures may be arrays of that length."""
    rows = np.empty(count, dtype=ROWS)
    for name, value in zip(Constants._fields, k, strict=True):
        rows[name] = value
    return rows


@njit(cache=True, error_model="numpy", inline="always")
def yield_stress(
    k: Constants, t: float, tau: float, curdled: float, swollen: float, steamed_g: float
) -> float:
    """Yield stress of the sauce in the pan [Pa], of which some has steamed away [g]."""
    left = max(LEAST_LEFT, 1 - steamed_g / (1000 * k.mass_kg))
    network: float = _yield(
        k.protein_volume / left * tau * (1 - curdled),
        k.starch_volume / left * swollen,
        1 - min(0.9, (1 - k.room) / left),
        k.stirred_limit,
        texture.Network(k.crowding, k.blend, k.scale, k.slope, k.limit),
    )
    stress: float = network * _setback(t, k.hot_c, k.cold_c, k.setback)
    return stress


@njit(cache=True, error_model="numpy", inline="always")
def coefficient(k: Constants, t: float, stress: float, stirring: float) -> float:
    """Coefficient from base to sauce [W/m2K], by stirring and by how thick the sauce is."""
    base = _suspension(_serum(k.solids, t), k.particles, k.packing, k.packing_power)
    consistency = k.consistency * stress**k.consistency_power
    mu = _apparent(STIR_SHEAR_PER_S, stress, consistency, _flow_index(stress), base)
    if stirring == STILL:
        return _still(mu, k.still)
    whisked = _stirred(mu, k.whisk, k.whisk_least, k.thickening_power)
    return whisked if stirring == WHISK else whisked * k.spatula_share


@njit(cache=True, error_model="numpy", inline="always")
def losses(k: Constants, t: float) -> float:
    """Heat lost from the surface [W]: air and steam."""
    dry = k.air_w_m2k * (t - k.air_c)
    return k.area_m2 * (dry + 1e-3 * k.evaporation_share * lookup(FLUX_TABLE, t) * latent_heat(t))


@njit(cache=True, error_model="numpy", inline="always")
def slopes(k: Constants, t: float, base: float, h: float, lit: float) -> tuple[float, float]:
    """Rates of warming of sauce and base [K/s] with the heat on (`lit` = 1) or off (0)."""
    across = h * k.heated_m2 * (base - t)
    lost = losses(k, t) * (lit + (1 - lit) * k.off_heat_share)
    given = lit * (k.power_w + k.net_power * lost)
    if k.steam_w_k > 0:
        given = lit * min(k.power_w, max(0.0, k.steam_w_k * (k.steam_c - base)))
    return (across - lost) / k.sauce_j_k, (given - across) / k.base_j_k
