"""What is still free, minute by minute: hands, rings, baths, oven, churn, bowls and ice."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from custard.errors import Impossible
from custard.planning.day import BOWL, ICE, LATEST, OVEN, PLACES, Day, Job, Placed

Bools = NDArray[np.bool_]
OVEN_TURNS_MIN = 10
"""How long an oven takes from one temperature to another, with nothing in it [min]; an estimate, L."""


class Free:
    """What is still free of a day's room, from its first minute to its last.

    Everything is an array by minute; what is placed takes its share of it.
    """

    def __init__(self, day: Day, begins: int | None = None) -> None:
        self.day, room = day, day.room
        latest = max((job.due or 0 for job in day.jobs), default=0)
        longest = max((job.work for job in day.jobs), default=0)
        self.first = min(room.opens, day.opens if begins is None else begins, *_begun(day))
        self.size = min(LATEST, max(latest, room.closes) + longest + 1) - self.first
        self._hands = np.zeros((len(room.hands), self.size))
        for person, hands in enumerate(room.hands):
            for start, end in hands.there:
                self._hands[person, self._i(start) : self._i(end)] = 1.0
        self._places = {name: np.full(self.size, float(room.places.get(name, 0))) for name in PLACES}
        self._bowls = None if room.bowls is None else np.full(self.size, float(room.bowls))
        # Ice is counted when the first are there; none is made before that, as far as anybody knows.
        made_min = np.maximum(0, np.arange(self.size) + self.first - room.opens)
        self._ice = None if room.ice_g is None else room.ice_g + room.ice_g_h / 60 * made_min
        self._oven_c = np.full(self.size, np.nan)

    def _i(self, minute: int) -> int:
        return int(np.clip(minute - self.first, 0, self.size))

    def give_back(self, job: Job, one: Placed) -> None:
        """Take a step away again; what the oven was set to for it stays."""
        self.take(job, one, -1)

    def take(self, job: Job, one: Placed, sign: int = 1) -> None:
        """Put a step there, whether there is room or not."""
        step = job.steps[one.place]
        start, end = self._i(one.start), self._i(max(one.end, one.start + 1))
        if one.hands is not None:
            self._hands[one.hands, start:end] -= sign * step.hands
        for need, amount in step.needs.items():
            if need == ICE:
                if self._ice is not None:
                    self._ice[start:] -= sign * amount
            elif need == BOWL:
                if self._bowls is not None:
                    self._bowls[start : self._i(one.end + round(60 * self.day.room.bowl_h))] -= sign * amount
            else:
                self._places[need][start:end] -= sign * amount
        if step.oven_c is not None and sign > 0:
            around = slice(self._i(one.start - OVEN_TURNS_MIN), self._i(one.end + OVEN_TURNS_MIN))
            self._oven_c[around] = step.oven_c

    def fits(self, job: Job, block: tuple[int, ...], hands: int | None) -> Bools:
        """At which minutes a block of steps can begin, in those hands."""
        found = np.ones(self.size, dtype=bool)
        offset = 0
        for number, place in enumerate(block):
            step = job.steps[place]
            offset += step.least if number else 0
            here = np.ones(self.size, dtype=bool)
            if step.hands and hands is not None:
                here &= _holds(self._hands[hands], step.hands, step.long)
            for need, amount in step.needs.items():
                here &= self._has(need, amount, step.long)
            if step.oven_c is not None:
                other = ~np.isnan(self._oven_c) & (self._oven_c != step.oven_c)
                here &= _holds(1.0 - other, 1.0, step.long)
            found &= _sooner(here, offset)
            offset += step.long
        return found

    def _has(self, need: str, amount: float, long: int) -> Bools:
        if need == ICE:
            # Ice that is used is gone for whoever comes later.
            if self._ice is None:
                return np.ones(self.size, dtype=bool)
            left = np.minimum.accumulate(self._ice[::-1])[::-1]
            return np.asarray(left >= amount - 1e-6)
        if need == BOWL:
            if self._bowls is None:
                return np.ones(self.size, dtype=bool)
            return _holds(self._bowls, amount, long + round(60 * self.day.room.bowl_h), to_the_end=True)
        return _holds(self._places[need], amount, long)


def _begun(day: Day) -> list[int]:
    found = [begun.start for job in day.jobs for begun in job.begun.values()]
    return [*found, *(pinned.start for job in day.jobs for pinned in job.pinned.values()), LATEST]


def _holds(free: NDArray[np.float64], amount: float, long: int, *, to_the_end: bool = False) -> Bools:
    """At which minutes so much is free for so long; `to_the_end` what is past the last minute is free."""
    ok = free >= amount - 1e-9
    bad = np.concatenate(([0], np.cumsum(~ok)))
    index = np.arange(free.size)
    ends = np.minimum(index + long, free.size)
    clear = bad[ends] == bad[index]
    return np.asarray(clear if to_the_end else clear & (index + long <= free.size))


def _sooner(ok: Bools, by: int) -> Bools:
    """Shifted so that each minute says what holds `by` minutes after it."""
    found = np.zeros_like(ok)
    if by < ok.size:
        found[: ok.size - by] = ok[by:]
    return found


def oven_is_shared(day: Day) -> bool:
    """Whether things of several temperatures want the oven."""
    hot = (step.oven_c for job in day.jobs for step in job.steps if OVEN in step.needs)
    return len({celsius for celsius in hot if celsius is not None}) > 1


def no_room(job: Job) -> Impossible:
    """That a job finds no place at all."""
    return Impossible(
        f"jobs.{job.key}", job.name, "finds no place in this day", "Plan longer hours, or another day."
    )
