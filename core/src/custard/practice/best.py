"""The best run possible on a hob nobody knows, computed: whisked everywhere, and lifted when it is there."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from custard.larder.families import BOILS
from custard.practice import seen
from custard.practice.hob import AWAY_S, TICK_S, TURNED_UP_BY
from custard.practice.pan import AIR, COLUMNS, PanAttempt
from custard.process.heating import kernel, zones
from custard.process.heating.state import sieve_percent
from custard.vocabulary import Surprise

Floats = NDArray[np.float64]

FLAMES = (2.5, 4.0, 5.5, 7.0)
HOLDS = (1.0, 1.8, 2.6, 3.4)
LONGEST_S = 1500.0
CLEAN_BITS = 1.0
"""Fewer bits than this nobody minds [%]."""
ENOUGH_AIR = 0.75
"""A foam holds enough with this share of the most it ever had at that flame [1]."""
HANDS_S = 2.0
"""From seeing it to having it out of the pan."""
BATH = (4.0, 6.0, 10.0, 1.8)
"""Flames under a bath, from the usual one."""


@dataclass(frozen=True)
class Best:
    """The best run found: flame, and flame of the hold; its curve, when it was lifted, what came of it."""

    flame: float
    hold_flame: float | None
    t_s: Floats
    sauce_c: Floats
    lift_s: float
    peak_c: float
    bits_percent: float
    overrun: float
    reached: bool


def best_run(attempt: PanAttempt) -> Best:
    """The best that can be done with an attempt's exercise and seed from its start."""
    runs = list(_runs(attempt))
    reached = [run for run in runs if run.reached]
    clean = [run for run in reached if run.bits_percent <= CLEAN_BITS]
    if clean:
        return min(clean, key=lambda run: run.lift_s)
    return min(reached or runs, key=lambda run: run.bits_percent)


def _runs(attempt: PanAttempt) -> Iterator[Best]:
    fresh = PanAttempt(attempt.exercise, attempt.seed, attempt.conditions)
    flames = BATH if fresh.exercise.over_steam else FLAMES
    for flame in flames:
        record = _run(fresh, flame)
        if fresh.result.way is BOILS:
            first = int(np.argmax(record[:, kernel.SAUCE_C] >= _bubbles_c(fresh)))
            if record[first, kernel.SAUCE_C] >= _bubbles_c(fresh):
                yield from (_held(fresh, flame, hold, first) for hold in HOLDS)
            else:
                last = len(record) - 1
                yield _of(fresh, flame, None, record, last, last, reached=False)
            continue
        yield _lifted(fresh, flame, record)


def _bubbles_c(fresh: PanAttempt) -> float:
    return float(fresh.k.boil_c - seen.BUBBLES_K)


def _run(fresh: PanAttempt, flame: float, hold: float | None = None, held_from: int = 0) -> Floats:
    """A whole cook at one flame, and from a tick on at another; the sauce whisked all over."""
    ticks = int(LONGEST_S / TICK_S)
    flames = np.full(ticks, flame / 10)
    if hold is not None:
        flames[held_from:] = hold / 10
    lit = np.ones(ticks)
    at = fresh.hob.surprise_s
    if at is not None and fresh.exercise.surprise == Surprise.CALLED_AWAY:
        lit[int(at / TICK_S) - 5 : int((at + AWAY_S) / TICK_S) + 5] = 0.0
    if at is not None and fresh.exercise.surprise == Surprise.TURNED_UP:
        # Turned down again as soon as it can be seen.
        flames[int(at / TICK_S) : int(at / TICK_S) + 50] *= TURNED_UP_BY
    powers = flames * fresh.hob.flicker[:ticks]
    y, spots = fresh.y.copy(), fresh.spots.copy()
    local = fresh.local._replace(free_s=np.inf)
    probe_c, out, start = fresh.probe_c, np.empty((ticks, COLUMNS)), 0
    for end in (*np.flatnonzero(np.diff(lit)) + 1, ticks):
        acts = zones.Acts(
            powers=powers[start:end],
            lit=lit[start],
            tick_s=TICK_S,
            dt=fresh.dt,
            strokes=np.empty((0, 5)),
            width=fresh.p.stir.whisk_share,
            lag_s=fresh.exercise.lag_s,
        )
        probe_c = zones.play(fresh.k, local, y, spots, acts, out[start:end], probe_c)
        start = int(end)
    return out


def _lifted(fresh: PanAttempt, flame: float, record: Floats) -> Best:
    """Lifted as soon as it is what it was to be, with the time that hands take."""
    there = fresh.there(record)
    if fresh.foams:
        there &= record[:, AIR] >= ENOUGH_AIR * record[:, AIR].max()
    reached, at = bool(there.any()), int(np.argmax(there)) if there.any() else len(record) - 1
    return _of(fresh, flame, None, record, max(0, at - int(HANDS_S / TICK_S)), at, reached=reached)


def _held(fresh: PanAttempt, flame: float, hold: float, first: int) -> Best:
    """To the first bubbles at one flame, and held there at another."""
    record = _run(fresh, flame, hold, first)
    boiling = np.cumsum(record[:, kernel.SAUCE_C] >= _bubbles_c(fresh)) * TICK_S
    wanted = fresh.p.cook.boil_hold_s
    reached = bool(boiling[-1] >= wanted)
    at = int(np.argmax(boiling >= wanted)) if reached else len(boiling) - 1
    reached &= bool(record[at, kernel.CAUGHT] < 1)
    return _of(fresh, flame, hold, record, at, at, reached=reached)


def _of(
    fresh: PanAttempt, flame: float, hold: float | None, record: Floats, lift: int, end: int, *, reached: bool
) -> Best:
    last = record[end]
    shown = record[: end + 1 : 10]
    return Best(
        flame=flame,
        hold_flame=hold,
        t_s=np.asarray(np.arange(0, end + 1, 10) * TICK_S, dtype=np.float64),
        sauce_c=shown[:, kernel.SAUCE_C],
        lift_s=lift * TICK_S,
        peak_c=float(last[kernel.HOTTEST_C]),
        bits_percent=sieve_percent(last),
        overrun=float(last[AIR]),
        reached=reached,
    )
