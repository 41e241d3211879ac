"""Plan beside fact, for every batch."""

from __future__ import annotations

import custard
from kitchen.access import Actor
from stove import reads as stove

from log.schemas import LogLine, LogPage, StageTemperature

PAGE = 50


def page(actor: Actor, before: int | None = None) -> LogPage:
    """The kitchen's batches with a number below `before`, newest first; columns only."""
    rows = stove.lines(actor).order_by("-number")
    if before is not None:
        rows = rows.filter(number__lt=before)
    found = list(rows[: PAGE + 1])
    lines = [_line(row) for row in found[:PAGE]]
    return LogPage(lines=lines, before=lines[-1].number if len(found) > PAGE else None)


def _line(row: stove.BatchRow) -> LogLine:
    ended = row.closed_at
    return LogLine(
        id=row.pk,
        number=row.number,
        name=row.name,
        family=row.family,
        started_at=row.started_at,
        started_by=stove.shown(row.started_by),
        closed_at=ended,
        minutes=round((ended - row.started_at).total_seconds() / 60, 1) if ended else None,
        stage=row.stage,
        verdict=row.verdict or None,
        verdict_note=row.verdict_note,
        temperatures=[
            StageTemperature(
                stage=one.stage,
                target=one.target,
                planned_c=row.planned_c.get(one.stage),
                left_c=row.left_c.get(one.stage),
            )
            for one in custard.stove.stage_records().values()
            if one.target
        ],
        planned_coat=row.planned_coat,
        coat=row.coat,
        finger_line=row.finger_line,
        sieve=row.sieve,
        yield_g=row.yield_g,
    )
