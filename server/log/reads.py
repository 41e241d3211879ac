"""Plan beside fact, for every batch."""

from __future__ import annotations

import csv
import io
from datetime import datetime, time, timedelta
from zoneinfo import ZoneInfo

import custard
from book import reads as book
from common import clock
from common.text import inert
from custard.vocabulary import StageName
from devices import reads as devices
from django.db.models import QuerySet
from kitchen import reads as kitchen
from kitchen.access import Actor
from people.models import User
from shelf import trends as thrown
from stove import finding, trends
from stove import reads as stove

from log.schemas import (
    Choice,
    Choices,
    CostMonth,
    FaultChoice,
    LogAsked,
    LogLine,
    LogPage,
    Months,
    StageTemperature,
)

PAGE = 50
MOST_ROWS = 20_000
"""A table for a spreadsheet has at most so many batches; who has more asks for a year at a time."""
COLUMNS = (
    "batch", "name", "family", "started", "minutes", "by", "hob", "pan", "weighed_g", "planned_c", "lifted_c",
    "hottest_c", "planned_coat", "coat", "line", "sieve", "yield_g", "verdict", "note", "odd",
)  # fmt: skip


def _found(actor: Actor, asked: LogAsked) -> QuerySet[stove.BatchRow]:
    """The kitchen's batches that are looked for, newest first, with a number below `before`; columns only."""
    rows = finding.found(actor, stove.lines(actor), asked.dict(exclude={"before", "since", "until"}))
    zone = kitchen.zone_of(actor.kitchen)
    if asked.since is not None:
        rows = rows.filter(started_at__gte=datetime.combine(asked.since, time(), zone))
    if asked.until is not None:
        rows = rows.filter(started_at__lt=datetime.combine(asked.until + timedelta(days=1), time(), zone))
    rows = rows.order_by("-number")
    return rows if asked.before is None else rows.filter(number__lt=asked.before)


def page(actor: Actor, asked: LogAsked) -> LogPage:
    """A page of the batches that are looked for."""
    found = list(_found(actor, asked)[: PAGE + 1])
    lines = [_line(row) for row in found[:PAGE]]
    return LogPage(lines=lines, before=lines[-1].number if len(found) > PAGE else None)


def as_csv(actor: Actor, asked: LogAsked) -> str:
    """The batches that are looked for as a table for a spreadsheet, at most `MOST_ROWS`; times by its
    clock. A cell that a spreadsheet would take for a formula is written as text."""
    out, zone = io.StringIO(), kitchen.zone_of(actor.kitchen)
    table = csv.writer(out)
    table.writerow(COLUMNS)
    for row in _found(actor, asked).select_related("hob", "pan")[:MOST_ROWS]:
        known = {
            "batch": row.number,
            "name": row.name,
            "family": row.family,
            "started": row.started_at.astimezone(zone).isoformat(timespec="seconds"),
            "minutes": _minutes(row),
            "by": stove.shown(row.started_by),
            "hob": row.hob.name if row.hob else "",
            "pan": row.pan.name if row.pan else "",
            "weighed_g": row.mass_g,
            "planned_c": row.planned_c.get(StageName.COOK),
            "lifted_c": row.left_c.get(StageName.COOK),
            "hottest_c": row.peak_c,
            "planned_coat": row.planned_coat,
            "coat": row.coat,
            "line": row.finger_line,
            "sieve": row.sieve,
            "yield_g": row.yield_g,
            "verdict": row.verdict,
            "note": row.verdict_note,
            "odd": "odd" if finding.is_odd(row) else "",
        }
        table.writerow([inert(known[name]) for name in COLUMNS])
    return out.getvalue()


def _minutes(row: stove.BatchRow) -> float | None:
    ended = row.closed_at
    return None if ended is None else round((ended - row.started_at).total_seconds() / 60, 1)


def choices(actor: Actor) -> Choices:
    """By whom batches were made here, and on what they can have been."""
    known = kitchen.hearth(actor)
    return Choices(
        faults=[FaultChoice(fault=key, name=stove.fault_name(key)) for key in finding.faults(actor)],
        formulas=[Choice(id=one.pk, name=one.name) for one in book.cooked(actor)],
        people=sorted(one.username for one in User.objects.filter(pk__in=finding.cooks(actor))),
        hobs=[Choice(id=one.id, name=one.name) for one in known.hobs],
        pans=[Choice(id=one.id, name=one.name) for one in known.pans],
    )


def months(actor: Actor, formula_id: int | None) -> Months:
    """The last twelve months, of all batches or of those of one formula."""
    zone = kitchen.zone_of(actor.kitchen)
    today = clock.now().astimezone(zone)
    since = datetime(today.year - 1, today.month, 1, tzinfo=zone)
    return Months(
        months=trends.months(actor, since, zone, formula_id),
        hobs=trends.hobs(actor, since, zone),
        stages=trends.stages(actor, since, zone),
        costs=_costs(actor, since, zone),
        currency=actor.kitchen.currency,
        thrown=thrown.thrown(actor, since, zone),
        reasons=thrown.reasons(actor, since),
        checks=[devices.shown(one) for one in devices.checks(actor)],
    )


def _costs(actor: Actor, since: datetime, zone: ZoneInfo) -> list[CostMonth]:
    """What 100 g cost of what was made in each month, at today's prices."""
    made = trends.weighed(actor, since, zone)
    per_g = book.cost_per_g(actor, {version for _, version, _, _ in made})
    found: dict[str, tuple[float, float]] = {}
    for month, version, grams, came in made:
        if version in per_g:
            spent, came_to = found.get(month, (0.0, 0.0))
            found[month] = spent + per_g[version] * grams, came_to + came
    return [
        CostMonth(month=month, per_100_g=round(100 * spent / came, 3))
        for month, (spent, came) in found.items()
    ]


def _line(row: stove.BatchRow) -> LogLine:
    return LogLine(
        id=row.pk,
        number=row.number,
        name=row.name,
        family=row.family,
        started_at=row.started_at,
        started_by=stove.shown(row.started_by),
        closed_at=row.closed_at,
        minutes=_minutes(row),
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
