"""What most likely made a fault, how sure that is, what to ask, and what to change next time."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

from custard.advice.mix.assess import Assessment
from custard.advice.trouble.faults import Ask, CauseText, Fault, fault_of
from custard.advice.trouble.story import Story
from custard.figures import Hundredths
from custard.larder.eggs import EggSize
from custard.process.baking.crust import crust

MOST_FROM_ONE = 6.0
"""No figure alone makes a cause more than so many times as likely, nor less [1, as a logarithm]."""
QUESTIONS = 2
BOIL_K = 0.6
"""A cook with a pan in the hand answers so many."""
HEAD = 0.6
"""Share of a pan that a mix may fill [1]."""
USUAL_DISH_CM = 10.0
SOONER_K, USUAL_RISE_K = 6.0, 2.0
"""A pan is met by lifting at most so much sooner, and by so much where nobody saw it rise [K]."""


@dataclass(frozen=True)
class Cause:
    """One cause: what happened, what to do next time, and how sure it is beside the others [1]."""

    cause: str
    say: str
    next: str
    sure: Hundredths


@dataclass(frozen=True)
class Answer:
    """One answer of a question, in words, and the figures it stands for."""

    say: str
    sets: Mapping[str, float]


@dataclass(frozen=True)
class Question:
    """A question by its name; `guess` is the place of the answer that is taken until someone says more.

    None where nothing speaks for any of them.
    """

    question: str
    ask: str
    answers: tuple[Answer, ...]
    guess: int | None


def diagnose(result: Assessment, fault: str, story: Story) -> tuple[Cause, ...]:
    """The causes of a fault that is seen, the likeliest first; they add up to 1.

    Parameters
    ----------
    result : an assessed formula.
    fault : what is seen.
    story : what is known of how it was cooked.

    Raises
    ------
    UnknownName
        when nothing of that name is seen.
    """
    found = fault_of(fault)
    found = replace(found, causes=_can_be(result, found))
    sure, words = weighed(found, story), known(result, story)
    causes = [
        Cause(
            one.cause,
            one.say.format_map(words),
            one.next.format_map(words),
            sure[one.cause],
        )
        for one in found.causes.values()
    ]
    return tuple(sorted(causes, key=lambda one: -one.sure))


LATE, GOES_PAST = "late", frozenset({"too-thick", "bits", "split", "cooked-egg-taste"})
"""The cause that says that it went past its stop, and the faults of which it says so."""


def _can_be(result: Assessment, fault: Fault) -> Mapping[str, CauseText]:
    """The causes that this mix can have: what is boiled on purpose was not taken past its stop."""
    if not result.stop.boiled or fault.fault not in GOES_PAST:
        return fault.causes
    return {name: one for name, one in fault.causes.items() if name != LATE}


def weighed(fault: Fault, story: Story) -> dict[str, float]:
    """How sure each cause is [1], by name."""
    weights = {name: math.log(one.usual) + _speaks(one.tells, story) for name, one in fault.causes.items()}
    most = max(weights.values())
    total = sum(math.exp(weight - most) for weight in weights.values())
    return {name: math.exp(weight - most) / total for name, weight in weights.items()}


def _speaks(tells: Mapping[str, tuple[float, float]], story: Story) -> float:
    """How far the story speaks for a cause, as a logarithm; what nobody knows says nothing."""
    found = 0.0
    for name, (middle, width) in tells.items():
        value = story.figure(name)
        if value is not None:
            z = max(-30.0, min(30.0, (value - middle) / width))
            found += max(-MOST_FROM_ONE, math.log(2 / (1 + math.exp(-z))))
    return found


def questions(
    result: Assessment, fault: str, story: Story, said: Mapping[str, float] | None = None
) -> tuple[Question, ...]:
    """What to ask, at most two: what the remedy goes by, then what would tell the causes apart best.

    The second is chosen when the first has been answered.

    Parameters
    ----------
    result : an assessed formula.
    fault : what is seen.
    story : as it was known before anything was said, so that the questions stay as they are.
    said : what was said by now; it is shown as chosen.

    Raises
    ------
    UnknownName
        when nothing of that name is seen.
    """
    found, words, said = fault_of(fault), known(result, story), said or {}
    asks = [ask for ask in (_possible(result, one) for one in found.asks.values()) if len(ask.answers) > 1]
    chosen: list[Ask] = []
    now = story
    while asks and len(chosen) < QUESTIONS:
        best = max(asks, key=lambda ask: (ask.always, _telling(found, ask, now)))
        asks.remove(best)
        chosen.append(best)
        now = replace(
            now, figures={**now.figures, **{name: said[name] for name in best.figures if name in said}}
        )
    return tuple(
        Question(
            ask.question,
            ask.ask.format_map(words),
            tuple(Answer(say.format_map(words), sets) for say, sets in ask.answers),
            _guess(ask, {**story.figures, **said}),
        )
        for ask in chosen
    )


def _possible(result: Assessment, ask: Ask) -> Ask:
    """A question without the answers that cannot be: nothing is hotter than its boil."""
    most_k = result.boiling_c - result.stop.at_c + BOIL_K
    answers = tuple((say, sets) for say, sets in ask.answers if sets.get("over_stop_k", -1.0) <= most_k)
    return replace(ask, answers=answers)


def _guess(ask: Ask, known_: Mapping[str, float]) -> int | None:
    """The place of the answer that is nearest to what is known; None where nothing of it is known."""
    if not all(name in known_ for name in ask.figures):
        return None
    spread = {
        name: max(sets.get(name, 0.0) for _, sets in ask.answers)
        - min(sets.get(name, 0.0) for _, sets in ask.answers)
        for name in ask.figures
    }

    def far(place: int) -> float:
        sets = ask.answers[place][1]
        return sum(abs(value - known_[name]) / (spread[name] or 1.0) for name, value in sets.items())

    return min(range(len(ask.answers)), key=far)


def _telling(fault: Fault, ask: Ask, story: Story) -> float:
    """How far the answers of a question would move the causes, at the mean [1]; nothing where it is known."""
    if all(name in story.figures for name in ask.figures):
        return 0.0
    before = weighed(fault, story)
    moved = 0.0
    for _, sets in ask.answers:
        after = weighed(fault, replace(story, figures={**story.figures, **sets}))
        moved += sum(abs(after[name] - before[name]) for name in before)
    return moved / len(ask.answers)


def known(result: Assessment, story: Story) -> dict[str, str]:
    """The words of the texts, out of formula and story."""
    stop_c, pick = result.stop.at_c, story.figure
    base_c, gap_s = pick("base_c"), pick("gap_s")
    egg: EggSize = result.formula.egg_size
    burnt = crust(USUAL_DISH_CM, result.conditions.parameters)
    yolks = result.formula.yolks()
    room_l = result.pan.mass_g / (result.pan.density_kg_m3(80.0) / 1000) / HEAD / 1000
    return {
        "stop": degrees(stop_c),
        "lift": degrees(stop_c if story.lift_c is None else story.lift_c),
        "sooner": degrees(stop_c - min(SOONER_K, max(1.0, story.known("rise_off_k", USUAL_RISE_K)))),
        "over3": degrees(stop_c + 3),
        "over6": degrees(stop_c + 6),
        "highest": degrees(pick("highest_c")),
        "lifted": degrees(pick("lifted_c") if pick("lifted_c") is not None else pick("highest_c")),
        "base": "very hot" if base_c is None else f"{{{5 * round(base_c / 5)} C}}",
        "rise": "some degrees" if pick("rise_off_k") is None else f"{{{pick('rise_off_k'):.1f} K}}",
        "thickened": share(pick("thickened"), "little"),
        "swollen": share(pick("swollen"), "little"),
        "left": share(pick("left"), "much less"),
        "lost": share(pick("lost_share"), "a good deal"),
        "set": share(pick("set_centre"), "little"),
        "water": share(pick("water_share"), "much"),
        "stood": seconds(pick("stood_s")),
        "gap": "some seconds" if gap_s is None else seconds(gap_s),
        "sugar": seconds(pick("sugar_waits_s")),
        "warm": hours(pick("warm_h")),
        "age": hours(pick("age_h")),
        "bowl": hours(pick("bowl_h")),
        "frozen": days(pick("frozen_days")),
        "foam_stood": minutes(pick("stood_min")),
        "churning": minutes(pick("churn_min")),
        "crust": minutes(pick("crust_min")),
        "fold": whole(pick("fold_c"), "too warm"),
        "foldmax": whole(result.conditions.parameters.finish.fold_c),
        "lands": degrees(pick("lands_c"), "too little heat"),
        "churned": whole(pick("churned_at_c"), "too warm"),
        "freezes": degrees(pick("freezes_c"), "far below zero"),
        "bath": whole(pick("baths_c"), "that heat"),
        "crisp": f"{burnt.crisp_min:.0f} min",
        "crust_g": f"{{{burnt.grams:.0f} g}}",
        "dish": f"{USUAL_DISH_CM:.0f} cm",
        "short": "Some" if pick("short") is None else f"{pick('short'):.0f}",
        "yolks": f"{yolks:.0f}" if yolks >= 1 else "its",
        "yolk_g": f"{{{yolks * egg.yolk_g:.0f} g}}",
        "wanted": f"{{{result.yield_g / max(0.05, 1 - story.known('lack_share', 0.0)):.0f} g}}",
        "pan_l": f"{room_l:.1f} l",
    }


def degrees(value: float | None, unknown: str = "a temperature nobody read") -> str:
    """A temperature [degC] for the reader's own unit."""
    return unknown if value is None else f"{{{value:.1f} C}}"


def whole(value: float | None, unknown: str = "") -> str:
    """A temperature to a whole degree [degC], where nobody knows it finer."""
    return unknown if value is None else f"{{{value:.0f} C}}"


def share(value: float | None, unknown: str) -> str:
    """A share [1] in percent."""
    return unknown if value is None else f"{100 * value:.0f} %"


def _while(value: float | None, unit: str, large: str, each: float, most: float) -> str:
    """A while in a unit, or in a larger one of so many where it is more than `most`."""
    if value is None:
        return "a while"
    return f"{value:.0f} {unit}" if value < most else f"{value / each:.0f} {large}"


def seconds(value: float | None) -> str:
    """A while [s]."""
    return _while(value, "s", "min", 60, 120)


def minutes(value: float | None) -> str:
    """A while [min]."""
    return _while(value, "min", "h", 60, 120)


def hours(value: float | None) -> str:
    """A while [h]."""
    return _while(value, "h", "days", 24, 48)


def days(value: float | None) -> str:
    """A while [d]."""
    if value is None:
        return "a while"
    return "a day" if value < 1.5 else f"{value:.0f} days"
