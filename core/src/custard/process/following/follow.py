"""A cook in progress, followed through noisy, lagging, missing readings by an ensemble of simulated cooks.

Each member is the same mix on a pan and a flame of its own. Between readings every member is simulated by
the compiled kernel; at a reading sauce, base, probe, power and the pan's own figures are drawn toward what
was read by their covariance with it (an ensemble Kalman filter with perturbed readings; Evensen 1994 as
remembered). What cannot be read, thickening and curdling, follows from each member's own history.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numba import njit  # typed as Any: its decorators do not keep signatures
from numpy.typing import NDArray

from custard.larder.ingredients import ingredient
from custard.mixture import blend
from custard.process.following.curve import along
from custard.process.heating import kernel, pan, zones
from custard.process.heating.cook import DT_S, Stove, constants, step_of_rows_s
from custard.process.heating.many import simulate_many

MEMBERS = 48
Array = NDArray[np.float64]

PROBE_NOISE_K = 0.25
"""Scatter of a kitchen probe in a stirred sauce [K]."""
START_SPREAD_K = 1.0
BASE_ABOVE_K, BASE_SPREAD_K = 4.0, 6.0
"""How far above the sauce the base is when the first reading comes, and how unsure that is [K]."""
POWER_WANDERS = 0.006
"""How much the logarithm of a flame drifts in a second."""
SURPRISE = 3.5
"""A reading this many spreads off, twice in a row, says that the flame was turned: power is unsure again."""
TURNED = 0.5
"""Spread of the logarithm of power after that."""
LAG_SPREAD, STIR_SPREAD = 0.35, 0.15
"""How unsure, as logarithms, are the probe's lag and the coefficient from pan to sauce."""
SETTING_SPREAD_K = 1.0
"""How far this batch may set from where the model says [K]."""
LEAST_W, MOST_W = 5.0, 20_000.0


@dataclass(frozen=True)
class Flame:
    """What is believed of hob and probe before anything is read.

    Attributes
    ----------
    power_w : net power [W]; `spread` its uncertainty as a logarithm [1].
    lag_s : time constant of the probe [s].
    pan_spread : uncertainty of the pan's heat, as a logarithm [1].
    """

    power_w: float
    spread: float
    lag_s: float = 4.0
    pan_spread: float = 0.15


@dataclass(frozen=True)
class Change:
    """From `t_s` [s] on the heat is on or off, and somebody stirs or not."""

    t_s: float
    lit: bool
    stirred: bool


@njit(cache=True, error_model="numpy", nogil=True)
def drift(
    rows: NDArray[np.void],
    states: Array,
    probe: Array,
    lag: Array,
    seconds: float,
    dt: float,
    lit: float,
    stirring: float,
) -> None:
    """Take every member `seconds` on; its probe follows its sauce with a lag [s].

    `rows` has the fields of a `Constants`, `states` the kernel's columns; `stirring` below 0 means as in its
    row.
    """
    for i in range(rows.shape[0]):
        k = rows[i]
        before = states[i, kernel.SAUCE_C]
        kernel.advance(k, states[i], seconds, dt, lit, k.stirring if stirring < 0 else stirring)
        after = states[i, kernel.SAUCE_C]
        # The exact answer of a first-order probe to a sauce that moves evenly over the step.
        slope = (after - before) / seconds
        behind = slope * lag[i]
        probe[i] = after - behind + (probe[i] - before + behind) * np.exp(-seconds / lag[i])


@njit(cache=True, error_model="numpy", nogil=True)
def fork(rows: NDArray[np.void], states: Array, seconds: float, dt: float) -> Array:
    """Every member taken off the heat now and left in its pan for `seconds`; the states stay as they are."""
    ends = states.copy()
    for i in range(rows.shape[0]):
        kernel.lift(rows[i], ends[i])
        kernel.advance(rows[i], ends[i], seconds, dt, 0.0, float(pan.STILL))
    return ends


class Ensemble:
    """Members of one cook; every array has a row or an entry a member.

    Parameters
    ----------
    k : the cook as plain numbers, with the best guess of its power
    flame : what is believed before anything is read
    start_c : the first reading [degC]
    shift_k : how much later each member sets than the model says [K]; by default drawn again
    """

    def __init__(
        self, k: pan.Constants, flame: Flame, start_c: float, shift_k: Array | None = None, seed: int = 0
    ) -> None:
        draw = np.random.default_rng(seed)
        normal = draw.standard_normal

        def spread(value: float, by: float) -> Array:
            return np.asarray(value * np.exp(by * normal(MEMBERS)))

        self._draw = draw
        self._steam_w_k, self._power_w = k.steam_w_k, flame.power_w
        self.t_s = 0.0
        self.rows = pan.rows_of(k, MEMBERS)
        drawn = normal(MEMBERS)
        self.shift_k = SETTING_SPREAD_K * (drawn - drawn.mean()) if shift_k is None else shift_k
        self.power_w = spread(flame.power_w, flame.spread)
        self.lag_s = spread(flame.lag_s, LAG_SPREAD)
        self.rows["base_j_k"] *= spread(1.0, flame.pan_spread)
        self.rows["whisk"] *= spread(1.0, STIR_SPREAD)
        self.rows["set_c"] += self.shift_k
        self._light()
        self.dt = step_of_rows_s(self.rows)
        self.states = np.array([kernel.at_rest(start_c) for _ in range(MEMBERS)])
        self.states[:, kernel.SAUCE_C] += START_SPREAD_K * normal(MEMBERS)
        above = np.maximum(0.0, BASE_ABOVE_K + BASE_SPREAD_K * normal(MEMBERS))
        self.states[:, kernel.BASE_C] = self.states[:, kernel.SAUCE_C] + above
        self.probe_c = np.full(MEMBERS, start_c)
        self._surprised = False

    def column(self, index: int) -> Array:
        """One column of the kernel, of every member."""
        return np.asarray(self.states[:, index])

    def on(self, seconds: float, *, lit: bool, stirred: bool) -> None:
        """Time passes [s]."""
        if seconds <= 0:
            return
        stirring = -1.0 if stirred else float(pan.STILL)
        drift(self.rows, self.states, self.probe_c, self.lag_s, seconds, self.dt, float(lit), stirring)
        self.t_s += seconds
        wander = POWER_WANDERS * np.sqrt(seconds) * self._draw.standard_normal(MEMBERS)
        self.power_w *= np.exp(wander - wander.mean())
        self._light()

    def read(self, read_c: float) -> None:
        """Draw every member toward what the probe reads [degC]."""
        off = read_c - float(self.probe_c.mean())
        spread = float(np.hypot(self.probe_c.std(), PROBE_NOISE_K))
        surprised = abs(off) > SURPRISE * spread
        if surprised and not self._surprised:
            # Once is a bubble or a spoon against the probe: it is not believed, but remembered.
            self._surprised = True
            return
        if surprised:
            self.power_w = self.power_w * np.exp(TURNED * self._draw.standard_normal(MEMBERS))
            self.probe_c = self.probe_c + abs(off) * self._draw.standard_normal(MEMBERS)
            self.states[:, kernel.SAUCE_C] += abs(off) * self._draw.standard_normal(MEMBERS)
        self._surprised = False
        self._draw_toward(read_c)

    def _draw_toward(self, read_c: float) -> None:
        """The filter's step, on sauce, base, probe, and the logarithms of power, lag, pan and stirring."""
        logs = ("base_j_k", "whisk")
        known = np.column_stack(
            [
                self.states[:, kernel.SAUCE_C],
                self.states[:, kernel.BASE_C],
                self.probe_c,
                np.log(self.power_w),
                np.log(self.lag_s),
                *(np.log(self.rows[name]) for name in logs),
            ]
        )
        noise = PROBE_NOISE_K * self._draw.standard_normal(MEMBERS)
        known += (
            _gain(known, self.probe_c, PROBE_NOISE_K)
            * (read_c + noise - noise.mean() - self.probe_c)[:, None]
        )
        boil = self.rows["boil_c"]
        self.states[:, kernel.SAUCE_C] = np.minimum(known[:, 0], boil)
        self.states[:, kernel.BASE_C] = np.maximum(known[:, 1], self.states[:, kernel.SAUCE_C] - 5.0)
        self.probe_c = known[:, 2]
        self.power_w = np.clip(np.exp(known[:, 3]), LEAST_W, MOST_W)
        self.lag_s = np.clip(np.exp(known[:, 4]), 0.3, 60.0)
        for at, name in enumerate(logs):
            self.rows[name] = np.exp(known[:, 5 + at])
        self._light()

    def _light(self) -> None:
        """Over steam a stronger simmer both gives more and gives it more readily."""
        self.rows["power_w"] = self.power_w
        self.rows["steam_w_k"] = self._steam_w_k * self.power_w / self._power_w


def _gain(known: Array, seen: Array, noise: float) -> Array:
    """How far each figure goes for one unit of surprise in `seen` [1 a column]."""
    off = seen - seen.mean()
    return np.asarray((known - known.mean(axis=0)).T @ off / (off @ off + (seen.size - 1) * noise**2))


def learned_shift(
    shift_k: Array, log_pa: Array, seen_log_pa: tuple[float, float], noise: float, seed: int = 0
) -> Array:
    """The members' setting shifts [K] after a spoon was seen.

    Parameters
    ----------
    shift_k : shifts before [K]
    log_pa : logarithm of each member's yield stress on that spoon [log Pa]
    seen_log_pa : the interval of what the cook saw [log Pa]; a member inside it has nothing to learn
    noise : how sharply an eye tells that [log Pa]
    """
    # A stream of its own: drawn from the members' one, the noise would be their shifts again.
    draw = np.random.default_rng((seed, 1)).standard_normal(shift_k.size) * noise
    off = np.clip(log_pa, *seen_log_pa) - log_pa
    pulled = _gain(shift_k[:, None], log_pa, noise)[0]
    return np.asarray(shift_k + pulled * np.where(off == 0, 0.0, off + draw))


@dataclass(frozen=True)
class Path:
    """What is ahead of an ensemble; arrays of times by members.

    Attributes
    ----------
    t_s : seconds from now [s].
    states : states of the kernel, times by members by columns.
    probe_c : what the probe would read [degC].
    """

    t_s: Array
    states: Array
    probe_c: Array

    def column(self, index: int) -> Array:
        """One column of the kernel, times by members."""
        return np.asarray(self.states[:, :, index])


def ahead(ensemble: Ensemble, seconds: float, step: float, *, lit: bool) -> Path:
    """Where every member goes if nothing is touched; the ensemble itself stays where it is."""
    count = int(np.ceil(seconds / step)) + 1
    states = np.empty((count, *ensemble.states.shape))
    probes = np.empty((count, MEMBERS))
    now, probe = ensemble.states.copy(), ensemble.probe_c.copy()
    states[0], probes[0] = now, probe
    for i in range(1, count):
        stirring = -1.0 if lit else float(pan.STILL)
        drift(ensemble.rows, now, probe, ensemble.lag_s, step, ensemble.dt, float(lit), stirring)
        states[i], probes[i] = now, probe
    return Path(np.arange(count, dtype=float) * step, states, probes)


def follow(
    ensemble: Ensemble,
    readings: Sequence[tuple[float, float]],
    changes: Sequence[Change],
    until_s: float,
    stops: Sequence[float] = (),
) -> list[tuple[float, Array]]:
    """Run an ensemble through readings (time [s], [degC]) and changes up to `until_s` [s].

    Returns the states at each of `stops` [s], in order, as (time, states).
    """
    lit, stirred = True, True
    seen: list[tuple[float, Array]] = []
    events: list[tuple[float, int, object]] = [
        *((change.t_s, 0, change) for change in changes),
        *((t, 1, c) for t, c in readings),
        *((t, 2, None) for t in stops),
    ]
    for t, _, what in sorted(events, key=lambda event: event[:2]):
        if t > until_s:
            break
        ensemble.on(t - ensemble.t_s, lit=lit, stirred=stirred)
        if isinstance(what, Change):
            lit, stirred = what.lit, what.stirred
        elif isinstance(what, float):
            ensemble.read(what)
        else:
            seen.append((t, ensemble.states.copy()))
    ensemble.on(until_s - ensemble.t_s, lit=lit, stirred=stirred)
    return seen


def compile_kernels() -> None:
    """Compile what is compiled, once, so that later processes find it on disk."""
    water = blend([(ingredient("water"), 500.0)])
    k = constants(water, Stove())
    kernel.simulate(k, kernel.Asked(60.0, 61.0, 0.0, 0.0, 60.0), DT_S, 1, np.empty((100, kernel.COLUMNS)))
    simulate_many(pan.rows_of(k), np.array([60.0]), np.array([62.0]), 0.0, 0.0, 60.0, DT_S)
    y, stirred = kernel.at_rest(60.0), np.full(2, k.stirring)
    along(k, y, np.array([60.0, 61.0]), np.zeros(2), stirred, stirred, 1.0, 300.0)
    kernel.thicken(k, y)
    # As the stand-in stove steps it; the ensemble below steps rows of an array, which is compiled apart.
    kernel.advance(k, y, 0.5, 0.5, 1.0, k.stirring)
    zones.compile_play(k)
    members = Ensemble(k, Flame(350.0, 0.1), 60.0)
    follow(members, [(1.0, 60.2)], [], 2.0)
    fork(members.rows, members.states, 1.0, 1.0)
