"""What the rows are cooked from."""

from __future__ import annotations

from custard.formats.formula_json import read_formula
from custard.formula import Formula
from custard.mixture import Mixture, mix


def of(family: str, *lines: tuple[str, object], **more: str) -> Formula:
    """A formula in short."""
    written = [{"ingredient": name, "amount": str(amount)} for name, amount in lines]
    head = {"format": "old-spoon/formula", "version": 1, "name": "practice", "family": family}
    return read_formula({**head, **more, "lines": written})


def anglaise(yolks: float = 8, sugar_g: float = 150, starch_g: float = 0) -> Formula:
    """A litre of milk with yolks, sugar, and perhaps starch."""
    starch = [("cornstarch", f"{starch_g} g")] if starch_g else []
    return of(
        "anglaise", ("whole-milk", "1 l"), ("egg-yolk", yolks), ("white-sugar", f"{sugar_g} g"), *starch
    )


def pastry(starch: str = "cornstarch", grams: float = 45, sugar_g: float = 100) -> Formula:
    """Half a litre of milk, five yolks, and a starch."""
    milk, yolk = ("whole-milk", "500 ml"), ("egg-yolk", 5)
    return of("pastry-cream", milk, yolk, ("white-sugar", f"{sugar_g} g"), (starch, f"{grams} g"))


SIX = ("whole-milk", "500 ml"), ("egg-yolk", 6), ("white-sugar", "90 g")
CUPS = of("baked-custard", ("whole-milk", "500 ml"), ("whole-egg", 4), ("white-sugar", "80 g"))
RICH_CUPS = of("baked-custard", ("whipping-cream-36", "500 ml"), ("egg-yolk", 6), ("white-sugar", "80 g"))
CREAM = of("burnt-cream", ("double-cream-48", "500 ml"), ("egg-yolk", 6), ("white-sugar", "80 g"))
CREMEUX = of(
    "cremeux",
    ("whole-milk", "250 ml"),
    ("whipping-cream-36", "250 ml"),
    ("egg-yolk", 5),
    ("white-sugar", "50 g"),
    ("dark-chocolate-65", "180 g"),
)
LESS_CHOCOLATE = of(
    "cremeux",
    ("whole-milk", "250 ml"),
    ("whipping-cream-36", "250 ml"),
    ("egg-yolk", 5),
    ("white-sugar", "50 g"),
    ("dark-chocolate-65", "115 g"),
)
POURED = of(
    "pouring-custard",
    ("whole-milk", "500 ml"),
    ("egg-yolk", 4),
    ("white-sugar", "60 g"),
    ("cornstarch", "20 g"),
)
BASE = of(
    "ice-base",
    ("whole-milk", "500 ml"),
    ("whipping-cream-36", "250 ml"),
    ("egg-yolk", 6),
    ("white-sugar", "150 g"),
)
LEAN_BASE = of(
    "ice-base",
    ("whole-milk", "600 ml"),
    ("whipping-cream-36", "300 ml"),
    ("egg-yolk", 4),
    ("white-sugar", "170 g"),
)
FILLING = of("milk-filling", ("evaporated-milk", "400 g"), ("egg-yolk", 5), ("white-sugar", "235 g"))


def sabayon(wine: str = "fortified-wine-sweet") -> Formula:
    """Six yolks, sugar and wine."""
    return of("sabayon", ("egg-yolk", 6), ("white-sugar", "100 g"), (wine, "150 ml"))


def sauce() -> Mixture:
    """0.7 kg of anglaise."""
    return mix(of("anglaise", ("whole-milk", "530 g"), ("egg-yolk", "85 g"), ("white-sugar", "85 g")))
