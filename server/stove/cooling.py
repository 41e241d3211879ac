"""How a batch is cooled: what is asked of the core, and what the core is told of it while it cools."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from math import ceil, pi

import custard
from common import database
from common.fair_limiter import in_turn
from common.refusals import Refusal
from custard.vocabulary import MarkKind, StageName, VesselKind
from kitchen import reads as kitchen
from kitchen.access import Actor
from pydantic import TypeAdapter

from stove import reads
from stove.batch import plans
from stove.batch.cooking import Read, assessed, equipment_of, read_by_probes
from stove.models import Batch, Mark
from stove.schemas import CoolerWanted, CoolingKept, CoolingUsual, CoolingWanted, VesselWanted

COOLING = TypeAdapter(custard.after.Cooling)
UNREAD = 0.3
"""A cooling known no better than this, as a logarithm, has hardly been read."""


Own = Callable[[int], kitchen.Cooler | None]
"""A cooler of the kitchen's by its id."""


def chosen(batch: Batch, wanted: CoolingWanted, own: Own) -> CoolingKept:
    """A cooling as wanted, with the kitchen's own coolers as they are known now.

    Raises
    ------
    Refusal, CustardError
        when a cooler is not of this kitchen, or a figure cannot be.
    """
    ways, ids = [], []
    for index, one in enumerate(wanted.ways):
        try:
            ways.append(_cooler(own, one, index))
        except custard.CustardError as error:
            raise error.at(f"ways[{index}]") from None
        ids.append(one.cooler_id)
    return CoolingKept(
        mass_g=wanted.mass_g or plans.read(batch.plan).yield_g,
        from_c=wanted.from_c if wanted.from_c is not None else _from_c(batch),
        vessel=custard.process.Vessel.of(wanted.vessel.dict()),
        ways=ways,
        cooler_ids=ids,
        mass_typed=wanted.mass_g is not None,
        from_typed=wanted.from_c is not None,
    )


def _cooler(of_the_kitchen: Own, one: CoolerWanted, index: int) -> custard.after.Cooler:
    by: str = one.by
    share: float = 1.0
    spread: float | None = None
    medium_c: float | None = None
    if one.cooler_id is not None:
        own = of_the_kitchen(one.cooler_id)
        if own is None:
            sentence = "is not a cooler of this kitchen"
            raise Refusal(422, f"That {sentence}.", [(f"ways[{index}].cooler_id", sentence)])
        by, share, medium_c = own.by, own.share, own.medium_c
        spread = own.spread if own.batches else None
    rest = one.dict(exclude={"by", "cooler_id"})
    return custard.after.Cooler(by=by, share=share, spread=spread, medium_c=medium_c, **rest)


def _from_c(batch: Batch) -> float:
    """Where it begins: what was last read or typed before it was put away, else its stop: hotter than it is
    after the sieve, and so on the safe side."""
    typed = [
        mark.temperature_c
        for mark in batch.marks.all()
        if mark.stage in (StageName.COOK, StageName.TEST, StageName.FINISH, StageName.CHILL)
        and mark.temperature_c is not None
    ]
    return typed[-1] if typed else max(20.0, batch.planned_c[StageName.COOK])


@in_turn
def planned(actor: Actor, batch_id: int, wanted: CoolingWanted) -> custard.after.Cooling:
    """What would become of a batch cooled so. Writes nothing."""
    batch = reads.batch(actor, batch_id)
    kept = chosen(batch, wanted, lambda key: kitchen.cooler(actor, key))
    database.release_connection()
    found = custard.after.cooling(assessed(batch), kept.mass_g, kept.from_c, kept.vessel, kept.ways)
    return COOLING.validate_python(custard.plain(found))


LOOKED_BACK = 60
"""So many of its last batches show how a kitchen cools."""


@in_turn
def usual(actor: Actor, batch_id: int) -> CoolingUsual:
    """How this kitchen would cool a batch, judged: as it last cooled that formula, one of its family, or any
    done the same way; else in one of its bowls in ice and water, what is baked in its cups in the fridge.

    Writes nothing.
    """
    batch = reads.batch(actor, batch_id)
    result = assessed(batch)
    like = _like(batch)
    wanted = _again(actor, like) if like is not None else _first(actor, batch, result)
    kept = chosen(batch, wanted, lambda key: kitchen.cooler(actor, key))
    database.release_connection()
    wanted.vessel.count = kept.vessel.count * max(1, ceil(_fills(kept, result)))
    kept = chosen(batch, wanted, lambda key: kitchen.cooler(actor, key))
    plan = custard.after.cooling(result, kept.mass_g, kept.from_c, kept.vessel, kept.ways)
    return CoolingUsual(
        wanted=wanted,
        plan=COOLING.validate_python(custard.plain(plan)),
        like=None if like is None else like.number,
    )


def _fills(kept: CoolingKept, result: custard.Assessment) -> float:
    """How many times over the sauce fills its vessels."""
    ml = kept.mass_g / (float(result.whole.density_kg_m3(TO_FILL_C)) / 1000)
    return ml / kept.vessel.holds_ml


TO_FILL_C = 40.0
"""As warm as it is poured, roughly: its density hardly changes."""


def _like(batch: Batch) -> Batch | None:
    """The earlier batch that shows best how this one is cooled."""
    rows = Batch.objects.filter(kitchen=batch.kitchen_id, pace=1).exclude(pk=batch.pk)
    recent = rows.select_related("version").defer("content", "plan").order_by("-number")[:LOOKED_BACK]
    cooled = [one for one in recent if one.cooling is not None and (one.way == batch.way)]
    formula = batch.version.formula_id
    alike = sorted(cooled, key=lambda one: (one.version.formula_id != formula, one.family != batch.family))
    return next(iter(alike), None)


def _again(actor: Actor, like: Batch) -> CoolingWanted:
    """As that batch was cooled: its vessels and ways, with plenty of ice."""
    kept = CoolingKept.model_validate(like.cooling)
    vessel = VesselWanted.model_validate(kept.vessel.as_json())
    ways = [
        CoolerWanted(
            by=way.by,
            cooler_id=own if own is not None and kitchen.cooler(actor, own) is not None else None,
            minutes=way.minutes,
            stirred=way.stirred,
        )
        for way, own in zip(kept.ways, kept.cooler_ids, strict=True)
    ]
    return CoolingWanted(mass_g=None, vessel=vessel, ways=ways)


def _first(actor: Actor, batch: Batch, result: custard.Assessment) -> CoolingWanted:
    """Where nothing was cooled yet."""
    cups = equipment_of(batch).cups
    if cups is not None:
        high_cm = max(0.5, cups.cup_ml / (pi / 4 * CUP_CM**2))
        vessel = VesselWanted(kind=VesselKind.CUPS, length_cm=CUP_CM, height_cm=high_cm, count=cups.count)
        return CoolingWanted(mass_g=None, vessel=vessel, ways=[CoolerWanted(by="fridge")])
    if result.way.foams:
        vessel = VesselWanted(kind=VesselKind.CUPS, length_cm=CUP_CM, height_cm=CUP_CM)
        return CoolingWanted(mass_g=None, vessel=vessel, ways=[CoolerWanted(by="fridge")])
    own = kitchen.bowl(actor)
    across_cm, high_cm = (24.0, 12.0) if own is None else (own.length_cm, own.height_cm)
    vessel = VesselWanted(kind=VesselKind.BOWL, length_cm=across_cm, height_cm=high_cm)
    return CoolingWanted(mass_g=None, vessel=vessel, ways=[CoolerWanted(by="ice-bath", stirred=True)])


CUP_CM = 7.0
"""Across a usual cup."""


def began_at(batch: Batch) -> datetime | None:
    """When a batch was put away to cool; None while it has not been."""
    return next((mark.at for mark in batch.marks.all() if mark.kind == MarkKind.INTO_ICE), None)


def live_cooling(
    batch: Batch, now: datetime, read: Read = read_by_probes
) -> custard.after.LiveCooling | None:
    """A cooling at a moment; None where nobody said how it is cooled, or it has not begun."""
    began = began_at(batch)
    if batch.cooling is None or began is None or now < began:
        return None
    kept = CoolingKept.model_validate(batch.cooling)
    marks = list(batch.marks.all())

    def seconds(at: datetime) -> float:
        return (at - began).total_seconds() * batch.pace

    readings = [(seconds(at), c) for at, c in read(batch, began, now)]
    readings += [
        (seconds(mark.at), mark.temperature_c)
        for mark in marks
        if mark.at > began
        and mark.stage in (StageName.CHILL, StageName.KEEP)
        and mark.temperature_c is not None
    ]
    return custard.after.live_cooling(
        assessed(batch),
        kept.mass_g,
        kept.vessel,
        _moves(kept, marks, seconds),
        custard.stove.settled(readings),
        seconds(now),
        kept.from_c,
    )


def _moves(
    kept: CoolingKept, marks: list[Mark], seconds: Callable[[datetime], float]
) -> list[custard.after.Moved]:
    """Where it was put when: as marked, and where nothing was marked as planned."""
    at = 0.0
    found = [custard.after.Moved(0.0, kept.ways[0])]
    moved = {mark.line: seconds(mark.at) for mark in marks if mark.kind == MarkKind.MOVED}
    for index, way in enumerate(kept.ways[1:], start=1):
        lasted = kept.ways[index - 1].minutes
        at = moved.get(index, at + 60 * (lasted or 0.0))
        found.append(custard.after.Moved(max(at, found[-1].at_s + 1.0), way))
    return found


def fitted(batch: Batch) -> tuple[int, float, float] | None:
    """What a closed batch tells of the one cooler it lay in: its id, share and error; None for nothing."""
    if batch.cooling is None or batch.closed_at is None:
        return None
    kept = CoolingKept.model_validate(batch.cooling)
    if len(kept.ways) != 1 or kept.cooler_ids[0] is None:
        return None
    seen = live_cooling(batch, batch.closed_at)
    if seen is None or seen.spread > TELLS:
        return None
    share = seen.share * kept.ways[0].share
    return kept.cooler_ids[0], share, share * seen.spread


TELLS = 0.2
"""A share known no better than this, as a logarithm, says nothing of its cooler."""
