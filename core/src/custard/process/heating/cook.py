"""A cook over a flame or over steam, from a formula: the kernel's numbers made, its curve read."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from custard.conditions import USUAL, Conditions
from custard.errors import within
from custard.larder.parameters import Parameters
from custard.larder.vessels import STIRRINGS, one_of, pans
from custard.mixture import NOTHING, Mixture
from custard.mixture.body import body_of
from custard.mixture.setting import curdling_gap_k, setting_c, starch_delay_k
from custard.physics import boiling, evaporation, kinetics, starch
from custard.physics.heat import steam_coefficient
from custard.physics.real import Real
from custard.physics.texture import NAPPE_PA
from custard.process.heating import kernel
from custard.process.heating import pan as plain
from custard.process.heating.state import sieve_percent

DT_S = 2.0
LEAST_DT_S = 0.01
LONGEST_S = 4 * 3600.0
KEEP_EVERY_S = 2.0
STEAM_C = 100.0
NEVER_C, NEVER_PA = 1000.0, 1e9
MOST_LOGS = 99.0
"""More logs than this are not told apart."""
NEVER_CLEARANCE = "Logs of Salmonella are information, never clearance; local food codes come first."
THICKENED_AT = 0.10
"""Degree of setting at which a sauce is felt to thicken [1]."""
CURDLED_AT = 0.05
"""Curdled degree from which a sauce is called curdled."""


@dataclass(frozen=True)
class Stove:
    """How it is cooked.

    Attributes
    ----------
    power_w : net power into pan and sauce [W], after what steams off; over steam, the flame under the bath.
    stir : whisk, spatula or none.
    pan : clad, thin or cast-iron; the bowl over steam is thin.
    over_steam : heated by steam at the boiling point of water instead of by a flame.
    wide : a pan as wide as fillings are cooked on in, so that more steams off.
    gross : `power_w` is what enters the base, and steam and air are paid from it.
    """

    power_w: float = 350.0
    stir: str = "whisk"
    pan: str = "clad"
    over_steam: bool = False
    gross: bool = False
    wide: bool = False

    def __post_init__(self) -> None:
        within("power_w", self.power_w, 0.001, 1_000_000)
        one_of("stir", self.stir, STIRRINGS)
        one_of("pan", self.pan, tuple(pans()))


@dataclass(frozen=True)
class Cook:
    """What happened.

    Attributes
    ----------
    rows : the curve, a row every two seconds, columns as named in `kernel`.
    lift_s : when it was taken off [s]; None when it never got there.
    final : the state at the end, columns as in `rows`.
    """

    rows: NDArray[np.float64]
    lift_s: float | None
    final: NDArray[np.float64]

    def column(self, index: int) -> NDArray[np.float64]:
        """One column of the curve."""
        return np.asarray(self.rows[:, index])

    @property
    def peak_c(self) -> float:
        """The hottest the sauce got [degC]."""
        return float(self.final[kernel.HOTTEST_C])

    @property
    def bits_percent(self) -> float:
        """Curdled in the bulk and swept off the wall, percent of the egg: what a sieve would hold."""
        return sieve_percent(self.final)

    @property
    def caught(self) -> bool:
        """Whether the base has browned."""
        return bool(self.final[kernel.CAUGHT] >= 1)

    def curve_json(self) -> dict[str, Any]:
        """Equally long lists."""
        columns = {
            "t_s": (kernel.T_S, 2),
            "sauce_c": (kernel.SAUCE_C, 3),
            "base_c": (kernel.BASE_C, 3),
            "thickened": (kernel.THICKENED, 5),
            "curdled": (kernel.CURDLED, 5),
            "gelatinised": (kernel.GELATINISED, 5),
            "yield_stress_pa": (kernel.YIELD_PA, 4),
        }
        return {name: [round(float(v), n) for v in self.rows[:, i]] for name, (i, n) in columns.items()}


def d60_s(mixture: Mixture, p: Parameters) -> Real:
    """Time for one log of Salmonella at 60 degC in a mix [s]; information, never clearance."""
    germs = p.lethality
    return kinetics.sugared_time(
        germs.d60_s,
        mixture.sugars_in_aqueous_percent,
        germs.sugar_from_percent,
        germs.sugar_decade_percent,
    )


WIDE_AT_C = 90.0
"""Where the steam of a wide pan is stated."""


def pan_area_m2(mixture: Mixture, p: Parameters, *, wide: bool = False) -> Real:
    """Base area [m2] of a pan that fits a mix: as deep as `fill_ratio` of its diameter, or a `wide` one."""
    if wide:
        return p.losses.wide_m2_kg * mixture.mass_g / 1000
    volume = mixture.mass_g / 1000 / mixture.density_kg_m3(70)
    diameter = (4 * volume / (np.pi * p.heat.fill_ratio)) ** (1 / 3)
    return np.pi * diameter**2 / 4


def constants(
    mixture: Mixture, stove: Stove, conditions: Conditions = USUAL, look_c: float | None = None
) -> plain.Constants:
    """Everything about one cook as plain numbers; of a map of mixes, as arrays.

    With `look_c` [degC] it is a cell of a map: the yield stress is noted there on the way up, and where
    nappe comes; what a map does not show (bits, browning, enzyme, germs) is left out, for it costs time.
    """
    p = conditions.parameters
    co, tx, heat, mass_kg = p.coagulation, p.texture, p.heat, mixture.mass_g / 1000
    volumes, kind = body_of(mixture, p), mixture.starch
    delay, area = starch_delay_k(mixture, p), pan_area_m2(mixture, p, wide=stove.wide)
    sugars, ethanol = mixture.sugars_in_aqueous_percent, mixture.ethanol_in_aqueous_percent
    filled = volumes.protein + volumes.starch
    firming = volumes.protein * tx.protein_setback + volumes.starch * kind.setback
    setback = np.maximum(1.0, firming / np.maximum(filled, NOTHING))
    bowl = heat.bowl_share if stove.over_steam else 1.0
    steam_w = steam_under(stove.power_w, p)
    crosses_w_m2k = steam_coefficient(
        steam_w / (area * bowl), heat.steam_w_m2k, heat.steam_most_w_m2k, heat.steam_drives_w_m2
    )
    undisturbed = stove.stir == "none"
    found = plain.Constants(
        sauce_j_k=mass_kg * mixture.heat_capacity_j_kgk(70),
        base_j_k=area * bowl * pans()["thin" if stove.over_steam else stove.pan],
        area_m2=area,
        heated_m2=area * bowl,
        power_w=steam_w if stove.over_steam else stove.power_w,
        net_power=0.0 if stove.gross or stove.over_steam else 1.0,
        steam_w_k=crosses_w_m2k * area * bowl if stove.over_steam else 0.0,
        steam_air_w_k=heat.steam_w_m2k * area * bowl if stove.over_steam else 0.0,
        steam_c=boiling.water_boils_at(conditions.altitude_m),
        stirring=float((plain.WHISK, plain.SPATULA, plain.STILL)[STIRRINGS.index(stove.stir)]),
        whisk=heat.whisk_w_m2k,
        whisk_least=heat.whisk_least_w_m2k,
        spatula_share=heat.spatula_share,
        still=heat.still_w_m2k,
        thickening_power=heat.thickening_power,
        air_w_m2k=heat.air_w_m2k,
        air_c=heat.air_c,
        off_heat_share=heat.off_heat_share,
        carry_over=conditions.learned.carry_over,
        evaporation_share=p.losses.wide_g_m2s / float(evaporation.flux(WIDE_AT_C))
        if stove.wide
        else p.losses.evaporation_share,
        boil_c=boiling.boiling_point(sugars, ethanol, conditions.altitude_m),
        mass_kg=mass_kg,
        conductivity=mixture.conductivity_w_mk(70),
        density=mixture.density_kg_m3(70),
        set_c=setting_c(mixture, p),
        set_rate=co.set_rate_per_s,
        set_z=co.set_z_k,
        curdle_gap=curdling_gap_k(mixture, p, undisturbed=undisturbed),
        curdle_rate=co.curdle_rate_per_s,
        curdle_z=co.curdle_z_k,
        guard=co.starch_guard_k,
        guard_scale=co.starch_guard_percent,
        bits_guard=co.bits_guard_percent,
        starch_percent=mixture.starch_in_aqueous_percent,
        starch_c=kind.reference_c + delay,
        starch_rate=kind.rate_per_s,
        starch_z=kind.z_k,
        capacity_shift=delay + kind.reference_c - starch.MAIZE_REFERENCE_C,
        enzyme_c=p.enzyme.reference_c + p.enzyme.sugar_shift_k * sugars,
        enzyme_z=p.enzyme.z_k,
        lag_k=p.enzyme.lag_k,
        lag_share=p.enzyme.lag_share,
        d60_s=d60_s(mixture, p),
        kill_z=p.lethality.z_k,
        protein_volume=volumes.protein,
        starch_volume=volumes.starch,
        room=volumes.room,
        crowding=tx.crowding_exponent,
        blend=tx.network_blend,
        scale=tx.yield_scale_pa,
        slope=tx.yield_slope,
        stirred_limit=np.inf if undisturbed else tx.stirred_limit_pa,
        limit=tx.yield_limit_pa,
        setback=setback,
        hot_c=tx.hot_reference_c,
        cold_c=tx.cold_reference_c,
        solids=mixture.serum_solids_percent,
        particles=volumes.particles,
        packing=tx.packing_limit,
        packing_power=tx.packing_power,
        consistency=tx.consistency_scale,
        consistency_power=tx.consistency_power,
        film_share=heat.film_share,
        renew_whisk=heat.renew_whisk_per_s,
        renew_spatula=heat.renew_spatula_per_s,
        renew_still=heat.renew_still_per_s,
        catch_c=heat.catch_c,
        catch_s=heat.catch_s,
        catch_z=heat.catch_z_k,
        scraped_share=heat.scraped_share,
        loose_share=p.stir.loose_share,
        traces=1.0 if look_c is None else 0.0,
        look_c=NEVER_C if look_c is None else look_c,
        nappe_pa=NEVER_PA if look_c is None else NAPPE_PA,
        thickened_at=THICKENED_AT,
        curdled_at=CURDLED_AT,
    )
    # A whole number among them would be compiled for once more, for half a minute; a map has arrays there.
    return plain.Constants(*(float(value) if isinstance(value, int) else value for value in found))


LEAST_STEAM_W = 1.0


def steam_under(flame_w: float, p: Parameters) -> float:
    """The heat that the steam of a bath carries up to its bowl [W]: what boils the water, less what is lost.

    Parameters
    ----------
    flame_w : the flame under the bath [W]
    p : parameters
    """
    return max(LEAST_STEAM_W, p.heat.steam_share * flame_w - p.heat.steam_loss_w)


def usual_stove(mixture: Mixture, p: Parameters, *, over_steam: bool = False, stir: str = "whisk") -> Stove:
    """What a mix is cooked on where nobody has said or measured more: as fast as cooks usually go."""
    mass_kg = float(mixture.mass_g) / 1000
    power = p.heat.simmer_w * max(1.0, mass_kg) if over_steam else p.heat.flame_w_kg * mass_kg
    return Stove(power_w=power, stir=stir, over_steam=over_steam)


def step_s(k: plain.Constants, most: float = DT_S) -> float:
    """A step [s] that Heun's method follows well: a fifth of the fastest time constant, at most `most`."""
    return _step_s(k.whisk, k.heated_m2, k.base_j_k, k.sauce_j_k, most)


def step_of_rows_s(rows: NDArray[np.void], most: float = DT_S) -> float:
    """The same for all of some cooks [s]."""
    return _step_s(rows["whisk"], rows["heated_m2"], rows["base_j_k"], rows["sauce_j_k"], most)


def _step_s(whisk: Real, heated: Real, base: Real, sauce: Real, most: float) -> float:
    fastest = np.max(whisk * heated / np.minimum(base, sauce))
    return float(max(LEAST_DT_S, min(most, 0.2 / fastest)))


def cook(
    mixture: Mixture,
    start_c: float,
    lift_c: float,
    stove: Stove | None = None,
    hold_s: float = 0.0,
    left_in_pan_s: float = 0.0,
    longest_s: float = LONGEST_S,
    conditions: Conditions = USUAL,
) -> Cook:
    """Heat a mix from `start_c` to `lift_c` [degC], hold it, and perhaps leave it in the hot pan.

    Parameters
    ----------
    mixture : the uniform mix.
    start_c : temperature at which it begins [degC], 0 to 105.
    lift_c : temperature at which it is taken off [degC], 20 to 130.
    stove : what it is cooked on and in; None for the usual.
    hold_s : held there [s], up to 7200.
    left_in_pan_s : left in the hot pan after that [s], up to 7200.
    longest_s : time after which it is given up [s].
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.

    Raises
    ------
    OutOfRange
        when a temperature or time cannot be.
    """
    within("start_c", start_c, 0, 105)
    within("lift_c", lift_c, 20, 130)
    within("hold_s", hold_s, 0, 7200)
    within("left_in_pan_s", left_in_pan_s, 0, 7200)
    k = constants(mixture, stove or Stove(), conditions)
    dt = step_s(k)
    every = max(1, round(KEEP_EVERY_S / dt))
    keep = np.empty((int(longest_s / (every * dt)) + 4, kernel.COLUMNS))
    rows, lifted, final = kernel.simulate(
        k,
        kernel.Asked(
            float(min(start_c, k.boil_c)),
            float(lift_c),
            float(hold_s),
            float(left_in_pan_s),
            float(longest_s),
        ),
        dt,
        every,
        keep,
    )
    return Cook(rows=keep[:rows].copy(), lift_s=float(lifted) if lifted >= 0 else None, final=final)
