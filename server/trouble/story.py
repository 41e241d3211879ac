"""How a batch came to be as it is, as the core is told of it: its curve, its marks, and the time since."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from datetime import datetime

import custard
from shelf.reads import TubRow
from stove.cooking import Cooking, cooking
from stove.reads import BatchRow, MarkRow

LEAST_READINGS = 4
"""So few readings are no curve."""
ON_THE_SAUCE = 2.0
"""Film that was marked lies right on the sauce."""


def story_of(
    batch: BatchRow, result: custard.Assessment, now: datetime, tub: TubRow | None = None
) -> custard.trouble.Story:
    """What is known of a batch, and of a tub of it."""
    cook = cooking(batch, batch.closed_at or now)
    read = None if cook is None else _of_its_curve(batch, result, cook, now)
    found = custard.trouble.untold(result) if read is None else read
    return replace(found, figures={**found.figures, **_of_its_marks(batch, now, tub)})


def _of_its_curve(
    batch: BatchRow, result: custard.Assessment, cook: Cooking, now: datetime
) -> custard.trouble.Story | None:
    """What its probe tells; None where it read too little."""
    history = cook.history
    ends_s = cook.seconds(batch.closed_at or now)
    readings = [(t, c) for t, c in history.readings if 0 <= t <= ends_s]
    if len(readings) < LEAST_READINGS:
        return None
    if result.way.in_the_oven:
        off = [(t, c) for t, c in readings if history.off_s is None or t <= history.off_s]
        return custard.trouble.story_of_cups(result, off or readings, cook.equipment.cups)
    if history.off_s is not None:
        # What it does in its cold bath is no part of its cook.
        ends_s = min(ends_s, (history.out_s or history.off_s) + LONGEST_STOOD_S)
        readings = [(t, c) for t, c in readings if t <= ends_s]
    if len(readings) < LEAST_READINGS:
        return None
    end_s = max(t for t, _ in readings)
    return custard.trouble.story_of(
        result,
        readings,
        cook.equipment.stove,
        off_s=None if history.off_s is None else max(0.0, history.off_s),
        out_s=None if history.out_s is None else min(max(0.0, history.out_s), end_s),
        still=rests(history.hands, end_s) or None,
    )


LONGEST_STOOD_S = 600.0


def rests(hands: Iterable[tuple[float, bool]], end_s: float) -> list[tuple[float, float]]:
    """From when to when nobody stirred [s], out of when somebody began to stir, or stopped."""
    found: list[tuple[float, float]] = []
    since: float | None = None
    for at, stirring in sorted(hands):
        if stirring and since is not None:
            found.append((since, at))
            since = None
        elif not stirring and since is None:
            since = at
    if since is not None and since < end_s:
        found.append((since, end_s))
    return found


def _of_its_marks(batch: BatchRow, now: datetime, tub: TubRow | None) -> dict[str, float]:
    """What marks and the time since tell."""
    marks = list(batch.marks.all())

    def at(kind: str, stage: str = "") -> MarkRow | None:
        return next((one for one in marks if one.kind == kind and stage in ("", one.stage)), None)

    found: dict[str, float] = {}
    sugar, tempered = at("sugar-on"), at("done", "temper")
    if sugar is not None:
        whisked = tempered.at if tempered is not None else now
        found["sugar_waits_s"] = max(0.0, (whisked - sugar.at).total_seconds() * batch.pace)
    if tempered is not None or batch.tempered_at is not None:
        found["dairy_on"] = 1.0
    film = at("film")
    if film is not None:
        found["film"] = ON_THE_SAUCE
        if film.temperature_c is not None:
            found["film_c"] = film.temperature_c
    off, bubbles = at("off-heat"), at("bubbles")
    if off is not None and bubbles is not None and off.at > bubbles.at:
        found["boiled_s"] = (off.at - bubbles.at).total_seconds() * batch.pace
    cold = at("into-ice")
    since = batch.chilled_at or (None if cold is None else cold.at)
    if since is not None:
        until = now if tub is None or tub.frozen_at is None else tub.frozen_at
        found["age_h"] = max(0.0, (until - since).total_seconds() * batch.pace / 3600)
    if tub is not None:
        frozen = tub.frozen_at
        found["frozen_days"] = 0.0
        if frozen is not None:
            found["frozen_days"] = max(0.0, ((tub.out_at or now) - frozen).total_seconds() / 86400)
    known = custard.trouble.figures()
    return {name: min(max(value, known[name].least), known[name].most) for name, value in found.items()}
