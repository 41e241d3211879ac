"""Trouble in one answer: what happened, what to ask, what to do now, what it then is, and what to change."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from custard.advice.after.life import Life, life, mended
from custard.advice.after.safe import NO_REMEDY, judge, since
from custard.advice.mix.assess import Assessment, assess
from custard.advice.mix.window import Window
from custard.advice.trouble.change import Change, change
from custard.advice.trouble.diagnose import Cause, Question, diagnose, questions
from custard.advice.trouble.faults import CauseText, fault_of, figures, must_be_figures, must_be_met
from custard.advice.trouble.remedies import Added, Rescued, rescued, there_is_g
from custard.advice.trouble.story import Points, Story, suppose, unknown_story, with_answers
from custard.conditions import USUAL, Conditions
from custard.figures import Grams, TenthsCelsius, WholeSeconds
from custard.formula import Formula, Line
from custard.larder.ingredients import ingredient
from custard.quantities import Quantity

CODES_FIRST = "Local food rules and trained people come first; when in doubt throw it away."


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
    fault : what is seen, by its name in the table.
    result : the formula, as assessed.
    story : what is known of how it was cooked; nothing by default.
    said : what a cook answered, by the figures of `faults.figures`.
    have_g : how much of it there is [g]; all that reaches the jug by default.
    unsafe : why it must be thrown away, where that is known; no remedy makes it safe.

    Raises
    ------
    UnknownName, OutOfRange
        when nothing of that name is seen, or a figure cannot be.
    Impossible
        when this mix cannot have it.
    """
    found, said = fault_of(fault), said or {}
    must_be_met(result, found)
    must_be_figures(said)
    before = unknown_story(result) if story is None else story
    asked = questions(result, fault, before, said)
    now = with_answers(result, before, said)
    if not now.read:
        # Without a curve the likeliest cause says how such a cook goes; the causes stay as unsure.
        first = found.causes[diagnose(result, fault, now)[0].cause]
        happened = with_answers(result, _supposed(result, first, now, said), said)
        assumed = {name: value for name, value in first.makes.items() if name in figures()}
        happened = replace(happened, figures={**assumed, **happened.figures})
    else:
        happened = now
    causes = diagnose(result, fault, now)
    words = diagnose(result, fault, _both(now, happened))
    causes = _worded(causes, words)
    remedy = rescued(result, fault, happened, causes[0].cause, have_g)
    unsafe = unsafe or _judged(result, now)
    if unsafe:
        remedy = Rescued(
            saved="no",
            say="Throw it away",
            steps=(unsafe, NO_REMEDY),
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
        after=afterwards(
            result,
            remedy,
            there_is_g(result, fault) if have_g is None else have_g,
            happened.known("age_h", 0.0),
        ),
        curve=_curve(result, happened),
        change=change(result, found.causes[causes[0].cause]),
        unknown=found.unknown,
        unsafe=unsafe,
    )


def _judged(result: Assessment, story: Story) -> str:
    """Why the judge of safety throws it away, by what is known of it; "" where it does not."""
    lengths = {name: story.known(name, 0.0) for name in ("warm_h", "frozen_days")}
    kept, age_h = since(story.known("age_h", 0.0), **lengths)
    return judge(life(result), kept, age_h).why


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

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    fault : what is seen.
    have_g : how much of it there is [g]; None for the whole.
    over_k : how far past its stop it went [K].
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.

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
    """The causes in their order; what is only supposed is told with the one that it is supposed for."""
    by_name = {one.cause: one for one in words}
    first = replace(causes[0], say=by_name[causes[0].cause].say, next=by_name[causes[0].cause].next)
    return (first, *causes[1:])


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


def afterwards(result: Assessment, remedy: Rescued, have_g: float, age_h: float = 0.0) -> Afterwards:
    """What a remedy leaves: the formula with its lines, how much there is of it, how it keeps.

    `age_h` is how long it has stood in the cold [h]: what is warmed again keeps for that day only.
    """
    formula = (
        result.formula if remedy.yolks_times == 1 else result.formula.with_yolks_times(remedy.yolks_times)
    )
    formula = with_added(formula, remedy.add, result.sauce_g / max(have_g, 1e-6))
    changed = formula is not result.formula
    found = assess(formula, result.conditions) if changed else result
    more_g = sum(one.grams for one in remedy.add if not one.anew)
    hottest = max(result.stop.at_c, remedy.heat_to_c or 0.0) if remedy.heat_to_c else None
    return Afterwards(
        window=found.window,
        stop_c=found.stop.at_c,
        boiling_c=found.boiling_c,
        yields_g=max(0.0, have_g + more_g - remedy.takes_g),
        life=mended(
            life(result),
            life(found, hottest_c=hottest),
            age_h,
            result.conditions.parameters,
            warmed=bool(remedy.warmed_again),
        ),
        allergens=found.allergens,
        formula=formula,
    )


def with_added(formula: Formula, added: tuple[Added, ...], times: float = 1.0) -> Formula:
    """A formula with what a remedy adds, `times` as much of it.

    What takes the place of something thrown away adds nothing.
    """
    lines = []
    for one in added:
        if one.anew:
            continue
        quantity = Quantity(max(0.1, round(times * one.grams, 1)), "g")
        lines.append(
            Line(ingredient(one.ingredient), quantity.text(), quantity, note="remedy", when=one.when)
        )
    return replace(formula, lines=(*formula.lines, *lines)) if lines else formula
