"""Assessment sheets: what a chef looks at while somebody cooks, real or not, and what they marked."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, get_args

from common import paper
from common.paper import Report
from common.refusals import Conflict
from django.db.models import Count
from django.http import Http404
from kitchen import reads as kitchen
from kitchen.access import Actor, Role, action
from papers.orders import maker
from people.models import User
from stove import reads as stove

from practice.models import Attempt, Sheet
from practice.schemas import CriterionOut, Mark, Marking, NewSheet, SheetLine, SheetOut
from practice.who import person as person_of
from practice.who import person_out

CRITERIA: dict[str, tuple[str, str]] = {
    "mise-en-place": ("Mise en place", "weighed and checked before the heat; sieve, ice and bowl at hand"),
    "hygiene": ("Hygiene", "hands and gloves after egg; a clean spoon for each taste; waste sorted"),
    "tempering": ("Tempering", "whisked while it is poured; slow at first; no threads"),
    "consistency": ("Consistency", "the spoon shows what was wanted; smooth; nothing in the sieve"),
    "cooling": ("Cooling", "out of the pan at once; ice and water; film on it; labelled"),
    "plate": ("Clean plate", "rim wiped, the right amount, served at its temperature"),
}
MARKS = get_args(Mark)
TOUCHED = "Somebody marked this sheet meanwhile. It is shown as it is now."


def sheet(actor: Actor, sheet_id: int) -> Sheet:
    """A sheet: one's own, or for a chef anybody's of the kitchen.

    Raises
    ------
    Http404
        when there is none, or it is somebody else's.
    """
    rows = Sheet.objects.filter(kitchen=actor.kitchen, pk=sheet_id).select_related("person", "assessor")
    found = rows.first()
    if found is None or (found.person_id != actor.user.pk and actor.role is not Role.CHEF):
        raise Http404
    return found


def sheet_out(found: Sheet) -> SheetOut:
    """A sheet as told."""
    return SheetOut(
        id=found.pk,
        person=person_out(found.person),
        by=found.assessor.shown(),
        over=found.over,
        at=found.at,
        batch_id=found.batch_id,
        attempt_id=found.attempt_id,
        criteria=[
            CriterionOut(key=key, name=name, look=look, mark=found.marks.get(key))  # type: ignore[arg-type]
            for key, (name, look) in CRITERIA.items()
        ],
        note=found.note,
        revision=found.revision,
    )


def lines(actor: Actor, user: User) -> list[SheetLine]:
    """Somebody's sheets."""
    rows = Sheet.objects.filter(kitchen=actor.kitchen, person=user).select_related("assessor")
    return [
        SheetLine(id=one.pk, over=one.over, at=one.at, by=one.assessor.shown(), marked=len(one.marks))
        for one in rows
    ]


def counted(actor: Actor) -> dict[int, int]:
    """How many sheets there are of each person."""
    rows = Sheet.objects.filter(kitchen=actor.kitchen).order_by().values("person").annotate(count=Count("id"))
    return {row["person"]: row["count"] for row in rows}


@action("practice.assess", Role.CHEF)
def begin(actor: Actor, wanted: NewSheet) -> Sheet:
    """Begin a sheet over a batch, an attempt, or something else by its name."""
    person, over, attempt, batch = person_of(actor, wanted.person_id), wanted.over, None, None
    if wanted.attempt_id is not None:
        attempt = Attempt.objects.filter(kitchen=actor.kitchen, pk=wanted.attempt_id, person=person).first()
        if attempt is None:
            raise Http404
        over = over or f"practice: {attempt.name}"
    if wanted.batch_id is not None:
        batch = stove.batch(actor, wanted.batch_id)
        over = over or f"{batch.name}, batch {batch.number}"
    return Sheet.objects.create(
        kitchen=actor.kitchen,
        person=person,
        assessor=actor.user,
        batch=batch,
        attempt=attempt,
        over=over or "work in the section",
    )


@action("practice.mark", Role.CHEF)
def mark(actor: Actor, sheet_id: int, wanted: Marking) -> Sheet:
    """Write what was touched.

    Raises
    ------
    Conflict
        when somebody else marked it meanwhile.
    """
    found = sheet(actor, sheet_id)
    changed = Sheet.objects.filter(pk=found.pk, revision=wanted.revision).update(
        marks=dict(wanted.marks), note=wanted.note, revision=wanted.revision + 1
    )
    if not changed:
        raise Conflict(TOUCHED, kind="touched")
    return sheet(actor, sheet_id)


@maker("sheet")
def as_pdf(actor: Actor, asked: Mapping[str, Any], report: Report) -> bytes:
    """A sheet as it is printed."""
    found = sheet(actor, asked["sheet"])
    zone = kitchen.zone_of(actor.kitchen)
    known: dict[str, Any] = {
        "sheet": sheet_out(found),
        "marks": MARKS,
        "kitchen": actor.kitchen.name,
        "at": found.at.astimezone(zone).strftime("%a %-d %b %Y"),
    }
    return paper.pdf("practice/sheet.html", known, report)
