"""Why a day cannot be: the fewest things that together cannot, what they fight for, and when."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from math import ceil

from custard.planning.blocks import Block, blocks_of
from custard.planning.check import said
from custard.planning.day import BATH, BOWL, CHURN, ICE, MOST_HANDS, OVEN, RING, STEAM, Day, Job, Room
from custard.planning.free import OVEN_TURNS_MIN
from custard.planning.model import ALONE, Model

LOOK_S = 1.5
"""So long each smaller day is looked at [s]; what is not known by then counts as possible."""
HANDS = "hands"
FAR = 10**6
COUNTED = ("no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten")


@dataclass(frozen=True)
class Why:
    """Why nothing can be planned without lateness.

    Attributes
    ----------
    say : the reason in a sentence, with names, times and minutes.
    jobs : the fewest jobs that together cannot be.
    needs : what they fight for: "hands", or a place by its name; nothing for one that is too long.
    start, end : between when [min].
    """

    say: str
    jobs: tuple[str, ...]
    needs: tuple[str, ...]
    start: int
    end: int


def possible(day: Day, seconds: float = LOOK_S, workers: int = 2) -> bool | None:
    """Whether a plan without lateness exists; None when that is not known in so long."""
    model = Model(day, late=False)
    if model.run(seconds, workers) is not None:
        return True
    return False if model.impossible else None


def why(day: Day, workers: int = 2) -> Why | None:
    """Why a day cannot be planned without lateness; None when it can, or nobody knows.

    Parameters
    ----------
    day : a day of work: its jobs, its people, its room.
    workers : threads to look with [1].
    """
    if possible(day, 4 * LOOK_S, workers) is not False:
        return None
    for job in day.jobs:
        if not job.settled and possible(replace(day, jobs=(job,)), LOOK_S, workers) is False:
            return _alone(day, job, workers)
    fewest = _fewest(day, workers)
    smaller = replace(day, jobs=fewest)
    needs = tuple(
        need for need, room in eased(smaller) if possible(replace(smaller, room=room), LOOK_S, workers)
    )
    if not needs and _hot(smaller) is not None and possible(_one_heat(smaller), LOOK_S, workers):
        return _two_heats(smaller)
    return _together(smaller, needs)


def _fewest(day: Day, workers: int) -> tuple[Job, ...]:
    """Jobs of which none can be left out without the rest becoming possible."""
    left = list(day.jobs)
    # Halves first: what is far from the trouble goes in a few looks.
    size = len(left) // 2
    while size >= 1:
        start = 0
        while start < len(left) and len(left) > 1:
            rest = left[:start] + left[start + size :]
            if rest and possible(replace(day, jobs=tuple(rest)), LOOK_S, workers) is False:
                left = rest
            else:
                start += size
        size //= 2
    return tuple(left)


def eased(day: Day) -> Iterable[tuple[str, Room]]:
    """The same room with more of one thing, each thing that its jobs need in turn."""
    room = day.room
    used = {need for job in day.jobs for step in job.steps for need in step.needs}
    helper = replace(room.hands[0], name="a helper", there=((day.opens, room.closes),))
    yield HANDS, replace(room, hands=(*room.hands, *[helper] * len(day.jobs))[:MOST_HANDS])
    for place in (RING, STEAM, BATH, OVEN, CHURN):
        if place in used:
            yield place, replace(room, places={**room.places, place: 1200})
    if ICE in used and room.ice_g is not None:
        yield ICE, replace(room, ice_g=None)
    if BOWL in used and room.bowls is not None:
        yield BOWL, replace(room, bowls=len(day.jobs) * 12)


def _hot(day: Day) -> tuple[float, ...] | None:
    """The oven's temperatures, where there are several [degC]."""
    found = sorted({step.oven_c for job in day.jobs for step in job.steps if step.oven_c is not None})
    return tuple(found) if len(found) > 1 else None


def _one_heat(day: Day) -> Day:
    """The same day with an oven that is right for everything at once."""
    jobs = [replace(job, steps=tuple(replace(step, oven_c=None) for step in job.steps)) for job in day.jobs]
    return replace(day, jobs=tuple(jobs))


def _two_heats(day: Day) -> Why:
    bakes = [(job.name, step) for job in day.jobs for step in job.steps if step.oven_c is not None]
    wants = listed([f"{name} at {{{step.oven_c:g} C}} for {spell(step.long)}" for name, step in bakes])
    pieces = _pieces(day, OVEN)
    start, end = min(one.early for one in pieces), max(one.late for one in pieces)
    say = (
        f"Between {said(start)} and {said(end)} the oven would have to be two things: {wants}. It has one "
        f"temperature, and takes {OVEN_TURNS_MIN} min to another."
    )
    return Why(say, _keys(day), (OVEN,), start, end)


def _alone(day: Day, job: Job, workers: int) -> Why:
    """One that cannot be in time by itself: it takes too long, or there is too little of something."""
    pinned = [job.steps[place] for place in job.pinned]
    due = job.due or 0
    blocks = blocks_of(day, job)
    first = max([day.opens, *(block.earliest for block in blocks[:1])])
    left = sum(block.long + (block.least if n else 0) for n, block in enumerate(blocks))
    if first + left > due:
        last = min(due - left, first)
        say = (
            f"{job.name} takes {spell(left)} from “{blocks[0].steps[0].say}” to ready: "
            f"begun at {said(first)} it is ready at {said(first + left)}, and it is wanted at "
            f"{said(due)}. Begin by {said(last)}, or want it later."
        )
        return Why(say, (job.key,), (), first, due)
    alone = replace(day, jobs=(job,))
    lacks = [need for need, room in eased(alone) if possible(replace(alone, room=room), LOOK_S, workers)]
    for need in lacks:
        if need in (ICE, BOWL):
            return Why(_used_up(alone, need), (job.key,), (need,), first, due)
    cause = "what its steps need is not free in between"
    if lacks:
        cause = f"there is too little of {_what(day, lacks[0])} for it"
    if pinned:
        cause = f"“{pinned[0].say}” was put where the rest cannot follow"
    gone = [hands.name for hands in day.room.hands]
    say = (
        f"{job.name} cannot be ready at {said(due)} even with nothing else to do: {cause}, "
        f"or {listed(gone)} {'is' if len(gone) == 1 else 'are'} not there when it needs hands."
    )
    return Why(say, (job.key,), (), first, due)


@dataclass(frozen=True)
class _Piece:
    """A step that must lie somewhere: of which job, from when at the earliest, until when at the latest."""

    job: str
    name: str
    early: int
    late: int
    long: int
    amount: float


def _pieces(day: Day, need: str) -> list[_Piece]:
    """Every step that needs something, with the span in which it must lie for its job to be in time."""
    found = []
    for job in day.jobs:
        blocks = blocks_of(day, job)
        early, earliest = day.opens, []
        for block in blocks:
            early = max(early + block.least, block.earliest)
            earliest.append(early)
            early += block.long
        late = FAR if job.due is None else job.due
        for number in reversed(range(len(blocks))):
            block = blocks[number]
            latest = late - block.long
            for offset, step in zip(block.offsets, block.steps, strict=True):
                amount = (1.0 if step.hands > ALONE else 0.0) if need == HANDS else step.needs.get(need, 0.0)
                # What waits a short while at most cannot lie long before what follows it.
                if amount:
                    low = max(earliest[number], _no_sooner(job, blocks, number, latest))
                    begins, ends = low + offset, latest + offset + step.long
                    found.append(_Piece(job.key, job.name, begins, ends, step.long, amount))
            late = latest - block.least
    return found


def _no_sooner(job: Job, blocks: Sequence[Block], number: int, latest: int) -> int:
    """When a block begins at the soonest, so that what it leads to is not too old when it is wanted [min]."""
    if job.life is None or job.due is None:
        return latest - FAR
    soonest = job.due - job.life
    for block in reversed(blocks[number + 1 :]):
        if block.most is None:
            return latest - FAR
        soonest -= block.long + block.most
    return min(latest, soonest - blocks[number].long)


def _together(day: Day, needs: tuple[str, ...]) -> Why:
    """Several that fight for the same."""
    used_up = next((need for need in needs if need in (ICE, BOWL)), None)
    if used_up is not None:
        last = max((job.due for job in day.jobs if job.due is not None), default=day.room.closes)
        return Why(_used_up(day, used_up), _keys(day), needs, day.opens, last)
    for need in needs or (HANDS,):
        window = _fullest(day, need)
        if window is not None:
            start, end, pieces, has = window
            return Why(_said(day, need, start, end, pieces, has), _keys(day), needs, start, end)
    all_names = listed([job.name for job in day.jobs])
    dues = [job.due for job in day.jobs if job.due is not None]
    start, end = day.opens, max(dues, default=day.room.closes)
    pieces = _pieces(day, needs[0] if needs else HANDS)
    if pieces:
        start, end = min(one.early for one in pieces), max(one.late for one in pieces)
    both = "both" if len(day.jobs) == 2 else "all"
    what = " and ".join(_what(day, need) for need in needs) or "the same hands and places"
    say = (
        f"Between {said(start)} and {said(end)} {all_names} {both} need {what}: each goes by itself, "
        f"but their steps cannot lie beside one another."
    )
    return Why(say, _keys(day), needs, start, end)


def _used_up(day: Day, need: str) -> str:
    """What is short of something that is used up rather than given back."""
    amount = sum(step.needs.get(need, 0.0) for job in day.jobs for step in job.steps)
    names, room = listed([job.name for job in day.jobs]), day.room
    needs = "needs" if len(day.jobs) == 1 else "need"
    if need == BOWL:
        return (
            f"{names} {needs} {amount:.0f} frozen churn bowls and there are {room.bowls}; one that was used "
            f"freezes {room.bowl_h:g} h before it churns again."
        )
    made = f", with {room.ice_g_h / 1000:.1f} kg made an hour" if room.ice_g_h else ""
    there = (room.ice_g or 0.0) / 1000
    return (
        f"{names} {needs} {amount / 1000:.1f} kg of ice in time and there are {there:.1f} kg{made}: have "
        f"{max(0.0, amount - (room.ice_g or 0.0)):.0f} g more at the beginning of the day."
    )


def _keys(day: Day) -> tuple[str, ...]:
    return tuple(job.key for job in day.jobs)


def _fullest(day: Day, need: str) -> tuple[int, int, list[_Piece], float] | None:
    """The span in which more must be done than can, by the most; None where no span alone says it."""
    pieces = _pieces(day, need)
    best: tuple[float, int, int, list[_Piece], float] | None = None
    for start in sorted({one.early for one in pieces} | {one.late - one.long for one in pieces}):
        for end in sorted({one.late for one in pieces} | {one.early + one.long for one in pieces}):
            if end <= start:
                continue
            inside = [(one, _must(one, start, end)) for one in pieces]
            has = _has(day, need, start, end)
            over = sum(minutes * one.amount for one, minutes in inside) - has
            if over > 0 and (best is None or over > best[0]):
                best = (over, start, end, [one for one, m in inside if m > 0], has)
    return None if best is None else best[1:]


def _must(one: _Piece, start: int, end: int) -> int:
    """Minutes of a piece that lie in a span wherever it is put."""
    early = min(one.early + one.long, end) - start
    late = end - max(one.late - one.long, start)
    return max(0, min(one.long, end - start, early, late))


def _has(day: Day, need: str, start: int, end: int) -> float:
    if need == HANDS:
        return float(
            sum(
                max(0, min(end, leaves) - max(start, comes))
                for hands in day.room.hands
                for comes, leaves in hands.there
            )
        )
    if need in (ICE, BOWL):
        return float("inf")
    return float(day.room.places.get(need, 0) * (end - start))


def _said(day: Day, need: str, start: int, end: int, pieces: Sequence[_Piece], has: float) -> str:
    names = list(dict.fromkeys(one.name for one in pieces))
    minutes = sum(
        _must(one, start, end) * (one.amount if need != OVEN else one.amount / 100) for one in pieces
    )
    room = has / 100 if need == OVEN else has
    many = len(names)
    things = f"{counted(many)} thing{'s' if many > 1 else ''}"
    return (
        f"Between {said(start)} and {said(end)} {things} need{'' if many > 1 else 's'} "
        f"{_what(day, need)}: {listed(names)}. That is {ceil(minutes)} min of work and there are "
        f"{int(room)} min of it."
    )


def _what(day: Day, need: str) -> str:
    if need == HANDS:
        people = len(day.room.hands)
        if people == 1:
            return f"the one pair of hands ({day.room.hands[0].name})"
        return "both of you" if people == 2 else f"all {counted(people)} of you"
    many = day.room.places.get(need, 0)
    words = {
        RING: "the one ring" if many == 1 else f"the {many} rings",
        STEAM: "the steam bath" if many == 1 else f"the {many} steam baths",
        BATH: "the place in the ice bath" if many == 1 else f"the {many} places in the ice bath",
        OVEN: "the oven",
        CHURN: "the churn",
        ICE: "the ice",
        BOWL: "a frozen churn bowl",
    }
    return words[need]


def counted(many: int) -> str:
    """A count in words, as one reads it in a sentence.

    Parameters
    ----------
    many : how many [1].

    >>> counted(3), counted(14)
    ('three', '14')
    """
    return COUNTED[many] if many < len(COUNTED) else str(many)


def listed(of: Sequence[str]) -> str:
    """Names as one says them: "a, b and c"."""
    return of[0] if len(of) == 1 else f"{', '.join(of[:-1])} and {of[-1]}"


def spell(minutes: int) -> str:
    """Minutes as one says them.

    >>> spell(25), spell(60), spell(425)
    ('25 min', '1 h', '7 h 5 min')
    """
    hours, rest = divmod(minutes, 60)
    return " ".join(part for part in (f"{hours} h" if hours else "", f"{rest} min" if rest else "") if part)
