"""The fortnight's batches as rows: set up, cooked, marked, closed and put away as their tales have it."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any

import custard
from book.models import FormulaVersion
from common import clock
from custard.vocabulary import StageName
from devices.models import Device, Reading
from kitchen import actions as larder
from kitchen import reads as kitchen
from kitchen.access import Actor
from kitchen.models import Cooler, Hob, Pan
from shelf import finished
from shelf.schemas import Closing
from stove import actions as stove
from stove import cooling, marking, setting_up
from stove.after import keeping, learning
from stove.batch import facts
from stove.batch import taken as begin
from stove.batch.cooking import Read, cooking, equipped
from stove.models import Batch, Mark, ParameterSet, ProbeUse
from stove.schemas import CoolingWanted, EquipmentWanted, NewMark

from demo.fortnight import Cooked, Tale, cooked
from demo.rows import Rows, remember
from demo.stock import Finished, Shelf

ICED_MIN = 30
TAKEN_AFTER = timedelta(minutes=5)
CLOSED_AFTER_S = 60
CHILLS_S, COLD_C = 100 * 60.0, 4.6
"""So long it lies in the cold before somebody reads it and closes the batch [s], and what is read [degC]."""
Moments = list[tuple[float, dict[str, Any]]]


@dataclass
class Fitted:
    """What the demo's batches are cooked on and in, cooled in and read by, as the kitchen knows it so far."""

    hobs: dict[str, Hob]
    pan: Pan
    probe: Device
    coolers: dict[str, Cooler]
    vessel: Mapping[str, Any]
    parameters: ParameterSet
    taken: dict[str, begin.Taken] = field(default_factory=dict)


def write(
    rows: Rows, shelf: Shelf, actor: Actor, tale: Tale, version: FormulaVersion, fitted: Fitted
) -> Finished:
    """One batch of the fortnight, from weighing to the shelf."""
    started = (clock.now() - timedelta(days=tale.days_ago)).replace(second=0, microsecond=0)
    taken = _taken(actor, tale, version, fitted)
    with clock.at(started):
        batch = _begun(rows, actor, tale, taken, fitted)
    plan = taken.plan
    targets = {stage.stage: stage.at_c for stage in plan.stages}
    came = cooked(tale, taken.result, targets.get(StageName.TEMPER))
    before = _before(plan, targets, came.start_c)
    cooks = started + timedelta(seconds=before[-1][0])
    after = _after(tale, came, _additions(plan), foams=taken.result.way.foams)
    ends = cooks + timedelta(seconds=after[-1][0] + CLOSED_AFTER_S)
    readings = {cooks + timedelta(seconds=t): c for t, c in came.readings}
    for at, celsius in readings.items():
        rows.add(Reading(device=fitted.probe, at=at, celsius=celsius))
    moments = [(started + timedelta(seconds=t), words) for t, words in before]
    moments += [(cooks + timedelta(seconds=t), words) for t, words in after]
    _marks(rows, actor, batch, moments)
    if tale.takes is not None:
        with clock.at(started + TAKEN_AFTER):
            drawn = shelf.take(actor, shelf.finished[tale.takes], batch)
            batch.allergens = list(dict.fromkeys([*batch.allergens, *sorted(drawn.allergens)]))
    with clock.at(ends):
        read = _read(readings)
        seen = keeping.seen_of(cooking(batch, ends, read))
        _closed(rows, shelf, actor, tale, keeping.put_away(batch, ends, read, seen), batch)
        _taught(rows, actor, batch, learning.look_back(batch, read, seen))
    return Finished(tale, batch, ends, cooks + timedelta(seconds=came.end_s + CLOSED_AFTER_S))


def _taken(actor: Actor, tale: Tale, version: FormulaVersion, fitted: Fitted) -> begin.Taken:
    """What its formula is and becomes; computed once for all batches of it."""
    if tale.formula not in fitted.taken:
        formula = custard.read_formula(version.content)
        conditions = kitchen.conditions_of(actor.kitchen)
        fitted.taken[tale.formula] = begin.taken(version.pk, formula, conditions, version.formula.schools)
    return fitted.taken[tale.formula]


def _begun(rows: Rows, actor: Actor, tale: Tale, taken: begin.Taken, fitted: Fitted) -> Batch:
    """A batch as it is taken to the stove and set up."""
    batch = begin.unsaved(actor, taken, fitted.parameters, 1, actor.kitchen.next_batch)
    actor.kitchen.next_batch += 1
    rows.add(batch)
    rows.done(actor, "batch.start", batch)
    batch.hob = fitted.hobs.get(tale.ring)
    direct = batch.hob is not None and not batch.hob.over_steam
    batch.pan = fitted.pan if direct else None
    setting_up.equip(batch, taken.equipment, EquipmentWanted())
    batch.lift = begin.lift_of(
        taken.result, equipped(taken.equipment, batch.hob, batch.pan), batch.planned_c.get(StageName.TEMPER)
    )
    use = rows.add(ProbeUse(batch=batch, device=fitted.probe, since=clock.now()))
    remember(batch, marks=[], probes=[use])
    rows.done(actor, "batch.set-up", batch)
    if direct:
        wanted = cooling_wanted(fitted.coolers, fitted.vessel)
        known = {one.pk: one for one in fitted.coolers.values()}
        kept = cooling.chosen(batch, wanted, known.get)
        batch.cooling = kept.model_dump(mode="json")
        rows.done(actor, "batch.cool", batch)
    return batch


def _marks(rows: Rows, actor: Actor, batch: Batch, moments: list[tuple[datetime, dict[str, Any]]]) -> None:
    found: list[Mark] = []
    for number, (at, words) in enumerate(moments):
        key = uuid.uuid5(uuid.NAMESPACE_OID, f"demo {batch.number} {number}")
        with clock.at(at):
            mark = marking.unsaved_mark(actor, batch, NewMark(id=key, at=at, **words))
            rows.add(mark)
            rows.done(actor, "batch.mark", mark)
        found.append(mark)
    found.sort(key=lambda mark: (mark.at, mark.id))
    facts.read(batch, found)
    remember(batch, marks=found, drawn=[])


def _closed(rows: Rows, shelf: Shelf, actor: Actor, tale: Tale, made: keeping.PutAway, batch: Batch) -> None:
    """Closed now, with what of it is kept on the shelf."""
    closing = Closing.model_validate({"verdict": tale.verdict, "note": tale.note})
    kept_g, whites_g = finished.kept(batch, closing, made)
    rows.add(stove.ended(actor, batch, closing.verdict, closing.note, closing.yield_g))
    for use in batch.probes.all():
        use.until = batch.closed_at
    for grams, values in finished.tubs_of(batch, made, kept_g, whites_g):
        shelf.put(actor, batch, grams, 1, **values)
    rows.done(actor, "batch.close", batch)


def _taught(rows: Rows, actor: Actor, batch: Batch, lesson: learning.Lesson) -> None:
    """A fortnight is looked back on here and now, in its own order."""
    learning.taught(batch, lesson)
    measured = lesson.measured
    if measured is None:
        return
    if batch.hob is not None:
        larder.hob_learns(batch.hob, measured.power_w, measured.power_error_w)
        rows.done(actor, "hob.learn", batch.hob)
    if batch.pan is not None:
        larder.pan_learns(batch.pan, measured.pan_share, learning.share_error(measured))
        rows.done(actor, "pan.learn", batch.pan)
    batch.taught_at = clock.now()


def _read(readings: Mapping[datetime, float]) -> Read:
    """What the probe of a batch read in a while, out of memory."""

    def read(batch: Batch, since: datetime, until: datetime | None) -> list[tuple[datetime, float]]:
        ends = [end for end in (until, *(use.until for use in batch.probes.all())) if end is not None]
        return [(at, c) for at, c in readings.items() if at >= since and all(at < end for end in ends)]

    return read


def cooling_wanted(coolers: Mapping[str, Cooler], vessel: Mapping[str, Any]) -> CoolingWanted:
    """Out of the pan into a steel bowl in ice and water, then into the walk-in."""
    return CoolingWanted.model_validate(
        {
            "vessel": {**vessel, "count": 1},
            "ways": [
                {
                    "by": "ice-bath",
                    "cooler_id": coolers["ice bath"].pk,
                    "stirred": True,
                    "minutes": ICED_MIN,
                },
                {"by": "fan-fridge", "cooler_id": coolers["walk-in fridge"].pk},
            ],
        }
    )


def _additions(plan: custard.stove.Overview) -> int:
    return 0 if plan.finish is None else len(plan.finish.additions)


def _before(plan: custard.stove.Overview, targets: dict[StageName, float | None], landed_c: float) -> Moments:
    """Seconds after the start, and what was marked then, until the mix was in the pan."""
    found: Moments = [
        (60 + 36 * i, {"stage": "weigh", "kind": "tick", "line": i}) for i in range(len(plan.slip))
    ]
    t = found[-1][0]
    warm_c = targets[StageName.WARM]
    read_c = {StageName.WARM: None if warm_c is None else warm_c + 0.4, StageName.TEMPER: landed_c}
    for stage, wait_s in ((StageName.WEIGH, 30), (StageName.WARM, 360), (StageName.TEMPER, 130)):
        if stage not in targets:
            continue
        there = targets[stage] is not None
        t += wait_s if there else 30
        came = read_c.get(stage)
        read = None if came is None or not there else round(came, 1)
        if stage == StageName.WARM and plan.infusing is not None:
            found.append((t - 20, {"stage": "warm", "kind": "top-up", "grams": plan.infusing.left_g - 3}))
        found.append((t, {"stage": stage, "kind": "done", "temperature_c": read}))
    return found


def _after(tale: Tale, came: Cooked, additions: int, *, foams: bool) -> Moments:
    """Seconds since it was in the pan, and what was marked then."""
    lifted = came.read(came.off_s)
    found: Moments = []
    if came.bubbles_s is not None:
        found.append((came.bubbles_s, {"stage": "cook", "kind": "bubbles"}))
    found.append((came.off_s, {"stage": "cook", "kind": "off-heat", "temperature_c": lifted}))
    found.append((came.off_s + 1, {"stage": "cook", "kind": "done", "temperature_c": lifted}))
    if came.wobble:
        seen: dict[str, Any] = {"kind": "nudge", "what": came.wobble}
    elif foams:
        seen = {"kind": "ribbon", "what": "mounds"}
    else:
        seen = {"kind": "spoon", "coat": came.coat, "finger_line": came.line}
    found.append((came.off_s + 4, {"stage": "test", **seen}))
    if came.out_s is not None:
        read = came.read(came.out_s)
        found.append((came.out_s, {"stage": "chill", "kind": "into-ice", "temperature_c": read}))
    last = max(t for t, _ in found)
    if came.coat and not foams:
        found.append((last + 20, {"stage": "test", "kind": "sieve", "sieve": tale.sieve or came.sieve}))
    found.append((last + 30, {"stage": "test", "kind": "done"}))
    for row in range(additions):
        found.append((last + 31 + row, {"stage": "finish", "kind": "tick", "line": row}))
    if additions:
        found.append((last + 38, {"stage": "finish", "kind": "done"}))
    found.append(
        (max(came.end_s, last + CHILLS_S), {"stage": "chill", "kind": "done", "temperature_c": COLD_C})
    )
    return found
