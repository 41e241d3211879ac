"""Grams told back in kitchen measures, as the four measuring worlds would write them."""

from __future__ import annotations

from fractions import Fraction

from custard.larder.eggs import EggSize
from custard.larder.ingredients import Ingredient
from custard.quantities import Quantity, grams

STEPS = {"cup": 8, "pint": 8, "tsp": 8, "oz": 4, "tbsp": 2, "yolk": 2, "egg": 2, "white": 2}
"""Into how many parts each measure is divided by those who use it."""
ROUGH = 0.04
"""Further off than this and the measure is told as "about"."""
WHOLE_FROM = 10
OUNCE_G = 28.3495
OUNCES = ("us", "imperial")
_SPOONS = ("cup", "tbsp", "tsp")
_LEAST = {"cup": Fraction(1, 4), "tbsp": Fraction(1, 1), "tsp": Fraction(1, 8), "pint": Fraction(1, 2)}


def as_measured(weight_g: float, ingredient: Ingredient, eggs: EggSize, measures: str) -> str:
    """A weight as a cook of `measures` would write it: "2 1/8 cups", "6 yolks", "about 3 tbsp", "90 g".

    Metric cooks weigh what is more than a spoon; the others measure.

    Parameters
    ----------
    weight_g : what it weighs [g].
    ingredient : what is weighed.
    eggs : the size class of the eggs.
    measures : whose cup and pint are meant: "us", "imperial", "metric" or "au".
    """
    if ingredient.piece in ("yolk", "egg", "white"):
        one = grams(Quantity(1.0, ingredient.piece), ingredient, eggs, measures)
        return _as_text(weight_g / one, ingredient.piece, plural=True)
    spoonful = grams(Quantity(3.0, "tbsp"), ingredient, eggs, measures)
    if measures == "metric" and weight_g > spoonful:
        return _weighed(weight_g) if _dry(ingredient) else f"{weight_g / ingredient.density_g_ml:.0f} ml"
    if ingredient.form == "solid" or (measures == "imperial" and _dry(ingredient) and weight_g > spoonful):
        return _as_text(weight_g / OUNCE_G, "oz", plural=False) if measures in OUNCES else _weighed(weight_g)
    units = ("pint", "tbsp", "tsp") if measures == "imperial" else _SPOONS
    for unit in units:
        number = weight_g / grams(Quantity(1.0, unit), ingredient, eggs, measures)
        if number >= _LEAST[unit] * (1 - ROUGH / 2):
            return _as_text(number, unit, plural=unit in ("cup", "pint"))
    return _weighed(weight_g)


def _dry(ingredient: Ingredient) -> bool:
    return ingredient.form != "liquid" or ingredient.group == "sugar"


def _weighed(weight_g: float) -> str:
    return f"{weight_g:.0f} g" if weight_g >= 10 else f"{weight_g:.2g} g"


def _as_text(number: float, unit: str, *, plural: bool) -> str:
    """The nearest part of the measure (a whole one above 10), "about" when that is not near."""
    step = STEPS[unit] if number < WHOLE_FROM else 1
    near = Fraction(round(number * step), step)
    if near == 0:
        return f"less than 1/{STEPS[unit]} {unit}"
    about = "about " if abs(float(near) - number) > ROUGH * number else ""
    whole, part = divmod(near, 1)
    text = " ".join(str(p) for p in ((whole,) if whole else ()) + ((part,) if part else ()))
    return f"{about}{text} {unit}{'s' if plural and near > 1 else ''}"
