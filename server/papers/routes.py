"""Routes of what is printed."""

from __future__ import annotations

import uuid

from django.http import Http404, HttpRequest, HttpResponse
from kitchen.access import enter
from ninja import Router

from papers import answers, orders

router = Router()


@router.get("/k/{kitchen}/papers/{paper_id}", response={200: None, 202: None})
def read_paper(request: HttpRequest, kitchen: str, paper_id: uuid.UUID) -> HttpResponse:
    """A paper that one asked for: its PDF, or 202 while it is set."""
    actor = enter(request, kitchen)
    found = orders.of(actor, paper_id)
    if found is None:
        raise Http404
    return answers.answer(request, actor, orders.waited(found))
