"""A batch at this moment, from its readings and its marks. Nothing here writes."""

from __future__ import annotations

import uuid
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta

import custard
from devices import reads as devices
from devices.models import Device
from django.utils import timezone
from kitchen.access import Actor

from stove import reads
from stove.models import Batch, Kind, Mark, ProbeUse
from stove.schemas import (
    Addition,
    AlarmOut,
    CurveOut,
    ForProbe,
    LiveOut,
    OvenLive,
    PanLive,
    PastOut,
    PourOut,
    PoursOut,
    ProbeMark,
    RemedyOut,
    Urgent,
)

W_A_KG = 500.0
"""What an unmeasured hob is taken to give a kilogram of sauce [W]."""
STEAM_W = 1500.0
BEFORE_COOK = custard.STAGES[: custard.STAGES.index("cook")]
POINTS = 240
URGENT_AT_MOST = 6
LEARNED_K = 0.25
NAMESPACE = uuid.UUID("6a1f0d0e-5b0e-5c57-9b0b-0f6d5a1c2e01")


@dataclass(frozen=True)
class Cooking:
    """A batch's cook as the core is told of it.

    `since` is where its seconds begin: when the mix was in the pan and nothing before it was left to do.
    """

    batch: Batch
    since: datetime
    result: custard.Assessment
    setup: custard.Setup
    told: custard.Told

    def seconds(self, at: datetime) -> float:
        """A time as seconds of the batch's own time."""
        return (at - self.since).total_seconds() * self.batch.pace

    @property
    def in_the_oven(self) -> bool:
        """Whether it is set in cups rather than cooked in a pan."""
        return custard.all_families()[self.result.formula.family].done == "sets"


def cooks_since(batch: Batch, marks: Iterable[Mark]) -> datetime | None:
    """When the mix was in the pan; None while something before the cook is left to do."""
    known = list(marks)
    if reads.stage_of(known) in BEFORE_COOK:
        return None
    before = [mark.at for mark in known if mark.kind == Kind.DONE and mark.stage in BEFORE_COOK]
    return max(before) if before else batch.started_at


def setup_of(batch: Batch, result: custard.Assessment) -> custard.Setup:
    """How a batch is cooked: its hob and pan as they are known, and the schools its formula goes by."""
    schools = custard.answers(result.formula, batch.version.formula.schools)
    over_steam = batch.hob.over_steam if batch.hob else steams(batch, schools)
    power = W_A_KG * result.pan.mass_g / 1000
    if batch.hob:
        power = batch.hob.power_w
    elif over_steam:
        power = STEAM_W
    stove = custard.Stove(
        power_w=power,
        stir="whisk",
        pan=batch.pan.kind if batch.pan else "clad",
        over_steam=over_steam,
        altitude_m=batch.kitchen.altitude_m,
    )
    return custard.Setup(
        stove,
        power_spread=batch.hob.power_spread if batch.hob else custard.UNKNOWN_POWER,
        pan_share=batch.pan.heat_share if batch.pan else 1.0,
        pan_spread=batch.pan.heat_spread if batch.pan else custard.UNKNOWN_PAN,
        hold_s=0.0 if schools.get("boil") == "first" else custard.standard().cook.boil_hold_s,
    )


def steams(batch: Batch, schools: dict[str, str]) -> bool:
    """Whether it is cooked over steam."""
    return batch.content["family"] == "sabayon" or schools.get("heat") == "steam"


def cooking(batch: Batch, until: datetime | None = None) -> Cooking | None:
    """The cook of a batch with all that it has told; None while it has not begun."""
    marks = list(batch.marks.all())
    since = cooks_since(batch, marks)
    if since is None:
        return None
    result = custard.assess(custard.read_formula(batch.content), altitude_m=batch.kitchen.altitude_m)

    def seconds(at: datetime) -> float:
        return (at - since).total_seconds() * batch.pace

    def first(*kinds: str) -> float | None:
        return next((seconds(mark.at) for mark in marks if mark.kind in kinds and mark.at >= since), None)

    return Cooking(
        batch,
        since,
        result,
        setup_of(batch, result),
        custard.Told(
            readings=custard.settled([(seconds(at), c) for at, c in read_by_probes(batch, since, until)]),
            spoons=[
                custard.Spoon(seconds(mark.at), mark.coat)
                for mark in marks
                if mark.kind == Kind.SPOON and mark.at >= since
            ],
            hands=[
                (seconds(mark.at), mark.kind == Kind.STIRRING)
                for mark in marks
                if mark.kind in (Kind.STIRRING, Kind.HANDS_OFF) and mark.at >= since
            ],
            off_s=first(Kind.OFF_HEAT),
            out_s=first(Kind.INTO_ICE),
            bubbles_s=first(Kind.BUBBLES),
        ),
    )


def read_by_probes(batch: Batch, since: datetime, until: datetime | None) -> list[tuple[datetime, float]]:
    """What the probes in a batch read in a while, in order."""
    found: list[tuple[datetime, float]] = []
    for use in batch.probes.all():
        ends = [end for end in (use.until, until) if end is not None]
        found += devices.readings(use.device_id, max(since, use.since), min(ends) if ends else None)
    return sorted(found)


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
        way=custard.way_of(batch.content["family"], boiled=batch.plan["boiled"]),
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


def pours(actor: Actor, batch_id: int, ladle_g: float) -> PoursOut | None:
    """The tempering of a batch, pour by pour; None when it has nothing to temper."""
    batch = reads.batch(actor, batch_id)
    result = custard.assess(custard.read_formula(batch.content), altitude_m=batch.kitchen.altitude_m)
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
    result = custard.assess(custard.read_formula(batch.content), altitude_m=batch.kitchen.altitude_m)
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
