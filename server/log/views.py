"""Views of the log under a name: kept, listed and forgotten; each person's own."""

from __future__ import annotations

from common.refusals import Refusal
from django.http import Http404
from kitchen.access import Actor, Role, action

from log.models import LogView
from log.schemas import LogAsked, NewView, ViewOut

MOST = 30
"""So many views of one person are kept in a kitchen."""


def of(actor: Actor) -> list[ViewOut]:
    """The views that this person kept, by name."""
    rows = LogView.objects.filter(kitchen=actor.kitchen, user=actor.user)
    return [ViewOut(id=row.pk, name=row.name, asked=LogAsked(**row.asked)) for row in rows]


@action("log.keep_view", Role.VIEWER)
def keep(actor: Actor, new: NewView) -> LogView:
    """Keep what is looked for under a name; a view of that name is written over.

    Raises
    ------
    Refusal
        when this person kept too many.
    """
    mine = LogView.objects.filter(kitchen=actor.kitchen, user=actor.user)
    asked = new.asked.model_dump(mode="json", exclude_defaults=True, exclude={"before"})
    if not mine.filter(name=new.name).exists() and mine.count() >= MOST:
        raise Refusal(
            422, f"No more than {MOST} views are kept. Remove one first.", [("name", "is one too many")]
        )
    found, _ = LogView.objects.update_or_create(
        kitchen=actor.kitchen, user=actor.user, name=new.name, defaults={"asked": asked}
    )
    return found


@action("log.forget_view", Role.VIEWER)
def forget(actor: Actor, view_id: int) -> str:
    """Forget a view of one's own."""
    found = LogView.objects.filter(kitchen=actor.kitchen, user=actor.user, pk=view_id).first()
    if found is None:
        raise Http404
    found.delete()
    return found.name
