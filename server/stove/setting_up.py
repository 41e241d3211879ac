"""What a batch is cooked on and in, and the probe in it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import timedelta
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
from stove.batch.taken import Taken, lift_of
from stove.models import Batch, ProbeUse
from stove.schemas import EquipmentWanted

BUSY_FOR = timedelta(hours=6)
"""A batch that was left before its cook was over keeps its hob from others for so long."""
ON_THE_HOB = (StageName.WEIGH, StageName.WARM, StageName.TEMPER, StageName.COOK)


@dataclass(frozen=True)
class AsLastTime:
    """The hob, the pan and the probe that a new batch likely has; `probe_id` only of one that sends now."""

    hob: Any = None
    pan: Any = None
    probe_id: int | None = None

    def taken(self, made: Taken) -> Taken:
        """What was computed of a formula, on this hob and in this pan."""
        if self.hob is None and self.pan is None:
            return made
        equipment = equipped(made.equipment, self.hob, self.pan)
        return replace(made, equipment=equipment, lift=lift_of(made.result, equipment, made.plan.landing_c))


def as_last_time(actor: Actor, formula_id: int, way: str) -> AsLastTime:
    """On what, in what and with which probe a new batch likely is.

    As this formula was last, else as the last sauce that is cooked this way; never on a hob that another
    batch is on. The probe is the one that sends now and lies in none.
    """
    ours = Batch.objects.filter(kitchen=actor.kitchen).defer(*reads.DOCUMENTS).order_by("-started_at", "-id")
    cooked = ours.filter(way=way, hob__isnull=False)
    last = cooked.filter(version__formula_id=formula_id).first() or cooked.first()
    if last is None:
        return AsLastTime(probe_id=_probe_that_sends(actor))
    begun = ours.filter(closed_at=None, stage__in=ON_THE_HOB, started_at__gte=clock.now() - BUSY_FOR)
    hob = None if begun.filter(hob_id=last.hob_id or 0).exists() else kitchen.hob(actor, last.hob_id or 0)
    return AsLastTime(hob, kitchen.pan(actor, last.pan_id or 0), _probe_that_sends(actor))


def _probe_that_sends(actor: Actor) -> int | None:
    """The one probe that sends and lies in no batch; of two it is not known which is meant."""
    sending = devices.sending(actor)
    lying = ProbeUse.objects.filter(device_id__in=sending, until=None).values_list("device_id", flat=True)
    free = set(sending) - set(lying)
    return free.pop() if len(free) == 1 else None


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
    put_probe(actor, batch, wanted.probe_id)
    locking.changed(batch)
    return batch


def equip(batch: Batch, usual: custard.stove.Equipment, wanted: EquipmentWanted) -> None:
    """Set what a batch is cooked on and in, by its hob and pan as they are known now. Not saved."""
    found = equipped(usual, batch.hob, batch.pan)
    if usual.cups is not None:
        cups = usual.cups if wanted.cups is None else custard.process.Cups.of(wanted.cups.dict())
        found = replace(found, cups=cups)
    batch.equipment = found.as_json()


def put_probe(actor: Actor, batch: Batch, probe_id: int | None) -> None:
    """Put a probe into a batch, or take out the one that lies in it. Not an action: a part of one."""
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
