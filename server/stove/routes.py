"""Routes of the Stove."""

from __future__ import annotations

import json
from typing import Annotated
from uuid import UUID

import custard
from book.drafts import read_draft
from common import clock
from devices.tokens import DeviceKind, DeviceToken, sent_by
from django.http import HttpRequest, HttpResponse
from kitchen.access import enter, listener
from ninja import Router, Status
from pydantic import Field

from stove import actions, cooling, marking, reads, setting_up
from stove.after import keeping
from stove.live import advice, follow, listening, moment, probes
from stove.live_schemas import ForProbe, LiveOut, PoursOut, Urgent
from stove.schemas import (
    BatchLine,
    BatchOut,
    CoolingUsual,
    CoolingWanted,
    EquipmentWanted,
    GuestsWanted,
    NewBatch,
    NewMark,
    NewMarks,
    OddOrNot,
    OvenOut,
)

router = Router()


@router.get("/k/{kitchen}/batches", response=list[BatchLine])
def list_batches(request: HttpRequest, kitchen: str) -> list[BatchLine]:
    """What is on the stove."""
    return reads.on_the_stove(enter(request, kitchen))


@router.post("/k/{kitchen}/batches", response={201: BatchOut})
def start_batch(request: HttpRequest, kitchen: str, body: NewBatch) -> Status[BatchOut]:
    """Take a formula to the stove."""
    actor = enter(request, kitchen)
    formula = read_draft(body.draft.content())
    batch = actions.start(
        actor, body.formula_id, body.version, formula, body.pace, as_computed=body.as_computed
    )
    return Status(201, reads.opened(actor, batch.pk))


@router.get("/k/{kitchen}/batches/{batch_id}", response=BatchOut)
def open_batch(request: HttpRequest, kitchen: str, batch_id: int) -> BatchOut:
    """One batch."""
    return reads.opened(enter(request, kitchen), batch_id)


@router.post("/k/{kitchen}/batches/{batch_id}/odd", response=BatchOut)
def call_odd(request: HttpRequest, kitchen: str, batch_id: int, body: OddOrNot) -> BatchOut:
    """Say that nothing is to be learned of a closed batch, or that it is to be learned from after all."""
    actor = enter(request, kitchen)
    actions.odd(actor, batch_id, is_odd=body.odd, reason=body.reason)
    return reads.opened(actor, batch_id)


@router.post("/k/{kitchen}/batches/{batch_id}/marks", response=BatchOut)
def add_mark(request: HttpRequest, kitchen: str, batch_id: int, mark: NewMark) -> BatchOut:
    """Record something that happened."""
    actor = enter(request, kitchen)
    marking.mark(actor, batch_id, mark)
    return reads.opened(actor, batch_id)


@router.post("/k/{kitchen}/batches/{batch_id}/marks/several", response=BatchOut)
def add_marks(request: HttpRequest, kitchen: str, batch_id: int, body: NewMarks) -> BatchOut:
    """Record several things that happened, in order: all of them or none."""
    actor = enter(request, kitchen)
    marking.marks(actor, batch_id, body.marks)
    return reads.opened(actor, batch_id)


@router.post("/k/{kitchen}/batches/{batch_id}/marks/{mark_id}/withdraw", response=BatchOut)
def withdraw_mark(request: HttpRequest, kitchen: str, batch_id: int, mark_id: UUID) -> BatchOut:
    """Take a mark back."""
    actor = enter(request, kitchen)
    marking.withdraw(actor, batch_id, mark_id)
    return reads.opened(actor, batch_id)


@router.post("/k/{kitchen}/batches/{batch_id}/reopen", response=BatchOut)
def reopen_batch(request: HttpRequest, kitchen: str, batch_id: int) -> BatchOut:
    """Open a closed batch again."""
    actor = enter(request, kitchen)
    actions.reopen(actor, batch_id)
    return reads.opened(actor, batch_id)


@router.put("/k/{kitchen}/batches/{batch_id}/setup", response=BatchOut)
def set_up(request: HttpRequest, kitchen: str, batch_id: int, body: EquipmentWanted) -> BatchOut:
    """Say what a batch is cooked on and in, and which probe lies in it."""
    actor = enter(request, kitchen)
    setting_up.set_up(actor, batch_id, body)
    return reads.opened(actor, batch_id)


@router.put("/k/{kitchen}/batches/{batch_id}/guests", response=BatchOut)
def say_guests(request: HttpRequest, kitchen: str, batch_id: int, body: GuestsWanted) -> BatchOut:
    """Say whether a batch is for guests who must not fall ill."""
    actor = enter(request, kitchen)
    actions.for_guests(actor, batch_id, vulnerable=body.vulnerable)
    return reads.opened(actor, batch_id)


@router.get("/k/{kitchen}/batches/{batch_id}/guests", response=custard.after.Guests)
def read_guests(request: HttpRequest, kitchen: str, batch_id: int) -> custard.after.Guests:
    """What is asked of a batch where guests are vulnerable, and what it has reached."""
    return keeping.for_guests(enter(request, kitchen), batch_id)


@router.get("/k/{kitchen}/batches/{batch_id}/life", response=custard.after.Life)
def read_life(request: HttpRequest, kitchen: str, batch_id: int) -> custard.after.Life:
    """How a batch keeps, as it went so far."""
    return keeping.life(enter(request, kitchen), batch_id)


@router.get("/k/{kitchen}/batches/{batch_id}/live", response=LiveOut)
def read_live(request: HttpRequest, kitchen: str, batch_id: int) -> LiveOut:
    """A batch at this moment: where it is, when to lift it, what to do next."""
    batch, now = reads.batch(enter(request, kitchen), batch_id), clock.now()
    return moment.recorded(batch) if batch.closed_at else follow.shown(batch, now)


@router.get("/k/{kitchen}/batches/{batch_id}/pours", response=PoursOut | None)
def read_pours(
    request: HttpRequest, kitchen: str, batch_id: int, ladle_g: Annotated[float, Field(ge=10, le=2000)] = 80
) -> PoursOut | None:
    """How a batch is tempered, pour by pour; nothing when there is nothing to temper."""
    return advice.pours(enter(request, kitchen), batch_id, ladle_g)


@router.get("/k/{kitchen}/batches/{batch_id}/oven", response=OvenOut | None)
def read_oven(request: HttpRequest, kitchen: str, batch_id: int) -> OvenOut | None:
    """What a batch is baked in, and how long that takes; nothing for what is not baked."""
    return advice.oven(enter(request, kitchen), batch_id)


@router.get("/k/{kitchen}/batches/{batch_id}/batch.json", response=dict[str, object])
def export_batch(request: HttpRequest, kitchen: str, batch_id: int) -> HttpResponse:
    """A batch as a file in the open format, for the command `custard diagnose` and for others."""
    answer = HttpResponse(
        json.dumps(reads.written(enter(request, kitchen), batch_id), indent=1),
        content_type="application/json",
    )
    answer["Content-Disposition"] = f'attachment; filename="{kitchen}-batch-{batch_id}.json"'
    return answer


@router.post("/k/{kitchen}/batches/{batch_id}/cooling", response=custard.after.Cooling)
def plan_cooling(
    request: HttpRequest, kitchen: str, batch_id: int, body: CoolingWanted
) -> custard.after.Cooling:
    """What would become of a batch cooled so, and what would help. Writes nothing."""
    return cooling.planned(enter(request, kitchen), batch_id, body)


@router.get("/k/{kitchen}/batches/{batch_id}/cooling", response=CoolingUsual)
def usual_cooling(request: HttpRequest, kitchen: str, batch_id: int) -> CoolingUsual:
    """How this kitchen would cool a batch, judged. Writes nothing."""
    return cooling.usual(enter(request, kitchen), batch_id)


@router.put("/k/{kitchen}/batches/{batch_id}/cooling", response=BatchOut)
def choose_cooling(request: HttpRequest, kitchen: str, batch_id: int, body: CoolingWanted) -> BatchOut:
    """Say in what and by what ways a batch is cooled."""
    actor = enter(request, kitchen)
    actions.cool(actor, batch_id, body)
    return reads.opened(actor, batch_id)


@router.get("/k/{kitchen}/urgent", response=list[Urgent])
def list_urgent(request: HttpRequest, kitchen: str) -> list[Urgent]:
    """What is on the stove and what each wants next, the most urgent first."""
    return reads.urgent(enter(request, kitchen))


@router.get("/k/{kitchen}/events", response={200: None})
def listen(request: HttpRequest, kitchen: str, batch: int | None = None) -> HttpResponse:
    """Server-sent events: what was marked, and where every open batch stands; one of them in full."""
    return listening.answer(request, listener(request, enter(request, kitchen)), batch)


@router.get("/device/batch", response=ForProbe, auth=DeviceToken())
def read_for_probe(request: HttpRequest) -> ForProbe:
    """The batch that a probe lies in, for a stand-in that is fed by a simulation of it."""
    return probes.for_probe(sent_by(request, DeviceKind.PROBE))
