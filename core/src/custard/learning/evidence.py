"""What one batch says of where it sets, of what its pan adds off the heat, and of what stays behind."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtr  # the package is loaded only by who learns

from custard.advice.mix.texture import film_of
from custard.advice.stove.live import EYE_LOG_PA
from custard.learning.cooked import Cooked
from custard.physics.texture import log_interval
from custard.process.following.replay import CELL_S
from custard.process.heating import kernel, pan
from custard.process.heating.cook import step_s
from custard.process.heating.pan import coefficient, losses
from custard.process.heating.surface import clings_g, open_surface_m2
from custard.vocabulary import Coat, FingerLine, SieveFound

Floats = NDArray[np.float64]

SHIFTS_K = np.linspace(-6.0, 6.0, 241)
"""How much later it sets than is computed is looked at from -6 to 6 K, every 0.05 K."""
COARSE_K = np.linspace(-6.0, 6.0, 25)
"""At so many of them the cook is run; between, its logarithms are nearly straight."""
LINE_LOG_PA = 0.5
"""How sharply a finger's line tells where the coat begins to carry itself, as a logarithm; an estimate."""
BITS_PERCENT = (1.0, 6.0)
"""Curdled share of the egg [%] from which a few bits stay in the sieve, and many; estimates."""
BITS_LOG = 0.8
"""How sharply a sieve tells that from one batch to the next, as a logarithm; an estimate."""
EYES_LOG = 0.9
"""How far one kitchen's sieve and eye differ from another's in that, as a logarithm; an estimate."""
LEAST_BITS_PERCENT = 0.01
RISE_NOISE_K = 0.35
"""How well a rise off the heat is read [K]: two readings of a probe in a sauce that nobody stirs."""
RISES = np.linspace(-1.5, 1.5, 121)
"""What a pan adds is looked at as the logarithm of its share of what is computed."""
COARSE_RISES = np.linspace(-1.5, 1.5, 13)
LAST_S = 60.0
"""How fast it rose when it was lifted is read over the last so many seconds [s]."""
SHORTEST_STOOD_S = 5.0
LEAST_READ, BENDS_FROM = 3, 8
READ_S = 2.0
ANY_K = 1.45
"""How far any batch of any kitchen sets from where it is computed to [K]: house, formula and batch."""
LEFTS = np.linspace(-2.0, 2.0, 161)
"""What stays behind is looked at as the logarithm of its share of what is computed."""
YIELD_NOISE = 0.015
"""How well a yield is known besides, as a share of the batch: steam, a spoon licked, a scale; an estimate."""
PROBE_READ_K = 0.3
"""Scatter of one reading of a checked probe [K]."""


def of_setting(batch: Cooked) -> Floats | None:
    """How likely what spoon and sieve showed is, on `SHIFTS_K`; None where they say nothing.

    Every test of a batch shares its probe's error, so that error blurs them together, once.

    Parameters
    ----------
    batch : what was cooked, and what was looked at.
    """
    if batch.course is None or not (batch.spoons or batch.sieve):
        return None
    # Without egg there is no setting to learn; what its starch does is another figure.
    if batch.result.window.curdles_c is None and batch.result.window.nappe_c is None:
        return None
    stress, bits = _cooked_with(batch)
    log = np.zeros(SHIFTS_K.size)
    for row, seen in zip(stress, batch.spoons, strict=True):
        log += _of_spoon(
            batch, np.interp(SHIFTS_K, COARSE_K, np.log(np.maximum(row, 1e-3))), seen.coat, seen.line
        )
    if batch.sieve:
        log += _of_sieve(
            np.interp(SHIFTS_K, COARSE_K, np.log(np.maximum(bits, LEAST_BITS_PERCENT))), batch.sieve
        )
    likelihood = np.exp(log - log.max())
    if likelihood.min() > 0.9:
        return None
    return _blurred(likelihood, float(np.hypot(batch.kept.probe.error_k, PROBE_READ_K)))


def _cooked_with(batch: Cooked) -> tuple[Floats, Floats]:
    """Yield stress at each spoon test [Pa], and what a sieve would hold at the end [%], on `COARSE_K`."""
    assert batch.course is not None  # noqa: S101
    stress = np.empty((len(batch.spoons), COARSE_K.size))
    bits = np.empty(COARSE_K.size)
    begins = float(batch.course.celsius[0])
    for column, shift in enumerate(COARSE_K):
        k = batch.k._replace(set_c=batch.k.set_c + float(shift))
        y, from_s = kernel.at_rest(begins), -np.inf
        for row, seen in enumerate(batch.spoons):
            batch.course.follow(k, y, from_s, seen.t_s)
            kernel.thicken(k, y)
            stress[row, column], from_s = y[kernel.YIELD_PA], seen.t_s
        batch.course.follow(k, y, from_s)
        bits[column] = 100 * (1 - (1 - y[kernel.CURDLED]) * (1 - y[kernel.BITS]))
    return stress, bits


def _of_spoon(batch: Cooked, log_pa: Floats, coat: str, line: str) -> Floats:
    """Logarithm of how likely a spoon test is where the sauce is so stiff [log Pa]."""
    log = np.zeros(log_pa.size)
    if coat:
        low, high = log_interval(Coat(coat))
        within = ndtr((high - log_pa) / EYE_LOG_PA) - ndtr((low - log_pa) / EYE_LOG_PA)
        log += np.log(np.maximum(within, 1e-6))
    if line:
        carries = (log_pa - _line_holds_from(batch)) / LINE_LOG_PA
        holds = FingerLine(line) == FingerLine.HOLDS
        log += np.log(np.maximum(ndtr(carries if holds else -carries), 1e-6))
    return log


def _line_holds_from(batch: Cooked) -> float:
    """Yield stress from which a line drawn through the coat holds [log Pa]."""
    p, mixture = batch.result.conditions.parameters, batch.result.pan
    low, high = np.log(0.05), np.log(60.0)
    while high - low > 0.02:
        middle = (low + high) / 2
        holds = film_of(mixture, float(np.exp(middle)), p.spoon.spoon_c, p).line == FingerLine.HOLDS
        low, high = (low, middle) if holds else (middle, high)
    return float(high)


def _of_sieve(log_percent: Floats, sieve: str) -> Floats:
    """Logarithm of how likely it is that a sieve shows that, where so much has curdled [log %].

    A kitchen's eye is the same in all its batches: what is believed of it a little too much adds up. So each
    batch is read as the eye would see it for which it says least.
    """
    few, many = np.log(BITS_PERCENT)

    def over(percent: float) -> Floats:
        return np.asarray(ndtr((log_percent - percent) / BITS_LOG))

    chance = {
        SieveFound.CLEAN: 1 - over(few + EYES_LOG),
        SieveFound.A_FEW_BITS: over(few - EYES_LOG) - over(many + EYES_LOG),
        SieveFound.MANY_BITS: over(many - EYES_LOG),
    }[SieveFound(sieve)]
    return np.asarray(np.log(np.maximum(chance, 1e-4)))


def _blurred(likelihood: Floats, spread_k: float) -> Floats:
    """A likelihood of what was read by a probe that may be so far off [K]."""
    step = SHIFTS_K[1] - SHIFTS_K[0]
    off = step * np.arange(-(SHIFTS_K.size - 1), SHIFTS_K.size)
    weight = np.exp(-((off / spread_k) ** 2) / 2)
    padded = np.pad(likelihood, SHIFTS_K.size - 1, mode="edge")
    blurred = np.convolve(padded, weight / weight.sum(), mode="valid")
    return np.asarray(blurred / blurred.max())


def likely_shift_k(setting: Floats | None) -> float:
    """The middle of how much later a batch sets, by what it says itself and what is believed of any [K]."""
    weight = np.exp(-((SHIFTS_K / ANY_K) ** 2) / 2) * (1.0 if setting is None else setting)
    return float(weight @ SHIFTS_K / weight.sum())


def of_carry_over(batch: Cooked, setting: Floats | None = None) -> Floats | None:
    """How likely the rise off the heat is, on `RISES`; None where nobody saw it.

    Parameters
    ----------
    batch : what was cooked, and when it was lifted.
    setting : what the same batch says of its setting.
    """
    course, off_s = batch.course, batch.off_s
    if course is None or off_s is None or batch.kept.over_steam or batch.result.stop.boiled:
        return None
    ends_s = float(course.t_s[-1])
    before = (course.t_s <= off_s) & (course.t_s > off_s - LAST_S)
    stood_s = ends_s - off_s
    if before.sum() < LAST_S / CELL_S / 2 or stood_s < SHORTEST_STOOD_S:
        return None
    found = _rise(batch, off_s, ends_s)
    if found is None:
        return None
    lifted_c, rise_k, slope_k_s = found
    # A sauce that has set more lies on a hotter base under the same heat.
    k = batch.k._replace(set_c=batch.k.set_c + likely_shift_k(setting))
    y = kernel.at_rest(float(course.celsius[0]))
    course.follow(k, y, to_s=off_s)
    y[kernel.SAUCE_C] = y[kernel.HOTTEST_C] = lifted_c
    kernel.thicken(k, y)
    h = coefficient(k, lifted_c, y[kernel.YIELD_PA], k.stirring)
    crossed_w = max(0.0, k.sauce_j_k * slope_k_s + losses(k, lifted_c))
    y[kernel.BASE_C] = lifted_c + crossed_w / (h * k.heated_m2)
    lag_s = batch.kept.probe.lag_s
    computed = [_rises(k._replace(carry_over=float(np.exp(one))), y, stood_s, lag_s) for one in COARSE_RISES]
    off_k = (rise_k - np.interp(RISES, COARSE_RISES, computed)) / RISE_NOISE_K
    return np.asarray(np.exp(-(off_k**2) / 2))


def _rise(batch: Cooked, off_s: float, ends_s: float) -> tuple[float, float, float] | None:
    """Where it was lifted [degC], how far it rose after that [K], how fast it rose before [K/s]."""
    lag, readings = batch.kept.probe.lag_s, batch.kept.true_readings
    read = [(t, c) for t, c in readings if off_s - LAST_S <= t <= off_s]
    after = [c for t, c in readings if off_s < t <= ends_s]
    if len(read) < LEAST_READ or not after:
        return None
    t, c = np.array(read).T
    # With readings enough, that it warms ever more slowly is seen too.
    *_, slope, ended = np.polyfit(t - off_s, c, 2 if t.size >= BENDS_FROM else 1)
    # A probe that lags reads low while the sauce rises, and right where it stands.
    lifted = float(ended + lag * max(0.0, slope))
    return lifted, max(after) - lifted, float(max(0.0, slope))


def _rises(k: pan.Constants, lifted: Floats, stood_s: float, lag_s: float) -> float:
    """How far a probe in it rises above where it was lifted [K], as computed."""
    y, dt = lifted.copy(), step_s(k)
    kernel.lift(k, y)
    probe = highest = float(y[kernel.SAUCE_C])
    for _ in range(max(1, round(stood_s / READ_S))):
        kernel.advance(k, y, READ_S, dt, 0.0, float(pan.STILL))
        probe += (y[kernel.SAUCE_C] - probe) * (1 - np.exp(-READ_S / lag_s))
        highest = max(highest, probe)
    return float(highest - lifted[kernel.SAUCE_C])


def of_left(batch: Cooked) -> Floats | None:
    """How likely the weighed yield is, on `LEFTS`; None where nobody weighed it.

    Parameters
    ----------
    batch : what was cooked, and what it weighed at the end.
    """
    weighed_g = batch.kept.yield_g
    if weighed_g is None or weighed_g <= 0 or batch.result.way.in_the_oven:
        return None
    clings = computed_left_g(batch)
    stayed = clings + batch.result.yield_g - weighed_g
    noise = float(np.hypot(YIELD_NOISE * batch.result.weighed_g, 2.0))
    return np.asarray(np.exp(-(((stayed - clings * np.exp(LEFTS)) / noise) ** 2) / 2))


def computed_left_g(batch: Cooked) -> float:
    """What is computed to stay in pan and sieve [g]."""
    return clings_g(_surface_m2(batch), batch.result.conditions.parameters)


def across_cm(batch: Cooked) -> float:
    """How wide the pan is in which such a batch lies as deep as is usual [cm]."""
    return float(200 * np.sqrt(_surface_m2(batch) / np.pi))


def _surface_m2(batch: Cooked) -> float:
    poured = replace(batch.result.whole, mass_g=batch.result.pan.mass_g)
    return open_surface_m2(poured, batch.result.conditions.parameters)
