"""What a batch came to, written into its columns when it happens."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

import custard

from stove.models import Batch, Kind, Mark

_TIMES = {
    "weigh": "weighed_at",
    "warm": "warmed_at",
    "temper": "tempered_at",
    "cook": "cooked_at",
    "test": "tested_at",
    "finish": "finished_at",
    "chill": "chilled_at",
    "keep": "kept_at",
}
"""The column that says when each stage was done."""
COLUMNS = ("stage", "landed_c", "lifted_c", "coat", "finger_line", "sieve", *_TIMES.values())


def stage_of(done: set[str], stages: Sequence[str] = custard.stove.STAGES) -> str:
    """The stage a batch is in: the one of its own after the last that is done."""
    furthest = max((stages.index(stage) for stage in done if stage in stages), default=-1)
    return stages[min(furthest + 1, len(stages) - 1)]


def done_at(marks: Sequence[Mark]) -> dict[str, datetime]:
    """When each stage was done, by marks that stand, in order: as somebody said, or as what followed shows.

    What is off the heat is cooked, unless it went back on. What is in the ice was cooked and tested.
    """
    done = {mark.stage: mark.at for mark in marks if mark.kind == Kind.DONE}
    off = _last(marks, Kind.OFF_HEAT, Kind.BACK_ON)
    if off is not None and off.kind == Kind.OFF_HEAT:
        done.setdefault("cook", off.at)
    ice = _last(marks, Kind.INTO_ICE)
    if ice is not None:
        for stage in ("cook", "test"):
            done.setdefault(stage, ice.at)
    return done


def write(batch: Batch) -> None:
    """Write what the marks of a batch that stand say of it."""
    read(batch, list(batch.marks.filter(withdrawal=None)))
    batch.save(update_fields=COLUMNS)


def read(batch: Batch, marks: Sequence[Mark]) -> None:
    """Set the columns of a batch by its marks, in order. Not saved."""
    done = done_at(marks)
    spoon, sieve = _last(marks, Kind.SPOON), _last(marks, Kind.SIEVE)
    looked = _last(marks, Kind.NUDGE) or _last(marks, Kind.RIBBON)
    batch.stage = stage_of(set(done), [stage["stage"] for stage in batch.plan["stages"]])
    batch.landed_c, batch.lifted_c = _temperature(marks, "temper"), _temperature(marks, "cook")
    batch.coat = looked.what if looked else spoon.coat if spoon else ""
    batch.finger_line = spoon.finger_line if spoon else ""
    batch.sieve = sieve.sieve if sieve else ""
    for stage, column in _TIMES.items():
        setattr(batch, column, done.get(stage))


def _last(marks: Sequence[Mark], *kinds: str) -> Mark | None:
    return next((mark for mark in reversed(marks) if mark.kind in kinds), None)


def _temperature(marks: Sequence[Mark], stage: str) -> float | None:
    """The last temperature typed in a stage: the one at which it was left."""
    typed = [mark.temperature_c for mark in marks if mark.stage == stage and mark.temperature_c is not None]
    return typed[-1] if typed else None
