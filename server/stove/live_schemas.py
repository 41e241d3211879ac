"""What the API says about a batch at this moment, and about what was planned for its tempering."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from book.schemas import TextureOut, WindowOut
from ninja import Schema

from stove.schemas import AlarmName, KindName, StageName, WayName

PhaseName = Literal[
    "waiting", "lost", "warming", "turning", "ready", "lift", "past", "never", "hold", "off", "out",
]  # fmt: skip


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
    """A batch at a moment: what to do next, and all that is known. `age_s` is how long ago that was."""

    at: datetime
    age_s: float = 0
    pace: float
    t_s: float | None
    probe_c: float | None
    probe_ago_s: float | None
    soon_c: float | None
    way: WayName
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
