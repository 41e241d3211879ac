"""Seeded days of a pastry section for which a plan without lateness is known to exist.

A day is drawn by putting its batches where they fit, in a drawn order, and taking its deadlines from where
they came to stand; so whoever plans it can be held to being in time. Steps and minutes are those of the
families of sauces as kitchens know them, without any formula behind them.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace

import numpy as np
from custard.planning.cost import ready
from custard.planning.day import (
    BATH,
    BOWL,
    BUSY,
    CHURN,
    FULL,
    ICE,
    LOOKS,
    OVEN,
    RING,
    STEAM,
    Day,
    Hands,
    Job,
    Minutes,
    Plan,
    Room,
    Step,
)
from custard.planning.greedy import packed
from custard.vocabulary import StageName

OPENS, CLOSES = 7 * 60, 23 * 60
BOWLS = 2
DAYS_3 = 3 * 1440


def _stirred(draw: np.random.Generator, ice_g: float) -> list[Step]:
    cook = float(draw.uniform(9, 16))
    return [
        Step("weigh", "Weigh", Minutes(float(draw.uniform(5, 9)), 0.2), BUSY, stage=StageName.WEIGH),
        Step("warm", "Warm the dairy", Minutes(6, 0.2), LOOKS, {RING: 1}, most=90, stage=StageName.WARM),
        Step("cook", "Temper, cook, sieve", Minutes(cook, 0.2), FULL, {RING: 1}, stage=StageName.COOK),
        Step("chill", "In ice", Minutes(20, 0.2), 0, {BATH: 1, ICE: ice_g}, stage=StageName.CHILL),
    ]


def _anglaise(draw: np.random.Generator) -> tuple[list[Step], int]:
    return _stirred(draw, 1200), DAYS_3


def _set_cream(draw: np.random.Generator) -> tuple[list[Step], int]:
    steps = _stirred(draw, 1500)
    return [*steps, Step("set", "Setting, cold", Minutes(120), 0, most=10)], DAYS_3


def _base(draw: np.random.Generator) -> tuple[list[Step], int]:
    steps = _stirred(draw, 1500)
    return [
        *steps,
        Step("rest", "Ageing, cold", Minutes(240), 0, most=10),
        Step("churn", "Churn", Minutes(30, 0.15), LOOKS, {CHURN: 1, BOWL: 1}, most=None),
        Step("harden", "Hardening", Minutes(90), 0, most=2),
    ], DAYS_3


def _cups(draw: np.random.Generator) -> tuple[list[Step], int]:
    return [
        Step("weigh", "Weigh", Minutes(6, 0.2), BUSY, stage=StageName.WEIGH),
        Step("fill", "Warm, mix, fill the cups", Minutes(12, 0.2), FULL, {RING: 1}, most=90),
        Step("bake", "In the oven", Minutes(45, 0.1), 0, {OVEN: 50}, 160.0, most=10),
        Step("out", "Cups out", Minutes(4, 0.2), BUSY, most=3),
        Step("set", "Setting, cold", Minutes(120), 0, most=60),
    ], DAYS_3


def _sabayon(draw: np.random.Generator) -> tuple[list[Step], int]:
    return [
        Step("weigh", "Weigh", Minutes(5, 0.2), BUSY, stage=StageName.WEIGH),
        Step("bath", "Bring the bath to a simmer", Minutes(6, 0.2), LOOKS, {STEAM: 1}, most=60),
        Step("cook", "Whisk over steam", Minutes(float(draw.uniform(8, 12)), 0.2), FULL, {STEAM: 1}),
    ], 10


def _other(draw: np.random.Generator) -> tuple[list[Step], int]:
    needs: Mapping[str, float] = {RING: 1} if draw.uniform() < 0.5 else {}
    return [Step("work", "Other work", Minutes(float(draw.uniform(10, 30)), 0.2), BUSY, needs)], DAYS_3


KINDS: tuple[tuple[Callable[[np.random.Generator], tuple[list[Step], int]], float], ...] = (
    (_anglaise, 0.28), (_set_cream, 0.24), (_base, 0.08), (_cups, 0.12), (_sabayon, 0.14), (_other, 0.14),
)  # fmt: skip


def room(hands: int) -> Room:
    """A section with so many pairs of hands."""
    return Room(
        tuple(Hands(f"pair {n + 1}", ((OPENS, CLOSES),)) for n in range(hands)),
        {RING: 2 if hands == 1 else 3, STEAM: 1, BATH: 2, OVEN: 100, CHURN: 1},
        ice_g=15_000,
        ice_g_h=2_000,
        bowls=BOWLS,
    )


SPARE_MIN = 25
"""Minutes to spare that a deadline is given beyond the plan that is known, at most [min]."""


def seeded(seed: int, batches: int, hands: int) -> tuple[Day, Plan]:
    """A day of so many batches, packed from the morning on, and a plan of it in which nothing is late."""
    draw = np.random.default_rng(seed)
    shares = [share for _, share in KINDS]
    jobs: list[Job] = []
    churned = 0
    for number in range(batches):
        kind = KINDS[int(draw.choice(len(KINDS), p=shares))][0]
        if kind is _base:
            churned += 1
            kind = kind if churned <= BOWLS else _anglaise
        steps, life = kind(draw)
        name = f"{kind.__name__[1:].replace('_', ' ')} {number + 1}"
        jobs.append(Job(f"job-{number + 1}", name, tuple(steps), life=life, fades=life // 20))
    plan = packed(Day(room(hands), tuple(jobs)))
    at = ready(plan)
    dues = {}
    for job in jobs:
        most = SPARE_MIN if job.life is None else min(SPARE_MIN, job.life // 2)
        dues[job.key] = at[job.key] + int(draw.integers(0, most + 1))
    day = Day(room(hands), tuple(replace(job, due=dues[job.key]) for job in jobs))
    return day, plan
