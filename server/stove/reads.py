"""Questions about batches."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

import custard
from book import reads as book
from common import clock
from custard.vocabulary import MarkKind, StageName
from django.db.models import Count, F, Prefetch, Q, QuerySet
from django.http import Http404
from kitchen.access import Actor

from stove.batch import facts, kept_file, plans
from stove.batch.cooking import equipment_of, is_odd, remedies_of
from stove.live_schemas import Urgent
from stove.models import BY_THE_PROBE, LAID_VERSION, Batch, BatchLesson, LiveState, Mark, ProbeUse, Remedy
from stove.schemas import BatchLine, BatchOut, MarkOut, RemedyTaken

BatchRow = Batch
RemedyRow = Remedy
"""A batch, and what was done about it, as others may read them."""
DOCUMENTS = ("content", "plan", "schools", "conditions", "equipment", "after", "cooling")
"""The columns of a batch that a list does without."""
OPEN_AT_MOST = 50
URGENT_AT_MOST = 6


def standing() -> QuerySet[Batch]:
    """Batches with the marks that stand and the probes that lay in them, three queries in all."""
    marks = Mark.objects.filter(withdrawal=None).select_related("by", "remedy")
    return Batch.objects.select_related(
        "kitchen", "started_by", "version__formula", "hob", "pan", "parameters"
    ).prefetch_related(
        Prefetch("marks", queryset=marks),
        Prefetch("probes", queryset=ProbeUse.objects.select_related("device")),
    )


def lines(actor: Actor) -> QuerySet[Batch]:
    """This kitchen's batches as lines of a list: what was planned and what came of it, in columns only."""
    return Batch.objects.filter(kitchen=actor.kitchen).select_related("started_by").defer(*DOCUMENTS)


def line(actor: Actor, batch_id: int) -> Batch:
    """One batch of this kitchen, in columns only.

    Raises
    ------
    Http404
        when this kitchen has no such batch.
    """
    found = lines(actor).filter(pk=batch_id).first()
    if found is None:
        raise Http404
    return found


def begun(actor: Actor, spans: Sequence[tuple[datetime, datetime]]) -> list[tuple[int, int]]:
    """How often each formula was begun within any of some spans of time, the most often first."""
    within = Q()
    for since, until in spans:
        within |= Q(started_at__gte=since, started_at__lte=until)
    counted = (
        Batch.objects.filter(within, kitchen=actor.kitchen)
        .values("version__formula_id")
        .annotate(times=Count("id"))
        .order_by("-times", "version__formula_id")
    )
    return [(one["version__formula_id"], one["times"]) for one in counted]


def batches(actor: Actor) -> QuerySet[Batch]:
    """This kitchen's batches."""
    return standing().filter(kitchen=actor.kitchen)


def batch(actor: Actor, batch_id: int) -> Batch:
    """One batch of this kitchen.

    Raises
    ------
    Http404
        when this kitchen has no such batch.
    """
    found = batches(actor).filter(pk=batch_id).first()
    if found is None:
        raise Http404
    return found


def on_the_stove(actor: Actor) -> list[BatchLine]:
    """Batches not closed yet, the most urgent first: what is next with each, and its rule."""
    rows = lines(actor).filter(closed_at=None).select_related("started_by", "live_state")
    rows = rows.defer(*DOCUMENTS, "live_state__document").annotate(
        rule=F("plan__window"), boils=F("plan__boiling_c"), stops=F("plan__stop_c")
    )
    urgency, seconds = F("live_state__urgency"), F("live_state__seconds")
    urgent_first = (urgency.desc(nulls_last=True), seconds.asc(nulls_last=True))
    return [
        BatchLine(
            id=row.pk,
            number=row.number,
            name=row.name,
            family=row.family,
            started_at=row.started_at,
            started_by=shown(row.started_by),
            closed_at=row.closed_at,
            stage=row.stage,
            mass_g=row.mass_g,
            allergens=row.allergens,
            window=row.rule,
            boiling_c=row.boils,
            stop_c=row.stops,
            pace=row.pace,
            **_next_of(getattr(row, "live_state", None)),
        )
        for row in rows.order_by(*urgent_first, "-started_at", "-id")[:OPEN_AT_MOST]
    ]


def _next_of(state: LiveState | None) -> dict[str, Any]:
    """What is to be done with a batch, as a worker last computed it; nothing yet of one that just began."""
    if state is None:
        return {"say": "", "seconds": None, "urgency": 0}
    return {"say": state.say, "seconds": state.seconds, "urgency": state.urgency}


def opened(actor: Actor, batch_id: int) -> BatchOut:
    """A batch as the Stove opens it."""
    row = batch(actor, batch_id)
    marks = list(row.marks.all())
    ticked = _lines(marks, MarkKind.TICK)
    plan = plans.by_cooling(plans.by_hob_and_pan(plans.read(row.plan), row.lift), row.cooling)
    lies = next((use for use in row.probes.all() if use.until is None), None)
    return BatchOut(
        id=row.pk,
        number=row.number,
        name=row.name,
        family=row.family,
        formula_id=row.version.formula_id,
        version=row.version.number,
        changed=row.changed,
        lift=None if row.lift is None else custard.stove.PlannedLift(**row.lift),
        started_at=row.started_at,
        started_by=shown(row.started_by),
        closed_at=row.closed_at,
        way=row.way,
        verdict=row.verdict or None,
        verdict_note=row.verdict_note,
        yield_g=row.yield_g,
        stage=row.stage,
        ticked=ticked,
        checked=_lines(marks, MarkKind.CHECK),
        joined=_lines(marks, MarkKind.TICK, "finish"),
        poured=_lines(marks, MarkKind.POUR, "finish"),
        topped_up_g=next((mark.grams for mark in reversed(marks) if mark.kind == MarkKind.TOP_UP), None),
        cups=equipment_of(row).cups,
        cooling=row.cooling,
        done=[stage for stage in StageName if stage in facts.done_at(marks)],
        pace=row.pace,
        probe_id=lies.device_id if lies else None,
        probe=lies.device.name if lies else "",
        hob_id=row.hob_id,
        hob=row.hob.name if row.hob else "",
        pan_id=row.pan_id,
        pan=row.pan.name if row.pan else "",
        after=row.after,
        allergens=row.allergens,
        vulnerable=row.vulnerable,
        draft=book.draft_of(row.content),
        plan=plan,
        marks=[_mark(mark) for mark in marks],
        reminders=book.reminders(actor, row.version.formula_id),
        remedies=[remedied(remedy, marks) for remedy in remedies_of(row)],
        odd=is_odd(row),
    )


def remedies(batch: Batch) -> list[Remedy]:
    """The remedies of a batch that stand, asked for again."""
    rows = Remedy.objects.filter(mark__batch=batch, mark__withdrawal=None).select_related("mark")
    return list(rows.order_by("mark__at", "pk"))


def remedy_of_mark(batch: Batch, mark_id: UUID) -> Remedy | None:
    """The remedy of a batch that a mark is; also one that was taken back."""
    return Remedy.objects.filter(mark=mark_id, mark__batch=batch).select_related("mark").first()


def remedied(remedy: Remedy, marks: Iterable[Mark]) -> RemedyTaken:
    """A remedy that was taken, with the steps of it that are done."""
    steps = (mark for mark in marks if mark.kind == MarkKind.REMEDY_STEP and mark.what == str(remedy.pk))
    return RemedyTaken(
        id=remedy.pk,
        mark_id=remedy.mark_id,
        at=remedy.mark.at,
        by=marked_by(remedy.mark),
        fault=remedy.fault,
        name=fault_name(remedy.fault),
        cause=remedy.cause,
        say=remedy.say,
        steps=remedy.steps,
        done=sorted({mark.line for mark in steps if mark.line is not None}),
        cautions=remedy.cautions,
        add=remedy.add,
        takes_g=remedy.takes_g,
        warmed_again=remedy.warmed_again,
        becomes=remedy.becomes,
        before=remedy.before,
        after=remedy.after,
        tub=remedy.tub,
    )


def fault_name(fault: str) -> str:
    """What was seen, in words; one that is not known any more by its key."""
    found = custard.trouble.faults().get(fault)
    return fault.replace("-", " ") if found is None else found.name


def _lines(marks: Iterable[Mark], kind: str, stage: str = "weigh") -> list[int]:
    """The lines that were marked so at a stage."""
    return sorted(
        {mark.line for mark in marks if mark.kind == kind and mark.stage == stage and mark.line is not None}
    )


def urgent(actor: Actor) -> list[Urgent]:
    """What is on the stove, the most urgent of all of it first."""
    states = (
        LiveState.objects.filter(kitchen=actor.kitchen, batch__closed_at=None)
        .select_related("batch")
        .defer("document", "batch__content", "batch__plan")
        .order_by("-urgency", F("seconds").asc(nulls_last=True), "batch_id")
    )
    return [urgent_of(state, state.batch) for state in states[:URGENT_AT_MOST]]


def urgent_of(state: LiveState, batch: Batch) -> Urgent:
    """One batch in the strip of all that are on the stove."""
    return Urgent(
        id=batch.pk,
        number=batch.number,
        name=batch.name,
        stage=batch.stage,
        say=state.say,
        seconds=state.seconds,
        urgency=state.urgency,
    )


def shown(user: object) -> str:
    """How someone is named, also when they have left."""
    return user.shown() if user is not None and hasattr(user, "shown") else "someone who has left"


def marked_by(mark: Mark) -> str:
    """Who made a mark; alarms, and what the probe alone showed, are a worker's."""
    by_worker = mark.kind == MarkKind.ALARM or mark.what == BY_THE_PROBE
    return "the worker" if mark.by is None and by_worker else shown(mark.by)


def _mark(mark: Mark) -> MarkOut:
    return MarkOut(
        id=mark.id,
        stage=mark.stage,
        kind=mark.kind,
        at=mark.at,
        temperature_c=mark.temperature_c,
        line=mark.line,
        grams=mark.grams,
        what=mark.what,
        coat=mark.coat,
        finger_line=mark.finger_line,
        sieve=mark.sieve,
        note=mark.note,
        by=marked_by(mark),
    )


def laid(rows: Iterable[Batch]) -> dict[int, dict[str, Any]]:
    """What is kept of closed batches to be laid over others, by their ids."""
    kept = BatchLesson.objects.filter(
        batch__in=[row.pk for row in rows if row.closed_at], laid__version=LAID_VERSION
    )
    return {
        key: {name: value for name, value in (found or {}).items() if name != "version"}
        for key, found in kept.values_list("batch_id", "laid")
    }


def as_file(row: Batch) -> custard.formats.KeptBatch:
    """A batch in the open format, until it was closed or now; of one read with its marks."""
    return kept_file.kept(row, row.closed_at or clock.now())


def written(actor: Actor, batch_id: int) -> dict[str, object]:
    """A batch of this kitchen in the open format, as plain data.

    Raises
    ------
    Http404
        when this kitchen has no such batch.
    """
    return custard.formats.write_batch(as_file(batch(actor, batch_id)))
