"""Batches laid over one another, and why one came out other than another."""

from __future__ import annotations

import threading
from collections import OrderedDict
from datetime import datetime

import custard
import custard.learning
from common import database
from common.fair_limiter import in_turn
from common.refusals import Refusal
from django.http import Http404
from kitchen.access import Actor
from pydantic import TypeAdapter
from stove import reads as stove
from stove.batch.cooking import is_odd

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
    found = {key: _known(row) for key, row in rows.items()}
    written = {key: stove.as_file(rows[key]) for key, known in found.items() if known is None}
    database.release_connection()
    for key, file in written.items():
        found[key] = _keep(rows[key], _laid(rows[key], file))
    return [laid for key in wanted if (laid := found[key]) is not None]


KEPT = 500
"""So many closed batches are kept as they are laid over others by a process: their curves change no more."""
_kept: OrderedDict[tuple[int, datetime], LaidBatch] = OrderedDict()
_keeping = threading.Lock()


def _known(row: stove.BatchRow) -> LaidBatch | None:
    """A closed batch as it was laid before, with what may have been said of it since."""
    if row.closed_at is None:
        return None
    with _keeping:
        found = _kept.get((row.pk, row.closed_at))
        if found is None:
            return None
        _kept.move_to_end((row.pk, row.closed_at))
    return found.model_copy(update={"odd": is_odd(row), "started_by": stove.shown(row.started_by)})


def _keep(row: stove.BatchRow, laid: LaidBatch) -> LaidBatch:
    if row.closed_at is not None:
        with _keeping:
            _kept[row.pk, row.closed_at] = laid
            while len(_kept) > KEPT:
                _kept.popitem(last=False)
    return laid


def _laid(row: stove.BatchRow, written: custard.formats.KeptBatch) -> LaidBatch:
    laid = custard.learning.overlaid(custard.learning.cooked(written))
    return LaidBatch(
        id=row.pk,
        number=row.number,
        name=row.name,
        started_at=row.started_at,
        started_by=stove.shown(row.started_by),
        hob=written.hob.name,
        pan=written.pan.name or written.pan.kind,
        planned_lift_c=written.plan.lift_c,
        planned_lands_c=written.plan.lands_c,
        coat=row.coat,
        finger_line=row.finger_line,
        sieve=row.sieve,
        verdict=row.verdict or None,
        verdict_note=row.verdict_note,
        yield_g=row.yield_g,
        odd=written.odd,
        window=custard.Window(**row.plan["window"]),
        boiling_c=row.plan["boiling_c"],
        laid=OVERLAID.validate_python(custard.plain(laid)),
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
