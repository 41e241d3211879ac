"""Cups in a bath in the oven: heat to the centre, setting on the way."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

import numpy as np
from numpy.typing import NDArray

from custard.conditions import USUAL, Conditions
from custard.errors import within
from custard.figures import Kelvin, Rounding
from custard.larder.parameters import Parameters
from custard.mixture import Mixture
from custard.mixture.body import body_of, hot_yield
from custard.mixture.setting import curdling_gap_k, setting_c
from custard.physics import coagulation, conduction, kinetics
from custard.process.heating.cook import d60_s
from custard.vocabulary import Wobble

Floats = NDArray[np.float64]

LONGEST_S = 3 * 3600.0
LARGE_ML = 500.0
"""What holds more than a cup is a dish."""
LARGE_S = 8 * 3600.0
"""How long a dish may take at most."""
USUAL_OVEN_C = 160.0
USUAL_DEEP = 0.6
"""How deep the water stands at which the bath's coefficient is stated, of the height of the cup [1]."""
STEP_S = 5.0
HEIGHT_OVER_RADIUS = 1.3
SET_AT = 0.8
"""Degree at which a cup's centre counts as set: it wobbles no wider than a coin."""
WOBBLE = ((0.3, Wobble.LIQUID), (SET_AT, Wobble.WIDE), (0.95, Wobble.COIN))


@dataclass(frozen=True)
class Bake:
    """A baking.

    Attributes
    ----------
    t_s, centre_c, edge_c : the curve: time [s], temperatures [degC].
    set_centre, curdled_edge : degrees [0 to 1] at the same times.
    out_s : when the centre is set and the cups come out [s]; None when it never is.
    carry_over_k : how far the centre rises after that [K].
    salmonella_logs : logs in the centre until then, conservative; information, never clearance.
    """

    t_s: Annotated[Floats, Rounding(1)]
    centre_c: Annotated[Floats, Rounding(3)]
    edge_c: Annotated[Floats, Rounding(3)]
    set_centre: Annotated[Floats, Rounding(4)]
    curdled_edge: Annotated[Floats, Rounding(4)]
    out_s: float | None
    carry_over_k: Kelvin
    salmonella_logs: float


def usual_bath_c(oven_c: float, p: Parameters) -> float:
    """What a bath that was filled hot comes to in such an oven [degC]."""
    return min(99.0, p.oven.bath_c + p.oven.bath_slope * (oven_c - USUAL_OVEN_C))


def wobble(set_share: float) -> Wobble:
    """What a nudged cup does.

    Parameters
    ----------
    set_share : degree to which the centre is set [0 to 1].
    """
    return next((word for limit, word in WOBBLE if set_share < limit), Wobble.SPRINGS)


HOLDS_PA = 8.0
"""Yield stress from which a cup holds together [Pa]: about one small egg in a quarter of a litre of milk, the
least that cooks use; as remembered."""
DONE_WOBBLE = wobble(SET_AT)
"""What a nudged cup does when it comes out."""


def bake(
    mixture: Mixture,
    cup_ml: float = 120.0,
    start_c: float = 50.0,
    bath_c: float | None = None,
    conditions: Conditions = USUAL,
    *,
    oven_c: float = USUAL_OVEN_C,
    bath: bool = True,
    water_share: float = USUAL_DEEP,
) -> Bake:
    """Cups of `cup_ml`, or one dish, set in the oven and taken out when the centre is set.

    The cup is a cylinder with the heated area of its wall and base. Its bath is as hot as `bath_c`, by
    default as one filled hot is in such an oven, and stands so deep that `water_share` of the cup's height is
    in it; without a `bath` it stands in the oven's air.

    Parameters
    ----------
    mixture : the uniform mix.
    cup_ml : what one cup takes [ml].
    start_c : temperature of the mix as it goes in [degC].
    bath_c : temperature of the bath [degC]; None for what the oven makes of it.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    oven_c : temperature of the oven [degC].
    bath : whether the cups stand in water.
    water_share : how high the water stands, of the height of the cup [0 to 1].

    Raises
    ------
    OutOfRange
        when a figure cannot be.
    """
    within("cup_ml", cup_ml, 5, 5000)
    within("start_c", start_c, 0, 80)
    within("oven_c", oven_c, 80, 300)
    within("water_share", water_share, 0.1, 1)
    p = conditions.parameters
    around_c = oven_c
    if bath:
        around_c = usual_bath_c(oven_c, p) if bath_c is None else bath_c
        within("bath_c", around_c, 60, 100)
    reaches = p.oven.bath_w_m2k if bath else p.oven.oven_w_m2k
    if bath:
        reaches, around_c = _in_water(water_share, (reaches, around_c), (p.oven.oven_w_m2k, oven_c))
    volume = cup_ml / 1e6
    true_radius = (volume / np.pi / HEIGHT_OVER_RADIUS) ** (1 / 3)
    heated = (2 * HEIGHT_OVER_RADIUS + 1) * np.pi * true_radius**2
    radius = 2 * volume / heated
    k, density, cp = (
        mixture.conductivity_w_mk(65),
        mixture.density_kg_m3(65),
        mixture.heat_capacity_j_kgk(65),
    )
    steps = int((LONGEST_S if cup_ml <= LARGE_ML else LARGE_S) / STEP_S)
    inside = conduction.conduct(
        conduction.Body(radius, k / density / cp, reaches * radius / k, conduction.CYLINDER),
        start_c,
        around_c,
        STEP_S,
        steps,
    )
    centre, edge = inside[:, 0], inside[:, -1]
    set_centre, _ = _degrees(mixture, centre, p)
    _, curdled = _degrees(mixture, edge, p)
    # Set is not enough: there must be enough in it that sets.
    done = np.flatnonzero(set_centre >= SET_AT) if set_pa(mixture, p) >= HOLDS_PA else np.array([], dtype=int)
    at = int(done[0]) if done.size else None
    rise = 0.0 if at is None else _carry_over(inside[at], centre[at], p)
    return Bake(
        t_s=np.arange(steps + 1, dtype=np.float64) * STEP_S,
        centre_c=centre,
        edge_c=edge,
        set_centre=set_centre,
        curdled_edge=curdled,
        out_s=None if at is None else at * STEP_S,
        carry_over_k=rise,
        salmonella_logs=_logs(mixture, centre if at is None else centre[: at + 1], p),
    )


def set_pa(mixture: Mixture, p: Parameters) -> float:
    """Yield stress of a mix that has wholly set where nobody stirred it, cold [Pa]."""
    all_of_it, none = np.array(1.0), np.array(0.0)
    cold_c = np.array(p.texture.cold_reference_c)
    body = body_of(mixture, p)
    found = hot_yield(mixture, body, all_of_it, none, all_of_it, cold_c, p, undisturbed=True)
    return float(found)


def _in_water(deep: float, bath: tuple[float, float], air: tuple[float, float]) -> tuple[float, float]:
    """Coefficient [W/m2K] and temperature [degC] round a cup that stands so deep in its bath [1].

    `bath` and `air` are theirs. At the usual depth it is the bath's own coefficient, stated with what is dry;
    shallower, more of the wall is in the oven's air.
    """

    def wet(share: float) -> float:
        return (1 + 2 * HEIGHT_OVER_RADIUS * share) / (1 + 2 * HEIGHT_OVER_RADIUS)

    by_bath = bath[0] * wet(deep) / wet(USUAL_DEEP)
    by_air = air[0] * max(0.0, wet(USUAL_DEEP) - wet(deep))
    return by_bath + by_air, (by_bath * bath[1] + by_air * air[1]) / (by_bath + by_air)


def _logs(mixture: Mixture, centre: NDArray[np.float64], p: Parameters) -> float:
    """Logs of Salmonella in the coldest spot until the cup comes out; what it gets after that is left out."""
    d_s = kinetics.decimal_time(centre, 60.0, d60_s(mixture, p), p.lethality.z_k)
    return float(np.trapezoid(1 / d_s, dx=STEP_S))


def _carry_over(profile: NDArray[np.float64], centre: float, p: Parameters) -> float:
    """Rise of the centre when the heat in cup and dish evens out, less what is lost on the way [K]."""
    x = np.linspace(0, 1, profile.size)
    mean = 2 * float(np.trapezoid(profile * x, x))
    return max(0.0, p.oven.rise_share * (mean - float(centre)))


def _degrees(
    mixture: Mixture, t: NDArray[np.float64], p: Parameters
) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Set and curdled degrees along a temperature history, exact over each step."""
    co, setting = p.coagulation, setting_c(mixture, p)
    curdling = coagulation.curdling_temperature(
        setting,
        mixture.starch_in_aqueous_percent,
        curdling_gap_k(mixture, p, undisturbed=True),
        co.starch_guard_k,
        co.starch_guard_percent,
    )
    middle = np.concatenate((t[:1], (t[1:] + t[:-1]) / 2))
    set_rate = coagulation.rate(middle, setting, co.set_rate_per_s, co.set_z_k) * STEP_S
    thickened = -np.expm1(-(np.cumsum(set_rate) - set_rate[0]))
    curdle_rate = thickened * coagulation.rate(middle, curdling, co.curdle_rate_per_s, co.curdle_z_k) * STEP_S
    return thickened, -np.expm1(-(np.cumsum(curdle_rate) - curdle_rate[0]))
