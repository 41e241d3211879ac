"""What a hob and a pan really do, from a logged curve, by least squares with uncertainty."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import NamedTuple, NoReturn

import numpy as np
from numpy.typing import NDArray

from custard.advice.stove.account import UNKNOWN_POWER
from custard.conditions import USUAL, Conditions
from custard.errors import BadFormula, Impossible, OutOfRange
from custard.figures import JoulesKelvin, TenthsWatt, Thousandths
from custard.mixture import Mixture
from custard.process.heating import kernel, pan
from custard.process.heating.cook import Stove, constants, step_s

Floats = NDArray[np.float64]

LEAST_READINGS = 8
MOST_READINGS = 20_000
MOST_FITTED = 240
"""A longer curve is thinned evenly to so many readings: more of them tell the same thing again."""
LONGEST_FITTED_S = 3600.0
"""Of a longer curve only so much is fitted: a pan has shown by then what its hob gives."""
AT_THE_BOIL_K = 1.0
"""So near the boil a curve counts as boiling: there it rises no more, whatever the hob."""
BOILED_S = 60.0
"""For so long after it came there it is still fitted."""
MOST_TRIALS = 200
"""So many cooks are tried at most for one fit."""
CLOSE_ENOUGH = 1e-4
"""A fit ends when a logarithm moves by less: far below what readings can tell."""
SLOPE_STEP = 1e-3
"""How far a logarithm is moved to see what it does."""
LEAST_RISE_K = 5.0
"""A curve that warms less than this says nothing of a hob."""
LEAST_W, MOST_W = 20.0, 20_000.0
"""What a hob can give a pan; a fit outside has been led astray."""
LEAST_SHARE, MOST_SHARE = 0.3, 3.0
"""A pan's heat over that of its kind, likewise."""
MOST_SCATTER_K = 3.0
"""Readings that stray further than this from the best cook were not of one cook on one flame."""
MOST_ERROR = 0.5
"""A power that is not known to half of itself is not known."""
PROBE_K = 0.2
"""Scatter of a kitchen probe [K], against which the belief in the pan is weighed."""
PRIOR_LOG_HEAT = 0.2
"""How loosely the pan's heat is held to its kind, as a logarithm: one curve alone tells little about it."""
PRIOR_LOG_WHISK = 0.15
"""How loosely the stirring is held to its kind, likewise: what the pan gives away it takes."""
ALIKE_S = 20.0
"""For about how long a flame strays to one side [s]: readings closer together tell the same thing twice."""


@dataclass(frozen=True)
class Calibration:
    """Net power [W] and the pan's heat [J/K], each with a standard error, and the scatter [K].

    `kind_j_k` is the heat a pan of its kind is taken to have [J/K].
    """

    power_w: TenthsWatt
    power_error_w: TenthsWatt
    pan_j_k: JoulesKelvin
    pan_error_j_k: JoulesKelvin
    scatter_k: Thousandths
    readings: int
    kind_j_k: JoulesKelvin

    @property
    def pan_share(self) -> float:
        """The pan's heat over that of its kind [1]."""
        return self.pan_j_k / self.kind_j_k


def readings(
    t_s: Sequence[float], sauce_c: Sequence[float]
) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """A curve as sorted arrays.

    Raises
    ------
    BadFormula, OutOfRange
        when the lists do not match, are too short, or hold what no probe reads.
    """
    if len(t_s) != len(sauce_c):
        raise BadFormula("curve", f"{len(t_s)} and {len(sauce_c)}", "must be two equally long lists")
    if not LEAST_READINGS <= len(t_s) <= MOST_READINGS:
        limit = f"must be from {LEAST_READINGS} to {MOST_READINGS} readings"
        raise OutOfRange("curve", f"{len(t_s)} readings", limit)
    t, y = np.asarray(t_s, dtype=float), np.asarray(sauce_c, dtype=float)
    if not (np.isfinite(t).all() and np.isfinite(y).all() and (y > -30).all() and (y < 130).all()):
        raise OutOfRange(
            "curve", "a reading", "must be a finite time and a temperature from {-30 C} to {130 C}"
        )
    order = np.argsort(t, kind="stable")
    t, y = t[order] - t[order][0], y[order]
    if t[-1] <= 0 or t[-1] > 4 * 3600:
        raise OutOfRange("curve", f"{t[-1]:g} s", "must run for more than nothing and at most 4 h")
    return t, y


def calibrate(
    mixture: Mixture,
    t_s: Sequence[float],
    sauce_c: Sequence[float],
    stove: Stove | None = None,
    conditions: Conditions = USUAL,
) -> Calibration:
    """Fit net power and the pan's heat to a curve logged while the heat was on.

    Parameters
    ----------
    mixture : the uniform mix.
    t_s : times of the readings [s], rising.
    sauce_c : what was read [degC].
    stove : what it is cooked on and in; None for the usual.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.

    Raises
    ------
    BadFormula, OutOfRange
        when the lists are none of a curve.
    Impossible
        when the curve can say nothing of a hob: it never warmed, or no cook on one flame fits it.
    """
    k = constants(mixture, stove or Stove(), conditions)
    t, y = _thinned(*_telling(*readings(t_s, sauce_c), float(k.boil_c)))
    if t.size < LEAST_READINGS or float(y.max() - np.median(y[:3])) < LEAST_RISE_K:
        _says_nothing(f"it warmed by less than {LEAST_RISE_K:g} K")
    rise = max(0.5, float(np.polyfit(t, y, 1)[0] * t[-1]))
    power_guess = max(5.0, rise / t[-1] * (k.sauce_j_k + k.base_j_k))
    # Power, heat and stirring as logarithms; the start is fitted too: its one reading is as noisy as any.
    kind = np.log([k.base_j_k, k.whisk])
    first = np.array([np.log(power_guess), *kind, float(np.median(y[:3]))])
    alike = max(1.0, t.size * ALIKE_S / t[-1])
    believed = PROBE_K * np.sqrt(alike) / np.array([PRIOR_LOG_HEAT, PRIOR_LOG_WHISK])

    def residuals(x: NDArray[np.float64]) -> NDArray[np.float64]:
        return np.append(_curve(k, x, t) - y, (x[1:3] - kind) * believed)

    from scipy.optimize import least_squares  # noqa: PLC0415 loading it takes half a second, and few need it

    found = least_squares(
        residuals, first, method="lm", diff_step=SLOPE_STEP, xtol=CLOSE_ENOUGH, max_nfev=MOST_TRIALS
    )
    best, off, jacobian = found.x, found.fun, found.jac
    scatter = float(np.sqrt(np.mean(off[: t.size] ** 2)))
    spread = np.linalg.pinv(jacobian.T @ jacobian) * max(scatter**2, 1e-6) * alike
    spread *= t.size / max(1, t.size - first.size)
    power, heat = np.exp(best[:2])
    errors = np.sqrt(np.maximum(np.diag(spread), 0.0))
    if scatter > MOST_SCATTER_K:
        _says_nothing(f"its readings stray {scatter:.0f} K from any cook on one flame")
    if not LEAST_W <= power <= MOST_W or not errors[0] <= MOST_ERROR:
        _says_nothing("no hob gives what would explain it")
    if not LEAST_SHARE <= heat / k.base_j_k <= MOST_SHARE:
        _says_nothing("no pan stores what would explain it")
    return Calibration(
        float(power),
        float(power * errors[0]),
        float(heat),
        float(heat * errors[1]),
        scatter,
        int(t.size),
        float(k.base_j_k),
    )


def _telling(t: Floats, y: Floats, boiling_c: float) -> tuple[Floats, Floats]:
    """The part of a curve that tells of its hob."""
    boils = t[y >= boiling_c - AT_THE_BOIL_K]
    early = t <= min(LONGEST_FITTED_S, boils[0] + BOILED_S if boils.size else np.inf)
    return t[early], y[early]


def _thinned(t: Floats, y: Floats) -> tuple[Floats, Floats]:
    """At most `MOST_FITTED` readings, evenly, the last among them."""
    step = -(-t.size // MOST_FITTED)
    return t[::-step][::-1], y[::-step][::-1]


def _says_nothing(why: str) -> NoReturn:
    raise Impossible(
        "curve", "of this cook", f"says nothing of the hob: {why}", "Nothing is learned from it."
    )


def _curve(k: pan.Constants, x: NDArray[np.float64], t: NDArray[np.float64]) -> NDArray[np.float64]:
    power, heat, whisk = np.exp(np.clip(x[:3], -10, 20))
    trial = k._replace(power_w=float(power), base_j_k=float(heat), whisk=float(whisk))
    dt = step_s(trial)
    rows = np.empty((int(t[-1] / dt) + 3, kernel.COLUMNS))
    filled, _, _ = kernel.simulate(
        trial, kernel.Asked(float(x[3]), 200.0, 1e9, 0.0, float(t[-1])), dt, 1, rows
    )
    return np.asarray(np.interp(t, rows[:filled, kernel.T_S], rows[:filled, kernel.SAUCE_C]))


@dataclass(frozen=True)
class Estimate:
    """What is known of a cook in progress: net power [W], seconds to the target, each with an error.

    `from_readings` is false while there are too few readings and the kitchen's calibration is used.
    """

    power_w: float
    power_error_w: float
    seconds: float | None
    seconds_error: float | None
    from_readings: bool


def time_to(
    mixture: Mixture,
    t_s: Sequence[float],
    sauce_c: Sequence[float],
    target_c: float,
    known: Stove,
    conditions: Conditions = USUAL,
) -> Estimate:
    """Seconds until a cook in progress reaches `target_c` [degC], from its readings so far.

    With fewer than `LEAST_READINGS` readings the known stove is believed, to a fifth.

    Parameters
    ----------
    mixture : the uniform mix.
    t_s : times [s], rising.
    sauce_c : temperatures of the sauce [degC].
    target_c : temperature that is waited for [degC].
    known : what it is cooked on and in.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    """
    if len(t_s) < LEAST_READINGS:
        start = float(sauce_c[-1]) if sauce_c else 20.0
        power, error, ours = known.power_w, 0.2 * known.power_w, False
    else:
        t, y = readings(t_s, sauce_c)
        fitted = calibrate(mixture, t_s, sauce_c, known, conditions)
        # The last minute's mean line, not the last reading, is where the sauce is now.
        late = t >= t[-1] - 60
        line = np.polyfit(t[late], y[late], 1) if late.sum() >= 3 else (0.0, y[-1])
        start = float(np.polyval(line, t[-1]))
        power, error, ours = fitted.power_w, fitted.power_error_w, True
    seconds = _seconds(mixture, start, target_c, replace(known, power_w=max(0.01, power)), conditions)
    slower = _seconds(mixture, start, target_c, replace(known, power_w=max(0.01, power - error)), conditions)
    spread = None if seconds is None or slower is None else abs(slower - seconds)
    return Estimate(power, error, seconds, spread, ours)


def _seconds(
    mixture: Mixture, start_c: float, target_c: float, stove: Stove, conditions: Conditions
) -> float | None:
    if start_c >= target_c:
        return 0.0
    k = constants(mixture, stove, conditions)
    empty = np.empty((0, kernel.COLUMNS))
    _, lifted, _ = kernel.simulate(
        k, kernel.Asked(float(start_c), float(target_c), 0.0, 0.0, 4 * 3600.0), step_s(k), 1 << 30, empty
    )
    # The base is already hot in a cook in progress: what it took to warm it is not waited for again.
    warmed = k.base_j_k / max(k.whisk * k.heated_m2, 1e-9)
    return None if lifted < 0 else max(0.0, float(lifted) - 0.6 * warmed)


FROM_DAY_TO_DAY = 0.08
"""How far, as a logarithm, the same hob and pan stray from one batch to the next; an estimate."""


SURPRISING = 2.5
"""A batch that strays from what was believed by more of their common spread is doubted."""
DOUBTED_SPREADS = 1.0
"""So many spreads, as logarithms, a batch that is doubted moves what is believed at most."""
UNSURE_AGAIN = 2.0
"""So many times less sure one is after a batch that is doubted: where the next two say the same, they are
believed. All three are estimates; a kitchen's hob does not change overnight, and a lid or a probe out of the
sauce looks just so."""


class Learned(NamedTuple):
    """What is believed after one more batch, its spread as a logarithm [1]; whether the batch is doubted."""

    value: float
    spread: float
    doubted: bool


def learned(
    value: float, spread: float, measured: float, error: float, least_sure: float = UNKNOWN_POWER
) -> Learned:
    """What is believed of a hob or a pan after one more batch.

    One batch that strays far moves it little and makes it less sure; it takes three to move it far.

    Parameters
    ----------
    value, spread : believed so far, in any unit, and its uncertainty as a logarithm [1]
    measured, error : what this batch showed, in the same unit, and its standard error [W or 1]
    least_sure : the spread of what nobody has measured [1]

    >>> value, spread, doubted = learned(350.0, 0.35, 420.0, 20.0)
    >>> 400 < value < 420 and spread < 0.12 and not doubted
    True
    """
    shown = float(np.hypot(error / measured, FROM_DAY_TO_DAY))
    strays = float(np.log(measured / value))
    if abs(strays) > SURPRISING * np.hypot(spread, shown):
        moved = float(np.copysign(min(abs(strays), DOUBTED_SPREADS * spread), strays))
        return Learned(
            value * float(np.exp(moved)), max(spread, min(UNSURE_AGAIN * spread, least_sure)), True
        )
    weight = spread**2 / (spread**2 + shown**2)
    now = float(value * np.exp(weight * strays))
    return Learned(now, float(max(np.sqrt(1 - weight) * spread, FROM_DAY_TO_DAY / 2)), False)
