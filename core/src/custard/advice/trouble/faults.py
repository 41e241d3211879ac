"""What can be seen when something has gone wrong: the words for it, the questions, and the causes."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cache
from types import MappingProxyType
from typing import Any

from custard.advice.finish.kinds import kind_of
from custard.advice.mix.assess import Assessment
from custard.advice.mix.window import EGGLESS_PERCENT
from custard.errors import Impossible, OutOfRange, within
from custard.larder.tables import document
from custard.larder.vessels import one_of
from custard.process.cooling.chocolate import under
from custard.vocabulary import When


@dataclass(frozen=True)
class Figure:
    """A figure of a story: its unit, between what it can be, and what it is."""

    unit: str
    least: float
    most: float
    what: str


@dataclass(frozen=True)
class Ask:
    """A question by its name: its answers in words, each with the figures it stands for.

    `always`: it is asked whatever the curve says, as the remedy goes by it.
    """

    question: str
    ask: str
    answers: tuple[tuple[str, Mapping[str, float]], ...]
    always: bool = False

    @property
    def figures(self) -> tuple[str, ...]:
        """The figures that it asks for."""
        return tuple(dict.fromkeys(figure for _, sets in self.answers for figure in sets))


@dataclass(frozen=True)
class CauseText:
    """One cause as the table has it; fields as described there."""

    cause: str
    say: str
    next: str
    usual: float
    tells: Mapping[str, tuple[float, float]]
    makes: Mapping[str, float] = field(default_factory=dict)
    school: tuple[str, str] | None = None
    change: str = ""


@dataclass(frozen=True)
class Fault:
    """One thing that is seen; `where` says in what it can be met, `unknown` what is not computed of it."""

    fault: str
    name: str
    where: str
    asks: Mapping[str, Ask]
    causes: Mapping[str, CauseText]
    unknown: str = ""


@cache
def figures() -> Mapping[str, Figure]:
    """The figures a story can be told in, by name."""
    return MappingProxyType({name: Figure(**row) for name, row in document("story").items()})


@cache
def faults() -> Mapping[str, Fault]:
    """Everything that can be seen, in the order in which it is asked for.

    Raises
    ------
    KeyError
        when a cause or a question goes by a figure that no story has.
    """
    return MappingProxyType({name: _fault(name, row) for name, row in document("trouble").items()})


def _fault(name: str, row: Mapping[str, Any]) -> Fault:
    asks = {question: _ask(question, one) for question, one in row["asks"].items()}
    causes = {
        cause: CauseText(
            cause=cause,
            say=one["say"],
            next=one["next"],
            usual=one["usual"],
            tells={figure: (middle, width) for figure, (middle, width) in one["tells"].items()},
            makes=one.get("makes", {}),
            school=tuple(one["school"]) if "school" in one else None,
            change=one.get("change", ""),
        )
        for cause, one in row["causes"].items()
    }
    asked = (figure for one in asks.values() for figure in one.figures)
    for figure in (*asked, *(figure for one in causes.values() for figure in one.tells)):
        if figure not in figures():
            raise KeyError(figure)
    return Fault(name, row["name"], row["where"], asks, causes, row.get("unknown", ""))


def _ask(question: str, row: Mapping[str, Any]) -> Ask:
    answers = tuple(
        (say, sets if isinstance(sets, Mapping) else {question: sets}) for say, sets in row["answers"]
    )
    return Ask(question, row["ask"], answers, "always" in row)


def fault_of(name: str) -> Fault:
    """One of them by name.

    Parameters
    ----------
    name : its name in the table.

    Raises
    ------
    UnknownName
        when nothing of that name is seen.
    """
    one_of("seen", name, faults())
    return faults()[name]


def must_be_figures(told: Mapping[str, float]) -> None:
    """Refuse what no story can be told in.

    Raises
    ------
    UnknownName, OutOfRange
        when a figure is none, or cannot be so large or small.
    """
    for name, value in told.items():
        one_of("told", name, figures())
        known = figures()[name]
        try:
            within(name, value, known.least, known.most)
        except OutOfRange as error:
            raise error.at("told") from None


def _has_egg(result: Assessment) -> bool:
    return float(result.pan.egg_protein_percent) >= EGGLESS_PERCENT


_WHERE: Mapping[str, Callable[[Assessment], bool]] = {
    "any": lambda _: True,
    "pan": lambda one: not one.way.in_the_oven,
    "stirred": lambda one: not one.way.in_the_oven,
    "stirred with egg": lambda one: _WHERE["stirred"](one) and _has_egg(one),
    "starch with yolk": lambda one: _WHERE["starch"](one) and one.formula.yolks() > 0,
    "steam": lambda one: not one.way.in_the_oven,
    "foam": lambda one: one.way.foams,
    "cups": lambda one: one.way.in_the_oven,
    "starch": lambda one: one.pan.starch_in_aqueous_percent > 0,
    "yolk": lambda one: one.formula.yolks() > 0,
    "egg": lambda one: _has_egg(one) and not one.way.foams,
    "folds": lambda one: any(
        kind_of(line) == "fold-whipped" for _, line, _ in one.formula.joining(When.FOLDED)
    ),
    "chocolate": lambda one: under(one.formula) is not None,
    "churned": lambda one: one.family.churned,
    "crust": lambda one: one.formula.family == "burnt-cream" or bool(one.formula.joining(When.ON_TOP)),
}


def met(result: Assessment, fault: Fault) -> bool:
    """Whether a formula is such that this can be met in it.

    Parameters
    ----------
    result : an assessed formula.
    fault : one row of the table of faults.
    """
    return _WHERE[fault.where](result)


def must_be_met(result: Assessment, fault: Fault) -> None:
    """Refuse a fault that this mix cannot have.

    Raises
    ------
    Impossible
        saying what it would take.
    """
    if not met(result, fault):
        raise Impossible(
            "seen",
            fault.name,
            f"cannot be in {result.formula.name}: {_TAKES[fault.where]}",
            "Choose what else is seen.",
        )


_TAKES: Mapping[str, str] = {
    "pan": "it is baked, not cooked in a pan",
    "stirred": "it takes a sauce that is stirred in its pan or its bowl",
    "stirred with egg": "it takes a stirred sauce with egg in it",
    "steam": "it takes a pan or a bowl",
    "foam": "it takes a foam",
    "cups": "it takes cups in an oven",
    "starch": "there is no starch in it",
    "starch with yolk": "it takes starch and yolk together",
    "yolk": "there is no yolk in it",
    "egg": "there is no egg in it that sets",
    "folds": "nothing whipped is folded into it",
    "chocolate": "it is poured onto no chocolate",
    "churned": "it is not churned",
    "crust": "it has no crust of sugar",
}
"""What each asks of a mix, for one that has it not."""
