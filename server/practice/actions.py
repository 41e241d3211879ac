"""Attempts begun, played, ended and played again."""

from __future__ import annotations

import json
import secrets
from collections.abc import Callable
from typing import Any
from uuid import UUID

import custard
from common import database
from common.counted import PICTURES
from common.fair_limiter import in_turn
from common.refusals import Conflict, Refusal
from custard import practice
from django.core.exceptions import PermissionDenied
from django.db import IntegrityError, transaction
from kitchen.access import Actor, Role, action

from practice import debriefs, exercises, reads, replaying
from practice.models import Acts, Attempt, MadeExercise
from practice.schemas import Beginning, Did, Playing, Shown
from practice.specs import begun_under, conditions_of, exercise_of, of_batch, spec_of

MOST_MESSAGES = 20_000
"""Five a second for an hour, and some: no attempt takes more."""
TOO_MANY = f"No more than {MOST_MESSAGES} messages are taken in."
OUT_OF_STEP = "This attempt went on somewhere else meanwhile. It is shown as it stands now."


def begin(actor: Actor, wanted: Beginning) -> Attempt:
    """Begin an attempt; sent again with the same id it is the same one."""
    known = _known(actor, wanted.id)
    if known is not None:
        return known
    name, spec, made = _chosen(actor, wanted)
    # What cannot be practised is refused before anything is written.
    exercise, conditions = exercise_of(spec), begun_under(actor, spec)
    practice.begin(exercise, 0, conditions)
    kept = conditions.as_json()
    return _once(actor, wanted.id, lambda: _begun(actor, wanted.id, name or exercise.name, spec, kept, made))


def _known(actor: Actor, client_id: UUID) -> Attempt | None:
    return Attempt.objects.filter(person=actor.user, client_id=client_id, kitchen=actor.kitchen).first()


def _once(actor: Actor, client_id: UUID, make: Callable[[], Attempt]) -> Attempt:
    """Of two requests with one id that come at once, the second finds what the first has made."""
    try:
        return make()
    except IntegrityError:
        known = _known(actor, client_id)
        if known is None:
            raise
        return known


@action("practice.begin", Role.VIEWER)
def _begun(
    actor: Actor,
    client_id: UUID,
    name: str,
    spec: dict[str, Any],
    conditions: dict[str, Any],
    made: MadeExercise | None,
) -> Attempt:
    return Attempt.objects.create(
        kitchen=actor.kitchen,
        person=actor.user,
        client_id=client_id,
        key=spec.get("key", ""),
        made=made,
        name=name,
        spec=spec,
        conditions=conditions,
        seed=secrets.randbits(62),
    )


def _chosen(actor: Actor, wanted: Beginning) -> tuple[str, dict[str, Any], MadeExercise | None]:
    if wanted.like is not None:
        before = reads.own(actor, wanted.like)
        return before.name, before.spec, before.made
    if wanted.exercise_id is not None:
        made = exercises.made(actor, wanted.exercise_id)
        return made.name, made.spec, made
    if wanted.batch_id is not None:
        return "", of_batch(actor, wanted.batch_id, wanted.from_s), None
    if wanted.formula_id is not None:
        spec = spec_of(actor, wanted.formula_id, wanted)
        return spec["name"], spec, None
    return practice.exercise(wanted.key).name, {"key": wanted.key}, None


def play(actor: Actor, attempt: Attempt, wanted: Playing) -> Shown:
    """Acts into an attempt, in order and once, and what there is to see after them.

    It comes five times a second, so it leaves no entry of its own in the audit: the acts are the entry. The
    same message sent again changes nothing; one that skips another, or comes from a second screen, is
    refused.

    Raises
    ------
    Conflict
        when the attempt is not where the sender took it to be.
    CustardError
        when an act is not one, or out of order.
    """
    if attempt.person_id != actor.user.pk:
        raise PermissionDenied(reads.NOT_YOURS)
    if wanted.after != attempt.acts:
        # It was looked at a while ago, here or by another process; its rows say how it stands.
        attempt.refresh_from_db(fields=["acts", "until_s", "ended"])
    fresh = () if attempt.ended else _taken(attempt, wanted.after, wanted.acts, wanted.until)
    shown = replaying.shown(attempt, fresh)
    if shown.ended and not attempt.ended:
        Attempt.objects.filter(pk=attempt.pk).update(ended=True)
        attempt.ended = True
    PICTURES.inc()
    return Shown(after=attempt.acts, picture=custard.plain(shown.picture), ended=shown.ended)


def _taken(attempt: Attempt, after: int, rows: list[Did], until_s: float) -> tuple[practice.Act, ...]:
    """Keep a message; the acts of it, or none where it was kept before."""
    if after != attempt.acts:
        _must_be_the_last(attempt, after, rows)
        return ()
    if after >= MOST_MESSAGES:
        raise Refusal(422, "This attempt has gone on too long. Begin another one.", [("after", TOO_MANY)])
    acts = practice.read_acts(rows, attempt.until_s)
    until_s = max([until_s, attempt.until_s, *(act.at_s for act in acts)])
    kept = [act.as_json() for act in acts]
    try:
        with transaction.atomic():
            Acts.objects.create(attempt=attempt, number=after + 1, until_s=until_s, rows=kept)
            Attempt.objects.filter(pk=attempt.pk).update(acts=after + 1, until_s=until_s)
    except IntegrityError:
        # Another message was faster: the same one sent twice, or another screen.
        attempt.refresh_from_db()
        _must_be_the_last(attempt, after, rows)
        return ()
    attempt.acts, attempt.until_s = after + 1, until_s
    return acts


def _must_be_the_last(attempt: Attempt, after: int, rows: list[Did]) -> None:
    """Nothing is done twice: what came already is answered as it was, anything else is out of step."""
    known = Acts.objects.filter(attempt=attempt, number=after + 1).first()
    same = known is not None and known.rows == json.loads(json.dumps(_kept(rows)))
    if not same:
        raise Conflict(OUT_OF_STEP, kind="out-of-step")


def _kept(rows: list[Did]) -> list[dict[str, Any]]:
    return [act.as_json() for act in practice.read_acts(rows)]


def debriefed(actor: Actor, attempt_id: int) -> Attempt:
    """What is said of an attempt that is over, computed once and kept."""
    attempt = reads.own(actor, attempt_id)
    if debriefs.kept(attempt) is not None:
        return attempt
    if not replaying.shown(attempt).ended:
        raise Conflict("This attempt is not over yet.", kind="not-over")
    acts = replaying.acts_of(attempt)
    database.release_connection()
    said = _said(actor, attempt, acts)
    return _finished(actor, attempt, said)


@in_turn
def _said(actor: Actor, attempt: Attempt, acts: tuple[practice.Act, ...]) -> practice.Debrief:
    exercise, conditions = exercise_of(attempt.spec), conditions_of(attempt.conditions)
    return practice.debrief(exercise, attempt.seed, acts, attempt.until_s, conditions)


@action("practice.end", Role.VIEWER)
def _finished(actor: Actor, attempt: Attempt, said: practice.Debrief) -> Attempt:
    finish(attempt, said)
    attempt.save(update_fields=["ended", "points", "passed", "signs", "debrief"])
    return attempt


def finish(attempt: Attempt, said: practice.Debrief) -> None:
    """Set what an attempt came to. Not saved."""
    attempt.ended, attempt.points, attempt.passed = True, said.points, said.passed
    # Whoever begins before the hard part knows what comes: only a whole run counts as learned.
    attempt.signs = [] if attempt.again_s is not None else list(said.signs)
    attempt.debrief = custard.plain(said)


def again(actor: Actor, attempt_id: int, client_id: UUID, from_s: float) -> Attempt:
    """The same hob from a moment on, with all that was done until then: another attempt."""
    before = reads.own(actor, attempt_id)
    known = _known(actor, client_id)
    if known is not None:
        return known
    if from_s >= before.until_s:
        raise Refusal(422, "It did not go on so long.", [("from_s", "Choose a moment before the end.")])
    kept = [act.as_json() for act in replaying.acts_of(before) if act.at_s < from_s]
    return _once(actor, client_id, lambda: _again(actor, before, client_id, from_s, kept))


@action("practice.again", Role.VIEWER)
def _again(
    actor: Actor, before: Attempt, client_id: UUID, from_s: float, kept: list[dict[str, Any]]
) -> Attempt:
    made = Attempt.objects.create(
        kitchen=actor.kitchen,
        person=actor.user,
        client_id=client_id,
        key=before.key,
        made=before.made,
        name=before.name,
        spec=before.spec,
        conditions=before.conditions,
        seed=before.seed,
        again_of=before,
        again_s=from_s,
        acts=1,
        until_s=from_s,
    )
    Acts.objects.create(attempt=made, number=1, until_s=from_s, rows=kept)
    return made
