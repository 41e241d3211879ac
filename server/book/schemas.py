"""What the API says about formulas."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal
from uuid import UUID

import custard
from common.text import Name, Note, Word
from common.words import EggClass, FamilyName, Measures
from custard.vocabulary import Need, When
from ninja import Schema
from pydantic import ConfigDict, Field

from book.models import PictureStep

MAX_RECIPE = 500_000
"""Characters of the recipe that stays with a formula."""


class OwnIngredient(Schema):
    """A kitchen's own ingredient."""

    model_config = ConfigDict(extra="forbid")

    name: Word
    composition: dict[str, float]
    allergens: list[Word] = Field(default_factory=list, max_length=20)
    density_g_per_ml: float | None = None


class LineDraft(Schema):
    """One line as typed; where it does not say when it joins, it joins when it usually does."""

    model_config = ConfigDict(extra="forbid")

    ingredient: str | OwnIngredient
    amount: str = Field(max_length=200)
    note: Note = ""
    when: When | None = None
    minutes: float | None = None


class DestinationDraft(Schema):
    """What a part of it is for, as typed: so many of so much each."""

    model_config = ConfigDict(extra="forbid")

    name: Word
    count: float = 1
    amount: str = Field(max_length=200)


class WorkDraft(Schema):
    """Other work beside it, as typed."""

    model_config = ConfigDict(extra="forbid")

    name: Word
    minutes: float
    hands: bool = True
    needs: Need = Need.NOTHING


class CardDraft(Schema):
    """What the recipe says of how it is made, as typed."""

    model_config = ConfigDict(extra="forbid")

    cook_to_c: float | None = None
    boil_s: float | None = None
    oven_c: float | None = None
    bake_min: float | None = None
    bath: bool | None = None
    chill_h: float | None = None
    cup_ml: float | None = None


class Draft(Schema):
    """A formula as typed."""

    model_config = ConfigDict(extra="forbid")

    name: Name
    family: FamilyName
    eggs: EggClass = "EU-M"
    measures: Measures = "metric"
    lines: list[LineDraft] = Field(max_length=100)
    destinations: list[DestinationDraft] = Field(default_factory=list, max_length=20)
    other_work: list[WorkDraft] = Field(default_factory=list, max_length=20)
    card: CardDraft | None = None

    def content(self) -> dict[str, Any]:
        """As plain data, what is empty left out."""
        return self.dict(exclude_none=True)


class Scaling(Schema):
    """A draft and the one size it is wanted at."""

    model_config = ConfigDict(extra="forbid")

    draft: Draft
    by: Literal["yolks", "portions", "dairy", "mass", "destinations"]
    amount: float = Field(1, gt=0, le=1_000_000)
    portion_g: float | None = Field(None, gt=0, le=5000)


class ComputedLine(Schema):
    """What is computed for one line of the Book: a tiny Rule and Spoon's worth of figures."""

    mass_g: float
    yolks: float
    yolk_g_per_l: float | None
    boiling_c: float
    stop_c: float
    window: custard.Window
    hot: custard.Texture
    cold: custard.Texture
    starch_percent: float
    keeps_days: float


class FormulaLine(ComputedLine):
    """One line of the Book."""

    id: int
    name: str
    family: FamilyName
    version: int
    cost: float | None
    archived: bool
    proposed_by: str


class FormulaPage(Schema):
    """A page of the Book by name; `after` asks for the next one. `total` and `found` count all pages."""

    lines: list[FormulaLine]
    after: int | None
    total: int
    found: int
    families: list[FamilyName]
    words: list[str]


class VersionLine(Schema):
    """One earlier version."""

    number: int
    note: str
    by: str
    at: datetime


class ReminderOut(Schema):
    """What to do otherwise next time; `batch` is the number of the one that taught it."""

    id: int
    say: str
    batch: int | None
    by: str
    at: datetime


class FormulaOut(Schema):
    """A formula opened: one version's content, and which versions there are."""

    id: int
    version: int
    latest: int
    draft: Draft
    versions: list[VersionLine]
    archived: bool
    proposed_by: str
    schools: dict[str, str]
    reminders: list[ReminderOut]
    recipe: str
    pictures: list[UUID]


class Named(Schema):
    """A name for a copy."""

    model_config = ConfigDict(extra="forbid")

    name: Name = Field(min_length=1)


class SchoolsChosen(Schema):
    """Schools by question."""

    model_config = ConfigDict(extra="forbid")

    schools: dict[str, str] = Field(max_length=20)


class NewFormula(Schema):
    """A formula for the book; `recipe` is the text that it was read from, as it was pasted, `picture` the
    photograph of it."""

    model_config = ConfigDict(extra="forbid")

    draft: Draft
    recipe: str = Field("", max_length=MAX_RECIPE)
    schools: dict[str, str] = Field(default_factory=dict, max_length=20)
    picture: UUID | None = None


class NewPicture(Schema):
    """A photograph of a recipe or a label; its bytes in base64."""

    model_config = ConfigDict(extra="forbid")

    content: str = Field(max_length=1_000_000)


class PictureOut(Schema):
    """A photograph, and what a worker read in it; `text` is null until it is read.

    `doubtful` are the lines of the text that are hard to read.
    """

    id: UUID
    step: PictureStep
    width: int
    height: int
    text: str | None
    doubtful: list[str]
    refused: str


class PictureReading(Schema):
    """Whether this machine reads pictures, in which languages, and else the packages to install."""

    languages: list[str]
    install: list[str]


class NewVersion(Schema):
    """A changed formula, and the version it was changed from."""

    model_config = ConfigDict(extra="forbid")

    draft: Draft
    base: int
    note: Note = ""
