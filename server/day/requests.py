"""What is asked of days over the API."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

from common.moments import Moment
from common.text import Word
from custard import planning
from custard.vocabulary import Need
from ninja import Schema
from pydantic import ConfigDict, Field, StringConstraints

CalendarDay = Annotated[date, Field(ge=date(2000, 1, 1), lt=date(2100, 1, 1))]
"""A date of this century; the name is free for fields."""
At = Annotated[
    int,
    Field(ge=planning.EARLIEST, le=planning.LATEST, description="minutes since the day's midnight"),
]
Span = Annotated[list[At], Field(min_length=2, max_length=2, description="from when until when")]
Count = Annotated[int, Field(ge=0, le=12)]
Amount = Annotated[str, StringConstraints(strip_whitespace=True, max_length=40)]
Named = Annotated[Word, Field(min_length=1)]


class RoomChange(Schema):
    """What of it is changed; what is not sent stays."""

    model_config = ConfigDict(extra="forbid")

    rings: Count | None = None
    steam: Count | None = None
    ice_bath: Count | None = None
    ovens: Count | None = None
    churns: Count | None = None
    ice_g: float | None = Field(None, ge=0, le=1_000_000)
    ice_g_h: float | None = Field(None, ge=0, le=1_000_000)
    bowls: Count | None = None


class HandsIn(Schema):
    """A pair of hands: what they are called, and from when until when they are there."""

    model_config = ConfigDict(extra="forbid")

    name: Named
    there: list[Span] = Field(min_length=1, max_length=4)
    seen: int | None = None


class WantIn(Schema):
    """A dish with covers and a time, or a formula as it is with a time."""

    model_config = ConfigDict(extra="forbid")

    formula_id: int
    name: Word = ""
    at: At
    covers: float = 1
    each: Amount = ""


class WantChange(Schema):
    """What of it is changed, and in which state of it that was seen; what is not sent stays."""

    model_config = ConfigDict(extra="forbid")

    seen: int
    name: Named | None = None
    at: At | None = None
    covers: float | None = None
    each: Amount | None = None


class OtherIn(Schema):
    """Other work."""

    model_config = ConfigDict(extra="forbid")

    name: Named
    minutes: float = Field(ge=1, le=1440)
    hands: bool = True
    needs: Need = Need.NOTHING
    by: At | None = None


class OtherChange(Schema):
    """What of it is changed, and in which state of it that was seen."""

    model_config = ConfigDict(extra="forbid")

    seen: int
    name: Named | None = None
    minutes: float | None = Field(None, ge=1, le=1440)
    hands: bool | None = None
    needs: Need | None = None
    by: At | None = None


class Moving(Schema):
    """Where a step is put, and in whose hands; without `start` it goes where there is room for it.

    With `anyway` it is put there though something comes late.
    """

    model_config = ConfigDict(extra="forbid")

    job: Word
    step: Word
    start: At | None = None
    hands_id: int | None = None
    anyway: bool = False


class Doing(Schema):
    """That a step began, or ended, or that neither is so."""

    model_config = ConfigDict(extra="forbid")

    job: Word
    step: Word
    what: Literal["begun", "ended", "neither"]
    at: Moment | None = None
    hands_id: int | None = None


class ToStove(Schema):
    """Which job's batch is taken to the stove."""

    model_config = ConfigDict(extra="forbid")

    job: Word


class Copying(Schema):
    """What a day is copied from: another day or a template; its hands and room come along."""

    model_config = ConfigDict(extra="forbid")

    date: CalendarDay | None = None
    template_id: int | None = None


class Keeping(Schema):
    """Under what name a day is kept as a template."""

    model_config = ConfigDict(extra="forbid")

    name: Named


class HelpWanted(Schema):
    """Which of the changes that help is made, by its number, and its words, so that it is the one meant."""

    model_config = ConfigDict(extra="forbid")

    number: int = Field(ge=0, le=50)
    say: str = Field(max_length=4000)


class HouseIn(Schema):
    """How much of an ingredient is in the house, in any measure; "" for none."""

    model_config = ConfigDict(extra="forbid")

    ingredient: Named
    amount: Amount
