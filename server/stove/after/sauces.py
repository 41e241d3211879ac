"""What closed batches teach of sauces: each says its part once; together they are what the kitchen learned.

Run by a worker: a batch is followed again through its curve, which takes some hundredths of a second.
"""

from __future__ import annotations

import logging

import custard
import custard.learning
from common import clock
from kitchen.access import as_cook
from kitchen.learned import HOUSE, learn_sauces

from stove import reads
from stove.batch.kept_file import kept
from stove.models import Batch, BatchLesson

log = logging.getLogger("oldspoon.learning")


def spoke(batch: Batch) -> custard.learning.Spoke | None:
    """What a closed batch says; None where it is not to be learned from, or cannot be computed."""
    written = kept(batch, batch.closed_at or clock.now())
    if not custard.learning.teaches(written):
        return None
    try:
        return custard.learning.spoke(custard.learning.cooked(written), written.day or 0.0)
    except Exception:  # no batch can be impossible to close
        log.exception("batch %s says nothing of its sauce", batch.pk)
        return None


def learn_of(batch_id: int) -> None:
    """Write down what a closed batch says, or that it says nothing any more."""
    batch = reads.standing().filter(pk=batch_id).exclude(closed_at=None).first()
    said = None if batch is None else spoke(batch)
    if batch is None or said is None:
        BatchLesson.objects.filter(batch_id=batch_id).delete()
        return
    BatchLesson.objects.update_or_create(
        batch=batch,
        defaults={"kitchen": batch.kitchen, "started_at": batch.started_at, "document": said.as_json()},
    )


def learned(kitchen_id: int) -> custard.learning.Learning:
    """What a kitchen's batches say together; a batch that an older model looked at is looked at again."""
    newest = BatchLesson.objects.filter(kitchen_id=kitchen_id).order_by("-started_at")
    rows = newest[: custard.learning.MOST_BATCHES]
    found = []
    for row in rows:
        said = custard.learning.Spoke.of(row.document)
        if said is None:
            learn_of(row.batch_id)
            again = BatchLesson.objects.filter(pk=row.pk).first()
            said = None if again is None else custard.learning.Spoke.of(again.document)
        if said is not None:
            found.append(said)
    return custard.learning.learned_from(found)


def learn(batch_id: int, user_id: int | None) -> None:
    """One batch more, or less, to learn of: what the kitchen knows is worked out and kept."""
    batch = Batch.objects.select_related("kitchen").filter(pk=batch_id).first()
    actor = None if batch is None else as_cook(user_id, batch.kitchen)
    if batch is None or actor is None:
        return
    learn_of(batch_id)
    known = learned(batch.kitchen_id)
    learn_sauces(actor, {HOUSE: known.of(), **{name: known.of(name) for name in known.formulas}})
