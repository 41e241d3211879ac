"""A batch at a moment, as a document: from what was frozen, its readings and marks. Nothing here writes."""

from __future__ import annotations

import hashlib
import hmac
import uuid
from datetime import datetime, timedelta

import custard
from custard.vocabulary import AlarmKind, LimitState, MarkKind, Phase
from django.conf import settings
from pydantic import TypeAdapter

from stove.batch import plans
from stove.batch.cooking import Cooking, Read, cooking, in_the_pan_since, longest_gap, read_by_probes
from stove.cooling import UNREAD, live_cooling
from stove.live_schemas import AlarmOut, LiveOut, PastOut
from stove.models import Batch

POINTS = 240
COOLING = TypeAdapter(custard.after.LiveCooling)
LEARNED_K = 0.25
AHEAD = timedelta(minutes=2)
"""Readings are taken that far ahead of our clock: a probe's own may be a little fast."""


def live_of(batch: Batch, now: datetime, read: Read = read_by_probes) -> LiveOut:
    """A batch at a moment. `read` fetches what its probes read."""
    now = min(now, batch.closed_at or now)
    found = cooking(batch, now + AHEAD, read)
    if found is None:
        return _cools(batch, _not_yet(batch, now, read), live_cooling(batch, now, read))
    t_s = found.seconds(now)
    gap = longest_gap(found.probed, t_s)
    silent = None if gap is None else gap / batch.pace
    seen = custard.stove.live(found.result, found.equipment, found.history, t_s)
    said = custard.stove.coach(found.result, found.equipment, found.history, seen, silent)
    shared = _shared(found, now, said, silent)
    out = _oven(shared, seen) if isinstance(seen, custard.stove.LiveOven) else _pan(found, shared, seen)
    return _cools(batch, out, live_cooling(batch, now, read))


_DANGER = {
    LimitState.IN_DANGER: AlarmKind.COOLS_SLOWLY,
    LimitState.WILL_BE_MISSED: AlarmKind.COOLS_SLOWLY,
    LimitState.MISSED: AlarmKind.LIMIT_MISSED,
}


def _cools(batch: Batch, out: LiveOut, seen: custard.after.LiveCooling | None) -> LiveOut:
    """What is cooling: how that stands, and what must be said of it."""
    if seen is None:
        return out
    told = custard.after.coach(seen)
    out.cooling = COOLING.validate_python(custard.plain(seen))
    out.say, out.then, out.seconds, out.urgency = told.say, told.then, told.seconds, told.urgency
    decided = next(
        (mark for mark in reversed(list(batch.marks.all())) if mark.kind == MarkKind.DECIDED), None
    )
    if decided is not None and any(one.state == LimitState.MISSED for one in seen.deadlines):
        out.say, out.then, out.urgency = f"A limit was missed; decided: {decided.note}", "", 0
    # Before anything was read every fridge may be a slow one: that is shown, and not called.
    unread = seen.spread >= UNREAD
    kinds = {
        _DANGER[one.state]
        for one in seen.deadlines
        if one.state in _DANGER and not (unread and one.state == LimitState.IN_DANGER)
    }
    silenced = {mark.what for mark in batch.marks.all() if mark.kind == MarkKind.SILENCE}
    out.alarms += [
        AlarmOut(
            id=alarm_id(batch.pk, kind),
            kind=kind,
            say=told.alarms[kind],
            silenced=kind in silenced or decided is not None,
        )
        for kind in sorted(kinds)
    ]
    return out


def _not_yet(batch: Batch, now: datetime, read: Read) -> LiveOut:
    """Before the cook: the probe is shown, and nothing is followed."""
    reading = read(batch, batch.started_at, now + AHEAD)
    whole = unknown(batch, now, planned_say(batch), 0)
    if reading:
        at, whole.probe_c = reading[-1]
        whole.probe_ago_s = (now - at).total_seconds()
        whole.past = _past([((at - now).total_seconds() * batch.pace, c) for at, c in reading])
    return whole


def planned_say(batch: Batch) -> str:
    """What the plan says to do at the stage a batch is in."""
    plan = plans.by_hob_and_pan(plans.read(batch.plan), batch.lift)
    return next(one.say for one in plan.stages if one.stage == batch.stage)


def unknown(batch: Batch, now: datetime, say: str, urgency: int) -> LiveOut:
    """A batch of which nothing is computed, with what its plan or its cook goes by instead."""
    return LiveOut(
        at=now,
        pace=batch.pace,
        t_s=None,
        probe_c=None,
        probe_ago_s=None,
        way=batch.way,
        phase=Phase.WAITING,
        say=say,
        then="",
        seconds=None,
        urgency=urgency,
        learned=None,
        alarms=[],
        past=PastOut(ago_s=[], c=[]),
        pan=None,
        oven=None,
    )


def recorded(batch: Batch) -> LiveOut:
    """A closed batch: what its probes read, and nothing computed."""
    end = batch.closed_at or batch.started_at
    found = read_by_probes(batch, batch.started_at, end)
    since = in_the_pan_since(batch, batch.marks.all()) or batch.started_at
    ago = [((at - end).total_seconds() * batch.pace, c) for at, c in found if at >= since]
    whole = unknown(batch, end, "", 0)
    whole.past = _past(custard.stove.settled(ago))
    return whole


def _pan(found: Cooking, shared: dict[str, object], seen: custard.stove.Live | None) -> LiveOut:
    told = {"learned": _learned(found, seen), "pan": custard.plain(seen), "oven": None}
    return LiveOut.model_validate({**shared, **told})


def _oven(shared: dict[str, object], oven: custard.stove.LiveOven) -> LiveOut:
    told = {"learned": None, "pan": None, "oven": custard.plain(oven)}
    return LiveOut.model_validate({**shared, **told})


def alarm_id(batch_id: int, kind: str) -> uuid.UUID:
    """The mark that logs an alarm of a batch: one and the same wherever it is raised.

    It hangs on a secret of this server, so that nobody can send a mark with it beforehand and so prevent it.
    """
    secret = hmac.new(settings.SECRET_KEY.encode(), f"alarm {batch_id} {kind}".encode(), hashlib.sha256)
    return uuid.UUID(bytes=secret.digest()[:16], version=4)


def _shared(
    found: Cooking, now: datetime, said: custard.stove.Coach, silent: float | None
) -> dict[str, object]:
    t_s = found.seconds(now)
    readings, probed = sorted(found.history.readings), found.probed
    silenced = {mark.what for mark in found.batch.marks.all() if mark.kind == MarkKind.SILENCE}
    return {
        "at": now,
        "pace": found.batch.pace,
        "t_s": round(t_s, 1),
        "probe_c": probed[-1][1] if probed else None,
        "probe_ago_s": None if silent is None else round(silent, 1),
        "way": said.way,
        "phase": said.phase,
        "say": said.say,
        "then": said.then,
        "seconds": None if said.seconds is None else round(said.seconds, 1),
        "urgency": said.urgency,
        "alarms": [
            AlarmOut(
                id=alarm_id(found.batch.pk, alarm.kind),
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


def _learned(found: Cooking, seen: custard.stove.Live | None) -> str | None:
    """What the spoon taught about this batch, if it disagreed."""
    if seen is None or not found.history.spoons or abs(seen.shift_k) < LEARNED_K:
        return None
    coat = max(found.history.spoons, key=lambda one: one.t_s).coat
    when = "later" if seen.shift_k > 0 else "sooner"
    by = f"{{{abs(seen.shift_k):.1f} K}} {when}"
    return f"You saw {coat}: this batch sets {by} than computed. The notch moved with it."
