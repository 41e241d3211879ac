"""Routes of the Log."""

from __future__ import annotations

from datetime import date
from typing import Literal

from book import reads as book
from django.http import HttpRequest, HttpResponse
from kitchen.access import Actor, enter
from ninja import Query, Router, Status
from papers.answers import printed
from shelf import closing
from stove import reads as stove
from stove import trends
from stove.schemas import VersionOutcome

from log import overlay, proposing, reads, records, views
from log.record_schemas import Record
from log.schemas import (
    Choices,
    LaidBatch,
    LogAsked,
    LogPage,
    Months,
    NewView,
    ProposedVersion,
    ViewOut,
    WhyOther,
)

router = Router()


@router.get("/k/{kitchen}/log", response=LogPage)
def read_log(request: HttpRequest, kitchen: str, asked: Query[LogAsked]) -> LogPage:
    """The batches that are looked for, plan beside fact."""
    return reads.page(enter(request, kitchen), asked)


@router.get("/k/{kitchen}/log.csv", response={200: None})
def export_log(request: HttpRequest, kitchen: str, asked: Query[LogAsked]) -> HttpResponse:
    """The batches that are looked for, as a table for a spreadsheet."""
    actor = enter(request, kitchen)
    answer = HttpResponse(reads.as_csv(actor, asked), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{actor.kitchen.slug}-log.csv"'
    return answer


@router.get("/k/{kitchen}/log/choices", response=Choices)
def read_choices(request: HttpRequest, kitchen: str) -> Choices:
    """By whom, and on what, batches were made here."""
    return reads.choices(enter(request, kitchen))


@router.get("/k/{kitchen}/log/views", response=list[ViewOut])
def list_views(request: HttpRequest, kitchen: str) -> list[ViewOut]:
    """The views of the log that one kept under a name."""
    return views.of(enter(request, kitchen))


@router.post("/k/{kitchen}/log/views", response={201: list[ViewOut]})
def keep_view(request: HttpRequest, kitchen: str, body: NewView) -> Status[list[ViewOut]]:
    """Keep what is looked for under a name; one of that name is written over."""
    actor = enter(request, kitchen)
    views.keep(actor, body)
    return Status(201, views.of(actor))


@router.delete("/k/{kitchen}/log/views/{view_id}", response=list[ViewOut])
def forget_view(request: HttpRequest, kitchen: str, view_id: int) -> list[ViewOut]:
    """Forget a view."""
    actor = enter(request, kitchen)
    views.forget(actor, view_id)
    return views.of(actor)


@router.get("/k/{kitchen}/log/overlay", response=list[LaidBatch])
def lay_over(request: HttpRequest, kitchen: str, batches: str) -> list[LaidBatch]:
    """Up to eight batches, by their ids with commas between, to be laid over one another."""
    return overlay.laid_over(enter(request, kitchen), overlay.ids(batches))


@router.get("/k/{kitchen}/log/months", response=Months)
def read_months(request: HttpRequest, kitchen: str, formula_id: int | None = None) -> Months:
    """The last twelve months at a glance."""
    return reads.months(enter(request, kitchen), formula_id)


@router.get("/k/{kitchen}/formulas/{formula_id}/proposed", response=ProposedVersion | None)
def read_proposed(request: HttpRequest, kitchen: str, formula_id: int) -> ProposedVersion | None:
    """The next version of a formula, from what its batches taught; nothing where they taught too little."""
    return proposing.proposed(enter(request, kitchen), formula_id)


@router.get("/k/{kitchen}/formulas/{formula_id}/outcomes", response=list[VersionOutcome])
def read_outcomes(request: HttpRequest, kitchen: str, formula_id: int) -> list[VersionOutcome]:
    """What came of each version of a formula."""
    actor = enter(request, kitchen)
    return trends.versions(actor, book.formula(actor, formula_id).pk)


@router.get("/k/{kitchen}/log/compare", response=WhyOther)
def compare(request: HttpRequest, kitchen: str, a: int, b: int) -> WhyOther:
    """Why one batch came out other than another."""
    return overlay.compared(enter(request, kitchen), a, b)


Kind = Literal["json", "csv", "pdf"]


@router.get("/k/{kitchen}/batches/{batch_id}/record", response=Record)
def read_record(request: HttpRequest, kitchen: str, batch_id: int) -> Record:
    """All that an inspector asks of a batch."""
    return records.of_batch(enter(request, kitchen), batch_id)


@router.get("/k/{kitchen}/batches/{batch_id}/record.{kind}", response={200: None, 202: None})
def export_record(request: HttpRequest, kitchen: str, batch_id: int, kind: Kind) -> HttpResponse:
    """The same as a file; a PDF is set by a worker, and 202 until it is there."""
    actor = enter(request, kitchen)
    name = f"batch-{stove.batch(actor, batch_id).number}"
    if kind == "pdf":
        return printed(request, actor, "batch record", {"batch": batch_id}, name)
    return _file(actor, records.of_batch(actor, batch_id), kind, name)


@router.get("/k/{kitchen}/day/record.{kind}", response={200: None, 202: None})
def export_day(request: HttpRequest, kitchen: str, kind: Kind, day: date | None = None) -> HttpResponse:
    """The record of a day, today's by default, as a file, made by a worker; 202 until it is there."""
    actor = enter(request, kitchen)
    wanted = closing.day_of(actor, day)
    paper = "day record" if kind == "pdf" else f"day record {kind}"
    return printed(request, actor, paper, {"day": wanted.isoformat()}, f"day-{wanted}")


def _file(actor: Actor, record: Record, kind: str, name: str) -> HttpResponse:
    if kind == "csv":
        answer = HttpResponse(records.as_csv(record), content_type="text/csv; charset=utf-8")
    else:
        answer = HttpResponse(records.as_json(record), content_type="application/json")
    answer["Content-Disposition"] = f'attachment; filename="{actor.kitchen.slug}-{name}.{kind}"'
    return answer
