"""What the API says when something has gone wrong."""

from __future__ import annotations

from typing import Annotated, Literal
from uuid import UUID

import custard
from common.text import Note, Word
from common.words import FamilyName
from custard.vocabulary import StageName
from ninja import Schema
from pydantic import ConfigDict, Field, model_validator


class Seen(Schema):
    """Something that can be seen; `met` says whether it can be met in this sauce."""

    fault: str
    name: str
    met: bool


class About(Schema):
    """The sauce that something is wrong with: a batch, a tub of it, a formula that nobody has begun, or one
    of which only the family is known. A tub goes before its batch, a batch before its formula.
    """

    model_config = ConfigDict(extra="forbid")

    batch_id: int | None = None
    tub_id: int | None = None
    formula_id: int | None = None
    family: FamilyName | None = None

    @property
    def nothing(self) -> bool:
        """Whether no sauce is named."""
        named = (self.batch_id, self.tub_id, self.formula_id, self.family)
        return all(one is None for one in named)


class Asked(About):
    """What is seen, and what was answered by now; `have_g` is how much of it there is, all by default."""

    fault: Word
    said: dict[str, float] = Field(default_factory=dict, max_length=12)
    have_g: float | None = Field(None, ge=1, le=1_000_000)

    @model_validator(mode="after")
    def of_one(self) -> Asked:
        """There is no answer without a sauce."""
        if self.nothing:
            raise ValueError("say which batch, tub, formula or family it is about")
        return self


class Taking(Asked):
    """A remedy that is taken. The id is made by the device, so that a remedy sent twice counts once."""

    id: UUID


class Sauce(Schema):
    """What a trouble is about, as it stands: `left_g` is how much of it there is. Where only the family is
    known there is no formula, and `name` is that of the family.
    """

    batch_id: int | None
    number: int | None
    tub_id: int | None
    tub: int | None
    formula_id: int | None
    name: str
    left_g: float
    off_s: float | None
    stage: StageName | None
    closed: bool
    read: bool


class AfterOut(Schema):
    """What it will be once the remedy is done."""

    yields_g: float
    window: custard.Window
    stop_c: float
    boiling_c: float


class TroubleOut(Schema):
    """Everything that is said of a trouble. `takes` says whether the remedy can be written down here."""

    sauce: Sauce
    fault: str
    name: str
    causes: list[custard.trouble.Cause]
    questions: list[custard.trouble.Question]
    now: custard.trouble.Rescued
    have_g: float
    after: AfterOut
    life: custard.after.Life
    allergens: list[str]
    new_allergens: list[str]
    curve: custard.trouble.Happened | None
    change: custard.trouble.Change | None
    unknown: str
    unsafe: str
    caution: str
    takes: bool


class TroubleTaken(Schema):
    """A remedy that was written down: the mark it is, and where."""

    batch_id: int
    mark_id: UUID


class Changing(Schema):
    """A change of the formula as it was proposed: a line from what to what, or a school of cooks."""

    model_config = ConfigDict(extra="forbid")

    kind: Literal["line", "school"]
    say: Note
    ingredient: Word = ""
    from_g: float = Field(0, ge=0, le=1_000_000)
    to_g: float = Field(0, ge=0, le=1_000_000)
    question: Word = ""
    answer: Word = ""


class NextTime(Schema):
    """What to do otherwise next time: in words, or as the change of the formula that was proposed.

    `of_g` is how much the batch weighed that it was proposed for, so that a line is changed in proportion.
    """

    model_config = ConfigDict(extra="forbid")

    say: Annotated[Note, Field(min_length=1)]
    change: Changing | None = None
    of_g: float | None = Field(None, gt=0, le=1_000_000)
    batch: int | None = Field(None, ge=1, le=2**31 - 1)


class NextTimeOut(Schema):
    """What was written: a reminder, a new version of the formula, or how it is made."""

    wrote: str
    version: int
