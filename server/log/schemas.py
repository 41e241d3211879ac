"""What the API says about the log."""

from __future__ import annotations

from datetime import datetime

from ninja import Schema
from stove.schemas import StageName, VerdictName


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
    verdict: VerdictName | None
    verdict_note: str
    planned_landing_c: float | None
    landed_c: float | None
    planned_stop_c: float
    lifted_c: float | None
    planned_coat: str
    coat: str
    finger_line: str
    sieve: str
    yield_g: float | None


class LogPage(Schema):
    """A page of the log, newest first; `before` asks for the next one."""

    lines: list[LogLine]
    before: int | None
