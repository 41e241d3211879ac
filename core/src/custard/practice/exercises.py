"""What can be practised: exercises of our own, and any formula of a Book on a hob nobody knows."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType
from typing import Any

from custard.advice.mix.assess import Assessment, assess
from custard.errors import Impossible, UnknownName, within
from custard.formats import read_formula
from custard.formula import Formula
from custard.larder.families import BOILS, COATS, all_families
from custard.larder.tables import document
from custard.larder.vessels import one_of, pans
from custard.vocabulary import Difficulty, ExerciseKind, HeatName, ProbeKind, Surprise

ASKED = (ExerciseKind.SLIP, ExerciseKind.SCALE, ExerciseKind.SPOONS)
"""Exercises that are a question, not a pan."""
DIFFICULTIES: Mapping[Difficulty, float] = MappingProxyType(
    {Difficulty.GENTLE: 0.1, Difficulty.USUAL: 0.25, Difficulty.HARD: 0.4}
)
"""How far a hidden hob of a formula of the Book may stray from what it is taken for, as a logarithm."""
TEMPERED_C, COLD_START_C = 62.0, 20.0
PASS_AT = 70
USUAL_FLAME = 4.0
LEAST_LAG_S, MOST_LAG_S = 1.0, 60.0


@dataclass(frozen=True)
class Begun:
    """A batch that was made, as it stood at a moment of it, and what really came of it.

    Attributes
    ----------
    from_s : that moment, since it was in the pan [s].
    y : the sauce, as `zones` keeps it.
    power, base : what its hob gives, and the heat of its pan, over what they are taken for [1].
    lit : whether it was on the heat.
    real : (seconds since that moment [s], what was read [degC]), to its end in the pan.
    real_off_s : when it really came off the heat, since that moment [s]; None where nobody said.
    real_bits_percent : what its sieve would have held in the end, percent of the egg.
    """

    from_s: float
    y: tuple[float, ...]
    power: float
    base: float
    lit: bool
    real: tuple[tuple[float, float], ...]
    real_off_s: float | None
    real_bits_percent: float


@dataclass(frozen=True)
class Exercise:
    """Something to practise.

    Attributes
    ----------
    key : its name in the table; "" for one that a kitchen made.
    tell, why : what to do, and by which sign; why it matters.
    formula : what is in the pan.
    pan : the kind of pan; a bowl over steam has none to choose.
    start_c : where it starts [degC].
    power : least and most of what the hob gives over what it is taken for [1].
    spread : how far pan and stirring stray, as a logarithm.
    surprise : it comes when it comes.
    probe : hidden until it is asked for, or given.
    lag_s : how far the probe lags [s].
    signs : what passing it teaches.
    must : what may not lose more than a third of its points, whatever the sum.
    begun : the batch that is cooked again from a moment of it; None for what begins at its beginning.
    """

    key: str
    name: str
    kind: ExerciseKind
    tell: str
    why: str
    formula: Formula
    pan: str = "clad"
    start_c: float = TEMPERED_C
    power: tuple[float, float] = (1.0, 1.0)
    spread: float = 0.08
    surprise: Surprise = Surprise.NONE
    probe: ProbeKind = ProbeKind.HIDDEN
    lag_s: float = 5.0
    signs: tuple[str, ...] = ()
    must: tuple[str, ...] = ()
    begun: Begun | None = None

    def __post_init__(self) -> None:
        one_of("pan", self.pan, tuple(pans()))
        within("lag_s", self.lag_s, LEAST_LAG_S, MOST_LAG_S)

    @property
    def over_steam(self) -> bool:
        """Whether it is cooked in a bowl over steam."""
        return all_families()[self.formula.family].heat == HeatName.STEAM


@dataclass(frozen=True)
class SignText:
    """A sign, and what it is called as it goes on."""

    sign: str
    name: str
    shown: tuple[str, ...]


@cache
def _texts() -> Mapping[str, Any]:
    return document("exercises")


@cache
def signs() -> Mapping[str, SignText]:
    """Every sign that can be learned."""
    rows = _texts()["sign"].items()
    return MappingProxyType({key: SignText(key, row["name"], tuple(row["shown"])) for key, row in rows})


def sentence(reason: str, values: Mapping[str, str]) -> str:
    """Why points were lost, filled from what happened."""
    return str(_texts()["reason"][reason]).format_map(values)


def said(event: str) -> str:
    """What is said when something happens."""
    return str(_texts()["event"][event])


@cache
def exercises() -> Mapping[str, Exercise]:
    """The exercises of our own, in the order in which they are learned."""
    return MappingProxyType({key: _exercise(key, row) for key, row in _texts()["exercise"].items()})


def _exercise(key: str, row: Mapping[str, Any]) -> Exercise:
    return Exercise(
        key=key,
        name=row["name"],
        kind=ExerciseKind(row["kind"]),
        tell=row["tell"],
        why=row["why"],
        formula=mix_named(row.get("mix", "anglaise")),
        pan=row.get("pan", "clad"),
        start_c=row.get("start_c", TEMPERED_C),
        power=tuple(row.get("power", (1.0, 1.0))),
        spread=row.get("spread", 0.08),
        surprise=Surprise(row.get("surprise", "")),
        probe=ProbeKind(row.get("probe", "hidden")),
        lag_s=row.get("lag_s", 5.0),
        signs=tuple(row["signs"]),
        must=tuple(row.get("must", ())),
    )


@cache
def mix_named(name: str) -> Formula:
    """One of the mixes that exercises are cooked from."""
    row = _texts()["mix"][name]
    lines = [{"ingredient": ingredient, "amount": amount} for ingredient, amount in row["lines"]]
    kept = {"format": "old-spoon/formula", "version": 1, "name": row["name"], "family": row["family"]}
    return read_formula({**kept, "lines": lines})


def exercise(key: str) -> Exercise:
    """One of our own.

    Parameters
    ----------
    key : its name in the table.

    Raises
    ------
    UnknownName
        when there is none of that name.
    """
    if key not in exercises():
        raise UnknownName("exercise", key, "is no exercise of ours", f"There are: {', '.join(exercises())}.")
    return exercises()[key]


def near_boil(result: Assessment) -> bool:
    """Whether a sauce is taken near the boil for its starch, though it is not held there."""
    from_percent = result.conditions.parameters.cook.boils_from_percent
    return result.way is COATS and float(result.pan.starch_in_aqueous_percent) >= from_percent


def of_formula(
    formula: Formula,
    difficulty: Difficulty = Difficulty.USUAL,
    pan: str = "clad",
    surprise: Surprise = Surprise.NONE,
    probe: ProbeKind = ProbeKind.HIDDEN,
    name: str = "",
    tell: str = "",
) -> Exercise:
    """A formula of the Book on a hidden hob, with what a chef chose for it.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    difficulty : how far the hidden hob strays.
    pan : the kind of pan.
    surprise : what may happen besides.
    probe : whether it is shown what the probe reads.
    name : what it is called; "" for as the formula.
    tell : text shown at the start; "" for the usual.

    Raises
    ------
    Impossible
        when it is set in the oven: there is nothing to stir.
    """
    family = all_families()[formula.family]
    if family.way.in_the_oven:
        raise Impossible("formula", formula.name, "is set in the oven", "Choose one that is stirred.")
    strays = DIFFICULTIES[difficulty]
    # Whether it boils is asked of the mix, as at the Stove.
    result = assess(formula)
    way = result.way
    like = "sabayon" if way.foams else "turn" if way is BOILS else "nappe"
    model = exercise(like)
    cold = family.way.foams or family.temper in ("none", "")
    return Exercise(
        key="",
        name=name or formula.name,
        kind=ExerciseKind.STOVE,
        tell=tell or (_texts()["tell"]["near-boil"] if near_boil(result) else model.tell),
        why=model.why,
        formula=formula,
        pan=pan,
        start_c=COLD_START_C if cold else TEMPERED_C,
        power=(float(1 - strays), float(1 + strays)),
        spread=strays / 2,
        surprise=surprise,
        probe=probe,
        signs=model.signs,
        must=model.must,
    )
