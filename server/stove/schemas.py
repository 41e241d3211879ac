"""What the API says about batches."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from book.schemas import AssessmentOut, Draft, TextureOut, WindowOut
from common.text import Note
from ninja import Schema
from pydantic import AwareDatetime, ConfigDict, Field, model_validator

StageName = Literal["weigh", "warm", "temper", "cook", "test", "chill", "keep"]
KindName = Literal[
    "done", "tick", "check", "spoon", "sieve", "off-heat", "into-ice", "moment",
    "pour", "sign", "bubbles", "hands-off", "stirring", "sugar-on", "wrong", "alarm", "silence",
]  # fmt: skip
AlarmName = Literal[
    "lift-soon", "lift-now", "past", "curdling", "catching", "probe-lost", "starch-short", "no-steam",
    "touching", "cups-out",
]  # fmt: skip
PhaseName = Literal[
    "waiting", "lost", "warming", "turning", "ready", "lift", "past", "never", "hold", "off", "out",
]  # fmt: skip
CoatWord = Literal["runs off", "thin coat", "nappe", "heavy coat", "spoonable", "pipeable"]
LineWord = Literal["holds", "closes", "runs"]
SieveWord = Literal["clean", "a few bits", "many bits"]
VerdictName = Literal["good", "usable", "discarded"]


class NewBatch(Schema):
    """What is taken to the stove: a version of a formula, as scaled for today."""

    model_config = ConfigDict(extra="forbid")

    formula_id: int
    version: int
    draft: Draft
    pace: float = Field(1, ge=1, le=60)


class NewMark(Schema):
    """Something that happened. The id is made by the device, so that a mark sent twice counts once."""

    model_config = ConfigDict(extra="forbid")

    id: UUID
    stage: StageName
    kind: KindName
    at: AwareDatetime
    temperature_c: float | None = None
    line: int | None = Field(None, ge=0, lt=100)
    grams: float | None = Field(None, ge=0, le=500_000)
    what: AlarmName | None = None
    coat: CoatWord | None = None
    finger_line: LineWord | None = None
    sieve: SieveWord | None = None
    note: Note = ""

    @model_validator(mode="after")
    def complete(self) -> NewMark:
        """A tick names its line, a spoon its coat, a sieve what stayed in it."""
        wanted = {
            "tick": ("line",),
            "check": ("line",),
            "pour": ("line",),
            "sign": ("line",),
            "alarm": ("what",),
            "silence": ("what",),
            "spoon": ("coat", "finger_line"),
            "sieve": ("sieve",),
        }.get(self.kind, ())
        for name in wanted:
            if getattr(self, name) is None:
                raise ValueError(f"say {name.replace('_', ' ')} with this mark")
        return self


class SetUp(Schema):
    """What a batch is cooked on and in, and the probe that lies in it; null takes it away."""

    model_config = ConfigDict(extra="forbid")

    probe_id: int | None = None
    hob_id: int | None = None
    pan_id: int | None = None


class Closing(Schema):
    """How a batch ended."""

    model_config = ConfigDict(extra="forbid")

    verdict: VerdictName
    note: Note = ""


class MarkOut(Schema):
    """A mark as kept."""

    id: UUID
    stage: StageName
    kind: KindName
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


class BatchOut(Schema):
    """One batch: what was planned, what happened, where it stands."""

    id: int
    number: int
    name: str
    family: str
    formula_id: int
    version: int
    started_at: datetime
    started_by: str
    closed_at: datetime | None
    verdict: VerdictName | None
    verdict_note: str
    stage: StageName
    ticked: list[int]
    checked: list[int]
    tare_g: float
    done: list[StageName]
    pace: float
    probe_id: int | None
    probe: str
    hob_id: int | None
    hob: str
    pan_id: int | None
    pan: str
    after: list[str]
    draft: Draft
    plan: AssessmentOut
    marks: list[MarkOut]


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


class PourOut(Schema):
    """One pour of the tempering: what goes in [g], and where bowl and the spot it falls on come to [degC]."""

    poured_g: float
    at_s: float
    bowl_c: float
    local_c: float
    local_curdling: float


class PoursOut(Schema):
    """How a batch is tempered by its school; `to_heat_s` is how long its hob then takes to the lift."""

    school: str
    hot_c: float
    pours: list[PourOut]
    landing_c: float
    worst_local_curdling: float
    to_go_k: float
    to_heat_s: float | None
    g_per_s: float | None
    sugar_waits_s: float


class Addition(Schema):
    """Something to weigh in."""

    name: str
    grams: float


class RemedyOut(Schema):
    """What to do about a fault of this very batch: whether it can be saved, how, and with what weighed in."""

    fault: str
    cause: str
    saved: Literal["yes", "perhaps", "no"]
    steps: list[str]
    add: list[Addition]


class WhenOut(Schema):
    """Seconds until something, of the batch's own time, with the span that most simulated cooks agree on."""

    in_s: float
    low_s: float
    high_s: float
    at_c: float


class LiftOut(WhenOut):
    """When to lift, what the probe will read then, and where it lands."""

    reads_c: float
    lands_c: float
    lands_word: str
    carry_over_k: float


class CurveOut(Schema):
    """A continuation: equally long lists, seconds from now."""

    in_s: list[float]
    c: list[float]
    low_c: list[float]
    high_c: list[float]


class PanLive(Schema):
    """A cook in a pan or over steam, as its readings tell."""

    sauce_c: float
    sauce_spread_k: float
    base_c: float
    rate_k_per_min: float
    power_w: float
    power_spread_w: float
    promised_w: float
    from_readings: bool
    shift_k: float
    shift_spread_k: float
    thickened: float
    curdled: float
    yield_stress_pa: float
    word: str
    spoon: TextureOut
    window: WindowOut
    gelatinised: float
    amylase: float
    germ_logs: float
    catches_in_s: float | None
    held_s: float
    hold_s: float
    volume_ratio: float | None
    foam_word: str | None
    thickens: WhenOut | None
    nappe: WhenOut | None
    curdles: WhenOut | None
    boils: WhenOut | None
    lift: LiftOut | None
    landing: CurveOut | None


class OvenLive(Schema):
    """Cups in the oven, as a probe in one of them tells."""

    centre_c: float
    bath_c: float
    bath_spread_k: float
    set_centre: float
    wobble: str
    out_in_s: float | None
    out_low_s: float | None
    out_high_s: float | None
    out_c: float | None
    carry_over_k: float


class AlarmOut(Schema):
    """Something to be said aloud, once; `id` is the mark that logs it."""

    id: UUID
    kind: AlarmName
    say: str
    silenced: bool


class PastOut(Schema):
    """What the probe read so far; equally long lists, in seconds of the batch's own time up to now."""

    ago_s: list[float]
    c: list[float]


class LiveOut(Schema):
    """A batch at this moment: what to do next, and all that is known."""

    at: datetime
    pace: float
    t_s: float | None
    probe_c: float | None
    probe_ago_s: float | None
    soon_c: float | None
    way: Literal["coats", "boils", "mounds", "sets"]
    phase: PhaseName
    say: str
    then: str
    seconds: float | None
    urgency: int
    learned: str | None
    alarms: list[AlarmOut]
    past: PastOut
    ahead: CurveOut | None
    pan: PanLive | None
    oven: OvenLive | None


class Urgent(Schema):
    """One batch in the strip of all that are on the stove."""

    id: int
    number: int
    name: str
    stage: StageName
    say: str
    seconds: float | None
    urgency: int


class ProbeMark(Schema):
    """What was done, and when."""

    kind: KindName
    stage: StageName
    at: datetime


class ForProbe(Schema):
    """What a probe may know of the batch it lies in: enough to be a stand-in for one."""

    batch: int | None
    kitchen_altitude_m: float
    formula: dict[str, Any] | None
    pace: float
    landing_c: float | None
    over_steam: bool
    power_w: float
    pan: str
    started_at: datetime | None
    cooks_since: datetime | None
    marks: list[ProbeMark]
