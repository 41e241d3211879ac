"""Which of the model's parameters an assessment rests on."""

from __future__ import annotations

from custard.advice.mix.assess import Assessment, assess
from custard.conditions import USUAL, Conditions
from custard.figures import plain
from custard.formula import Formula
from custard.larder.parameters import Origin, origins

NUDGE = 0.02
"""How far each is moved, as a share of its range, to see whether anything follows."""


def parameters_used(formula: Formula, conditions: Conditions = USUAL) -> tuple[Origin, ...]:
    """The parameters without which the answer would be another, with range, source and confidence.

    Each is moved a little within its range: one that changes no figure was not used. Definitions, which have
    no range, are left out.
    """
    before, p = _figures(assess(formula, conditions)), conditions.parameters
    used = []
    for one in origins():
        name = f"{one.group}.{one.name}"
        now = getattr(getattr(p, one.group), one.name)
        by = NUDGE * (one.high - one.low) * (1 if now < one.high else -1)
        if by and _figures(assess(formula, conditions.by(p.with_value(name, now + by)))) != before:
            used.append(one)
    return tuple(used)


def _figures(result: Assessment) -> object:
    """All that is told of a mix, unrounded."""
    return (
        result.window,
        (result.stop.at_c, result.stop.thickened, result.stop.curdled, result.stop.boiled),
        vars(result.hot),
        vars(result.cold),
        plain(result.whisked),
        result.yield_g,
        result.boiling_c,
    )
