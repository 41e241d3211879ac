"""A batch as a file in the open format: what it is made of by now, where and on what, and what happened."""

from __future__ import annotations

from datetime import datetime

import custard
from common import clock
from kitchen.access import Actor

from stove import reads
from stove.batch.cooking import (
    conditions_of,
    content_now,
    equipment_of,
    in_the_pan_since,
    read_by_probes,
    typed_at_the_stove,
)
from stove.models import Batch


def kept(batch: Batch, until: datetime) -> custard.formats.KeptBatch:
    """A batch, its readings and its marks, in seconds since the mix was in the pan.

    A batch of which nothing is in the pan yet counts from when it was started.
    """
    marks = list(batch.marks.all())
    since = in_the_pan_since(batch, marks) or batch.started_at

    def seconds(at: datetime) -> float:
        return round((at - since).total_seconds() * batch.pace, 2)

    stove = equipment_of(batch).stove
    probed = read_by_probes(batch, since, until)
    typed = typed_at_the_stove(batch, marks, since, until, alone=not probed)
    read = [(seconds(at), c) for at, c in sorted([*probed, *typed])]
    return custard.formats.KeptBatch(
        formula=custard.read_formula(content_now(batch)),
        altitude_m=conditions_of(batch).altitude_m,
        pan=stove.pan,
        over_steam=stove.over_steam,
        readings=tuple(custard.stove.settled(read)),
        marks=tuple(
            custard.formats.HappenedMark(
                at_s=seconds(mark.at),
                kind=mark.kind,
                stage=mark.stage,
                what=mark.what or mark.coat or mark.sieve,
                temperature_c=mark.temperature_c,
            )
            for mark in marks
        ),
    )


def written(actor: Actor, batch_id: int) -> dict[str, object]:
    """The same of a batch of this kitchen, as plain data.

    Raises
    ------
    Http404
        when this kitchen has no such batch.
    """
    batch = reads.batch(actor, batch_id)
    return custard.formats.write_batch(kept(batch, batch.closed_at or clock.now()))
