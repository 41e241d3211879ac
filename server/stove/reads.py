"""Questions about batches."""

from __future__ import annotations

from collections.abc import Iterable

import custard
from custard import STAGES
from django.db.models import Prefetch, QuerySet
from django.http import Http404
from kitchen.access import Actor

from stove.models import Batch, Kind, Mark, ProbeUse
from stove.schemas import BatchLine, BatchOut, MarkOut

OPEN_AT_MOST = 50


def standing() -> QuerySet[Batch]:
    """Batches with the marks that stand and the probes that lay in them, three queries in all."""
    marks = Mark.objects.filter(withdrawn_at=None).select_related("by")
    return Batch.objects.select_related(
        "kitchen", "started_by", "version__formula", "hob", "pan"
    ).prefetch_related(
        Prefetch("marks", queryset=marks),
        Prefetch("probes", queryset=ProbeUse.objects.select_related("device")),
    )


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
    """Batches not closed yet, newest first."""
    return [
        BatchLine(
            id=row.pk,
            number=row.number,
            name=row.content["name"],
            family=row.content["family"],
            started_at=row.started_at,
            started_by=shown(row.started_by),
            closed_at=row.closed_at,
            stage=stage_of(row.marks.all()),
            mass_g=row.plan["mass_g"],
        )
        for row in batches(actor).filter(closed_at=None)[:OPEN_AT_MOST]
    ]


def opened(actor: Actor, batch_id: int) -> BatchOut:
    """A batch as the Stove opens it."""
    row = batch(actor, batch_id)
    marks = list(row.marks.all())
    ticked = sorted({mark.line for mark in marks if mark.kind == Kind.TICK and mark.line is not None})
    slip = row.plan["slip"]
    lies = next((use for use in row.probes.all() if use.until is None), None)
    return BatchOut(
        id=row.pk,
        number=row.number,
        name=row.content["name"],
        family=row.content["family"],
        formula_id=row.version.formula_id,
        version=row.version.number,
        started_at=row.started_at,
        started_by=shown(row.started_by),
        closed_at=row.closed_at,
        way=way_of(row),
        verdict=row.verdict or None,
        verdict_note=row.verdict_note,
        stage=stage_of(marks),
        ticked=ticked,
        checked=sorted({mark.line for mark in marks if mark.kind == Kind.CHECK and mark.line is not None}),
        tare_g=round(sum(slip[line]["mass_g"] for line in ticked if line < len(slip)), 2),
        done=[stage for stage in STAGES if stage in _done(marks)],
        pace=row.pace,
        probe_id=lies.device_id if lies else None,
        probe=lies.device.name if lies else "",
        hob_id=row.hob_id,
        hob=row.hob.name if row.hob else "",
        pan_id=row.pan_id,
        pan=row.pan.name if row.pan else "",
        after=row.after,
        draft={key: part for key, part in row.content.items() if key not in ("format", "version")},
        plan=row.plan,
        marks=[_mark(mark) for mark in marks],
    )


def way_of(row: Batch) -> str:
    """How a batch is done: it coats, boils, mounds or sets."""
    return custard.way_of(row.content["family"], boiled=row.plan["boiled"])


def stage_of(marks: Iterable[Mark]) -> str:
    """The stage a batch is in: the one after the last that was marked done."""
    done = _done(marks)
    furthest = max((STAGES.index(stage) for stage in done), default=-1)
    return STAGES[min(furthest + 1, len(STAGES) - 1)]


def _done(marks: Iterable[Mark]) -> set[str]:
    return {mark.stage for mark in marks if mark.kind == Kind.DONE}


def shown(user: object) -> str:
    """How someone is named, also when they have left."""
    return user.shown() if user is not None and hasattr(user, "shown") else "someone who has left"


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
        by=shown(mark.by),
    )
