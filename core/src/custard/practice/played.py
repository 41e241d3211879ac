"""An attempt is its exercise, its seed and its acts with their times; any process can say where it stands."""

from __future__ import annotations

from collections.abc import Sequence

from custard.conditions import USUAL, Conditions
from custard.practice.acts import Act
from custard.practice.bowl import BowlAttempt
from custard.practice.exercises import Exercise
from custard.practice.pan import PanAttempt
from custard.practice.question import QuestionAttempt
from custard.practice.rescue import RescueAttempt
from custard.practice.score import Attempt
from custard.practice.tub import TubAttempt

_KINDS: dict[str, type[Attempt]] = {
    kind: how
    for how in (PanAttempt, RescueAttempt, BowlAttempt, TubAttempt, QuestionAttempt)
    for kind in how.kinds
}


def begin(exercise: Exercise, seed: int, conditions: Conditions = USUAL) -> Attempt:
    """An attempt before anything is done.

    Parameters
    ----------
    exercise : what is practised.
    seed : chooses what is left to chance; the same seed gives the same answer.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    """
    return _KINDS[exercise.kind](exercise, seed, conditions)


def replayed(
    exercise: Exercise, seed: int, acts: Sequence[Act], until_s: float, conditions: Conditions = USUAL
) -> Attempt:
    """Where an attempt stands: the same to the bit for the same acts, wherever and however it is asked.

    Parameters
    ----------
    exercise : what is practised.
    seed : chooses what is left to chance; the same seed gives the same answer.
    acts : what the trainee did, in order of time.
    until_s : how long it went on [s].
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    """
    attempt = begin(exercise, seed, conditions)
    for act in acts:
        attempt.take(act)
    attempt.on(until_s)
    return attempt
