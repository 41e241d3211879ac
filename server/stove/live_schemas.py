"""What the API says about a batch at this moment, and about what was planned for its tempering."""

from __future__ import annotations

from datetime import datetime
from typing import Any
from uuid import UUID

import custard
from custard.vocabulary import AlarmKind, MarkKind, Phase, StageName, WayName
from ninja import Schema
from pydantic import BaseModel


class PoursOut(Schema):
    """How a batch is tempered by its school; `to_heat_s` is how long its hob then takes to the lift."""

    school: str
    hot_c: float
    pours: list[custard.process.Pour]
    landing_c: float
    worst_local_curdling: float
    to_go_k: float
    to_heat_s: float | None
    g_per_s: float | None
    sugar_waits_s: float


class AlarmOut(Schema):
    """Something to be said aloud, once; `id` is the mark that logs it."""

    id: UUID
    kind: AlarmKind
    say: str
    silenced: bool


class PastOut(Schema):
    """What the probe read so far; equally long lists, in seconds of the batch's own time up to now."""

    ago_s: list[float]
    c: list[float]


class LiveOut(Schema):
    """A batch at a moment: what to do next, and all that is known. `age_s` is how long ago that was."""

    at: datetime
    age_s: float = 0
    pace: float
    t_s: float | None
    probe_c: float | None
    probe_ago_s: float | None
    way: WayName
    phase: Phase
    say: str
    then: str
    seconds: float | None
    urgency: int
    learned: str | None
    alarms: list[AlarmOut]
    past: PastOut
    pan: custard.stove.Live | None
    oven: custard.stove.LiveOven | None
    cooling: custard.after.LiveCooling | None = None


class CoolingLine(BaseModel):
    """A batch that is cooling: what it is, where it stands, and where it goes."""

    batch_id: int
    batch: int
    name: str
    allergens: list[str]
    mass_g: float | None
    vessel: str
    way: str
    stage: StageName
    began_at: datetime
    age_s: float
    say: str
    then: str
    urgency: int
    filmed: bool
    live: custard.after.LiveCooling | None
    past_s: list[float]
    past_c: list[float]


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

    kind: MarkKind
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
    cups: custard.process.Cups | None
    started_at: datetime | None
    cooks_since: datetime | None
    marks: list[ProbeMark]
