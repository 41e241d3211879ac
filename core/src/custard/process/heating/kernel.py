"""The compiled heart: one cook integrated with a fixed small step.

Heat is stepped by Heun's method; every first-order reaction by its exact exponential update over the
step, so that no degree can leave [0, 1] whatever the temperature. The same function, compiled, serves
one cook, a map of thousands and a Monte Carlo; uncompiled (`simulate.py_func`) it is the plain version
that tests compare it with.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numba import njit  # typed as Any: its decorators do not keep signatures
from numpy.typing import NDArray

from custard.physics import coagulation
from custard.process.heating.fresh import forget_stale
from custard.process.heating.pan import (
    CAPACITY_TABLE,
    FLUX_TABLE,
    SPATULA,
    STILL,
    WHISK,
    Constants,
    coefficient,
    latent_heat,
    lookup,
    losses,
    slopes,
    yield_stress,
)

forget_stale()

_rate = njit(inline="always")(coagulation.rate)
_curdling = njit(inline="always")(coagulation.curdling_temperature)

FAINT = 0.02
"""Below this much thickening and swelling together nothing can coat yet."""
NOTHING_YET = 1e-4
"""Below this much of both together the network is of less than a hundredth of a pascal: none yet."""
REFRESH_S = 4.0
"""How often viscosity, and with it the coefficient at the base, is computed again."""

# Columns of a curve.
T_S, SAUCE_C, BASE_C, THICKENED, CURDLED, GELATINISED, SWOLLEN = range(7)
BITS, AMYLASE, LOGS, STEAMED_G, CAUGHT, YIELD_PA, HOTTEST_C = range(7, 14)
NAPPE_C, CURDLES_C, LOOK_PA = range(14, 17)
COLUMNS = 17
NOT_ASKED_PA = 1e8
NOT_REACHED = -1.0
"""Stands in a curve for what has not come yet."""


LN10 = 2.302585092994046


@njit(cache=True, inline="always")
def _ten(exponent: float) -> float:
    """Ten to a power."""
    return float(np.exp(LN10 * exponent))


@njit(cache=True, inline="always")
def _nearer(degree: float, by: float) -> float:
    """A degree nearer to 1, by a first-order reaction of rate times time `by` [1]."""
    return float(1.0 - (1.0 - degree) * np.exp(-by))


@njit(cache=True, error_model="numpy", inline="always")
def trace(
    k: Constants, y: NDArray[np.float64], dt: float, stirring: float, h: float, curdling: float
) -> None:
    """What a cook leaves besides the sauce: bits off the wall, browning, enzyme, germs."""
    renew = k.renew_still
    if stirring == WHISK:
        renew = k.renew_whisk
    elif stirring == SPATULA:
        renew = k.renew_spatula
    film_rate, ready, share = film(k, y, y[BASE_C], renew, h, curdling)
    # The film on a base that nobody sweeps lies there until it is poured out.
    swept = renew - k.renew_still
    y[BITS] = _nearer(y[BITS], share * film_rate * swept / (film_rate + renew) * ready * dt)
    scraped = 1.0 if stirring == STILL else k.scraped_share
    y[CAUGHT] += scraped * browning(k, y[BASE_C]) * dt
    last(k, y, dt)


@njit(cache=True, error_model="numpy", inline="always")
def curdling_c(k: Constants, y: NDArray[np.float64]) -> float:
    """Where it curdles with the starch that has swollen so far [degC]."""
    swollen = k.starch_percent * y[GELATINISED]
    return float(_curdling(k.set_c, swollen, k.curdle_gap, k.guard, k.guard_scale))


@njit(cache=True, error_model="numpy", inline="always")
def film(
    k: Constants, y: NDArray[np.float64], base_c: float, renew: float, h: float, curdling: float
) -> tuple[float, float, float]:
    """The film at the wall, which sees the base: what curdles there is swept into the sauce as bits.

    Returns
    -------
    how fast it curdles [1/s], how much of it is set and so can [1], its share of the sauce that counts as
    bits once it is swept off [1]
    """
    film_c = min(y[SAUCE_C] + k.film_share * (base_c - y[SAUCE_C]), 130.0)
    share = min(0.5, k.conductivity / h * k.heated_m2 * k.density / k.mass_kg)
    # Starch round the curds keeps them too fine for the sieve.
    share *= np.exp(-k.starch_percent * y[GELATINISED] / k.bits_guard)
    film_set = _rate(film_c, k.set_c, k.set_rate, k.set_z)
    ready = y[THICKENED] + (1 - y[THICKENED]) * film_set / (film_set + renew)
    return _rate(film_c, curdling, k.curdle_rate, k.curdle_z), ready, share


@njit(cache=True, error_model="numpy", inline="always")
def lies(k: Constants, y: NDArray[np.float64], base_c: float, h: float) -> float:
    """The film on a base that nobody swept, as a share of the sauce [1].

    What is above curdling between base and sauce has set on the base, so that a hotter flame makes more. It
    forms while the sauce above it still flows, and so is that of a thin one under the same heat.

    Parameters
    ----------
    base_c : temperature of the base [degC]
    h : coefficient from the base to the sauce as it is [W/m2K]
    """
    curdling = curdling_c(k, y)
    above = max(1.0, (base_c - y[SAUCE_C]) * min(1.0, h / k.still))
    _, ready, share = film(k, y, y[SAUCE_C] + above / k.film_share, k.renew_still, k.still, curdling)
    thick = (y[SAUCE_C] + above - curdling) / above
    return float(share * ready * min(1.0, max(0.0, thick)))


@njit(cache=True, error_model="numpy", inline="always")
def browning(k: Constants, base_c: float) -> float:
    """How fast what stands on the base browns [1/s]; at 1 it has caught."""
    return _ten((min(base_c, 250.0) - k.catch_c) / k.catch_z) / k.catch_s


@njit(cache=True, error_model="numpy", inline="always")
def last(k: Constants, y: NDArray[np.float64], dt: float) -> None:
    """Enzyme, in the middle and in the spots that lag behind it, and germs; `y` holds the sum of both."""
    t = y[SAUCE_C]
    middle = _ten((t - k.enzyme_c) / k.enzyme_z) * LN10 / 60.0
    lag = middle * _ten(-k.lag_k / k.enzyme_z)
    y[COLUMNS] *= np.exp(-middle * dt)
    y[COLUMNS + 1] *= np.exp(-lag * dt)
    y[AMYLASE] = (1 - k.lag_share) * y[COLUMNS] + k.lag_share * y[COLUMNS + 1]
    y[LOGS] += dt / k.d60_s * _ten((t - 60.0) / k.kill_z)


@njit(cache=True, error_model="numpy", inline="always")
def react(k: Constants, y: NDArray[np.float64], dt: float, stirring: float, h: float) -> None:
    """Exact updates of every first-order reaction over a step, at the temperatures in `y`."""
    curdling = change(k, y, dt)
    if k.traces > 0:
        trace(k, y, dt, stirring, h, curdling)


@njit(cache=True, error_model="numpy", inline="always")
def change(k: Constants, y: NDArray[np.float64], dt: float) -> float:
    """Setting, swelling and curdling of the sauce over a step; returns where it curdles by now [degC]."""
    t = y[SAUCE_C]
    set_rate = _rate(t, k.set_c, k.set_rate, k.set_z)
    y[THICKENED] = _nearer(y[THICKENED], set_rate * dt)
    y[GELATINISED] = _nearer(y[GELATINISED], _rate(t, k.starch_c, k.starch_rate, k.starch_z) * dt)
    y[HOTTEST_C] = max(y[HOTTEST_C], t)
    curdling: float = curdling_c(k, y)
    curdle_rate = _rate(t, curdling, k.curdle_rate, k.curdle_z)
    y[CURDLED] = _nearer(y[CURDLED], y[THICKENED] * curdle_rate * dt)
    return curdling


@njit(cache=True, error_model="numpy", inline="always")
def note(k: Constants, y: NDArray[np.float64]) -> None:
    """Where nappe and curdling are first reached, and how thick it is where it is looked at."""
    if y[CURDLES_C] < 0 and y[CURDLED] >= k.curdled_at:
        y[CURDLES_C] = y[SAUCE_C]
    looked_at = y[LOOK_PA] < 0 and y[SAUCE_C] >= k.look_c
    asked = k.nappe_pa < NOT_ASKED_PA and y[NAPPE_C] < 0
    if looked_at or (asked and y[THICKENED] + y[GELATINISED] > FAINT):
        y[SWOLLEN] = y[GELATINISED] * lookup(CAPACITY_TABLE, y[HOTTEST_C] - k.capacity_shift)
        stress = yield_stress(k, y[SAUCE_C], y[THICKENED], y[CURDLED], y[SWOLLEN], y[STEAMED_G])
        if looked_at:
            y[LOOK_PA] = stress
        # As on the ramp, nothing coats before it thickens.
        if asked and stress >= k.nappe_pa and max(y[THICKENED], y[GELATINISED]) >= k.thickened_at:
            y[NAPPE_C] = y[SAUCE_C]


@njit(cache=True, error_model="numpy", inline="always")
def warming(k: Constants, y: NDArray[np.float64], dt: float, h: float, lit: float) -> tuple[float, float]:
    """Mean rates of warming of sauce and base over a step [K/s], by Heun's method."""
    t, base = y[SAUCE_C], y[BASE_C]
    s1, b1 = slopes(k, t, base, h, lit)
    s2, b2 = slopes(k, t + dt * s1, base + dt * b1, h, lit)
    return (s1 + s2) / 2, (b1 + b2) / 2


@njit(cache=True, error_model="numpy", inline="always")
def steam_off(k: Constants, y: NDArray[np.float64], now: float, ahead: float, lit: float) -> float:
    """Count what steams away over a step; returns `ahead` [degC], held at the boil."""
    still = lit + (1 - lit) * k.off_heat_share
    y[STEAMED_G] += k.area_m2 * k.evaporation_share * still * lookup(FLUX_TABLE, y[SAUCE_C]) * now
    if ahead > k.boil_c:
        y[STEAMED_G] += 1000 * (ahead - k.boil_c) * k.sauce_j_k / latent_heat(k.boil_c)
        return k.boil_c
    return ahead


@njit(cache=True, error_model="numpy", inline="always")
def arrive(k: Constants, y: NDArray[np.float64], now: float, ahead: float, stirring: float, h: float) -> None:
    """Let everything react at the middle of a step, then stand at its end."""
    y[SAUCE_C] = (y[SAUCE_C] + ahead) / 2
    react(k, y, now, stirring, h)
    y[SAUCE_C] = ahead
    y[HOTTEST_C] = max(y[HOTTEST_C], ahead)
    y[T_S] += now


@njit(cache=True, error_model="numpy", inline="always")
def thicken(k: Constants, y: NDArray[np.float64]) -> None:
    """Read the yield stress off the state."""
    y[SWOLLEN] = y[GELATINISED] * lookup(CAPACITY_TABLE, y[HOTTEST_C] - k.capacity_shift)
    y[YIELD_PA] = 0.0
    if y[THICKENED] + y[GELATINISED] > NOTHING_YET:
        y[YIELD_PA] = yield_stress(k, y[SAUCE_C], y[THICKENED], y[CURDLED], y[SWOLLEN], y[STEAMED_G])


@njit(cache=True)
def at_rest(start_c: float) -> NDArray[np.float64]:
    """The state of a mix that has just gone into a pan as warm as itself [degC]."""
    y = np.zeros(COLUMNS + 2)
    y[SAUCE_C] = y[BASE_C] = y[HOTTEST_C] = start_c
    y[AMYLASE] = y[COLUMNS] = y[COLUMNS + 1] = 1.0
    y[NAPPE_C] = y[CURDLES_C] = y[LOOK_PA] = NOT_REACHED
    return y


@njit(cache=True, error_model="numpy", inline="always")
def lift(k: Constants, y: NDArray[np.float64]) -> None:
    """Take it off the heat: from now on the base gives so much as this kitchen's pans were seen to give."""
    y[BASE_C] = y[SAUCE_C] + k.carry_over * (y[BASE_C] - y[SAUCE_C])


@njit(cache=True, error_model="numpy", nogil=True)
def advance(
    k: Constants, y: NDArray[np.float64], seconds: float, dt: float, lit: float, stirring: float
) -> None:
    """Take a state `seconds` on, in steps of at most `dt` [s], with the heat on (`lit` = 1) or off (0)."""
    steps = int(np.ceil(seconds / dt - 1e-9))
    for step in range(steps):
        now = seconds / steps
        if step % max(1, round(REFRESH_S / now)) == 0:
            thicken(k, y)
            # Off the heat the sauce goes on turning for a while: heat crosses, but nobody sweeps the film.
            h = coefficient(k, y[SAUCE_C], y[YIELD_PA], stirring if lit > 0 else k.stirring)
        s, b = warming(k, y, now, h, lit)
        ahead = steam_off(k, y, now, y[SAUCE_C] + now * s, lit)
        y[BASE_C] += now * b
        arrive(k, y, now, ahead, stirring, h)
    thicken(k, y)


class Asked(NamedTuple):
    """What a cook is asked to be.

    Attributes
    ----------
    start_c, lift_c : temperatures [degC]; a lift at or above the boil means at the boil.
    hold_s, left_s, longest_s : held there, left in the pan, ended at most [s]; without a lift it ends at the
        last.
    """

    start_c: float
    lift_c: float
    hold_s: float
    left_s: float
    longest_s: float


@njit(cache=True, error_model="numpy", nogil=True)
def simulate(
    k: Constants,
    asked: Asked,
    dt: float,
    every: int,
    out: NDArray[np.float64],
) -> tuple[int, float, NDArray[np.float64]]:
    """One cook: heat to `lift_c`, hold there, heat off and left in the pan, poured out.

    Parameters
    ----------
    k : the cook as plain numbers
    asked : from what, to where, for how long
    dt : step [s]
    every : a row is kept every so many steps
    out : rows by `COLUMNS`, filled; may have no rows

    Returns
    -------
    rows filled, the time of the lift [s] (negative when it never came), the final state
    """
    y = at_rest(asked.start_c)
    goal = min(asked.lift_c, k.boil_c - 1e-6)
    lit, reached_at, lifted_at, rows, step = 1.0, -1.0, -1.0, 0, 0
    stirring = k.stirring
    refresh = max(1, round(REFRESH_S / dt))
    h, loose = 0.0, 0.0
    unswept = k.traces if stirring == STILL else 0.0
    while True:
        if step % refresh == 0:
            thicken(k, y)
            # Off the heat the sauce goes on turning for a while: heat crosses, but nobody sweeps the film.
            h = coefficient(k, y[SAUCE_C], y[YIELD_PA], k.stirring)
        if step % every == 0 and rows < out.shape[0]:
            out[rows] = y[:COLUMNS]
            rows += 1
        if reached_at < 0 and y[SAUCE_C] >= goal - 1e-9:
            reached_at = y[T_S]
        if reached_at >= 0 and lifted_at < 0 and y[T_S] >= reached_at + asked.hold_s - 1e-9:
            lifted_at, lit, stirring = y[T_S], 0.0, float(STILL)
            loose = unswept * k.loose_share * lies(k, y, y[BASE_C], h)
            lift(k, y)
        if lifted_at >= 0 and y[T_S] >= lifted_at + asked.left_s - 1e-9:
            break
        if y[T_S] >= asked.longest_s:
            break
        if y[LOOK_PA] >= 0 and y[CURDLES_C] >= 0:
            # Looked at, and curdled since: nothing that was asked for is still to come.
            break
        t, base = y[SAUCE_C], y[BASE_C]
        s, b = warming(k, y, dt, h, lit)
        ahead, now = t + dt * s, dt
        if reached_at < 0 and ahead > goal:
            # The step that would pass the goal is cut to end on it.
            now = dt * (goal - t) / (ahead - t)
            ahead = goal
        y[BASE_C] = base + now * b
        ahead = steam_off(k, y, now, ahead, lit)
        if lit > 0 and reached_at >= 0:
            # Held: the flame is turned down to what the surface loses, and the base falls to match.
            ahead = goal
            steady = t + losses(k, t) / (h * k.heated_m2)
            y[BASE_C] = steady + (base - steady) * np.exp(-h * k.heated_m2 / k.base_j_k * now)
        arrive(k, y, now, ahead, stirring, h)
        note(k, y)
        step += 1
    if lifted_at < 0:
        loose = unswept * k.loose_share * lies(k, y, y[BASE_C], h)
    y[BITS] = _nearer(y[BITS], loose)
    thicken(k, y)
    if rows < out.shape[0]:
        out[rows] = y[:COLUMNS]
        rows += 1
    return rows, lifted_at, y[:COLUMNS]
