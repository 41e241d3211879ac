"""A cook in progress: where it is, when to lift it, and how sure that is, from its readings so far."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from custard.advice.assess import Assessment
from custard.advice.finish import Texture, texture_at
from custard.advice.window import State, Window
from custard.larder.parameters import Parameters, standard
from custard.physics.foam import foam_word
from custard.physics.texture import NAPPE_PA, WORDS, word
from custard.process import kernel
from custard.process.cook import CURDLED_AT, Stove, constants
from custard.process.follow import Change, Ensemble, Flame, Path, ahead, follow, fork, learned_shift
from custard.process.whisk import overrun_along, under_foam

Array = NDArray[np.float64]

HORIZON_S, STEP_S = 1200.0, 5.0
SOON_S = 30.0
"""The ghost on the Rule is this far ahead."""
LEFT_IN_PAN_S = 12.0
"""From the flame going out to the sauce being out of the pan; an estimate."""
UNKNOWN_POWER, UNKNOWN_PAN = 0.35, 0.15
"""How far, as logarithms, a hob and a pan that nobody measured may stray from what they are taken for."""
LEAST_READINGS = 8
MOST_READINGS, KEPT_WHOLE = 90, 12
"""So many readings are followed one by one, the newest as they came; older ones are averaged to that."""
EYE_LOG_PA = 0.35
"""How sharply a cook's eye tells how thick a coat is, as a logarithm; an estimate."""
MOST_CURDLED = 0.02
"""A lift waits for its texture only while less than this of the egg has curdled."""
BUBBLES_K = 0.7
"""This near the boil a sauce bubbles."""
THICKENS_AT = 0.1
UNSURE = (10.0, 90.0)
CURVE_POINTS = 240


@dataclass(frozen=True)
class Spoon:
    """A spoon tested at `t_s` [s], and the cook's word for its coat."""

    t_s: float
    coat: str


@dataclass(frozen=True)
class Told:
    """What a batch has told so far; times in seconds from the beginning of its cook.

    Attributes
    ----------
    readings : (time [s], [degC]) of the probe, in any order.
    hands : when somebody began to stir, or stopped.
    off_s, out_s : when it came off the heat, and out of the pan [s]; None while it has not.
    bubbles_s : when the cook saw the first bubbles [s].
    """

    readings: Sequence[tuple[float, float]] = ()
    spoons: Sequence[Spoon] = ()
    hands: Sequence[tuple[float, bool]] = ()
    off_s: float | None = None
    out_s: float | None = None
    bubbles_s: float | None = None


@dataclass(frozen=True)
class Setup:
    """How it is cooked: the stove with the power its calibration promises, and how sure that is.

    Attributes
    ----------
    power_spread : uncertainty of the power, as a logarithm [1].
    probe_lag_s : time constant of the probe [s].
    pan_share : heat of this very pan over that of its kind [1]; `pan_spread` its uncertainty, as a logarithm.
    hold_s : how long a boiled mix is to be held [s].
    """

    stove: Stove
    power_spread: float = UNKNOWN_POWER
    probe_lag_s: float = 4.0
    pan_share: float = 1.0
    pan_spread: float = UNKNOWN_PAN
    hold_s: float = 60.0


@dataclass(frozen=True)
class When:
    """Seconds until something [s], with the span most members agree on, and the sauce's temperature then.

    Below 0 it came so long ago.
    """

    in_s: float
    low_s: float
    high_s: float
    at_c: float

    def as_json(self) -> dict[str, float]:
        """Plain data."""
        return {
            "in_s": round(self.in_s, 1),
            "low_s": round(self.low_s, 1),
            "high_s": round(self.high_s, 1),
            "at_c": round(self.at_c, 2),
        }


@dataclass(frozen=True)
class Lift:
    """When to take it off, so that it lands right once carry-over is done.

    Attributes
    ----------
    when : until then; `reads_c` is what the probe will read at that moment [degC].
    lands_c : where it peaks in the pan [degC]; `lands_pa` how thick it is then [Pa].
    """

    when: When
    reads_c: float
    lands_c: float
    lands_pa: float

    @property
    def carry_over_k(self) -> float:
        """What the pan still gives after the flame [K]."""
        return self.lands_c - self.when.at_c

    def as_json(self) -> dict[str, Any]:
        """Plain data."""
        return {
            **self.when.as_json(),
            "reads_c": round(self.reads_c, 2),
            "lands_c": round(self.lands_c, 2),
            "lands_word": word(self.lands_pa),
            "carry_over_k": round(self.carry_over_k, 2),
        }


@dataclass(frozen=True)
class Live:
    """A cook now. Every figure is the middle of the ensemble; spreads are one standard deviation.

    Attributes
    ----------
    t_s : now [s].
    sauce_c, sauce_spread_k : the sauce; the probe lags behind it [degC], [K].
    probe_c : what the probe reads, smoothed [degC]; `soon_c` what it will read in 30 s.
    power_w, power_spread_w : what hob and pan really give [W]; `from_readings` once it is read, not promised.
    promised_w : what the calibration promised [W].
    shift_k, shift_spread_k : how much later this batch sets than the model says [K].
    held_s : time at the boil so far [s].
    texture : what a spoon dipped now would show.
    window : where this very cook thickens, coats and curdles, come or still coming, at the heat it gets.
    overrun : air whisked into a foam over the volume of the mix [1]; None for what is no foam.
    """

    t_s: float
    sauce_c: float
    sauce_spread_k: float
    base_c: float
    probe_c: float
    soon_c: float
    rate_k_per_min: float
    power_w: float
    power_spread_w: float
    promised_w: float
    from_readings: bool
    shift_k: float
    shift_spread_k: float
    thickened: float
    curdled: float
    yield_pa: float
    gelatinised: float
    amylase: float
    germ_logs: float
    caught: float
    catches_in_s: float | None
    held_s: float
    thickens: When | None
    nappe: When | None
    curdles: When | None
    boils: When | None
    lift: Lift | None
    path: Path = field(repr=False)
    landing: Path | None = field(repr=False)
    texture: Texture
    window: Window
    overrun: float | None = None

    def as_json(self) -> dict[str, Any]:
        """Plain data, with the continuation and its band."""
        return {
            "t_s": round(self.t_s, 1),
            "sauce_c": round(self.sauce_c, 2),
            "sauce_spread_k": round(self.sauce_spread_k, 2),
            "base_c": round(self.base_c, 1),
            "probe_c": round(self.probe_c, 2),
            "soon_c": round(self.soon_c, 2),
            "rate_k_per_min": round(self.rate_k_per_min, 2),
            "power_w": round(self.power_w),
            "power_spread_w": round(self.power_spread_w),
            "promised_w": round(self.promised_w),
            "from_readings": self.from_readings,
            "shift_k": round(self.shift_k, 2),
            "shift_spread_k": round(self.shift_spread_k, 2),
            "thickened": round(self.thickened, 4),
            "curdled": round(self.curdled, 4),
            "yield_stress_pa": float(f"{self.yield_pa:.3g}"),
            "word": word(self.yield_pa),
            "spoon": self.texture.as_json(),
            "window": self.window.as_json(),
            "gelatinised": round(self.gelatinised, 3),
            "amylase": round(self.amylase, 4),
            "germ_logs": round(self.germ_logs, 1),
            "catches_in_s": None if self.catches_in_s is None else round(self.catches_in_s),
            "held_s": round(self.held_s, 1),
            "volume_ratio": None if self.overrun is None else round(1 + self.overrun, 2),
            "foam_word": None if self.overrun is None else foam_word(self.overrun, self.yield_pa),
            **{
                name: None if when is None else when.as_json()
                for name, when in (
                    ("thickens", self.thickens),
                    ("nappe", self.nappe),
                    ("curdles", self.curdles),
                    ("boils", self.boils),
                )
            },
            "lift": None if self.lift is None else self.lift.as_json(),
            "ahead": _curve(self.path),
            "landing": None if self.landing is None else _curve(self.landing),
        }


def _curve(path: Path) -> dict[str, list[float]]:
    every = max(1, path.t_s.size // CURVE_POINTS)
    sauce = path.column(kernel.SAUCE_C)[::every]
    low, high = np.percentile(sauce, UNSURE, axis=1)
    return {
        "in_s": [round(float(v), 1) for v in path.t_s[::every]],
        "c": [round(float(v), 2) for v in np.median(sauce, axis=1)],
        "low_c": [round(float(v), 2) for v in low],
        "high_c": [round(float(v), 2) for v in high],
    }


def live(
    result: Assessment,
    setup: Setup,
    told: Told,
    now_s: float,
    parameters: Parameters | None = None,
    seed: int = 0,
) -> Live | None:
    """What is known of a cook at `now_s` [s]; None before its first reading.

    The ensemble is run anew through all that was told, so the same readings in any order, read by any
    server, give the same answer. A spoon that disagrees with the model shifts this batch's setting
    temperature, and the cook is followed again from its beginning with what was learned.
    """
    p = parameters or standard()
    if result.formula.family == "sabayon":
        p = under_foam(p)
    readings = sorted(set(told.readings))
    if not readings:
        return None
    first = readings[0][0]
    k = constants(result.pan, setup.stove, p)
    k = k._replace(base_j_k=k.base_j_k * setup.pan_share)
    flame = Flame(float(k.power_w), setup.power_spread, setup.probe_lag_s, setup.pan_spread)
    changes = _changes(told, first)
    until = max(now_s, readings[-1][0])
    if told.out_s is not None:
        until = max(first, min(until, told.out_s))
    read = _thinned([(t - first, c) for t, c in readings if t <= until])
    shift: Array | None = None
    for spoon in sorted(told.spoons, key=lambda one: one.t_s):
        at = spoon.t_s - first
        if not 0 <= at <= until - first:
            continue
        ensemble = Ensemble(k, flame, read[0][1], shift, seed)
        (_, then), *_ = follow(ensemble, read, changes, at, (at,))
        log_pa = np.log(np.maximum(then[:, kernel.YIELD_PA], 1e-3))
        shift = learned_shift(ensemble.shift_k, log_pa, _seen(spoon.coat), EYE_LOG_PA, seed)
    ensemble = Ensemble(k, flame, read[0][1], shift, seed)
    bubbled = told.bubbles_s is not None
    boil = result.boiling_c - BUBBLES_K
    watched = [t for t, _ in read]
    seen = follow(ensemble, read, changes, until - first, watched)
    held = _held(seen, until - first, boil, None if not bubbled else (told.bubbles_s or 0.0) - first)
    off = told.off_s is not None and told.off_s <= until
    air = _air(seen, p) if result.formula.family == "sabayon" else None
    now = _now(result, setup, ensemble, len(read), held, flame.power_w, p, off=off)
    return replace(_with_history(now, result, seen, until - first), t_s=until, overrun=air)


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


def _changes(told: Told, first: float) -> list[Change]:
    events = [(t, True, stirred) for t, stirred in told.hands]
    if told.off_s is not None:
        events.append((told.off_s, False, False))
    changes, lit, stirred = [], True, True
    for t, still_lit, now_stirred in sorted(events):
        lit, stirred = lit and still_lit, now_stirred
        changes.append(Change(max(0.0, t - first), lit, stirred))
    return changes


def _seen(coat: str) -> tuple[float, float]:
    """The interval of yield stress [log Pa] that a cook's word stands for."""
    ends = [end for end, _ in WORDS]
    names = [*(name for _, name in WORDS), "pipeable"]
    at = names.index(coat)
    low = ends[at - 1] if at else 1e-3
    high = ends[at] if at < len(ends) else 1e4
    return float(np.log(low)), float(np.log(high))


def _held(seen: Sequence[tuple[float, Array]], until: float, boil_c: float, bubbles_s: float | None) -> float:
    """How long it has stood at the boil [s]: since the cook saw bubbles, or as the readings tell."""
    if bubbles_s is not None:
        return max(0.0, until - bubbles_s)
    held = 0.0
    times = [t for t, _ in seen] + [until]
    for (t, states), after in zip(seen, times[1:], strict=True):
        if float(np.median(states[:, kernel.SAUCE_C])) >= boil_c:
            held += after - t
    return held


def _air(seen: Sequence[tuple[float, Array]], p: Parameters) -> float:
    """The overrun whisked in so far [1], by hand, along the middle of the ensemble."""
    t = np.array([at for at, _ in seen])
    columns = (kernel.SAUCE_C, kernel.THICKENED, kernel.CURDLED)
    sauce, tau, curdled = (np.array([np.median(states[:, i]) for _, states in seen]) for i in columns)
    return float(overrun_along(t, sauce, tau, curdled, p.foam.hand_s, p)[-1])


def _levels(result: Assessment) -> tuple[tuple[str, int, float], ...]:
    """What is waited for on the way: its name, the column of the kernel it is read from, and the level."""
    eggless = result.window.curdles_c is None and result.pan.egg_protein_percent < THICKENS_AT
    return (
        ("thickens", kernel.GELATINISED if eggless else kernel.THICKENED, THICKENS_AT),
        ("nappe", kernel.YIELD_PA, NAPPE_PA),
        ("curdles", kernel.CURDLED, CURDLED_AT),
        ("boils", kernel.SAUCE_C, result.boiling_c - BUBBLES_K),
    )


def _with_history(now: Live, result: Assessment, seen: Sequence[tuple[float, Array]], until: float) -> Live:
    """What has come already is told as so many seconds ago, at the temperature at which it came."""
    passed: dict[str, When] = {}
    for name, column, level in _levels(result):
        for t, states in seen:
            if float(np.median(states[:, column])) >= level:
                ago = t - until
                passed[name] = When(ago, ago, ago, float(np.median(states[:, kernel.SAUCE_C])))
                break
    thickens, nappe, curdles = (
        passed.get(name, coming)
        for name, coming in (("thickens", now.thickens), ("nappe", now.nappe), ("curdles", now.curdles))
    )
    plan, shift = result.window, now.shift_k

    def told(when: When | None, planned: float | None) -> float | None:
        """What the cook tells stands; the rest stands as planned, moved by what the spoon taught."""
        return when.at_c if when is not None else None if planned is None else planned + shift

    window = Window(
        max(0.0, now.rate_k_per_min),
        told(thickens, plan.thickens_c),
        told(nappe, plan.nappe_c),
        told(None, plan.heavy_c),
        told(curdles, plan.curdles_c),
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
    )
    return texture_at(result.pan, state, at_c, min(p.spoon.spoon_c, at_c), p)


def _now(
    result: Assessment,
    setup: Setup,
    ensemble: Ensemble,
    count: int,
    held: float,
    promised_w: float,
    p: Parameters,
    *,
    off: bool,
) -> Live:
    path = ahead(ensemble, HORIZON_S, STEP_S, lit=not off)
    middle = {i: float(np.median(ensemble.column(i))) for i in range(kernel.COLUMNS)}
    sauce = path.column(kernel.SAUCE_C)
    coming = {name: _when(path, path.column(at), level) for name, at, level in _levels(result)}
    lift = None
    if not off:
        lift = (
            _held_lift(path, setup, held, coming["boils"])
            if result.stop.boiled
            else _lift(result, ensemble, path)
        )
    caught = path.column(kernel.CAUGHT)
    catches = _when(path, caught, 1.0)
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
        from_readings=count >= LEAST_READINGS and spread < 0.6 * setup.power_spread,
        shift_k=float(ensemble.shift_k.mean()),
        shift_spread_k=float(ensemble.shift_k.std()),
        thickened=middle[kernel.THICKENED],
        curdled=middle[kernel.CURDLED],
        yield_pa=middle[kernel.YIELD_PA],
        gelatinised=middle[kernel.GELATINISED],
        amylase=middle[kernel.AMYLASE],
        germ_logs=middle[kernel.LOGS],
        caught=middle[kernel.CAUGHT],
        catches_in_s=None if off or catches is None else catches.in_s,
        held_s=held,
        thickens=coming["thickens"],
        nappe=coming["nappe"],
        curdles=coming["curdles"],
        boils=coming["boils"],
        lift=lift,
        path=path,
        landing=None if lift is None else _landing(ensemble, path, lift),
        texture=_texture(result, middle, p),
        window=result.window,
    )


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


def _when(path: Path, values: Array, level: float) -> When | None:
    return _span(path, _crossing(path, values, level))


def _span(path: Path, t: Array) -> When | None:
    # Ranks, not interpolated percentiles: a member that never gets there stands at infinity.
    low, middle, high = np.percentile(t, (UNSURE[0], 50, UNSURE[1]), method="nearest")
    if not np.isfinite(middle):
        return None
    sauce = np.median(path.column(kernel.SAUCE_C), axis=1)
    at_c = float(np.interp(middle, path.t_s, sauce))
    return When(float(middle), float(low), float(min(high, path.t_s[-1])), at_c)


def _lift(result: Assessment, ensemble: Ensemble, path: Path) -> Lift | None:
    """When each member must come off so that it lands as thick as planned, or before it curdles."""
    goal = result.hot.yield_stress_pa
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
    lands_pa = float(np.median(np.where(at_once, stress, before + share * (after - before))))
    return Lift(when, reads, when.at_c + max(0.0, carried), lands_pa)


def _held_lift(path: Path, setup: Setup, held: float, boils: When | None) -> Lift | None:
    """A boiled mix comes off once it has been held."""
    if boils is None and held <= 0:
        return None
    left = max(0.0, setup.hold_s - held)
    start = When(0.0, 0.0, 0.0, 0.0) if held > 0 or boils is None else boils
    t = start.in_s + left
    at_c = float(np.interp(t, path.t_s, np.median(path.column(kernel.SAUCE_C), axis=1)))
    reads = float(np.interp(t, path.t_s, np.median(path.probe_c, axis=1)))
    stress = float(np.interp(t, path.t_s, np.median(path.column(kernel.YIELD_PA), axis=1)))
    return Lift(When(t, start.low_s + left, start.high_s + left, at_c), reads, at_c, stress)


def _landing(ensemble: Ensemble, path: Path, lift: Lift) -> Path:
    """The continuation after the lift: off the heat, left in the pan until it is poured out."""
    at = int(np.searchsorted(path.t_s, lift.when.in_s))
    steps = np.linspace(0.0, 2 * LEFT_IN_PAN_S, 9)
    from_here = path.states[min(at, path.t_s.size - 1)]
    states = np.array([fork(ensemble.rows, from_here, float(s), ensemble.dt) for s in steps])
    return Path(lift.when.in_s + steps, states, states[:, :, kernel.SAUCE_C])
