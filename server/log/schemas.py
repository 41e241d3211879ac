"""What the API says about the log."""

from __future__ import annotations

from datetime import date, datetime

import custard
import custard.learning
from book.schemas import Draft
from common.text import Word
from custard.vocabulary import StageName, Verdict
from devices.schemas import ProbeCheckOut
from ninja import Schema
from pydantic import ConfigDict, Field
from shelf.schemas import ThrownMonth, ThrownWhy
from stove.schemas import HobMonth, MonthOut, StageMonth


class Choice(Schema):
    """A hob or a pan by its name."""

    id: int
    name: str


class StageTemperature(Schema):
    """What the temperature at the end of a stage is called, what was planned, and what somebody read."""

    stage: StageName
    target: str
    planned_c: float | None
    left_c: float | None


class LogLine(Schema):
    """One batch, plan beside fact; null where nothing was marked."""

    id: int
    number: int
    name: str
    family: str
    started_at: datetime
    started_by: str
    closed_at: datetime | None
    minutes: float | None
    stage: StageName
    verdict: Verdict | None
    verdict_note: str
    temperatures: list[StageTemperature]
    planned_coat: str
    coat: str
    finger_line: str
    sieve: str
    yield_g: float | None
    odd: bool


FIRST_DAY, LAST_DAY = date(1970, 1, 1), date(9000, 1, 1)
"""Beyond them no calendar counts on."""


class LogAsked(Schema):
    """What is looked for in the log; what is left out is not asked for.

    `words` are looked for in names, verdicts and notes; `wrong` means that a trouble was marked, `fault`
    which. `until` is the last day that counts.
    """

    model_config = ConfigDict(extra="forbid")

    before: int | None = None
    number: int | None = Field(None, ge=0, le=2**31 - 1)
    words: str = Field("", max_length=100)
    family: Word | None = None
    formula_id: int | None = None
    verdict: Verdict | None = None
    person: Word | None = None
    hob_id: int | None = None
    pan_id: int | None = None
    since: date | None = Field(None, ge=FIRST_DAY, le=LAST_DAY)
    until: date | None = Field(None, ge=FIRST_DAY, le=LAST_DAY)
    wrong: bool = False
    fault: Word | None = None
    odd: bool | None = None


class NewView(Schema):
    """What is looked for, to be kept under a name."""

    model_config = ConfigDict(extra="forbid")

    name: Word = Field(min_length=1)
    asked: LogAsked


class ViewOut(Schema):
    """What somebody looks for, by the name that they gave it."""

    id: int
    name: str
    asked: LogAsked


class ProposedVersion(Schema):
    """A next version of a formula, from what was learned: in what it differs, why, from how many batches."""

    version: int
    say: str
    why: str
    batches: int
    draft: Draft


class LaidBatch(Schema):
    """A batch to be laid over others: its curve and moments, its plan's ghost, and what came of it."""

    id: int
    number: int
    name: str
    started_at: datetime
    started_by: str
    hob: str
    pan: str
    planned_lift_c: float | None
    planned_lands_c: float | None
    coat: str
    finger_line: str
    sieve: str
    verdict: Verdict | None
    verdict_note: str
    yield_g: float | None
    odd: bool
    window: custard.Window
    boiling_c: float
    laid: custard.learning.Overlaid


class CostMonth(Schema):
    """What 100 g cost that were made in a month, at today's prices, of what has a price throughout."""

    month: str
    per_100_g: float


class Months(Schema):
    """The months of a kitchen's log: its batches, what its hobs gave, how long stages took, what 100 g cost,
    what was thrown away and why, and how far its probes were off."""

    months: list[MonthOut]
    hobs: list[HobMonth]
    stages: list[StageMonth]
    costs: list[CostMonth]
    currency: str
    thrown: list[ThrownMonth]
    reasons: list[ThrownWhy]
    checks: list[ProbeCheckOut]


class WhyOther(Schema):
    """Why one batch came out other than another; null with a sentence where that cannot be computed."""

    comparison: custard.learning.Comparison | None
    cannot: str


class FaultChoice(Schema):
    """Something that went wrong, by its key and its name."""

    fault: str
    name: str


class Choices(Schema):
    """By what the batches of a kitchen can be looked for."""

    formulas: list[Choice]
    faults: list[FaultChoice]
    people: list[str]
    hobs: list[Choice]
    pans: list[Choice]


class LogPage(Schema):
    """A page of the log, newest first; `before` asks for the next one."""

    lines: list[LogLine]
    before: int | None
