"""Ingredients of one kind that a percentage tells apart: creams by fat, chocolates by cocoa."""

from __future__ import annotations

import re

from custard.larder.ingredients import all_ingredients, ingredient
from custard.reading.match import Match

_PERCENT = re.compile(r"(?<![\d.])(\d{1,3}(?:\.\d+)?)%")
_BARE_PERCENT = re.compile(r"(?<![\d.])(\d{2})(?![\d.%])")
_CLASSES: tuple[tuple[str, str, float], ...] = (
    (r"(skim-milk|milk-.-percent|whole-milk|rich-milk-5)", "fat", 1.0),
    (r"(cream-1.|cooking-cream-22|half-and-half|single-cream-18|whipping-cream-..|heavy-cream-40|double-cream-48)",
     "fat", 2.0),
    (r"(sour-cream-..|creme-fraiche-30)", "fat", 3.0),
    (r"(dark-chocolate-..|cocoa-mass)", "cocoa", 2.5),
    (r"(milk-chocolate.*)", "cocoa", 2.5),
    (r"(white-chocolate.*)", "cocoa", 3.0),
    (r"cocoa-powder-.*", "cocoa_butter", 3.0),
    (r"(quark-.*)", "fat", 4.0),
    (r"(yoghurt.*|greek-yoghurt)", "fat", 2.0),
)  # fmt: skip
"""Ingredients of one kind that a percentage tells apart, what it counts, and how near is near enough."""


def percent_of(folded: str) -> float | None:
    """A percentage that a name carries: "35%", "66% cocoa"; also "chocolate 70" and "cream 35"."""
    found = _PERCENT.search(folded)
    if found is None and re.search(
        r"choco|schoko|ciocco|kuvert|couvert|copert|cobert|cream|creme|sahne|panna|nata", folded
    ):
        found = _BARE_PERCENT.search(folded)
    return float(found[1]) if found else None


def by_percent(match: Match, percent: float | None) -> Match:
    """The ingredient of the same kind whose share is nearest to a percentage that was written."""
    if percent is None or not match.id:
        return match
    for pattern, counts, enough in _CLASSES:
        if not re.fullmatch(pattern, match.id):
            continue
        same = [name for name in all_ingredients() if re.fullmatch(pattern, name)]
        nearest = min(same, key=lambda name: (abs(_share(name, counts) - percent), name != match.id))
        off = abs(_share(nearest, counts) - percent)
        guess = () if off <= enough else (f"{percent:g} %: nearest is {ingredient(nearest).name}",)
        others = tuple(name for name in (match.id, *match.options) if name != nearest)
        others_assumed = tuple(one for one in match.assumed if ingredient(match.id).name not in one)
        return Match(
            nearest, (*others_assumed, *guess), others if guess or others_assumed else (), match.words
        )
    return match


def _share(name: str, counts: str) -> float:
    """What a percentage of that ingredient counts: its fat, or its cocoa."""
    thing = ingredient(name)
    if counts == "cocoa":
        number = re.search(r"(\d+)", name)
        if number:
            return float(number[1])
        parts = thing.composition
        return parts["cocoa_butter"] + parts["cocoa_solids"]
    return thing.composition[counts]


def without_percent(folded: str) -> str:
    """A folded name without its percentages."""
    return " ".join(_PERCENT.sub(" ", folded).split())
