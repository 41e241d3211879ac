"""Batches laid over one another, and why one came out other than another."""

from __future__ import annotations

from typing import Any

import custard
import custard.learning
from common import database
from common.fair_limiter import in_turn
from common.refusals import Refusal
from django.http import Http404
from kitchen.access import Actor
from pydantic import TypeAdapter
from stove import reads as stove
from stove.batch.cooking import equipment_of, is_odd
from stove.batch.kept_file import planned

from log.schemas import LaidBatch, WhyOther

OVERLAID = TypeAdapter(custard.learning.Overlaid)
COMPARISON = TypeAdapter(custard.learning.Comparison)
MOST = 8
"""So many batches are laid over one another."""


def ids(text: str) -> list[int]:
    """The ids of batches, of a text with commas between them, each once.

    Raises
    ------
    Refusal
        when it holds anything else, none, or more than `MOST`.
    """
    try:
        found = list(dict.fromkeys(int(one) for one in text.split(",") if one.strip()))
    except ValueError:
        raise Refusal(422, "Name batches by their ids.", [("batches", "must be ids, as 41,42")]) from None
    if not 1 <= len(found) <= MOST or max(found) >= 2**63:
        limit = f"must be 1 to {MOST} batches"
        raise Refusal(422, f"Lay {MOST} batches over one another at most.", [("batches", limit)])
    return found


@in_turn
def laid_over(actor: Actor, wanted: list[int]) -> list[LaidBatch]:
    """Batches of this kitchen in the order in which they were asked for.

    Raises
    ------
    Http404
        when it has not got one of them.
    """
    rows = {row.pk: row for row in stove.batches(actor).filter(pk__in=wanted)}
    if len(rows) < len(wanted):
        raise Http404
    known = stove.laid(rows.values())
    written = {key: stove.as_file(rows[key]) for key in wanted if key not in known}
    database.release_connection()
    for key, file in written.items():
        known[key] = custard.plain(custard.learning.overlaid(custard.learning.cooked(file)))
    return [_laid(rows[key], known[key]) for key in wanted]


def _laid(row: stove.BatchRow, laid: dict[str, Any]) -> LaidBatch:
    plan = planned(row)
    return LaidBatch(
        id=row.pk,
        number=row.number,
        name=row.name,
        started_at=row.started_at,
        started_by=stove.shown(row.started_by),
        hob=row.hob.name if row.hob else "",
        pan=row.pan.name if row.pan else equipment_of(row).stove.pan,
        planned_lift_c=plan.lift_c,
        planned_lands_c=plan.lands_c,
        coat=row.coat,
        finger_line=row.finger_line,
        sieve=row.sieve,
        verdict=row.verdict or None,
        verdict_note=row.verdict_note,
        yield_g=row.yield_g,
        odd=is_odd(row),
        window=custard.Window(**row.plan["window"]),
        boiling_c=row.plan["boiling_c"],
        laid=OVERLAID.validate_python(laid),
    )


@in_turn
def compared(actor: Actor, a: int, b: int) -> WhyOther:
    """Why the second came out other than the first.

    Raises
    ------
    Http404
        when this kitchen has not got one of them.
    """
    kept = [stove.as_file(stove.batch(actor, key)) for key in (a, b)]
    database.release_connection()
    try:
        one, other = (custard.learning.cooked(written) for written in kept)
        found = custard.learning.compare(one, other)
    except custard.CustardError:
        return WhyOther(comparison=None, cannot="Too little was read of one of them to compare their cooks.")
    return WhyOther(comparison=COMPARISON.validate_python(custard.plain(found)), cannot="")
