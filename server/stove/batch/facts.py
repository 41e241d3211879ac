"""What a batch came to, written into its columns when it happens."""

from __future__ import annotations

from collections.abc import Container, Sequence
from datetime import datetime

import custard
from custard.vocabulary import MarkKind, StageName

from stove.models import Batch, Mark

COLUMNS = ("stage", "done_at", "left_c", "coat", "finger_line", "sieve")


def stage_of(done: Container[StageName], stages: Sequence[StageName] = tuple(StageName)) -> StageName:
    """The stage a batch is in: the one of its own after the last that is done."""
    furthest = max((place for place, stage in enumerate(stages) if stage in done), default=-1)
    return stages[min(furthest + 1, len(stages) - 1)]


def done_at(marks: Sequence[Mark]) -> dict[StageName, datetime]:
    """When each stage was done, by marks that stand, in order: as somebody said, or as what followed shows.

    What is off the heat is cooked, unless it went back on. What is in the ice was cooked and tested.
    """
    done = {mark.stage: mark.at for mark in marks if mark.kind == MarkKind.DONE}
    off = _last(marks, MarkKind.OFF_HEAT, MarkKind.BACK_ON)
    for stage, record in custard.stove.stage_records().items():
        for kind in record.ended_by:
            end = off if kind == MarkKind.OFF_HEAT else _last(marks, kind)
            if end is not None and end.kind == kind:
                done.setdefault(stage, end.at)
    return done


def write(batch: Batch) -> None:
    """Write what the marks of a batch that stand say of it."""
    read(batch, list(batch.marks.filter(withdrawal=None)))
    batch.save(update_fields=COLUMNS)


def read(batch: Batch, marks: Sequence[Mark]) -> None:
    """Set the columns of a batch by its marks, in order. Not saved."""
    done = done_at(marks)
    spoon, sieve = _last(marks, MarkKind.SPOON), _last(marks, MarkKind.SIEVE)
    looked = _last(marks, MarkKind.NUDGE) or _last(marks, MarkKind.RIBBON)
    batch.stage = stage_of(done, [StageName(stage["stage"]) for stage in batch.plan["stages"]])
    batch.done_at = {stage: at.isoformat() for stage, at in done.items()}
    batch.left_c = _temperatures(marks)
    batch.coat = looked.what if looked else spoon.coat if spoon else ""
    batch.finger_line = spoon.finger_line if spoon else ""
    batch.sieve = sieve.sieve if sieve else ""


def _last(marks: Sequence[Mark], *kinds: str) -> Mark | None:
    return next((mark for mark in reversed(marks) if mark.kind in kinds), None)


def _temperatures(marks: Sequence[Mark]) -> dict[StageName, float]:
    """The last temperature typed in each stage: the one at which it was left [degC]."""
    return {mark.stage: mark.temperature_c for mark in marks if mark.temperature_c is not None}
