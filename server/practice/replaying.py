"""Where attempts stand, by replaying their acts.

Any process can say it from the rows alone. What a process has replayed it keeps for a while, so that the next
picture costs only what came since: acts are never changed, so a kept state of so many of them stays true.
"""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass, field

from custard import practice

from practice.models import Acts, Attempt
from practice.specs import conditions_of, exercise_of

KEPT = 64
"""So many attempts are kept replayed by a process."""


@dataclass
class _Kept:
    """A replayed attempt, with the messages it has taken in."""

    state: practice.Attempt
    messages: int = 0
    lock: threading.Lock = field(default_factory=threading.Lock)


_kept: OrderedDict[int, _Kept] = OrderedDict()
_keeping = threading.Lock()


def _of(attempt: Attempt) -> _Kept:
    found = _known(attempt)
    if found is not None:
        return found
    # Others go on meanwhile: a stove takes a while to be set up.
    exercise, conditions = exercise_of(attempt.spec), conditions_of(attempt.conditions)
    fresh = _Kept(practice.begin(exercise, attempt.seed, conditions))
    with _keeping:
        _kept[attempt.pk] = fresh
        while len(_kept) > KEPT:
            _kept.popitem(last=False)
    return fresh


def _known(attempt: Attempt) -> _Kept | None:
    with _keeping:
        found = _kept.get(attempt.pk)
        if found is None or found.messages > attempt.acts:
            return None
        _kept.move_to_end(attempt.pk)
        return found


def _take(kept: _Kept, number: int, acts: Sequence[practice.Act], until_s: float) -> None:
    for act in acts:
        kept.state.take(act)
    kept.state.on(until_s)
    kept.messages = number


@dataclass(frozen=True)
class Shown:
    """What is told of where an attempt stands."""

    picture: practice.Picture
    question: practice.PracticeQuestion | None
    ended: bool


def shown(attempt: Attempt, fresh: Sequence[practice.Act] | None = None) -> Shown:
    """What there is to see of an attempt as its row says it stands.

    `fresh` are the acts of its last message, where whoever asks has them at hand.
    """
    kept = _of(attempt)
    with kept.lock:
        missing = attempt.acts - kept.messages
        if missing == 1 and fresh:
            _take(kept, attempt.acts, fresh, attempt.until_s)
        elif missing > 0:
            # An answer that was only asked for again must not take a later one's acts in.
            rows = Acts.objects.filter(
                attempt_id=attempt.pk, number__gt=kept.messages, number__lte=attempt.acts
            )
            for message in rows.order_by("number"):
                _take(kept, message.number, practice.read_acts(message.rows), message.until_s)
        state = kept.state
        question = state.question if isinstance(state, practice.QuestionAttempt) else None
        return Shown(state.picture(), question, state.ended)


def acts_of(attempt: Attempt) -> tuple[practice.Act, ...]:
    """Everything done in an attempt, in order."""
    rows = Acts.objects.filter(attempt_id=attempt.pk, number__lte=attempt.acts).order_by("number")
    return tuple(act for message in rows for act in practice.read_acts(message.rows))


def forget() -> None:
    """Let go of everything replayed: the next picture comes from the rows alone."""
    with _keeping:
        _kept.clear()
