"""Turns at computing: few at once, round from person to person, refused when they do not come."""

from __future__ import annotations

import threading

import pytest
from common.turns import Busy, Turns


class Asking(threading.Thread):
    """Somebody who asks, and holds the turn until told to let go."""

    def __init__(self, turns: Turns, person: str, order: list[str], kitchen: str = "") -> None:
        super().__init__(daemon=True)
        self.turns, self.person, self.order, self.kitchen = turns, person, order, kitchen
        self.let_go, self.has, self.refused = threading.Event(), threading.Event(), None
        self.start()

    def run(self) -> None:
        try:
            with self.turns.taken(self.person, self.kitchen):
                self.order.append(self.person)
                self.has.set()
                self.let_go.wait(10)
        except Busy as error:
            self.refused = error
            self.has.set()


def asked(turns: Turns, person: str, order: list[str], kitchen: str = "") -> Asking:
    """One more who waits."""
    before = turns.waiting()
    one = Asking(turns, person, order, kitchen)
    while turns.waiting() == before and not one.has.is_set():
        pass
    return one


def test_turns_go_round_from_person_to_person():
    turns, order = Turns(1, longest_s=10), []
    first = asked(turns, "greedy", order)
    waiting = [asked(turns, person, order) for person in ("greedy", "greedy", "greedy", "modest", "other")]
    for one in (first, *waiting):
        one.let_go.set()
    for one in waiting:
        one.join(10)
    assert order == ["greedy", "greedy", "modest", "other", "greedy", "greedy"]


def test_a_kitchen_of_many_who_ask_does_not_keep_another_waiting():
    turns, order = Turns(1, longest_s=10), []
    everyone = [asked(turns, person, order, "large") for person in ("one", "two", "three", "four")]
    everyone.append(asked(turns, "alone", order, "small"))
    for one in everyone:
        one.let_go.set()
    for one in everyone:
        one.join(10)
    assert order == ["one", "two", "alone", "three", "four"]
    assert turns.waiting() == 0


def test_whoever_waits_for_too_many_is_refused_and_others_are_not():
    turns, order = Turns(1, longest_s=10, most_each=2), []
    everyone = [asked(turns, "greedy", order) for _ in range(3)]
    refused = asked(turns, "greedy", order)
    assert refused.refused.status == 429
    everyone.append(asked(turns, "modest", order))
    for one in everyone:
        one.let_go.set()
    for one in everyone:
        one.join(10)
    assert "modest" in order


def test_a_turn_that_does_not_come_is_refused_and_none_is_lost():
    turns, order = Turns(1, longest_s=0.05), []
    first = asked(turns, "one", order)
    late = asked(turns, "other", order)
    late.join(10)
    assert late.refused.status == 503
    assert turns.waiting() == 0
    first.let_go.set()
    first.join(10)
    with turns.taken("other"):
        pass


def test_a_turn_is_over_when_what_was_computed_fails():
    turns = Turns(1, longest_s=0.05)
    for _ in range(3):
        with pytest.raises(ZeroDivisionError), turns.taken("one"):
            raise ZeroDivisionError
    with turns.taken("one"):
        pass
