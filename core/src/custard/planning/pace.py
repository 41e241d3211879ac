"""What days really took beside what was planned, and what that teaches the minutes."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from math import exp, log, sqrt

from custard.figures import Hundredths, Tenths
from custard.larder.stage_table import stage_records
from custard.planning.of_formula import Learned, figures
from custard.vocabulary import StageName

BELIEVED = 3.0
"""The model counts like so many batches of the kitchen's own: one slow morning does not turn it over."""
MOST_TIMES = 4.0
"""A step that took more times as long, or as short, was not done in one go and teaches nothing."""
LEAST = 3
"""With fewer batches than this nothing is said to be learned."""


@dataclass(frozen=True)
class Took:
    """A step that was done: the stage that tells of it, how long it is computed to take, and took [min]."""

    stage: StageName
    computed: float
    took: float


@dataclass(frozen=True)
class Lesson:
    """What is learned of a stage: how many times as long as computed, how far it strays, from how many."""

    stage: StageName
    times: Hundredths
    spread: Hundredths
    batches: int
    usual_min: Tenths


def learned(done: Iterable[Took]) -> dict[StageName, Learned]:
    """What a kitchen's own batches say, by stage; only of stages that enough of them tell of.

    The median of a ratio is taken as a mean of logarithms, with the model counted as `BELIEVED` batches that
    took what is computed.

    Parameters
    ----------
    done : steps that were done: how long computed, how long they took [min].

    >>> known = learned([Took(StageName.COOK, 10.0, 15.0)] * 6)
    >>> round(known[StageName.COOK].times, 2), known[StageName.COOK].batches
    (1.31, 6)
    """
    logs: dict[StageName, list[float]] = {}
    for one in done:
        if one.computed > 0 and one.took > 0 and abs(log(one.took / one.computed)) <= log(MOST_TIMES):
            logs.setdefault(one.stage, []).append(log(one.took / one.computed))
    found = {}
    for stage, ratios in logs.items():
        if len(ratios) < LEAST:
            continue
        prior = figures()[stage_records()[stage].spread]
        many = len(ratios) + BELIEVED
        mean = sum(ratios) / many
        square = sum((ratio - mean) ** 2 for ratio in ratios) + BELIEVED * (prior**2 + mean**2)
        found[stage] = Learned(exp(mean), min(2.0, sqrt(square / many)), len(ratios))
    return found


def lessons(done: Iterable[Took]) -> tuple[Lesson, ...]:
    """The same, as it is told: with the minutes that a stage of the usual length then takes.

    Parameters
    ----------
    done : steps that were done: how long computed, how long they took [min].
    """
    kept = list(done)
    known = learned(kept)
    found = []
    for stage, one in known.items():
        computed = sorted(took.computed for took in kept if took.stage == stage)
        usual = computed[len(computed) // 2] * one.times
        found.append(Lesson(stage, one.times, one.spread, one.batches, usual))
    return tuple(found)
