"""What the API says about kitchens and the larder."""

from __future__ import annotations

from typing import Literal

from common.text import Name
from ninja import Schema
from pydantic import ConfigDict, Field

EggClass = Literal["EU-S", "EU-M", "EU-L", "EU-XL", "US-medium", "US-large", "US-xl", "US-jumbo"]
Measures = Literal["us", "imperial", "metric", "au"]


class KitchenOut(Schema):
    """A kitchen as its people see it."""

    slug: str
    name: str
    role: Literal["viewer", "cook", "chef"]
    altitude_m: float
    eggs: EggClass
    measures: Measures
    water_boils_c: float


class KitchenChange(Schema):
    """New settings; what is left out stays."""

    model_config = ConfigDict(extra="forbid")

    name: Name | None = Field(None, min_length=1)
    altitude_m: float | None = Field(None, ge=-500, le=6000)
    eggs: EggClass | None = None
    measures: Measures | None = None


class IngredientOut(Schema):
    """One thing of the larder."""

    id: str
    name: str
    group: str
    piece: str
    composition: dict[str, float]
    allergens: list[str]
    range: str
    source_as_remembered: str
    confidence: str


class EggOut(Schema):
    """One egg size."""

    size: str
    name: str
    yolk_g: float
    white_g: float


class FamilyOut(Schema):
    """One family of sauces."""

    family: str
    name: str


class Larder(Schema):
    """Everything a formula can be made of."""

    ingredients: list[IngredientOut]
    eggs: list[EggOut]
    families: list[FamilyOut]
    measures: list[Measures]
    words: list[tuple[float, str]]
