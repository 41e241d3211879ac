"""Plan beside fact, for every batch."""

from __future__ import annotations

from collections.abc import Sequence

import custard
from kitchen.access import Actor
from stove import reads as stove
from stove.models import Batch, Kind, Mark

from log.schemas import LogLine, LogPage

PAGE = 50


def page(actor: Actor, before: int | None = None) -> LogPage:
    """The kitchen's batches with a number below `before`, newest first."""
    rows = stove.batches(actor).order_by("-number")
    if before is not None:
        rows = rows.filter(number__lt=before)
    found = list(rows[: PAGE + 1])
    lines = [_line(row) for row in found[:PAGE]]
    return LogPage(lines=lines, before=lines[-1].number if len(found) > PAGE else None)


def _line(row: Batch) -> LogLine:
    marks = list(row.marks.all())
    sets = stove.way_of(row) == "sets"
    nudge = _last(marks, kind=Kind.NUDGE)
    spoon = _last(marks, kind=Kind.SPOON)
    sieve = _last(marks, kind=Kind.SIEVE)
    ended = row.closed_at
    return LogLine(
        id=row.pk,
        number=row.number,
        name=row.content["name"],
        family=row.content["family"],
        started_at=row.started_at,
        started_by=stove.shown(row.started_by),
        closed_at=ended,
        minutes=round((ended - row.started_at).total_seconds() / 60, 1) if ended else None,
        stage=stove.stage_of(marks),
        verdict=row.verdict or None,
        verdict_note=row.verdict_note,
        planned_landing_c=row.plan["landing_c"],
        landed_c=_temperature(marks, "temper"),
        planned_stop_c=row.plan["stop_c"],
        lifted_c=_temperature(marks, "cook"),
        planned_coat=custard.DONE_WOBBLE if sets else row.plan["hot"]["word"],
        coat=nudge.what if nudge else spoon.coat if spoon else "",
        finger_line=spoon.finger_line if spoon else "",
        sieve=sieve.sieve if sieve else "",
    )


def _last(marks: Sequence[Mark], kind: str) -> Mark | None:
    return next((mark for mark in reversed(marks) if mark.kind == kind), None)


def _temperature(marks: Sequence[Mark], stage: str) -> float | None:
    """The last temperature typed in a stage: the one at which it was left."""
    typed = [mark.temperature_c for mark in marks if mark.stage == stage and mark.temperature_c is not None]
    return typed[-1] if typed else None
