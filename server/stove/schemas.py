"""What the API says about batches."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated
from uuid import UUID

import custard
from book.schemas import Draft, ReminderOut
from common.moments import Moment
from common.text import Note, Word
from common.words import CoolingWay, OneOf
from custard.vocabulary import (
    AlarmKind,
    Coat,
    FingerLine,
    MarkKind,
    Ribbon,
    SieveFound,
    StageName,
    Verdict,
    VesselKind,
    WayName,
    Wobble,
)
from ninja import Schema
from pydantic import ConfigDict, Field, model_validator

YES_OR_NO = ("yes", "no")
OF_THEIR_OWN = (MarkKind.REMEDY, MarkKind.CLOSED, MarkKind.REOPENED, MarkKind.ODD)
MadeKind = Annotated[
    MarkKind,
    OneOf(lambda: (kind for kind in MarkKind if kind not in OF_THEIR_OWN)),
]
"""What a device may say; a remedy, a closing and what is odd have routes of their own."""


class NewBatch(Schema):
    """What is taken to the stove: a version of a formula, as scaled for today."""

    model_config = ConfigDict(extra="forbid")

    formula_id: int
    version: int
    draft: Draft
    pace: float = Field(1, ge=1, le=60)
    as_computed: bool = False


class NewMark(Schema):
    """Something that happened. The id is made by the device, so that a mark sent twice counts once; `by` is
    who made it there, so that it never goes out under another's name."""

    model_config = ConfigDict(extra="forbid")

    id: UUID
    stage: StageName
    kind: MadeKind
    at: Moment
    temperature_c: float | None = None
    line: int | None = Field(None, ge=0, lt=500)
    grams: float | None = Field(None, ge=0, le=500_000)
    what: Word | None = None
    coat: Coat | None = None
    finger_line: FingerLine | None = None
    sieve: SieveFound | None = None
    note: Note = ""
    by: Word | None = None

    @model_validator(mode="after")
    def complete(self) -> NewMark:
        """A tick names its line, a spoon its coat, a sieve what stayed in it."""
        wanted = {
            "tick": ("line",),
            "check": ("line",),
            "pour": ("line",),
            "sign": ("what",),
            "alarm": ("what",),
            "silence": ("what",),
            "nudge": ("what",),
            "ribbon": ("what",),
            "top-up": ("grams",),
            "pasteurised": ("what",),
            "spot": ("temperature_c",),
            "moved": ("line",),
            "remedy-step": ("line", "what"),
            "spoon": ("coat", "finger_line"),
            "sieve": ("sieve",),
        }.get(self.kind, ())
        for name in wanted:
            if getattr(self, name) is None:
                raise ValueError(f"say {name.replace('_', ' ')} with this mark")
        named = {
            "nudge": Wobble,
            "ribbon": Ribbon,
            "alarm": AlarmKind,
            "silence": AlarmKind,
            "pasteurised": YES_OR_NO,
        }.get(self.kind)
        if named is not None and self.what not in tuple(named):
            raise ValueError(f"what goes with a {self.kind} is one of {', '.join(named)}")
        if named is None and self.kind not in ("sign", "remedy-step") and self.what is not None:
            raise ValueError("what goes with a sign, an alarm, a nudged cup or a ribbon")
        return self


class NewMarks(Schema):
    """What happened, in order."""

    model_config = ConfigDict(extra="forbid")

    marks: list[NewMark] = Field(min_length=1, max_length=200)


class OddOrNot(Schema):
    """Whether nothing is to be learned of a batch, and why."""

    model_config = ConfigDict(extra="forbid")

    odd: bool
    reason: Note = ""


class CupsWanted(Schema):
    """What it is baked in, and where: how many, of what volume, how deep in water, and what lies in them."""

    model_config = ConfigDict(extra="forbid")

    count: int = 1
    cup_ml: float = 120
    oven_c: float = 160
    bath: bool = True
    water_share: float = 0.6
    solid: Word = ""
    solid_share: float = 0


class OvenOut(Schema):
    """What a batch is baked in, what goes into each cup, and how long it then takes; null when it never sets.

    `enough` says whether the batch fills them all, `fills` how many it does.
    """

    cups: custard.process.Cups
    filled: custard.process.Filled
    fills: int
    enough: bool
    in_c: float
    out_s: float | None
    carry_over_k: float


class CoolerWanted(Schema):
    """One way of cooling for a while: a cooler of the kitchen, or a way by its name."""

    model_config = ConfigDict(extra="forbid")

    by: CoolingWay = "fridge"
    cooler_id: int | None = None
    minutes: float | None = None
    stirred: bool = False
    ice_g: float | None = None
    water_g: float | None = None


class VesselWanted(Schema):
    """What it is cooled in: kind, measures [cm], and how many."""

    model_config = ConfigDict(extra="forbid")

    kind: VesselKind
    length_cm: float
    width_cm: float = 0
    height_cm: float
    count: int = 1


class CoolingWanted(Schema):
    """How a batch is put away to cool: how much [g], from where [degC], in what, by what ways in turn."""

    model_config = ConfigDict(extra="forbid")

    mass_g: float | None = Field(None, gt=0, le=1_000_000)
    from_c: float | None = None
    vessel: VesselWanted
    ways: list[CoolerWanted] = Field(min_length=1, max_length=4)


class CoolingKept(Schema):
    """How a batch is cooled, as it was chosen; `cooler_ids` says which of the kitchen's own.

    Where nobody typed them, `mass_g` and `from_c` are the plan's and what was read last.
    """

    mass_g: float
    from_c: float
    vessel: custard.process.Vessel
    ways: list[custard.after.Cooler]
    cooler_ids: list[int | None]
    mass_typed: bool = False
    from_typed: bool = False


class CoolingUsual(Schema):
    """How this kitchen would cool a batch, judged; `like` says by which earlier batch, null for by none."""

    wanted: CoolingWanted
    plan: custard.after.Cooling
    like: int | None


class EquipmentWanted(Schema):
    """What a batch is cooked on and in, and the probe that lies in it; null takes it away.

    What is baked has cups instead of hob and pan.
    """

    model_config = ConfigDict(extra="forbid")

    probe_id: int | None = None
    hob_id: int | None = None
    pan_id: int | None = None
    cups: CupsWanted | None = None


class GuestsWanted(Schema):
    """Whether a batch is for guests who must not fall ill: old, very young, pregnant or sick."""

    model_config = ConfigDict(extra="forbid")

    vulnerable: bool


class MarkOut(Schema):
    """A mark as kept."""

    id: UUID
    stage: StageName
    kind: MarkKind
    at: datetime
    temperature_c: float | None
    line: int | None
    grams: float | None
    what: str
    coat: str
    finger_line: str
    sieve: str
    note: str
    by: str


class AddedOut(Schema):
    """Something that a remedy has weighed; `anew` in place of what was thrown away."""

    ingredient: str
    name: str
    grams: float
    when: str
    anew: bool


class PlanFigures(Schema):
    """What a batch is to be, in the figures of its plan."""

    stop_c: float
    hot: str
    cold: str
    yield_g: float
    days: float


class RemedyTaken(Schema):
    """A remedy that was taken: what was advised, what of it is done, the plan before and the new one.

    `id` names it to the marks of its steps, `done` are the places of those that were ticked.
    """

    id: int
    mark_id: UUID
    at: datetime
    by: str
    fault: str
    name: str
    cause: str
    say: str
    steps: list[str]
    done: list[int]
    cautions: list[str]
    add: list[AddedOut]
    takes_g: float
    warmed_again: str
    becomes: str
    before: PlanFigures
    after: PlanFigures
    tub: int | None


class BatchOut(Schema):
    """One batch: what was planned, what happened, where it stands."""

    id: int
    number: int
    name: str
    family: str
    formula_id: int
    version: int
    changed: list[str]
    lift: custard.stove.PlannedLift | None
    started_at: datetime
    started_by: str
    closed_at: datetime | None
    way: WayName
    verdict: Verdict | None
    verdict_note: str
    yield_g: float | None
    stage: StageName
    ticked: list[int]
    checked: list[int]
    joined: list[int]
    poured: list[int]
    topped_up_g: float | None
    cups: custard.process.Cups | None
    cooling: CoolingKept | None
    done: list[StageName]
    pace: float
    probe_id: int | None
    probe: str
    hob_id: int | None
    hob: str
    pan_id: int | None
    pan: str
    after: list[str]
    allergens: list[str]
    vulnerable: bool
    draft: Draft
    plan: custard.stove.Overview
    marks: list[MarkOut]
    reminders: list[ReminderOut]
    remedies: list[RemedyTaken]
    odd: bool


class MonthOut(Schema):
    """The batches of a month ("2026-03"): how they ended, how far over their plan they were lifted and how
    that scattered [K], how long they took, what they came to over what was weighed [1]."""

    month: str
    batches: int
    good: int
    usable: int
    discarded: int
    over_k: float | None
    over_spread_k: float | None
    minutes: float | None
    yield_share: float | None


class StageMonth(Schema):
    """How long a stage took in a month, beside what is computed for it [min]."""

    stage: StageName
    month: str
    minutes: float
    computed: float
    batches: int


class HobMonth(Schema):
    """What a hob gave in a month, as the curves of its batches say [W]."""

    hob: str
    month: str
    watts: float
    spread_w: float
    batches: int


class VersionOutcome(Schema):
    """What came of a version of a formula."""

    version: int
    batches: int
    good: int
    usable: int
    discarded: int
    over_k: float | None
    yield_share: float | None
    last: datetime


class BatchLine(Schema):
    """One batch in a list."""

    id: int
    number: int
    name: str
    family: str
    started_at: datetime
    started_by: str
    closed_at: datetime | None
    stage: StageName
    mass_g: float
    allergens: list[str]
    window: custard.Window | None
    boiling_c: float | None
    stop_c: float | None
    say: str
    seconds: float | None
    urgency: int
    pace: float
