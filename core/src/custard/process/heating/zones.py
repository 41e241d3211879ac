"""A pan stirred by place: today's cook, with the base and the film on it told apart by where they are.

The sauce stays one, as it flows; what differs by place is how well heat crosses into it, how hot the base is
there, what lies on it as film, and whether it catches. With every spot whisked all the time this is the cook
of `kernel` whisked, with none the one that nobody stirs, whatever is between the two.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numba import njit  # typed as Any: its decorators do not keep signatures
from numpy.typing import NDArray

from custard.larder.parameters import Parameters
from custard.physics import foam, stirring
from custard.process.heating import kernel, pan
from custard.process.heating.kernel import (
    BASE_C,
    BITS,
    CAUGHT,
    COLUMNS,
    CURDLED,
    GELATINISED,
    SAUCE_C,
    THICKENED,
)

Floats = NDArray[np.float64]

_moving = njit(inline="always")(stirring.moving)
_between = njit(inline="always")(stirring.between)
_between_powers = njit(inline="always")(stirring.between_powers)
_air_after = njit(inline="always")(foam.air_after)

RINGS = (1, 4, 8)
"""Spots from the middle out; all of the same area."""
ZONES = sum(RINGS)
EDGES = tuple(np.sqrt(np.cumsum(RINGS) / ZONES))
"""Outer radius of each ring over that of the pan [1]."""

# Columns of a spot.
HOT_C, LYING, BROWNED, GAP_S, LONGEST_S = range(5)
SPOT_COLUMNS = 5
GAPS_COUNT_FROM_C = 60.0
"""Cooler than this a spot may be left alone: nothing sets there yet [degC]."""
# What else is followed, behind the columns of `kernel`.
AIR, LUMPS = COLUMNS + 2, COLUMNS + 3

_AIR_TABLE = np.asarray(foam.most_overrun(np.arange(0.0, 131.0), 1.0))
_SAMPLE = 0.08
"""A stroke is followed in steps of so much of the pan's radius."""


def centres() -> Floats:
    """Where the middle of each spot is, over the radius of the pan; rows of x, y."""
    inner = (0.0, *EDGES[:-1])
    at = []
    for ring, count in enumerate(RINGS):
        radius = 0.0 if ring == 0 else (inner[ring] + EDGES[ring]) / 2
        turns = 2 * np.pi * np.arange(count) / count
        at += [(radius * np.cos(turn), radius * np.sin(turn)) for turn in turns]
    return np.asarray(at)


def _neighbours() -> NDArray[np.int64]:
    """Pairs of spots that touch."""
    pairs = [(0, 1 + i) for i in range(RINGS[1])]
    pairs += [(1 + i, 1 + (i + 1) % RINGS[1]) for i in range(RINGS[1])]
    first = 1 + RINGS[1]
    pairs += [(first + i, first + (i + 1) % RINGS[2]) for i in range(RINGS[2])]
    # The inner ring turns by half as many: its spot i touches the outer ones 2 i - 1, 2 i and 2 i + 1.
    pairs += [(1 + i, first + (2 * i + by) % RINGS[2]) for i in range(RINGS[1]) for by in (-1, 0, 1)]
    return np.asarray(pairs)


_PAIRS = _neighbours()


class Local(NamedTuple):
    """What is asked of the pan besides its `Constants`: how stirring and heat spread, and how air goes in."""

    free_s: float
    fades_s: float
    lateral_w_k: float
    best_overrun: float
    whisk_s: float
    collapse: float
    collapse_s: float


def local(p: Parameters, *, foams: bool) -> Local:
    """The figures of a pan by place; without a foam no air is counted."""
    return Local(
        p.stir.free_s,
        p.stir.fades_s,
        p.stir.lateral_w_k,
        p.foam.best_overrun if foams else 0.0,
        p.foam.hand_s,
        p.foam.collapse,
        p.foam.collapse_s,
    )


def at_rest(start_c: float) -> tuple[Floats, Floats]:
    """Sauce and spots of a mix that has just gone into a pan as warm as itself [degC], not stirred yet."""
    y = np.concatenate((kernel.at_rest(start_c), (0.0, 0.0)))
    spots = np.zeros((ZONES, SPOT_COLUMNS))
    spots[:, HOT_C] = start_c
    spots[:, GAP_S] = np.inf
    return y, spots


@njit(cache=True)
def zone_at(x: float, y: float) -> int:
    """The spot at a place of the pan, whose radius is 1; places outside count as the edge."""
    radius = np.hypot(x, y)
    if radius < EDGES[0]:
        return 0
    turn = (np.arctan2(y, x) / (2 * np.pi)) % 1.0
    first, count = (1, 4) if radius < EDGES[1] else (5, 8)
    return int(first + int(np.floor(turn * count + 0.5)) % count)


@njit(cache=True)
def stroke(spots: Floats, x0: float, y0: float, x1: float, y1: float, width: float) -> None:
    """A whisk of half a `width` goes from one place to another: the spots that it touches are passed."""
    steps = int(np.ceil(np.hypot(x1 - x0, y1 - y0) / _SAMPLE))
    for i in range(steps + 1):
        share = i / steps if steps > 0 else 1.0
        x, y = x0 + share * (x1 - x0), y0 + share * (y1 - y0)
        spots[zone_at(x, y), GAP_S] = 0.0
        for turn in range(4):
            dx, dy = width * np.cos(turn * np.pi / 2), width * np.sin(turn * np.pi / 2)
            if np.hypot(x + dx, y + dy) <= 1.0:
                spots[zone_at(x + dx, y + dy), GAP_S] = 0.0


@njit(cache=True, error_model="numpy", inline="always")
def _slopes(
    k: pan.Constants,
    sauce: float,
    hot: Floats,
    h: Floats,
    lateral: float,
    lit: float,
    power: float,
    rates: Floats,
) -> float:
    """Rate of warming of the sauce [K/s]; those of the spots are written into `rates` [K/s]."""
    each_m2, each_j_k = k.heated_m2 / ZONES, k.base_j_k / ZONES
    lost = pan.losses(k, sauce) * (lit + (1 - lit) * k.off_heat_share)
    across = 0.0
    for i in range(ZONES):
        crosses = h[i] * each_m2 * (hot[i] - sauce)
        given = lit * (power * k.power_w + k.net_power * lost) / ZONES
        if k.steam_w_k > 0:
            crosses_w_k = max(k.steam_air_w_k, power * k.steam_w_k)
            given = lit * min(power * k.power_w, max(0.0, crosses_w_k * (k.steam_c - hot[i]))) / ZONES
        across += crosses
        rates[i] = (given - crosses) / each_j_k
    for pair in range(_PAIRS.shape[0]):
        i, j = _PAIRS[pair]
        flows = lateral * (hot[j] - hot[i]) / each_j_k
        rates[i] += flows
        rates[j] -= flows
    return float((across - lost) / k.sauce_j_k)


@njit(cache=True, error_model="numpy", inline="always")
def _unswept(k: pan.Constants, lying: float, rate: float, ready: float) -> float:
    """How much of the film of a spot that nobody swept lies there [0 to 1]."""
    return float(min(1.0, lying * (rate + k.renew_still) / max(ready * rate, 1e-12)))


@njit(cache=True, error_model="numpy", inline="always")
def _wall(
    k: pan.Constants, y: Floats, spots: Floats, moves: Floats, h: Floats, dt: float, curdling: float
) -> None:
    """What lies on each spot as film, what a pass sweeps off it as bits, and where it browns."""
    bits, worst = 0.0, 0.0
    for i in range(ZONES):
        renew = _between(k.renew_still, k.renew_whisk, moves[i])
        rate, ready, share = kernel.film(k, y, spots[i, HOT_C], renew, h[i], curdling)
        steady = ready * rate / (rate + renew)
        bits += share * (renew - k.renew_still) * steady * dt
        # What lay there over what a spot so stirred would carry comes off as fast as it is now renewed.
        over, gone = max(0.0, spots[i, LYING] - steady), -np.expm1(-(rate + renew) * dt)
        off = (renew - k.renew_still) / (rate + renew) * gone
        bits += off * kernel.lies(k, y, spots[i, HOT_C], h[i]) * over
        spots[i, LYING] += (steady - spots[i, LYING]) * gone
        spots[i, BROWNED] += (
            _between_powers(1.0, k.scraped_share, moves[i]) * kernel.browning(k, spots[i, HOT_C]) * dt
        )
        worst = max(worst, spots[i, BROWNED])
    y[BITS] = 1 - (1 - y[BITS]) * np.exp(-bits / ZONES)
    y[CAUGHT] = worst


@njit(cache=True, error_model="numpy", nogil=True)
def advance(
    k: pan.Constants,
    at: Local,
    y: Floats,
    spots: Floats,
    seconds: float,
    dt: float,
    lit: float,
    power: float = 1.0,
) -> None:
    """Take a pan `seconds` on, in steps of at most `dt` [s], with the heat on (`lit` = 1) or off (0).

    Parameters
    ----------
    k, at : the pan as plain numbers; the flame gives `power` times what they say
    y : the sauce, columns as in `kernel`, and AIR and LUMPS behind them
    spots : a row a spot
    """
    steps = max(1, int(np.ceil(seconds / dt - 1e-9)))
    now = seconds / steps
    h, moves, rates, later = np.empty(ZONES), np.empty(ZONES), np.empty(ZONES), np.empty(ZONES)
    for step in range(steps):
        for i in range(ZONES):
            moves[i] = _moving(spots[i, GAP_S], at.free_s, at.fades_s)
        if step % max(1, round(kernel.REFRESH_S / now)) == 0:
            kernel.thicken(k, y)
        still = pan.coefficient(k, y[SAUCE_C], y[kernel.YIELD_PA], pan.STILL)
        whisked = pan.coefficient(k, y[SAUCE_C], y[kernel.YIELD_PA], pan.WHISK)
        for i in range(ZONES):
            h[i] = _between(still, whisked, moves[i])
        sauce = y[SAUCE_C]
        first = _slopes(k, sauce, spots[:, HOT_C], h, at.lateral_w_k, lit, power, rates)
        for i in range(ZONES):
            later[i] = spots[i, HOT_C] + now * rates[i]
            spots[i, HOT_C] += now * rates[i] / 2
        second = _slopes(k, sauce + now * first, later, h, at.lateral_w_k, lit, power, rates)
        for i in range(ZONES):
            spots[i, HOT_C] += now * rates[i] / 2
        ahead = kernel.steam_off(k, y, now, sauce + now * (first + second) / 2, lit)
        y[SAUCE_C] = (sauce + ahead) / 2
        y[BASE_C] = spots[:, HOT_C].mean()
        swelled = y[GELATINISED]
        curdling = kernel.change(k, y, now)
        _wall(k, y, spots, moves, h, now, curdling)
        kernel.last(k, y, now)
        moved = moves.mean()
        # Starch that swells where nobody whisks swells together.
        y[LUMPS] += (1 - moved) * (y[GELATINISED] - swelled)
        if at.best_overrun > 0:
            here = _AIR_TABLE[min(130, int(y[SAUCE_C]))]
            beyond = _AIR_TABLE[min(130, int(y[SAUCE_C]) + 1)]
            most = at.best_overrun * (here + (y[SAUCE_C] - int(y[SAUCE_C])) * (beyond - here))
            # A whisk that goes through half of it beats in air half as fast; a foam falls by itself.
            slow = at.whisk_s / max(moved, 1e-6)
            y[AIR] = _air_after(y[AIR], most, y[THICKENED], y[CURDLED], now, slow, at.collapse, at.collapse_s)
        y[SAUCE_C] = ahead
        y[kernel.HOTTEST_C] = max(y[kernel.HOTTEST_C], ahead)
        y[kernel.T_S] += now
        for i in range(ZONES):
            spots[i, GAP_S] += now
            if lit > 0 and ahead >= GAPS_COUNT_FROM_C:
                spots[i, LONGEST_S] = max(spots[i, LONGEST_S], spots[i, GAP_S])
    kernel.thicken(k, y)


@njit(cache=True, error_model="numpy", nogil=True)
def poured(k: pan.Constants, y: Floats, spots: Floats) -> None:
    """Pour it out: a part of the film that lies on the base comes loose and goes with it, as bits.

    Parameters
    ----------
    y, spots : the sauce and the spots; the bits of the one are written, the film of the other is gone
    """
    h = pan.coefficient(k, y[SAUCE_C], y[kernel.YIELD_PA], pan.STILL)
    curdling = kernel.curdling_c(k, y)
    bits = 0.0
    for i in range(ZONES):
        rate, ready, _ = kernel.film(k, y, spots[i, HOT_C], k.renew_still, h, curdling)
        unswept = _unswept(k, spots[i, LYING], rate, ready)
        bits += k.loose_share * kernel.lies(k, y, spots[i, HOT_C], h) * unswept
        spots[i, LYING] *= 1 - k.loose_share
    y[BITS] = 1 - (1 - y[BITS]) * np.exp(-bits / ZONES)


class Acts(NamedTuple):
    """What is done with a pan for a while.

    Attributes
    ----------
    powers : what the flame gives in each tick, over what the pan nominally gets [1].
    lit : 1.0 over the flame, 0.0 off it.
    tick_s, dt : how long a tick and a step are [s].
    strokes : rows of tick, x0, y0, x1, y1, in order.
    width : how wide the whisk sweeps [1].
    lag_s : how far the probe lags [s].
    """

    powers: Floats
    lit: float
    tick_s: float
    dt: float
    strokes: Floats
    width: float
    lag_s: float


@njit(cache=True, error_model="numpy", nogil=True)
def play(
    k: pan.Constants,
    at: Local,
    y: Floats,
    spots: Floats,
    acts: Acts,
    out: Floats,
    probe_c: float,
) -> float:
    """Take a pan on by as many ticks as there are powers, with the strokes that fall into them.

    Parameters
    ----------
    acts : what is done meanwhile
    out : a row a tick: the columns of `kernel`, air, lumps, what the probe reads [degC]
    probe_c : what the probe reads at the start [degC]

    Returns
    -------
    what the probe reads at the end [degC]
    """
    powers, lit, tick_s, dt, strokes, width, lag_s = acts
    after = 0
    for tick in range(powers.shape[0]):
        while after < strokes.shape[0] and strokes[after, 0] <= tick:
            stroke(spots, strokes[after, 1], strokes[after, 2], strokes[after, 3], strokes[after, 4], width)
            after += 1
        advance(k, at, y, spots, tick_s, dt, lit, powers[tick])
        probe_c += (y[SAUCE_C] - probe_c) * -np.expm1(-tick_s / lag_s)
        out[tick, :COLUMNS] = y[:COLUMNS]
        out[tick, COLUMNS], out[tick, COLUMNS + 1], out[tick, COLUMNS + 2] = y[AIR], y[LUMPS], probe_c
    return probe_c


def compile_play(k: pan.Constants) -> None:
    """Compile what is compiled here, once, so that later processes find it on disk."""
    y, spots = at_rest(60.0)
    at = Local(2.0, 4.0, 0.3, 3.0, 150.0, 6.0, 25.0)
    strokes, out = np.array([[0.0, 0.0, 0.0, 0.5, 0.5]]), np.empty((2, COLUMNS + 3))
    play(k, at, y, spots, Acts(np.ones(2), 1.0, 0.2, 0.2, strokes, 0.16, 5.0), out, 60.0)
    poured(k, y, spots)
    advance(k, at, y, spots, 0.2, 0.2, 1.0, 1.0)
    stroke(spots, 0.0, 0.0, 0.5, 0.5, 0.16)
    zone_at(0.0, 0.0)
