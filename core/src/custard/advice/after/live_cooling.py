"""A cooling in progress: what it really is from what was read, and whether each limit will be kept."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Annotated

import numpy as np
from numpy.typing import NDArray

from custard.advice.after.cooling import GOAL_C, Cooler, Help, chain, helps
from custard.advice.mix.assess import Assessment
from custard.figures import Celsius, Hundredths, Rounding, WholeSeconds
from custard.process.cooling.chill import Chill, chill_on, legs_of
from custard.process.cooling.vessel import Vessel
from custard.vocabulary import LimitState

Floats = NDArray[np.float64]

UNKNOWN_COOLER = 0.35
"""How far, as a logarithm, a fridge or a bath that nobody measured may stray from the table."""
AT_ONCE_S = 120.0
"""Read so soon it says where the cooling begins, whatever was reckoned with."""
PROBE_K = 0.7
"""Scatter of a spot check, and of where in the vessel it was made [K]."""
STEP, ROUNDS, CLOSE_ENOUGH = 0.02, 6, 0.005
LEAST_SHARE, MOST_SHARE = 0.05, 5.0
MOST_READINGS = 60
AHEAD_POINTS = 80


@dataclass(frozen=True)
class Moved:
    """That it was put somewhere else to cool, at a time since cooling began [s]."""

    at_s: float
    cooler: Cooler


@dataclass(frozen=True)
class Deadline:
    """One limit of the rule.

    Attributes
    ----------
    limit_c : to be below this [degC].
    left_s : time left for that [s], below 0 when it has passed; None before its clock has begun.
    reached_s : when it gets there, from now [s], below 0 when it has; None when it never does.
    state : how that stands; "in danger" where only the slow end of what is known misses it.
    """

    limit_c: Celsius
    left_s: WholeSeconds | None
    reached_s: WholeSeconds | None
    state: LimitState


@dataclass(frozen=True)
class LiveCooling:
    """A cooling now.

    Attributes
    ----------
    t_s : since it began [s].
    core_c : the warmest spot, as computed from all that was read [degC].
    share, spread : how well this cools over what was taken for granted [1], and how sure, as a logarithm.
    deadlines : the limits of the rule, in order.
    cold_s : until it is cold right through [s]; None when it never is.
    ahead_s, ahead_c, slow_c : where it goes from here [s], [degC].
    helps : what still helps; empty while every limit will be kept.
    """

    t_s: WholeSeconds
    core_c: Celsius
    share: Hundredths
    spread: Hundredths
    deadlines: tuple[Deadline, ...]
    cold_s: WholeSeconds | None
    ahead_s: Annotated[list[float], Rounding(0)]
    ahead_c: Annotated[list[float], Rounding(2)]
    slow_c: Annotated[list[float], Rounding(2)]
    helps: tuple[Help, ...]


def live_cooling(
    result: Assessment,
    mass_g: float,
    vessel: Vessel,
    moves: Sequence[Moved],
    readings: Sequence[tuple[float, float]],
    now_s: float,
    from_c: float | None = None,
) -> LiveCooling | None:
    """What is known of a cooling at `now_s` [s]; None before anything was read.

    Parameters
    ----------
    now_s : the moment, since it began to cool [s].
    result : what cools, with the rule of its conditions.
    mass_g, vessel : how much of it [g], and in what.
    moves : where it was put when; the first at 0.
    readings : (time [s], [degC]) in the middle, from a probe or typed, in any order.
    from_c : where it is taken to begin [degC]; the first reading, where that came at once or nobody knows.
    """
    read = sorted((t, c) for t, c in readings if t >= 0)
    if not read and from_c is None:
        return None
    at_once = bool(read) and read[0][0] <= AT_ONCE_S
    start_c = float(np.clip(read[0][1] if from_c is None or at_once else from_c, 10.0, 110.0))
    depth, each_g = vessel.depth_mm(result.whole, mass_g), mass_g / vessel.count
    spread = moves[0].cooler.spread or UNKNOWN_COOLER

    def run(log_share: float) -> Chill:
        return chain(
            result, each_g, depth, start_c, _ways(moves, float(np.exp(log_share))), count=vessel.count
        )

    thin = read[:: max(1, len(read) // MOST_READINGS)]
    t, y = np.array([one[0] for one in thin]), np.array([one[1] for one in thin])
    log_share, sure, done = _fitted(run, t, y, spread)
    slow = run(log_share - sure)

    def at(found: Chill, seconds: float) -> float:
        return float(np.interp(seconds, found.t_s, found.core_c))

    deadlines = _deadlines(done, slow, now_s)
    cold = done.time_to_goal_s
    later = np.linspace(now_s, max(now_s + 600, cold or now_s + 4 * 3600), AHEAD_POINTS)
    worst = any(one.state in (LimitState.IN_DANGER, LimitState.WILL_BE_MISSED) for one in deadlines)
    core_c = at(done, now_s)
    still: tuple[Help, ...] = ()
    if worst:
        now_ways = _ways(moves[-1:], float(np.exp(log_share)))

        def tried(others: Sequence[Cooler], count: int) -> Chill:
            """From now on otherwise; the whole is judged from its beginning."""
            shallow, parts = max(1.0, depth / count), max(1.0, each_g / count)
            return chill_on(
                done,
                now_s,
                lambda core: chain(result, parts, shallow, core, others, count=count * vessel.count),
                GOAL_C,
            )

        still = helps(result, depth, vessel, now_ways, tried)
    return LiveCooling(
        t_s=now_s,
        core_c=core_c,
        share=float(np.exp(log_share)),
        spread=sure,
        deadlines=deadlines,
        cold_s=None if cold is None else cold - now_s,
        ahead_s=(later - now_s).tolist(),
        ahead_c=np.interp(later, done.t_s, done.core_c).tolist(),
        slow_c=np.interp(later, slow.t_s, slow.core_c).tolist(),
        helps=still,
    )


def _ways(moves: Sequence[Moved], share: float) -> list[Cooler]:
    """The ways it really went, each as long as it lay there, all as well as the fitted share says."""
    found = []
    for index, move in enumerate(moves):
        last = index == len(moves) - 1
        minutes = None if last else max(1.0, (moves[index + 1].at_s - move.at_s) / 60)
        found.append(replace(move.cooler, minutes=minutes, share=move.cooler.share * share))
    return found


def _fitted(run: Callable[[float], Chill], t: Floats, y: Floats, spread: float) -> tuple[float, float, Chill]:
    """Logarithm of the share, how sure, and the cooling it gives: least squares, held to the table."""
    log_share, sure, done = 0.0, spread, run(0.0)
    low, high = float(np.log(LEAST_SHARE)), float(np.log(MOST_SHARE))
    for _ in range(ROUNDS if t.size else 0):
        here = np.interp(t, done.t_s, done.core_c)
        there = run(log_share + STEP)
        slope = (np.interp(t, there.t_s, there.core_c) - here) / STEP
        weight = float(slope @ slope) / PROBE_K**2 + 1 / spread**2
        pull = float(slope @ (y - here)) / PROBE_K**2 - log_share / spread**2
        move = float(np.clip(pull / weight, -0.5, 0.5))
        log_share = float(np.clip(log_share + move, low, high))
        sure, done = weight**-0.5, run(log_share)
        if abs(move) < CLOSE_ENOUGH:
            break
    return log_share, sure, done


def _deadlines(done: Chill, slow: Chill, now_s: float) -> tuple[Deadline, ...]:
    found = []
    for leg, late in zip(legs_of(done), legs_of(slow), strict=True):
        running = leg.begins_s is not None and leg.due_s is not None and leg.begins_s <= now_s
        found.append(
            Deadline(
                limit_c=leg.limit_c,
                left_s=leg.due_s - now_s if running and leg.due_s is not None else None,
                reached_s=None if leg.reached_s is None else leg.reached_s - now_s,
                state=_state(now_s, leg.due_s, leg.reached_s, late.reached_s),
            )
        )
    return tuple(found)


def _state(now_s: float, due: float | None, reached: float | None, late: float | None) -> LimitState:
    if due is None or reached is None or reached > due:
        return LimitState.MISSED if due is not None and now_s > due else LimitState.WILL_BE_MISSED
    if reached <= now_s:
        return LimitState.KEPT
    return LimitState.WILL_BE_KEPT if late is not None and late <= due else LimitState.IN_DANGER
