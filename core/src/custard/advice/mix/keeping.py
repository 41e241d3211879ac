"""How long it keeps in the cold: by its family, and by what was really done to it."""

from __future__ import annotations

from dataclasses import dataclass

from custard.errors import within
from custard.figures import Tenths
from custard.formula import Formula
from custard.larder.families import Family
from custard.larder.ingredients import Ingredient
from custard.process.whisking.folding import BUTTER, CHEESE, WHIPPED, fold_kind
from custard.vocabulary import When

KILLED_C = 70.0
"""Cooked to less than this, too few germs are killed and it is eaten the same day; as remembered."""
RAW_DAYS = 2.0
"""Raw milk, cream or fruit that joins after the heat brings its own germs; an estimate on the safe side."""
CHILLED_FOAM_DAYS = 1.0
"""A foam that something holds (chocolate, gelatine, cream folded in) stands a day in the cold; two are
common, one is on the safe side, as remembered."""
RAW_EGG_DAYS = 1.0
"""Raw egg that joins after the heat may bring Salmonella, which no heat then reaches: 24 h in the cold at
most; kitchen rule as remembered, on the safe side."""
HOLDS = (WHIPPED, BUTTER, CHEESE)
"""What holds a foam in the cold once it is folded in."""
SWEET_PERCENT = 40.0
"""Sugars in the aqueous phase that a family must have to be given more than `USUAL_DAYS`."""
USUAL_DAYS = 3.0
SOUR_PERCENT = 0.5
"""Acid of a flavouring from which it is a juice, pressed and not boiled; an estimate."""


@dataclass(frozen=True)
class Keeping:
    """Days it keeps chilled, at most, and why no longer; local rules and a kitchen's own plan come first."""

    days: Tenths
    why: str


def keeping(
    formula: Formula,
    family: Family,
    hottest_c: float,
    sugars_percent: float,
    *,
    cooled: bool = True,
) -> Keeping:
    """How long a mix keeps chilled.

    Parameters
    ----------
    formula : what it is made of
    family : what it is
    hottest_c : the warmest it was all through [degC]
    sugars_percent : sugars in the aqueous phase [%]
    cooled : whether it was cooled in the time its rule gives

    Raises
    ------
    OutOfRange
        when the temperature cannot be.
    """
    within("hottest_c", hottest_c, 0, 150)
    if not cooled:
        return Keeping(0.0, "cooled too slowly: discard it")
    found = [Keeping(family.keeps_days, f"usual for {family.name}")]
    if family.way.foams and not served_at_once(formula, family):
        found = [Keeping(CHILLED_FOAM_DAYS, f"usual for a chilled {family.name}")]
    if family.keeps_days > USUAL_DAYS and sugars_percent < SWEET_PERCENT:
        found.append(Keeping(USUAL_DAYS, "with too little sugar to keep longer"))
    if joins_raw(formula):
        found.append(Keeping(RAW_DAYS, "as something raw joins after the heat"))
    if any(line.join.finishes and line.ingredient.group == "egg" for line in formula.lines):
        found.append(Keeping(RAW_EGG_DAYS, "as raw egg joins after the heat"))
    if hottest_c < KILLED_C:
        found.append(Keeping(0.0, f"cooked to less than {{{KILLED_C:.0f} C}}"))
    return min(found, key=lambda one: one.days)


def served_at_once(formula: Formula, family: Family) -> bool:
    """Whether a mix is a foam that nothing holds: it weeps as it stands, and is served as it is made.

    Chocolate and gelatine hold it, and the fat of whipped cream, butter or fresh cheese folded in when it is
    cool; then it is chilled. A purée, nuts or whipped white hold nothing.
    """
    if not family.way.foams:
        return False
    late = [line for line in formula.lines if line.join.finishes]
    return not any(
        line.ingredient.is_chocolate
        or line.ingredient.bloom > 0
        or (line.when == When.FOLDED and fold_kind(line.ingredient) in HOLDS)
        for line in late
    )


def joins_raw(formula: Formula) -> tuple[str, ...]:
    """What joins raw after the heat, by name.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    """
    late = (line.ingredient for line in formula.lines if line.join.finishes)
    return tuple(dict.fromkeys(thing.name for thing in late if _raw(thing)))


def _raw(joins: Ingredient) -> bool:
    """Egg, milk, cream, fresh cheese, fruit, juice; butter, extract, spirit, sugar and chocolate are not."""
    pressed = joins.group == "flavour" and joins.composition["acid"] >= SOUR_PERCENT
    fresh = joins.group == "dairy" and not joins.is_butter
    return joins.group in ("egg", "fruit") or fresh or pressed
