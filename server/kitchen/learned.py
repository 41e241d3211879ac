"""What a kitchen's batches taught it of its sauces: kept, shown, and used or left out."""

from __future__ import annotations

from collections.abc import Mapping

import custard
import custard.learning
from common import clock
from common.events import notify
from django.http import Http404

from kitchen.access import Actor, Role, action
from kitchen.models import Kitchen, LearnedSauce
from kitchen.schemas import LearnedFigure, LearnedOut, LearnedSauceOut

VERSION = 1
HOUSE = ""


def house_of(kitchen: Kitchen) -> tuple[tuple[str, custard.Learned], ...]:
    """What is used of it, by the name of a formula; nothing where the kitchen goes by what is computed."""
    rows = list(LearnedSauce.objects.filter(kitchen=kitchen))
    if any(row.formula == HOUSE and not row.used for row in rows):
        return ()
    return tuple((row.formula, _figures(row).as_learned if row.used else custard.Learned()) for row in rows)


def of_formula(kitchen: Kitchen, name: str) -> custard.learning.Figures | None:
    """What was learned of one formula; None where it is nothing, or is left out."""
    rows = {
        row.formula: row for row in LearnedSauce.objects.filter(kitchen=kitchen, formula__in=(HOUSE, name))
    }
    if name not in rows or not all(row.used for row in rows.values()):
        return None
    return _figures(rows[name])


def _figures(row: LearnedSauce) -> custard.learning.Figures:
    return custard.learning.Figures.of({name: one for name, one in row.figures.items() if name != "version"})


def shown(actor: Actor) -> LearnedOut:
    """What this kitchen learned, for its page."""
    rows = list(LearnedSauce.objects.filter(kitchen=actor.kitchen))
    house = next((row for row in rows if row.formula == HOUSE), None)
    return LearnedOut(
        speak=custard.learning.SPEAK,
        house=None if house is None else _sauce(house),
        sauces=[_sauce(row) for row in rows if row.formula != HOUSE],
    )


def _sauce(row: LearnedSauce) -> LearnedSauceOut:
    figures = _figures(row)
    return LearnedSauceOut(
        formula=row.formula,
        used=row.used,
        at=row.at,
        set_k=_figure(figures.set_k),
        carry_over=_figure(figures.carry_over_factor),
        left=_figure(figures.left_factor),
    )


def _figure(known: custard.learning.Estimate) -> LearnedFigure:
    return LearnedFigure(mean=round(known.mean, 2), sd=round(known.sd, 2), batches=known.batches)


@action("sauces.learn", Role.COOK)
def learn_sauces(actor: Actor, found: Mapping[str, custard.learning.Figures]) -> str:
    """Keep what all batches together say, because of something that somebody did."""
    return store(actor.kitchen, found)


def store(kitchen: Kitchen, found: Mapping[str, custard.learning.Figures]) -> str:
    """Keep what all batches together say, for the house and each formula; what is gone is dropped. Within a
    transaction."""
    kept = {
        row.formula: row
        for row in LearnedSauce.objects.select_for_update(no_key=True).filter(kitchen=kitchen)
    }
    rows = []
    for name, figures in found.items():
        row = kept.pop(name, None) or LearnedSauce(kitchen=kitchen, formula=name)
        row.figures, row.at = {"version": VERSION, **figures.as_json()}, clock.now()
        rows.append(row)
    LearnedSauce.objects.bulk_create(
        rows,
        update_conflicts=True,
        unique_fields=["kitchen", "formula"],
        update_fields=["figures", "at"],
    )
    LearnedSauce.objects.filter(pk__in=[row.pk for row in kept.values()]).delete()
    notify(kitchen.pk, {"kitchen": 1})
    return f"{len(found)} sauces"


@action("sauces.use", Role.CHEF)
def use(actor: Actor, formula: str, *, used: bool) -> LearnedSauce:
    """Go by what was learned of a sauce, or of none where it is the house, or by what is computed.

    Raises
    ------
    Http404
        when nothing was learned of it.
    """
    row = (
        LearnedSauce.objects.select_for_update(no_key=True)
        .filter(kitchen=actor.kitchen, formula=formula)
        .first()
    )
    if row is None:
        raise Http404
    row.used = used
    row.save(update_fields=["used"])
    notify(actor.kitchen.pk, {"kitchen": 1})
    return row
