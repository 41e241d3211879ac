"""The stove nobody knows: what a seed hides of one exercise."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import accumulate

import numpy as np
from numpy.typing import NDArray

from custard.practice.exercises import Exercise
from custard.process.following.rehearse import FLICKER, FLICKER_S
from custard.vocabulary import Surprise

TICK_S = 0.2
"""The grid an attempt is stepped on [s]: five pictures a second."""
FULL_OVER_USUAL = 2.5
"""What the knob gives when it is full, over what sauces are cooked on at 4 [1]."""
GROSS_OVER_NET = 1.2
"""What a flame gives over what is left of it once steam and air are paid [1]; an estimate."""
TURNED_UP_BY = 1.9
TURNED_UP_FROM_S = (40.0, 80.0)
CALLED_FROM_S = (45.0, 85.0)
AWAY_S, NOTICE_S = 20.0, 5.0
MOST_TICKS = 1 << 15


@dataclass(frozen=True)
class Hob:
    """What is hidden.

    Attributes
    ----------
    power, base, whisk : hob, heat of the pan and stirring, over what they are taken for [1].
    flicker : how far the flame strays in each tick [1].
    surprise_s : when the surprise comes [s]; None without one.
    draw : what else a kind of exercise draws from, 0 to 1.
    """

    power: float
    base: float
    whisk: float
    flicker: NDArray[np.float64]
    surprise_s: float | None
    draw: float


def hidden(exercise: Exercise, seed: int) -> Hob:
    """What a seed hides of an exercise; the same for ever. Of a batch only the flicker."""
    draw = np.random.default_rng(seed)
    low, high = exercise.power
    power = low + (high - low) * draw.random()
    base, whisk = np.exp(exercise.spread * np.clip(draw.standard_normal(2), -2, 2))
    start, end = TURNED_UP_FROM_S if exercise.surprise == Surprise.TURNED_UP else CALLED_FROM_S
    surprise_s = float(start + (end - start) * draw.random())
    rest = float(draw.random())
    kept = np.exp(-TICK_S / FLICKER_S)
    noise = FLICKER * np.sqrt(1 - kept**2) * draw.standard_normal(MOST_TICKS)
    # Each tick is a little like the one before.
    flicker = np.exp(np.fromiter(accumulate(noise, lambda before, new: kept * before + new), float))
    if exercise.begun is not None:
        return Hob(exercise.begun.power, exercise.begun.base, 1.0, flicker, None, rest)
    comes = exercise.surprise in (Surprise.TURNED_UP, Surprise.CALLED_AWAY)
    return Hob(float(power), float(base), float(whisk), flicker, surprise_s if comes else None, rest)
