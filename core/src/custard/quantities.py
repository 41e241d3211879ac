"""Amounts as cooks write them, read into numbers and units, and weighed.

Volume measures differ by country, so every reading needs to know whose cup is meant; a measure of a
powder is taken as level unless it says "heaped".
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal
from functools import cache
from math import isfinite, nan
from types import MappingProxyType

from custard.errors import BadQuantity, OutOfRange, UnknownName
from custard.larder.eggs import EggSize
from custard.larder.ingredients import Ingredient
from custard.larder.tables import rows
from custard.numbers import NUMBER, plain_text, value_of

MEASURES: tuple[str, ...] = ("us", "imperial", "metric", "au")
MAX_PIECES = 2000.0
MAX_LINE_G = 500_000.0
MAX_TEXT = 60
HEAPED = 2.0
"""A heaped spoon or cup of powder over a level one; 1.8 to 2.2 in practice."""
VANILLA_POD_G = 3.0
BAY_LEAF_G = 0.3
"""A fresh leaf; a dried one is about half of that."""

_PIECE_WORDS: Mapping[str, str] = MappingProxyType(
    {
        "yolk": "yolk",
        "yolks": "yolk",
        "egg yolk": "yolk",
        "egg yolks": "yolk",
        "white": "white",
        "whites": "white",
        "egg white": "white",
        "egg whites": "white",
        "egg": "egg",
        "eggs": "egg",
        "whole egg": "egg",
        "whole eggs": "egg",
        "pod": "pod",
        "pods": "pod",
        "leaf": "leaf",
        "leaves": "leaf",
    }
)
_RANGE = re.compile(r"^\s*[\d./½¼¾]+\s*(?:-|–|—|to|or)\s*[\d./½¼¾]+", re.IGNORECASE)


@dataclass(frozen=True)
class Unit:
    """A unit: grams, millilitres, or a stick, in each country's measures."""

    unit: str
    dimension: str
    size: Mapping[str, float]


@dataclass(frozen=True)
class Quantity:
    """A number and what it counts: a unit of the table, or pieces when `unit` is empty."""

    number: float
    unit: str
    heaped: bool = False

    @property
    def counts(self) -> bool:
        """Whether it counts pieces: yolks, eggs, pods, and pinches."""
        return self.unit in ("", "pinch") or self.unit in _PIECE_WORDS.values()

    def times(self, factor: float) -> Quantity:
        """The same measure, `factor` times as much."""
        return Quantity(self.number * factor, self.unit, self.heaped)

    def text(self) -> str:
        """As it is written in the open format, to four significant figures."""
        number = format(Decimal(f"{self.number:.4g}"), "f")
        if "." in number:
            number = number.rstrip("0").rstrip(".")
        words = [number, *(["heaped"] if self.heaped else []), self.unit]
        return " ".join(word for word in words if word)


@cache
def units() -> Mapping[str, Unit]:
    """Every unit, by each of its spellings."""
    table: dict[str, Unit] = {}
    for row in rows("measures"):
        unit = Unit(row["unit"], row["dimension"], {who: float(row[who]) for who in MEASURES})
        table |= dict.fromkeys(row["spellings"].split("|"), unit)
    return MappingProxyType(table)


def read_quantity(text: str | int | float) -> Quantity:
    """A written amount as number and unit.

    Accepts "6", 6, "500 ml", "1 1/2 cups", "½ tsp", "2 heaped tbsp", "6 yolks". Refuses ranges,
    negative and zero amounts, unknown units and anything it would have to guess at.

    Parameters
    ----------
    text : as it is written, up to 60 characters; or a number of pieces [1].

    Raises
    ------
    BadQuantity
        when it cannot be read.
    OutOfRange
        when the number is not above zero.
    """
    if isinstance(text, bool) or not isinstance(text, str | int | float):
        raise BadQuantity("amount", text, "is not an amount", "Write a number and a unit, as “90 g”.")
    if isinstance(text, int | float):
        return Quantity(_positive(finite(text), text), "")
    plain = plain_text(text)
    if len(plain) > MAX_TEXT:
        raise BadQuantity("amount", text, f"is longer than {MAX_TEXT} characters")
    if not plain:
        raise BadQuantity("amount", text, "is not an amount", "Write a number and a unit, as “90 g”.")
    if _RANGE.match(plain):
        raise BadQuantity("amount", text, "is a range", "Write the one amount you weigh out.")
    if plain.startswith(("-", "−")):
        raise OutOfRange("amount", text, "must be more than nothing")
    match = NUMBER.match(plain)
    if match is None:
        raise BadQuantity("amount", text, "has no number in front", "Write it as “90 g” or “1 1/2 cups”.")
    number = _positive(value_of(match, text), text)
    words = plain[match.end() :].strip().lower()
    heaped = False
    for word in ("heaped", "heaping", "level"):
        if words.startswith(word + " "):
            heaped = word != "level"
            words = words[len(word) :].strip()
    if words not in units():
        words = words.rstrip(".")
    if words in _PIECE_WORDS:
        return Quantity(number, _PIECE_WORDS[words])
    if words and words not in units():
        raise BadQuantity(
            "amount",
            text,
            f"has a unit we do not know, “{words[:30]}”",
            "Write g, kg, oz, lb, ml, cl, dl, l, fl oz, cup, pint, quart, tsp, tbsp, dsp, pinch or stick.",
        )
    return Quantity(number, units()[words].unit if words else "", heaped)


def grams(quantity: Quantity, ingredient: Ingredient, eggs: EggSize, measures: str) -> float:
    """What a quantity of an ingredient weighs [g].

    Parameters
    ----------
    quantity : a number and its unit.
    ingredient : what is weighed.
    eggs : the size class of the eggs.
    measures : whose cup and pint are meant: "us", "imperial", "metric" or "au".

    Raises
    ------
    BadQuantity
        when the unit does not fit the ingredient (a count of milk, a stick of flour).
    OutOfRange
        above `MAX_PIECES` pieces or `MAX_LINE_G` grams.
    UnknownName
        when `measures` is not one of `MEASURES`.
    """
    if measures not in MEASURES:
        raise UnknownName("measures", measures, "is not a set of measures", f"Write {', '.join(MEASURES)}.")
    shown = quantity.text()
    if quantity.unit in ("", *_PIECE_WORDS.values()):
        weight = quantity.number * _piece_g(quantity, ingredient, eggs)
        if quantity.number > MAX_PIECES:
            raise OutOfRange("amount", shown, f"is more than {MAX_PIECES:.0f} {ingredient.piece}s")
    else:
        weight = quantity.number * _unit_g(quantity, ingredient, measures)
    if weight > MAX_LINE_G:
        raise OutOfRange("amount", shown, f"is more than {MAX_LINE_G / 1000:.0f} kg on one line")
    return weight


def _piece_g(quantity: Quantity, ingredient: Ingredient, eggs: EggSize) -> float:
    shown = quantity.text()
    if not ingredient.piece:
        raise BadQuantity(
            "amount", shown, f"has no unit for {ingredient.name}", "Write a weight or a measure, as “90 g”."
        )
    if quantity.unit and quantity.unit != ingredient.piece:
        raise BadQuantity(
            "amount", shown, f"does not count {ingredient.name}", f"Write it in {ingredient.piece}s or g."
        )
    sizes = {
        "yolk": eggs.yolk_g,
        "white": eggs.white_g,
        "egg": eggs.edible_g,
        "pod": VANILLA_POD_G,
        "leaf": BAY_LEAF_G,
    }
    return sizes[ingredient.piece]


def _unit_g(quantity: Quantity, ingredient: Ingredient, measures: str) -> float:
    unit = units()[quantity.unit]
    size = unit.size[measures]
    if quantity.heaped and (unit.dimension != "ml" or ingredient.form != "powder"):
        raise BadQuantity("amount", quantity.text(), f"cannot be heaped: {ingredient.name} is not a powder")
    if unit.dimension == "stick":
        if not ingredient.id.startswith("butter"):
            raise BadQuantity("amount", quantity.text(), f"is for butter, not for {ingredient.name}")
        return size
    if unit.dimension == "g":
        return size
    return size * ingredient.level_g_ml * (HEAPED if quantity.heaped else 1.0)


def finite(value: object) -> float:
    """A number given as data; nan for what is none, or is larger than a number can be.

    Parameters
    ----------
    value : a number given as data.

    >>> [finite(v) for v in (3, True, "3", 10**400)]
    [3.0, nan, nan, nan]
    """
    if isinstance(value, bool) or not isinstance(value, int | float):
        return nan
    try:
        return float(value) if isfinite(value) else nan
    except OverflowError:
        return nan


def _positive(number: float, text: object) -> float:
    if not 0 < number < float("inf"):
        raise OutOfRange("amount", text, "must be more than nothing")
    return number
