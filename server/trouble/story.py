"""How a batch came to be as it is, as the core is told of it: its curve, its marks, and the time since."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime

import custard
from custard.vocabulary import MarkKind, StageName
from shelf.reads import TubRow
from stove.batch.cooking import equipment_of
from stove.batch.kept_file import kept
from stove.reads import BatchRow


def story_of(
    batch: BatchRow, result: custard.Assessment, now: datetime, tub: TubRow | None = None
) -> custard.trouble.Story:
    """What is known of a batch, and of a tub of it."""
    equipment = equipment_of(batch)
    found = custard.trouble.story_of_batch(
        result, kept(batch, batch.closed_at or now), equipment.stove, equipment.cups
    )
    lift_c = None if batch.lift is None else batch.lift.get("at_c")
    return replace(found, figures={**found.figures, **_since(batch, now, tub)}, lift_c=lift_c)


def _since(batch: BatchRow, now: datetime, tub: TubRow | None) -> dict[str, float]:
    """What the time since tells: how long it has stood in the cold, or in the freezer."""
    marks = list(batch.marks.all())
    cold = next((mark.at for mark in marks if mark.kind == MarkKind.INTO_ICE), None)
    sugar = next((mark.at for mark in marks if mark.kind == MarkKind.SUGAR_ON), None)
    found: dict[str, float] = {}
    if sugar is not None and batch.when_done(StageName.TEMPER) is None:
        found["sugar_waits_s"] = (now - sugar).total_seconds() * batch.pace
    since = batch.when_done(StageName.CHILL) or cold
    if since is not None:
        until = now if tub is None or tub.frozen_at is None else tub.frozen_at
        found["age_h"] = (until - since).total_seconds() * batch.pace / 3600
    if tub is not None:
        frozen = tub.frozen_at
        found["frozen_days"] = (
            0.0 if frozen is None else ((tub.out_at or now) - frozen).total_seconds() / 86400
        )
    known = custard.trouble.figures()
    return {name: min(max(value, 0.0), known[name].most) for name, value in found.items()}
