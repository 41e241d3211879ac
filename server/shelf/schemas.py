"""What the API says about the shelf."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal
from uuid import UUID

import custard
from common.moments import Moment
from common.text import Note, Word
from common.words import OneOf
from custard.vocabulary import Place, Verdict
from ninja import Schema
from pydantic import AfterValidator, BaseModel, ConfigDict, Field
from stove.live_schemas import CoolingLine

from shelf.models import Contents, MovementKind

MoveKind = Annotated[
    MovementKind,
    OneOf(lambda: (kind for kind in MovementKind if kind not in (MovementKind.MADE, MovementKind.MENDED))),
]
"""What is done with a tub by hand; it is made by a closing, and mended by a remedy."""
TaskKind = Literal[
    "throw", "freeze", "use-first", "label", "cover", "cooling", "open", "warm", "thaw", "decide"
]
LabelSize = Literal["roll-62", "a4"]
MOST_G = 1_000_000
LEAST_G = 0.1
"""The shelf counts in tenths of a gram."""


def _nothing_or_something(grams: float) -> float:
    if 0 < grams < LEAST_G:
        raise ValueError(f"is 0 or at least {LEAST_G:g} g")
    return grams


Grams = Annotated[float, Field(ge=0, le=MOST_G), AfterValidator(_nothing_or_something)]


class Closing(Schema):
    """How a batch ended: what it weighed then [g] if somebody weighed it, what of it goes on the shelf, and
    the whites that are kept; what nobody says is taken as planned, and nothing of one that is discarded."""

    model_config = ConfigDict(extra="forbid")

    verdict: Verdict
    note: Note = ""
    yield_g: float | None = Field(None, gt=0, le=MOST_G)
    kept_g: Grams | None = None
    whites_g: Grams | None = None


class Decision(Schema):
    """That a batch may be used although its record does not show that it was cooked or cooled: the reason."""

    model_config = ConfigDict(extra="forbid")

    reason: Note = Field(min_length=3)


class NewMove(Schema):
    """Something done with a tub. The id is made by the device, so that a movement sent twice counts once.

    `anyway` goes past what is advised: churning too early, or using what is past its time, with a note.
    """

    model_config = ConfigDict(extra="forbid")

    id: UUID
    kind: MoveKind
    at: Moment | None = None
    grams: Grams | None = None
    to: Word = ""
    into_batch_id: int | None = None
    promise_id: int | None = None
    celsius: float | None = Field(None, ge=-40, le=110)
    note: Note = ""
    corrects: UUID | None = None
    anyway: bool = False


class NewPromise(Schema):
    """That so much of a tub [g] is for a dish."""

    model_config = ConfigDict(extra="forbid")

    grams: float = Field(ge=LEAST_G, le=MOST_G)
    dish: Word = Field(min_length=1)
    due_at: Moment | None = None


class Plain(BaseModel):
    """An answer of many lines: told as it is made, and not looked at once more attribute by attribute as rows
    of a model are, which takes longer than the database does."""


class PromiseOut(Plain):
    """A promise that stands."""

    id: int
    grams: float
    dish: str
    due_at: datetime | None
    by: str


class TubLine(Plain):
    """One tub on the shelf."""

    id: int
    batch_id: int
    batch: int
    part: int
    what: Contents
    name: str
    family: str
    allergens: list[str]
    unheated: list[str]
    vulnerable: bool
    vessel: str
    place: Place
    made_at: datetime
    made_by: str
    ready_at: datetime | None
    ready_for: str
    made_g: float
    left_g: float
    promised_g: float
    promises: list[PromiseOut]
    opened_at: datetime | None
    warm_c: float | None
    filmed: bool
    labelled: bool
    use_by: datetime
    use_by_why: str
    past: bool
    undecided: bool
    soon: bool
    rests: bool
    freezes: bool
    freezing: str
    stir: list[str]


class Totals(Plain):
    """What there is, over all tubs [g], and how much of it is past its time or must be used by tonight."""

    fridge_g: float
    frozen_g: float
    warm_g: float
    whites_g: float
    tubs: int
    past: int
    today: int


class ShelfOut(Plain):
    """The shelf: what cools, then tubs soonest first, a page of them; `after` asks for the next."""

    at: datetime
    totals: Totals
    cooling: list[CoolingLine]
    tubs: list[TubLine]
    after: str | None


class MovementOut(Plain):
    """A movement as kept; `undone` says that another took it back."""

    id: UUID
    kind: MovementKind
    at: datetime
    by: str
    change_g: float
    to: str
    into_batch_id: int | None
    into_batch: str
    other_tub_id: int | None
    celsius: float | None
    note: str
    undone: bool
    can_undo: bool


class TubOut(Plain):
    """One tub with all that was ever done with it."""

    tub: TubLine
    movements: list[MovementOut]


class LabelsWanted(Schema):
    """Of which tubs, and on what."""

    tub: list[int] = Field(min_length=1, max_length=60)
    size: LabelSize = "roll-62"


class Stop(Plain):
    """One step of a chain: so much of a tub [g] of a batch, and the dish or the batch it went into."""

    tub_id: int
    batch_id: int
    batch: int
    name: str
    made_at: datetime
    grams: float
    at: datetime
    to: str
    into_batch_id: int | None
    into_batch: str
    by: str
    steps: int


class Trace(Plain):
    """What went into a batch, and where it went, through all batches in between; for a recall."""

    batch_id: int
    batch: int
    name: str
    allergens: list[str]
    came_from: list[Stop]
    went_to: list[Stop]
    left: list[TubLine]


class WhitesOut(Schema):
    """The whites: what was made, used, frozen and thrown away in so many days [g], and what there is."""

    days: int
    made_g: float
    used_g: float
    frozen_g: float
    thrown_g: float
    there_g: float
    uses: list[custard.after.WhitesUse]


class LabelOut(Schema):
    """A label: words as they are printed, and the QR code as a path on a square of `size` modules.

    `throw_away` says why it may not be eaten any more; "" where it may.
    """

    tub_id: int
    name: str
    batch: str
    made: str
    use_by: str
    use_by_why: str
    throw_away: str
    allergens: str
    unheated: str
    undecided: bool
    changed: str
    storage: str
    grams: str
    who: str
    vulnerable: bool
    url: str
    qr: str
    size: int


class Task(Schema):
    """One thing to do before the day is closed; `tub_id` or `batch_id` is what it is about."""

    kind: TaskKind
    say: str
    allergens: list[str]
    tub_id: int | None = None
    batch_id: int | None = None
    must: bool


class ClosingOut(Schema):
    """The list before a day is closed, and who signed it."""

    day: date
    tasks: list[Task]
    allergens: list[str]
    signed: list[Signed]


class Signed(Schema):
    """That someone closed the day."""

    at: datetime
    by: str
    note: str
    left: int


class Signing(Schema):
    """Closing a day; what is still to do is explained in the note."""

    model_config = ConfigDict(extra="forbid")

    id: UUID
    day: date
    note: Note = ""


ClosingOut.model_rebuild()


class ThrownMonth(Schema):
    """What was thrown away in a month ("2026-03"), by what it was [g]."""

    month: str
    what: Contents
    grams: float


class ThrownWhy(Schema):
    """Why something was thrown away, as it was written: how much in all [g], and how often."""

    why: str
    grams: float
    times: int
