"""A batch at this moment, from its readings and its marks. Nothing here writes."""

from __future__ import annotations

import uuid
from datetime import datetime, timedelta

import custard
from devices.models import Device
from django.utils import timezone
from kitchen.access import Actor

from stove import reads
from stove.cooking import Cooking, cooking, cooks_since, read_by_probes, setup_of
from stove.live_schemas import (
    AlarmOut,
    CurveOut,
    ForProbe,
    LiveOut,
    OvenLive,
    PanLive,
    PastOut,
    ProbeMark,
    Urgent,
)
from stove.models import Batch, Kind, ProbeUse

POINTS = 240
URGENT_AT_MOST = 6
LEARNED_K = 0.25
NAMESPACE = uuid.UUID("6a1f0d0e-5b0e-5c57-9b0b-0f6d5a1c2e01")


def live(actor: Actor, batch_id: int) -> LiveOut:
    """A batch at this moment."""
    return live_of(reads.batch(actor, batch_id), timezone.now())


def live_of(batch: Batch, now: datetime) -> LiveOut:
    """A batch at a moment."""
    now = min(now, batch.closed_at or now)
    found = cooking(batch, now + timedelta(minutes=2))
    if found is None:
        return _not_yet(batch, now)
    silent = None
    last = max((t for t, _ in found.told.readings), default=None)
    if last is not None:
        silent = max(0.0, (found.seconds(now) - last) / batch.pace)
    if found.in_the_oven:
        oven = custard.live_oven(found.result.pan, found.told.readings, found.seconds(now))
        return _oven(found, now, oven, custard.coach_oven(found.told, oven, silent), silent)
    seen = custard.live(found.result, found.setup, found.told, found.seconds(now))
    said = custard.coach(found.result, found.setup, found.told, seen, silent)
    return _pan(found, now, seen, said, silent)


def _not_yet(batch: Batch, now: datetime) -> LiveOut:
    """Before the cook: the probe is shown, and nothing is followed."""
    reading = read_by_probes(batch, batch.started_at, now + timedelta(minutes=2))
    stage = reads.stage_of(batch.marks.all())
    plan = next(one for one in batch.plan["stages"] if one["stage"] == stage)
    return LiveOut(
        at=now,
        pace=batch.pace,
        t_s=None,
        probe_c=reading[-1][1] if reading else None,
        probe_ago_s=(now - reading[-1][0]).total_seconds() if reading else None,
        soon_c=None,
        way=reads.way_of(batch),
        phase="waiting",
        say=plan["say"],
        then="",
        seconds=None,
        urgency=0,
        learned=None,
        alarms=[],
        past=_past([((at - now).total_seconds() * batch.pace, c) for at, c in reading]),
        ahead=None,
        pan=None,
        oven=None,
    )


def _pan(
    found: Cooking, now: datetime, seen: custard.Live | None, said: custard.Coach, silent: float | None
) -> LiveOut:
    told = None if seen is None else seen.as_json()
    return LiveOut(
        **_shared(found, now, said, silent),
        soon_c=None if seen is None else round(seen.soon_c, 2),
        learned=_learned(found, seen),
        ahead=None if told is None else CurveOut(**told["ahead"]),
        pan=None if told is None else PanLive(**told, hold_s=found.setup.hold_s),
        oven=None,
    )


def _oven(
    found: Cooking, now: datetime, oven: custard.LiveOven | None, said: custard.Coach, silent: float | None
) -> LiveOut:
    told = None if oven is None else oven.as_json()
    return LiveOut(
        **_shared(found, now, said, silent),
        soon_c=None if oven is None else round(oven.soon_c, 2),
        learned=None,
        ahead=None
        if told is None
        else CurveOut(**told["ahead"], low_c=told["ahead"]["c"], high_c=told["ahead"]["c"]),
        pan=None,
        oven=None if told is None else OvenLive(**told),
    )


def _shared(found: Cooking, now: datetime, said: custard.Coach, silent: float | None) -> dict[str, object]:
    t_s = found.seconds(now)
    readings = sorted(found.told.readings)
    silenced = {mark.what for mark in found.batch.marks.all() if mark.kind == Kind.SILENCE}
    return {
        "at": now,
        "pace": found.batch.pace,
        "t_s": round(t_s, 1),
        "probe_c": readings[-1][1] if readings else None,
        "probe_ago_s": None if silent is None else round(silent, 1),
        "way": said.way,
        "phase": said.phase,
        "say": said.say,
        "then": said.then,
        "seconds": None if said.seconds is None else round(said.seconds, 1),
        "urgency": said.urgency,
        "alarms": [
            AlarmOut(
                id=uuid.uuid5(NAMESPACE, f"{found.batch.pk} {alarm.kind}"),
                kind=alarm.kind,
                say=alarm.say,
                silenced=alarm.kind in silenced,
            )
            for alarm in said.alarms
        ],
        "past": _past([(t - t_s, c) for t, c in readings]),
    }


def _past(readings: list[tuple[float, float]]) -> PastOut:
    thin = readings[:: max(1, len(readings) // POINTS)]
    if readings and thin[-1] != readings[-1]:
        thin.append(readings[-1])
    return PastOut(ago_s=[round(t, 1) for t, _ in thin], c=[round(c, 2) for _, c in thin])


def _learned(found: Cooking, seen: custard.Live | None) -> str | None:
    """What the spoon taught about this batch, if it disagreed."""
    if seen is None or not found.told.spoons or abs(seen.shift_k) < LEARNED_K:
        return None
    coat = max(found.told.spoons, key=lambda one: one.t_s).coat
    when = "later" if seen.shift_k > 0 else "sooner"
    by = f"{abs(seen.shift_k):.1f} K {when}"
    return f"You saw {coat}: this batch sets {by} than computed. The notch moved with it."


def urgent(actor: Actor) -> list[Urgent]:
    """What is on the stove, the most urgent first."""
    now = timezone.now()
    rows = []
    for batch in reads.batches(actor).filter(closed_at=None)[:URGENT_AT_MOST]:
        seen = live_of(batch, now)
        rows.append(
            Urgent(
                id=batch.pk,
                number=batch.number,
                name=batch.content["name"],
                stage=reads.stage_of(batch.marks.all()),
                say=seen.say,
                seconds=seen.seconds,
                urgency=seen.urgency,
            )
        )
    return sorted(rows, key=lambda row: (-row.urgency, row.seconds if row.seconds is not None else 1e9))


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
            started_at=None,
            cooks_since=None,
            marks=[],
        )
    batch = reads.standing().get(pk=use.batch_id)
    result = custard.assess_as_made(custard.read_formula(batch.content), altitude_m=batch.kitchen.altitude_m)
    stove = setup_of(batch, result).stove
    marks = list(batch.marks.all())
    return ForProbe(
        batch=batch.pk,
        kitchen_altitude_m=batch.kitchen.altitude_m,
        formula=batch.content,
        pace=batch.pace,
        landing_c=batch.plan["landing_c"],
        over_steam=stove.over_steam,
        power_w=stove.power_w,
        pan=stove.pan,
        started_at=batch.started_at,
        cooks_since=cooks_since(batch, marks),
        marks=[ProbeMark(kind=mark.kind, stage=mark.stage, at=mark.at) for mark in marks],
    )


def after(batch: Batch) -> tuple[list[str], custard.Calibration | None, custard.Setup | None]:
    """How a cook went beside its plan, in words; what it measured of hob and pan, and what was believed."""
    found = cooking(batch)
    if found is None or not found.told.readings or found.in_the_oven:
        return [], None, None
    ends = [s for s in (found.told.off_s, found.told.out_s) if s is not None]
    end = min(ends, default=max(t for t, _ in found.told.readings))
    seen = custard.live(found.result, found.setup, found.told, end)
    if seen is None:
        return [], None, None
    heated = [(t, c) for t, c in sorted(found.told.readings) if t <= end]
    measured = None
    if not found.setup.stove.over_steam:
        try:
            t, c = zip(*heated, strict=True)
            measured = custard.calibrate(found.result.pan, t, c, found.setup.stove)
        except (custard.CustardError, ValueError):
            measured = None
    peak = max(c for _, c in found.told.readings)
    hob = batch.hob.name if batch.hob else "the hob"
    words = custard.told_after(found.result, found.setup, seen, hob, measured, peak, tuple(found.told.spoons))
    return list(words), measured, found.setup
