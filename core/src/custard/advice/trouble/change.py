"""What of a formula to change next time, so that a cause is kept away."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Literal

from custard.advice.bench.schools import question_name, school_name
from custard.advice.bench.search import Search
from custard.advice.mix.assess import Assessment, assess
from custard.advice.mix.churning import FREEZES_SHARE, draws_share
from custard.advice.trouble.faults import CauseText
from custard.errors import UnknownName, within
from custard.figures import Grams
from custard.formula import MAX_TOTAL_G, Formula, Line
from custard.larder.ingredients import ingredient
from custard.physics.texture import NAPPE_PA
from custard.process.cooling.chocolate import milk_to_shine_g
from custard.quantities import Quantity

MOST_TIMES = 4.0
LEAST_G = 0.1
NEARLY = 0.01
"""So near its goal a search counts as there."""


@dataclass(frozen=True)
class Change:
    """What of the formula to change next time: a line, from what to what [g], or a school of cooks.

    Attributes
    ----------
    kind : what is changed.
    say : the change in words.
    ingredient, from_g, to_g : for a line.
    question, answer : for a school.
    """

    kind: Literal["line", "school"]
    say: str
    ingredient: str = ""
    from_g: Grams = 0.0
    to_g: Grams = 0.0
    question: str = ""
    answer: str = ""


def change(result: Assessment, cause: CauseText) -> Change | None:
    """What of this formula would keep such a cause away; None where the formula is not to blame."""
    if cause.school is not None:
        question, chosen = cause.school
        say = f"{question_name(question)}: {school_name(question, chosen)}"
        return Change("school", say, question=question, answer=chosen)
    if cause.change not in _CHANGES:
        return None
    return _CHANGES[cause.change](result)


def _line_g(formula: Formula, name: str) -> float:
    rows = zip(formula.lines, formula.weights_g(), strict=True)
    return sum(g for line, g in rows if line.ingredient.id == name)


def _line(formula: Formula, name: str, to_g: float) -> Change | None:
    from_g = _line_g(formula, name)
    if abs(to_g - from_g) < 0.05:
        return None
    word = ingredient(name).name
    say = (
        f"{word}: {{{to_g:.0f} g}} instead of {{{from_g:.0f} g}}" if from_g else f"{{{to_g:.0f} g}} of {word}"
    )
    return Change("line", say, ingredient=name, from_g=from_g, to_g=to_g)


def changed(formula: Formula, to: Change) -> Formula:
    """A formula with one of its lines as it is to be; what was not in it joins as is usual.

    Of several lines of one thing each is changed in proportion.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    to : the change.

    Raises
    ------
    CustardError
        when there is no such line, or it cannot be so much.
    """
    within("change.to_g", to.to_g, LEAST_G, MAX_TOTAL_G)
    within("change.from_g", to.from_g, 0, MAX_TOTAL_G)
    if to.from_g and not _line_g(formula, to.ingredient):
        raise UnknownName("change.ingredient", to.ingredient, "is in no line of the formula")
    factor = to.to_g / to.from_g if to.from_g else 0.0
    lines = []
    for line, g in zip(formula.lines, formula.weights_g(), strict=True):
        if line.ingredient.id == to.ingredient:
            quantity = Quantity(round(factor * g, 1), "g")
            lines.append(replace(line, quantity=quantity, amount=quantity.text()))
        else:
            lines.append(line)
    if not to.from_g:
        quantity = Quantity(round(to.to_g, 1), "g")
        lines.append(Line(ingredient(to.ingredient), quantity.text(), quantity))
    found = replace(formula, lines=tuple(line for line in lines if line.quantity.number > 0))
    found.weights_g()
    return found


def _more_yolk(result: Assessment) -> Change | None:
    """So much yolk that it coats, or mounts, or holds its water."""
    formula = result.formula
    if formula.yolks() <= 0:
        return None

    def good(factor: float) -> float:
        found = assess(formula.with_yolks_times(factor), result.conditions)
        if result.way.foams:
            return found.hot.yield_stress_pa - NAPPE_PA * 1.1
        if result.family.churned:
            return 0.70 - float(found.whole.fractions["water"])
        return found.hot.yield_stress_pa - NAPPE_PA * 1.2

    factor = Search().where(good, 0.0, 1.0, MOST_TIMES)
    if good(factor) < -NEARLY:
        return None
    return _line(formula, "egg-yolk", factor * _line_g(formula, "egg-yolk"))


def _less_flour(result: Assessment) -> Change | None:
    """A half of the flour, so that maize starch can take its place."""
    return _line(result.formula, "wheat-flour", 0.5 * _line_g(result.formula, "wheat-flour"))


def _more_milk(result: Assessment) -> Change | None:
    """So much more milk that its chocolate shines."""
    more = milk_to_shine_g(result.whole, result.conditions.parameters)
    return _line(result.formula, "whole-milk", _line_g(result.formula, "whole-milk") + more)


def _less_sugar(result: Assessment) -> Change | None:
    """So much less sugar that it freezes in a churn."""
    formula, g = result.formula, _line_g(result.formula, "white-sugar")
    if g <= 0:
        return None

    def freezes(kept: float) -> float:
        to = Change("line", "", "white-sugar", g, max(0.1, (1 - kept) * g))
        return draws_share(assess(changed(formula, to), result.conditions).whole, 4.0, 24.0) - FREEZES_SHARE

    return _line(formula, "white-sugar", (1 - Search().where(freezes, 0.0, 0.0, 0.9)) * g)


def _more_egg(result: Assessment) -> Change | None:
    """So much more egg that a cup of it sets."""
    formula = result.formula
    name = "whole-egg" if _line_g(formula, "whole-egg") else "egg-yolk"
    g = _line_g(formula, name)
    if g <= 0:
        return None

    def sets(factor: float) -> float:
        found = assess(changed(formula, Change("line", "", name, g, factor * g)), result.conditions)
        return found.hot.yield_stress_pa

    return _line(formula, name, Search().where(sets, result.family.target_pa, 1.0, MOST_TIMES) * g)


_CHANGES: Mapping[str, Callable[[Assessment], Change | None]] = {
    "yolk": _more_yolk,
    "flour": _less_flour,
    "milk": _more_milk,
    "sugar": _less_sugar,
    "egg": _more_egg,
}
