"""What the demo's trainee has practised: one that went too far, one that did not, a call not minded."""

from __future__ import annotations

import math
import uuid
from collections.abc import Callable, Mapping, Sequence
from datetime import timedelta
from typing import Any

from book.models import Formula
from common import clock
from custard import practice
from custard.vocabulary import Difficulty
from kitchen import reads as kitchen
from kitchen.access import Actor
from practice import actions
from practice.models import Acts, Attempt, MadeExercise, SetExercise, Sheet
from practice.schemas import MOST_ACTS, NewExercise
from practice.specs import conditions_of, exercise_of, spec_of

from demo.rows import Rows
from demo.stock import Finished

STEP_S, LONGEST_S, DIP_S = 0.2, 600.0, 9.0
LOOKS_EVERY = 2
"""At so many steps of the hand the eye looks once."""
Lifts = Callable[[practice.Picture], bool]


def _coats(seen: practice.Picture) -> bool:
    return seen.spoon is not None and seen.spoon.word == "nappe" and seen.spoon.line == "holds"


def _loses_its_sheen(seen: practice.Picture) -> bool:
    return any("sheen" in tell for tell in seen.tells)


DONE: tuple[tuple[str, int, float, Lifts, bool], ...] = (
    ("nappe", 11, 6.0, _loses_its_sheen, True),
    ("nappe", 12, 5.5, _coats, True),
    ("called-away", 13, 3.0, _coats, False),
    ("called-away", 14, 1.2, _coats, True),
)
"""Exercise, seed, how many days ago, when it is lifted, whether the pan is left safe when called away."""


def practise(rows: Rows, actors: Mapping[str, Actor], formula: Formula, finished: Sequence[Finished]) -> None:
    """Fill the trainee's book; `formula` is the one that an exercise is made of, `finished` the batches."""
    trainee, chef = actors["trainee"], actors["section"]
    now = clock.now()
    for key, seed, days, lifts, minds in DONE:
        with clock.at(now - timedelta(days=days)):
            attempt = _begun(rows, trainee, key, seed)
            _played(rows, trainee, attempt, _acts(key, seed, lifts, attempt, minds=minds))
    with clock.at(now - timedelta(days=1)):
        attempt = _begun(rows, trainee, "spoons", 15)
        right = practice.QuestionAttempt(practice.exercise("spoons"), 15).right
        _played(rows, trainee, attempt, [{"at": 21.0, "do": "answer", **right}])
    how = NewExercise(
        formula_id=formula.pk, name="Ours, in the iron pan", difficulty=Difficulty.HARD, pan="cast-iron"
    )
    spec = spec_of(chef, formula.pk, how, how.name, how.tell)
    iron = MadeExercise(
        kitchen=chef.kitchen, formula=formula, name=how.name, tell=how.tell, spec=spec, made_by=chef.user
    )
    rows.done(chef, "practice.make", rows.add(iron))
    given = SetExercise(
        kitchen=chef.kitchen,
        made=iron,
        person=trainee.user,
        set_by=chef.user,
        note="before you do it for service",
    )
    rows.done(chef, "practice.set", rows.add(given))
    batch = next(one.batch for one in reversed(finished) if one.tale.formula == formula.name)
    sheet = Sheet(
        kitchen=chef.kitchen,
        person=trainee.user,
        assessor=chef.user,
        batch=batch,
        over=f"{batch.name}, batch {batch.number}",
        marks={"mise-en-place": "very well", "hygiene": "well", "tempering": "with help"},
        note="Wiped down without being told. Pours a little fast.",
        revision=2,
    )
    rows.done(chef, "practice.assess", rows.add(sheet))
    rows.done(chef, "practice.mark", sheet)
    rows.write(Attempt, MadeExercise)


def _begun(rows: Rows, actor: Actor, key: str, seed: int) -> Attempt:
    attempt = Attempt(
        kitchen=actor.kitchen,
        person=actor.user,
        client_id=uuid.uuid4(),
        key=key,
        name=practice.exercise(key).name,
        spec={"key": key},
        conditions=kitchen.conditions_of(actor.kitchen).as_json(),
        seed=seed,
    )
    rows.done(actor, "practice.begin", rows.add(attempt))
    return attempt


def _acts(key: str, seed: int, lifts: Lifts, attempt: Attempt, *, minds: bool) -> list[dict[str, Any]]:
    """Somebody stirs, looks, dips, and lifts it when they think it is there."""
    state = practice.begin(practice.exercise(key), seed, conditions_of(attempt.conditions))
    rows: list[dict[str, Any]] = []

    def do(what: str, at_s: float, **told: float) -> None:
        rows.append({"at": round(at_s, 3), "do": what, **told})
        state.take(practice.read_acts(rows[-1:])[0])

    dipped_s = 0.0
    for step in range(1, round(LONGEST_S / STEP_S)):
        if state.ended:
            break
        at_s = step * STEP_S
        turn, radius = 5.7 * at_s, 0.12 + 0.75 * abs((at_s / 2.2) % 2 - 1)
        do("stir", at_s, x=round(radius * math.cos(turn), 3), y=round(radius * math.sin(turn), 3))
        state.on(at_s)
        if step % LOOKS_EVERY:
            continue
        seen = state.picture()
        if minds and "called away" in seen.said and "off" in seen.can:
            do("off", at_s)
        if minds and "back" in seen.said and "on" in seen.can:
            do("on", at_s)
        if any("drags" in tell for tell in seen.tells) and at_s - dipped_s > DIP_S:
            dipped_s = at_s
            do("dip", at_s)
            seen = state.picture()
        if lifts(seen):
            do("off", at_s)
            do("out", at_s + 1.5)
    return rows


def _played(rows: Rows, actor: Actor, attempt: Attempt, did: list[dict[str, Any]]) -> None:
    """Everything that was done in an attempt, in messages as a screen sends them, and what was said of it."""
    acts = practice.read_acts(did)
    for start in range(0, len(acts), MOST_ACTS):
        part = acts[start : start + MOST_ACTS]
        attempt.acts, attempt.until_s = attempt.acts + 1, max(act.at_s for act in part)
        kept = [act.as_json() for act in part]
        rows.add(Acts(attempt=attempt, number=attempt.acts, until_s=attempt.until_s, rows=kept))
    exercise, conditions = exercise_of(attempt.spec), conditions_of(attempt.conditions)
    actions.finish(attempt, practice.debrief(exercise, attempt.seed, acts, attempt.until_s, conditions))
    rows.done(actor, "practice.end", attempt)
