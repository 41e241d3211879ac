"""A mix as thick as it is wanted, by the ways of the trade: yolk, starch, cream, each within bounds."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import replace
from math import floor

from custard.advice.bench.limits import Limits, starch_line_g
from custard.advice.bench.search import Search, always
from custard.advice.bench.solve import (
    OutOfReach,
    Solution,
    close,
    in_words,
    must_have_yolk,
    solution,
    texture_pa,
    well_cooked,
    with_starch,
)
from custard.advice.mix.assess import assess
from custard.conditions import USUAL, Conditions
from custard.errors import CustardError, NoTime, OutOfRange, within
from custard.formula import Formula, Line
from custard.larder.ingredients import MILK_KG_L, ingredient
from custard.physics.texture import word
from custard.process.heating.state import State, on_ramp
from custard.quantities import Quantity
from custard.vocabulary import Coat

TARGETS: dict[str, float] = {
    "thin coat": 0.9,
    "nappe": 3.0,
    "heavy coat": 11.0,
    "spoonable": 35.0,
    "pipeable": 120.0,
}
"""Yield stress [Pa] aimed at for each word."""
LEAST_YOLK_TIMES, MOST_YOLK_TIMES = 0.15, 2.0
"""How far the yolk is changed, unless somebody asks for so many; twice what is there is another recipe."""
MOST_ASKED_TIMES = 6.0
"""How far the yolk goes where somebody asks for so many."""
FEWER_TIMES = 2 / 3
"""Yolk that is left where starch stands in for the rest."""
MOST_YOLK_G_L = 400.0
"""Yolk to a litre of dairy [g]; richer than the richest creams, as remembered."""
MOST_STARCH_SHARE = 0.10
"""Starch of the whole [1]; more sets like a block, as remembered."""
ROUNDS = 40
A_LITTLE_MORE = 0.02
"""So much of the way further a limit is surely passed that bound."""
LEAST_FURTHER_K = 0.3
"""Less far past its stop is not another way to cook it: nobody lifts so finely."""
AS_IT_IS, COOKED_ON = "as it is", "cooked on"
NEARLY_WHOLE = 0.15
"""So near a whole yolk, a whole one is taken."""
CREAM = "whipping-cream-36"
YOLK = "egg-yolk"

Way = Callable[[float], Formula]


def for_texture(
    formula: Formula,
    wanted: Coat,
    at_c: float,
    limits: Limits | None = None,
    conditions: Conditions = USUAL,
    go_on: Callable[[], bool] = always,
) -> Solution:
    """The way to a texture that changes the formula least; see `ways_to_texture`.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    wanted : how thick it is to be.
    at_c : temperature at which it is looked at [degC], 0 to 100.
    limits : what it may not exceed; None for nothing.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    go_on : asked now and then; once it says no, what was found so far is the answer. None for no limit.
    """
    return next(iter(ways_to_texture(formula, wanted, at_c, limits, conditions, go_on).values()))


def ways_to_texture(
    formula: Formula,
    wanted: Coat,
    at_c: float,
    limits: Limits | None = None,
    conditions: Conditions = USUAL,
    go_on: Callable[[], bool] = always,
) -> Mapping[str, Solution]:
    """Every way in which the sauce is as wanted at a serving temperature [degC], by what is changed: the one
    that changes the fewest grams first.

    Each is computed again as it is written. Once `go_on` says no, the best so far is taken, where it is
    nearer to what is wanted than what is there.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    go_on : asked now and then; once it says no, what was found so far is the answer. None for no limit.
    wanted : a word of `TARGETS`
    at_c : where it is served [degC]
    limits : what may not be passed; without one of its own, yolk keeps the bounds of the trade

    Raises
    ------
    Impossible
        when no way within the limits does it; says the nearest that can be had.
    NoTime
        when `go_on` said no before anything nearer was found.
    """
    if wanted not in TARGETS:
        raise OutOfRange("texture", wanted, f"must be one of {', '.join(TARGETS)}")
    within("at_c", at_c, -2, 95)
    formula = formula.under(conditions)
    must_have_yolk(formula, "texture")
    look = _Look(formula, wanted, at_c, limits or Limits(), conditions, Search(go_on))
    found = look.as_weighed()
    missed: list[tuple[float, Solution]] = []
    refused: CustardError | None = None
    for title, way, low, high in look.ways():
        if look.ended():
            break
        try:
            changed, binds = look.along(way, low, high)
        except CustardError as error:
            refused = refused or error
            continue
        described = replace(solution(formula, changed, at_c, conditions, look.search), binds=binds)
        stress = look.stress(changed)
        if close(stress, look.goal) or (look.ended() and look.nearer(stress)):
            found[title] = described
        elif not look.ended():
            missed.append((stress, described))
    if found:
        return dict(sorted(found.items(), key=lambda one: _grams_between(formula, one[1].formula)))
    if look.ended():
        raise NoTime("texture", wanted, "needs more time to be looked for", "Ask again in a moment.")
    if not missed:
        assert refused is not None  # noqa: S101 every way was found, missed or refused
        raise refused
    stress, nearest = min(missed, key=lambda one: abs(one[0] - look.goal))
    limit = (
        "is thinner than this mix can be made" if stress > look.goal else "needs more than the limits allow"
    )
    binds = nearest.binds or next((one.binds for _, one in missed if one.binds), "")
    raise OutOfReach.by("texture", wanted, limit, replace(nearest, binds=binds))


class _Look:
    """One question: what can be changed, how far, and what comes of it."""

    def __init__(
        self,
        formula: Formula,
        wanted: Coat,
        at_c: float,
        limits: Limits,
        conditions: Conditions,
        search: Search,
    ) -> None:
        self.formula, self.wanted, self.goal, self.at_c = formula, wanted, TARGETS[wanted], at_c
        self.limits, self.conditions, self.search = limits, conditions, search
        self.now_pa = self.stress(formula)
        self.thicker = self.now_pa < self.goal

    def stress(self, changed: Formula) -> float:
        return texture_pa(assess(changed, self.conditions), self.at_c)

    def ended(self) -> bool:
        """Whether the time to look further is over."""
        return self.search.cut_short

    def nearer(self, stress: float) -> bool:
        """Whether a yield stress [Pa] is nearer to what is wanted than that of what is there."""
        return abs(stress - self.goal) < abs(self.now_pa - self.goal)

    def as_weighed(self) -> dict[str, Solution]:
        """The mix as it is, where it is as wanted at its stop, or where lifting it later alone makes it so.

        Whatever is boiled or sets undisturbed is not lifted sooner or later for its texture.
        """
        result = assess(self.formula, self.conditions)
        stop, furthest = result.stop, well_cooked(result)
        if stop.boiled or result.way.undisturbed or self.limits.broken_by(self.formula) is not None:
            return {}

        course = result.course()

        def taken(at_c: float) -> State:
            return on_ramp(result.pan, course, at_c, self.conditions.parameters)

        def stress(at_c: float) -> float:
            return texture_pa(result, self.at_c, taken(at_c))

        if word(stress(stop.at_c)) == self.wanted:
            words = in_words(result, self.at_c, stop)
            return {AS_IT_IS: Solution(self.formula, (), words, lift_c=round(stop.at_c, 1))}
        least_c = stop.at_c + LEAST_FURTHER_K
        most = stress(furthest.at_c) if furthest.at_c >= least_c else 0.0
        if stress(least_c) >= self.goal or (most < self.goal and word(most) != self.wanted):
            return {}
        lift_c = Search().where(stress, self.goal, least_c, furthest.at_c)
        change = f"lift it at {{{lift_c:.1f} C}} instead of {{{stop.at_c:.1f} C}}"
        words = in_words(result, self.at_c, taken(lift_c))
        return {COOKED_ON: Solution(self.formula, (change,), words, lift_c=round(lift_c, 1))}

    def ways(self) -> Iterator[tuple[str, Way, float, float]]:
        """What may be changed, from the least of it to the most; what thins takes starch out first."""
        yolks = self.formula.yolks()
        most_times = self._most_yolk_times(yolks)
        starch_g = starch_line_g(self.formula)
        all_starch_g = MOST_STARCH_SHARE * self.formula.mass_g()
        if starch_g > 0 or self.thicker:
            yield "with starch", self._starch_to, 0.0, max(all_starch_g, starch_g)
        yield "with yolk", self._yolk_times, LEAST_YOLK_TIMES, most_times
        if self.thicker and self._milks():
            yield "with cream", self._cream_share, 0.0, 1.0
        if self.limits.broken_by(self.formula) is not None:
            # As much yolk as the limits let it have, and starch for the rest.
            most = self._furthest(self._yolk_times, LEAST_YOLK_TIMES, most_times)
            yield "with yolk and starch", lambda g: self._starch_to(g, most), 0.0, all_starch_g
        elif self.thicker:
            fewer = min(most_times, FEWER_TIMES)
            yield "with fewer yolks and starch", lambda g: self._starch_to(g, fewer), 0.0, all_starch_g

    def _most_yolk_times(self, yolks: float) -> float:
        if self.limits.max_yolks is not None:
            return max(LEAST_YOLK_TIMES, min(MOST_ASKED_TIMES, self.limits.max_yolks / yolks))
        dairy_l = self.formula.dairy_g() / 1000 / MILK_KG_L
        yolk_g = yolks * self.formula.egg_size.yolk_g
        by_dairy = MOST_YOLK_G_L * dairy_l / yolk_g if dairy_l > 0 else MOST_YOLK_TIMES
        return max(1.0, min(MOST_YOLK_TIMES, by_dairy))

    def along(self, way: Way, low: float, high: float) -> tuple[Formula, str]:
        """What comes nearest one way, and which limit stopped it; "" where none did."""
        furthest = self._furthest(way, low, high)
        at = self.search.where(lambda amount: self.stress(way(amount)), self.goal, low, furthest)
        found, binds = way(at), ""
        if not close(self.stress(found), self.goal) and furthest < high:
            broken = self.limits.broken_by(way(furthest + A_LITTLE_MORE * (high - furthest)))
            binds = "" if broken is None else broken.bound
        return self._counted(found), binds

    def _counted(self, found: Formula) -> Formula:
        """With whole yolks where they are counted, as near to whole as still gives what was found."""
        was = self.stress(found)
        for nearly in (NEARLY_WHOLE, 0.0):
            whole = with_whole_yolks(found, nearly)
            if self.limits.broken_by(whole) is None and close(self.stress(whole), was):
                return whole
        return found

    def _furthest(self, way: Way, low: float, high: float) -> float:
        """The most of something that keeps the limits, which it must at the least of it."""
        if self.limits.broken_by(way(high)) is None:
            return high
        broken = self.limits.broken_by(way(low))
        if broken is not None:
            raise broken
        for _ in range(ROUNDS):
            middle = (low + high) / 2
            low, high = (middle, high) if self.limits.broken_by(way(middle)) is None else (low, middle)
        return low

    def _yolk_times(self, times: float) -> Formula:
        return self.formula.with_yolks_times(times)

    def _starch_to(self, grams: float, yolk_times: float = 1.0) -> Formula:
        """So much starch in all [g]: of the kinds that are in it, else cornstarch."""
        formula = self.formula.with_yolks_times(yolk_times)
        there = starch_line_g(formula)
        if there <= 0:
            return with_starch(formula, grams)
        lines = []
        for line in formula.lines:
            if line.ingredient.group != "starch":
                lines.append(line)
            elif grams > 0:
                quantity = line.quantity.times(grams / there)
                lines.append(replace(line, quantity=quantity, amount=quantity.text()))
        return replace(formula, lines=tuple(lines))

    def _milks(self) -> bool:
        return any(_is_plain_milk(line) for line in self.formula.lines)

    def _cream_share(self, share: float) -> Formula:
        """So much of its milk replaced by cream, gram for gram [1]."""
        lines: list[Line] = []
        cream_g = 0.0
        for line, grams in zip(self.formula.lines, self.formula.weights_g(), strict=True):
            if not _is_plain_milk(line):
                lines.append(line)
                continue
            cream_g += share * grams
            if share < 1:
                quantity = line.quantity.times(1 - share)
                lines.append(replace(line, quantity=quantity, amount=quantity.text()))
        if cream_g > 0:
            quantity = Quantity(cream_g, "g")
            lines.insert(0, Line(ingredient(CREAM), quantity.text(), quantity))
        return replace(self.formula, lines=tuple(lines))


def _is_plain_milk(line: Line) -> bool:
    """Fresh milk that is heated: what cream can stand in for."""
    return line.ingredient.is_milk and line.join.heated and line.ingredient.composition["fat"] < 10


def with_whole_yolks(formula: Formula, nearly: float = NEARLY_WHOLE) -> Formula:
    """Yolks that are counted come whole; what is more than so many whole ones is weighed in grams.

    `nearly` is the share of a yolk that is left out, or made up to a whole one [1].
    """
    lines: list[Line] = []
    for line in formula.lines:
        number = line.quantity.number
        if line.ingredient.id != YOLK or line.quantity.unit or number == floor(number):
            lines.append(line)
            continue
        over = number - floor(number)
        count = floor(number) + (over >= 1 - nearly)
        if count:
            lines.append(replace(line, quantity=Quantity(count, ""), amount=Quantity(count, "").text()))
        if not count or nearly < over < 1 - nearly:
            quantity = Quantity(round(over * formula.egg_size.yolk_g, 1), "g")
            lines.append(replace(line, quantity=quantity, amount=quantity.text()))
    return replace(formula, lines=tuple(lines))


def _grams_between(before: Formula, after: Formula) -> float:
    """How many grams of how many things differ [g]."""
    there: dict[str, float] = {}
    for formula, sign in ((before, -1.0), (after, 1.0)):
        for line, grams in zip(formula.lines, formula.weights_g(), strict=True):
            there[line.ingredient.name] = there.get(line.ingredient.name, 0.0) + sign * grams
    return sum(map(abs, there.values()))
