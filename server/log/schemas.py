"""What the API says about the log."""

from __future__ import annotations

from datetime import datetime

from custard.vocabulary import StageName, Verdict
from ninja import Schema


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


class LogPage(Schema):
    """A page of the log, newest first; `before` asks for the next one."""

    lines: list[LogLine]
    before: int | None
