"""Plan beside fact, for every batch."""

from __future__ import annotations

from datetime import datetime, time, timedelta

import custard
from common import clock
from kitchen import reads as kitchen
from kitchen.access import Actor
from stove import finding, trends
from stove import reads as stove

from log.schemas import Choice, Choices, LogAsked, LogLine, LogPage, Months, StageTemperature

PAGE = 50


def page(actor: Actor, asked: LogAsked) -> LogPage:
    """The kitchen's batches that are looked for, newest first, with a number below `before`; columns only."""
    rows = finding.found(actor, stove.lines(actor), asked.dict(exclude={"before", "since", "until"}))
    zone = kitchen.zone_of(actor.kitchen)
    if asked.since is not None:
        rows = rows.filter(started_at__gte=datetime.combine(asked.since, time(), zone))
    if asked.until is not None:
        rows = rows.filter(started_at__lt=datetime.combine(asked.until + timedelta(days=1), time(), zone))
    rows = rows.order_by("-number")
    if asked.before is not None:
        rows = rows.filter(number__lt=asked.before)
    found = list(rows[: PAGE + 1])
    lines = [_line(row) for row in found[:PAGE]]
    return LogPage(lines=lines, before=lines[-1].number if len(found) > PAGE else None)


def choices(actor: Actor) -> Choices:
    """By whom batches were made here, and on what they can have been."""
    known = kitchen.hearth(actor)
    return Choices(
        people=finding.cooks(actor),
        hobs=[Choice(id=one.id, name=one.name) for one in known.hobs],
        pans=[Choice(id=one.id, name=one.name) for one in known.pans],
    )


def months(actor: Actor, formula_id: int | None) -> Months:
    """The last twelve months, of all batches or of those of one formula."""
    zone = kitchen.zone_of(actor.kitchen)
    today = clock.now().astimezone(zone)
    since = datetime(today.year - 1, today.month, 1, tzinfo=zone)
    return Months(months=trends.months(actor, since, zone, formula_id), hobs=trends.hobs(actor, since, zone))


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
        odd=finding.is_odd(row),
    )
