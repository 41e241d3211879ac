"""Routes of the Stove."""

from __future__ import annotations

from uuid import UUID

from book.drafts import read_draft
from django.http import HttpRequest
from kitchen.access import enter
from ninja import Router, Status

from stove import actions, reads
from stove.schemas import BatchLine, BatchOut, Closing, NewBatch, NewMark

router = Router()


@router.get("/k/{kitchen}/batches", response=list[BatchLine])
def list_batches(request: HttpRequest, kitchen: str) -> list[BatchLine]:
    """What is on the stove."""
    return reads.on_the_stove(enter(request, kitchen))


@router.post("/k/{kitchen}/batches", response={201: BatchOut})
def start_batch(request: HttpRequest, kitchen: str, body: NewBatch) -> Status[BatchOut]:
    """Take a formula to the stove."""
    actor = enter(request, kitchen)
    batch = actions.start(actor, body.formula_id, body.version, read_draft(body.draft.content()))
    return Status(201, reads.opened(actor, batch.pk))


@router.get("/k/{kitchen}/batches/{batch_id}", response=BatchOut)
def open_batch(request: HttpRequest, kitchen: str, batch_id: int) -> BatchOut:
    """One batch."""
    return reads.opened(enter(request, kitchen), batch_id)


@router.post("/k/{kitchen}/batches/{batch_id}/marks", response=BatchOut)
def add_mark(request: HttpRequest, kitchen: str, batch_id: int, mark: NewMark) -> BatchOut:
    """Record something that happened."""
    actor = enter(request, kitchen)
    actions.mark(actor, batch_id, mark)
    return reads.opened(actor, batch_id)


@router.post("/k/{kitchen}/batches/{batch_id}/marks/{mark_id}/withdraw", response=BatchOut)
def withdraw_mark(request: HttpRequest, kitchen: str, batch_id: int, mark_id: UUID) -> BatchOut:
    """Take a mark back."""
    actor = enter(request, kitchen)
    actions.withdraw(actor, batch_id, mark_id)
    return reads.opened(actor, batch_id)


@router.post("/k/{kitchen}/batches/{batch_id}/close", response=BatchOut)
def close_batch(request: HttpRequest, kitchen: str, batch_id: int, body: Closing) -> BatchOut:
    """Close a batch with a verdict."""
    actor = enter(request, kitchen)
    actions.close(actor, batch_id, body.verdict, body.note)
    return reads.opened(actor, batch_id)


@router.post("/k/{kitchen}/batches/{batch_id}/reopen", response=BatchOut)
def reopen_batch(request: HttpRequest, kitchen: str, batch_id: int) -> BatchOut:
    """Open a closed batch again."""
    actor = enter(request, kitchen)
    actions.reopen(actor, batch_id)
    return reads.opened(actor, batch_id)
