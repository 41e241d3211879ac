"""The handles a cook turns on a mix: yolk, sugar, starch, and how much of the dairy is cream.

Each is stated against the milk and cream of the formula, as cooks compare recipes. A handle's value may be
an array: the weights that come of it are then a whole map of mixes.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from custard.errors import Impossible, OutOfRange
from custard.formula import Formula, Line
from custard.larder.ingredients import MILK_KG_L, Ingredient, ingredient
from custard.physics.real import Real
from custard.quantities import Quantity

CREAM_FAT_PERCENT = 10.0
"""Dairy with more fat than this is cream."""
LEAST_G = 0.05
"""Less than this of something is not weighed out."""


@dataclass(frozen=True)
class Handle:
    """One handle: its unit, how far it turns, and the ingredient that joins when the formula has none."""

    name: str
    unit: str
    low: float
    high: float
    adds: str


HANDLES: Mapping[str, Handle] = {
    handle.name: handle
    for handle in (
        Handle("yolk", "g a litre", 20.0, 320.0, "egg-yolk"),
        Handle("sugar", "% of the milk", 0.0, 60.0, "white-sugar"),
        Handle("starch", "% of the milk", 0.0, 10.0, "cornstarch"),
        Handle("cream", "% of the milk", 0.0, 100.0, "whipping-cream-36"),
    )
}


def _milk(thing: Ingredient) -> bool:
    return thing.is_milk and thing.composition["sucrose"] == 0


def _belongs(line: Line, name: str) -> bool:
    thing = line.ingredient
    if not line.join.heated:
        return False
    if name == "yolk":
        return thing.id == "egg-yolk"
    if name == "cream":
        return _milk(thing) and thing.composition["fat"] > CREAM_FAT_PERCENT
    return thing.group == name


def carrier_g(formula: Formula) -> float:
    """What the handles are stated against [g]: milk and cream, else the other liquids, else everything."""
    pairs = list(zip(formula.lines, formula.weights_g(), strict=True))
    liquid = sum(
        g
        for line, g in pairs
        if line.ingredient.form == "liquid" and line.ingredient.group not in ("egg", "sugar")
    )
    return formula.dairy_g() or liquid or sum(g for _, g in pairs)


def _milk_g(formula: Formula) -> float:
    pairs = zip(formula.lines, formula.weights_g(), strict=True)
    return sum(g for line, g in pairs if line.join.heated and _milk(line.ingredient))


def handle_values(formula: Formula) -> dict[str, float]:
    """Where each handle stands, in its unit; cream is left out of a formula without milk or cream.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    """
    pairs = list(zip(formula.lines, formula.weights_g(), strict=True))
    carrier = carrier_g(formula)

    def grams(name: str) -> float:
        return sum(g for line, g in pairs if _belongs(line, name))

    values = {
        "yolk": 1000 * MILK_KG_L * grams("yolk") / carrier,
        "sugar": 100 * grams("sugar") / carrier,
        "starch": 100 * grams("starch") / carrier,
    }
    milk = _milk_g(formula)
    if milk > 0:
        values["cream"] = 100 * grams("cream") / milk
    return values


def handle_g(formula: Formula, name: str, value: Real) -> Real:
    """What a handle at `value` weighs in this formula [g]: the yolk, sugar, starch or cream in all."""
    if name == "cream":
        return _milk_g(formula) * value / 100
    per = 1000 * MILK_KG_L if name == "yolk" else 100.0
    return value / per * carrier_g(formula)


def weighed(formula: Formula, values: Mapping[str, Real]) -> list[tuple[Line, Real]]:
    """Every line with its grams once the handles stand at `values`; a line joins where one is needed.

    Raises
    ------
    OutOfRange, Impossible
        when there is no such handle, or the formula has nothing to turn it on.
    """
    found: list[tuple[Line, Real]] = list(zip(formula.lines, formula.weights_g(), strict=True))
    for name, value in values.items():
        if name not in HANDLES:
            raise OutOfRange("handle", name, f"must be one of {', '.join(HANDLES)}")
        if not np.all(np.isfinite(value) & (np.asarray(value) >= 0)):
            raise OutOfRange(name, value, "must be a number from 0")
        if name == "cream":
            found = _with_cream(formula, found, value)
        else:
            found = _with_amount(found, name, handle_g(formula, name, value))
    return found


def _with_amount(found: list[tuple[Line, Real]], name: str, grams: Real) -> list[tuple[Line, Real]]:
    now = sum(g for line, g in found if _belongs(line, name))
    if np.all(now > 0):
        return [(line, g * grams / now if _belongs(line, name) else g) for line, g in found]
    return [*found, (_line(HANDLES[name].adds), grams)]


def _with_cream(formula: Formula, found: list[tuple[Line, Real]], percent: Real) -> list[tuple[Line, Real]]:
    turned = [line.join.heated and _milk(line.ingredient) for line, _ in found]
    total = sum(g for (_, g), yes in zip(found, turned, strict=True) if yes)
    if not np.all(total > 0):
        raise Impossible("cream", formula.name, "has no milk or cream to turn", "Add a milk line first.")
    cream = sum(g for line, g in found if _belongs(line, "cream"))
    milk = total - cream
    wanted = np.minimum(percent, 100.0) / 100 * total
    if not np.all(cream > 0):
        found, turned = [*found, (_line("whipping-cream-36"), 0.0 * wanted)], [*turned, True]
    if not np.all(milk > 0):
        found, turned = [*found, (_line("whole-milk"), 0.0 * wanted)], [*turned, True]
    creams = sum(yes and _belongs(line, "cream") for (line, _), yes in zip(found, turned, strict=True))
    milks = sum(turned) - creams

    def share(line: Line, grams: Real) -> Real:
        rich = _belongs(line, "cream")
        whole, part, lines = (wanted, cream, creams) if rich else (total - wanted, milk, milks)
        return whole * (grams / part if np.all(part > 0) else 1 / lines)

    return [(line, share(line, g) if yes else g) for (line, g), yes in zip(found, turned, strict=True)]


def _line(name: str) -> Line:
    return Line(ingredient(name), "1 g", Quantity(1.0, "g"))


def turned(formula: Formula, values: Mapping[str, float]) -> Formula:
    """The formula with its handles at `values`; what was not turned keeps the amount as it was written.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    values : where each handle is to stand, in its unit.
    """
    before = formula.weights_g()
    lines = []
    for i, (line, grams) in enumerate(weighed(formula, values)):
        if i < len(before) and abs(grams - before[i]) <= 1e-6 * max(1.0, before[i]):
            lines.append(line)
        elif grams > LEAST_G:
            quantity = Quantity(round(float(grams), 1), "g")
            lines.append(replace(line, quantity=quantity, amount=quantity.text()))
    return replace(formula, lines=tuple(lines))
