"""A formula taken to the stove: what is computed of it before anything is locked, and the row it becomes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import custard
from book import reads as book
from common import clock
from kitchen.access import Actor

from stove.batch import contents, plans
from stove.batch.cooking import frozen, usual_equipment
from stove.models import Batch, ParameterSet


@dataclass(frozen=True)
class Taken:
    """All that is computed of a formula taken to the stove, before anything is locked.

    `parameters` are the kitchen's: what the formula's own recipe says is applied whenever it is assessed.
    """

    version_id: int
    parameters: custard.larder.Parameters
    result: custard.Assessment
    schools: dict[str, str]
    plan: custard.stove.Overview
    equipment: custard.stove.Equipment
    lift: dict[str, Any] | None
    changed: tuple[str, ...] = ()


def lift_of(
    result: custard.Assessment, equipment: custard.stove.Equipment, landing_c: float | None
) -> dict[str, Any] | None:
    """Where a batch is lifted when no probe is read, as it is kept."""
    found = custard.stove.planned_lift(result, equipment, landing_c)
    return None if found is None else custard.plain(found)


def taken(
    version_id: int,
    formula: custard.Formula,
    conditions: custard.Conditions,
    schools: dict[str, str],
    changed: tuple[str, ...] = (),
) -> Taken:
    """Compute all that a batch freezes of its formula."""
    result = custard.assess(formula, conditions)
    plan, usual = book.assessment_of(formula, result, schools), usual_equipment(result, schools)
    lift = lift_of(result, usual, plan.landing_c)
    return Taken(version_id, conditions.unlearned, result, schools, plan, usual, lift, changed)


def unsaved(actor: Actor, taken: Taken, parameters: ParameterSet, pace: float, number: int) -> Batch:
    """The row of a batch that begins now."""
    result, plan, schools = taken.result, taken.plan, taken.schools
    inside = contents.planned(result.formula, result.allergens)
    return Batch(
        kitchen=actor.kitchen,
        number=number,
        pace=pace,
        version_id=taken.version_id,
        parameters=parameters,
        plan=plans.write(plan),
        planned_c={one.stage: round(one.at_c, 2) for one in plan.stages if one.at_c is not None},
        allergens=list(inside.allergens),
        unheated=list(inside.unheated),
        changed=list(taken.changed),
        lift=taken.lift,
        started_by=actor.user,
        started_at=clock.now(),
        egg_source=actor.kitchen.egg_source,
        **frozen(result, schools, taken.equipment),
    )


def parameters_kept(parameters: custard.larder.Parameters) -> ParameterSet:
    """The row of a set of the model's parameters, made when it is new."""
    kept, _ = ParameterSet.objects.get_or_create(
        version=parameters.version, defaults={"values": parameters.as_json()}
    )
    return kept
