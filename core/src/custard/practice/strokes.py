"""From the points where a whisk was seen to the strokes that it made between them."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from custard.practice.acts import Act

STROKE_S = 0.5
"""Two points of the whisk closer in time than this are one stroke [s]."""


class Strokes:
    """Strokes that fall into ticks to come, in order."""

    def __init__(self) -> None:
        self._waiting: list[tuple[float, float, float, float, float]] = []
        self._last: tuple[float, float, float] | None = None

    def to(self, act: Act, tick: int) -> None:
        """The whisk is somewhere now: it came there from where it was, unless it was lifted."""
        x, y, before = act.figures["x"], act.figures["y"], self._last
        came = before is not None and act.at_s - before[0] <= STROKE_S
        x0, y0 = (before[1], before[2]) if before is not None and came else (x, y)
        self._waiting.append((float(tick), x0, y0, x, y))
        self._last = (act.at_s, x, y)

    def lift(self) -> None:
        """The whisk is lifted: the next stroke begins where it is put down."""
        self._last = None

    def before(self, tick: int) -> NDArray[np.float64]:
        """Take the strokes that fall before a tick: rows of tick, x0, y0, x1, y1."""
        now = [stroke for stroke in self._waiting if stroke[0] < tick]
        self._waiting = self._waiting[len(now) :]
        return np.array(now or np.empty((0, 5)), dtype=np.float64)
