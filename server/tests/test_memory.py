"""A web process that has grown gives its memory back when it has nothing to do, or gives way."""

from __future__ import annotations

import subprocess
import sys

import pytest
from asgiref.sync import async_to_sync
from oldspoon import memory
from oldspoon.memory import Answering


@pytest.fixture
def trimmed(monkeypatch):
    """How often what is free was given back."""
    times = []
    monkeypatch.setattr(memory, "given_back", lambda: times.append(1))
    return times


@pytest.mark.parametrize(
    ("held", "idle", "gives_way", "trims"),
    [
        ([300.0], True, False, 0),
        ([900.0], False, False, 0),
        ([900.0, 350.0], True, False, 1),
        ([900.0, 850.0], True, True, 1),
    ],
)
def test_it_gives_way_only_when_idle_and_nothing_else_helps(trimmed, held, idle, gives_way, trims):
    left = list(held)
    assert memory.grown(700.0, lambda: idle, lambda: left.pop(0) if len(left) > 1 else left[0]) is gives_way
    assert len(trimmed) == trims


def test_somebody_who_asks_meanwhile_is_answered_first(trimmed):
    answers = iter([True, False])
    assert not memory.grown(700.0, lambda: next(answers), lambda: 900.0)


HOLDS = """
from oldspoon.memory import given_back, held_mb
first = held_mb()
much = [bytearray(b"x" * 100_000) for _ in range(1000)]
most = held_mb()
last = much[-1]
del much
given_back()
print(first, most, held_mb())
"""
"""What is last in the heap stays, so that nothing before it is returned unless that is asked for."""


def test_it_knows_what_it_holds_and_gives_back_what_is_free():
    said = subprocess.run([sys.executable, "-c", HOLDS], check=True, capture_output=True, text=True).stdout
    first, most, left = map(float, said.split())
    assert most > first + 80
    assert left < most - 80


def test_what_is_being_answered_is_counted_until_it_is_even_if_it_fails():
    seen = []

    async def failing(scope, receive, send):
        seen.append(counted.under_way)
        raise ZeroDivisionError

    counted = Answering(failing)
    with pytest.raises(ZeroDivisionError):
        async_to_sync(counted)({"type": "http"}, None, None)
    assert seen == [1]
    assert counted.under_way == 0


def test_a_process_that_has_grown_is_asked_to_give_way_once(trimmed, monkeypatch):
    monkeypatch.setattr(memory, "LOOK_S", 0.01)
    asked = []
    memory.watch(1.0, lambda: True, lambda: asked.append(1)).join(10)
    assert asked == [1]
