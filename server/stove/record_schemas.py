"""What a batch's record says."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

import custard
from custard.vocabulary import LimitState, MarkKind, StageName, Verdict
from ninja import Schema

from stove.schemas import RemedyTaken


class LimitOut(Schema):
    """A limit of the cooling rule: to be below it by when, when it was, and how that stands."""

    limit_c: float
    due_at: datetime | None
    reached_at: datetime | None
    state: LimitState


class TargetOut(Schema):
    """A temperature that a stage was planned to reach."""

    stage: StageName
    at_c: float


class TemperatureOut(Schema):
    """A temperature that a probe read, or somebody did; by `taken_off_k` a probe was known to read too high,
    and so much is taken off already [K]."""

    at: datetime
    celsius: float
    read_by: str
    taken_off_k: float = 0.0


class RecordedMark(Schema):
    """A mark, with who took it back and when, if somebody did."""

    id: UUID
    at: datetime
    stage: StageName
    kind: MarkKind
    temperature_c: float | None
    what: str
    grams: float | None
    coat: str
    finger_line: str
    sieve: str
    note: str
    by: str
    taken_back_at: datetime | None
    taken_back_by: str


class BatchRecord(Schema):
    """All that an inspector asks of a batch; `formula` is it as weighed, in the open format."""

    number: int
    batch_id: int
    name: str
    family: str
    formula: dict[str, object]
    started_at: datetime
    started_by: str
    closed_at: datetime | None
    verdict: Verdict | None
    verdict_note: str
    yield_g: float | None
    version: int
    changed: list[str]
    allergens: list[str]
    unheated: list[str]
    rehearsal: bool
    rule: str
    rule_caution: str
    targets: list[TargetOut]
    limits: list[LimitOut]
    decided: list[str]
    guests: custard.after.Guests | None
    temperatures: list[TemperatureOut]
    marks: list[RecordedMark]
    remedies: list[RemedyTaken]
