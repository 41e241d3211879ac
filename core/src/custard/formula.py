"""A formula: its lines, what they weigh, its yolks, and the same formula at another size."""

from __future__ import annotations

from dataclasses import dataclass, replace

from custard.card import SILENT, Card
from custard.conditions import Conditions
from custard.errors import CustardError, Impossible, OutOfRange, UnknownName
from custard.larder.eggs import EggSize, egg_size
from custard.larder.families import all_families
from custard.larder.ingredients import Ingredient
from custard.larder.joins import JOINS, Join
from custard.purpose import MAX_DESTINATIONS, MAX_OTHER_WORK, Destination, OtherWork
from custard.quantities import MEASURES, Quantity, grams, read_quantity
from custard.vocabulary import When

FAMILIES: tuple[str, ...] = tuple(all_families())
MAX_LINES = 100
MAX_NAME = 200
MAX_NOTE = 500
MAX_TOTAL_G = 1_000_000.0
SMALLER = {"l": "ml", "kg": "g"}
HALVES, NEARLY_WHOLE = 2, 0.0015
"""A count this near a whole or a half one is written as that; yolks of one tray differ by more."""
LONGEST_INFUSION_MIN = 24 * 60.0
MOST_JOINING = 5.0
"""What joins after the heat weighs at most so many times what was cooked."""


@dataclass(frozen=True)
class Line:
    """One thing to weigh out.

    Attributes
    ----------
    amount : as the cook wrote it; `quantity` is what was read from it.
    when : the moment at which it joins.
    minutes : how long it infuses [min]; None where that is left to the kitchen, and for what is not infused.
    """

    ingredient: Ingredient
    amount: str
    quantity: Quantity
    note: str = ""
    when: When = When.IN_THE_PAN
    minutes: float | None = None

    def __post_init__(self) -> None:
        if self.minutes is None:
            return
        if self.when != When.INFUSED:
            raise OutOfRange("minutes", f"{self.minutes:g}", "is for what is infused")
        if not 0 < self.minutes <= LONGEST_INFUSION_MIN:
            limit = "must be more than 0 and at most a day, 1440 minutes"
            raise OutOfRange("minutes", f"{self.minutes:g}", limit)

    @property
    def join(self) -> Join:
        """The moment at which it joins."""
        return JOINS[self.when]


@dataclass(frozen=True)
class Formula:
    """What a sauce is made of, as written.

    `eggs` is the size class a count of eggs means; `measures` says whose cup and pint are meant.
    `destinations` are what it is for, `other_work` what stands beside it in a day; `card` is what its recipe
    says of how it is made, in figures.
    """

    name: str
    family: str
    lines: tuple[Line, ...]
    eggs: str = "EU-M"
    measures: str = "metric"
    destinations: tuple[Destination, ...] = ()
    other_work: tuple[OtherWork, ...] = ()
    card: Card = SILENT

    def __post_init__(self) -> None:
        if not any(char.isalnum() for char in self.name):
            raise OutOfRange("name", self.name, "has no letter or number, so nobody could call for it")
        if len(self.name) > MAX_NAME:
            raise OutOfRange("name", self.name, f"is longer than {MAX_NAME} characters")
        if self.family not in FAMILIES:
            raise UnknownName("family", self.family, "is not a family", f"Write {', '.join(FAMILIES)}.")
        if self.measures not in MEASURES:
            raise UnknownName(
                "measures", self.measures, "is not a set of measures", f"Write {', '.join(MEASURES)}."
            )
        egg_size(self.eggs)
        if not self.lines:
            raise OutOfRange("lines", "", "to weigh out", "Write at least one line.")
        if len(self.lines) > MAX_LINES:
            raise OutOfRange("lines", len(self.lines), f"is more than {MAX_LINES} lines")
        for field, most in (("destinations", MAX_DESTINATIONS), ("other_work", MAX_OTHER_WORK)):
            if len(getattr(self, field)) > most:
                raise OutOfRange(field, len(getattr(self, field)), f"is more than {most}")

    def under(self, conditions: Conditions) -> Formula:
        """As it is made there: its counts of eggs are of the eggs in the house, where those are known."""
        return self if conditions.eggs in (None, self.eggs) else replace(self, eggs=conditions.eggs or "")

    @property
    def egg_size(self) -> EggSize:
        """The size class of this formula's eggs."""
        return egg_size(self.eggs)

    def weights_g(self) -> tuple[float, ...]:
        """What each line weighs [g], in order.

        Raises
        ------
        CustardError
            naming the line, when an amount does not fit its ingredient or the whole is too heavy.
        """
        weights = []
        for index, line in enumerate(self.lines):
            try:
                weights.append(grams(line.quantity, line.ingredient, self.egg_size, self.measures))
            except CustardError as error:
                raise error.at(f"lines[{index}]") from None
        if sum(weights) > MAX_TOTAL_G:
            raise OutOfRange("lines", f"{sum(weights) / 1000:.0f} kg", "is more than a tonne in all")
        self._must_join(weights)
        return tuple(weights)

    def _must_join(self, weights: list[float]) -> None:
        """Refuse a line that has nothing to join, or would bury it."""
        pairs = tuple(zip(self.lines, weights, strict=True))
        cooked_g = sum(mass for line, mass in pairs if line.join.heated)
        liquid = any(
            line.join.heated and line.ingredient.form == "liquid" and line.ingredient.group != "egg"
            for line in self.lines
        )
        for index, (line, mass) in enumerate(pairs):
            name, at = line.ingredient.name, f"lines[{index}]"
            if line.when == When.INFUSED and not liquid:
                raise OutOfRange(f"{at}.when", line.when, f"leaves {name} nothing to infuse in")
            if line.when == When.UNDER_IT and cooked_g <= 0:
                raise OutOfRange(f"{at}.when", line.when, f"leaves nothing to pour onto {name}")
            joins_later = line.join.finishes and not line.join.in_the_sauce
            if (joins_later or line.when == When.UNDER_IT) and mass > MOST_JOINING * cooked_g:
                limit = f"of {name} is more than {MOST_JOINING:.0f} times the {cooked_g:.0f} g it joins"
                raise OutOfRange(f"{at}.amount", line.amount, limit)

    def mass_g(self) -> float:
        """Total mass [g]."""
        return sum(self.weights_g())

    def in_the_pan(self) -> Formula:
        """Only what is heated; the formula itself when everything is, or nothing."""
        return self._only(tuple(line for line in self.lines if line.join.heated))

    def sauce(self) -> Formula:
        """The uniform sauce that is cooled and kept: without what is strained out, folded in or on top."""
        return self._only(tuple(line for line in self.lines if line.join.in_the_sauce))

    def _only(self, lines: tuple[Line, ...]) -> Formula:
        return replace(self, lines=lines) if lines and len(lines) < len(self.lines) else self

    def joining(self, *moments: str) -> tuple[tuple[int, Line, float], ...]:
        """The lines that join at those moments: place, line and grams."""
        pairs = zip(self.lines, self.weights_g(), strict=True)
        return tuple((i, line, g) for i, (line, g) in enumerate(pairs) if line.when in moments)

    def yolks(self) -> float:
        """How many yolks of this formula's size its yolk lines hold; whole eggs do not count."""
        pairs = zip(self.lines, self.weights_g(), strict=True)
        return sum(g for line, g in pairs if line.ingredient.id == "egg-yolk") / self.egg_size.yolk_g

    def dairy_g(self) -> float:
        """Grams of milk, cream and the like, butter and what is folded in left out."""
        pairs = zip(self.lines, self.weights_g(), strict=True)
        return sum(g for line, g in pairs if line.ingredient.is_milk and line.when != When.FOLDED)

    def poured(self) -> tuple[tuple[Line, float], ...]:
        """The liquids that are heated, with their grams: milk and the like, juice, wine; no egg, no syrup."""
        pairs = zip(self.lines, self.weights_g(), strict=True)
        return tuple(
            (line, g)
            for line, g in pairs
            if line.join.heated
            and line.ingredient.form == "liquid"
            and line.ingredient.group not in ("egg", "sugar")
        )

    def times(self, factor: float) -> Formula:
        """The same formula `factor` times as large, each amount in the measure it was written in.

        What is counted and does not come to whole or half ones is weighed instead: nobody has 9.392 yolks.

        Raises
        ------
        OutOfRange
            when the factor is not a number above zero.
        """
        if not 0 < factor < float("inf"):
            raise OutOfRange("factor", factor, "must be more than nothing")
        lines = []
        for line in self.lines:
            text = self._scaled(line, factor)
            lines.append(replace(line, amount=text, quantity=read_quantity(text)))
        return replace(self, lines=tuple(lines))

    def _scaled(self, line: Line, factor: float) -> str:
        """How an amount is written once it is so much larger."""
        quantity = line.quantity.times(factor)
        if factor == 1:
            return quantity.text()
        if quantity.unit in SMALLER and quantity.number < 1:
            return Quantity(1000 * quantity.number, SMALLER[quantity.unit]).text()
        if not quantity.counts:
            return quantity.text()
        near = round(quantity.number * HALVES) / HALVES
        if near > 0 and abs(near - quantity.number) <= NEARLY_WHOLE * quantity.number:
            return Quantity(near, quantity.unit).text()
        weighed = grams(quantity, line.ingredient, self.egg_size, self.measures)
        # As exact as every other amount: scaling keeps each ratio.
        return Quantity(float(f"{weighed:.4g}"), "g").text()

    def with_yolks_times(self, factor: float) -> Formula:
        """The same formula with its yolk lines `factor` times as large, everything else left as it is."""
        lines = []
        for line in self.lines:
            if line.ingredient.id == "egg-yolk":
                quantity = line.quantity.times(factor)
                lines.append(replace(line, quantity=quantity, amount=quantity.text()))
            else:
                lines.append(line)
        return replace(self, lines=tuple(lines))

    def for_yolks(self, yolks: float) -> Formula:
        """Rescaled to use `yolks` yolks.

        Raises
        ------
        Impossible
            when the formula has no yolk line.
        """
        return self.times(_wanted("yolks", yolks, 2000) / self._some("yolks", self.yolks(), "yolk"))

    def for_dairy(self, dairy_g: float) -> Formula:
        """Rescaled to use `dairy_g` grams of milk and cream in all."""
        return self.times(
            _wanted("dairy_g", dairy_g, MAX_TOTAL_G) / self._some("dairy_g", self.dairy_g(), "milk or cream")
        )

    def for_mass(self, mass_g: float) -> Formula:
        """Rescaled to weigh `mass_g` grams before cooking."""
        return self.times(_wanted("mass_g", mass_g, MAX_TOTAL_G) / self.mass_g())

    def _some(self, field: str, amount: float, what: str) -> float:
        if amount <= 0:
            raise Impossible(field, self.name, f"has no {what} to scale by", "Scale it by mass instead.")
        return amount


def _wanted(field: str, value: float, most: float) -> float:
    if not 0 < value <= most:
        raise OutOfRange(field, value, f"must be more than 0 and at most {most:.0f}")
    return value
