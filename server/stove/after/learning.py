"""What a closed batch teaches: how it went beside its plan, and what its curve says of hob and pan.

Run by a worker. What takes long holds no lock and no transaction; what is written is written in one short
one, and only once.
"""

from __future__ import annotations

import logging
from dataclasses import dataclass, replace
from typing import Any

import custard
from common import clock
from common.events import notify
from django.db import transaction
from kitchen import actions as kitchen_actions
from kitchen import reads as kitchen
from kitchen.access import as_cook

from stove import reads
from stove.after import paces
from stove.batch.cooking import Cooking, Read, cooking, read_by_probes
from stove.cooling import fitted
from stove.models import Batch

log = logging.getLogger("oldspoon.learning")
WRITTEN = ("after", "peak_c", "shift_k", "fitted_w", "fitted_pan_share", "taught_at", "took")
LEAST_HEATED = 8
"""From fewer readings of a probe nothing is learned of hob and pan."""


DOUBTED = (
    "Its curve says that {} gave {:.0f} W, where {:.0f} W are known of it. One batch is not believed so far: "
    "{:.0f} W are taken now. If the next two say the same, they are believed."
)
DOUBTED_SHARE = (
    "Its {} says that {} does {:.0%} of what is usual for its kind, where {:.0%} is known of it. One batch "
    "is not believed so far: {:.0%} is taken now. If the next two say the same, they are believed."
)


@dataclass(frozen=True)
class Lesson:
    """How a batch went: in words, and in figures where its curve gave any.

    `measured` is None where the curve can say nothing of hob and pan; the words then say why.
    """

    words: tuple[str, ...]
    peak_c: float | None = None
    shift_k: float | None = None
    measured: custard.stove.Calibration | None = None
    took: dict[str, Any] | None = None


def look_back(batch: Batch, read: Read = read_by_probes, seen: custard.stove.Live | None = None) -> Lesson:
    """How a batch went beside its plan. Nothing is written; whatever the batch is, this ends.

    `seen` is what the readings say of the end of its cook, for whoever knows that already.
    """
    try:
        return replace(_look_back(batch, read, seen), took=paces.of_closed(batch))
    except Exception:  # no batch can be impossible to close
        log.exception("batch %s cannot be looked back on", batch.pk)
        return Lesson(("It cannot be looked back on: something in it cannot be computed.",))


def _look_back(batch: Batch, read: Read, known: custard.stove.Live | None) -> Lesson:
    found = cooking(batch, read=read)
    if found is None or not found.history.readings:
        return Lesson(())
    peak = max(c for _, c in found.history.readings)
    if found.result.way.in_the_oven or not found.probed:
        # What was only typed says how warm it was, and nothing of hob and pan.
        return Lesson((), peak_c=peak)
    ends = [s for s in (found.history.off_s, found.history.out_s) if s is not None]
    end = min(ends, default=max(t for t, _ in found.history.readings))
    seen = known or custard.stove.live(found.result, found.equipment, found.history, end)
    if not isinstance(seen, custard.stove.Live):
        return Lesson((), peak_c=peak)
    measured, why = _measured(found, end)
    hob = batch.hob.name if batch.hob else "the hob"
    words = custard.stove.beside_plan(
        found.result, found.equipment, seen, hob, measured, peak, tuple(found.history.spoons)
    )
    return Lesson((*words, *why), peak, seen.shift_k, measured)


def _measured(found: Cooking, end: float) -> tuple[custard.stove.Calibration | None, tuple[str, ...]]:
    if found.equipment.stove.over_steam or found.history.breaks:
        return None, ()
    heated = [(t, c) for t, c in found.probed if t <= end]
    if len(heated) < LEAST_HEATED:
        return None, ()
    try:
        t, c = zip(*heated, strict=True)
        return custard.stove.calibrate(
            found.result.pan, t, c, found.equipment.stove, found.result.conditions
        ), ()
    except custard.CustardError as refused:
        return None, (f"Its curve {refused.limit}.",)


def learn(batch_id: int, user_id: int | None) -> None:
    """Look back on a closed batch, keep what it came to, and teach hob and pan, unless it has before."""
    batch = reads.standing().filter(pk=batch_id).exclude(closed_at=None).first()
    if batch is None:
        return
    lesson, cooled = look_back(batch), _cooled(batch)
    with transaction.atomic():
        kept = (
            Batch.objects.select_for_update(of=("self",), no_key=True)
            .select_related("kitchen")
            .get(pk=batch_id)
        )
        if kept.closed_at is None:
            return
        taught(kept, lesson)
        if lesson.measured is not None:
            _teach(kept, lesson.measured, cooled, user_id)
        elif cooled is not None:
            _teach(kept, None, cooled, user_id)
        kept.save(update_fields=WRITTEN)
        notify(kept.kitchen_id, {"batch": kept.pk})


def taught(batch: Batch, lesson: Lesson) -> None:
    """Set the columns of a batch by what it came to. Not saved."""
    batch.after, batch.peak_c, batch.shift_k = list(lesson.words), lesson.peak_c, lesson.shift_k
    batch.took = lesson.took
    if lesson.measured is not None:
        batch.fitted_w, batch.fitted_pan_share = lesson.measured.power_w, lesson.measured.pan_share


def _cooled(batch: Batch) -> tuple[int, float, float] | None:
    """What its cooling tells of its cooler; whatever the batch is, this ends."""
    try:
        return fitted(batch)
    except Exception:  # no batch can be impossible to close
        log.exception("the cooling of batch %s cannot be looked back on", batch.pk)
        return None


def _teach(
    batch: Batch,
    measured: custard.stove.Calibration | None,
    cooled: tuple[int, float, float] | None,
    user_id: int | None,
) -> None:
    # Whoever closed it taught; what they may do otherwise has no part in it.
    actor = as_cook(user_id, batch.kitchen)
    if batch.taught_at is not None or batch.pace != 1 or actor is None:
        return
    known = None if cooled is None else kitchen.cooler(actor, cooled[0])
    if cooled is not None and known is not None:
        cooler = kitchen_actions.learn_cooler(actor, *cooled)
        if cooler.doubted:
            _, measured_share, _ = cooled
            _doubts(batch, "cooling", known.name, measured_share, known.share, cooler.share)
    if measured is not None and batch.hob is not None:
        before_w, name = batch.hob.power_w, batch.hob.name
        hob = kitchen_actions.learn_hob(actor, batch.hob.pk, measured.power_w, measured.power_error_w)
        if hob.doubted:
            batch.after = [*batch.after, DOUBTED.format(name, measured.power_w, before_w, hob.power_w)]
    if measured is not None and batch.pan is not None:
        before, name = batch.pan.heat_share, batch.pan.name
        pan = kitchen_actions.learn_pan(actor, batch.pan.pk, measured.pan_share, share_error(measured))
        if pan.doubted:
            _doubts(batch, "curve", name, measured.pan_share, before, pan.heat_share)
    batch.taught_at = clock.now()


def _doubts(batch: Batch, what: str, name: str, measured: float, before: float, now: float) -> None:
    batch.after = [*batch.after, DOUBTED_SHARE.format(what, name, measured, before, now)]


def share_error(measured: custard.stove.Calibration) -> float:
    """How sure the share of a pan's heat is that was measured [1]."""
    return measured.pan_share * measured.pan_error_j_k / measured.pan_j_k
