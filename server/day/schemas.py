"""What the API says about days."""

from __future__ import annotations

from datetime import date, datetime
from typing import Literal

import custard  # noqa: F401 - ninja resolves the annotations of core's dataclasses by it
from custard import planning
from custard.vocabulary import WayName
from ninja import Schema
from pydantic import Field

from day.requests import CalendarDay, Count, OtherIn


class RoomOut(Schema):
    """What there is to work with besides hands; ice null for plenty, bowls null for none needed."""

    rings: Count = 2
    steam: Count = 1
    ice_bath: Count = 2
    ovens: Count = 1
    churns: Count = 1
    ice_g: float | None = Field(None, ge=0, le=1_000_000)
    ice_g_h: float = Field(0, ge=0, le=1_000_000)
    bowls: Count | None = None


class HandsOut(Schema):
    """The same as it stands."""

    id: int
    name: str
    there: list[list[int]]
    revision: int


class WantOut(Schema):
    """The same as it stands, with where it comes from.

    `drawn_g` comes out of tubs, by their ids; `job` is the batch that is made of the rest, if any.
    """

    id: int
    name: str
    formula_id: int
    formula: str
    at: int
    covers: float
    each: str
    batch_id: int | None
    batch: int | None
    revision: int
    job: str | None
    drawn_g: float
    tubs: list[int]


class OtherOut(OtherIn):
    """The same as it stands."""

    id: int
    revision: int


class StepOut(Schema):
    """A step on the board.

    `start` and `end` are where the plan has it, `begins` and `ends` how it is believed to go from now; its
    `state` says whether it is still to come. `minutes` and `batches` are what the plan counts on, and how
    many of this kitchen's batches that was learned from.
    """

    job: str
    place: int
    step: str
    say: str
    start: int
    end: int
    begins: int
    ends: int
    state: Literal["to come", "running", "over"]
    late: bool
    pinned: bool
    share: float
    hands_id: int | None
    at: dict[str, int]
    needs: list[str]
    minutes: float
    spread_min: float
    batches: int


class JobOut(Schema):
    """A batch, or other work: its steps belong to it, `tint` tells it apart in every lane.

    `short` is what it is, `name` says what for as well.
    """

    key: str
    name: str
    short: str
    tint: int
    due: int | None
    ready: int
    spare_min: int | None
    late_min: int
    chance: float | None
    brittle: str
    wants: list[int]
    batch_id: int | None
    formula_id: int | None
    grams: float | None


class HelpOut(Schema):
    """One change with which nothing is late."""

    number: int
    kind: Literal["helper", "more", "earlier", "later", "ice", "unpin", "without", "both"]
    say: str
    minutes: int


class Danger(Schema):
    """A deadline that will be missed as things are, and the step that holds it up."""

    job: str
    late_min: int
    say: str


class Promised(Schema):
    """What of the shelf is promised for this day."""

    dish: str
    grams: float
    at: int
    tub_id: int
    tub: str
    formula_id: int
    past: bool


class NextThing(Schema):
    """What a pair of hands is at, and what comes next for it."""

    hands_id: int
    name: str
    at: StepOut | None
    then: StepOut | None


class PlanOut(Schema):
    """The plan as it stands; `fresh` says whether it is of all that is wanted now, `sure` how far from
    proven it is."""

    state: Literal["first", "looking", "done", "none"]
    fresh: bool
    made_at: datetime
    late_min: int
    sure: str
    why: str
    helps: list[HelpOut]
    tightest: str
    say: str


class DayOut(Schema):
    """A day: what is wanted, who is there, the plan, and how it goes on from now.

    `now` is the minute it is there, null for another day than today. `there` says whether anything of it
    was written down yet, `over` whether it has been.
    """

    there: bool
    over: bool
    date: CalendarDay
    now: int | None
    revision: int
    room: RoomOut
    hands: list[HandsOut]
    wants: list[WantOut]
    others: list[OtherOut]
    jobs: list[JobOut]
    steps: list[StepOut]
    dangers: list[Danger]
    promised: list[Promised]
    next_things: list[NextThing]
    plan: PlanOut | None


class DayLine(Schema):
    """A day in the list of days."""

    date: CalendarDay
    wants: int
    late_min: int | None


class TemplateLine(Schema):
    """A template."""

    id: int
    name: str
    wants: int


class DaysOut(Schema):
    """The days around one, and the templates."""

    today: CalendarDay
    days: list[DayLine]
    templates: list[TemplateLine]


class BatchTaken(Schema):
    """The batch that was started."""

    batch_id: int


class HouseOut(Schema):
    """The same as it was said."""

    ingredient: str
    amount: str
    grams: float


class ListsOut(Schema):
    """The lists of a day, with what is said to be in the house."""

    date: CalendarDay | None
    lists: planning.Lists
    house: list[HouseOut]
    currency: str
    ice_to_make_g: float
    bowl_say: str


class StepAfter(Schema):
    """A step as planned, and as it was [min]."""

    job: str
    name: str
    say: str
    planned: int
    took: float
    planned_at: int
    began_at: int


class LessonOut(Schema):
    """What the kitchen's batches taught the minutes of a stage."""

    way: WayName
    lesson: planning.Lesson
    say: str


class DayAfterOut(Schema):
    """What a day really took, and what that teaches."""

    steps: list[StepAfter]
    planned_min: int
    took_min: int
    lessons: list[LessonOut]
    say: str


class CalendarOut(Schema):
    """Whether there is an address to subscribe to; the address itself is told once, when it is made."""

    there: bool
    made_at: datetime | None
    address: str | None


class Upcoming(Schema):
    """A batch that is likely next: why, and how it is begun: a job of a day, or the formula as it is."""

    formula_id: int
    name: str
    say: str
    when: date | None
    job: str | None
