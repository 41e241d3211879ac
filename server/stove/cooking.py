"""The cook of a batch, as the core is told of it: from its marks, its readings, its hob and pan."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime

import custard
from devices import reads as devices

from stove import reads
from stove.models import Batch, Kind, Mark

W_A_KG = 500.0
"""What an unmeasured hob is taken to give a kilogram of sauce [W]."""
STEAM_W = 1500.0
BEFORE_COOK = custard.STAGES[: custard.STAGES.index("cook")]


@dataclass(frozen=True)
class Cooking:
    """A batch's cook as the core is told of it.

    `since` is where its seconds begin: when the mix was in the pan and nothing before it was left to do.
    """

    batch: Batch
    since: datetime
    result: custard.Assessment
    setup: custard.Setup
    told: custard.Told

    def seconds(self, at: datetime) -> float:
        """A time as seconds of the batch's own time."""
        return (at - self.since).total_seconds() * self.batch.pace

    @property
    def in_the_oven(self) -> bool:
        """Whether it is set in cups rather than cooked in a pan."""
        return custard.all_families()[self.result.formula.family].done == "sets"


def cooks_since(batch: Batch, marks: Iterable[Mark]) -> datetime | None:
    """When the mix was in the pan; None while something before the cook is left to do."""
    known = list(marks)
    if reads.stage_of(known) in BEFORE_COOK:
        return None
    before = [mark.at for mark in known if mark.kind == Kind.DONE and mark.stage in BEFORE_COOK]
    return max(before) if before else batch.started_at


def setup_of(batch: Batch, result: custard.Assessment) -> custard.Setup:
    """How a batch is cooked: its hob and pan as they are known, and the schools its formula goes by."""
    schools = custard.answers(result.formula, batch.version.formula.schools)
    over_steam = batch.hob.over_steam if batch.hob else steams(batch, schools)
    power = W_A_KG * result.pan.mass_g / 1000
    if batch.hob:
        power = batch.hob.power_w
    elif over_steam:
        power = STEAM_W
    stove = custard.Stove(
        power_w=power,
        stir="whisk",
        pan=batch.pan.kind if batch.pan else "clad",
        over_steam=over_steam,
        altitude_m=batch.kitchen.altitude_m,
    )
    return custard.Setup(
        stove,
        power_spread=batch.hob.power_spread if batch.hob else custard.UNKNOWN_POWER,
        pan_share=batch.pan.heat_share if batch.pan else 1.0,
        pan_spread=batch.pan.heat_spread if batch.pan else custard.UNKNOWN_PAN,
        hold_s=0.0 if schools.get("boil") == "first" else custard.standard().cook.boil_hold_s,
    )


def steams(batch: Batch, schools: dict[str, str]) -> bool:
    """Whether it is cooked over steam."""
    return batch.content["family"] == "sabayon" or schools.get("heat") == "steam"


def cooking(batch: Batch, until: datetime | None = None) -> Cooking | None:
    """The cook of a batch with all that it has told; None while it has not begun."""
    marks = list(batch.marks.all())
    since = cooks_since(batch, marks)
    if since is None:
        return None
    result = custard.assess_as_made(custard.read_formula(batch.content), altitude_m=batch.kitchen.altitude_m)

    def seconds(at: datetime) -> float:
        return (at - since).total_seconds() * batch.pace

    def first(*kinds: str) -> float | None:
        return next((seconds(mark.at) for mark in marks if mark.kind in kinds and mark.at >= since), None)

    return Cooking(
        batch,
        since,
        result,
        setup_of(batch, result),
        custard.Told(
            readings=custard.settled([(seconds(at), c) for at, c in read_by_probes(batch, since, until)]),
            spoons=[
                custard.Spoon(seconds(mark.at), mark.coat)
                for mark in marks
                if mark.kind == Kind.SPOON and mark.at >= since
            ],
            hands=[
                (seconds(mark.at), mark.kind == Kind.STIRRING)
                for mark in marks
                if mark.kind in (Kind.STIRRING, Kind.HANDS_OFF) and mark.at >= since
            ],
            off_s=first(Kind.OFF_HEAT),
            out_s=first(Kind.INTO_ICE),
            bubbles_s=first(Kind.BUBBLES),
        ),
    )


def read_by_probes(batch: Batch, since: datetime, until: datetime | None) -> list[tuple[datetime, float]]:
    """What the probes in a batch read in a while, in order."""
    found: list[tuple[datetime, float]] = []
    for use in batch.probes.all():
        ends = [end for end in (use.until, until) if end is not None]
        found += devices.readings(use.device_id, max(since, use.since), min(ends) if ends else None)
    return sorted(found)
