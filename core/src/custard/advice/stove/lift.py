"""When to lift: what is ahead of an ensemble, and where each member would land if it were lifted there."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from custard.advice.mix.assess import Assessment
from custard.advice.stove.account import UNSURE, Equipment, Lift, Until
from custard.physics.texture import WORDS, word
from custard.process.following.follow import Ensemble, Path, fork
from custard.process.heating import kernel

Array = NDArray[np.float64]

LEFT_IN_PAN_S = 12.0
"""From the flame going out to the sauce being out of the pan; an estimate."""
EDGE_ROOM = 1.3
"""A landing is aimed at least this much above the yield stress at which its word begins; an estimate."""
MOST_CURDLED = 0.02
"""A lift waits for its texture only while less than this of the egg has curdled."""


def _crossing(path: Path, values: Array, level: float) -> Array:
    """When each member first reaches `level` [s], interpolated; infinite when it never does."""
    over = values >= level
    at = np.argmax(over, axis=0)
    columns = np.arange(values.shape[1])
    before = np.maximum(at - 1, 0)
    low, high = values[before, columns], values[at, columns]
    share = np.where(high > low, (level - low) / np.maximum(high - low, 1e-12), 1.0)
    t = path.t_s[before] + np.clip(share, 0, 1) * (path.t_s[at] - path.t_s[before])
    return np.where(over.any(axis=0), np.where(at == 0, 0.0, t), np.inf)


def when(path: Path, values: Array, level: float) -> Until | None:
    """When the members reach a level of a column; None when most never do."""
    return _span(path, _crossing(path, values, level))


def _span(path: Path, t: Array) -> Until | None:
    # Ranks, not interpolated percentiles: a member that never gets there stands at infinity.
    low, middle, high = np.percentile(t, (UNSURE[0], 50, UNSURE[1]), method="nearest")
    if not np.isfinite(middle):
        return None
    sauce = np.median(path.column(kernel.SAUCE_C), axis=1)
    at_c = float(np.interp(middle, path.t_s, sauce))
    return Until(float(middle), float(low), float(min(high, path.t_s[-1])), at_c)


def lift(result: Assessment, ensemble: Ensemble, path: Path) -> Lift | None:
    """When each member must come off so that it lands as thick as planned, or before it curdles."""
    goal = goal_pa(result)
    count, members = path.t_s.size, path.states.shape[1]
    columns = np.arange(members)

    def lands(at: NDArray[np.intp]) -> tuple[Array, Array, Array]:
        ends = fork(ensemble.rows, path.states[at, columns], LEFT_IN_PAN_S, ensemble.dt)
        return ends[:, kernel.YIELD_PA], ends[:, kernel.CURDLED], ends[:, kernel.HOTTEST_C]

    def enough(at: NDArray[np.intp]) -> NDArray[np.bool_]:
        stress, curdled, _ = lands(at)
        return np.asarray((stress >= goal) | (curdled >= MOST_CURDLED))

    low, high = np.zeros(members, dtype=np.intp), np.full(members, count - 1, dtype=np.intp)
    never, at_once = ~enough(high), enough(low)
    while (high - low > 1).any():
        middle = (low + high) // 2
        good = enough(middle)
        high, low = np.where(good, middle, high), np.where(good, low, middle)
    before, after = lands(low)[0], lands(high)[0]
    share = np.clip((goal - before) / np.maximum(after - before, 1e-9), 0, 1)
    t = path.t_s[low] + share * (path.t_s[high] - path.t_s[low])
    t = np.where(never, np.inf, np.where(at_once, 0.0, t))
    when = _span(path, t)
    if when is None:
        return None
    lifted = np.where(at_once, 0, high)
    stress, _, peak = lands(lifted)
    reads = float(np.interp(when.in_s, path.t_s, np.median(path.probe_c, axis=1)))
    carried = float(np.median(peak - path.column(kernel.SAUCE_C)[lifted, columns]))
    lands_pa = max(0.0, float(np.median(np.where(at_once, stress, before + share * (after - before)))))
    carried = max(0.0, carried)
    return Lift(
        **vars(when),
        reads_c=reads,
        lands_c=when.at_c + carried,
        lands_word=word(lands_pa),
        carry_over_k=carried,
    )


def goal_pa(result: Assessment) -> float:
    """How thick it is to land [Pa]: as planned, but not on the edge of its word, where half would miss."""
    planned = result.hot.yield_stress_pa
    edge = max((end for end, _ in WORDS if end <= planned), default=0.0)
    return max(planned, EDGE_ROOM * edge)


def held_lift(path: Path, equipment: Equipment, held: float, boils: Until | None) -> Lift | None:
    """A boiled mix comes off once it has been held."""
    if boils is None and held <= 0:
        return None
    left = max(0.0, equipment.hold_s - held)
    start = Until(0.0, 0.0, 0.0, 0.0) if held > 0 or boils is None else boils
    t = start.in_s + left
    at_c = float(np.interp(t, path.t_s, np.median(path.column(kernel.SAUCE_C), axis=1)))
    reads = float(np.interp(t, path.t_s, np.median(path.probe_c, axis=1)))
    stress = float(np.interp(t, path.t_s, np.median(path.column(kernel.YIELD_PA), axis=1)))
    return Lift(t, start.low_s + left, start.high_s + left, at_c, reads, at_c, word(stress), 0.0)


def landing(ensemble: Ensemble, path: Path, lift: Lift) -> Path:
    """The continuation after the lift: off the heat, left in the pan until it is poured out."""
    at = int(np.searchsorted(path.t_s, lift.in_s))
    steps = np.linspace(0.0, 2 * LEFT_IN_PAN_S, 9)
    from_here = path.states[min(at, path.t_s.size - 1)]
    states = np.array([fork(ensemble.rows, from_here, float(s), ensemble.dt) for s in steps])
    return Path(lift.in_s + steps, states, states[:, :, kernel.SAUCE_C])
