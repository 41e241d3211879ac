"""Inverse questions: the mix that does what is wanted, line by line, or the nearest that can."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from custard.advice.bench.compare import changed_lines
from custard.advice.bench.limits import Limits
from custard.advice.bench.search import Search, always
from custard.advice.mix.assess import Assessment, assess
from custard.advice.mix.texture import yield_stress
from custard.conditions import USUAL, Conditions
from custard.errors import Impossible, OutOfRange, within
from custard.formula import Formula, Line
from custard.larder.ingredients import ingredient
from custard.physics.texture import word
from custard.process import ramp
from custard.process.state import State, on_ramp
from custard.quantities import Quantity

WELL_SET = 0.8
"""Thickened degree a sauce is taken to when it is asked to be as thick as it can be."""
HOT_C = 40.0
LEAST_TIMES, MOST_TIMES = 0.15, 6.0
"""How far the yolk is changed."""
ROUNDS = 40
A_LITTLE_MORE = 0.02
"""So much of the way further a limit is surely passed that bound."""
MOST_STARCH_SHARE = 0.09
TARGETS: dict[str, float] = {
    "thin coat": 0.9,
    "nappe": 3.0,
    "heavy coat": 11.0,
    "spoonable": 35.0,
    "pipeable": 120.0,
}
"""Yield stress [Pa] aimed at for each word."""


@dataclass(frozen=True)
class Solution:
    """A changed formula, what was changed, and what it now does; temperatures in words as "{82.4 C}".

    What is cooked on past its stop, as thick as it can be clear of curdling, is told with both. When there
    was no time to look further it is the best so far, and `reached` says so. `binds` says which limit stopped
    it from going further one way; "" when none did.
    """

    formula: Formula
    changes: tuple[str, ...]
    reached: str
    binds: str = ""


class OutOfReach(Impossible):
    """What is wanted cannot be had; `nearest` is the solution that comes nearest, whole."""

    nearest: Solution

    @classmethod
    def by(cls, field: str, value: object, limit: str, nearest: Solution) -> OutOfReach:
        """The refusal, with what comes nearest."""
        refusal = cls(field, value, limit, f"The nearest is {nearest.reached}.")
        refusal.nearest = nearest
        return refusal


def well_cooked(result: Assessment) -> State:
    """The mix taken as far as serves it: its stop where it boils or sets undisturbed, else well thickened.

    A sauce that is stirred is usually stopped where it coats; one that is to be as thick as it can be is
    taken further, clear of curdling.
    """
    if result.stop.boiled or result.way.undisturbed:
        return result.stop
    p, course = result.conditions.parameters, result.course()
    limit = (result.window.curdles_c or result.boiling_c) - p.cook.curdle_margin_k
    enough = ramp.first_reach(course.temperature_c, course.thickened, WELL_SET)
    taken_c = max(result.stop.at_c, min(limit, limit if enough is None else enough))
    return on_ramp(result.pan, course, taken_c, p)


def texture_pa(result: Assessment, at_c: float) -> float:
    """Yield stress [Pa] of the well-cooked sauce at a serving temperature [degC]."""
    state = well_cooked(result)
    mixture = result.pan if at_c >= HOT_C else result.whole
    return yield_stress(mixture, state, min(at_c, state.at_c), result.conditions.parameters)


def for_texture(
    formula: Formula,
    wanted: str,
    at_c: float,
    limits: Limits | None = None,
    conditions: Conditions = USUAL,
    go_on: Callable[[], bool] = always,
) -> Solution:
    """Change yolk, then starch, until the sauce is as wanted at a serving temperature [degC].

    Yolk goes as far as the limits let it; starch does the rest, unless that is limited too. Once `go_on` says
    no, the best so far is taken.

    Raises
    ------
    Impossible
        when no amount within the limits does it; says the nearest that can be had.
    """
    if wanted not in TARGETS:
        raise OutOfRange("texture", wanted, f"must be one of {', '.join(TARGETS)}")
    within("at_c", at_c, -2, 95)
    formula = formula.under(conditions)
    _must_have_yolk(formula, "texture")
    goal, kept = TARGETS[wanted], limits or Limits()

    def yolked(factor: float) -> Formula:
        return formula.with_yolks_times(factor)

    def starched(grams: float) -> Formula:
        return with_starch(yolked(most), grams)

    def stress(changed: Formula) -> float:
        return texture_pa(assess(changed, conditions), at_c)

    search, binds = Search(go_on), ""
    most = _furthest(yolked, LEAST_TIMES, MOST_TIMES, kept)
    found = yolked(search.where(lambda factor: stress(yolked(factor)), goal, LEAST_TIMES, most))
    if not _close(stress(found), goal) and stress(found) < goal and not search.cut_short:
        binds = _bound(yolked, most, MOST_TIMES, kept)
        all_g = MOST_STARCH_SHARE * formula.mass_g()
        most_g = _furthest(starched, 0.0, all_g, kept)
        found = starched(search.where(lambda grams: stress(starched(grams)), goal, 0.0, most_g))
        if not _close(stress(found), goal):
            binds = _bound(starched, most_g, all_g, kept) or binds
    solution = replace(_solution(formula, found, at_c, conditions, search), binds=binds)
    if not _close(stress(found), goal) and not search.cut_short:
        thinner = stress(found) > goal
        limit = "is thinner than this mix can be made" if thinner else "needs more than the limits allow"
        raise OutOfReach.by("texture", wanted, limit, solution)
    return solution


def _bound(changed: Callable[[float], Formula], most: float, wished: float, limits: Limits) -> str:
    """Which limit does not let something go further than `most`; "" when it went as far as is ever looked."""
    if most >= wished:
        return ""
    broken = limits.broken_by(changed(most + A_LITTLE_MORE * (wished - most)))
    return "" if broken is None else broken.bound


def _furthest(changed: Callable[[float], Formula], low: float, high: float, limits: Limits) -> float:
    """The most of something that keeps the limits, which it must at the least of it.

    Raises
    ------
    Impossible
        when even the least passes one of them.
    """
    if limits.broken_by(changed(high)) is None:
        return high
    broken = limits.broken_by(changed(low))
    if broken is not None:
        raise broken
    for _ in range(ROUNDS):
        middle = (low + high) / 2
        low, high = (middle, high) if limits.broken_by(changed(middle)) is None else (low, middle)
    return low


def swap_dairy(
    formula: Formula,
    to: str,
    at_c: float = 4.0,
    conditions: Conditions = USUAL,
    go_on: Callable[[], bool] = always,
) -> Solution:
    """All milk and cream replaced by one, yolk adjusted so that the texture stays; `go_on` as above.

    Raises
    ------
    Impossible
        when no amount of yolk makes up for it.
    """
    formula = formula.under(conditions)
    _must_have_yolk(formula, "dairy")
    other = ingredient(to)
    if not other.is_milk:
        raise OutOfRange("dairy", to, "is not a milk or cream")

    def stress(changed: Formula) -> float:
        return texture_pa(assess(changed, conditions), at_c)

    goal = stress(formula)
    lines = tuple(
        replace(line, ingredient=other, quantity=Quantity(g, "g"), amount=Quantity(g, "g").text())
        if line.ingredient.is_milk and line.join.heated
        else line
        for line, g in zip(formula.lines, formula.weights_g(), strict=True)
    )
    swapped = replace(formula, lines=lines)
    search = Search(go_on)
    times = search.where(lambda factor: stress(swapped.with_yolks_times(factor)), goal, 0.3, 3.0)
    found = swapped.with_yolks_times(times)
    solution = _solution(formula, found, at_c, conditions, search)
    if not _close(stress(found), goal) and not search.cut_short:
        raise OutOfReach.by("dairy", to, "does not give the same thickness", solution)
    return solution


def swap_chocolate(formula: Formula, to: str, conditions: Conditions = USUAL) -> Solution:
    """Chocolate replaced by another with as much cocoa, and the sugar line adjusted for the rest.

    Raises
    ------
    Impossible
        when there is no chocolate, or the sugar line cannot give what the new one brings.
    """
    formula = formula.under(conditions)
    new = ingredient(to)
    cocoa_new = new.composition["cocoa_solids"] + new.composition["cocoa_butter"]
    if new.group != "chocolate" or cocoa_new <= 0:
        raise OutOfRange("chocolate", to, "is not a chocolate")
    sugar = 0.0
    lines = []
    for line, g in zip(formula.lines, formula.weights_g(), strict=True):
        old = line.ingredient
        cocoa_old = old.composition["cocoa_solids"] + old.composition["cocoa_butter"]
        if old.group == "chocolate":
            grams = g * cocoa_old / cocoa_new
            sugar += (g * old.composition["sucrose"] - grams * new.composition["sucrose"]) / 100
            quantity = Quantity(grams, "g")
            lines.append(replace(line, ingredient=new, quantity=quantity, amount=quantity.text()))
        else:
            lines.append(line)
    if all(line.ingredient.group != "chocolate" for line in formula.lines):
        raise Impossible("chocolate", to, "has nothing to replace", "The formula has no chocolate.")
    changed = replace(formula, lines=tuple(lines))
    return _solution(formula, _with_more(changed, "white-sugar", sugar), 4.0, conditions)


def with_missing_yolks(
    formula: Formula,
    have: float,
    at_c: float = 60.0,
    conditions: Conditions = USUAL,
    go_on: Callable[[], bool] = always,
) -> tuple[Solution, Solution]:
    """Two ways on with fewer yolks: a smaller batch, or starch for what is missing; `go_on` as above."""
    formula = formula.under(conditions)
    _must_have_yolk(formula, "yolks_in_hand")
    if not 0 < have <= formula.yolks():
        raise OutOfRange("yolks_in_hand", have, f"must be more than 0 and at most {formula.yolks():g}")

    def stress(changed: Formula) -> float:
        return texture_pa(assess(changed, conditions), at_c)

    fewer = formula.with_yolks_times(have / formula.yolks())
    most_g = 0.05 * formula.mass_g()
    search = Search(go_on)
    grams = search.where(lambda g: stress(with_starch(fewer, g)), stress(formula), 0.01, most_g)
    smaller = _solution(formula, formula.for_yolks(have), at_c, conditions)
    return smaller, _solution(formula, with_starch(fewer, grams), at_c, conditions, search)


def with_starch(formula: Formula, grams: float) -> Formula:
    """The formula with that much more cornstarch [g]."""
    return _with_more(formula, "cornstarch", grams)


def _with_more(formula: Formula, name: str, grams: float) -> Formula:
    weights = formula.weights_g()
    for i, line in enumerate(formula.lines):
        if line.ingredient.id == name:
            total = weights[i] + grams
            if total <= 0:
                raise Impossible(
                    name, f"{grams:.0f} g", "cannot be taken out", "There is not that much in it."
                )
            quantity = Quantity(total, "g")
            changed = replace(line, quantity=quantity, amount=quantity.text())
            return replace(formula, lines=(*formula.lines[:i], changed, *formula.lines[i + 1 :]))
    if grams <= 0:
        return formula
    quantity = Quantity(grams, "g")
    return replace(formula, lines=(*formula.lines, Line(ingredient(name), quantity.text(), quantity)))


def _close(reached: float, goal: float) -> bool:
    return abs(reached - goal) <= 0.05 * goal


def _pascals(stress: float) -> str:
    """Of low confidence: about, and to two figures at most."""
    return f"about {float(f'{stress:.2g}'):g} Pa"


def _in_words(formula: Formula, at_c: float, conditions: Conditions) -> str:
    result = assess(formula, conditions)
    stress = texture_pa(result, at_c)
    taken = well_cooked(result)
    stop = f"{{{result.stop.at_c:.1f} C}}"
    further = f"cooked on to {{{taken.at_c:.1f} C}}, past its stop at {stop}"
    to = f"stopped at {stop}" if taken == result.stop else further
    return (
        f"{word(stress)}, {_pascals(stress)} at {{{at_c:g} C}}, with {result.formula.yolks():.1f} yolks, {to}"
    )


def _solution(
    before: Formula, after: Formula, at_c: float, conditions: Conditions, search: Search | None = None
) -> Solution:
    reached = _in_words(after, at_c, conditions)
    if search is not None and search.cut_short:
        reached = f"the best so far, as there was no time to look further: {reached}"
    return Solution(after, changed_lines(before, after), reached)


def _must_have_yolk(formula: Formula, field: str) -> None:
    if formula.yolks() <= 0:
        raise Impossible(field, formula.name, "has no yolk to adjust", "Add a yolk line first.")
