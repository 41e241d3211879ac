"""The words of six languages by which recipes are read, from the larder's tables."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from fnmatch import fnmatchcase
from functools import cache
from types import MappingProxyType
from typing import Any

from custard.larder.tables import document, rows
from custard.quantities import units
from custard.reading.tokens import fold

LANGUAGES = ("en", "fr", "de", "it", "es", "pt")


@dataclass(frozen=True, slots=True)
class RecipeUnit:
    """A unit as recipes write it.

    Attributes
    ----------
    unit, times : the unit of a formula and how many of it one is.
    assumed : what is assumed where its size differs from kitchen to kitchen; else empty.
    """

    unit: str
    times: float
    assumed: str


@dataclass(frozen=True, slots=True)
class Piece:
    """What one piece, packet or handful of something weighs [g]."""

    words: frozenset[str]
    ids: str
    grams: float
    low: float
    high: float
    country: str

    def weighs(self, ingredient: str) -> bool:
        """Whether it is a piece of that ingredient."""
        return any(fnmatchcase(ingredient, pattern) for pattern in self.ids.split("|"))


@dataclass(frozen=True, slots=True)
class Squeezed:
    """What the juice and the zest of one fruit weigh [g]."""

    juice: str
    juice_g: float
    zest_g: float


@cache
def lists(section: str, table: str = "reading") -> Mapping[str, frozenset[str]]:
    """The folded phrases of a section of the reading table, or of another, by key."""
    found: dict[str, Any] = document(table)[section]
    return MappingProxyType({key: frozenset(fold(word) for word in words) for key, words in found.items()})


@cache
def number_words() -> Mapping[str, float]:
    """Numbers by their folded words."""
    return MappingProxyType(
        {
            fold(word): float(value)
            for value, words in document("reading")["numbers"].items()
            for word in words
        }
    )


@cache
def recipe_units() -> Mapping[str, RecipeUnit]:
    """Units by their folded words: those of formulas, and those that only recipes use."""
    table = {fold(word): RecipeUnit(unit.unit, 1.0, "") for word, unit in units().items()}
    for row in rows("recipe_units"):
        unit = RecipeUnit(row["unit"], float(row["times"]), row["assumed"])
        table |= {fold(word): unit for word in row["words"].split("|")}
    return MappingProxyType(table)


@cache
def pieces() -> tuple[Piece, ...]:
    """What pieces, packets and handfuls weigh, the rows of a country before the general ones."""
    found = [
        Piece(
            frozenset(fold(word) for word in row["words"].split("|")),
            row["ids"],
            float(row["grams"]),
            float(row["low"]),
            float(row["high"]),
            row["in"],
        )
        for row in rows("pieces")
    ]
    return tuple(sorted(found, key=lambda piece: not piece.country))


@cache
def piece_words() -> frozenset[str]:
    """Every word that a recipe counts by."""
    counted = frozenset(word for piece in pieces() for word in piece.words if word)
    return counted | lists("line")["each_piece"]


@cache
def squeezed() -> Mapping[str, Squeezed]:
    """The fruit that is squeezed or grated, by folded word."""
    return MappingProxyType(
        {
            fold(word): Squeezed(row["juice"], float(row["juice_g"]), float(row["zest_g"]))
            for row in rows("squeezed")
            for word in row["words"].split("|")
        }
    )
