"""A cook in progress: where it is, when to lift it, and how sure that is, from its readings so far."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from custard.advice.mix.assess import Assessment
from custard.advice.mix.texture import Texture, texture_at
from custard.advice.mix.window import EGGLESS_PERCENT, Window
from custard.advice.stove.account import Curve, Equipment, History, Live, Until
from custard.advice.stove.lift import held_lift, landing, lift, when
from custard.advice.stove.live_oven import LiveOven, live_oven
from custard.larder.parameters import Parameters
from custard.physics.foam import foam_word
from custard.physics.texture import NAPPE_PA, log_interval, word
from custard.process.following.follow import Change, Ensemble, Flame, ahead, follow, learned_shift
from custard.process.heating import kernel
from custard.process.heating.cook import CURDLED_AT, THICKENED_AT, constants
from custard.process.heating.state import State, left_of
from custard.process.whisking.whisk import overrun_along, under_foam

Array = NDArray[np.float64]

HORIZON_S, STEP_S = 1200.0, 5.0
SOON_S = 30.0
"""The ghost on the Rule is this far ahead."""
LEAST_READINGS, NARROWED, WELL_KNOWN = 8, 0.6, 0.12
"""So many readings, and a spread of the power narrower than believed by so much, or so small: it is read."""
FOLLOWING, ELSEWHERE_K = 3, 5.0
"""A first reading this far [K] from the middle of so many that follow was not of the sauce."""
MOST_READINGS, KEPT_WHOLE = 90, 12
"""So many readings are followed one by one, the newest as they came; older ones are averaged to that."""
EYE_LOG_PA = 0.35
"""How sharply a cook's eye tells how thick a coat is, as a logarithm; an estimate."""
BUBBLES_K = 0.7
"""This near the boil a sauce bubbles."""


def live(
    result: Assessment, equipment: Equipment, history: History, now_s: float, seed: int = 0
) -> Live | LiveOven | None:
    """What is known of a cook at `now_s` [s]; None before its first reading.

    Parameters
    ----------
    result : an assessed formula.
    equipment : what it is cooked on and in, as far as it is known.
    history : what was read and done until now.
    now_s : the moment, in the time of the readings [s].
    seed : chooses what is left to chance; the same seed gives the same answer.
    """
    if result.way.in_the_oven:
        readings = settled(history.readings)
        return live_oven(result.pan, readings, now_s, equipment.cups, result.conditions)
    return live_pan(result, equipment, history, now_s, seed)


def live_pan(
    result: Assessment, equipment: Equipment, history: History, now_s: float, seed: int = 0
) -> Live | None:
    """What is known of a cook in a pan or a bowl at `now_s` [s].

    The ensemble is run again through all that happened, so the same readings in any order, read by any
    server, give the same answer. A spoon that disagrees with the model shifts this batch's setting
    temperature, and the cook is followed again from its beginning with what was learned.
    """
    p, foams = result.conditions.parameters, result.way.foams
    if foams:
        p = under_foam(p)
    readings = settled(history.readings)
    if not readings:
        return None
    first = readings[0][0]
    k = constants(result.pan, equipment.stove, result.conditions.by(p))
    k = k._replace(base_j_k=k.base_j_k * equipment.pan_share)
    flame = Flame(float(k.power_w), equipment.power_spread, equipment.probe_lag_s, equipment.pan_spread)
    changes = _changes(history, first)
    until = max(now_s, readings[-1][0])
    if history.out_s is not None:
        until = max(first, min(until, history.out_s))
    read = _thinned([(t - first, c) for t, c in readings if t <= until])
    shift: Array | None = None
    for spoon in sorted(history.spoons, key=lambda one: one.t_s):
        at = spoon.t_s - first
        if not 0 <= at <= until - first:
            continue
        ensemble = Ensemble(k, flame, read[0][1], shift, seed)
        (_, then), *_ = follow(ensemble, read, changes, at, (at,))
        log_pa = np.log(np.maximum(then[:, kernel.YIELD_PA], 1e-3))
        shift = learned_shift(ensemble.shift_k, log_pa, log_interval(spoon.coat), EYE_LOG_PA, seed)
    ensemble = Ensemble(k, flame, read[0][1], shift, seed)
    bubbled = history.bubbles_s is not None
    boil = result.boiling_c - BUBBLES_K
    watched = [t for t, _ in read]
    seen = Course.of(follow(ensemble, read, changes, until - first, watched))
    held = _held(seen, until - first, boil, None if not bubbled else (history.bubbles_s or 0.0) - first)
    off = history.off_s is not None and history.off_s <= until
    now = _now(result, equipment, ensemble, len(read), held, flame.power_w, p, off=off)
    now = replace(_with_history(now, result, seen, until - first, off=off), t_s=until)
    if not foams:
        return now
    air = _air(seen, p)
    return replace(now, volume_ratio=1 + air, foam_word=foam_word(air, now.yield_stress_pa))


def settled(readings: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
    """Readings in order, each once, without what a probe read before it lay in the sauce.

    A probe that comes out of the hot dairy, or off the bench, reads for a moment what it comes from: a first
    reading far from those that follow is left out.

    Parameters
    ----------
    readings : times since it went in [s], and what the probe read [degC].
    """
    found = sorted(set(readings))
    while len(found) > FOLLOWING and _far_off(found):
        del found[0]
    return found


def _far_off(readings: Sequence[tuple[float, float]]) -> bool:
    following = [c for _, c in readings[1 : 1 + FOLLOWING]]
    return abs(readings[0][1] - float(np.median(following))) > ELSEWHERE_K


def _thinned(readings: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """At most `MOST_READINGS`, each the mean of those that lie close together; the last ones as they are."""
    bin_s = (readings[-1][0] - readings[0][0]) / MOST_READINGS
    if len(readings) <= MOST_READINGS + KEPT_WHOLE:
        return readings
    older, last = readings[:-KEPT_WHOLE], readings[-KEPT_WHOLE:]
    thin = [[older[0]]]
    for one in older[1:]:
        if one[0] - thin[-1][0][0] < bin_s:
            thin[-1].append(one)
        else:
            thin.append([one])
    return [
        (sum(t for t, _ in bin_) / len(bin_), sum(c for _, c in bin_) / len(bin_)) for bin_ in thin
    ] + last


def _changes(history: History, first: float) -> list[Change]:
    """When the heat was on and off, and when somebody stirred; what is off the heat is not stirred."""
    heat = [(end, lit) for off, on in history.breaks for end, lit in ((off, False), (on, True))]
    if history.off_s is not None:
        heat.append((history.off_s, False))
    events = [*((t, None, stirred) for t, stirred in history.hands), *((t, lit, lit) for t, lit in heat)]
    changes, lit, stirred = [], True, True
    for t, now_lit, now_stirred in sorted(events, key=lambda event: event[0]):
        lit, stirred = lit if now_lit is None else now_lit, now_stirred
        changes.append(Change(max(0.0, t - first), lit, stirred))
    return changes


@dataclass(frozen=True)
class Course:
    """The middle of the ensemble along its readings: times [s], and every column of the kernel at each."""

    t_s: Array
    middle: Array

    @classmethod
    def of(cls, seen: Sequence[tuple[float, Array]]) -> Course:
        """From the states at each time, in one go: one by one the medians take longer than the cook."""
        if not seen:
            return cls(np.empty(0), np.empty((0, kernel.COLUMNS)))
        states = np.stack([states[:, : kernel.COLUMNS] for _, states in seen])
        return cls(np.array([t for t, _ in seen]), np.median(states, axis=1))

    def column(self, index: int) -> Array:
        """One column along the readings."""
        return np.asarray(self.middle[:, index])


def _held(seen: Course, until: float, boil_c: float, bubbles_s: float | None) -> float:
    """How long it has stood at the boil [s]: since the cook saw bubbles, or as the readings tell."""
    if bubbles_s is not None:
        return max(0.0, until - bubbles_s)
    lasted = np.diff(np.append(seen.t_s, until))
    return float(lasted[seen.column(kernel.SAUCE_C) >= boil_c].sum())


def _air(seen: Course, p: Parameters) -> float:
    """The overrun whisked in so far [1], by hand, along the middle of the ensemble."""
    sauce, tau, curdled = (
        seen.column(column) for column in (kernel.SAUCE_C, kernel.THICKENED, kernel.CURDLED)
    )
    return float(overrun_along(seen.t_s, sauce, tau, curdled, p.foam.hand_s, p)[-1])


def _levels(result: Assessment) -> tuple[tuple[str, int, float], ...]:
    """What is waited for on the way: its name, the column of the kernel it is read from, and the level."""
    eggless = result.window.curdles_c is None and result.pan.egg_protein_percent < EGGLESS_PERCENT
    return (
        ("thickens", kernel.GELATINISED if eggless else kernel.THICKENED, THICKENED_AT),
        ("nappe", kernel.YIELD_PA, NAPPE_PA),
        ("curdles", kernel.CURDLED, CURDLED_AT),
        ("boils", kernel.SAUCE_C, result.boiling_c - BUBBLES_K),
    )


def _with_history(now: Live, result: Assessment, seen: Course, until: float, *, off: bool) -> Live:
    """What has come already is given as so many seconds ago, at the temperature at which it came.

    Off the heat, what would come is a matter of how long it stands about: the window then shows what came.
    """
    passed: dict[str, Until] = {}
    for name, column, level in _levels(result):
        reached = np.flatnonzero(seen.column(column) >= level)
        if reached.size:
            ago = float(seen.t_s[reached[0]]) - until
            passed[name] = Until(ago, ago, ago, float(seen.column(kernel.SAUCE_C)[reached[0]]))
    thickens, nappe, curdles = (
        passed.get(name, coming)
        for name, coming in (("thickens", now.thickens), ("nappe", now.nappe), ("curdles", now.curdles))
    )
    plan, shift = result.window, now.shift_k

    def at_c(name: str, came: Until | None, planned: float | None) -> float | None:
        """What the cook tells stands; the rest stands as planned, moved by what the spoon taught."""
        if came is not None and (name in passed or not off):
            return came.at_c
        return None if planned is None else planned + shift

    window = Window(
        max(0.0, now.rate_k_per_min),
        at_c("thickens", thickens, plan.thickens_c),
        at_c("nappe", nappe, plan.nappe_c),
        at_c("heavy", None, plan.heavy_c),
        at_c("curdles", curdles, plan.curdles_c),
    )
    boils = passed.get("boils", now.boils)
    return replace(now, thickens=thickens, nappe=nappe, curdles=curdles, boils=boils, window=window)


def _texture(result: Assessment, middle: dict[int, float], p: Parameters) -> Texture:
    """What a spoon dipped into the middle of the ensemble shows."""
    at_c = middle[kernel.SAUCE_C]
    state = State(
        at_c,
        middle[kernel.THICKENED],
        middle[kernel.CURDLED],
        middle[kernel.GELATINISED],
        middle[kernel.SWOLLEN],
        boiled=False,
        left=left_of(float(result.pan.mass_g), middle[kernel.STEAMED_G]),
    )
    return texture_at(result.pan, state, at_c, min(p.spoon.spoon_c, at_c), p)


def _now(
    result: Assessment,
    equipment: Equipment,
    ensemble: Ensemble,
    count: int,
    held: float,
    promised_w: float,
    p: Parameters,
    *,
    off: bool,
) -> Live:
    path = ahead(ensemble, HORIZON_S, STEP_S, lit=not off)
    medians = np.median(ensemble.states[:, : kernel.COLUMNS], axis=0)
    middle = {i: float(value) for i, value in enumerate(medians)}
    sauce = path.column(kernel.SAUCE_C)
    coming = {name: when(path, path.column(at), level) for name, at, level in _levels(result)}
    found = None
    if not off and result.stop.boiled:
        found = held_lift(path, equipment, held, coming["boils"])
    elif not off:
        found = lift(result, ensemble, path)
    caught = path.column(kernel.CAUGHT)
    catches = when(path, caught, 1.0)
    power = ensemble.power_w
    spread = float(np.std(np.log(power)))
    return Live(
        t_s=ensemble.t_s,
        sauce_c=middle[kernel.SAUCE_C],
        sauce_spread_k=float(ensemble.column(kernel.SAUCE_C).std()),
        base_c=middle[kernel.BASE_C],
        probe_c=float(np.median(ensemble.probe_c)),
        soon_c=float(np.median(path.probe_c[int(SOON_S / STEP_S)])),
        rate_k_per_min=float(np.median(sauce[4] - sauce[0])) / (4 * STEP_S) * 60,
        power_w=float(np.median(power)),
        power_spread_w=float(np.median(power)) * spread,
        promised_w=promised_w,
        from_readings=count >= LEAST_READINGS and spread < max(NARROWED * equipment.power_spread, WELL_KNOWN),
        shift_k=float(ensemble.shift_k.mean()),
        shift_spread_k=float(ensemble.shift_k.std()),
        thickened=middle[kernel.THICKENED],
        curdled=middle[kernel.CURDLED],
        yield_stress_pa=middle[kernel.YIELD_PA],
        word=word(middle[kernel.YIELD_PA]),
        gelatinised=middle[kernel.GELATINISED],
        amylase=middle[kernel.AMYLASE],
        germ_logs=middle[kernel.LOGS],
        catches_in_s=None if off or catches is None else catches.in_s,
        held_s=held,
        hold_s=equipment.hold_s,
        thickens=coming["thickens"],
        nappe=coming["nappe"],
        curdles=coming["curdles"],
        boils=coming["boils"],
        lift=found,
        ahead=Curve.of(path),
        landing=None if found is None else Curve.of(landing(ensemble, path, found)),
        spoon=_texture(result, middle, p),
        window=result.window,
        volume_ratio=None,
        foam_word=None,
    )
