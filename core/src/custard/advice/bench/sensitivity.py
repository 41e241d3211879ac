"""What changes if: one step of each handle, and what it does to nappe, coat and curdling."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from functools import partial

from custard.advice.bench.handles import carrier_g, handle_values, turned
from custard.advice.mix.assess import Assessment, assess
from custard.advice.mix.texture import texture_at
from custard.figures import Kelvin, Millimetres, Percent
from custard.formula import Formula
from custard.larder.eggs import all_sizes
from custard.larder.ingredients import ingredient
from custard.larder.vessels import one_of
from custard.process.heating.state import State, on_ramp
from custard.quantities import Quantity
from custard.vocabulary import Coat

SUGAR_STEP, STARCH_STEP, CREAM_STEP = 2.0, 1.0, 10.0
"""About one step of a handle, in its own unit: percent of the milk."""
STARCHES: tuple[str, ...] = (
    "cornstarch",
    "custard-powder",
    "wheat-flour",
    "rice-flour",
    "potato-starch",
    "tapioca-starch",
)
LEAST_PA = 1e-3


@dataclass(frozen=True)
class Sensitivity:
    """What one step does, everything else left as it is.

    Attributes
    ----------
    handle : the handle turned; `step` says by how much, in words.
    nappe_k : shift of the nappe temperature [K]; None when one of the two never coats.
    coat_mm : change of the coat at this formula's stop [mm].
    firmer_percent : change of the yield stress there [%], for what stands by itself and coats nothing.
    curdles_k : shift of the curdling temperature [K]; None when one of the two does not curdle.
    word : the consistency at the stop after the step.
    """

    handle: str
    step: str
    nappe_k: Kelvin | None
    coat_mm: Millimetres
    firmer_percent: Percent
    curdles_k: Kelvin | None
    word: Coat


def sensitivities(result: Assessment) -> tuple[Sensitivity, ...]:
    """One step up of every handle the formula has, and the next egg size.

    Parameters
    ----------
    result : an assessed formula.
    """
    formula = result.formula
    values = handle_values(formula)
    found = []
    for handle, step, change in _steps(formula, values):
        after = assess(change(), result.conditions)
        found.append(_compared(handle, step, result, after))
    return tuple(found)


def _steps(formula: Formula, values: Mapping[str, float]) -> list[tuple[str, str, Callable[[], Formula]]]:
    steps: list[tuple[str, str, Callable[[], Formula]]] = []
    carrier = carrier_g(formula)
    if values["yolk"] > 0:
        more = (formula.yolks() + 1) / formula.yolks()
        steps.append(("yolk", "one yolk more", partial(turned, formula, {"yolk": values["yolk"] * more})))
    for name, step in (("sugar", SUGAR_STEP), ("starch", STARCH_STEP)):
        grams = _round(step / 100 * carrier)
        words = f"{grams:g} g more"
        raised = {name: values[name] + 100 * grams / carrier}
        steps.append((name, words, partial(turned, formula, raised)))
    if "cream" in values:
        sign = -1 if values["cream"] + CREAM_STEP > 100 else 1
        words = f"{CREAM_STEP:.0f} % more cream" if sign > 0 else f"{CREAM_STEP:.0f} % less cream"
        poured = {"cream": values["cream"] + sign * CREAM_STEP}
        steps.append(("cream", words, partial(turned, formula, poured)))
    sizes = list(all_sizes())
    kin = [size for size in sizes if size.split("-")[0] == formula.eggs.split("-")[0]]
    place = kin.index(formula.eggs)
    if place + 1 < len(kin) and any(line.ingredient.piece for line in formula.lines):
        larger = kin[place + 1]
        steps.append(("eggs", f"eggs {larger}", partial(replace, formula, eggs=larger)))
    return steps


def _round(grams: float) -> float:
    """The nearest of 1, 2, 5, 10, 20, 50 … grams: a step one would weigh."""
    power = 10.0 ** math.floor(math.log10(max(grams, 0.1)))
    return min((power * m for m in (1, 2, 5, 10)), key=lambda step: abs(math.log(step / max(grams, 0.1))))


def _compared(handle: str, step: str, before: Assessment, after: Assessment) -> Sensitivity:
    p = after.conditions.parameters
    state = after.stop if before.stop.boiled and after.stop.boiled else _at(after, before.stop.at_c)
    hot = texture_at(after.pan, state, state.at_c, min(p.spoon.spoon_c, state.at_c), p)
    return Sensitivity(
        handle=handle,
        step=step,
        nappe_k=_difference(before.window.nappe_c, after.window.nappe_c),
        coat_mm=hot.film_mm - before.hot.film_mm,
        firmer_percent=100 * (hot.yield_stress_pa / max(before.hot.yield_stress_pa, LEAST_PA) - 1),
        curdles_k=_difference(before.window.curdles_c, after.window.curdles_c),
        word=hot.word,
    )


def _at(result: Assessment, at_c: float) -> State:
    at_c = min(at_c, result.boiling_c)
    return on_ramp(result.pan, result.course(), at_c, result.conditions.parameters)


def _difference(before: float | None, after: float | None) -> float | None:
    return None if before is None or after is None else after - before


def with_starch_kind(formula: Formula, kind: str) -> Formula:
    """The formula with all its starches and flours replaced by one kind, for as much dry starch.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    kind : the id of a starch or flour.

    Raises
    ------
    UnknownName
        when it is not one of `STARCHES`.
    """
    one_of("kind", kind, STARCHES)
    new = ingredient(kind)
    lines = []
    for line, grams in zip(formula.lines, formula.weights_g(), strict=True):
        if line.ingredient.group != "starch" or line.ingredient.id == kind:
            lines.append(line)
            continue
        dry = grams * line.ingredient.composition["starch"] / new.composition["starch"]
        quantity = Quantity(round(dry, 1), "g")
        lines.append(replace(line, ingredient=new, quantity=quantity, amount=quantity.text()))
    return replace(formula, lines=tuple(lines))
