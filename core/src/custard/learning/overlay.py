"""A batch made ready to be laid over others: its curve, the moments to align by, and its cook in figures."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from custard.errors import CustardError
from custard.figures import Celsius, Kelvin, Seconds
from custard.larder.families import BOILS, SETS
from custard.learning.cooked import Cooked
from custard.learning.course import parts_of, whole_course
from custard.process.heating import kernel
from custard.process.heating.cook import THICKENED_AT, cook

POINTS = 240
"""A curve is drawn with at most so many points."""
BEFORE_S = 60.0
AFTER_S = 1800.0
"""From so long before it was in the pan to so long after its hottest [s]."""
STEP_S = 5.0
GHOST_STANDS_S = 40.0
"""The plan's curve is followed so long past its lift, so that what the pan still gives is seen [s]."""


@dataclass(frozen=True)
class CookFigures:
    """A cook in figures.

    Attributes
    ----------
    start_c, rate_k_per_min, lift_c, rise_k : where it began, how fast it warmed to its lift, where it was
        lifted, how far it rose off the heat.
    hottest_c : its hottest [degC].
    stood_s, rest_s : how long it stood in its pan, the longest that nobody stirred [s].
    """

    start_c: Celsius
    rate_k_per_min: Kelvin
    lift_c: Celsius
    rise_k: Kelvin
    hottest_c: Celsius
    stood_s: Seconds
    rest_s: Seconds


@dataclass(frozen=True)
class Ghost:
    """How a batch would have gone by its plan, from where it began: on its hob as it was known, lifted where
    that was planned, and left in its pan for a moment.

    Attributes
    ----------
    t_s, celsius : its curve, equally long; times since it was in its pan.
    thickens_s, lifted_s : when it begins to thicken, and when it is lifted; None where it never does.
    """

    t_s: list[Seconds]
    celsius: list[Celsius]
    thickens_s: Seconds | None
    lifted_s: Seconds | None


@dataclass(frozen=True)
class Overlaid:
    """A batch to be laid over others; times in seconds since it was in its pan.

    Attributes
    ----------
    t_s, celsius : its curve, thinned: equally long.
    thickens_s, lifted_s : when it began to thicken, and when it was lifted; None where nobody knows.
    figures : its cook in figures; None where too little was read.
    ghost : how it would have gone by its plan; None where nothing was planned, or too little was read.
    spoons_s : when a spoon was dipped.
    """

    t_s: list[Seconds]
    celsius: list[Celsius]
    thickens_s: Seconds | None
    lifted_s: Seconds | None
    figures: CookFigures | None
    ghost: Ghost | None = None
    spoons_s: list[Seconds] = field(default_factory=list)


def overlaid(batch: Cooked) -> Overlaid:
    """A batch made ready to be laid over others.

    Parameters
    ----------
    batch : what was cooked.
    """
    readings = [(t, c) for t, c in batch.kept.true_readings if t >= -BEFORE_S]
    if not readings:
        return Overlaid([], [], None, batch.off_s, None)
    hottest_s, hottest_c = max(readings, key=lambda one: one[1])
    shown = [one for one in readings if one[0] <= hottest_s + AFTER_S]
    thin = shown[:: max(1, len(shown) // POINTS)]
    try:
        parts = parts_of(batch)
    except CustardError:
        return Overlaid([t for t, _ in thin], [c for _, c in thin], None, batch.off_s, None)
    return Overlaid(
        [t for t, _ in thin],
        [c for _, c in thin],
        _thickens_s(batch),
        batch.off_s,
        CookFigures(
            start_c=parts.start_c,
            rate_k_per_min=parts.rate_k_per_min,
            lift_c=parts.lift_c,
            rise_k=parts.highest_rise_k,
            hottest_c=hottest_c,
            stood_s=parts.stood_s,
            rest_s=parts.longest_rest_s,
        ),
        _ghost(batch, parts.start_c),
        [spoon.t_s for spoon in batch.spoons],
    )


def _ghost(batch: Cooked, start_c: float) -> Ghost | None:
    """Its plan, cooked from where it began; None where it was planned to be held, or to go nowhere."""
    lift_c, way = batch.kept.plan.lift_c, batch.result.way
    if lift_c is None or way in (BOILS, SETS) or not start_c < lift_c < batch.result.boiling_c:
        return None
    done = cook(
        batch.result.pan,
        start_c,
        lift_c,
        batch.stove,
        left_in_pan_s=GHOST_STANDS_S,
        conditions=batch.result.conditions,
    )
    t, set_ = done.column(kernel.T_S), done.column(kernel.THICKENED) >= THICKENED_AT
    step = max(1, len(t) // POINTS)
    return Ghost(
        t[::step].tolist(),
        done.column(kernel.SAUCE_C)[::step].tolist(),
        float(t[int(np.argmax(set_))]) if set_.any() else None,
        done.lift_s,
    )


def _thickens_s(batch: Cooked) -> float | None:
    """When it began to thicken, along its curve [s]; None where it never did, or nothing in it thickens."""
    course = batch.course
    if course is None:
        course = whole_course(batch)
    y = kernel.at_rest(float(course.celsius[0]))
    eggless = batch.result.window.curdles_c is None and batch.result.pan.egg_protein_percent <= 0
    column = kernel.GELATINISED if eggless else kernel.THICKENED
    for from_s in np.arange(course.t_s[0], course.t_s[-1], STEP_S):
        course.follow(batch.k, y, from_s, from_s + STEP_S)
        if y[column] >= THICKENED_AT:
            return float(from_s + STEP_S)
    return None
