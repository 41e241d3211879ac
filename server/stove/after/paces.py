"""How long the steps of a batch took beside what is computed for them, written down when it is closed.

Computing that takes a tenth of a second a batch, and a day's page asks it of forty: a worker does it once.
"""

from __future__ import annotations

import logging
from datetime import datetime
from typing import Any

import custard
from custard import planning
from custard.vocabulary import StageName, WayName

from stove.batch.cooking import assessed
from stove.models import Batch

log = logging.getLogger("oldspoon.paces")
VERSION = 1
"""Of what is kept in the column; what has another is not read."""


def over_at(batch: Batch, step: planning.Step) -> datetime | None:
    """When a step of a batch was over, as its marks say; None where nothing says it.

    A sauce that is stirred is cooked once it is tested.
    """
    if step.stage is None:
        return None
    stirred = batch.way != WayName.SETS
    return batch.when_done(custard.stove.stage_records()[step.stage].timed_by if stirred else step.stage)


def of_closed(batch: Batch) -> dict[str, Any]:
    """What a closed batch says of the pace of its kitchen, as it is kept."""
    try:
        steps = planning.steps_of(assessed(batch), planning.Made(batch.schools))
    except custard.CustardError:
        steps = ()
    found: list[list[Any]] = []
    before = batch.started_at
    for step in steps:
        ended = over_at(batch, step)
        if ended is None:
            continue
        minutes = (ended - before).total_seconds() / 60
        before = ended
        # What was infused stands between; what is left until it is wanted says nothing of how long it takes.
        if minutes > 0 and (step.rigid or step.step == "weigh"):
            found.append([step.stage, step.minutes.usual, round(minutes, 2)])
    return {"version": VERSION, "steps": found}


def read(kept: dict[str, Any] | None) -> list[planning.Took]:
    """What was kept of a batch; nothing where that was by another version."""
    if kept is None or kept.get("version") != VERSION:
        return []
    return [planning.Took(StageName(stage), computed, took) for stage, computed, took in kept["steps"]]


def fill_in(most: int = 200) -> int:
    """Write it down for the newest closed batches that have none of this version; returns for how many."""
    closed = Batch.objects.filter(closed_at__isnull=False, pace=1).exclude(took__version=VERSION)
    rows = list(closed.select_related("parameters").order_by("-closed_at")[:most])
    done = 0
    for batch in rows:
        try:
            took = of_closed(batch)
        except Exception:  # whatever it is, the other batches have theirs
            log.exception("how long batch %s took cannot be worked out", batch.pk)
            took = {"version": VERSION, "steps": []}
        done += Batch.objects.filter(pk=batch.pk, closed_at=batch.closed_at).update(took=took)
    return done
