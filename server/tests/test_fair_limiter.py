"""Turns at computing: few at once, round from person to person, refused when they do not come."""

from __future__ import annotations

import threading

import pytest
from common.fair_limiter import Busy, FairLimiter


class Asking(threading.Thread):
    """Somebody who asks, and holds the turn until told to let go."""

    def __init__(self, limiter: FairLimiter, person: str, order: list[str], kitchen: str = "") -> None:
        super().__init__(daemon=True)
        self.limiter, self.person, self.order, self.kitchen = limiter, person, order, kitchen
        self.released, self.has, self.refused = threading.Event(), threading.Event(), None
        self.start()

    def run(self) -> None:
        try:
            with self.limiter.taken(self.person, self.kitchen):
                self.order.append(self.person)
                self.has.set()
                self.released.wait(10)
        except Busy as error:
            self.refused = error
            self.has.set()


def asked(limiter: FairLimiter, person: str, order: list[str], kitchen: str = "") -> Asking:
    """One more who waits."""
    before = limiter.waiting()
    one = Asking(limiter, person, order, kitchen)
    while limiter.waiting() == before and not one.has.is_set():
        pass
    return one


def test_turns_go_round_from_person_to_person():
    limiter, order = FairLimiter(1, longest_s=10), []
    first = asked(limiter, "greedy", order)
    waiting = [asked(limiter, person, order) for person in ("greedy", "greedy", "greedy", "modest", "other")]
    for one in (first, *waiting):
        one.released.set()
    for one in waiting:
        one.join(10)
    assert order == ["greedy", "greedy", "modest", "other", "greedy", "greedy"]


def test_a_kitchen_of_many_who_ask_does_not_keep_another_waiting():
    limiter, order = FairLimiter(1, longest_s=10), []
    everyone = [asked(limiter, person, order, "large") for person in ("one", "two", "three", "four")]
    everyone.append(asked(limiter, "alone", order, "small"))
    for one in everyone:
        one.released.set()
    for one in everyone:
        one.join(10)
    assert order == ["one", "two", "alone", "three", "four"]
    assert limiter.waiting() == 0


def test_whoever_waits_for_too_many_is_refused_and_others_are_not():
    limiter, order = FairLimiter(1, longest_s=10, most_each=2), []
    everyone = [asked(limiter, "greedy", order) for _ in range(3)]
    refused = asked(limiter, "greedy", order)
    assert refused.refused.status == 429
    everyone.append(asked(limiter, "modest", order))
    for one in everyone:
        one.released.set()
    for one in everyone:
        one.join(10)
    assert "modest" in order


def test_a_turn_that_does_not_come_is_refused_and_none_is_lost():
    limiter, order = FairLimiter(1, longest_s=0.05), []
    first = asked(limiter, "one", order)
    late = asked(limiter, "other", order)
    late.join(10)
    assert late.refused.status == 503
    assert limiter.waiting() == 0
    first.released.set()
    first.join(10)
    with limiter.taken("other"):
        pass


def test_a_turn_is_over_when_what_was_computed_fails():
    limiter = FairLimiter(1, longest_s=0.05)
    for _ in range(3):
        with pytest.raises(ZeroDivisionError), limiter.taken("one"):
            raise ZeroDivisionError
    with limiter.taken("one"):
        pass
