"""Whether a kitchen learns: made-up kitchens with hidden truths, and as many with none.

Run it with `python -m validation.learning [--kitchens 200] [--batches 5]` in the folder `core`. Each kitchen
has a setting offset, pans that give more or less than is computed, a share that stays behind, a hob and a
probe that nobody knows. Five batches are cooked, looked at by noisy eyes and written to the open format; what
is learned of them is held against the sixth.
"""

from __future__ import annotations

import argparse
import json
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

import custard
import numpy as np
from custard.advice.stove.live import EYE_LOG_PA
from custard.conditions import Learned
from custard.formats import HappenedMark, HobUsed, KeptBatch, ProbeUsed
from custard.learning import BITS_LOG, BITS_PERCENT, EYES_LOG, SETTING, compare, cooked, learn
from custard.process.heating import kernel, pan
from custard.process.heating.cook import Stove, constants, cook, step_s
from custard.vocabulary import SieveFound

LAG_S, READ_EVERY_S = 4.0, 4.0
PROBE_K, READ_K = 0.7, 0.15
"""How far a kitchen's probe reads wrong, and how much one reading scatters [K]."""
HOB_LOG, YIELD_SHARE = 0.2, 0.01
TESTS_K = (-4.0, -2.5, -1.0, 0.0)
"""A spoon is tested so far under the number it is lifted at [K]."""
STANDS_S = 25.0
FIRST_DAY = datetime(2026, 1, 5, 9, tzinfo=UTC)
FORMULAS = tuple(
    custard.read_formula(
        {
            "format": "old-spoon/formula",
            "version": 1,
            "name": name,
            "family": "anglaise",
            "lines": [
                {"ingredient": "whole-milk", "amount": f"{milk} g"},
                {"ingredient": "whipping-cream-36", "amount": f"{cream} g"},
                {"ingredient": "egg-yolk", "amount": f"{yolks} g"},
                {"ingredient": "white-sugar", "amount": f"{sugar} g"},
            ],
        }
    )
    for name, milk, cream, yolks, sugar in (
        ("Plain", 980, 20, 150, 160),
        ("Rich", 500, 500, 180, 180),
        ("Lean", 900, 100, 90, 120),
    )
)


@dataclass(frozen=True)
class Kitchen:
    """What is hidden: setting [K], carry-over and what stays behind [1], the probe [K], the hob [1], and how
    much more must be curdled before its sieve holds bits [1]."""

    set_k: float
    carry_over: float
    left: float
    probe_k: float
    hob: float
    batch_k: float
    sieve: float = 1.0


def kitchen(rng: np.random.Generator, *, hidden: bool) -> Kitchen:
    """A kitchen; without anything hidden only its batches differ by chance."""
    if not hidden:
        return Kitchen(0.0, 1.0, 1.0, 0.0, 1.0, SETTING.batch)
    return Kitchen(
        set_k=float(rng.normal(0, 1.2)),
        carry_over=float(np.exp(rng.normal(0, 0.35))),
        left=float(np.exp(rng.normal(0, 0.35))),
        probe_k=float(rng.normal(0, PROBE_K)),
        hob=float(np.exp(rng.normal(0, HOB_LOG))),
        batch_k=SETTING.batch,
        sieve=float(np.exp(EYES_LOG * rng.spawn(1)[0].standard_normal())),
    )


def batch(
    one: Kitchen, formula: custard.Formula, number: int, rng: np.random.Generator, lift_k: float = 0.0
) -> tuple[KeptBatch, float]:
    """A batch cooked in it, and where it sets over what is computed [K], by the kitchen's own probe.

    Parameters
    ----------
    one : the kitchen.
    formula : what is cooked.
    number : which batch it is; one is cooked every third day.
    rng : the source of chance.
    lift_k : how far from the computed stop it is lifted [K].
    """
    own_k = float(one.batch_k * rng.standard_normal())
    truth = Learned(set_k=float(np.clip(one.set_k + own_k, -6, 6)), carry_over=one.carry_over, left=one.left)
    conditions = custard.USUAL.with_learned(truth)
    usual = custard.assess(formula)
    made = custard.assess(formula, conditions)
    power_w = 0.5 * usual.pan.mass_g * one.hob * float(np.exp(rng.normal(0, 0.1)))
    lift_c = usual.stop.at_c + lift_k - one.probe_k
    done = cook(
        made.pan,
        60.0 + float(rng.normal(0, 1.5)),
        lift_c,
        Stove(power_w=power_w),
        0.0,
        STANDS_S,
        conditions=conditions,
    )
    t, sauce, stress = (done.column(at) for at in (kernel.T_S, kernel.SAUCE_C, kernel.YIELD_PA))
    probe = _lagged(t, sauce) + one.probe_k
    times = np.arange(0.0, t[-1], READ_EVERY_S)
    readings = [
        (float(at), float(c))
        for at, c in zip(times, np.interp(times, t, probe) + rng.normal(0, READ_K, times.size), strict=True)
    ]
    lifted_s = done.lift_s if done.lift_s is not None else float(t[-1])
    marks = [HappenedMark(lifted_s, "off-heat"), HappenedMark(float(t[-1]), "into-ice")]
    for off_k in TESTS_K:
        at_s = float(np.interp(lift_c + off_k, sauce[t <= lifted_s], t[t <= lifted_s]))
        seen = float(np.interp(at_s, t, stress) * np.exp(EYE_LOG_PA * rng.standard_normal()))
        read_c = float(np.interp(at_s, t, probe))
        marks.append(HappenedMark(at_s, "spoon", coat=custard.word(seen), temperature_c=read_c))
    bits = done.bits_percent / one.sieve * float(np.exp(BITS_LOG * rng.standard_normal()))
    sieve = SieveFound.CLEAN if bits < BITS_PERCENT[0] else SieveFound.A_FEW_BITS
    marks.append(
        HappenedMark(
            float(t[-1]) + 5, "sieve", sieve=SieveFound.MANY_BITS if bits > BITS_PERCENT[1] else sieve
        )
    )
    kept = KeptBatch(
        formula,
        number=number,
        started_at=(FIRST_DAY + timedelta(days=3 * number)).isoformat(),
        hob=HobUsed("left ring", 0.5 * float(usual.pan.mass_g), 0.35),
        probe=ProbeUsed("red", LAG_S),
        readings=tuple(readings),
        marks=tuple(sorted(marks, key=lambda mark: mark.at_s)),
        yield_g=float(made.yield_g * (1 + YIELD_SHARE * rng.standard_normal())),
    )
    return kept, one.set_k + own_k + one.probe_k


CAUSES: dict[str, tuple[str, ...]] = {
    "lift": ("lift",),
    "hob": ("rate",),
    "stood": ("carry-over",),
    "yolks": ("egg-yolk",),
    "rest": ("stirring",),
}
"""Causes of a batch that came out otherwise, and the difference that is to be named first."""


def pair(cause: str, rng: np.random.Generator) -> tuple[KeptBatch, KeptBatch]:
    """A batch that went as planned, and one in which a cause was at work; no two are quite alike."""
    formula = FORMULAS[int(rng.integers(2))]
    return _played(formula, "", rng), _played(formula, cause, rng)


def _played(formula: custard.Formula, cause: str, rng: np.random.Generator) -> KeptBatch:
    """A batch stepped through, with small chances in everything and one cause in it."""
    yolks = 0.65 if cause == "yolks" else float(rng.normal(1, 0.01))
    formula = formula.with_yolks_times(yolks)
    made = custard.assess(formula)
    power_w = 0.45 * made.pan.mass_g * float(np.exp(rng.normal(0, 0.05))) * (2.6 if cause == "hob" else 1.0)
    k = constants(made.pan, Stove(power_w=power_w))._replace(traces=1.0)
    plain = custard.assess(FORMULAS[[one.name for one in FORMULAS].index(formula.name)])
    lift_c = plain.stop.at_c - 0.7 + float(rng.normal(0, 0.2)) + (3.0 if cause == "lift" else 0.0)
    stands_s = 15.0 + float(rng.normal(0, 3)) + (120.0 if cause == "stood" else 0.0)
    y = kernel.at_rest(60.0 + float(rng.normal(0, 1)))
    dt, rows, marks = step_s(k), [y[: kernel.COLUMNS].copy()], []
    rests_s = 0.0
    while y[kernel.SAUCE_C] < lift_c and y[kernel.T_S] < 3600:
        resting = cause == "rest" and y[kernel.SAUCE_C] > lift_c - 6 and rests_s < 35
        if resting and rests_s == 0:
            marks.append(HappenedMark(float(y[kernel.T_S]), "hands-off"))
        if cause == "rest" and rests_s >= 35 and len(marks) == 1:
            marks.append(HappenedMark(float(y[kernel.T_S]), "stirring"))
        kernel.advance(k, y, 1.0, dt, 1.0, float(pan.STILL) if resting else k.stirring)
        rests_s += resting
        rows.append(y[: kernel.COLUMNS].copy())
    off_s = float(y[kernel.T_S])
    kernel.lift(k, y)
    for _ in range(max(1, round(stands_s))):
        kernel.advance(k, y, 1.0, dt, 0.0, float(pan.STILL))
        rows.append(y[: kernel.COLUMNS].copy())
    curve = np.array(rows)
    t, probe = curve[:, kernel.T_S], _lagged(curve[:, kernel.T_S], curve[:, kernel.SAUCE_C])
    times = np.arange(0.0, t[-1], 2.0)
    read = np.interp(times, t, probe) + rng.normal(0, READ_K, times.size)
    ended = float(y[kernel.T_S])
    marks += [HappenedMark(off_s, "off-heat"), HappenedMark(ended, "into-ice")]
    seen = float(y[kernel.YIELD_PA] * np.exp(EYE_LOG_PA * rng.standard_normal()))
    marks.append(HappenedMark(ended, "spoon", coat=custard.word(seen)))
    return KeptBatch(
        formula,
        hob=HobUsed("left ring", power_w),
        readings=tuple(zip(times.tolist(), read.tolist(), strict=True)),
        marks=tuple(sorted(marks, key=lambda mark: mark.at_s)),
    )


def named_first(pairs: int, seed: int = 11) -> dict[str, float]:
    """How often the hidden cause of a batch is named first, by cause and in all [1].

    Parameters
    ----------
    pairs : how many of each cause.
    seed : chooses what is left to chance; the same seed gives the same answer.
    """
    rng = np.random.default_rng(seed)
    found = {}
    for cause, wanted in CAUSES.items():
        hits = 0
        for _ in range(pairs):
            told = compare(*(cooked(one) for one in pair(cause, rng))).differences
            hits += bool(told) and told[0].what in wanted
        found[cause] = hits / pairs
    return {**found, "all": sum(found.values()) / len(found)}


def _lagged(t: np.ndarray, sauce: np.ndarray) -> np.ndarray:
    probe = sauce.copy()
    for i in range(1, t.size):
        probe[i] = probe[i - 1] + (sauce[i] - probe[i - 1]) * (1 - np.exp(-(t[i] - t[i - 1]) / LAG_S))
    return probe


@dataclass(frozen=True)
class Shown:
    """What came of some kitchens: errors of where the next batch sets [K], before and after, how often it
    sets inside the band of four in five [1], and the same errors of the logarithm of the carry-over."""

    before_k: float
    after_k: float
    inside: float
    carry_before: float
    carry_after: float

    def as_json(self) -> dict[str, float]:
        """As it is printed."""
        return {name: round(value, 3) for name, value in vars(self).items()}


def shown(kitchens: int, batches: int, *, hidden: bool, seed: int = 7) -> Shown:
    """Kitchens that learn from so many batches, held against their next.

    Parameters
    ----------
    kitchens : how many.
    batches : how many each cooks before.
    hidden : whether they hide anything.
    seed : chooses what is left to chance; the same seed gives the same answer.
    """
    rng = np.random.default_rng((seed, hidden))
    rows = []
    for _ in range(kitchens):
        one = kitchen(rng, hidden=hidden)
        formula = FORMULAS[int(rng.integers(len(FORMULAS)))]
        made = [batch(one, formula, number, rng)[0] for number in range(batches)]
        known = learn(made).of(formula.name)
        _, truth_k = batch(one, formula, batches, rng)
        spread = known.next_spread_k
        rows.append(
            (
                abs(truth_k),
                abs(truth_k - known.set_k.mean),
                abs(truth_k - known.set_k.mean) <= 1.2816 * spread,
                abs(np.log(one.carry_over)),
                abs(np.log(one.carry_over) - known.carry_over.mean),
            )
        )
    return Shown(*(float(value) for value in np.mean(np.array(rows, dtype=float), axis=0)))


def main(argv: Sequence[str] | None = None) -> None:
    """Print what came of kitchens that hide something, and of those that hide nothing."""
    parser = argparse.ArgumentParser(description=__doc__.partition("\n")[0] if __doc__ else "")
    parser.add_argument("--kitchens", type=int, default=200)
    parser.add_argument("--batches", type=int, default=5)
    parser.add_argument("--pairs", type=int, default=40, help="of each cause")
    options = parser.parse_args(argv)
    found: dict[str, object] = {
        name: shown(options.kitchens, options.batches, hidden=hidden).as_json()
        for name, hidden in (("hidden", True), ("none", False))
    }
    found["named first"] = named_first(options.pairs)
    print(json.dumps(found, indent=2))


if __name__ == "__main__":
    main()
