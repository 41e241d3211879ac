"""The record of a batch as an inspector reads it: nothing left out, corrections beside what they correct."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta

import custard
from common import clock
from custard.vocabulary import MarkKind, StageName
from django.db.models import Q
from kitchen.access import Actor

from stove import reads
from stove.after import keeping
from stove.batch import plans
from stove.batch.cooking import conditions_of, read_by_each, remedies_of
from stove.cooling import began_at, live_cooling
from stove.models import Batch, Mark
from stove.record_schemas import BatchRecord, LimitOut, RecordedMark, TargetOut, TemperatureOut
from stove.schemas import RemedyTaken


def record(actor: Actor, batch_id: int) -> BatchRecord:
    """The record of one batch."""
    return _record(reads.batch(actor, batch_id))


def records_between(actor: Actor, since: datetime, until: datetime) -> list[BatchRecord]:
    """The records of the batches that were started, or still open, in a while."""
    still = Q(closed_at=None) | Q(closed_at__gte=since)
    when = Q(started_at__gte=since) | (Q(started_at__gte=since - OPEN_DAYS) & still)
    rows = reads.batches(actor).filter(when, started_at__lt=until).order_by("number")
    return [_record(batch) for batch in rows]


OPEN_DAYS = timedelta(days=7)
"""A batch open for longer than this belongs to no day any more."""


def _record(batch: Batch) -> BatchRecord:
    rule = conditions_of(batch).cooling_rule
    plan = plans.by_hob_and_pan(plans.read(batch.plan), batch.lift)
    marks = list(Mark.objects.filter(batch=batch).select_related("by", "withdrawal__by").order_by("at", "id"))
    standing = [mark for mark in marks if not hasattr(mark, "withdrawal")]
    return BatchRecord(
        number=batch.number,
        batch_id=batch.pk,
        name=batch.name,
        family=batch.family,
        formula=batch.content,
        started_at=batch.started_at,
        started_by=reads.shown(batch.started_by),
        closed_at=batch.closed_at,
        verdict=batch.verdict or None,
        verdict_note=batch.verdict_note,
        yield_g=batch.yield_g,
        version=batch.version.number,
        changed=batch.changed,
        allergens=batch.allergens,
        unheated=batch.unheated,
        rehearsal=batch.pace != 1,
        rule=rule.text,
        rule_caution=rule.caution,
        targets=[TargetOut(stage=one.stage, at_c=one.at_c) for one in plan.stages if one.at_c is not None],
        limits=_limits(batch),
        decided=[
            f"{mark.note} ({reads.shown(mark.by)})" for mark in standing if mark.kind == MarkKind.DECIDED
        ],
        guests=keeping.guests_of(batch) if batch.vulnerable else None,
        temperatures=_temperatures(batch, standing),
        marks=[_mark(mark, plan) for mark in marks],
        remedies=[_plain(reads.remedied(remedy, standing)) for remedy in remedies_of(batch)],
    )


def _limits(batch: Batch) -> list[LimitOut]:
    """The limits of its rule, as far as its cooling is known."""
    now = batch.closed_at or clock.now()
    seen = live_cooling(batch, now)
    if seen is None or began_at(batch) is None:
        return []

    def then(seconds: float | None) -> datetime | None:
        return None if seconds is None else now + timedelta(seconds=seconds / batch.pace)

    return [
        LimitOut(
            limit_c=one.limit_c, due_at=then(one.left_s), reached_at=then(one.reached_s), state=one.state
        )
        for one in seen.deadlines
    ]


def _temperatures(batch: Batch, marks: list[Mark]) -> list[TemperatureOut]:
    probes = [
        TemperatureOut(at=at, celsius=celsius, read_by="probe", taken_off_k=round(use.reads_high_k, 2))
        for use, read in read_by_each(batch, batch.started_at, batch.closed_at, most=None)
        for at, celsius in read
    ]
    typed = [
        TemperatureOut(at=mark.at, celsius=mark.temperature_c, read_by=reads.shown(mark.by))
        for mark in marks
        if mark.temperature_c is not None
    ]
    return sorted([*probes, *typed], key=lambda one: one.at)


def _about(mark: Mark, plan: custard.stove.Overview) -> str:
    """What a mark is about: the line that was ticked by its name, else the word it carries."""
    if mark.kind not in (MarkKind.TICK, MarkKind.CHECK) or mark.line is None:
        return mark.what
    rows: Sequence[object] = plan.slip
    if mark.stage == StageName.FINISH:
        rows = [] if plan.finish is None else plan.finish.additions
    return str(getattr(rows[mark.line], "name", "")) if mark.line < len(rows) else ""


def _plain(remedy: RemedyTaken) -> RemedyTaken:
    """A remedy with its figures written out, as paper has no units of its reader."""
    found = remedy.model_copy()
    for name in ("say", "cause", "warmed_again"):
        setattr(found, name, custard.plain_degrees(getattr(remedy, name)))
    found.steps = [custard.plain_degrees(step) for step in remedy.steps]
    return found


def _mark(mark: Mark, plan: custard.stove.Overview) -> RecordedMark:
    back = getattr(mark, "withdrawal", None)
    return RecordedMark(
        id=mark.id,
        at=mark.at,
        stage=mark.stage,
        kind=mark.kind,
        temperature_c=mark.temperature_c,
        what=_about(mark, plan),
        grams=mark.grams,
        coat=mark.coat,
        finger_line=mark.finger_line,
        sieve=mark.sieve,
        note=custard.plain_degrees(mark.note) if mark.kind == MarkKind.REMEDY else mark.note,
        by=reads.marked_by(mark),
        taken_back_at=None if back is None else back.at,
        taken_back_by="" if back is None else reads.shown(back.by),
    )
