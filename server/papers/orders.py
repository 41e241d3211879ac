"""Ordering something printed, and setting it.

A place registers how its papers are made with `maker`; a route orders one, waits a moment for it, and else
answers with a page that asks again by itself.
"""

from __future__ import annotations

import logging
import time
import uuid
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from common import clock, database
from common.paper import Report
from common.refusals import Refusal
from django.db import InterfaceError, OperationalError
from django.http import Http404
from kitchen.access import Actor, Role, action, as_member
from procrastinate.contrib.django import app

from papers.models import Paper

log = logging.getLogger("oldspoon.papers")
Maker = Callable[[Actor, Mapping[str, Any], Report], bytes]


@dataclass(frozen=True)
class Media:
    """What a paper is as a file: its suffix, its type, and whether a browser shows or saves it."""

    suffix: str
    content_type: str
    shown: bool = True


PDF = Media("pdf", "application/pdf")
CSV = Media("csv", "text/csv; charset=utf-8", shown=False)
JSON = Media("json", "application/json", shown=False)
MAKERS: dict[str, tuple[Maker, Media]] = {}
LARGE: set[str] = set()
"""Kinds that take minutes and hundreds of megabytes for a busy day."""
MOST_WAITING = 5
"""So many papers of one person are set at once; who asks for more waits for these."""
LOST = timedelta(minutes=10)
"""A paper that takes longer is not waited for: whoever was setting it died, and it is asked for again."""
WAIT_S = 3.0
"""So long a request waits for its paper: most are there by then."""
LOOK_S = 0.1
KEPT = timedelta(days=1)
BROKEN = "It could not be set for printing: something in it cannot be drawn."
NO_MORE = "What was to be printed is there no more."
GONE = "You are no longer in this kitchen."


def maker(kind: str, media: Media = PDF, *, large: bool = False) -> Callable[[Maker], Maker]:
    """Register how a kind of paper is made: called by a worker with who asked, what, and where to report how
    many pages are laid out. What can be large is set in a process of its own."""

    def register(function: Maker) -> Maker:
        MAKERS[kind] = (function, media)
        if large:
            LARGE.add(kind)
        return function

    return register


@action("paper.order", Role.VIEWER)
def order(actor: Actor, kind: str, asked: Mapping[str, Any], name: str) -> Paper:
    """Ask a worker for a paper; asked again before it is set, it is the same one.

    Raises
    ------
    Refusal
        429 when too many of this person's are being set.
    """
    mine = Paper.objects.filter(kitchen=actor.kitchen, user=actor.user)
    waiting = mine.filter(done_at=None, made_at__gt=clock.now() - LOST)
    same = waiting.filter(kind=kind, asked=dict(asked)).first()
    if same is not None:
        return same
    if waiting.count() >= MOST_WAITING:
        raise Refusal(429, "Your last papers are still being set. Ask again in a moment.", retry_s=5)
    paper = Paper.objects.create(
        kitchen=actor.kitchen, user=actor.user, kind=kind, asked=dict(asked), name=name
    )
    # By its name: the task calls back.
    app.configure_task("papers.make").defer(paper_id=str(paper.pk))
    return paper


def waited(paper: Paper) -> Paper:
    """The paper once it is done, or as it stands after a moment; no connection is held meanwhile."""
    ends = time.monotonic() + WAIT_S
    while paper.done_at is None and time.monotonic() < ends:
        database.release_connection()
        time.sleep(LOOK_S)
        paper.refresh_from_db(fields=["done_at", "pages"])
    if paper.done_at is not None:
        paper.refresh_from_db()
    return paper


def of(actor: Actor, paper_id: uuid.UUID) -> Paper | None:
    """A paper that somebody asked for themselves."""
    return Paper.objects.filter(kitchen=actor.kitchen, user=actor.user, pk=paper_id).first()


def is_large(paper_id: str) -> bool:
    """Whether a paper can take long and much memory."""
    return Paper.objects.filter(pk=paper_id, kind__in=LARGE).exists()


def make(paper_id: str) -> None:
    """Set a paper; done twice it is done once. It ends with the PDF, or with a sentence why there is none."""
    paper = Paper.objects.select_related("kitchen", "user").filter(pk=paper_id, done_at=None).first()
    if paper is None:
        return
    kept = Paper.objects.filter(pk=paper.pk)
    reported_at = time.monotonic()

    def report(pages: int) -> None:
        nonlocal reported_at
        if time.monotonic() - reported_at > 1:
            reported_at = time.monotonic()
            kept.update(pages=pages)

    try:
        actor = as_member(paper.user, paper.kitchen)
        if actor is None:
            raise Refusal(403, GONE)
        function, _ = MAKERS[paper.kind]
        content = function(actor, paper.asked, report)
    except Refusal as refused:
        _refuse(paper, refused)
    except Http404:
        _refuse(paper, Refusal(404, NO_MORE))
    except (OperationalError, InterfaceError):
        # The database went away: nothing is wrong with the paper, and it is set again.
        raise
    except Exception:  # whoever waits for it gets a sentence
        log.exception("paper %s cannot be set", paper.pk)
        _refuse(paper, Refusal(500, BROKEN))
    else:
        kept.update(done_at=clock.now(), content=content)


def _refuse(paper: Paper, why: Refusal) -> None:
    Paper.objects.filter(pk=paper.pk).update(
        done_at=clock.now(), refused=str(why), refused_status=why.status, refused_kind=why.kind
    )


def forget(now: datetime) -> int:
    """Forget the papers of yesterday; how many."""
    return Paper.objects.filter(made_at__lt=now - KEPT).delete()[0]
