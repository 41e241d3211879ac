"""What the API says about kitchens and the larder."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated
from zoneinfo import available_timezones

from common.text import Name, Word, printable
from common.words import CoolingRuleName, CoolingWay, EggClass, Measures, PanKind
from custard.vocabulary import VesselKind
from ninja import Schema
from pydantic import AfterValidator, ConfigDict, Field, StringConstraints

from kitchen.models import Role

Currency = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=4), AfterValidator(printable)
]


class PriceOut(Schema):
    """A price as it was written, and what that is a kilogram."""

    price: float
    per: str
    per_kg: float


class OwnRule(Schema):
    """A kitchen's own cooling rule: to `first_c` within `first_h`, to `second_c` within `second_h` in all."""

    model_config = ConfigDict(extra="forbid")

    from_c: float = 60
    first_c: float = 21
    first_h: float = 2
    second_c: float = 5
    second_h: float = 6


class KitchenOut(Schema):
    """A kitchen as its people see it."""

    slug: str
    name: str
    role: Role
    altitude_m: float
    eggs: EggClass
    egg_source: str
    measures: Measures
    cooling_rule: CoolingRuleName
    cooling_text: str
    cooling_caution: str
    own_rule: OwnRule | None
    currency: str
    zone: str
    readings_days: int
    photos_mb: int
    prices: dict[str, PriceOut]
    water_boils_c: float
    demo: bool


def _is_zone(name: str) -> str:
    if name not in available_timezones():
        raise ValueError("is no time zone we know; write it as “UTC” or “Region/City”")
    return name


Zone = Annotated[str, StringConstraints(max_length=60), AfterValidator(_is_zone)]


class KitchenChange(Schema):
    """New settings; what is left out stays."""

    model_config = ConfigDict(extra="forbid")

    name: Name | None = Field(None, min_length=1)
    altitude_m: float | None = Field(None, ge=-500, le=6000)
    eggs: EggClass | None = None
    egg_source: Word | None = None
    measures: Measures | None = None
    cooling_rule: CoolingRuleName | None = None
    own_rule: OwnRule | None = None
    currency: Currency | None = None
    zone: Zone | None = None
    readings_days: int | None = Field(None, ge=7, le=3650)
    photos_mb: int | None = Field(None, ge=0, le=100_000)


class NewPrice(Schema):
    """What something costs: a price for an amount in any kitchen measure. No price takes it away."""

    model_config = ConfigDict(extra="forbid")

    ingredient: Word
    price: float | None = Field(None, ge=0, le=100_000)
    per: Word = "1 kg"


class OwnIngredientIn(Schema):
    """An ingredient of the kitchen's own, its composition in g per 100 g."""

    model_config = ConfigDict(extra="forbid")

    name: Word = Field(min_length=1)
    composition: dict[str, float]
    allergens: list[Word] = Field(default_factory=list, max_length=20)
    density_g_per_ml: float | None = None


class PacketLabel(Schema):
    """What is printed on a packet: its table of nutrients, its list of ingredients, what it contains."""

    model_config = ConfigDict(extra="forbid")

    text: str = Field(max_length=20_000)


class PacketLabelOut(Schema):
    """A composition worked out from a label, in g per 100 g, with what was assumed."""

    composition: dict[str, float]
    density_g_per_ml: float
    allergens: list[str]
    may_contain: list[str]
    assumed: list[str]


class TwoLabels(Schema):
    """The labels of two packets of one thing."""

    model_config = ConfigDict(extra="forbid")

    a: str = Field(max_length=20_000)
    b: str = Field(max_length=20_000)


class LabelDifference(Schema):
    """What two labels differ in, in g per 100 g; `more_g` is how much more of it the second holds."""

    component: str
    a_g: float
    b_g: float
    more_g: float


class LabelsCompared(Schema):
    """What two labels differ in, the largest difference first; allergens that only one of them holds."""

    differences: list[LabelDifference]
    only_a: list[str]
    only_b: list[str]


class OwnIngredientOut(Schema):
    """As kept."""

    id: int
    name: str
    composition: dict[str, float]
    allergens: list[str]
    density_g_per_ml: float | None


class NewHob(Schema):
    """A hob; its power is a first guess, corrected by every batch with a probe."""

    model_config = ConfigDict(extra="forbid")

    name: Word = Field(min_length=1)
    over_steam: bool = False
    power_w: float = Field(350, ge=20, le=10_000)


class HobOut(Schema):
    """A hob, with what it gives [W], how sure that is, and from how many batches."""

    id: int
    name: str
    over_steam: bool
    power_w: float
    power_spread_w: float
    batches: int


class NewPan(Schema):
    """A pan."""

    model_config = ConfigDict(extra="forbid")

    name: Word = Field(min_length=1)
    kind: PanKind


class PanOut(Schema):
    """A pan; `heat_percent` is its heat beside that of its kind, with its uncertainty."""

    id: int
    name: str
    kind: PanKind
    heat_percent: float
    heat_spread_percent: float
    batches: int


class NewCooler(Schema):
    """Something that cools; how well it does is a first guess, corrected by every cooling that was read."""

    model_config = ConfigDict(extra="forbid")

    name: Word = Field(min_length=1)
    by: CoolingWay
    medium_c: float | None = Field(None, ge=-40, le=40)


class CoolerOut(Schema):
    """Something that cools, how well beside others of its way, how sure that is, from how many batches."""

    id: int
    name: str
    by: CoolingWay
    medium_c: float
    share_percent: float
    spread_percent: float
    batches: int


class NewVessel(Schema):
    """A vessel with its measures [cm]; what is round needs no width."""

    model_config = ConfigDict(extra="forbid")

    name: Word = Field(min_length=1)
    kind: VesselKind
    length_cm: float
    width_cm: float = 0
    height_cm: float


class VesselOut(Schema):
    """A vessel, and what it holds to the rim."""

    id: int
    name: str
    kind: VesselKind
    length_cm: float
    width_cm: float
    height_cm: float
    holds_ml: float


class RemovedOut(Schema):
    """What was taken off a list, by what it can be put back, and what ended with it."""

    key: int
    name: str
    ended: str = ""


class Hearth(Schema):
    """What there is to cook on and in, to cool with and to keep in."""

    hobs: list[HobOut]
    pans: list[PanOut]
    coolers: list[CoolerOut]
    vessels: list[VesselOut]


class IngredientOut(Schema):
    """One thing of the larder; `also` is what else cooks call it, here and in other languages, `laid` whether
    it is laid in a dish as it is bought, or whipped.

    `named_allergens` says the cereal and the nut, as the European list wants it; `us_allergens` goes by that
    of the United States. `unmodelled` is what it does that the model does not know.
    """

    id: str
    name: str
    also: list[str]
    group: str
    piece: str
    laid: bool
    composition: dict[str, float]
    allergens: list[str]
    named_allergens: list[str]
    us_allergens: list[str]
    unmodelled: str
    range: str
    source_as_remembered: str
    confidence: str


class LearnedFigure(Schema):
    """A figure that batches taught: its mean, one standard deviation, and how many batches spoke."""

    mean: float
    sd: float
    batches: int


class LearnedSauceOut(Schema):
    """What batches say of a sauce, or of the house where `formula` is empty.

    `set_k` is how much later it sets than is computed [K]; `carry_over` and `left` are what pans add off the
    heat, and what stays behind, over what is computed [1].
    """

    formula: str
    used: bool
    at: datetime
    set_k: LearnedFigure
    carry_over: LearnedFigure
    left: LearnedFigure


class LearnedOut(Schema):
    """What a kitchen learned of its sauces; from `speak` batches on a band is narrowed by them."""

    speak: int
    house: LearnedSauceOut | None
    sauces: list[LearnedSauceOut]


class LearnedUse(Schema):
    """Whether to go by what was learned of a sauce; an empty name is the house."""

    model_config = ConfigDict(extra="forbid")

    formula: str = Field("", max_length=200)
    used: bool


class EggOut(Schema):
    """One egg size."""

    size: str
    name: str
    yolk_g: float
    white_g: float


class FamilyOut(Schema):
    """One family of sauces; `baked` says whether it is set in the oven."""

    family: str
    name: str
    baked: bool


class CoolingOut(Schema):
    """One cooling rule; local codes come first."""

    rule: CoolingRuleName
    name: str
    text: str
    caution: str


class WayOut(Schema):
    """One way of cooling."""

    by: CoolingWay
    name: str
    iced: bool


class Larder(Schema):
    """Everything a formula can be made of, and the rules a kitchen can go by; a new one has `usual_rule`."""

    ingredients: list[IngredientOut]
    eggs: list[EggOut]
    families: list[FamilyOut]
    measures: list[Measures]
    words: list[tuple[float, str]]
    components: list[str]
    starches: list[str]
    cooling_rules: list[CoolingOut]
    usual_rule: CoolingRuleName
    coolings: list[WayOut]
