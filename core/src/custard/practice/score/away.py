"""Away from the flame: a tempering in its bowl, and a cooling in its tub."""

from __future__ import annotations

import numpy as np

from custard.advice.stove.stages import degrees
from custard.larder.vessels import coolings
from custard.practice.bowl import BowlAttempt
from custard.practice.hob import TICK_S
from custard.practice.score.item import Score, Why, clock, in_g, item, scored
from custard.practice.tub import COLD_C, TubAttempt
from custard.process.cooling.chill import PASSES
from custard.process.heating import zones

THREADS_FREE = 0.005


def best_bowl(attempt: BowlAttempt) -> BowlAttempt:
    """The same bowl by a sure hand: a thread until it is warm, then a stream, whisked all the time."""
    run = BowlAttempt(attempt.exercise, attempt.seed, attempt.conditions)
    while run.left_g > 0:
        run.spots[:, zones.GAP_S] = 0.0
        run.g_s = 10.0 if run.bowl_c < 40 else 25.0
        run.on(run.t_s + TICK_S)
    run.landing_c = run.bowl_c
    return run


def of_bowl(attempt: BowlAttempt) -> Score:
    """A tempering."""
    best = best_bowl(attempt)
    worst, still = attempt.worst, attempt.poured_still_s
    reason = "not-whisked" if still > 3 else "poured-fast"
    values = {
        "when": clock(attempt.worst_s),
        "rate": in_g(attempt.rate_at(attempt.worst_s)),
        "still_s": f"{still:.0f}",
        "landing": degrees(attempt.landing_c),
    }
    threads = 0 if worst < THREADS_FREE else 15 + 500 * (worst - THREADS_FREE)
    yours, bests, at_s = f"{100 * worst:.1f} %", f"{100 * best.worst:.1f} %", attempt.worst_s
    colder = 2 * (best.landing_c - attempt.landing_c - 4)
    slower = 8 * (attempt.t_s / best.t_s - 2.5)
    items = [
        item("threads", "cooked threads", 55, threads, yours, bests, Why(reason, values, at_s=at_s)),
        item(
            "whisk",
            "not whisked",
            15,
            1.5 * (still - 3),
            f"{still:.0f} s",
            "0 s",
            Why("not-whisked", values, at_s=at_s),
        ),
        item(
            "landing",
            "landing",
            15,
            colder,
            values["landing"],
            degrees(best.landing_c),
            Why("cool-landing", values),
        ),
        item(
            "time",
            "time",
            15,
            slower,
            clock(attempt.t_s),
            clock(best.t_s),
            Why("cool-landing", values),
        ),
    ]
    if attempt.given_up:
        items.append(item("gave-up", "finished", 60, 60, "given up", "in the pan", Why("gave-up")))
    return scored(items, spoiled=attempt.given_up or worst > 0.1, must=attempt.exercise.must)


def best_tub(attempt: TubAttempt) -> tuple[str, TubAttempt]:
    """The quickest way of those at hand, laid at once: in words, and as it goes."""
    tried = []
    for by, depth_mm, stirred in (("ice-bath", 30.0, "yes"), ("ice-bath", 30.0, ""), ("fridge", 20.0, "")):
        run = TubAttempt(attempt.exercise, attempt.seed, attempt.conditions)
        run.lay(by, depth_mm, stirred=bool(stirred))
        words = f"{coolings()[by].name}, {depth_mm:.0f} mm deep" + (", stirred" if stirred else "")
        tried.append((words, run))
    return min(tried, key=lambda one: one[1].cold_s())


def of_tub(attempt: TubAttempt) -> Score:
    """A cooling."""
    name, best = best_tub(attempt)
    done, now = attempt.cooling(), attempt.laid[-1]
    waited = attempt.laid[1].from_s / 60 if len(attempt.laid) > 1 else attempt.since_s / 60
    passes = done.verdict == PASSES
    cold, best_cold = attempt.cold_s(), best.cold_s()
    took = "never" if np.isinf(cold) else f"{cold / 3600:.1f} h"
    values = {
        "depth": f"{now.depth_mm:.0f}",
        "by": coolings()[now.by].name,
        "why": "it takes long" if passes else done.why.rstrip("."),
        "wait_min": f"{waited:.0f}",
    }
    untouched = len(attempt.laid) == 1
    slower, shown = 6 * (cold / best_cold - 1.5), f"{best_cold / 3600:.1f} h: {name}"
    late = 20 if untouched else waited - 10
    items = [
        item(
            "rule",
            "cooling rule",
            60,
            0 if passes else 60,
            "kept" if passes else "broken",
            "kept",
            Why("too-deep", values, at_s=0.0),
        ),
        item("time", f"to {degrees(COLD_C)}", 20, slower, took, shown, Why("too-deep", values, at_s=0.0)),
        item(
            "counter",
            "waited",
            20,
            late,
            f"{waited:.0f} min",
            "0 min",
            Why("counter", values, at_s=0.0),
        ),
    ]
    return scored(items, spoiled=not passes)
