"""A cook taken apart, so that a part of it can be put into another: start, warming, lift, stand, cooling."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from custard.advice.trouble.kept import rests
from custard.errors import OutOfRange
from custard.learning.cooked import Cooked
from custard.process.following.replay import CELL_S, LEAST_READINGS, Course, course_of
from custard.process.heating import pan

Floats = NDArray[np.float64]

POINTS = 120
"""A part of a curve is kept at so many points."""
SETS_FROM_K = 20.0
"""How fast it warmed is stated over so much under its lift [K]."""
STILL_FROM_C = 60.0
"""What cools is followed down to where nothing sets any more [degC]."""
ROOM_C = 20.0
MOST_COOLING_S = 1800.0


@dataclass(frozen=True)
class Parts:
    """A cook in parts; every shape is at `POINTS` even points of its part.

    Attributes
    ----------
    start_c, lift_c : where it began and where it was lifted [degC].
    warmed_s : how long that took [s]; `warming` how far it had come at each point [0 to 1].
    held_s : how long it was kept at its lift, or at the boil, before it was lifted [s].
    stood_s : how long it stood in its pan off the heat [s]; `rise_k` what it rose meanwhile [K].
    cooled_s : how long it then took to where nothing sets any more [s]; `cooling` how far above the room it
        still was, over where that began [1].
    still : from when to when nobody stirred, as shares of the warming [1].
    """

    start_c: float
    lift_c: float
    warmed_s: float
    warming: Floats
    held_s: float
    stood_s: float
    rise_k: Floats
    cooled_s: float
    cooling: Floats
    still: tuple[tuple[float, float], ...]

    @property
    def rate_k_per_min(self) -> float:
        """How fast it warmed over the last of its way to the lift [K/min]."""
        span = self.lift_c - self.start_c
        if span <= 0 or self.warmed_s <= 0:
            return 0.0
        from_share = max(0.0, 1 - SETS_FROM_K / span)
        at = float(np.interp(from_share, np.maximum.accumulate(self.warming), np.linspace(0, 1, POINTS)))
        return 60 * span * (1 - from_share) / max(CELL_S, self.warmed_s * (1 - at))

    @property
    def longest_rest_s(self) -> float:
        """The longest time that nobody stirred while it warmed [s]."""
        return max((self.warmed_s * (end - begin) for begin, end in self.still), default=0.0)

    @property
    def highest_rise_k(self) -> float:
        """What its pan added off the heat [K]."""
        return float(self.rise_k.max(initial=0.0))


def parts_of(batch: Cooked) -> Parts:
    """A batch's cook in parts.

    Parameters
    ----------
    batch : what was cooked.

    Raises
    ------
    OutOfRange
        when too little of it was read.
    """
    whole = whole_course(batch)
    t, c = whole.t_s, whole.celsius
    top = int(np.argmax(c))
    off_s = batch.off_s if batch.off_s is not None else float(t[top])
    off_s = min(max(off_s, float(t[0]) + CELL_S), float(t[-1]))
    out_s = off_s if batch.out_s is None else min(max(batch.out_s, off_s), float(t[-1]))
    start_c, lift_c = float(c[0]), float(np.interp(off_s, t, c))
    boil_c = batch.result.boiling_c
    held_s = (
        float(((t <= off_s) & (c >= min(lift_c, boil_c) - 1.0)).sum() * CELL_S)
        if lift_c >= boil_c - 1.5
        else 0.0
    )
    warm_to_s = max(float(t[0]) + CELL_S, off_s - held_s)
    span = max(1e-6, lift_c - start_c)
    warming = (np.interp(np.linspace(t[0], warm_to_s, POINTS), t, c) - start_c) / span
    rise = np.interp(np.linspace(off_s, out_s, POINTS), t, c) - lift_c
    out_c = float(np.interp(out_s, t, c))
    cold = np.flatnonzero((t > out_s) & (c <= STILL_FROM_C))
    ends_s = float(t[cold[0]]) if cold.size else float(t[-1])
    ends_s = min(max(ends_s, out_s), out_s + MOST_COOLING_S)
    cooling = (np.interp(np.linspace(out_s, ends_s, POINTS), t, c) - ROOM_C) / max(1.0, out_c - ROOM_C)
    warmed_s = warm_to_s - float(t[0])
    still = tuple(
        (max(0.0, float(begin - t[0]) / warmed_s), min(1.0, float(end - t[0]) / warmed_s))
        for begin, end in rests(batch.kept.marks, off_s)
        if begin < warm_to_s and end > t[0]
    )
    return Parts(
        start_c, lift_c, warmed_s, warming, held_s, out_s - off_s, rise, ends_s - out_s, cooling, still
    )


def whole_course(batch: Cooked) -> Course:
    """What was read of a batch from the pan until it had cooled, stirred throughout.

    Parameters
    ----------
    batch : what was cooked.

    Raises
    ------
    OutOfRange
        when too little of it was read.
    """
    readings = [(t, c) for t, c in batch.kept.true_readings if t >= 0]
    if len(readings) < LEAST_READINGS:
        raise OutOfRange("readings", len(readings), f"must be at least {LEAST_READINGS}")
    return course_of(_to_compare(readings), pan.WHISK, lag_s=batch.kept.probe.lag_s)


def _to_compare(readings: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """Readings until it has cooled, or for as long as a cook may take."""
    top = max(range(len(readings)), key=lambda i: readings[i][1])
    after = next((i for i in range(top, len(readings)) if readings[i][1] <= STILL_FROM_C), len(readings) - 1)
    last_s = readings[top][0] + MOST_COOLING_S
    return [one for one in readings[: after + 1] if one[0] <= last_s]


def course_from(parts: Parts, stirring: float) -> Course:
    """Parts put together as a course to follow.

    Parameters
    ----------
    parts : of one cook, or of two.
    stirring : how it is stirred, as in the constants of its cook.
    """
    even = np.linspace(0, 1, POINTS)

    def along(shape: Floats, seconds: float) -> Floats:
        steps = max(1, round(seconds / CELL_S))
        return np.asarray(np.interp((np.arange(steps) + 0.5) / steps, even, shape))

    warm = parts.start_c + (parts.lift_c - parts.start_c) * along(parts.warming, parts.warmed_s)
    held = np.full(round(parts.held_s / CELL_S), parts.lift_c)
    stand = parts.lift_c + along(parts.rise_k, parts.stood_s) if parts.stood_s >= CELL_S else np.empty(0)
    out_c = float(parts.lift_c + parts.rise_k[-1]) if stand.size else parts.lift_c
    cool = (
        ROOM_C + (out_c - ROOM_C) * along(parts.cooling, parts.cooled_s)
        if parts.cooled_s >= CELL_S
        else np.empty(0)
    )
    celsius = np.concatenate((warm, held, stand, cool))
    t: Floats = CELL_S * np.arange(celsius.size, dtype=np.float64)
    slope = np.gradient(celsius, CELL_S) if celsius.size > 1 else np.zeros(celsius.size)
    lit = warm.size + held.size
    quiet = np.zeros(celsius.size, dtype=bool)
    for begin, end in parts.still:
        quiet[round(begin * warm.size) : round(end * warm.size)] = True
    swept = np.where(quiet | (np.arange(celsius.size) >= lit), float(pan.STILL), stirring)
    crossed = np.where(quiet, float(pan.STILL), stirring)
    # What stands off the heat and rises is fed by its base; nothing lights it any more.
    return Course(t, celsius, _smooth(slope, lit), swept, crossed)


def _smooth(slope: Floats, lit: int) -> Floats:
    """How fast it rises, without the corners where parts meet."""
    width = 15
    if lit <= width:
        return slope
    weights = np.ones(width) / width
    warm: Floats = np.convolve(np.pad(slope[:lit], width // 2, mode="edge"), weights, mode="valid")
    return np.asarray(np.concatenate((warm, slope[lit:])), dtype=np.float64)
