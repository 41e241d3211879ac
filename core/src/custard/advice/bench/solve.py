"""Inverse questions: the mix that does what is wanted, line by line, or the nearest that can."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from custard.advice.bench.compare import changed_lines
from custard.advice.bench.search import Search, always
from custard.advice.mix.assess import Assessment, assess
from custard.advice.mix.texture import yield_stress
from custard.conditions import USUAL, Conditions
from custard.errors import Impossible, OutOfRange
from custard.formula import Formula, Line
from custard.larder.ingredients import ingredient
from custard.physics.texture import word
from custard.process.heating import ramp
from custard.process.heating.state import State, on_ramp
from custard.quantities import Quantity

WELL_SET = 0.8
"""Thickened degree a sauce is taken to when it is asked to be as thick as it can be."""
HOT_C = 40.0
SUGAR = "white-sugar"
ALL_SUGAR_PERCENT = 95.0
"""A line of so much sucrose is sugar, whatever it is called."""
LEAST_LINE_G = 0.5
"""Less than this is no line."""


@dataclass(frozen=True)
class Solution:
    """A changed formula, what was changed, and what it now does; temperatures in words as "{82.4 C}".

    What is cooked on past its stop, as thick as it can be clear of curdling, is told with both. When there
    was no time to look further it is the best so far, and `reached` says so. `binds` says which limit stopped
    it from going further one way; "" when none did. `lift_c` is where it is lifted [degC] when that alone is
    the answer and nothing is weighed differently; else None.
    """

    formula: Formula
    changes: tuple[str, ...]
    reached: str
    binds: str = ""
    lift_c: float | None = None


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


def texture_pa(result: Assessment, at_c: float, taken: State | None = None) -> float:
    """Yield stress [Pa] of the sauce as served at a temperature [degC]: as it was taken, else well cooked."""
    state = taken or well_cooked(result)
    mixture = result.pan if at_c >= HOT_C else result.whole
    return yield_stress(mixture, state, min(at_c, state.at_c), result.conditions.parameters)


def swap_dairy(
    formula: Formula,
    to: str,
    at_c: float = 4.0,
    conditions: Conditions = USUAL,
    go_on: Callable[[], bool] = always,
) -> Solution:
    """All milk and cream replaced by one, yolk adjusted so that the texture stays; `go_on` as above.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    to : the id of the milk or cream that takes their place.
    at_c : temperature at which it is looked at [degC], 0 to 100.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    go_on : asked now and then; once it says no, what was found so far is the answer. None for no limit.

    Raises
    ------
    Impossible
        when no amount of yolk makes up for it.
    """
    formula = formula.under(conditions)
    must_have_yolk(formula, "dairy")
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
    # What the new one brings in sugar, as condensed milk does, comes out of the sugar lines.
    swapped = replace(formula, lines=lines)
    swapped, over_g = with_more_sugar(swapped, _milk_sucrose_g(formula) - _milk_sucrose_g(swapped))
    search = Search(go_on)
    times = search.where(lambda factor: stress(swapped.with_yolks_times(factor)), goal, 0.3, 3.0)
    found = swapped.with_yolks_times(times)
    told = sweeter(solution(formula, found, at_c, conditions, search), over_g)
    if not close(stress(found), goal) and not search.cut_short:
        raise OutOfReach.by("dairy", to, "does not give the same thickness", told)
    return told


def swap_chocolate(formula: Formula, to: str, conditions: Conditions = USUAL) -> Solution:
    """Chocolate replaced by another with as much cocoa, and the sugar lines adjusted for the rest.

    Where they cannot give up as much as the new one brings, they go down to nothing, and it says by how much
    it is sweeter.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    to : the id of the chocolate that takes its place.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.

    Raises
    ------
    Impossible
        when there is no chocolate.
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
    evened, over_g = with_more_sugar(changed, sugar)
    return sweeter(solution(formula, evened, 4.0, conditions), over_g)


def _milk_sucrose_g(formula: Formula) -> float:
    """Sugar that its milk and cream bring [g]; lactose is not counted."""
    pairs = zip(formula.lines, formula.weights_g(), strict=True)
    return sum(
        g * line.ingredient.composition["sucrose"] / 100 for line, g in pairs if line.ingredient.is_milk
    )


def with_more_sugar(formula: Formula, grams: float) -> tuple[Formula, float]:
    """The formula with so much more sugar, or less, on its lines of sugar [g].

    Returns
    -------
    the formula; and the sugar that is too much all the same, as no more could be taken out [g]
    """
    if grams >= 0:
        return _with_more(formula, SUGAR, grams), 0.0
    lines, left = [], -grams
    for line, there in zip(formula.lines, formula.weights_g(), strict=True):
        if left <= 0 or line.ingredient.composition["sucrose"] < ALL_SUGAR_PERCENT:
            lines.append(line)
            continue
        out = min(there, left)
        left -= out
        if there - out > LEAST_LINE_G:
            quantity = Quantity(there - out, "g")
            lines.append(replace(line, quantity=quantity, amount=quantity.text()))
    return replace(formula, lines=tuple(lines)), max(0.0, left)


def sweeter(found: Solution, over_g: float) -> Solution:
    """A solution that says by how much it is sweeter than before."""
    if over_g < LEAST_LINE_G:
        return found
    all_g = found.formula.mass_g()
    share = f"{over_g:.0f} g more sugar in it than before, {100 * over_g / all_g:.1f} % of the whole"
    return replace(found, reached=f"{found.reached}; sweeter: {share}")


def with_missing_yolks(
    formula: Formula,
    have: float,
    at_c: float = 60.0,
    conditions: Conditions = USUAL,
    go_on: Callable[[], bool] = always,
) -> tuple[Solution, Solution]:
    """Two ways on with fewer yolks: a smaller batch, or starch for what is missing; `go_on` as above.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    have : yolks at hand [1].
    at_c : temperature at which it is looked at [degC], 0 to 100.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    go_on : asked now and then; once it says no, what was found so far is the answer. None for no limit.
    """
    formula = formula.under(conditions)
    must_have_yolk(formula, "yolks_in_hand")
    if not 0 < have <= formula.yolks():
        raise OutOfRange("yolks_in_hand", have, f"must be more than 0 and at most {formula.yolks():g}")

    def stress(changed: Formula) -> float:
        return texture_pa(assess(changed, conditions), at_c)

    fewer = formula.with_yolks_times(have / formula.yolks())
    most_g = 0.05 * formula.mass_g()
    search = Search(go_on)
    grams = search.where(lambda g: stress(with_starch(fewer, g)), stress(formula), 0.01, most_g)
    smaller = solution(formula, formula.for_yolks(have), at_c, conditions)
    return smaller, solution(formula, with_starch(fewer, grams), at_c, conditions, search)


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


def close(reached: float, goal: float) -> bool:
    """Whether a yield stress is what was wanted, to a twentieth."""
    return abs(reached - goal) <= 0.05 * goal


def _pascals(stress: float) -> str:
    """Of low confidence: about, and to two figures at most."""
    return f"about {float(f'{stress:.2g}'):g} Pa"


def in_words(result: Assessment, at_c: float, taken: State | None = None) -> str:
    """What a mix is at a serving temperature [degC], well cooked unless it is said how far."""
    taken = taken or well_cooked(result)
    stress = texture_pa(result, at_c, taken)
    stop = f"{{{result.stop.at_c:.1f} C}}"
    further = f"cooked on to {{{taken.at_c:.1f} C}}, past its stop at {stop}"
    to = f"stopped at {stop}" if taken == result.stop else further
    return (
        f"{word(stress)}, {_pascals(stress)} at {{{at_c:g} C}}, with {result.formula.yolks():.1f} yolks, {to}"
    )


def solution(
    before: Formula, after: Formula, at_c: float, conditions: Conditions, search: Search | None = None
) -> Solution:
    """A changed formula, told: what was changed, and what it now does at a temperature [degC]."""
    reached = in_words(assess(after, conditions), at_c)
    if search is not None and search.cut_short:
        reached = f"the best so far, as there was no time to look further: {reached}"
    return Solution(after, changed_lines(before, after), reached)


def must_have_yolk(formula: Formula, field: str) -> None:
    """Refuse a formula without yolk.

    Raises
    ------
    Impossible
        naming the field that asks for it.
    """
    if formula.yolks() <= 0:
        raise Impossible(field, formula.name, "has no yolk to adjust", "Add a yolk line first.")
