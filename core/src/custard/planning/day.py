"""A day as it is planned: what there is to work with, what is wanted and when, and the steps that lead there.

Times are minutes since the midnight with which the day begins [min]; what lies before it is negative, what is
wanted tomorrow is past 1440. There is no clock here: whoever asks says what time it is.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from math import ceil, exp, sqrt
from types import MappingProxyType

from custard.errors import OutOfRange, UnknownName, within
from custard.vocabulary import StageName

DAY_MIN = 1440
EARLIEST, LATEST = -3 * DAY_MIN, 7 * DAY_MIN
FULL, BUSY, LOOKS, NOBODY = 1.0, 0.7, 0.3, 0.0
"""How much of a pair of hands a step takes: all (a stirring cook does nothing else), all but a look at
something that warms, a look now and then, none."""
RING, STEAM, BATH, ICE, OVEN, CHURN, BOWL = "ring", "steam", "bath", "ice", "oven", "churn", "bowl"
PLACES: tuple[str, ...] = (RING, STEAM, BATH, OVEN, CHURN)
"""What a step takes up while it lasts, and each has its lane; ice is used up, a bowl must freeze again."""
CALM = 0.52
"""A plan counts on seven days in ten: so many spreads above the median (a normal's quantile of 0.7)."""
AT_ONCE_MIN = 15
"""What may wait no longer than this follows at once."""
MOST_JOBS, MOST_STEPS, MOST_HANDS, MOST_PLACES = 60, 36, 8, 12


@dataclass(frozen=True)
class Minutes:
    """How long something takes.

    Attributes
    ----------
    usual : in the median [min].
    spread : how far it strays, as the standard deviation of its logarithm [1].
    batches : how many of this kitchen's own batches that was learned from; 0 for the model alone.
    """

    usual: float
    spread: float = 0.0
    batches: int = 0

    def __post_init__(self) -> None:
        within("minutes", self.usual, 0, 7 * DAY_MIN)
        within("spread", self.spread, 0, 2)

    @property
    def planned(self) -> int:
        """What a plan counts on [min]: what is enough on seven days in ten, in whole minutes."""
        return max(1, ceil(self.usual * exp(CALM * self.spread) - 1e-9))


@dataclass(frozen=True)
class Step:
    """One thing that is done, by whom and with what.

    Attributes
    ----------
    step : its name, by which it is known among the steps of its batch.
    say : what it is called on the board.
    minutes : how long it takes.
    hands : how much of a pair of hands it takes [0 to 1].
    needs : what of the kitchen it takes, by name: places of a ring, a bath, an oven; grams of ice; a bowl.
    oven_c : how hot that oven is [degC]; None where there is none.
    least, most : minutes it waits after the step before at least, and at most; None for as long as one likes.
    stage : the stage of a batch whose record tells how long it took; None where none does.
    """

    step: str
    say: str
    minutes: Minutes
    hands: float = NOBODY
    needs: Mapping[str, float] = field(default_factory=dict)
    oven_c: float | None = None
    least: int = 0
    most: int | None = 0
    stage: StageName | None = None

    def __post_init__(self) -> None:
        within("hands", self.hands, 0, 1)
        if self.most is not None and self.most < self.least:
            raise OutOfRange("most", self.most, f"must be at least the {self.least} min it waits")
        for need in self.needs:
            if need not in (*PLACES, ICE, BOWL):
                raise UnknownName("needs", need, "is nothing a step can need", f"Write {', '.join(PLACES)}.")
        object.__setattr__(self, "needs", MappingProxyType(dict(self.needs)))

    @property
    def long(self) -> int:
        """How long it is planned to take [min]."""
        return self.minutes.planned

    @property
    def rigid(self) -> bool:
        """Whether it follows the step before by a fixed number of minutes: both are one block."""
        return self.most == self.least


@dataclass(frozen=True)
class Begun:
    """A step that has begun: when, when it ended if it has, and whose hands it is in."""

    start: int
    end: int | None = None
    hands: int | None = None


@dataclass(frozen=True)
class Job:
    """One batch, or one other piece of work: steps in their order, and when the last must be over.

    Attributes
    ----------
    key : what it is known by.
    name : what it is called.
    due : when it must be ready [min]; None for whenever.
    life : how long it is good once it is ready [min]; None for longer than anybody asks.
    fades : at what age it is told from fresh [min]: what is younger counts as just made.
    open : not before this [min].
    begun : the steps that have begun, by their place.
    pinned : where somebody put a step, by its place: at that minute, in those hands if they said so.
    """

    key: str
    name: str
    steps: tuple[Step, ...]
    due: int | None = None
    life: int | None = None
    fades: int = 0
    open: int = EARLIEST
    begun: Mapping[int, Begun] = field(default_factory=dict)
    pinned: Mapping[int, Begun] = field(default_factory=dict)

    def __post_init__(self) -> None:
        within("steps", len(self.steps), 1, MOST_STEPS)
        if self.due is not None:
            within("due", self.due, EARLIEST, LATEST)
        if self.life is not None:
            within("life", self.life, 1, 365 * DAY_MIN)
        for name in ("begun", "pinned"):
            object.__setattr__(self, name, MappingProxyType(dict(getattr(self, name))))

    @property
    def blocks(self) -> tuple[tuple[int, ...], ...]:
        """Steps that follow one another by fixed waits, as the places of each such block."""
        found: list[list[int]] = []
        for place, step in enumerate(self.steps):
            if found and step.rigid:
                found[-1].append(place)
            else:
                found.append([place])
        return tuple(tuple(block) for block in found)

    @property
    def settled(self) -> bool:
        """Whether all of it has begun: nothing is left to plan, and its deadline is kept or it is not."""
        return len(self.begun) == len(self.steps)

    @property
    def work(self) -> int:
        """Minutes from its first step to its last, waiting as little as can be [min]."""
        return sum(step.long + (step.least if place else 0) for place, step in enumerate(self.steps))

    @property
    def slack(self) -> int:
        """How many minutes to spare it is wanted to have [min]: as far as what is done by hand strays."""
        stray = sqrt(sum((step.minutes.usual * step.minutes.spread) ** 2 for step in self.steps))
        wanted = min(MOST_SLACK, max(LEAST_SLACK, round(SLACK_SPREADS * stray)))
        return wanted if self.life is None else min(wanted, self.life // 2)


LEAST_SLACK, MOST_SLACK, SLACK_SPREADS = 5, 30, 1.3
"""Minutes to spare that are wanted at least and at most, and for how many spreads of what lies before."""


@dataclass(frozen=True)
class Hands:
    """A pair of hands: what they are called, and when they are there [min], in spans in order."""

    name: str
    there: tuple[tuple[int, int], ...]

    def __post_init__(self) -> None:
        if not self.there:
            raise OutOfRange("there", "", f"says when {self.name} is there", "Write from when until when.")
        last = EARLIEST
        for start, end in self.there:
            if not last <= start < end <= LATEST:
                raise OutOfRange("there", f"{start} to {end}", "must be spans in order, each with an end")
            last = end


@dataclass(frozen=True)
class Room:
    """What a kitchen has to work with.

    Attributes
    ----------
    hands : its people.
    places : how many rings, steam baths, bowls in the ice bath, oven shares and churns there are at once. An
        oven's shares are hundredths of what goes into it.
    ice_g, ice_g_h : ice at the beginning of the day [g], and how much is made an hour [g/h]; None for plenty.
    bowls : churn bowls that can be frozen; None where the churn cools by itself.
    bowl_h : how long a bowl freezes before it churns again [h].
    """

    hands: tuple[Hands, ...]
    places: Mapping[str, int] = field(default_factory=dict)
    ice_g: float | None = None
    ice_g_h: float = 0.0
    bowls: int | None = None
    bowl_h: float = 12.0

    def __post_init__(self) -> None:
        within("hands", len(self.hands), 1, MOST_HANDS)
        for name, count in self.places.items():
            within(f"places.{name}", count, 0, 100 * MOST_PLACES)
        object.__setattr__(self, "places", MappingProxyType(dict(self.places)))

    @property
    def opens(self) -> int:
        """When the first pair of hands is there [min]."""
        return min(one.there[0][0] for one in self.hands)

    @property
    def closes(self) -> int:
        """When the last has gone [min]."""
        return max(one.there[-1][1] for one in self.hands)


@dataclass(frozen=True)
class Day:
    """What is to be done, with what, and what time it is [min]; None while the day is still to come."""

    room: Room
    jobs: tuple[Job, ...]
    now: int | None = None

    def __post_init__(self) -> None:
        within("jobs", len(self.jobs), 0, MOST_JOBS)
        keys = [job.key for job in self.jobs]
        if len(set(keys)) < len(keys):
            raise OutOfRange("jobs", "two of them", "have one key")
        for job in self.jobs:
            for step in job.steps:
                for need, amount in step.needs.items():
                    self._must_have(job, step, need, amount)

    def _must_have(self, job: Job, step: Step, need: str, amount: float) -> None:
        has: float | None
        if need == ICE:
            has = None
        elif need == BOWL:
            has = self.room.bowls
        else:
            has = self.room.places.get(need, 0)
        if has is not None and amount > has:
            what = "there is none" if has == 0 else f"{amount:g} at once where there is room for {has:g}"
            limit = f"needs {WORDS[need]} for “{step.say}”: {what}"
            raise OutOfRange(
                f"jobs.{job.key}", job.name, limit, "Say that there is more, or make less of it."
            )

    @property
    def opens(self) -> int:
        """From when anything can still be put somewhere [min]."""
        return self.room.opens if self.now is None else max(self.room.opens, self.now)


WORDS: Mapping[str, str] = MappingProxyType(
    {
        RING: "a ring",
        STEAM: "a steam bath",
        BATH: "an ice bath",
        ICE: "ice",
        OVEN: "an oven",
        CHURN: "a churn",
        BOWL: "a frozen bowl",
    }
)
"""What each is called in a sentence."""


@dataclass(frozen=True)
class Placed:
    """A step in a plan: when, in whose hands (None for nobody's), and which of several places it takes.

    `place` is that of the step among the steps of its job.
    """

    job: str
    place: int
    start: int
    end: int
    hands: int | None = None
    at: Mapping[str, int] = field(default_factory=dict)


@dataclass(frozen=True)
class Plan:
    """A plan: every step of every job, in the order in which they begin.

    Attributes
    ----------
    steps : where each is.
    cost, bound : what it costs, and what no plan can cost less than; equal when it is proven the best.
    """

    steps: tuple[Placed, ...]
    cost: int = 0
    bound: int = 0

    @property
    def proven(self) -> bool:
        """Whether no plan is better."""
        return self.bound >= self.cost

    @property
    def gap(self) -> float:
        """How far from proven it is [1]: no plan costs less than this one by a greater share."""
        return 0.0 if self.proven else (self.cost - self.bound) / self.cost

    def of(self, job: str) -> tuple[Placed, ...]:
        """The steps of one job, in their order."""
        return tuple(sorted((one for one in self.steps if one.job == job), key=lambda one: one.place))
