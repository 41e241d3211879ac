"""Speed of the kernel beside a general integrator on the same plain equations, in one run.

Every claim here is a ratio of two things timed in turn, with the difference of their results beside it.
"""

from __future__ import annotations

import time
import tracemalloc
from collections.abc import Callable
from contextlib import suppress
from dataclasses import replace
from typing import Any

import numpy as np
from custard.advice.mix.assess import assess
from custard.errors import Impossible
from custard.formats.formula_json import read_formula
from custard.mixture import mix
from custard.physics import coagulation, evaporation, heat, kinetics, starch, texture, viscosity
from custard.planning.cost import cost, weights
from custard.planning.day import Begun, Day, Plan
from custard.planning.greedy import greedy
from custard.planning.solver import solve
from custard.process.following.follow import compile_kernels
from custard.process.heating import kernel, pan
from custard.process.heating.cook import DT_S, Stove, constants, step_s
from custard.process.heating.many import simulate_many
from numpy.typing import NDArray
from scipy.integrate import solve_ivp

from benchmarks import flat
from benchmarks.days import seeded

MINUTES_20 = 1200.0
MAP_SIDE = 41
SAUCE = {
    "format": "old-spoon/formula",
    "version": 1,
    "name": "bench custard",
    "family": "pouring-custard",
    "lines": [
        {"ingredient": "whole-milk", "amount": "500 g"},
        {"ingredient": "egg-yolk", "amount": "6"},
        {"ingredient": "white-sugar", "amount": "90 g"},
        {"ingredient": "cornstarch", "amount": "6 g"},
    ],
}


COMPARED = (kernel.SAUCE_C, kernel.BASE_C, kernel.THICKENED, kernel.CURDLED, kernel.GELATINISED, kernel.BITS)
"""What both sides are compared in, in this order."""


def reference(k: pan.Constants, start_c: float, end_s: float) -> NDArray[np.float64]:
    """The same equations, written out again in plain Python from the laws, given to LSODA.

    Returns the `COMPARED` quantities at `end_s`; it also carries browning, enzyme and lethality, as the
    kernel does.
    """

    def slope(_: float, y: NDArray[np.float64]) -> list[float]:
        t, base, tau, curdled, opened, bits = y[:6]
        left = 1 - y[10] / (1000 * k.mass_kg)
        swollen = opened * float(starch.capacity(t, k.capacity_shift))
        stress = texture.network_yield(
            k.protein_volume / left * tau * (1 - curdled),
            k.starch_volume / left * swollen,
            1 - (1 - k.room) / left,
            k.stirred_limit,
            texture.Network(k.crowding, k.blend, k.scale, k.slope, k.limit),
        )
        stress *= texture.setback(t, k.hot_c, k.cold_c, k.setback)
        fluid = viscosity.suspension(
            viscosity.sugar_serum(k.solids, t), k.particles, k.packing, k.packing_power
        )
        consistency = k.consistency * stress**k.consistency_power
        mu = texture.apparent_viscosity(
            pan.STIR_SHEAR_PER_S, stress, consistency, texture.flow_index(stress), fluid
        )
        h = heat.stirred_coefficient(mu, k.whisk, k.whisk_least, k.thickening_power)
        flux = k.evaporation_share * evaporation.flux(t)
        steam = 1e-3 * flux * heat.latent_heat(t)
        lost = k.area_m2 * (k.air_w_m2k * (t - k.air_c) + steam)
        across = h * k.heated_m2 * (base - t)
        curdles = coagulation.curdling_temperature(
            k.set_c, k.starch_percent * opened, k.curdle_gap, k.guard, k.guard_scale
        )
        film_c = t + k.film_share * (base - t)
        share = min(0.5, k.conductivity / h * k.heated_m2 * k.density / k.mass_kg)
        film_set = coagulation.rate(film_c, k.set_c, k.set_rate, k.set_z)
        film_rate = coagulation.rate(film_c, curdles, k.curdle_rate, k.curdle_z)
        ready = tau + (1 - tau) * film_set / (film_set + k.renew_whisk)
        swept = share * film_rate * k.renew_whisk / (film_rate + k.renew_whisk) * ready
        swept *= np.exp(-k.starch_percent * opened / k.bits_guard)
        enzyme = kinetics.decimal_time(t, k.enzyme_c, 60.0, k.enzyme_z)
        lagging = kinetics.decimal_time(t - k.lag_k, k.enzyme_c, 60.0, k.enzyme_z)
        return [
            (across - lost) / k.sauce_j_k,
            (k.power_w + lost - across) / k.base_j_k,
            (1 - tau) * coagulation.rate(t, k.set_c, k.set_rate, k.set_z),
            (1 - curdled) * tau * coagulation.rate(t, curdles, k.curdle_rate, k.curdle_z),
            (1 - opened) * coagulation.rate(t, k.starch_c, k.starch_rate, k.starch_z),
            (1 - bits) * swept,
            k.scraped_share * 10 ** ((base - k.catch_c) / k.catch_z) / k.catch_s,
            -y[7] * np.log(10) / enzyme,
            -y[8] * np.log(10) / lagging,
            1 / kinetics.decimal_time(t, 60.0, k.d60_s, k.kill_z),
            k.area_m2 * flux,
        ]

    first = [start_c, start_c, 0.0, 0.0, 0.0, 0.0, 0.0, 1.0, 1.0, 0.0, 0.0]
    done = solve_ivp(slope, (0.0, end_s), first, method="LSODA", rtol=1e-8, atol=1e-10)
    return np.asarray(done.y[: len(COMPARED), -1])


def ours(k: pan.Constants, start_c: float, end_s: float) -> NDArray[np.float64]:
    """The kernel's end of the same cook, in the order of `COMPARED`."""
    empty = np.empty((0, kernel.COLUMNS))
    _, _, y = kernel.simulate(k, kernel.Asked(start_c, 200.0, 1e9, 0.0, end_s), step_s(k), 1 << 30, empty)
    return np.asarray(y[list(COMPARED)])


def timed(what: Callable[[], object], times: int) -> float:
    """Median seconds of some calls."""
    taken = []
    for _ in range(times):
        started = time.perf_counter()
        what()
        taken.append(time.perf_counter() - started)
    return float(np.median(taken))


def ratio_map() -> tuple[NDArray[np.void], NDArray[np.float64], NDArray[np.float64]]:
    """Constants, starts and lifts of a 41 by 41 map of yolk against starch, a cook a cell."""
    rows = []
    for yolk in np.linspace(40, 280, MAP_SIDE):
        for dry in np.linspace(0.01, 30, MAP_SIDE):
            rows.append(_cell(float(yolk), float(dry)))
    table = np.concatenate(rows)
    return table, np.full(len(table), 65.0), np.full(len(table), 84.0)


def _cell(yolk_g: float, starch_g: float) -> NDArray[np.void]:
    lines = [
        {"ingredient": "whole-milk", "amount": "1000 g"},
        {"ingredient": "egg-yolk", "amount": f"{yolk_g:.3f} g"},
        {"ingredient": "white-sugar", "amount": "180 g"},
        {"ingredient": "cornstarch", "amount": f"{starch_g:.3f} g"},
    ]
    return pan.rows_of(constants(mix(read_formula({**SAUCE, "lines": lines})), Stove(power_w=500.0)))


PLANNED: tuple[tuple[int, int], ...] = ((8, 1), (8, 2), (14, 2), (14, 1), (20, 2), (40, 2))
"""Batches and pairs of hands of the days that are planned."""
PLAN_S, MOVE_S = 10.0, 0.5


def days(seeds: int = 5) -> list[dict[str, Any]]:
    """Seeded days planned, each beside the plain flat model in the same run; the slowest seed is told.

    On every one a plan in time is known to exist. The flat model is given as long as the planner, at most.
    """
    told = []
    for batches, hands in PLANNED:
        ours_s, flat_s, first_s, moved_s, gaps, late, flat_late, proven, flat_proven = (
            [],
            [],
            [],
            [],
            [],
            0,
            0,
            0,
            0,
        )
        for seed in range(seeds):
            day, _ = seeded(seed, batches, hands)
            by, begun = weights(day, begun=False), time.perf_counter()
            first = greedy(day)
            first_s.append(time.perf_counter() - begun)
            plan = solve(day, seconds=PLAN_S, hint=first)
            ours_s.append(time.perf_counter() - begun)
            moved_s.append(_moved_s(day, plan))
            late += cost(day, plan).late > 0
            proven += plan.proven
            gaps.append(plan.gap)
            begun = time.perf_counter()
            paid, bound, _ = flat.solved(day, PLAN_S)
            flat_s.append(time.perf_counter() - begun)
            flat_late += paid is None or paid >= by.late
            flat_proven += paid is not None and bound >= paid
        told.append(
            {
                "batches": batches, "hands": hands, "days": seeds,
                "first_s": round(max(first_s), 2),
                "moved_s": round(max(moved_s), 2),
                "ours_s": round(max(ours_s), 2), "flat_s": round(max(flat_s), 2),
                "times_faster": round(sum(flat_s) / sum(ours_s), 1),
                "proven": proven, "flat_proven": flat_proven,
                "late": late, "flat_late": flat_late, "gap_percent": round(100 * max(gaps), 1),
            }
        )  # fmt: skip
    return told


def _moved_s(day: Day, plan: Plan) -> float:
    """Seconds until the rest of a plan has followed a step that a hand put ten minutes earlier, or cannot."""
    middle = [one for one in plan.steps if one.hands is not None][len(plan.steps) // 3]
    put = {middle.place: Begun(middle.start - 10, hands=middle.hands)}
    jobs = tuple(replace(job, pinned=put) if job.key == middle.job else job for job in day.jobs)
    begun = time.perf_counter()
    # That the rest cannot follow is an answer too.
    with suppress(Impossible):
        solve(replace(day, jobs=jobs), plan, MOVE_S)
    return time.perf_counter() - begun


def run(most: int = 100_000) -> dict[str, Any]:
    """Measure everything; returns plain data."""
    formula = read_formula(SAUCE)
    k = constants(mix(formula), Stove(power_w=150.0))
    compile_kernels()
    slow_s = timed(lambda: reference(k, 20.0, MINUTES_20), 3)
    fast_s = timed(lambda: ours(k, 20.0, MINUTES_20), 51)
    error = np.abs(reference(k, 20.0, MINUTES_20) - ours(k, 20.0, MINUTES_20))
    table, starts, lifts = ratio_map()

    def cooks() -> NDArray[np.float64]:
        ends: NDArray[np.float64] = simulate_many(table, starts, lifts, 0.0, 0.0, 1200.0, DT_S)
        return ends

    map_s = timed(cooks, 5)
    tracemalloc.start()
    cooks()
    _, peak = tracemalloc.get_traced_memory()
    tracemalloc.stop()
    growth = []
    for count in (10**i for i in range(7)):
        if count > most:
            break
        many = pan.rows_of(k, count)
        started = time.perf_counter()
        simulate_many(many, np.full(count, 65.0), np.full(count, 84.0), 0.0, 0.0, 1200.0, DT_S)
        seconds = time.perf_counter() - started
        growth.append({"cooks": count, "s": round(seconds, 5), "us_a_cook": round(1e6 * seconds / count, 2)})
    return {
        "cook_20_min": {
            "ours_ms": round(1000 * fast_s, 3),
            "lsoda_ms": round(1000 * slow_s, 1),
            "times_faster": round(slow_s / fast_s),
            "error_sauce_k": round(float(error[0]), 5),
            "error_fractions": round(float(error[2:].max()), 6),
        },
        "map_41_by_41": {"s": round(map_s, 4), "memory_mb": round(peak / 1e6, 2)},
        "assess_ms": round(1000 * timed(lambda: assess(formula), 51), 3),
        "growth": growth,
        "days": days(),
    }
