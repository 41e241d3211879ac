"""What the API says about practice."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

import custard
from common.text import Note, Word
from common.words import PanKind
from custard import practice
from custard.vocabulary import Difficulty, ExerciseKind, ProbeKind, Surprise
from ninja import Schema
from pydantic import Field, FiniteFloat

Mark = Literal["not yet", "with help", "well", "very well"]
Criterion = Literal["mise-en-place", "hygiene", "tempering", "consistency", "cooling", "plate"]
MOST_ACTS = 400
"""So many acts come in one message at most: a whisk that was drawn for a while without a network."""
LONGEST_S = practice.LONGEST_S


class Hidden(Schema):
    """How a formula is practised: what hides the hob, and what else may happen."""

    difficulty: Difficulty = Difficulty.USUAL
    pan: PanKind = "clad"
    surprise: Surprise = Surprise.NONE
    probe: ProbeKind = ProbeKind.HIDDEN


class Beginning(Hidden):
    """An attempt to begin: at what an attempt of one's own was at (`like` is its id), at an exercise of ours
    by its key or of the kitchen's, at any formula of the Book, or at a batch that was made, from `from_s` on,
    counted from its first reading in the pan."""

    id: UUID
    like: int | None = None
    key: Word = ""
    exercise_id: int | None = None
    formula_id: int | None = None
    batch_id: int | None = None
    from_s: FiniteFloat = Field(0, ge=0, le=86_400)


Did = dict[Word, FiniteFloat | Word]
"""One thing done: when [s], what, and what it needs to be told; core says what is wrong with it."""


class Playing(Schema):
    """Acts that follow the `after` messages that came before, and how far the clock has gone [s]."""

    after: int = Field(ge=0, le=1_000_000)
    acts: Annotated[list[Did], Field(max_length=MOST_ACTS)]
    until: FiniteFloat = Field(ge=0, le=LONGEST_S)


class Shown(Schema):
    """What there is to see, after so many messages."""

    after: int
    picture: practice.Picture
    ended: bool


class ThatDay(Schema):
    """What was read of a batch that is cooked again, since the moment from which it is: seconds, and degC;
    `window` and `boiling_c` are its mix's."""

    batch_id: int
    t_s: list[float]
    c: list[float]
    off_s: float | None
    window: custard.Window
    boiling_c: float


class AttemptOut(Schema):
    """An attempt, with what there is to see of it and, once it is over, what was said."""

    id: int
    name: str
    who: str
    person_id: int
    mine: bool
    key: str
    kind: ExerciseKind
    tell: str
    why: str
    formula: str
    grams: float
    over_steam: bool
    begun_at: datetime
    again_of: int | None
    again_s: float | None
    after: int
    picture: practice.Picture
    question: practice.PracticeQuestion | None
    ended: bool
    debrief: practice.Debrief | None
    that_day: ThatDay | None
    sheets: list[int]


class Again(Schema):
    """Play it again from a moment [s]."""

    id: UUID
    from_s: FiniteFloat = Field(ge=0, le=LONGEST_S)


class LearnedSign(Schema):
    """A sign, and whether it is recognised."""

    sign: str
    name: str
    known: bool


class AttemptLine(Schema):
    """An attempt in a line."""

    id: int
    name: str
    who: str
    begun_at: datetime
    ended: bool
    points: int | None
    passed: bool | None


class ExerciseOut(Schema):
    """An exercise, with what has come of it."""

    key: str
    exercise_id: int | None
    name: str
    kind: ExerciseKind
    tell: str
    formula: str
    signs: list[str]
    tries: int
    best: int | None
    passed: bool


class SetOut(Schema):
    """An exercise that was set for somebody."""

    id: int
    key: str
    exercise_id: int | None
    name: str
    person_id: int
    who: str
    by: str
    note: str
    set_at: datetime
    passed: bool


class PersonOut(Schema):
    """Somebody of this kitchen."""

    id: int
    name: str


class BookOut(Schema):
    """A trainee's book: what was learned, and what is to be done."""

    person: PersonOut
    exercises: list[ExerciseOut]
    signs: list[LearnedSign]
    set: list[SetOut]
    lately: list[AttemptLine]
    open: AttemptLine | None
    sheets: list[SheetLine]


class PracticeOut(Schema):
    """The place: one's own book, and for a chef the people of the section."""

    book: BookOut
    people: list[PersonOut]


class SectionLine(Schema):
    """One of the section: how much of it they know."""

    person: PersonOut
    passed: list[str]
    signs: list[str]
    attempts: int
    last_at: datetime | None
    sheets: int


class SectionOut(Schema):
    """The section: everybody beside every exercise."""

    exercises: list[ExerciseColumn]
    signs: list[LearnedSign]
    people: list[SectionLine]


class ExerciseColumn(Schema):
    """An exercise as a column."""

    key: str
    name: str


class NewExercise(Hidden):
    """An exercise that a chef makes of a formula of the Book."""

    formula_id: int
    name: Word = Field(min_length=1)
    tell: Note = ""


class ExerciseMade(Schema):
    """An exercise that a chef made."""

    id: int
    name: str


class NewSet(Schema):
    """An exercise to be done by somebody."""

    key: Word = ""
    exercise_id: int | None = None
    person_id: int
    note: Note = ""


class CriterionOut(Schema):
    """One thing that is looked at, what of it, and how it was."""

    key: Criterion
    name: str
    look: str
    mark: Mark | None


class SheetLine(Schema):
    """A sheet in a line."""

    id: int
    over: str
    at: datetime
    by: str
    marked: int


class SheetOut(Schema):
    """An assessment sheet."""

    id: int
    person: PersonOut
    by: str
    over: str
    at: datetime
    batch_id: int | None
    attempt_id: int | None
    criteria: list[CriterionOut]
    note: str
    revision: int


class NewSheet(Schema):
    """A sheet to be begun: of whom, over a batch, an attempt, or something else by its name."""

    person_id: int
    batch_id: int | None = None
    attempt_id: int | None = None
    over: Word = ""


class Marking(Schema):
    """What a chef touched: marks by criterion, the whole of them, and a note; of which state of the sheet."""

    marks: dict[Criterion, Mark]
    note: Note = ""
    revision: int


BookOut.model_rebuild()
SectionOut.model_rebuild()
