"""What is still to be placed of a day: its blocks of steps, and what has begun and is where it is."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise

from custard.planning.day import EARLIEST, Begun, Day, Job, Placed, Step


@dataclass(frozen=True)
class Block:
    """Steps of a job that follow one another by fixed waits and are still to be placed.

    Attributes
    ----------
    places, offsets : the steps, and how long after the block's beginning each begins [min].
    least, most : how long it waits after the block before [min]; None for as long as one likes.
    earliest, latest : when it can begin at all [min], for what has begun and what somebody pinned.
    hands : in whose hands somebody put it; None where nobody did.
    """

    job: Job
    places: tuple[int, ...]
    offsets: tuple[int, ...]
    least: int
    most: int | None
    earliest: int
    latest: int | None
    hands: int | None = None

    @property
    def steps(self) -> tuple[Step, ...]:
        """Its steps."""
        return tuple(self.job.steps[place] for place in self.places)

    @property
    def long(self) -> int:
        """From its beginning to the end of its last step [min]."""
        return self.offsets[-1] + self.steps[-1].long

    @property
    def by_hand(self) -> bool:
        """Whether somebody is needed for it."""
        return any(step.hands for step in self.steps)

    def placed(self, start: int, hands: int | None) -> Iterator[Placed]:
        """Its steps, when it begins then in those hands."""
        for place, offset, step in zip(self.places, self.offsets, self.steps, strict=True):
            begins = start + offset
            theirs = hands if step.hands else None
            yield Placed(self.job.key, place, begins, begins + step.long, theirs)


def begun(day: Day) -> list[tuple[Job, Placed]]:
    """The steps that have begun, as they stand: what has not ended is believed to end as planned, or now."""
    return [
        (job, Placed(job.key, place, one.start, _ends(day, job.steps[place], one), one.hands))
        for job in day.jobs
        for place, one in sorted(job.begun.items())
    ]


def _ends(day: Day, step: Step, one: Begun) -> int:
    if one.end is not None:
        return one.end
    now = EARLIEST if day.now is None else day.now
    return max(one.start + step.long, now + 1)


def blocks_of(day: Day, job: Job) -> tuple[Block, ...]:
    """What is still to be placed of a job, in order.

    Parameters
    ----------
    day : a day of work: its jobs, its people, its room.
    job : a batch, or other work.
    """
    found: list[Block] = []
    ended: int | None = None
    for block in job.blocks:
        left = tuple(place for place in block if place not in job.begun)
        done = [place for place in block if place in job.begun]
        if done:
            last = max(done)
            ended = _ends(day, job.steps[last], job.begun[last])
        if left:
            found.append(_block(day, job, left, None if found else ended))
    return tuple(found)


def _block(day: Day, job: Job, places: tuple[int, ...], ended: int | None) -> Block:
    first = job.steps[places[0]]
    offsets, at = [0], 0
    for before, place in pairwise(places):
        at += job.steps[before].long + job.steps[place].least
        offsets.append(at)
    earliest = max(day.opens, job.open)
    latest: int | None = None
    if ended is not None:
        earliest = max(earliest, ended + first.least)
        # What waits too long already is done as soon as can be.
        latest = None if first.most is None else max(earliest, ended + first.most)
    hands = None
    for place, offset in zip(places, offsets, strict=True):
        pinned = job.pinned.get(place)
        if pinned is not None and pinned.start - offset >= earliest:
            earliest = latest = pinned.start - offset
            hands = pinned.hands
    return Block(job, places, tuple(offsets), first.least, first.most, earliest, latest, hands)
