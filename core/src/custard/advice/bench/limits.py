"""What a changed formula may not pass: yolks in hand, starch, fat, cost."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from types import MappingProxyType

from custard.errors import Impossible, OutOfRange
from custard.formula import Formula
from custard.mixture import mix

GRAINS_G = 1e-6
"""Less than this over a limit is rounding."""


def cost(formula: Formula, prices_per_kg: Mapping[str, float]) -> float:
    """What a formula's lines cost, in the currency of the prices.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    prices_per_kg : by ingredient id, or by name for a kitchen's own ingredient.

    Raises
    ------
    Impossible
        naming the line that has no price; nothing is taken as free.
    """
    total = 0.0
    for line, grams in zip(formula.lines, formula.weights_g(), strict=True):
        known = line.ingredient.id or line.ingredient.name
        if known not in prices_per_kg:
            raise Impossible("prices", known, "has no price", "Give its price a kilogram.")
        total += grams / 1000 * prices_per_kg[known]
    return total


def starch_line_g(formula: Formula) -> float:
    """Grams of the starches and flours among the lines."""
    pairs = zip(formula.lines, formula.weights_g(), strict=True)
    return sum(grams for line, grams in pairs if line.ingredient.group == "starch")


class Broken(Impossible):
    """A limit that would be passed; `bound` is the limit itself, as "at most 6 yolks"."""

    bound: str = ""

    @classmethod
    def by(cls, name: str, most: float, unit: str, value: float) -> Broken:
        """The refusal, with the limit that makes it."""
        refusal = cls(name, f"{most:g}", f"is passed: this would be {value:.4g} {unit}")
        refusal.bound = f"at most {most:.4g} {unit}"
        return refusal


@dataclass(frozen=True)
class Limits:
    """None is no limit.

    Attributes
    ----------
    max_yolks : yolks of the formula's size.
    max_starch_g : starches and flours in all [g]; 0 for none.
    max_fat_percent : fat and cocoa butter of the whole [%].
    max_cost : of the whole batch, by `prices_per_kg`.
    """

    max_yolks: float | None = None
    max_starch_g: float | None = None
    max_fat_percent: float | None = None
    max_cost: float | None = None
    prices_per_kg: Mapping[str, float] = field(default_factory=lambda: MappingProxyType({}))

    def __post_init__(self) -> None:
        for name in ("max_yolks", "max_starch_g", "max_fat_percent", "max_cost"):
            value = getattr(self, name)
            if value is not None and not value >= 0:
                raise OutOfRange(name, value, "must not be negative")

    def broken_by(self, formula: Formula) -> Broken | None:
        """The first limit a formula passes, as a refusal that says by how much; None when it keeps them."""
        fractions = mix(formula).fractions
        fat_percent = 100 * (fractions["fat"] + fractions["cocoa_butter"])
        measured = [
            ("max_yolks", self.max_yolks, formula.yolks(), "yolks"),
            ("max_starch_g", self.max_starch_g, starch_line_g(formula), "g of starch"),
            ("max_fat_percent", self.max_fat_percent, fat_percent, "% fat"),
        ]
        if self.max_cost is not None:
            measured.append(("max_cost", self.max_cost, cost(formula, self.prices_per_kg), "in all"))
        for name, most, value, unit in measured:
            if most is not None and value > most + GRAINS_G:
                return Broken.by(name, most, unit, value)
        return None
