"""What is advised about a batch whatever the moment: its pours, and what helps when something is wrong."""

from __future__ import annotations

import custard
from kitchen.access import Actor

from stove import reads
from stove.cooking import setup_of
from stove.live_schemas import Addition, PourOut, PoursOut, RemedyOut


def pours(actor: Actor, batch_id: int, ladle_g: float) -> PoursOut | None:
    """The tempering of a batch, pour by pour; None when it has nothing to temper."""
    batch = reads.batch(actor, batch_id)
    result = custard.assess_as_made(custard.read_formula(batch.content), altitude_m=batch.kitchen.altitude_m)
    school = custard.answers(result.formula, batch.version.formula.schools).get("temper")
    warm = next(stage["at_c"] for stage in batch.plan["stages"] if stage["stage"] == "warm")
    if school is None or warm is None:
        return None
    try:
        found = custard.temper(result.formula, school, warm, ladle_g)
    except custard.Impossible:
        return None
    stove = setup_of(batch, result).stove
    ahead = custard.cook(result.pan, found.landing_c, result.stop.at_c, stove, longest_s=3600)
    poured = sum(pour.poured_g for pour in found.pours)
    return PoursOut(
        school=school,
        hot_c=warm,
        pours=[PourOut(**pour) for pour in found.as_json(result.stop.at_c)["pours"]],
        landing_c=round(found.landing_c, 2),
        worst_local_curdling=round(found.worst_local_curdling, 5),
        to_go_k=round(max(0.0, result.stop.at_c - found.landing_c), 1),
        to_heat_s=None if ahead.lift_s is None else round(ahead.lift_s),
        g_per_s=round(poured / found.seconds, 1) if found.seconds and school != "ladle" else None,
        sugar_waits_s=custard.SUGAR_WAITS_S,
    )


def remedies(actor: Actor, batch_id: int) -> list[RemedyOut]:
    """What can go wrong with a batch, and what to do about each, weighed for it."""
    batch = reads.batch(actor, batch_id)
    formula = custard.read_formula(batch.content)
    found = [custard.rescue(formula, fault, batch.plan["yield_g"]) for fault in custard.FAULTS]
    return [
        RemedyOut(
            fault=one.fault,
            cause=custard.plain_degrees(one.cause),
            saved=one.saved,
            steps=[custard.plain_degrees(step) for step in one.steps],
            add=[
                Addition(name=custard.ingredient(name).name, grams=round(grams, 1)) for name, grams in one.add
            ],
        )
        for one in found
    ]
