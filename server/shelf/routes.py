"""Routes of the Shelf."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

from common.refusals import Refusal
from common.text import Word
from django.http import HttpRequest, HttpResponse
from kitchen.access import Actor, enter
from ninja import Query, Router
from papers.answers import printed
from pydantic import Field
from stove import reads as stove_reads
from stove.schemas import BatchOut

from shelf import actions, closing, labels, reads, stock, trace
from shelf.schemas import (
    Closing,
    ClosingOut,
    Decision,
    LabelOut,
    LabelsWanted,
    NewMove,
    NewPromise,
    ShelfOut,
    Signing,
    Trace,
    TubOut,
    WhitesOut,
)

router = Router()
Filter = Annotated[str | None, Field(pattern="^(fridge|frozen|whites)$")]


@router.get("/k/{kitchen}/shelf", response=ShelfOut)
def read_shelf(
    request: HttpRequest, kitchen: str, place: Filter = None, q: Word = "", after: str | None = None
) -> ShelfOut:
    """What cools, and what is in the fridge and the freezer, soonest first."""
    return reads.on_the_shelf(enter(request, kitchen), place, q, after)


@router.get("/k/{kitchen}/stock.{kind}", response={200: None})
def export_stock(request: HttpRequest, kitchen: str, kind: Literal["json", "csv"]) -> HttpResponse:
    """All that is on the shelf as a file: tubs and movements, or a table of the tubs."""
    found = stock.stock(enter(request, kitchen))
    if kind == "csv":
        answer = HttpResponse(stock.as_csv(found), content_type="text/csv; charset=utf-8")
    else:
        answer = HttpResponse(found.model_dump_json(indent=1), content_type="application/json")
    answer["Content-Disposition"] = f'attachment; filename="{kitchen}-stock.{kind}"'
    return answer


@router.get("/k/{kitchen}/tubs/{tub_id}", response=TubOut)
def read_tub(request: HttpRequest, kitchen: str, tub_id: int) -> TubOut:
    """A tub with all that was done with it."""
    return reads.opened(enter(request, kitchen), tub_id)


@router.post("/k/{kitchen}/tubs/{tub_id}/moves", response=TubOut)
def move(request: HttpRequest, kitchen: str, tub_id: int, body: NewMove) -> TubOut:
    """Use, split, churn, freeze, thaw, warm, throw away, weigh again, or take that back."""
    actor = enter(request, kitchen)
    actions.move(actor, tub_id, body)
    return reads.opened(actor, tub_id)


@router.post("/k/{kitchen}/tubs/{tub_id}/promises", response=TubOut)
def add_promise(request: HttpRequest, kitchen: str, tub_id: int, body: NewPromise) -> TubOut:
    """Promise so much of a tub to a dish."""
    actor = enter(request, kitchen)
    actions.promise(actor, tub_id, body)
    return reads.opened(actor, tub_id)


@router.delete("/k/{kitchen}/tubs/{tub_id}/promises/{promise_id}", response=TubOut)
def take_promise_away(request: HttpRequest, kitchen: str, tub_id: int, promise_id: int) -> TubOut:
    """Take a promise away."""
    actor = enter(request, kitchen)
    actions.unpromise(actor, tub_id, promise_id)
    return reads.opened(actor, tub_id)


@router.get("/k/{kitchen}/whites", response=WhitesOut)
def read_whites(
    request: HttpRequest, kitchen: str, days: Annotated[int, Field(ge=1, le=366)] = reads.WHITES_DAYS
) -> WhitesOut:
    """The whites of some days, and what can be made of what there is."""
    return reads.whites(enter(request, kitchen), days)


@router.get("/k/{kitchen}/labels", response=list[LabelOut])
def read_labels(request: HttpRequest, kitchen: str, of: Query[LabelsWanted]) -> list[LabelOut]:
    """The labels of some tubs, with their QR codes."""
    actor = enter(request, kitchen)
    return labels.labels(actor, of.tub, _root(request, actor))


@router.get("/k/{kitchen}/labels.pdf", response={200: None, 202: None})
def print_labels(request: HttpRequest, kitchen: str, of: Query[LabelsWanted]) -> HttpResponse:
    """The same as PDF, for a roll of 62 mm or on A4."""
    actor = enter(request, kitchen)
    reads.chosen(actor, of.tub)
    asked = {"tubs": of.tub, "root": _root(request, actor), "size": of.size}
    return printed(request, actor, "labels", asked, "labels")


def _root(request: HttpRequest, actor: Actor) -> str:
    """Where this kitchen is, as the one who asks reached it."""
    return request.build_absolute_uri(f"/k/{actor.kitchen.slug}")


@router.get("/k/{kitchen}/batches/{batch_id}/trace", response=Trace)
def read_trace(request: HttpRequest, kitchen: str, batch_id: int) -> Trace:
    """What went into a batch, and where it went; for a recall."""
    return trace.trace(enter(request, kitchen), batch_id)


@router.post("/k/{kitchen}/batches/{batch_id}/close", response=BatchOut)
def close_batch(request: HttpRequest, kitchen: str, batch_id: int, body: Closing) -> BatchOut:
    """Close a batch with a verdict, and put away what of it is kept."""
    actor = enter(request, kitchen)
    actions.close(actor, batch_id, body)
    return stove_reads.opened(actor, batch_id)


@router.post("/k/{kitchen}/batches/{batch_id}/decision", response=BatchOut)
def decide_batch(request: HttpRequest, kitchen: str, batch_id: int, body: Decision) -> BatchOut:
    """Decide that a batch may be used although its record lacks something; its tubs are given their life."""
    actor = enter(request, kitchen)
    actions.decide(actor, batch_id, body.reason)
    return stove_reads.opened(actor, batch_id)


@router.get("/k/{kitchen}/closing", response=ClosingOut)
def read_closing(request: HttpRequest, kitchen: str, day: date | None = None) -> ClosingOut:
    """What is still to do before the day is closed, and who signed it."""
    return closing.closing(enter(request, kitchen), day)


@router.post("/k/{kitchen}/closing", response=ClosingOut)
def sign_closing(request: HttpRequest, kitchen: str, body: Signing) -> ClosingOut:
    """Close the day: the list is kept as it stands, with who signed it."""
    actor = enter(request, kitchen)
    today = closing.closing(actor, body.day)
    if body.day != closing.day_of(actor, None):
        raise Refusal(422, "Only today is signed.", [("day", "is over: what was there then is not known")])
    actions.close_day(actor, body, today.tasks)
    return closing.closing(actor, body.day)
