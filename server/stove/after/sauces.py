"""What closed batches teach of sauces: each says its part once; together they are what the kitchen learned.

Run by a worker: a batch is followed again through its curve, which takes some hundredths of a second.
"""

from __future__ import annotations

import logging
from typing import Any

import custard
import custard.learning
from common import clock
from devices import reads as devices
from django.db import InterfaceError, OperationalError, transaction
from django.db.models import QuerySet
from kitchen.access import Actor, as_cook
from kitchen.learned import HOUSE, learn_sauces, store
from kitchen.reads import Kitchen, conditions_of, kitchens

from stove import reads
from stove.batch.kept_file import kept
from stove.models import LAID_VERSION, Batch, BatchLesson

DAY_S = 86_400
log = logging.getLogger("oldspoon.learning")


def lesson_of(batch: Batch) -> BatchLesson:
    """The row of what a closed batch says, or of that it says nothing. Not saved."""
    document: dict[str, Any] = {"version": custard.learning.SPOKE_VERSION, "nothing": True}
    laid = None
    try:
        written = kept(batch, batch.closed_at or clock.now())
        cooked = custard.learning.cooked(written)
        laid = {"version": LAID_VERSION, **custard.plain(custard.learning.overlaid(cooked))}
        if custard.learning.teaches(written):
            document = custard.learning.spoke(cooked, written.day or 0.0).as_json()
    except Exception:  # no batch can be impossible to close
        log.exception("batch %s says nothing of its sauce", batch.pk)
    return BatchLesson(
        batch=batch, kitchen_id=batch.kitchen_id, started_at=batch.started_at, document=document, laid=laid
    )


def learn_of(batches: QuerySet[Batch]) -> None:
    """Write down what closed batches say; what was written of them before is written over."""
    BatchLesson.objects.bulk_create(
        [lesson_of(batch) for batch in batches],
        update_conflicts=True,
        unique_fields=["batch"],
        update_fields=["document", "laid"],
    )


def closed(**which: object) -> QuerySet[Batch]:
    """Closed batches, read with their marks."""
    return reads.standing().exclude(closed_at=None).filter(**which)


def learned(kitchen_id: int) -> custard.learning.Learning:
    """What a kitchen's batches say together; those not looked at yet, or by an older model, are looked at."""
    lessons = BatchLesson.objects.filter(kitchen_id=kitchen_id, batch__closed_at__isnull=False)
    missing = closed(kitchen_id=kitchen_id, lesson=None).order_by("-started_at")
    learn_of(missing[: custard.learning.MOST_BATCHES])
    old = lessons.exclude(document__version=custard.learning.SPOKE_VERSION).values("batch_id")
    learn_of(closed(pk__in=old))
    newest = lessons.order_by("-started_at")[: custard.learning.MOST_BATCHES]
    said = [custard.learning.Spoke.of(row.document) for row in newest if "nothing" not in row.document]
    return custard.learning.learned_from(one for one in said if one is not None)


def learn(batch_id: int, user_id: int | None) -> None:
    """One batch more, or less, to learn of: what the kitchen knows is worked out and kept."""
    batch = Batch.objects.select_related("kitchen").filter(pk=batch_id).first()
    actor = None if batch is None else as_cook(user_id, batch.kitchen)
    if batch is None or actor is None:
        return
    learn_of(closed(pk=batch_id))
    keep(actor)


def keep(actor: Actor) -> None:
    """Work out what this kitchen knows of its sauces, and keep it."""
    learn_sauces(actor, known_now(actor.kitchen))


def known_now(kitchen: Kitchen) -> dict[str, custard.learning.Figures]:
    """What a kitchen knows of its sauces today, with the eggs and the probes that it has now."""
    eggs = conditions_of(kitchen).eggs, kitchen.egg_source
    known = learned(kitchen.pk).under(eggs, devices.checked_on(kitchen))
    today = clock.now().timestamp() / DAY_S
    return {HOUSE: known.of(None, today), **{name: known.of(name, today) for name in known.formulas}}


def age() -> int:
    """Work out for today what kitchens learned, also where nothing was closed since; returns of how many.

    Nobody did anything, so it is no entry in the audit. One that cannot be worked out keeps what it had.
    """
    done = 0
    learning = BatchLesson.objects.values("kitchen").distinct()
    for kitchen in kitchens().filter(pk__in=learning):
        try:
            found = known_now(kitchen)
            with transaction.atomic():
                store(kitchen, found)
        except (OperationalError, InterfaceError):
            raise
        except Exception:  # whatever it is, the other kitchens' sauces age as well
            log.exception("what kitchen %s learned cannot be worked out", kitchen.pk)
        else:
            done += 1
    return done


def learn_for_now(kitchen_id: int, user_id: int | None) -> None:
    """Other eggs, or a probe that was checked: what was learned is worked out for what there is now."""
    kitchen = kitchens().filter(pk=kitchen_id).first()
    actor = None if kitchen is None else as_cook(user_id, kitchen)
    if actor is not None and BatchLesson.objects.filter(kitchen=kitchen_id).exists():
        keep(actor)
