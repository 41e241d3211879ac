"""What is taken off a list, and put back as if it had stayed."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from common import clock
from common.refusals import Conflict
from django.db import models
from django.http import Http404

from kitchen.access import Actor
from kitchen.models import Cooler, Hob, Invitation, Kitchen, Membership, OwnIngredient, Pan, TakenOff, Vessel

THINGS: Mapping[str, type[models.Model]] = {
    kind.__name__: kind for kind in (OwnIngredient, Hob, Pan, Cooler, Vessel)
}
"""What stands on lists of things, by the name it is kept by."""
PEOPLE: Mapping[str, type[models.Model]] = {kind.__name__: kind for kind in (Membership, Invitation)}
"""Who stands on the list of people: put back only by somebody who said their password."""


UNDONE_WITHIN = timedelta(hours=1)
"""So long what was taken off is kept; the page offers to undo that for a minute."""


@dataclass(frozen=True)
class Removed:
    """What was taken off: its name, by what it can be put back, and what ended with it."""

    key: int
    name: str
    ended: str = ""

    def __str__(self) -> str:
        return f"{self.name}; ended: {self.ended}" if self.ended else self.name


def take_off(actor: Actor, row: models.Model) -> Removed:
    """Take a row off its list and keep it as it was; what was taken off long before is gone for good then."""
    TakenOff.objects.filter(kitchen=actor.kitchen, at__lt=clock.now() - UNDONE_WITHIN).delete()
    values = {field.attname: _kept(field.value_from_object(row)) for field in row._meta.concrete_fields}
    kept = TakenOff.objects.create(kitchen=actor.kitchen, kind=type(row).__name__, values=values)
    name = str(row)
    row.delete()
    return Removed(kept.pk, name)


def put_back(actor: Actor, key: int, kinds: Mapping[str, type[models.Model]]) -> str:
    """Put something back as it was; its name.

    Raises
    ------
    Http404
        when nothing of these kinds was taken off by that key.
    Conflict
        when something stands in its place by now.
    """
    Kitchen.objects.select_for_update(no_key=True).get(pk=actor.kitchen.pk)
    kept = TakenOff.objects.filter(kitchen=actor.kitchen, kind__in=kinds, pk=key).first()
    if kept is None:
        raise Http404
    _IN_ITS_PLACE.get(kept.kind, _named_so)(actor, kinds[kept.kind], kept.values)
    row = kinds[kept.kind]._default_manager.create(**kept.values)
    kept.delete()
    return str(row)


def _named_so(actor: Actor, kind: type[models.Model], values: Mapping[str, Any]) -> None:
    name = values["name"]
    if kind._default_manager.filter(kitchen=actor.kitchen, name__iexact=name).exists():
        raise Conflict(f"There is another {name} by now.")


def _came_again(actor: Actor, _: type[models.Model], values: Mapping[str, Any]) -> None:
    if Membership.objects.filter(kitchen=actor.kitchen, user=values["user_id"]).exists():
        raise Conflict("They are in this kitchen again by now.")


def _nobody(*_: object) -> None:
    """Of invitations there can be as many as one likes."""


_IN_ITS_PLACE: Mapping[str, Callable[[Actor, type[models.Model], Mapping[str, Any]], None]] = {
    "Membership": _came_again,
    "Invitation": _nobody,
}


def _kept(value: object) -> object:
    return value.isoformat() if isinstance(value, datetime) else value
