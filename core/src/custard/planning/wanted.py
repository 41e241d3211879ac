"""From what is wanted to what is done: dishes with covers and a time, other work, what is on the shelf."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace

from custard.advice.bench.destinations import made_g
from custard.advice.bench.scale import for_finished_g
from custard.advice.mix.assess import Assessment, assess
from custard.conditions import USUAL, Conditions
from custard.errors import CustardError, OutOfRange, within
from custard.formula import Formula
from custard.planning.day import (
    BATH,
    BUSY,
    CHURN,
    EARLIEST,
    LATEST,
    NOBODY,
    OVEN,
    RING,
    STEAM,
    Begun,
    Job,
    Minutes,
    Step,
)
from custard.planning.of_formula import Learned, Made, fades_min, figures, life_min, steps_of
from custard.planning.shelf import Drawn, ToMake, Tub, Want, shared_out
from custard.purpose import MOST_COUNT, Destination, OtherWork
from custard.quantities import read_quantity
from custard.vocabulary import StageName, WayName

TAKES: Mapping[str, Mapping[str, float]] = {
    "": {}, "ring": {RING: 1}, "steam": {STEAM: 1}, "ice": {BATH: 1}, "oven": {OVEN: 100},
    "churn": {CHURN: 1}, "fridge": {},
}  # fmt: skip
"""What other work takes up, by what it says it needs; a fridge has room."""


@dataclass(frozen=True)
class Wanted:
    """A dish, or a batch, with a time.

    Attributes
    ----------
    key, name : what it is known by, and what it is called: the dish.
    sauce : which sauce, by whatever tubs of it are known by too.
    formula : what it is made of, as written; of a batch that is on the stove, as it was weighed.
    at : when it is wanted [min].
    covers, each : so many of so much each, as it was written ("60 g"); "" for the whole formula as it is.
    schools : how it is made, where cooks disagree.
    batch : the batch that is made for it already; "" for none.
    """

    key: str
    name: str
    sauce: str
    formula: Formula
    at: int
    covers: float = 1.0
    each: str = ""
    schools: Mapping[str, str] = field(default_factory=dict)
    batch: str = ""

    def __post_init__(self) -> None:
        within("at", self.at, EARLIEST, LATEST)
        if not 0 < self.covers <= MOST_COUNT:
            raise OutOfRange(
                "covers", f"{self.covers:g}", f"must be more than 0 and at most {MOST_COUNT:.0f}"
            )
        if self.each:
            self.destination()

    def destination(self) -> Destination:
        """So many of so much each."""
        try:
            return Destination(self.name, self.covers, self.each, read_quantity(self.each))
        except CustardError as error:
            raise type(error)("each", error.value, error.limit, error.next_step) from None

    def grams(self, conditions: Conditions) -> float:
        """How much must come out of the pan for it, with what is lost on the way [g]."""
        if not self.each:
            return assess(self.formula, conditions).yield_g
        return made_g(replace(self.formula, destinations=(self.destination(),)), conditions)


@dataclass(frozen=True)
class Other:
    """Other work: for how long, whether by hand, what it takes up, and until when it must be done [min]."""

    key: str
    work: OtherWork
    by: int | None = None

    def job(self) -> Job:
        """As a job of one step."""
        spread = figures()["hand_spread"] if self.work.hands else 0.0
        step = Step(
            "work",
            self.work.name,
            Minutes(self.work.minutes, spread),
            BUSY if self.work.hands else NOBODY,
            TAKES[self.work.needs],
        )
        return Job(self.key, self.work.name, (step,), self.by)


@dataclass(frozen=True)
class Batch:
    """A batch that is made: for which wants, of what, and its job."""

    wants: tuple[str, ...]
    sauce: str
    grams: float
    result: Assessment
    job: Job


@dataclass(frozen=True)
class Work:
    """All there is to do: what comes out of tubs, what is made, other work."""

    drawn: tuple[Drawn, ...]
    batches: tuple[Batch, ...]
    other: tuple[Job, ...]

    @property
    def jobs(self) -> tuple[Job, ...]:
        """Every job."""
        return (*(batch.job for batch in self.batches), *self.other)


def work(
    wanted: Sequence[Wanted],
    others: Iterable[Other] = (),
    tubs: Sequence[Tub] = (),
    conditions: Conditions = USUAL,
    learned: Mapping[WayName, Mapping[StageName, Learned]] | None = None,
    made: Made | None = None,
) -> Work:
    """What there is to do for what is wanted: first from the shelf, then what is missing.

    Parameters
    ----------
    wanted : what is wanted of sauces.
    others : other work.
    tubs : what there is on the shelf.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    learned : what this kitchen's batches say of its pace, by way of cooking and stage.
    made : what the kitchen has for it, as its churn; schools are each want's own.

    Raises
    ------
    CustardError
        naming the want.
    """
    known, base = learned or {}, made or Made({})
    results: dict[str, Assessment] = {}
    wants, whose = [], {one.key: one for one in wanted}
    for one in wanted:
        try:
            results[one.key] = assess(one.formula, conditions)
            if not one.batch:
                wants.append(Want(one.key, one.sauce, one.grams(conditions), one.at))
        except CustardError as error:
            raise error.at(f"wanted.{one.key}") from None
    lives = {one.sauce: life_min(results[one.key]) for one in wanted}
    drawn, to_make = shared_out(wants, tubs, lives)
    batches = []
    for made_one in (*_on_the_stove(wanted, results), *to_make):
        first = whose[made_one.wants[0]]
        batches.append(_batch(made_one, first, results[first.key], base, known, conditions, whose))
    return Work(drawn, tuple(batches), tuple(_others(others, batches, whose)))


def _on_the_stove(wanted: Sequence[Wanted], results: Mapping[str, Assessment]) -> Iterable[ToMake]:
    """What is made already, as it was weighed; one batch can be for several."""
    by_batch: dict[str, list[Wanted]] = {}
    for one in wanted:
        if one.batch:
            by_batch.setdefault(one.batch, []).append(one)
    for mine in by_batch.values():
        mine.sort(key=lambda one: (one.at, one.key))
        grams = results[mine[0].key].yield_g
        yield ToMake(tuple(one.key for one in mine), mine[0].sauce, grams, mine[0].at)


def _batch(
    to_make: ToMake,
    first: Wanted,
    result: Assessment,
    base: Made,
    learned: Mapping[WayName, Mapping[StageName, Learned]],
    conditions: Conditions,
    whose: Mapping[str, Wanted],
) -> Batch:
    try:
        alone = len(to_make.wants) == 1 and not first.each and abs(to_make.grams - result.yield_g) < 1
        if not first.batch and not alone:
            result = assess(for_finished_g(first.formula, to_make.grams, conditions), conditions)
        how = replace(base, schools=first.schools, learned=learned.get(result.way.name, {}))
        steps = steps_of(result, how)
    except CustardError as error:
        raise error.at(f"wanted.{first.key}") from None
    dishes = list(dict.fromkeys(whose[key].name for key in to_make.wants))
    name = result.formula.name
    if dishes != [name]:
        name = f"{name}, for {' and '.join(dishes)}"
    job = Job(first.key, name, steps, to_make.due, life_min(result), fades_min(result))
    return Batch(to_make.wants, to_make.sauce, to_make.grams, result, job)


def _others(others: Iterable[Other], batches: Iterable[Batch], whose: Mapping[str, Wanted]) -> Iterable[Job]:
    for one in others:
        yield one.job()
    for batch in batches:
        for number, beside in enumerate(batch.result.formula.other_work):
            key = f"{batch.job.key}/{number + 1}"
            yield Other(key, beside, min(whose[want].at for want in batch.wants)).job()


def standing(job: Job, begun: Mapping[str, Begun], pinned: Mapping[str, Begun]) -> Job:
    """The same job with the steps that have begun, and where somebody put one, by their names.

    Parameters
    ----------
    job : a batch, or other work.
    begun : the steps that have begun, by name.
    pinned : where somebody put a step, by name.
    """
    places = {step.step: place for place, step in enumerate(job.steps)}
    return replace(
        job,
        begun={places[name]: one for name, one in begun.items() if name in places},
        pinned={places[name]: one for name, one in pinned.items() if name in places and name not in begun},
    )
