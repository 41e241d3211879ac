"""What is in a batch: its allergens, and what of it no heat has reached.

The one door by which whatever gets into food reaches label, search, record, Day and Shelf.

Things get in as lines of the formula at any of its moments, in the cups of the oven, by a remedy, and out of
tubs of other batches; those have it from the same door.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import datetime
from math import floor
from typing import Any

import custard
from custard.vocabulary import MarkKind, StageName

from stove.batch import plans
from stove.batch.cooking import equipment_of
from stove.models import Batch, Remedy


@dataclass(frozen=True)
class Contents:
    """What is in something: its allergens, and what joined unheated, each once."""

    allergens: tuple[str, ...]
    unheated: tuple[str, ...]


def in_batch(batch: Batch) -> Contents:
    """What is in a batch as it stands, with all that was drawn into it."""
    remedies = [
        mark.remedy
        for mark in batch.marks.filter(withdrawal=None, kind=MarkKind.REMEDY).select_related("remedy")
    ]
    drawn = list(batch.drawn.filter(corrected_by=None).select_related("tub"))
    cooked_at = batch.when_done(StageName.COOK)
    late = [one.tub for one in drawn if cooked_at is not None and one.at >= cooked_at]
    return Contents(
        _each_once(
            plans.read(batch.plan).allergens,
            _in_the_cups(batch),
            *(one.allergens for one in remedies),
            sorted({word for one in drawn for word in one.tub.allergens}),
        ),
        _each_once(
            custard.after.joins_raw(custard.read_formula(batch.content)),
            *(_unheated(batch, one) for one in remedies),
            *(one.unheated for one in late),
        ),
    )


def planned(formula: custard.Formula, allergens: Iterable[str]) -> Contents:
    """What is in a batch that has just been taken to the stove."""
    return Contents(_each_once(allergens), _each_once(custard.after.joins_raw(formula)))


def write(batch: Batch) -> None:
    """Write what is in a batch into its columns."""
    found = in_batch(batch)
    batch.allergens, batch.unheated = list(found.allergens), list(found.unheated)
    batch.save(update_fields=["allergens", "unheated"])


def _each_once(*parts: Iterable[str]) -> tuple[str, ...]:
    return tuple(dict.fromkeys(word for part in parts for word in part))


def _in_the_cups(batch: Batch) -> tuple[str, ...]:
    """The allergens of the bread or cake that lies in its cups."""
    cups = equipment_of(batch).cups
    return custard.larder.ingredient(cups.solid).allergens if cups is not None and cups.solid else ()


def _unheated(batch: Batch, remedy: Remedy) -> tuple[str, ...]:
    """What a remedy adds that no heat reaches after it."""
    if remedy.heat_to_c is not None or not remedy.lines:
        return ()
    content: dict[str, Any] = {**batch.content, "lines": remedy.lines}
    return custard.after.joins_raw(custard.read_formula(content))


def lives_no_longer(batch: Batch, known: custard.after.Life, made_at: datetime) -> custard.after.Life:
    """A life cut to that of what was drawn into the batch once it was cooked."""
    cooked_at = batch.when_done(StageName.COOK)
    if cooked_at is None:
        return known
    late = [one.pk for one in batch.drawn.all() if one.at >= cooked_at]
    if not late:
        return known
    for one in batch.drawn.filter(pk__in=late, corrected_by=None).select_related("tub__batch"):
        # Down to a tenth of an hour, as lives are kept.
        hours = max(0.0, floor((one.tub.use_by - made_at).total_seconds() / 360) / 10)
        if hours < known.chilled_h:
            why = f"as batch {one.tub.batch.number} in it was to be used by then"
            known = replace(known, chilled_h=hours, days=hours // 24, why=why)
    return known
