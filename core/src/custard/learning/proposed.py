"""What a formula's next version could be, from what its batches taught."""

from __future__ import annotations

from dataclasses import dataclass, replace

from custard.advice.mix.assess import Assessment, assess
from custard.advice.stove.stages import degrees
from custard.conditions import NOTHING_LEARNED, Conditions
from custard.formula import Formula
from custard.larder.families import COATS, MOUNDS
from custard.learning.estimate import Estimate
from custard.learning.house import SPEAK

LEAST_K = 0.6
"""What shifts by less is within what a cook and a probe see [K]; an estimate, 0.4 to 1."""
SURE = 1.5
"""It is proposed where it is so many times as large as it is unsure [1]."""
CARD_STEP_C = 0.5
LEAST_YOLKS, MOST_YOLKS = 0.75, 1.35
STEPS = 18
NEAR_BOIL_K = 3.0
"""What is taken so near the boil is lifted by its starch, not by its egg [K]."""
HALF = 0.5
"""Yolks are counted in halves [1]."""


@dataclass(frozen=True)
class Proposal:
    """A next version, and why.

    Attributes
    ----------
    formula : what it is made of.
    say : in what it differs; temperatures as "{82.4 C}".
    why : what was learned that speaks for it.
    batches : from how many.
    """

    formula: Formula
    say: str
    why: str
    batches: int


def proposed(formula: Formula, set_k: Estimate, conditions: Conditions) -> Proposal | None:
    """A next version of a formula that coats where cooks expect it; None where too little was learned.

    Where its recipe says a temperature, that is put right; else its yolks are, so that it coats where it is
    computed to for everybody.

    Parameters
    ----------
    formula : the version that was cooked.
    set_k : how much later than computed it sets here [K], with how sure that is.
    conditions : the kitchen's, with what was learned of this formula.
    """
    if set_k.batches < SPEAK or abs(set_k.mean) < max(LEAST_K, SURE * set_k.sd):
        return None
    here = assess(formula, conditions)
    if here.way not in (COATS, MOUNDS) or here.stop.at_c > here.boiling_c - NEAR_BOIL_K:
        return None
    found = _another_card(here) if formula.card.cook_to_c is not None else _another_yolk(here)
    if found is None:
        return None
    later = "later" if set_k.mean > 0 else "sooner"
    why = f"From {set_k.batches} batches: here it coats {{{abs(set_k.mean):.1f} K}} {later} than computed."
    return Proposal(*found, why, set_k.batches)


def _another_card(here: Assessment) -> tuple[Formula, str] | None:
    """The temperature that its recipe says, put right."""
    card = here.formula.card
    to_c = round(here.stop.at_c / CARD_STEP_C) * CARD_STEP_C
    if card.cook_to_c is None or abs(to_c - card.cook_to_c) < LEAST_K:
        return None
    say = f"Cook it to {degrees(to_c)} instead of {degrees(card.cook_to_c)}."
    return replace(here.formula, card=replace(card, cook_to_c=to_c)), say


def _another_yolk(here: Assessment) -> tuple[Formula, str] | None:
    """So much yolk that it coats where it is computed to for everybody."""
    formula, conditions = here.formula, here.conditions
    factor = _yolks_for(
        formula, conditions, assess(formula, conditions.with_learned(NOTHING_LEARNED)).stop.at_c
    )
    if factor is None:
        return None
    more = _weighable(formula, factor)
    amounts = [
        f"{after.amount} instead of {before.amount}"
        for before, after in zip(formula.lines, more.lines, strict=True)
        if before.amount != after.amount
    ]
    if not amounts:
        return None
    lands, landed = (degrees(assess(one, conditions).stop.at_c) for one in (more, formula))
    return more, f"Yolk: {'; '.join(amounts)}. Then it coats at {lands}, not at {landed}."


def _weighable(formula: Formula, factor: float) -> Formula:
    """Its yolk about so many times as much: counted in halves, else in whole grams."""
    lines = list(formula.lines)
    for place, line in enumerate(lines):
        if line.ingredient.id != "egg-yolk":
            continue
        step = HALF if line.quantity.counts else 1.0
        number = line.quantity.number
        new = max(step, round(number * factor / step) * step)
        quantity = line.quantity.times(new / number)
        if quantity.text() == line.quantity.text():
            continue
        amount = f"{new:g} yolks" if line.quantity.counts else quantity.text()
        lines[place] = replace(line, quantity=quantity, amount=amount)
    return replace(formula, lines=tuple(lines))


def _yolks_for(formula: Formula, conditions: Conditions, wanted_c: float) -> float | None:
    """How many times its yolk makes it coat at a temperature [degC]; None where that is no amount of yolk."""

    def over(factor: float) -> float:
        return assess(formula.with_yolks_times(factor), conditions).stop.at_c - wanted_c

    low, high = LEAST_YOLKS, MOST_YOLKS
    if over(low) * over(high) > 0:
        return None
    rises = over(high) > over(low)
    for _ in range(STEPS):
        middle = (low + high) / 2
        if (over(middle) > 0) == rises:
            high = middle
        else:
            low = middle
    return (low + high) / 2
