"""A cook that happened, followed along the temperatures that were read: no hob has to be known for it.

What the base must have been comes out of the heat balance: the sauce rose as it did because so much heat
crossed from the base. With that the same kernel as any cook's says what set, curdled, caught and was left
alive.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from custard.conditions import USUAL, Conditions
from custard.errors import OutOfRange
from custard.mixture import Mixture
from custard.process.following.curve import along
from custard.process.heating import kernel, pan
from custard.process.heating.cook import Stove, constants
from custard.process.heating.state import State, state_of

CELL_S = 1.0
SMOOTH_S = 12.0
"""Readings are smoothed over about so long, and the probe's own lag is made up for [s]."""
PROBE_LAG_S = 4.0
SLOPE_S = 40.0
"""The rise of the sauce is read over so long [s]."""
HOTTEST_BASE_C = 300.0
LEAST_READINGS = 4
BOILS_K = 0.5
"""So far under its boil a mix counts as boiled [K]."""
LONGEST_S = 4 * 3600.0

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Replayed:
    """What a curve that was read did to a mix.

    Attributes
    ----------
    state : where it stood at the end of the curve.
    highest_c, highest_s : its hottest [degC], and when [s].
    bits : egg curdled in the film at the base and swept in, over all of it [1].
    caught : degree to which the base has caught, 1 where it is seen and tasted [1].
    amylase : what is left of the yolk's enzyme [1].
    germ_logs : decimal reductions of Salmonella [1].
    base_c : the hottest the base must have been [degC].
    boiled_s : how long it stood within a degree of its boil [s].
    rate_k_per_min : how fast it rose through the last ten degrees before its hottest [K/min].
    """

    state: State
    highest_c: float
    highest_s: float
    bits: float
    caught: float
    amylase: float
    germ_logs: float
    base_c: float
    boiled_s: float
    rate_k_per_min: float


def replay(
    mixture: Mixture,
    readings: Sequence[tuple[float, float]],
    stove: Stove | None = None,
    conditions: Conditions = USUAL,
    still: Sequence[tuple[float, float]] = (),
    off_s: float | None = None,
) -> Replayed:
    """What the temperatures that were read did to a mix.

    Parameters
    ----------
    mixture : what was in the pan.
    readings : time [s] and temperature [degC], from when it was in the pan; at least four.
    stove : what it was cooked on, for the pan and the stirring; its power is not used.
    still : from when to when nobody stirred [s].
    off_s : when it was taken off the heat [s].

    Raises
    ------
    OutOfRange
        when there are too few readings, or they go on for longer than a day's work.
    """
    k = constants(mixture, stove or Stove(), conditions)._replace(traces=1.0)
    course = course_of(readings, float(k.stirring), still, off_s)
    t, c = course.t_s, course.celsius
    y = kernel.at_rest(float(c[0]))
    hottest_base, boiled = course.follow(k, y)
    top = int(np.argmax(c))
    before = t[: top + 1][c[: top + 1] >= c[top] - 10.0]
    rose_s = max(CELL_S, float(t[top] - before[0]))
    rose_k = float(c[top] - c[np.searchsorted(t, before[0])])
    return Replayed(
        state=state_of(y, float(mixture.mass_g), boiled=boiled > 0),
        highest_c=float(c[top]),
        highest_s=float(t[top]),
        bits=float(y[kernel.BITS]),
        caught=float(y[kernel.CAUGHT]),
        amylase=float(y[kernel.AMYLASE]),
        germ_logs=float(y[kernel.LOGS]),
        base_c=float(hottest_base),
        boiled_s=float(boiled),
        rate_k_per_min=60 * rose_k / rose_s,
    )


@dataclass(frozen=True)
class Course:
    """Temperatures that were read, on an even grid; equally long arrays.

    Attributes
    ----------
    t_s, celsius, slope_k_s : times [s], the sauce [degC], how fast it rises [K/s].
    swept, crossed : how the film is swept, and how heat crosses, as stirrings.
    """

    t_s: Floats
    celsius: Floats
    slope_k_s: Floats
    swept: Floats
    crossed: Floats

    def follow(
        self, k: pan.Constants, y: Floats, from_s: float = -np.inf, to_s: float = np.inf
    ) -> tuple[float, float]:
        """Take a state along it; returns the hottest base [degC], and how long it boiled [s].

        Parameters
        ----------
        k, y : the cook as plain numbers, and the state, which is changed.
        from_s, to_s : the part of it that is followed [s].
        """
        low, high = np.searchsorted(self.t_s, (from_s, to_s))
        if low >= high:
            return float(y[kernel.BASE_C]), 0.0
        part = slice(low, high)
        hottest, boiled = along(
            k,
            y,
            self.celsius[part],
            self.slope_k_s[part],
            self.swept[part],
            self.crossed[part],
            CELL_S,
            HOTTEST_BASE_C,
        )
        return float(hottest), float(boiled)


def course_of(
    readings: Sequence[tuple[float, float]],
    stirring: float,
    still: Sequence[tuple[float, float]] = (),
    off_s: float | None = None,
    lag_s: float = PROBE_LAG_S,
) -> Course:
    """Readings as a course to follow.

    Parameters
    ----------
    readings : time [s] and temperature [degC], from when it was in the pan; at least four.
    stirring : how it is stirred, as in the constants of its cook.
    still : from when to when nobody stirred [s].
    off_s : when it was taken off the heat [s].
    lag_s : time constant of the probe, which is made up for [s].

    Raises
    ------
    OutOfRange
        when there are too few readings, or they go on for longer than a day's work.
    """
    read = sorted(set(readings))
    if len(read) < LEAST_READINGS:
        raise OutOfRange("readings", len(read), f"must be at least {LEAST_READINGS}")
    times, celsius = np.array(read).T
    if times[-1] - times[0] > LONGEST_S:
        raise OutOfRange("readings", f"{times[-1] - times[0]:.0f} s", f"must end within {LONGEST_S:.0f} s")
    t, c = _smoothed(times, celsius, lag_s)
    quiet = np.zeros(t.size, dtype=bool)
    for begins, ends in still:
        quiet |= (begins <= t) & (t < ends)
    lit = np.ones(t.size, dtype=bool) if off_s is None else t < off_s
    # Off the heat the sauce goes on turning for a while: heat crosses, but nobody sweeps the film.
    swept = np.where(quiet | ~lit, float(pan.STILL), stirring)
    crossed = np.where(quiet, float(pan.STILL), stirring)
    return Course(t, c, _slope(t, c), swept, crossed)


def _slope(t: Floats, c: Floats) -> Floats:
    """How fast it rose [K/s], as a straight line through so many seconds has it: noise is no heat."""
    half = round(SLOPE_S / CELL_S / 2)
    u = np.arange(-half, half + 1) * CELL_S
    weights = -u / (u @ u)
    padded = np.concatenate((np.full(half, c[0]), c, np.full(half, c[-1])))
    return np.asarray(np.convolve(padded, weights, mode="valid"))


def _smoothed(times: Floats, celsius: Floats, lag_s: float) -> tuple[Floats, Floats]:
    """Readings on an even grid, smoothed, with the lag of the probe made up for."""
    t = np.arange(times[0], times[-1] + CELL_S / 2, CELL_S)
    c = np.interp(t, times, celsius)
    half = max(1, round(SMOOTH_S / CELL_S / 2))
    padded = np.concatenate((np.full(half, c[0]), c, np.full(half, c[-1])))
    weights = np.hanning(2 * half + 3)[1:-1]
    c = np.convolve(padded, weights / weights.sum(), mode="valid")
    return t, c + lag_s * np.gradient(c, t)


def went_on(
    mixture: Mixture, state: State, to_c: float, seconds: float, conditions: Conditions = USUAL
) -> State:
    """A mix as it stands, stirred and warmed or cooled evenly to a temperature [degC] in so long [s]."""
    return boiled_on(mixture, state, to_c, seconds, 1.0, conditions)[0]


def boiled_on(
    mixture: Mixture,
    state: State,
    to_c: float,
    seconds: float,
    enzyme: float = 1.0,
    conditions: Conditions = USUAL,
) -> tuple[State, float]:
    """The same, and what that leaves of the yolk's enzyme [1], of as much as there was."""
    k = constants(mixture, Stove(), conditions)._replace(traces=1.0)
    y = kernel.at_rest(state.at_c)
    y[kernel.THICKENED], y[kernel.CURDLED] = state.thickened, state.curdled
    y[kernel.GELATINISED], y[kernel.AMYLASE] = state.gelatinised, enzyme
    steps = max(1, round(seconds / CELL_S))
    celsius = state.at_c + (to_c - state.at_c) * (np.arange(steps) + 0.5) / steps
    stirred = np.full(steps, k.stirring)
    along(k, y, celsius, np.zeros(steps), stirred, stirred, seconds / steps, HOTTEST_BASE_C)
    y[kernel.SAUCE_C] = to_c
    kernel.thicken(k, y)
    became = State(
        at_c=to_c,
        thickened=float(y[kernel.THICKENED]),
        curdled=float(y[kernel.CURDLED]),
        gelatinised=float(y[kernel.GELATINISED]),
        swollen=max(state.swollen, float(y[kernel.SWOLLEN])),
        boiled=state.boiled or to_c >= k.boil_c - BOILS_K,
        undisturbed=state.undisturbed,
        left=state.left,
    )
    return became, float(y[kernel.AMYLASE])
