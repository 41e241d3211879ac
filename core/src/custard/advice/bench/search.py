"""Looking for the least amount at which something is enough; a search that has to can end with its best."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

LOOKS = 9
"""At so many amounts a mix is looked at before one is sought between two of them."""
STEP_SHARE = 1e-4
"""So near a step, as a share of what is looked through, both its sides are tried."""


class _Enough(Exception):
    """There is no time to look at another."""


def always() -> bool:
    """There is time."""
    return True


class Search:
    """Looks for amounts as long as `go_on` says that there is time.

    Attributes
    ----------
    cut_short : whether it had to end with the best it had seen.
    """

    def __init__(self, go_on: Callable[[], bool] = always) -> None:
        self._go_on = go_on
        self.cut_short = False

    def where(self, value: Callable[[float], float], goal: float, low: float, high: float) -> float:
        """The least at which a function reaches `goal`; where it comes nearest when it never does.

        It is looked at all along first, as it need not rise everywhere nor without a step: a mix that takes
        enough starch is boiled. Where it steps over the goal, the nearer side of the step is what comes
        nearest.
        """
        seen: dict[float, float] = {}

        def looked(at: float) -> float:
            if at not in seen:
                # Something is always seen, so that there is a best.
                if seen and not self._go_on():
                    raise _Enough
                seen[at] = value(at)
            return seen[at]

        try:
            return self._where(looked, goal, low, high)
        except _Enough:
            self.cut_short = True
            return min(seen, key=lambda at: abs(seen[at] - goal))

    def _where(self, value: Callable[[float], float], goal: float, low: float, high: float) -> float:
        points = np.linspace(low, high, LOOKS)
        values = np.array([value(float(at)) for at in points])
        over = np.flatnonzero(values >= goal)
        if not over.size:
            return float(points[np.argmax(values)])
        if over[0] == 0:
            return low
        before, after = float(points[over[0] - 1]), float(points[over[0]])
        from scipy.optimize import brentq  # noqa: PLC0415 loading it takes half a second, and few need it

        found = float(brentq(lambda at: value(at) - goal, before, after, xtol=1e-6, rtol=1e-9))
        step = STEP_SHARE * (high - low)
        sides = (found, max(low, found - step), min(high, found + step))
        return min(sides, key=lambda at: abs(value(at) - goal))
