"""A batch as a file in the open format: as weighed, where and on what, what happened, what it came to."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime
from typing import Any

import custard
from custard.vocabulary import MarkKind, StageName

from stove.batch import plans
from stove.batch.cooking import (
    conditions_of,
    content_now,
    equipment_of,
    in_the_pan_since,
    is_odd,
    read_by_probes,
    seconds_since,
    typed_at_the_stove,
)
from stove.models import Batch, Mark


def kept(batch: Batch, until: datetime) -> custard.formats.KeptBatch:
    """A batch, its readings and its marks, in seconds since the mix was in the pan.

    A batch of which nothing is in the pan yet counts from when it was started.
    """
    marks = list(batch.marks.all())
    since = in_the_pan_since(batch, marks) or batch.started_at
    equipment, conditions = equipment_of(batch), conditions_of(batch)
    stove = equipment.stove
    # Every reading, not so many as a screen follows: what is learned and compared is smoothed by itself.
    probed = read_by_probes(batch, since, until, most=None)
    typed = typed_at_the_stove(batch, marks, since, until, alone=not probed)
    probe = _probe(batch, equipment.probe_lag_s)
    # A file has readings as its probe gave them, and by how much that is known to read too high.
    read = [(seconds_since(batch, since, at), c + probe.reads_high_k) for at, c in sorted([*probed, *typed])]
    return custard.formats.KeptBatch(
        formula=custard.read_formula(_weighed(batch, marks)),
        number=batch.number,
        started_at=batch.started_at.isoformat(),
        altitude_m=conditions.altitude_m,
        rule=conditions.rule,
        eggs=conditions.eggs,
        egg_source=batch.egg_source,
        hob=custard.formats.HobUsed(
            name=batch.hob.name if batch.hob else "", power_w=stove.power_w, spread=equipment.power_spread
        ),
        pan=custard.formats.PanUsed(
            name=batch.pan.name if batch.pan else "",
            kind=stove.pan,
            share=equipment.pan_share,
            spread=equipment.pan_spread,
        ),
        probe=probe,
        over_steam=stove.over_steam,
        stir=stove.stir,
        hold_s=equipment.hold_s,
        cups=None if equipment.cups is None else equipment.cups.as_json(),
        learned=custard.formats.LearnedUsed(
            conditions.learned.set_k, conditions.learned.carry_over, conditions.learned.left
        ),
        plan=planned(batch),
        readings=tuple(custard.stove.settled(read)),
        marks=tuple(
            custard.formats.HappenedMark(
                at_s=seconds_since(batch, since, mark.at),
                kind=mark.kind,
                stage=mark.stage,
                what=mark.what,
                temperature_c=mark.temperature_c,
                coat=mark.coat,
                line=mark.finger_line,
                sieve=mark.sieve,
                grams=mark.grams,
                note=mark.note,
            )
            for mark in marks
        ),
        yield_g=batch.yield_g,
        verdict=batch.verdict,
        verdict_note=batch.verdict_note,
        odd=is_odd(batch),
        rehearsal=batch.pace != 1,
    )


def _probe(batch: Batch, lag_s: float) -> custard.formats.ProbeUsed:
    use = next(iter(batch.probes.all()), None)
    if use is None:
        return custard.formats.ProbeUsed(lag_s=lag_s)
    plain = custard.formats.ProbeUsed(name=use.device.name, lag_s=lag_s, reads_high_k=use.reads_high_k)
    if use.checked_on is None or use.error_k is None:
        return plain
    return replace(plain, error_k=use.error_k, checked_on=use.checked_on.isoformat())


def planned(batch: Batch) -> custard.formats.PlanUsed:
    """What was planned of a batch, as its file has it."""
    lift = batch.lift or {}
    return custard.formats.PlanUsed(
        lift_c=lift.get("at_c", batch.planned_c.get(StageName.COOK)),
        lands_c=lift.get("lands_c"),
        coat=batch.planned_coat,
        yield_g=batch.plan.get("yield_g"),
    )


def _weighed(batch: Batch, marks: list[Mark]) -> dict[str, Any]:
    """What it is made of by now, each line as it was weighed where a scale said so."""
    content, slip = content_now(batch), plans.read(batch.plan).slip
    ticked = {
        mark.line: mark.grams
        for mark in marks
        if mark.kind == MarkKind.TICK and mark.stage == StageName.WEIGH and mark.grams is not None
    }
    lines = [dict(line) for line in content["lines"]]
    for place, line in enumerate(lines):
        rows = [row for row, one in enumerate(slip) if one.line == place]
        if rows and all(row in ticked for row in rows):
            grams = round(sum(ticked[row] or 0.0 for row in rows), 2)
            if grams > 0:
                line["amount"] = f"{grams} g"
    return {**content, "lines": lines}
