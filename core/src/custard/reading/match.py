"""What some words name, and what helps to choose."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Match:
    """What some words name.

    Attributes
    ----------
    id : the ingredient, or empty where none is near.
    assumed : what was assumed in choosing it; empty where the words name it.
    options : other ingredients that it may be, likeliest first.
    words : the words by which it was found.
    """

    id: str = ""
    assumed: tuple[str, ...] = ()
    options: tuple[str, ...] = ()
    words: str = ""


@dataclass(frozen=True, slots=True)
class Hints:
    """What helps to choose between ingredients of one name.

    Attributes
    ----------
    language, country : of the recipe; country is "us", "uk", "au" or empty.
    counted_by : "piece", "g", "spoon", "packet" or empty: how the recipe measures it.
    used : ingredients that the kitchen used last, the latest first.
    """

    language: str = "en"
    country: str = ""
    counted_by: str = ""
    used: tuple[str, ...] = ()
