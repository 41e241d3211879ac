"""What a request for a paper is answered with."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from common.refusals import Refusal
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from kitchen.access import Actor

from papers import orders
from papers.models import Paper

AGAIN_S = 2


def printed(
    request: HttpRequest, actor: Actor, kind: str, asked: Mapping[str, Any], name: str
) -> HttpResponse:
    """The file that is asked for; where it takes longer, a page that says so and asks again by itself."""
    return answer(request, actor, orders.waited(orders.order(actor, kind, asked, name)))


def answer(request: HttpRequest, actor: Actor, paper: Paper) -> HttpResponse:
    """A paper as it stands.

    Raises
    ------
    Refusal
        when it could not be made, with the sentence that says why.
    """
    if paper.refused:
        raise Refusal(paper.refused_status, paper.refused, kind=paper.refused_kind)
    if paper.content is not None:
        _, media = orders.MAKERS[paper.kind]
        found = HttpResponse(bytes(paper.content), content_type=media.content_type)
        how = "inline" if media.shown else "attachment"
        name = f"{actor.kitchen.slug}-{paper.name}.{media.suffix}"
        found["Content-Disposition"] = f'{how}; filename="{name}"'
        return found
    where = f"/api/k/{actor.kitchen.slug}/papers/{paper.pk}"
    known = {"paper": paper, "nonce": getattr(request, "csp_nonce", "")}
    waiting = render(request, "papers/waiting.html", known, status=202)
    waiting["Refresh"] = f"{AGAIN_S}; url={where}"
    waiting["Location"] = where
    waiting["Retry-After"] = str(AGAIN_S)
    return waiting
