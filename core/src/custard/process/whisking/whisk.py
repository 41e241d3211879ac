"""Sabayon: whisking air in over steam, fixed by setting, lost by curdling."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated

import numpy as np
from numpy.typing import NDArray

from custard.conditions import USUAL, Conditions
from custard.errors import Impossible, OutOfRange
from custard.figures import Rounding
from custard.larder.parameters import Parameters
from custard.mixture import Mixture
from custard.physics import foam
from custard.process.heating import kernel
from custard.process.heating.cook import Stove, cook, usual_stove

Floats = NDArray[np.float64]
WHIPS_FROM_PERCENT = 0.3
"""Egg protein from which a mix whips at all [%]: a yolk in half a litre hardly does; an estimate."""


@dataclass(frozen=True)
class Whisk:
    """A foam in the making; equally long arrays [s, degC, 1, Pa]."""

    t_s: Annotated[Floats, Rounding(1)]
    sauce_c: Annotated[Floats, Rounding(2)]
    overrun: Floats
    thickened: Annotated[Floats, Rounding(4)]
    curdled: Annotated[Floats, Rounding(4)]
    yield_stress_pa: Annotated[Floats, Rounding(3)]
    weeps_per_h: float
    salmonella_logs: float


def whisk(
    mixture: Mixture,
    start_c: float = 20.0,
    lift_c: float = 72.0,
    electric: bool = False,
    stove: Stove | None = None,
    conditions: Conditions = USUAL,
) -> Whisk:
    """Whisk a yolk mix over steam until `lift_c` [degC].

    Parameters
    ----------
    mixture : the uniform mix.
    start_c : temperature at which it begins [degC], 0 to 105.
    lift_c : temperature at which it is taken off [degC], 20 to 130.
    electric : with a machine; else by hand.
    stove : what it is cooked on and in; None for the usual.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.

    Raises
    ------
    OutOfRange
        when a temperature cannot be, or the heat never brings it there within an hour.
    Impossible
        when there is too little egg in it to whip.
    """
    p = conditions.parameters
    egg_percent = float(mixture.egg_protein_percent)
    if egg_percent < WHIPS_FROM_PERCENT:
        raise Impossible(
            "formula",
            f"{egg_percent:.1f} % of egg protein",
            "does not whip",
            f"A foam wants {WHIPS_FROM_PERCENT:g} % at least: more yolk, or less of what is wet.",
        )
    heat = stove or usual_stove(mixture, p, over_steam=True)
    done = cook(mixture, start_c, lift_c, heat, longest_s=3600, conditions=conditions.by(under_foam(p)))
    if done.lift_s is None:
        raise OutOfRange("lift_c", lift_c, "is not reached within an hour", "Turn the flame up.")
    t, sauce = done.column(kernel.T_S), done.column(kernel.SAUCE_C)
    tau, curdled = done.column(kernel.THICKENED), done.column(kernel.CURDLED)
    air = overrun_along(t, sauce, tau, curdled, p.foam.electric_s if electric else p.foam.hand_s, p)
    stress = done.column(kernel.YIELD_PA) + foam.foam_yield(
        foam.air_fraction(air), p.foam.tension_n_m, p.foam.bubble_m, p.foam.wide_pa_scale
    )
    weeps = foam.weeping(float(tau[-1]), p.foam.film_degree, p.foam.weeping_per_h, p.foam.least_weeping_per_h)
    return Whisk(t, sauce, air, tau, curdled, np.asarray(stress), weeps, float(done.final[kernel.LOGS]))


def overrun_along(
    t: NDArray[np.float64],
    sauce: NDArray[np.float64],
    tau: NDArray[np.float64],
    curdled: NDArray[np.float64],
    constant_s: float,
    p: Parameters,
) -> NDArray[np.float64]:
    """Air whisked in along a cook [1], from none.

    Parameters
    ----------
    t, sauce : time [s], temperature [degC]
    tau, curdled : thickened and curdled degrees [0 to 1]
    constant_s : time constant of the whisk [s]
    """
    most = foam.most_overrun(sauce, p.foam.best_overrun)
    air = np.zeros_like(t)
    for i in range(1, t.size):
        air[i] = foam.air_after(
            air[i - 1],
            float(most[i]),
            tau[i],
            curdled[i],
            t[i] - t[i - 1],
            constant_s,
            p.foam.collapse,
            p.foam.collapse_s,
        )
    return air


def under_foam(p: Parameters) -> Parameters:
    """A foam is its own lid, so little steam gets through; and being mostly air it takes heat up slowly."""
    return replace(
        p,
        losses=replace(p.losses, evaporation_share=p.foam.lid_share * p.losses.evaporation_share),
        heat=replace(p.heat, whisk_w_m2k=p.foam.heat_share * p.heat.whisk_w_m2k),
    )
