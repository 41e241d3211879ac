"""What the API says about a mix being changed."""

from __future__ import annotations

from typing import Annotated, Literal

import custard
from book.schemas import MAX_RECIPE, CardDraft, Draft, FormulaOut
from common.text import Name, Word
from common.words import OneOf
from custard.vocabulary import Coat, When
from ninja import Schema
from pydantic import ConfigDict, Field

HandleName = Annotated[str, OneOf(lambda: custard.bench.HANDLES)]
Target = Annotated[Coat, OneOf(lambda: (coat for coat in Coat if coat != Coat.RUNS_OFF))]


class HandleOut(Schema):
    """One handle: where it stands and how far it turns, in its unit."""

    name: HandleName
    unit: str
    value: float
    low: float
    high: float


class SchoolOut(Schema):
    """One way of doing a thing; temperatures stand as "{82.4 C}"."""

    school: str
    name: str
    reason: str
    consequence: str


class QuestionOut(Schema):
    """One thing cooks disagree about."""

    question: str
    name: str
    usual: str
    schools: list[SchoolOut]


class MeasuresOut(Schema):
    """One line in the four measuring worlds."""

    name: str
    mass_g: float
    metric: str
    us: str
    imperial: str
    au: str


class FactsOut(Schema):
    """What else comes of it."""

    cost: float | None
    currency: str
    no_price: list[str]
    whites_left_g: float
    meringue_sugar_g: float
    keeps_days: float
    keeps_why: str
    cooling_text: str
    sweetness_per_100g: float
    freezing_point_c: float
    frozen: list[custard.Frozen]
    churned: bool


class DetailsOut(Schema):
    """Everything slower than a keystroke that the Bench shows of one mix."""

    handles: list[HandleOut]
    sensitivities: list[custard.bench.Sensitivity]
    questions: list[QuestionOut]
    measures: list[MeasuresOut]
    facts: FactsOut


class BandOut(Schema):
    """How sure the answer is: four kitchens in five lie between the two temperatures, or yield stresses."""

    thickens_c: list[float] | None
    nappe_c: list[float] | None
    heavy_c: list[float] | None
    curdles_c: list[float] | None
    hot_pa: list[float] | None
    cold_pa: list[float] | None


class Axes(Schema):
    """The two handles laid against each other."""

    model_config = ConfigDict(extra="forbid")

    x: HandleName = "yolk"
    y: HandleName = "starch"


class MapOf(Axes):
    """A draft, the two handles to lay against each other, and where every cell is lifted."""

    draft: Draft
    lift_c: float | None = Field(None, ge=40, le=130)


class MapOut(Schema):
    """The ratio map: grids of y rows by x columns."""

    x_name: HandleName
    y_name: HandleName
    x_unit: str
    y_unit: str
    x: list[float]
    y: list[float]
    x_g: list[float]
    y_g: list[float]
    here: list[float]
    lift_c: float
    boiled: bool
    stress_pa: list[list[float]]
    film_mm: list[list[float]]
    nappe_c: list[list[float | None]]
    curdles_c: list[list[float | None]]
    labels: list[tuple[str, float, float]]


class Turning(Schema):
    """A draft and where its handles are wanted; the map that is on show can be asked for with it."""

    model_config = ConfigDict(extra="forbid")

    draft: Draft
    values: dict[HandleName, float] = Field(default_factory=dict)
    starch_kind: Word | None = None
    map: Axes | None = None
    formula_id: int | None = None


class TurnedOut(Schema):
    """The draft with its handles turned, what it becomes, and its map in fewer points if asked for."""

    draft: Draft
    assessment: custard.stove.Overview
    map: MapOut | None


class Wanted(Schema):
    """What a solver is asked for: one of the goals, under the limits."""

    model_config = ConfigDict(extra="forbid")

    draft: Draft
    goal: Literal["texture", "dairy", "chocolate", "yolks"]
    texture: Target | None = None
    at_c: float = Field(4.0, ge=-2, le=95)
    ingredient: Word | None = None
    yolks: float | None = Field(None, gt=0, le=2000)
    max_yolks: float | None = Field(None, ge=0, le=2000)
    max_starch_g: float | None = Field(None, ge=0, le=100_000)
    max_fat_percent: float | None = Field(None, ge=0, le=100)
    max_cost: float | None = Field(None, ge=0, le=1_000_000)


class SolutionOut(Schema):
    """A changed draft, line by line what changes, and what it then is, as the Bench tells it.

    `why` says why it is only the nearest to what was wanted, where it is; `binds` which limit stopped it;
    `lift_c` where it is lifted when nothing is weighed differently.
    """

    title: str
    draft: Draft
    changes: list[str]
    differences: list[str]
    reached: str
    binds: str
    why: str
    lift_c: float | None
    assessment: custard.stove.Overview


class Fitting(Schema):
    """A dish to fill, or a pan to stay within."""

    model_config = ConfigDict(extra="forbid")

    draft: Draft
    vessel: Literal["dish", "pan"]
    shape: Literal["round", "oval", "rectangle", "cups"] = "round"
    length_cm: float
    width_cm: float = 1.0
    height_cm: float
    count: float = 1.0
    filled: float = 0.9
    head_room: float = 0.4


class FittedOut(Schema):
    """The draft at the size that fits; of a pan, in how many batches."""

    holds_ml: float
    fills: float | None
    batches: int
    draft: Draft
    say: str


class ToppingUp(Schema):
    """What is left of the dairy after infusing or poaching [g]."""

    model_config = ConfigDict(extra="forbid")

    draft: Draft
    left_g: float = Field(ge=0, le=1_000_000)


class TopUpLine(Schema):
    """One thing to add [g]."""

    name: str
    grams: float


class TopUpOut(Schema):
    """What brings it back to its weight."""

    missing_g: float
    add: list[TopUpLine]


class Compared(Schema):
    """Two formulas side by side."""

    a: FormulaOut
    b: FormulaOut
    a_is: custard.stove.Overview
    b_is: custard.stove.Overview
    lines: list[str]
    differences: list[str]


class LayerWanted(Schema):
    """One layer of a dish: a formula of the book, or a thing of the larder by its id; and how high it stands
    [mm], or what all dishes take of it [g]."""

    model_config = ConfigDict(extra="forbid")

    formula_id: int | None = None
    ingredient: Word | None = None
    height_mm: float | None = None
    grams: float | None = Field(None, gt=0, le=500_000)


class Building(Schema):
    """A dish built up in layers, from the bottom."""

    model_config = ConfigDict(extra="forbid")

    shape: Literal["round", "oval", "rectangle", "cups"] = "round"
    length_cm: float
    width_cm: float = 1.0
    count: float = 1.0
    layers: list[LayerWanted] = Field(min_length=1, max_length=12)


class Crusting(Schema):
    """A dish that gets a burnt crust: how wide it is [cm], and its sugar [g] where that is given."""

    model_config = ConfigDict(extra="forbid")

    diameter_cm: float
    grams: float | None = None


class Imported(Schema):
    """Text to read: an Old Spoon formula or a schema.org Recipe as JSON, a saved web page, or plain text.

    `doubtful` are the lines that were hard to read, where the text comes from a picture; else it is null.
    """

    model_config = ConfigDict(extra="forbid")

    text: str = Field(max_length=MAX_RECIPE)
    doubtful: list[str] | None = Field(None, max_length=500)


class Bundle(Schema):
    """A file that may hold many recipes: a zip, a table, or one text; its bytes in base64."""

    model_config = ConfigDict(extra="forbid")

    name: Name = Field(min_length=1)
    content: str = Field(max_length=1_000_000)


class BundledOut(Schema):
    """One text of such a file; `why` says why it is left out."""

    name: str
    text: str
    why: str


class ReadOption(Schema):
    """Another ingredient, or another amount, that a line may mean."""

    ingredient: str
    name: str
    amount: str


class ReadLineOut(Schema):
    """One line of a recipe as it was read: what was assumed, and what stays open."""

    text: str
    ingredient: str = Field(description='of the larder; or one of the kitchen\'s own, as "own 7"')
    amount: str
    grams: float | None
    when: When | None
    minutes: float | None
    note: str
    assumed: list[str]
    why: str
    as_note: bool
    optional: bool
    unmodelled: str
    options: list[ReadOption]


class ReadSetting(Schema):
    """One thing that a sentence of a method decides."""

    what: str
    value: str


class ReadStep(Schema):
    """One sentence of a method."""

    text: str
    settings: list[ReadSetting]


class ImportOut(Schema):
    """What was read: a whole draft, or the lines of a recipe with its family and its method.

    `ours` says whether the family is one of ours; else it is the nearest, and `missing` says what is not
    computed. `card` is what the recipe says in figures. `text` is what a person reads
    of the recipe: what was pasted, or a page without its marks.
    """

    name: Name
    text: str
    draft: Draft | None
    family: str
    ours: bool
    why: str
    missing: str
    eggs: str
    measures: str
    lines: list[ReadLineOut]
    method: list[ReadStep]
    notes: list[str]
    serves: str
    schools: dict[str, str]
    card: CardDraft | None
