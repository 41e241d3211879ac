"""What is advised about a batch whatever the moment: its pours, and what it is baked in."""

from __future__ import annotations

import custard
from common import database
from common.fair_limiter import in_turn
from custard.vocabulary import StageName
from kitchen.access import Actor

from stove import reads
from stove.batch import plans
from stove.batch.cooking import assessed, equipment_of
from stove.live_schemas import PoursOut
from stove.schemas import OvenOut


@in_turn
def pours(actor: Actor, batch_id: int, ladle_g: float) -> PoursOut | None:
    """The tempering of a batch, pour by pour; None when it has nothing to temper."""
    batch = reads.batch(actor, batch_id)
    database.release_connection()
    result = assessed(batch)
    school = custard.bench.answers(result.formula, batch.schools).get("temper")
    warm = next(stage.at_c for stage in plans.read(batch.plan).stages if stage.stage == StageName.WARM)
    if school is None or warm is None:
        return None
    try:
        found = custard.process.temper(
            result.formula,
            school,
            warm,
            ladle_g,
            conditions=result.conditions,
            sugar_in_bowl=custard.bench.sugar_in_bowl(batch.schools),
        )
    except custard.Impossible:
        return None
    ahead = custard.process.cook(
        result.pan,
        found.landing_c,
        result.stop.at_c,
        equipment_of(batch).stove,
        longest_s=3600,
        conditions=result.conditions,
    )
    poured = sum(pour.poured_g for pour in found.pours)
    return PoursOut(
        school=school,
        hot_c=warm,
        pours=custard.plain(found.pours),
        landing_c=round(found.landing_c, 2),
        worst_local_curdling=round(found.worst_local_curdling, 5),
        to_go_k=round(max(0.0, result.stop.at_c - found.landing_c), 1),
        to_heat_s=None if ahead.lift_s is None else round(ahead.lift_s),
        g_per_s=round(poured / found.seconds, 1) if found.seconds and school != "ladle" else None,
        sugar_waits_s=custard.process.SUGAR_WAITS_S,
    )


IN_C = 50.0
"""How warm a custard goes into the oven where nothing was marked [degC]."""


@in_turn
def oven(actor: Actor, batch_id: int) -> OvenOut | None:
    """What a batch is baked in and how long that takes; None for what is not baked."""
    batch = reads.batch(actor, batch_id)
    cups = equipment_of(batch).cups
    if cups is None:
        return None
    database.release_connection()
    result = assessed(batch)
    in_c = batch.left_c.get(StageName.TEMPER) or batch.planned_c.get(StageName.TEMPER) or IN_C
    done = cups.baked(result.pan, min(80.0, max(0.0, in_c)), conditions=result.conditions)
    takes = custard.process.filled(result.pan, cups)
    fills = int((result.yield_g + FILLS_WITHIN * takes.custard_g) // takes.custard_g)
    return OvenOut(
        cups=cups,
        filled=custard.plain(takes),
        fills=fills,
        enough=fills >= cups.count,
        in_c=round(in_c, 1),
        out_s=done.out_s,
        carry_over_k=round(done.carry_over_k, 1),
    )


FILLS_WITHIN = 0.05
"""A last cup that lacks only so much of itself counts as full [1]."""
