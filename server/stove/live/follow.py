"""Following open batches in a worker: a change is computed once, kept, and told to every screen.

What is due stands in the database (`LiveState.due_at`), so any number of workers share it and nothing is
lost with one of them: a mark makes a batch due at once, a reading at most once a second, the clock alone
every few seconds while it cooks. A worker claims what it computes; a claim runs out if the worker dies.
"""

from __future__ import annotations

import logging
from collections.abc import Collection, Sequence
from datetime import datetime, timedelta
from uuid import uuid4

from common import clock
from common.events import notify
from custard.vocabulary import MarkKind, Phase, StageName
from django.db import DatabaseError, connection, transaction
from pydantic import ValidationError

from stove import reads
from stove.batch import facts
from stove.batch.cooking import Read, conditions_of, read_by_probes
from stove.cooling import UNREAD
from stove.live import moment
from stove.live_schemas import AlarmOut, LiveOut
from stove.models import BY_THE_PROBE, Batch, LiveState, Mark

TURN_S = 1
"""A batch whose probe reads all the time is computed once in so long."""
TICKS = timedelta(seconds=2)
"""How often a batch on the heat is looked at although nothing was heard of it."""
RESTS = timedelta(seconds=60)
"""The same before and after it cooks."""
CLAIMED = timedelta(seconds=20)
"""How long a worker may take for one batch before another takes it over."""
COOLING = ("cools-slowly", "limit-missed")
SILENT = "Nothing can be computed of this batch now: go by the spoon."
HEARD_URGENCY = 1
log = logging.getLogger("oldspoon.follow")


def begin(batch: Batch) -> None:
    """Follow a batch from now on."""
    LiveState.objects.get_or_create(
        batch=batch, defaults={"kitchen_id": batch.kitchen_id, "due_at": clock.now()}
    )


def end(batch: Batch) -> None:
    """Follow a batch no longer; what was shown of it goes with its last curve."""
    LiveState.objects.filter(batch=batch).delete()


def want(batch_id: int) -> None:
    """Something was done to a batch: it is due at once."""
    LiveState.objects.filter(batch_id=batch_id).update(due_at=clock.now())


def want_all() -> None:
    """Whatever happened while nobody listened: everything open is due."""
    LiveState.objects.update(due_at=clock.now())


def keep_all() -> None:
    """Every open batch is followed, and looked at about once a minute whatever may have been missed."""
    now = clock.now()
    missing = Batch.objects.filter(closed_at=None, live_state=None)
    LiveState.objects.bulk_create(
        [LiveState(batch=one, kitchen_id=one.kitchen_id, due_at=now) for one in missing],
        ignore_conflicts=True,
    )
    LiveState.objects.filter(due_at__gt=now + RESTS).update(due_at=now)


def heard(devices: Collection[int]) -> None:
    """Probes have read: each batch they lie in gets a turn, unless one is still to come.

    Turns are earned one a second, and at most one is saved up: a probe that reads once a second is followed
    at once, also after a reading that came late; one that reads ten times a second is followed once. What a
    mark or the clock makes due takes no turn.
    """
    now = clock.now()
    with connection.cursor() as cursor:
        cursor.execute(
            "WITH lies AS (SELECT DISTINCT batch_id FROM stove_probeuse "
            "WHERE device_id = ANY(%(devices)s) AND until IS NULL), "
            "given AS (SELECT batch_id, "
            "GREATEST(%(now)s, COALESCE(turn_at - %(turn)s::interval, %(now)s)) AS slot "
            "FROM stove_livestate JOIN lies USING (batch_id) "
            "WHERE slot_at IS NULL OR slot_at <= COALESCE(computed_at, slot_at)) "
            "UPDATE stove_livestate state SET slot_at = given.slot, "
            "turn_at = GREATEST(COALESCE(state.turn_at, given.slot), given.slot) + %(turn)s::interval, "
            "due_at = LEAST(state.due_at, given.slot) FROM given WHERE given.batch_id = state.batch_id",
            {"now": now, "turn": f"{TURN_S} seconds", "devices": list(devices)},
        )


def claim(most: int) -> tuple[list[tuple[int, datetime]], datetime | None]:
    """Take up to `most` batches that are due, the most urgent first; each with when it was due.

    Also tells when the next is due, or a claim on it runs out.
    """
    now = clock.now()
    with connection.cursor() as cursor:
        cursor.execute(
            "UPDATE stove_livestate SET claimed_until = %s WHERE batch_id IN ("
            "SELECT batch_id FROM stove_livestate WHERE due_at <= %s "
            "AND (claimed_until IS NULL OR claimed_until < %s) "
            "ORDER BY urgency DESC, due_at LIMIT %s FOR UPDATE SKIP LOCKED) RETURNING batch_id, due_at",
            [now + CLAIMED, now, now, most],
        )
        claimed = [(int(batch_id), due_at) for batch_id, due_at in cursor.fetchall()]
        cursor.execute("SELECT MIN(GREATEST(due_at, COALESCE(claimed_until, due_at))) FROM stove_livestate")
        (due,) = cursor.fetchone() or (None,)
        return claimed, due


def release(batch_id: int) -> None:
    """What was claimed could not be done: it is due again soon, not at once, as it may fail again."""
    LiveState.objects.filter(batch_id=batch_id).update(claimed_until=None, due_at=clock.now() + TICKS)


def compute(batch_id: int, due_at: datetime | None = None, read: Read = read_by_probes) -> None:
    """Compute where a batch stands, keep it, log its alarms, and tell everyone.

    No transaction is open meanwhile. A batch that fails is shown as one that nothing is known of; the others
    do not suffer from it.
    """
    batch = reads.standing().filter(pk=batch_id, closed_at=None).first()
    if batch is None:
        LiveState.objects.filter(batch_id=batch_id).delete()
        return
    now = clock.now()
    try:
        seen = moment.live_of(batch, now, read)
    except DatabaseError:
        # Nothing is wrong with the batch: it is due again when the database is back.
        raise
    except Exception:  # whatever it is, the kitchen's other batches go on
        log.exception("batch %s cannot be followed", batch_id)
        seen = moment.unknown(batch, now, SILENT, HEARD_URGENCY)
    with transaction.atomic():
        state = LiveState.objects.select_for_update(no_key=True).filter(batch_id=batch_id).first()
        if state is None:
            return
        _alarm(batch, seen.alarms, now)
        _cold(batch, seen, now)
        state.document, state.at, state.computed_at = seen.model_dump(mode="json"), now, now
        state.say, state.seconds, state.urgency = seen.say[:200], seen.seconds, seen.urgency
        state.claimed_until = None
        cooks = seen.t_s is not None and seen.phase != Phase.OUT
        due = [now + (TICKS if cooks else RESTS)]
        # What was done to it meanwhile moved its due time; what was read meanwhile got a second of its own.
        if due_at is not None and state.due_at != due_at:
            due.append(max(state.due_at, now))
        if state.slot_at is not None and state.slot_at > now:
            due.append(state.slot_at)
        state.due_at = min(due)
        state.save()
        notify(batch.kitchen_id, {"state": batch_id})


def _alarm(batch: Batch, alarms: Sequence[AlarmOut], now: datetime) -> None:
    """Log what must be said, once, whether or not a screen is there to say it."""
    # By what it is, not by its id: the secret may be another since, and a row of another batch is not ours.
    logged = set(
        Mark.objects.filter(batch=batch, kind=MarkKind.ALARM, by=None).values_list("what", flat=True)
    )
    new = [alarm for alarm in alarms if alarm.kind not in logged]
    for alarm in new:
        key = uuid4() if Mark.objects.filter(pk=alarm.id).exists() else alarm.id
        Mark.objects.create(
            id=key,
            batch=batch,
            stage=StageName.CHILL if alarm.kind in COOLING else StageName.COOK,
            kind=MarkKind.ALARM,
            what=alarm.kind,
            at=now,
        )
    if new:
        notify(batch.kitchen_id, {"batch": batch.pk})


def _cold(batch: Batch, seen: LiveOut, now: datetime) -> None:
    """A sauce that its probe reads cold right through is chilled: the stage ends by itself, once.

    Somebody who takes that mark back is believed.
    """
    cools = seen.cooling
    if batch.stage != StageName.CHILL or cools is None or cools.cold_s is None or cools.cold_s > 0:
        return
    limit_c = conditions_of(batch).cooling_rule.second_c
    if cools.spread >= UNREAD or seen.probe_c is None or seen.probe_c > limit_c:
        return
    by_worker = {"batch": batch, "stage": StageName.CHILL, "kind": MarkKind.DONE, "what": BY_THE_PROBE}
    if Mark.objects.filter(**by_worker).exists():
        return
    Mark.objects.create(id=uuid4(), at=now, **by_worker)
    facts.write(batch)
    notify(batch.kitchen_id, {"batch": batch.pk})


def shown(batch: Batch, now: datetime) -> LiveOut:
    """Where a batch stands as last computed; nothing is computed here."""
    # Whoever reads many batches reads their states with them.
    state: LiveState | None = getattr(batch, "live_state", None)
    if state is None or state.document is None or state.at is None:
        return moment.unknown(batch, now, moment.planned_say(batch), 0)
    try:
        found = LiveOut.model_validate(state.document)
    except ValidationError:
        # Kept by an earlier version of ours; a worker computes it again within a minute.
        return moment.unknown(batch, now, moment.planned_say(batch), 0)
    found.age_s = round(max(0.0, (now - state.at).total_seconds()), 2)
    return found
