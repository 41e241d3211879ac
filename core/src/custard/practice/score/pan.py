"""A sauce at the stove beside the best run on that hob.

The weights are ours: landing first. Each line names what was got and what the best run got.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from custard.advice.stove.stages import degrees
from custard.larder.families import BOILS
from custard.practice import seen
from custard.practice.best import Best
from custard.practice.hob import AWAY_S, TICK_S
from custard.practice.pan import AIR, LUMPS, PanAttempt
from custard.practice.score.item import Item, Score, Why, clock, item, scored
from custard.process.heating import kernel, zones
from custard.process.heating.cook import CURDLED_AT
from custard.vocabulary import Coat, Surprise

A_KELVIN = 8.0
FREE_GAP_S = 8.0
PROBE = 10.0
STOOD_S = 12.0
ANSWERED_S = 30.0
"""A flame turned down within this time after somebody turned it up is answered [s]."""
ENOUGH = 0.85
"""This share of the held boil loses nothing [1]."""
ORDER = tuple(Coat)


@dataclass(frozen=True)
class Course:
    """An attempt's record read once: the sauce, where it was wanted, how far it went.

    `wanted` is the tick at which it was what it was to be; None when it never was.
    """

    sauce_c: NDArray[np.float64]
    wanted: int | None
    over_k: float
    peak_c: float


def course_of(attempt: PanAttempt) -> Course:
    """The record of an attempt beside what it was to be."""
    record = attempt.record()
    sauce, there = record[:, kernel.SAUCE_C], attempt.there(record)
    peak_c = float(sauce.max(initial=attempt.exercise.start_c))
    if there.any():
        wanted = int(np.argmax(there))
        # What it went on to once it was there, whatever it had been before.
        return Course(sauce, wanted, peak_c - float(sauce[wanted]), peak_c)
    return Course(sauce, None, -attempt.short_k(record), peak_c)


def of_pan(attempt: PanAttempt, best: Best) -> Score:
    """A sauce at the stove."""
    course = course_of(attempt)
    values = _values(attempt, course, best)
    boils, foams = attempt.result.way is BOILS, attempt.foams
    items = [
        _boiled(attempt) if boils else _landing(attempt, course, values),
        _stands(attempt, best) if foams else _coat(attempt, course, values),
        _bits(attempt, course, best, values),
        _caught(attempt),
        _gaps(attempt, values),
        _time(attempt, best),
        _cautions(attempt, course, values),
    ]
    if boils:
        items.append(_lumps(attempt))
    if attempt.asked_probe:
        items.append(item("probe", "probe", PROBE, PROBE, "asked", "not asked", Why("probe")))
    given_up = attempt.out_s is None
    if given_up:
        # A hand that slipped goes on from there.
        why = Why("gave-up", at_s=attempt.t_s)
        items.append(item("gave-up", "finished", 30, 30, "given up", "through the sieve", why))
    spoiled = attempt.caught or attempt.y[kernel.CURDLED] >= CURDLED_AT or given_up
    return scored(items, spoiled=bool(spoiled), must=attempt.exercise.must)


def _values(attempt: PanAttempt, course: Course, best: Best) -> dict[str, str]:
    """What the sentences about an attempt are filled with."""
    off_s = attempt.out_s if attempt.out_s is not None else attempt.t_s
    wanted_s = course.wanted * TICK_S if course.wanted is not None else off_s
    wanted_c = best.peak_c if course.wanted is None else course.peak_c - course.over_k
    gap = int(np.argmax(attempt.spots[:, zones.LONGEST_S]))
    record = attempt.record()
    return {
        "late_s": f"{max(0.0, off_s - wanted_s):.0f}",
        "peak": degrees(course.peak_c),
        "best_peak": degrees(wanted_c),
        # The number to lift at, as the stove gives it: what the pan still adds is taken off.
        "lift": degrees(float(np.interp(best.lift_s, best.t_s, best.sauce_c))),
        "lifted": degrees(float(course.sauce_c[min(len(course.sauce_c) - 1, round(off_s / TICK_S))])),
        "stood_s": f"{_stood_s(attempt):.0f}",
        "surprise": clock(attempt.hob.surprise_s or 0.0),
        "gap_s": f"{attempt.longest_gap_s:.0f}",
        "where": seen.where(gap),
        "base": degrees(float(record[:, kernel.BASE_C].max(initial=0.0))),
    }


def _landing(attempt: PanAttempt, course: Course, values: dict[str, str]) -> Item:
    under, over = attempt.free_k
    lost = A_KELVIN * (max(0.0, -course.over_k - under) + max(0.0, course.over_k - over))
    off_s = attempt.out_s if attempt.out_s is not None else attempt.t_s
    short = "under" if attempt.foams else "early"
    reason, at_s = _why_past(attempt, course) if course.over_k > 0 else (short, off_s)
    return item(
        "landing",
        "landing",
        30,
        lost,
        values["peak"],
        values["best_peak"],
        Why(reason, values, at_s=at_s),
    )


def _stood_s(attempt: PanAttempt) -> float:
    if attempt.off_s is None:
        return 0.0
    return (attempt.out_s if attempt.out_s is not None else attempt.t_s) - attempt.off_s


def left_on(attempt: PanAttempt) -> bool:
    """Whether it stood on the heat while whoever cooks it was called away."""
    at = attempt.hob.surprise_s
    if attempt.exercise.surprise != Surprise.CALLED_AWAY or at is None or attempt.t_s <= at:
        return False
    lit = True
    for when, on in attempt.offs:
        if when <= at:
            lit = on
    return lit and attempt.flame_at(at) > 0.5


def unanswered(attempt: PanAttempt) -> bool:
    """Whether somebody turned the flame up and nobody turned it down."""
    at = attempt.hob.surprise_s
    if attempt.exercise.surprise != Surprise.TURNED_UP or at is None or attempt.t_s <= at + ANSWERED_S:
        return False
    before = attempt.flame_at(at)
    off = any(at <= when <= at + ANSWERED_S and not lit for when, lit in attempt.offs)
    return not off and attempt.flame_at(at + ANSWERED_S) >= 0.9 * before


def _why_past(attempt: PanAttempt, course: Course) -> tuple[str, float]:
    """Why it went too far, and from when that could have been mended [s]."""
    wanted_s = (course.wanted or 0) * TICK_S
    if left_on(attempt):
        return "away", attempt.hob.surprise_s or 0.0
    if unanswered(attempt):
        return "turned-up", attempt.hob.surprise_s or 0.0
    if attempt.foams:
        return "over", wanted_s
    stood = _stood_s(attempt)
    if stood > STOOD_S and attempt.off_s is not None:
        at_off = min(int(attempt.off_s / TICK_S), course.sauce_c.size - 1)
        if course.peak_c - course.sauce_c[at_off] > course.over_k / 2:
            return "stood", attempt.off_s
    return "late", wanted_s


def _coat(attempt: PanAttempt, course: Course, values: dict[str, str]) -> Item:
    found, wanted = attempt.landed().word, attempt.result.hot.word
    off = ORDER.index(found) - ORDER.index(wanted)
    reason, at_s = _why_past(attempt, course) if off > 0 else ("early", attempt.out_s)
    return item("coat", "coat", 20, 12 * abs(off), found, wanted, Why(reason, values, at_s=at_s))


def _stands(attempt: PanAttempt, best: Best) -> Item:
    record = attempt.record()
    air = float(record[-1, AIR]) if record.size else 0.0
    short = 1 - air / max(best.overrun, 0.1)
    values = {"air": f"{100 * air:.0f} %", "best_air": f"{100 * best.overrun:.0f} %"}
    return item(
        "air",
        "air",
        20,
        60 * max(0.0, short - 0.2),
        values["air"],
        values["best_air"],
        Why("slack", values),
    )


def _boiled(attempt: PanAttempt) -> Item:
    held, wanted = attempt.boiled_s(), attempt.p.cook.boil_hold_s
    lost = 0.7 * max(0.0, ENOUGH * wanted - held)
    values = {"held_s": f"{held:.0f}", "hold_s": f"{wanted:.0f}"}
    yours, best = f"{held:.0f} s", f"{wanted:.0f} s"
    return item("hold", "held boil", 30, lost, yours, best, Why("starch-short", values, at_s=attempt.out_s))


def _bits(attempt: PanAttempt, course: Course, best: Best, values: dict[str, str]) -> Item:
    bits = attempt.bits_percent
    reason, at_s = "too-hot", None
    if attempt.longest_gap_s > 2 * FREE_GAP_S:
        reason = "unstirred"
    elif course.over_k > attempt.free_k[1]:
        reason, at_s = _why_past(attempt, course)
    lost = 3 * max(0.0, bits - best.bits_percent - 1.0)
    name = "bits in the sieve"
    return item(
        "bits",
        name,
        15,
        lost,
        f"{bits:.1f} %",
        f"{best.bits_percent:.1f} %",
        Why(reason, values, at_s=at_s),
    )


def _caught(attempt: PanAttempt) -> Item:
    worst = int(np.argmax(attempt.spots[:, zones.BROWNED]))
    share = float(attempt.spots[worst, zones.BROWNED])
    if share >= 1:
        return item(
            "caught",
            "base",
            15,
            15,
            "caught",
            "clean",
            Why("caught", values={"where": seen.where(worst)}),
        )
    lost = 3.0 if share >= seen.BROWNED[0] else 0.0
    seen_as = "nearly" if lost else "clean"
    return item(
        "caught",
        "base",
        15,
        lost,
        seen_as,
        "clean",
        Why("nearly-caught", values={"where": seen.where(worst)}),
    )


def _gaps(attempt: PanAttempt, values: dict[str, str]) -> Item:
    gap, allowed = attempt.longest_gap_s, FREE_GAP_S
    reason, at_s = "unstirred", None
    if left_on(attempt):
        reason, at_s = "away", attempt.hob.surprise_s
    elif attempt.exercise.surprise == Surprise.CALLED_AWAY:
        allowed += AWAY_S
    best = f"{min(gap, 2.0):.0f} s"
    return item(
        "gaps",
        "longest gap",
        25,
        0.5 * (gap - allowed),
        f"{gap:.0f} s",
        best,
        Why(reason, values, at_s=at_s),
    )


def _time(attempt: PanAttempt, best: Best) -> Item:
    took = attempt.out_s if attempt.out_s is not None else attempt.t_s
    over = took / max(best.lift_s, 1.0)
    values = {"took": clock(took), "best_took": clock(best.lift_s)}
    return item(
        "time",
        "time",
        5,
        5 * (over - 3.0),
        values["took"],
        values["best_took"],
        Why("slow", values, at_s=0.0),
    )


def _lumps(attempt: PanAttempt) -> Item:
    record = attempt.record()
    lumps = float(record[-1, LUMPS]) if record.size else 0.0
    return item("lumps", "lumps", 25, 90 * (lumps - 0.05), f"{100 * lumps:.0f} %", "none", Why("lumps"))


def _cautions(attempt: PanAttempt, course: Course, values: dict[str, str]) -> Item:
    """What was not minded though it was said or seen."""
    missed: list[tuple[str, str, float | None]] = []
    if left_on(attempt):
        missed.append(("it stayed on the heat", "away", attempt.hob.surprise_s))
    if unanswered(attempt):
        missed.append(("the flame was not turned down", "turned-up", attempt.hob.surprise_s))
    if _stood_s(attempt) > 2 * STOOD_S:
        missed.append(("it stood in the hot pan", "stood", attempt.off_s))
    if attempt.y[kernel.CURDLED] >= seen.SHEEN[0] and float(attempt.mixture.starch_in_aqueous_percent) < 0.5:
        gone = int(np.argmax(attempt.record()[:, kernel.CURDLED] >= seen.SHEEN[0]))
        # What could have been done otherwise was to lift it when it was there.
        mended = min(gone, gone if course.wanted is None else course.wanted)
        missed.append(("its sheen had gone", "sheen", mended * TICK_S))
    text = "; ".join(text for text, _, _ in missed) or "none missed"
    _, reason, at_s = missed[0] if missed else ("", "", None)
    return item(
        "cautions",
        "cautions",
        20,
        10 * len(missed),
        text,
        "none missed",
        Why(reason, values, at_s=at_s),
    )
