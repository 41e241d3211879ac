"""An exercise as it is kept beside an attempt, and as core knows it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

import custard
from book import reads as book
from common.refusals import Refusal
from custard import practice
from kitchen import reads as kitchen
from kitchen.access import Actor
from stove import reads as stove

from practice.schemas import Hidden

Spec = dict[str, Any]


def exercise_of(spec: Mapping[str, Any]) -> practice.Exercise:
    """The exercise of a kept specification: one of core's own by its key, or a formula on a hidden hob."""
    if spec.get("key"):
        return practice.exercise(spec["key"])
    if spec.get("batch"):
        return practice.of_batch(custard.formats.read_batch(spec["batch"]), spec["from_s"])
    return practice.of_formula(
        custard.read_formula(spec["formula"]),
        spec["difficulty"],
        spec["pan"],
        spec["surprise"],
        spec["probe"],
        spec["name"],
        spec["tell"],
    )


def of_batch(actor: Actor, batch_id: int, from_s: float) -> Spec:
    """A batch from a moment on, as it is kept: on hob and pan as they were found to be.

    `from_s` counts from the first reading in the pan [s], as its curve does.

    Raises
    ------
    Http404
        when this kitchen has no such batch.
    Refusal
        when it is still on the stove.
    """
    row = stove.batch(actor, batch_id)
    if row.closed_at is None:
        raise Refusal(409, "This batch is still on the stove. Close it first.", kind="open")
    kept = stove.as_file(row)
    hob, pan = kept.hob, kept.pan
    if row.fitted_w is not None:
        hob = replace(hob, power_w=row.fitted_w)
    if row.fitted_pan_share is not None:
        pan = replace(pan, share=row.fitted_pan_share)
    first = next((t for t, _ in kept.readings if t >= 0), 0.0)
    as_found = custard.formats.write_batch(replace(kept, hob=hob, pan=pan))
    return {"batch": as_found, "batch_id": row.pk, "from_s": first + from_s}


def begun_under(actor: Actor, spec: Mapping[str, Any]) -> custard.Conditions:
    """The conditions under which an attempt begins: the kitchen's of today, or those of the batch."""
    if spec.get("batch"):
        return practice.batch_conditions(custard.formats.read_batch(spec["batch"]))
    return kitchen.conditions_of(actor.kitchen)


def conditions_of(kept: Mapping[str, Any]) -> custard.Conditions:
    """The conditions an attempt was begun under."""
    return custard.Conditions.of(kept, custard.USUAL.parameters)


def spec_of(actor: Actor, formula_id: int, how: Hidden, name: str = "", tell: str = "") -> Spec:
    """A formula of the Book as it is now, and how it is practised, as it is kept."""
    latest = book.version(actor, formula_id)
    return {
        "formula": latest.content,
        "difficulty": how.difficulty,
        "pan": how.pan,
        "surprise": how.surprise,
        "probe": how.probe,
        "name": name or latest.content["name"],
        "tell": tell,
    }
