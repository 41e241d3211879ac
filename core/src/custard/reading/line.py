"""What is read of one line, and what it is read with."""

from __future__ import annotations

from dataclasses import dataclass

from custard.vocabulary import When


@dataclass(frozen=True, slots=True)
class Option:
    """Another ingredient, or another amount, that a line may mean."""

    ingredient: str
    amount: str


@dataclass(frozen=True, slots=True)
class ReadLine:
    """One line of a recipe as it was read.

    Attributes
    ----------
    text : as it stands in the recipe.
    ingredient : its id; empty where none is near.
    name : the words that name it.
    amount : as a formula takes it; empty where it is open or kept as a note.
    grams : what it weighs [g]; None where that is open, or it is kept as a note.
    when, minutes : the moment at which it joins, and how long it is infused [min].
    note : what else the line says.
    assumed : what was assumed.
    options : what it may mean instead, likeliest first.
    why : what a person has to settle; empty where nothing is open.
    as_note : it has no weight and stays with the formula as a note.
    optional : the recipe leaves it to the cook.
    section : the heading above it, folded.
    """

    text: str
    ingredient: str = ""
    name: str = ""
    amount: str = ""
    grams: float | None = None
    when: When | None = None
    minutes: float | None = None
    note: str = ""
    assumed: tuple[str, ...] = ()
    options: tuple[Option, ...] = ()
    why: str = ""
    as_note: bool = False
    optional: bool = False
    section: str = ""

    @property
    def sure(self) -> bool:
        """Whether nothing of it was assumed and nothing is open."""
        return not self.assumed and not self.why


@dataclass(frozen=True, slots=True)
class Reader:
    """What a line is read with.

    Attributes
    ----------
    language, country : of the recipe; country is "us", "uk", "au" or empty.
    measures : a formula's measures: "us", "imperial", "metric" or "au".
    guessed : what is assumed of the measures where a cup or a pint depends on them; else empty.
    eggs : the size class that a count of eggs means.
    unit : the unit of bare numbers, where the recipe says one for all ("all in g"); else empty.
    scale : what every amount is multiplied by, where the recipe says so [1].
    used : ingredients that the kitchen used last, the latest first.
    """

    language: str = "en"
    country: str = ""
    measures: str = "metric"
    guessed: str = ""
    eggs: str = "EU-M"
    unit: str = ""
    scale: float = 1.0
    used: tuple[str, ...] = ()
