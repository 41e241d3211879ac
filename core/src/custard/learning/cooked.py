"""A batch as something can be learned of it: its mix, its pan, its curve, and what was looked at."""

from __future__ import annotations

from collections.abc import Hashable
from dataclasses import dataclass, replace
from itertools import pairwise

from custard.advice.mix.assess import Assessment, assess
from custard.advice.stove.account import off_the_heat
from custard.advice.trouble.kept import LONGEST_STOOD_S, out_of_the_pan, rests
from custard.conditions import Conditions, Learned
from custard.formats.kept_batch import HappenedMark, KeptBatch
from custard.larder.vessels import USUAL_RULE, pans
from custard.process.following.replay import LEAST_READINGS, LONGEST_S, Course, course_of
from custard.process.heating.cook import Stove, constants, usual_stove
from custard.process.heating.pan import Constants
from custard.process.whisking.whisk import under_foam
from custard.vocabulary import MarkKind

BEGINS_C = 60.0
"""Where a cook is taken to begin of which nobody read more than a spoon test [degC]."""
RAMP_S = 10.0


@dataclass(frozen=True)
class SpoonSeen:
    """A spoon test: when [s], what the coat was and what the line did; "" where nobody looked."""

    t_s: float
    coat: str
    line: str


@dataclass(frozen=True)
class Cooked:
    """One batch.

    Attributes
    ----------
    kept : as it is kept in its file.
    result : its formula assessed as computed, with nothing learned.
    stove, k : what it was cooked on, and the cook as plain numbers.
    course : what was read, on an even grid; None for what nobody read.
    off_s, out_s : when it came off the heat, and out of the pan [s]; None where nobody said.
    spoons : spoon tests on the course, in order.
    sieve : what stayed in the sieve; "" where nobody looked.
    """

    kept: KeptBatch
    result: Assessment
    stove: Stove
    k: Constants
    course: Course | None
    off_s: float | None
    out_s: float | None
    spoons: tuple[SpoonSeen, ...]
    sieve: str

    @property
    def setting_things(self) -> tuple[Hashable, ...]:
        """What its setting hangs on besides the house: whose eggs, and the probe as it was last checked."""
        kept = self.kept
        return (kept.eggs, kept.egg_source), (kept.probe.name, kept.probe.checked_on)

    @property
    def pan_things(self) -> tuple[Hashable, ...]:
        """What its carry-over hangs on: the hob and the pan."""
        return self.kept.hob.name, (self.kept.pan.name, self.kept.pan.kind, self.kept.over_steam)


def conditions_of(kept: KeptBatch, learned: Learned | None = None) -> Conditions:
    """The conditions a batch was made under.

    Parameters
    ----------
    kept : the batch.
    learned : what its kitchen had learned by then; None for nothing.
    """
    # The kitchen's eggs are in the grams of its formula as weighed.
    plain = Conditions(
        altitude_m=kept.altitude_m, rule=kept.rule if kept.rule not in ("", "own") else USUAL_RULE
    )
    return plain if learned is None else plain.with_learned(learned)


def stove_of(kept: KeptBatch, result: Assessment) -> Stove:
    """What a batch was cooked on: as its file says, else as usual."""
    usual = usual_stove(result.pan, result.conditions.parameters, over_steam=kept.over_steam, stir=kept.stir)
    power = usual.power_w if kept.hob.power_w is None else kept.hob.power_w
    return replace(usual, power_w=power, pan=kept.pan.kind if kept.pan.kind in pans() else "clad")


def constants_of(kept: KeptBatch, result: Assessment, stove: Stove) -> Constants:
    """The cook of a batch as plain numbers, with its own pan.

    Parameters
    ----------
    kept : the batch.
    result : its formula, assessed under the conditions that are to count.
    stove : what it was cooked on.
    """
    p = result.conditions.parameters
    under = result.conditions.by(under_foam(p)) if result.way.foams else result.conditions
    k = constants(result.pan, stove, under)._replace(traces=1.0)
    return k._replace(base_j_k=k.base_j_k * kept.pan.share)


def cooked(kept: KeptBatch) -> Cooked:
    """A batch made ready to learn from, or to compare with another.

    Parameters
    ----------
    kept : as it is kept in its file.
    """
    result = assess(kept.formula, conditions_of(kept))
    stove = stove_of(kept, result)
    k = constants_of(kept, result, stove)
    off_s = off_for_good(kept)
    out_s = out_of_the_pan(kept.marks)
    readings = in_the_pan(kept, off_s, out_s)
    spoons = tuple(
        SpoonSeen(mark.at_s, mark.coat, mark.line)
        for mark in kept.marks
        if mark.kind == MarkKind.SPOON and (mark.coat or mark.line)
    )
    if result.way.in_the_oven:
        course = None
    elif len(readings) >= LEAST_READINGS:
        still = rests(kept.marks, readings[-1][0])
        course = course_of(readings, float(k.stirring), still, off_s, kept.probe.lag_s)
        spoons = tuple(one for one in spoons if 0 <= one.t_s <= readings[-1][0] + RAMP_S)
    else:
        course, spoons = _ramp(kept, result, float(k.stirring))
        off_s = out_s = None
    sieve = next((mark.sieve for mark in reversed(kept.marks) if mark.sieve), "")
    return Cooked(kept, result, stove, k, course, off_s, out_s, spoons, sieve)


def off_for_good(kept: KeptBatch) -> float | None:
    """When it came off the heat and did not go back [s]."""
    return off_the_heat((mark.at_s, mark.kind) for mark in kept.marks if mark.at_s >= 0)[1]


def in_the_pan(kept: KeptBatch, off_s: float | None, out_s: float | None) -> list[tuple[float, float]]:
    """What was read while it was in its pan [s], [degC], the probe's known error taken off."""
    ends = min(
        out_s if out_s is not None else LONGEST_S,
        off_s + LONGEST_STOOD_S if off_s is not None else LONGEST_S,
    )
    return [(t, c) for t, c in kept.true_readings if 0 <= t <= ends]


def _ramp(
    kept: KeptBatch, result: Assessment, stirring: float
) -> tuple[Course | None, tuple[SpoonSeen, ...]]:
    """A batch of which only spoon tests were read: warmed to each as fast as its family usually is."""
    seen: list[HappenedMark] = [
        mark
        for mark in kept.marks
        if mark.kind == MarkKind.SPOON and (mark.coat or mark.line) and mark.temperature_c is not None
    ]
    if not seen:
        return None, ()
    rate_k_s = result.window.rate_k_per_min / 60
    at_s, at_c = 0.0, BEGINS_C
    points, spoons = [(at_s, at_c)], []
    for mark in seen:
        to_c = (mark.temperature_c or at_c) - kept.probe.reads_high_k
        # A later test at the same number was taken a little later, not at the same moment.
        at_s += max(RAMP_S, abs(to_c - at_c) / rate_k_s)
        points.append((at_s, to_c))
        spoons.append(SpoonSeen(at_s, mark.coat, mark.line))
        at_c = to_c
    even = [points[0]]
    for (began, low), (ended, high) in pairwise(points):
        steps = max(2, round((ended - began) / RAMP_S))
        even += [
            (began + i / steps * (ended - began), low + i / steps * (high - low)) for i in range(1, steps + 1)
        ]
    if len(even) < LEAST_READINGS:
        return None, ()
    return course_of(even, stirring, lag_s=0.0), tuple(spoons)
