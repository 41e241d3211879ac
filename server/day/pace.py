"""How long this kitchen really takes: what marks say of a batch's steps, and what closed batches teach."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from datetime import datetime

from custard import planning
from custard.vocabulary import StageName, WayName
from kitchen import reads as kitchen
from kitchen.access import Actor
from stove import reads as stove
from stove.after import paces as stove_paces

from day import clocks
from day.models import Day

RECENT = 40
"""So many of its last batches a kitchen's pace is learned from."""


def of_batch(day: Day, job: planning.Job, batch: stove.BatchRow) -> dict[str, planning.Begun]:
    """The steps of a batch that have begun, as its marks say; what follows at once begins when that ends."""
    assert day.date is not None  # noqa: S101 - only a day with a date has batches
    zone = kitchen.zone_of(day.kitchen)

    def minute(at: datetime) -> int:
        return clocks.minute(at, day.date or at.date(), zone)

    ends = [_over(batch, step, minute) for step in job.steps]
    # What comes after something that is over is over too, whether or not anybody said so.
    for place in range(len(ends) - 2, -1, -1):
        after = ends[place + 1]
        if ends[place] is None and after is not None:
            ends[place] = after - job.steps[place + 1].long
    found: dict[str, planning.Begun] = {}
    before = minute(batch.started_at)
    for step, end in zip(job.steps, ends, strict=True):
        at_once = step.step == "weigh" or (step.most is not None and step.most <= planning.AT_ONCE_MIN)
        if end is not None:
            start = max(before, end - MOST_TIMES * step.long)
            found[step.step] = planning.Begun(min(start, end - 1), end)
            before = end
            continue
        if at_once:
            found[step.step] = planning.Begun(before)
        break
    return found


def _over(batch: stove.BatchRow, step: planning.Step, minute: Callable[[datetime], int]) -> int | None:
    """When a step was over, as the batch's marks say, or that it was closed; None where nothing says it."""
    ended = stove_paces.over_at(batch, step)
    if ended is None and step.stage:
        ended = batch.closed_at
    return None if ended is None else minute(ended)


MOST_TIMES = 3
"""Nobody stood at a step for more times as long as planned; the rest was waiting."""


def learned(actor: Actor) -> dict[WayName, dict[StageName, planning.Learned]]:
    """What the last batches of a kitchen say of its pace, by way of cooking and stage."""
    by_way: dict[WayName, list[planning.Took]] = {}
    for way, took in _took(actor):
        by_way.setdefault(way, []).append(took)
    return {way: planning.learned(found) for way, found in by_way.items()}


def lessons(actor: Actor) -> list[tuple[WayName, planning.Lesson]]:
    """The same as it is told."""
    by_way: dict[WayName, list[planning.Took]] = {}
    for way, took in _took(actor):
        by_way.setdefault(way, []).append(took)
    return [(way, one) for way, found in sorted(by_way.items()) for one in planning.lessons(found)]


def _took(actor: Actor) -> Iterable[tuple[WayName, planning.Took]]:
    rows = (
        stove.lines(actor)
        .filter(closed_at__isnull=False, pace=1)
        .exclude(verdict="discarded")
        .order_by("-closed_at")
    )
    for way, kept in rows.values_list("way", "took")[:RECENT]:
        for took in stove_paces.read(kept):
            yield WayName(way), took
