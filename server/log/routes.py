"""Routes of the Log."""

from __future__ import annotations

from django.http import HttpRequest
from kitchen.access import enter
from ninja import Router

from log import reads
from log.schemas import LogPage

router = Router()


@router.get("/k/{kitchen}/log", response=LogPage)
def read_log(request: HttpRequest, kitchen: str, before: int | None = None) -> LogPage:
    """The batches, plan beside fact."""
    return reads.page(enter(request, kitchen), before)
