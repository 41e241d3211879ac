"""What is known of each stage of a batch, whatever is cooked: its record in `data/stages.toml`."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType
from typing import Any

from custard.larder.tables import document
from custard.vocabulary import MarkKind, StageName


@dataclass(frozen=True)
class StageRecord:
    """One stage of the work.

    Attributes
    ----------
    stage : its name.
    label : what it is called on the strip of stages.
    work : what its work is called where minutes are spoken of.
    typed : what the temperature that somebody types at its end is called: "landed"; "" where it has no name.
    target : what that temperature is called next to the planned one: "temper landed"; "" where it has none.
    spread : the figure of `planning` that says how far its minutes stray before any batch has shown it.
    timed_by : the stage whose end says how long this one took, where it is stirred; itself mostly.
    ended_by : what ends it besides somebody saying so.
    schools : what good cooks disagree about that is done in it.
    """

    stage: StageName
    label: str
    work: str
    typed: str
    target: str
    spread: str
    timed_by: StageName
    ended_by: tuple[MarkKind, ...]
    schools: tuple[str, ...]


@cache
def stage_texts() -> Mapping[str, Mapping[str, Any]]:
    """The stages as they stand in the table: each with its record, and its words by how a family is done."""
    return MappingProxyType(document("stages"))


@cache
def stage_records() -> Mapping[StageName, StageRecord]:
    """The record of every stage, in the usual order."""
    return MappingProxyType({stage: _record(stage, stage_texts()[stage]) for stage in StageName})


def _record(stage: StageName, row: Mapping[str, Any]) -> StageRecord:
    return StageRecord(
        stage=stage,
        label=row["label"],
        work=row["work"],
        typed=row.get("typed", ""),
        target=row.get("target", ""),
        spread=row["spread"],
        timed_by=StageName(row.get("timed_by", stage)),
        ended_by=tuple(MarkKind(kind) for kind in row.get("ended_by", ())),
        schools=tuple(row.get("schools", ())),
    )
