"""What the demo's trainee has practised: one that went too far, one that did not, a call not minded."""

from __future__ import annotations

import math
import uuid
from collections.abc import Callable, Mapping
from datetime import timedelta
from typing import Any

from common import clock
from custard import training
from kitchen.access import Actor
from practice import actions, exercises, sheets
from practice.models import Attempt
from practice.schemas import MOST_ACTS, Beginning, Marking, NewExercise, NewSet, NewSheet, Playing
from practice.specs import conditions_of
from stove.models import Batch

STEP_S, LONGEST_S, DIP_S = 0.2, 600.0, 9.0
Lifts = Callable[[training.Picture], bool]


def _coats(seen: training.Picture) -> bool:
    return seen.spoon is not None and seen.spoon.word == "nappe" and seen.spoon.line == "holds"


def _loses_its_sheen(seen: training.Picture) -> bool:
    return any("sheen" in tell for tell in seen.tells)


DONE: tuple[tuple[str, int, float, Lifts, bool], ...] = (
    ("nappe", 11, 6.0, _loses_its_sheen, True),
    ("nappe", 12, 5.5, _coats, True),
    ("called-away", 13, 3.0, _coats, False),
    ("called-away", 14, 1.2, _coats, True),
)
"""Exercise, seed, how many days ago, when it is lifted, whether the pan is left safe when called away."""


def practise(actors: Mapping[str, Actor], formulas: Mapping[str, int]) -> None:
    """Fill the trainee's book. `formulas` are ids by name."""
    trainee, chef = actors["trainee"], actors["section"]
    now = clock.now()
    for key, seed, days, lifts, minds in DONE:
        with clock.at(now - timedelta(days=days)):
            attempt = actions.begin(trainee, Beginning(id=uuid.uuid4(), key=key))
            Attempt.objects.filter(pk=attempt.pk).update(seed=seed)
            attempt.seed = seed
            _play(trainee, attempt, _acts(key, seed, lifts, attempt, minds=minds))
    with clock.at(now - timedelta(days=1)):
        attempt = actions.begin(trainee, Beginning(id=uuid.uuid4(), key="spoons"))
        Attempt.objects.filter(pk=attempt.pk).update(seed=15)
        attempt.seed = 15
        right = training.AskedAttempt(training.exercise("spoons"), 15).right
        _play(trainee, attempt, [{"at": 21.0, "do": "answer", **right}])
    made = NewExercise(
        formula_id=formulas["Bay leaf anglaise"],
        name="Ours, in the iron pan",
        difficulty="hard",
        pan="cast-iron",
    )
    iron = exercises.make(chef, made)
    person = trainee.user.pk
    exercises.set_for(
        chef, NewSet(exercise_id=iron.pk, person_id=person, note="before you do it for service")
    )
    batch = (
        Batch.objects.filter(kitchen=chef.kitchen, name="Bay leaf anglaise").order_by("-started_at").first()
    )
    if batch is not None:
        sheet = sheets.begin(chef, NewSheet(person_id=person, batch_id=batch.pk))
        marks: dict[Any, Any] = {"mise-en-place": "very well", "hygiene": "well", "tempering": "with help"}
        note = "Wiped down without being told. Pours a little fast."
        sheets.mark(chef, sheet.pk, Marking(marks=marks, note=note, revision=1))


def _acts(key: str, seed: int, lifts: Lifts, attempt: Attempt, *, minds: bool) -> list[dict[str, Any]]:
    """Somebody stirs, looks, dips, and lifts it when they think it is there."""
    state = training.begin(training.exercise(key), seed, conditions_of(attempt.conditions))
    rows: list[dict[str, Any]] = []

    def do(what: str, at_s: float, **told: float) -> None:
        rows.append({"at": round(at_s, 3), "do": what, **told})
        state.take(training.read_acts(rows[-1:])[0])

    at_s = dipped_s = 0.0
    while at_s < LONGEST_S and not state.ended:
        at_s += STEP_S
        turn, radius = 5.7 * at_s, 0.12 + 0.75 * abs((at_s / 2.2) % 2 - 1)
        do("stir", at_s, x=round(radius * math.cos(turn), 3), y=round(radius * math.sin(turn), 3))
        state.on(at_s)
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


def _play(actor: Actor, attempt: Attempt, rows: list[dict[str, Any]]) -> None:
    for start in range(0, len(rows), MOST_ACTS):
        part = rows[start : start + MOST_ACTS]
        body = {"after": attempt.acts, "acts": part, "until": part[-1]["at"]}
        actions.play(actor, attempt, Playing.model_validate(body))
    actions.debriefed(actor, attempt.pk)
