"""Routes of Trouble."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from kitchen.access import enter
from ninja import Query, Router
from stove import reads as stove_reads
from stove.schemas import BatchOut

from trouble import actions, reads
from trouble.schemas import About, Asked, NextTime, NextTimeOut, Seen, Taking, TroubleOut, TroubleTaken

router = Router()


@router.get("/k/{kitchen}/troubles", response=list[Seen])
def list_troubles(request: HttpRequest, kitchen: str, about: Query[About]) -> list[Seen]:
    """Everything that can be seen, and whether it can be met in this batch, tub, formula or family."""
    return reads.seen(enter(request, kitchen), about)


@router.post("/k/{kitchen}/trouble", response=TroubleOut)
def ask(request: HttpRequest, kitchen: str, body: Asked) -> TroubleOut:
    """What made it, whether it can be saved, and how. Writes nothing."""
    return reads.seen_and_answered(enter(request, kitchen), body)


@router.post("/k/{kitchen}/trouble/take", response=TroubleTaken)
def take(request: HttpRequest, kitchen: str, body: Taking) -> TroubleTaken:
    """Write the remedy into its batch, or into a tub of it."""
    return actions.take(enter(request, kitchen), body)


@router.post("/k/{kitchen}/batches/{batch_id}/remedies/{mark_id}/take-back", response=BatchOut)
def take_back(request: HttpRequest, kitchen: str, batch_id: int, mark_id: UUID) -> BatchOut:
    """Take a remedy back."""
    actor = enter(request, kitchen)
    actions.take_back(actor, batch_id, mark_id)
    return stove_reads.opened(actor, batch_id)


@router.post("/k/{kitchen}/formulas/{formula_id}/next-time", response=NextTimeOut)
def next_time(request: HttpRequest, kitchen: str, formula_id: int, body: NextTime) -> NextTimeOut:
    """Write down what to do otherwise next time."""
    wrote, version = actions.next_time(enter(request, kitchen), formula_id, body)
    return NextTimeOut(wrote=wrote, version=version)
