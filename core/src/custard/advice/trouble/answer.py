"""Trouble in one answer: what happened, what to ask, what to do now, what it then is, and what to change."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from custard.advice.after.life import Life, life
from custard.advice.bench.schools import question_name, school_name
from custard.advice.bench.search import Search
from custard.advice.mix.assess import Assessment, assess
from custard.advice.mix.churning import FREEZES_SHARE, draws_share
from custard.advice.mix.window import Window
from custard.advice.trouble.diagnose import Cause, Question, diagnose, questions
from custard.advice.trouble.faults import CauseText, fault_of, figures, must_be_told
from custard.advice.trouble.remedies import Added, Rescued, rescued, there_is_g
from custard.advice.trouble.story import Points, Story, suppose, told, untold
from custard.conditions import USUAL, Conditions
from custard.figures import Grams, TenthsCelsius, WholeSeconds
from custard.formula import Formula, Line
from custard.larder.ingredients import ingredient
from custard.physics.texture import NAPPE_PA
from custard.process.chocolate import milk_to_shine_g
from custard.quantities import Quantity

CODES_FIRST = "Local food rules and trained people come first; when in doubt throw it away."
MOST_TIMES = 4.0
NEARLY = 0.01
"""So near its goal a search counts as there."""


@dataclass(frozen=True)
class Happened:
    """What happened: time [s], temperature [degC]; `read`, or only as it goes when such a thing happens.

    `window`, `stop_c`, `boiling_c` : what it was to be [degC].
    """

    t_s: tuple[float, ...]
    c: tuple[float, ...]
    read: bool
    off_s: WholeSeconds | None
    window: Window
    stop_c: TenthsCelsius
    boiling_c: TenthsCelsius


@dataclass(frozen=True)
class Change:
    """What of the formula to change next time: a line, from what to what [g], or a school of cooks.

    Attributes
    ----------
    kind : "line" or "school".
    say : the change in words.
    ingredient, from_g, to_g : for a line.
    question, answer : for a school.
    """

    kind: str
    say: str
    ingredient: str = ""
    from_g: Grams = 0.0
    to_g: Grams = 0.0
    question: str = ""
    answer: str = ""


@dataclass(frozen=True)
class Afterwards:
    """What it will be once the remedy is done: the formula with what is added, how much, and how it keeps.

    `window`, `stop_c`, `boiling_c` : of the mix it then is [degC].
    """

    window: Window
    stop_c: TenthsCelsius
    boiling_c: TenthsCelsius
    yields_g: Grams
    life: Life
    allergens: tuple[str, ...]
    formula: Formula


@dataclass(frozen=True)
class Answer:
    """Everything that is said of one trouble; `unsafe` is why it is thrown away whatever else is said."""

    fault: str
    name: str
    causes: tuple[Cause, ...]
    questions: tuple[Question, ...]
    now: Rescued
    after: Afterwards
    curve: Happened | None
    change: Change | None
    unknown: str
    unsafe: str = ""
    caution: str = CODES_FIRST


def answer(
    result: Assessment,
    fault: str,
    story: Story | None = None,
    said: Mapping[str, float] | None = None,
    have_g: float | None = None,
    unsafe: str = "",
) -> Answer:
    """What is said of a fault that is seen.

    Parameters
    ----------
    result : the formula, as assessed.
    story : what is known of how it was cooked; nothing by default.
    said : what a cook answered, by the figures of `faults.figures`.
    have_g : how much of it there is [g]; all that reaches the jug by default.
    unsafe : why it must be thrown away, where that is known; no remedy makes it safe.

    Raises
    ------
    UnknownName, OutOfRange
        when nothing of that name is seen, or a figure cannot be.
    """
    found, said = fault_of(fault), said or {}
    must_be_told(said)
    before = untold(result) if story is None else story
    asked = questions(result, fault, before, said)
    now = told(result, before, said)
    if not now.read:
        # Without a curve the likeliest cause says how such a cook goes; the causes stay as unsure.
        first = found.causes[diagnose(result, fault, now)[0].cause]
        happened = told(result, _supposed(result, first, now, said), said)
        assumed = {name: value for name, value in first.makes.items() if name in figures()}
        happened = replace(happened, figures={**assumed, **happened.figures})
    else:
        happened = now
    causes = diagnose(result, fault, now)
    words = diagnose(result, fault, _both(now, happened))
    causes = _worded(causes, words)
    remedy = rescued(result, fault, happened, causes[0].cause, have_g)
    unsafe = unsafe or _stood_too_warm(result, happened)
    if unsafe:
        remedy = Rescued(
            saved="no",
            say="Throw it away",
            steps=(unsafe, "No remedy makes it safe again."),
            becomes=remedy.becomes,
            wanted=remedy.wanted,
            curdled=remedy.curdled,
        )
    return Answer(
        fault=fault,
        name=found.name,
        causes=causes,
        questions=asked,
        now=remedy,
        after=afterwards(result, remedy, there_is_g(result, fault) if have_g is None else have_g),
        curve=_curve(result, happened),
        change=change(result, found.causes[causes[0].cause]),
        unknown=found.unknown,
        unsafe=unsafe,
    )


def _stood_too_warm(result: Assessment, story: Story) -> str:
    """Why a sauce that was kept warm for so long is thrown away; "" where it was not."""
    known = life(result)
    hours = story.known("warm_h", 0.0)
    if hours <= known.warm_h:
        return ""
    return (
        f"It was kept warm for {hours:.0f} h; at {{{known.warm_c:.0f} C}} or more it is good for "
        f"{known.warm_h:.1f} h, and cooler for less."
    )


def rescue(
    formula: Formula,
    fault: str,
    have_g: float | None = None,
    over_k: float = 3.0,
    conditions: Conditions = USUAL,
) -> Answer:
    """The same of a formula of which nobody knows more than how far it went.

    `over_k` says how far a split sauce has been above its curdling temperature, or a thick one above its
    stop [K].

    Raises
    ------
    UnknownName, OutOfRange
        when the fault or an amount cannot be.
    """
    result = assess(formula, conditions)
    said: dict[str, float] = {}
    if fault == "too-thick":
        said["over_stop_k"] = over_k
    if fault == "split":
        limit_c = result.window.curdles_c or result.boiling_c
        said["over_stop_k"] = limit_c + over_k - result.stop.at_c
    return answer(result, fault, said=said, have_g=have_g)


def _supposed(result: Assessment, first: CauseText, now: Story, said: Mapping[str, float]) -> Story:
    """A cook as such a cause makes it; where the cause makes no cook, as planned and drawn nowhere."""
    cooked = {"over_stop_k", "stood_s", "gap_s", "boiled_s", "out_over_s", "baths_c"} & set(said)
    if not (first.makes or cooked):
        return now
    return suppose(result, said, first.makes)


def _both(now: Story, happened: Story) -> Story:
    """What is known, and for words what is only supposed."""
    return replace(now, figures={**happened.figures, **now.figures})


def _worded(causes: tuple[Cause, ...], words: tuple[Cause, ...]) -> tuple[Cause, ...]:
    """The causes in their order and as sure as they are, in the fuller words."""
    by_name = {one.cause: one for one in words}
    return tuple(replace(one, say=by_name[one.cause].say, next=by_name[one.cause].next) for one in causes)


def _curve(result: Assessment, story: Story) -> Happened | None:
    points: Points = story.curve
    if not points:
        return None
    return Happened(
        t_s=tuple(t for t, _ in points),
        c=tuple(c for _, c in points),
        read=story.read,
        off_s=story.off_s,
        window=result.window,
        stop_c=result.stop.at_c,
        boiling_c=result.boiling_c,
    )


def afterwards(result: Assessment, remedy: Rescued, have_g: float) -> Afterwards:
    """What a remedy leaves: the formula with its lines, how much there is of it, how it keeps."""
    formula = with_added(result.formula, remedy.add, result.sauce_g / max(have_g, 1e-6))
    changed = formula is not result.formula
    found = assess(formula, result.conditions) if changed else result
    more_g = sum(one.grams for one in remedy.add if not one.anew)
    hottest = max(result.stop.at_c, remedy.heat_to_c or 0.0) if remedy.heat_to_c else None
    return Afterwards(
        window=found.window,
        stop_c=found.stop.at_c,
        boiling_c=found.boiling_c,
        yields_g=max(0.0, have_g + more_g - remedy.takes_g),
        life=life(found, hottest_c=hottest),
        allergens=found.allergens,
        formula=formula,
    )


def with_added(formula: Formula, added: tuple[Added, ...], times: float = 1.0) -> Formula:
    """A formula with what a remedy adds, `times` as much of it; what is weighed anew adds nothing."""
    lines = []
    for one in added:
        if one.anew:
            continue
        quantity = Quantity(max(0.1, round(times * one.grams, 1)), "g")
        lines.append(
            Line(ingredient(one.ingredient), quantity.text(), quantity, note="remedy", when=one.when)
        )
    return replace(formula, lines=(*formula.lines, *lines)) if lines else formula


def change(result: Assessment, cause: CauseText) -> Change | None:
    """What of this formula would keep such a cause away; None where the formula is not to blame."""
    if cause.school is not None:
        question, chosen = cause.school
        say = f"{question_name(question)}: {school_name(question, chosen)}"
        return Change("school", say, question=question, answer=chosen)
    if cause.change not in _CHANGES:
        return None
    return _CHANGES[cause.change](result)


def _line_g(formula: Formula, name: str) -> float:
    rows = zip(formula.lines, formula.weights_g(), strict=True)
    return sum(g for line, g in rows if line.ingredient.id == name)


def _line(formula: Formula, name: str, to_g: float) -> Change | None:
    from_g = _line_g(formula, name)
    if abs(to_g - from_g) < 0.05:
        return None
    word = ingredient(name).name
    say = (
        f"{word}: {{{to_g:.0f} g}} instead of {{{from_g:.0f} g}}" if from_g else f"{{{to_g:.0f} g}} of {word}"
    )
    return Change("line", say, ingredient=name, from_g=from_g, to_g=to_g)


def changed(formula: Formula, to: Change) -> Formula:
    """A formula with one of its lines as it is to be; what was not in it joins as is usual.

    Of several lines of one thing each is changed in proportion.
    """
    factor = to.to_g / to.from_g if to.from_g else 0.0
    lines = []
    for line, g in zip(formula.lines, formula.weights_g(), strict=True):
        if line.ingredient.id == to.ingredient:
            quantity = Quantity(round(factor * g, 1), "g")
            lines.append(replace(line, quantity=quantity, amount=quantity.text()))
        else:
            lines.append(line)
    if not to.from_g:
        quantity = Quantity(round(to.to_g, 1), "g")
        lines.append(Line(ingredient(to.ingredient), quantity.text(), quantity))
    return replace(formula, lines=tuple(line for line in lines if line.quantity.number > 0))


def _more_yolk(result: Assessment) -> Change | None:
    """So much yolk that it coats, or mounts, or holds its water."""
    formula = result.formula
    if formula.yolks() <= 0:
        return None

    def good(factor: float) -> float:
        found = assess(formula.with_yolks_times(factor), result.conditions)
        if result.way.foams:
            return found.hot.yield_stress_pa - NAPPE_PA * 1.1
        if result.family.churned:
            return 0.70 - float(found.whole.fractions["water"])
        return found.hot.yield_stress_pa - NAPPE_PA * 1.2

    factor = Search().where(good, 0.0, 1.0, MOST_TIMES)
    if good(factor) < -NEARLY:
        return None
    return _line(formula, "egg-yolk", factor * _line_g(formula, "egg-yolk"))


def _less_flour(result: Assessment) -> Change | None:
    """A half of the flour, so that maize starch can take its place."""
    return _line(result.formula, "wheat-flour", 0.5 * _line_g(result.formula, "wheat-flour"))


def _more_milk(result: Assessment) -> Change | None:
    """So much more milk that its chocolate shines."""
    more = milk_to_shine_g(result.whole, result.conditions.parameters)
    return _line(result.formula, "whole-milk", _line_g(result.formula, "whole-milk") + more)


def _less_sugar(result: Assessment) -> Change | None:
    """So much less sugar that it freezes in a churn."""
    formula, g = result.formula, _line_g(result.formula, "white-sugar")
    if g <= 0:
        return None

    def freezes(kept: float) -> float:
        to = Change("line", "", "white-sugar", g, max(0.1, (1 - kept) * g))
        return draws_share(assess(changed(formula, to), result.conditions).whole, 4.0, 24.0) - FREEZES_SHARE

    return _line(formula, "white-sugar", (1 - Search().where(freezes, 0.0, 0.0, 0.9)) * g)


def _more_egg(result: Assessment) -> Change | None:
    """So much more egg that a cup of it sets."""
    formula = result.formula
    name = "whole-egg" if _line_g(formula, "whole-egg") else "egg-yolk"
    g = _line_g(formula, name)
    if g <= 0:
        return None

    def sets(factor: float) -> float:
        found = assess(changed(formula, Change("line", "", name, g, factor * g)), result.conditions)
        return found.hot.yield_stress_pa

    return _line(formula, name, Search().where(sets, result.family.target_pa, 1.0, MOST_TIMES) * g)


_CHANGES: Mapping[str, Callable[[Assessment], Change | None]] = {
    "yolk": _more_yolk,
    "flour": _less_flour,
    "milk": _more_milk,
    "sugar": _less_sugar,
    "egg": _more_egg,
}
