"""Turns at computing: what takes long is done by few at once, in a fair order, and quick reads stay quick.

Whoever asks for much waits behind their own questions, not the others behind them: turns go round from
kitchen to kitchen, and within one from person to person. A question whose turn does not come in time is
refused, and worth asking again.
"""

from __future__ import annotations

import functools
import os
import threading
import time
from collections import OrderedDict, deque
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass, field
from typing import Any, Concatenate, ParamSpec, Protocol, TypeVar

from common import database
from common.counted import COOKS
from common.refusals import Refusal

P = ParamSpec("P")
R = TypeVar("R")


class Asks(Protocol):
    """Someone who asks."""

    @property
    def user(self) -> Any:
        """Who they are."""

    @property
    def kitchen(self) -> Any:
        """Where they are."""


Asker = TypeVar("Asker", bound=Asks)

WAITS_S = 4.0
"""So long a question waits for its turn."""
LONGEST_S = 2.0
"""So much of a processor a search takes once it has its turn: on a busy machine it is found all the same."""
AT_MOST_S = 4.5
"""So long it goes on by the clock, however little of the processor it got."""
MOST_EACH = 40
"""So many questions of one person wait at once; a page of the Bench asks five. Waiting costs next to nothing,
and being refused and asking again costs as much as a small read."""
MOST_WAITING = 200
AGAIN_S = 1


class Busy(Refusal):
    """Too many heavy requests at once."""

    def __init__(self, status: int, sentence: str) -> None:
        super().__init__(status, sentence, kind="busy", retry_s=AGAIN_S)


@dataclass
class FairLimiter:
    """So many at once, the others in turn by kitchen and person; safe to use from many threads."""

    at_once: int
    longest_s: float = WAITS_S
    most_each: int = MOST_EACH
    _free: int = field(init=False)
    _lock: threading.Lock = field(init=False, default_factory=threading.Lock)
    _waiting: OrderedDict[object, OrderedDict[object, deque[threading.Event]]] = field(
        init=False, default_factory=OrderedDict
    )

    def __post_init__(self) -> None:
        self._free = self.at_once

    @contextmanager
    def taken(self, person: object, kitchen: object = None) -> Iterator[None]:
        """A turn of a person's of a kitchen, for the block.

        Raises
        ------
        Busy
            429 when they wait for too many already, 503 when their turn does not come in time.
        """
        self._wait(kitchen, person)
        try:
            yield
        finally:
            with self._lock:
                self._hand_on()

    def waiting(self) -> int:
        """How many questions wait."""
        with self._lock:
            return self._all()

    def _all(self) -> int:
        return sum(len(mine) for house in self._waiting.values() for mine in house.values())

    def _wait(self, kitchen: object, person: object) -> None:
        with self._lock:
            if self._free:
                self._free -= 1
                return
            house = self._waiting.get(kitchen, OrderedDict())
            mine = house.get(person, deque())
            if len(mine) >= self.most_each:
                raise Busy(429, "You have many heavy requests open. Try again in a moment.")
            if self._all() >= MOST_WAITING:
                raise Busy(503, "Too many heavy requests at once. Try again in a moment.")
            turn = threading.Event()
            mine.append(turn)
            house[person] = mine
            self._waiting[kitchen] = house
        if turn.wait(self.longest_s):
            return
        with self._lock:
            if turn.is_set():
                return
            mine.remove(turn)
            self._forget(kitchen, person)
        raise Busy(503, "Too many heavy requests at once. Try again in a moment.")

    def _hand_on(self) -> None:
        """Give a turn that is over to the next person of the next kitchen in the round."""
        if not self._waiting:
            self._free += 1
            return
        kitchen, house = next(iter(self._waiting.items()))
        person, mine = next(iter(house.items()))
        mine.popleft().set()
        house.move_to_end(person)
        self._waiting.move_to_end(kitchen)
        self._forget(kitchen, person)

    def _forget(self, kitchen: object, person: object) -> None:
        """Nobody stays in the round who waits for nothing."""
        house = self._waiting[kitchen]
        if not house[person]:
            del house[person]
        if not house:
            del self._waiting[kitchen]


LIMITER = FairLimiter(at_once=len(os.sched_getaffinity(0)))


_ends: ContextVar[tuple[float, float]] = ContextVar("ends", default=(float("inf"), float("inf")))
"""When a search ends: by this thread's use of the processor, and by the clock [s]."""


def in_turn(
    function: Callable[Concatenate[Asker, P], R],
) -> Callable[Concatenate[Asker, P], R]:
    """Make a read that computes for long one that waits for a turn of the person who asks, holding no
    connection to the database meanwhile."""

    @functools.wraps(function)
    def waiting(actor: Asker, /, *args: P.args, **kwargs: P.kwargs) -> R:
        database.release_connection()
        with LIMITER.taken(actor.user.pk, actor.kitchen.pk):
            COOKS.inc()
            before = _ends.set((time.thread_time() + LONGEST_S, time.monotonic() + AT_MOST_S))
            try:
                return function(actor, *args, **kwargs)
            finally:
                _ends.reset(before)

    return waiting


def time_left() -> bool:
    """Whether a search should go on looking, or end with the best so far."""
    worked, clock = _ends.get()
    return time.thread_time() < worked and time.monotonic() < clock
