"""What a probe may know of the batch it lies in, for a stand-in that cooks that very batch."""

from __future__ import annotations

from custard.vocabulary import StageName
from devices.reads import Device

from stove import reads
from stove.batch.cooking import conditions_of, equipment_of, in_the_pan_since
from stove.live_schemas import ForProbe, ProbeMark
from stove.models import ProbeUse


def for_probe(device: Device) -> ForProbe:
    """What a probe may know of the batch it lies in."""
    use = ProbeUse.objects.filter(device=device, until=None).first()
    if use is None:
        return ForProbe(
            batch=None,
            kitchen_altitude_m=device.kitchen.altitude_m,
            formula=None,
            pace=1,
            landing_c=None,
            over_steam=False,
            power_w=0,
            pan="clad",
            cups=None,
            started_at=None,
            cooks_since=None,
            marks=[],
        )
    batch = reads.standing().get(pk=use.batch_id)
    equipment, marks = equipment_of(batch), list(batch.marks.all())
    stove = equipment.stove
    return ForProbe(
        batch=batch.pk,
        kitchen_altitude_m=conditions_of(batch).altitude_m,
        formula=batch.content,
        pace=batch.pace,
        landing_c=batch.planned_c.get(StageName.TEMPER),
        over_steam=stove.over_steam,
        power_w=stove.power_w,
        pan=stove.pan,
        cups=equipment.cups,
        started_at=batch.started_at,
        cooks_since=in_the_pan_since(batch, marks),
        marks=[ProbeMark(kind=mark.kind, stage=mark.stage, at=mark.at) for mark in marks],
    )
