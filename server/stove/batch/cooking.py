"""The cook of a batch, as the core is told of it: from what was frozen, its marks and its readings."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from functools import lru_cache
from itertools import pairwise
from typing import Any

import custard
from custard.vocabulary import Coat, MarkKind, StageName
from devices import reads as devices
from kitchen.reads import Hob, Pan

from stove.models import ODD, Batch, Mark, ProbeUse, Remedy

MOST_READINGS = 2000
"""So many readings of one batch are looked at. What the core follows is thinned further; this bounds what is
fetched."""
BETWEEN, MOST_BETWEEN = timedelta(seconds=10), 200
"""Between two typed readings one is taken every so often, and at most so many."""


@dataclass(frozen=True)
class Cooking:
    """A batch's cook as the core is told of it.

    `since` is where its seconds begin: when the mix was in the pan and nothing before it was left to do.
    `probed` are the readings of its probes alone [s], [degC]; the history has what was typed as well.
    """

    batch: Batch
    since: datetime
    result: custard.Assessment
    equipment: custard.stove.Equipment
    history: custard.stove.History
    probed: tuple[tuple[float, float], ...] = ()

    def seconds(self, at: datetime) -> float:
        """A time as seconds of the batch's own time."""
        return seconds_since(self.batch, self.since, at)


def seconds_since(batch: Batch, since: datetime, at: datetime) -> float:
    """A time as seconds of a batch's own time, to a thousandth: its file replays as its screens showed it."""
    return round((at - since).total_seconds() * batch.pace, 3)


@lru_cache(maxsize=64)
def _parameters(version: str, values: tuple[tuple[str, float], ...]) -> custard.larder.Parameters:
    shipped = custard.larder.standard()
    return shipped if version == shipped.version else custard.larder.read_parameters(dict(values))


def conditions_of(batch: Batch) -> custard.Conditions:
    """The conditions under which a batch was taken to the stove."""
    kept = batch.parameters
    return custard.Conditions.of(
        batch.conditions, _parameters(kept.version, tuple(sorted(kept.values.items())))
    )


def remedies_of(batch: Batch) -> list[Remedy]:
    """What was done about its troubles, and stands; of a batch read with the marks that stand."""
    return [mark.remedy for mark in batch.marks.all() if mark.kind == MarkKind.REMEDY]


def is_odd(batch: Batch) -> bool:
    """Whether somebody said that nothing is to be learned of a batch, which was read with its marks."""
    said = [mark.what for mark in batch.marks.all() if mark.kind == MarkKind.ODD]
    return bool(said) and said[-1] == ODD


def content_now(batch: Batch, tub: int | None = None) -> dict[str, Any]:
    """What a batch, or a tub of it by its number, is made of by now: as weighed, with what remedies added."""
    more = [line for remedy in remedies_of(batch) if remedy.tub in (None, tub) for line in remedy.lines]
    content: dict[str, Any] = batch.content
    return {**content, "lines": [*content["lines"], *more]} if more else content


def assessed(batch: Batch, tub: int | None = None) -> custard.Assessment:
    """What a batch, or a tub of it, is and becomes as it is made by now, under its own conditions."""
    return custard.assess(custard.read_formula(content_now(batch, tub)), conditions_of(batch))


def usual_equipment(result: custard.Assessment, schools: dict[str, str]) -> custard.stove.Equipment:
    """What such a mix is usually cooked on and in."""
    return custard.stove.unmeasured(result, custard.bench.answers(result.formula, schools))


def equipped(usual: custard.stove.Equipment, hob: Hob | None, pan: Pan | None) -> custard.stove.Equipment:
    """What a mix is cooked on and in: hob and pan as known now, else the usual."""
    found = usual
    if hob is not None:
        stove = replace(found.stove, power_w=hob.power_w, over_steam=hob.over_steam)
        found = replace(found, stove=stove, power_spread=hob.power_spread)
    if pan is not None:
        stove = replace(found.stove, pan=pan.kind)
        found = replace(found, stove=stove, pan_share=pan.heat_share, pan_spread=pan.heat_spread)
    return found


def equipment_of(batch: Batch) -> custard.stove.Equipment:
    """What a batch is cooked on and in, as it was known when it was chosen."""
    return custard.stove.Equipment.of(batch.equipment)


def in_the_pan_since(batch: Batch, marks: Iterable[Mark]) -> datetime | None:
    """When the mix was in the pan; None while something before the cook is left to do."""
    stages = [stage["stage"] for stage in batch.plan["stages"]]
    from_cook = stages[stages.index(StageName.COOK) :]
    if batch.stage not in from_cook:
        return None
    before = [mark.at for mark in marks if mark.kind == MarkKind.DONE and mark.stage not in from_cook]
    return max(before) if before else batch.started_at


Read = Callable[[Batch, datetime, datetime | None], list[tuple[datetime, float]]]


def read_by_probes(
    batch: Batch, since: datetime, until: datetime | None, *, most: int | None = MOST_READINGS
) -> list[tuple[datetime, float]]:
    """What the probes in a batch read in a while, in order: about `most` of each with the newest, or all.

    By how much a probe is known to read too high is taken off.
    """
    return sorted(one for _, read in read_by_each(batch, since, until, most) for one in read)


def read_by_each(
    batch: Batch, since: datetime, until: datetime | None, most: int | None
) -> Iterator[tuple[ProbeUse, list[tuple[datetime, float]]]]:
    """As `read_by_probes`, by the use of each probe."""
    for use in batch.probes.all():
        ends = [end for end in (use.until, until) if end is not None]
        read = devices.readings(use.device_id, max(since, use.since), min(ends) if ends else None, most)
        yield use, [(at, celsius - use.reads_high_k) for at, celsius in read]


def typed_at_the_stove(
    batch: Batch, marks: Iterable[Mark], since: datetime, until: datetime | None, *, alone: bool
) -> list[tuple[datetime, float]]:
    """What somebody typed while it cooked: a reading like one of a probe.

    Where it stands `alone`, no probe in the sauce, it begins where the sauce came into the pan, and is taken
    to have gone straight from one to the next: a cook that runs free in between would be another.
    """
    typed = [
        (mark.at, mark.temperature_c)
        for mark in marks
        if mark.stage == StageName.COOK
        and mark.temperature_c is not None
        and since <= mark.at
        and (until is None or mark.at <= until)
    ]
    began_c = batch.left_c.get(StageName.TEMPER, batch.planned_c.get(StageName.TEMPER))
    if alone and typed and began_c is not None and typed[0][0] > since:
        return _straight([(since, began_c), *typed])
    return typed


def _straight(points: Sequence[tuple[datetime, float]]) -> list[tuple[datetime, float]]:
    found = [points[0]]
    for (began, first), (ended, last) in pairwise(points):
        steps = max(1, min(MOST_BETWEEN, round((ended - began) / BETWEEN)))
        found += [
            (began + step / steps * (ended - began), first + step / steps * (last - first))
            for step in range(1, steps + 1)
        ]
    return found


def cooking(batch: Batch, until: datetime | None = None, read: Read = read_by_probes) -> Cooking | None:
    """The cook of a batch with all that happened to it; None while it has not begun."""
    marks = list(batch.marks.all())
    since = in_the_pan_since(batch, marks)
    if since is None:
        return None

    def seconds(at: datetime) -> float:
        return seconds_since(batch, since, at)

    def first(*kinds: str) -> float | None:
        return next((seconds(mark.at) for mark in marks if mark.kind in kinds and mark.at >= since), None)

    def out_of_the_pan_s() -> float | None:
        """Into the ice, through the sieve, or something joined it in its bowl: whichever came first."""
        left = (
            seconds(mark.at)
            for mark in marks
            if (mark.at >= since and mark.kind in (MarkKind.INTO_ICE, MarkKind.SIEVE))
            or (mark.at > since and mark.stage == StageName.FINISH)
        )
        return min(left, default=None)

    breaks, off_s = custard.stove.off_the_heat(
        [(seconds(mark.at), mark.kind) for mark in marks if mark.at >= since]
    )
    probed = [(seconds(at), c) for at, c in read(batch, since, until)]
    typed = typed_at_the_stove(batch, marks, since, until, alone=not probed)
    history = custard.stove.History(
        readings=custard.stove.settled([*probed, *((seconds(at), c) for at, c in typed)]),
        spoons=[
            custard.stove.Spoon(seconds(mark.at), Coat(mark.coat))
            for mark in marks
            if mark.kind == MarkKind.SPOON and mark.at >= since
        ],
        hands=[
            (seconds(mark.at), mark.kind == MarkKind.STIRRING)
            for mark in marks
            if mark.kind in (MarkKind.STIRRING, MarkKind.HANDS_OFF) and mark.at >= since
        ],
        off_s=off_s,
        out_s=out_of_the_pan_s(),
        bubbles_s=first(MarkKind.BUBBLES),
        breaks=breaks,
    )
    return Cooking(batch, since, assessed(batch), equipment_of(batch), history, tuple(sorted(probed)))


def frozen(
    result: custard.Assessment, schools: dict[str, str], equipment: custard.stove.Equipment
) -> dict[str, Any]:
    """What a batch keeps of all this, as columns."""
    return {
        "content": custard.write_formula(result.formula),
        "schools": schools,
        "conditions": result.conditions.as_json(),
        "equipment": equipment.as_json(),
        "name": result.formula.name,
        "family": result.formula.family,
        "way": result.way.name,
        "mass_g": round(result.weighed_g, 2),
        "planned_coat": custard.process.DONE_WOBBLE if result.way.undisturbed else result.hot.word,
    }


def longest_gap(readings: Sequence[tuple[float, float]], now_s: float) -> float | None:
    """How long the probe has said nothing [s]; None when it never spoke."""
    last = max((t for t, _ in readings), default=None)
    return None if last is None else max(0.0, now_s - last)
