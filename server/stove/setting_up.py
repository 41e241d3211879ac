"""What a batch is cooked on and in, and the probe in it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any, TypeVar

import custard
from common import clock, database
from common.events import notify
from common.refusals import Refusal
from custard.vocabulary import StageName
from devices import reads as devices
from kitchen import reads as kitchen
from kitchen.access import Actor, Role, action

from stove import locking, reads
from stove.batch import contents
from stove.batch.cooking import assessed, equipped, usual_equipment
from stove.batch.taken import lift_of
from stove.models import Batch, ProbeUse
from stove.schemas import EquipmentWanted


def set_up(actor: Actor, batch_id: int, wanted: EquipmentWanted) -> Batch:
    """Say what a batch is cooked on and in, and which probe lies in it.

    A probe that lay in another batch is taken out of that one.
    """
    actor.must(Role.COOK)
    batch = reads.batch(actor, batch_id)
    database.release_connection()
    result = assessed(batch)
    usual = usual_equipment(result, batch.schools)
    hob, pan = kitchen.hob(actor, wanted.hob_id or 0), kitchen.pan(actor, wanted.pan_id or 0)
    lift = lift_of(result, equipped(usual, hob, pan), batch.planned_c.get(StageName.TEMPER))
    return _set_up(actor, batch_id, wanted, usual, lift)


@action("batch.set-up", Role.COOK)
def _set_up(
    actor: Actor,
    batch_id: int,
    wanted: EquipmentWanted,
    usual: custard.stove.Equipment,
    lift: dict[str, Any] | None,
) -> Batch:
    batch = locking.open_batch(actor, batch_id)
    batch.hob = _mine(kitchen.hob, actor, wanted.hob_id, "hob_id")
    batch.pan = _mine(kitchen.pan, actor, wanted.pan_id, "pan_id")
    equip(batch, usual, wanted)
    batch.lift = lift
    batch.save(update_fields=["hob", "pan", "equipment", "lift"])
    contents.write(batch)
    _put_probe(actor, batch, wanted.probe_id)
    locking.changed(batch)
    return batch


def equip(batch: Batch, usual: custard.stove.Equipment, wanted: EquipmentWanted) -> None:
    """Set what a batch is cooked on and in, by its hob and pan as they are known now. Not saved."""
    found = equipped(usual, batch.hob, batch.pan)
    if usual.cups is not None:
        cups = usual.cups if wanted.cups is None else custard.process.Cups.of(wanted.cups.dict())
        found = replace(found, cups=cups)
    batch.equipment = found.as_json()


def _put_probe(actor: Actor, batch: Batch, probe_id: int | None) -> None:
    now = clock.now()
    lies = batch.probes.filter(until=None).first()
    if lies is not None and lies.device_id == probe_id:
        return
    batch.probes.filter(until=None).update(until=now)
    if probe_id is None:
        return
    probe = devices.probe(actor, probe_id)
    if probe is None:
        sentence = "is not a probe of this kitchen"
        raise Refusal(422, f"That {sentence}.", [("probe_id", sentence)])
    for use in ProbeUse.objects.select_for_update(no_key=True).filter(device=probe, until=None):
        use.until = now
        use.save(update_fields=["until"])
        notify(actor.kitchen.pk, {"batch": use.batch_id})
    checked = probe.checks.first()
    known = {} if checked is None else devices.as_checked(checked)
    ProbeUse.objects.create(batch=batch, device=probe, since=now, **known)


Thing = TypeVar("Thing")


def _mine(
    read: Callable[[Actor, int], Thing | None], actor: Actor, key: int | None, field: str
) -> Thing | None:
    if key is None:
        return None
    found = read(actor, key)
    if found is None:
        sentence = "is not one of this kitchen"
        raise Refusal(422, f"That {sentence}.", [(field, sentence)])
    return found
