"""When each line of a recipe joins: as its method says, else as is usual for the family."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace
from functools import cache

from custard.larder.families import Family
from custard.larder.ingredients import ingredient
from custard.larder.joins import usual_when
from custard.reading.line import Option, ReadLine
from custard.reading.naming import keys_of, named
from custard.reading.phrases import has, mentions, minutes_of, temperatures
from custard.reading.tokens import fold, says
from custard.reading.words import lists
from custard.vocabulary import When

OVERNIGHT_MIN = 720.0
_EGGS = ("egg-yolk", "whole-egg")
STAYS_RAW = "off the heat, with nothing to heat it after: raw"
COOLEST_HEATED_C = 65.0
"""What is brought to this is heated again [degC]."""
JUST_WORDS = 4
"""A clause of so few words says no more than that it is left to cool."""


def joined(lines: Sequence[ReadLine], method: Sequence[str], family: Family) -> tuple[ReadLine, ...]:
    """The lines with the moment at which each joins: as the method says, else as is usual for the family."""
    eggs = [line for line in lines if line.ingredient in _EGGS]
    if eggs and all(_is_on_top(line.section) for line in eggs):
        # "Massa" heads the custard itself where no egg stands elsewhere.
        headed = {line.section for line in eggs}
        lines = [replace(line, section="") if line.section in headed else line for line in lines]
    by_method = _moments(lines, method) | dict.fromkeys(_never_heated(lines, method), When.OFF_THE_HEAT)
    late = {
        at for at, when in by_method.items() if lines[at].ingredient in _EGGS and when == When.OFF_THE_HEAT
    }
    if family.way.in_the_oven:
        # Whatever is stirred in last is baked with the rest: no egg of it stays raw.
        by_method = {at: when for at, when in by_method.items() if at not in late}
    else:
        lines = [
            replace(line, assumed=(*line.assumed, STAYS_RAW)) if at in late else line
            for at, line in enumerate(lines)
        ]
    by_method |= dict.fromkeys(_lining(lines, family), When.ON_TOP)
    return tuple(
        _joining(line, by_method.get(at), family, _infusing(method)) if line.ingredient else line
        for at, line in enumerate(lines)
    )


def _lining(lines: Sequence[ReadLine], family: Family) -> list[int]:
    """The sugar of the caramel that lines the cups: said so, and not the only sugar of what sets in them."""
    sugars = [
        at
        for at, line in enumerate(lines)
        if line.ingredient and ingredient(line.ingredient).group == "sugar"
    ]
    if not family.way.in_the_oven or len(sugars) < 2:
        return []
    return [at for at in sugars if has(fold(f"{lines[at].name} {lines[at].note}"), "for_the_caramel")]


def _joining(line: ReadLine, by_method: When | None, family: Family, infuses_min: float | None) -> ReadLine:
    """A line with the moment at which it joins."""
    thing = ingredient(line.ingredient)
    usual = usual_when(thing, family)
    when = _by_heading(line) or by_method or usual
    if when == When.INFUSED and thing.id == "vanilla-extract" and line.why:
        # Nobody infuses extract: vanilla that is infused, in a form that the recipe does not tell, is a pod.
        line, usual = _as_pod(line), When.INFUSED
    when = _possible(when, line, usual)
    return replace(line, when=when, minutes=infuses_min if when == When.INFUSED else None)


def _as_pod(line: ReadLine) -> ReadLine:
    """A line of vanilla, whose form the recipe does not tell, as a pod."""
    pod = ingredient("vanilla-pod")
    others = tuple(one for one in line.options if one.ingredient != pod.id)
    if not line.why:
        return line
    options = (
        Option(pod.id, "1"),
        Option("vanilla-extract", "1 tsp"),
        *(o for o in others if o.amount != "1 tsp"),
    )
    return replace(line, ingredient=pod.id, assumed=(f"{line.name}: {pod.name}",), options=options)


def _possible(when: When, line: ReadLine, usual: When) -> When:
    """A moment that can be: what is never in the pan is not put there, and sugar is left to its school."""
    group, form = ingredient(line.ingredient).group, ingredient(line.ingredient).form
    before = (When.IN_THE_DAIRY, When.WITH_THE_YOLKS, When.IN_THE_PAN)
    if group == "sugar" and when in before and usual in before:
        return usual
    if when in before and usual in (*before, When.INFUSED):
        return usual
    if when == When.INFUSED and (group in ("dairy", "egg", "sugar", "starch") or form == "liquid"):
        return usual
    if when == When.FOLDED and group in ("starch", "gelling"):
        return usual
    return when


def _by_heading(line: ReadLine) -> When | None:
    """A line under a heading like "for the top", or that says so itself, goes there."""
    if _is_on_top(line.section):
        return When.ON_TOP
    words = fold(f"{line.name} {line.note}")
    if has(words, "for_the_top"):
        return When.ON_TOP
    thing = ingredient(line.ingredient)
    if (thing.group == "dairy" or thing.id.startswith("egg-white")) and has(words, "whipped"):
        return When.FOLDED
    return None


def _is_on_top(section: str) -> bool:
    """Whether a heading is of what goes on top, or of what never cooks with the sauce."""
    return bool(section) and (says(section, lists("headings")["over"]) or _is_apart(section))


def _is_apart(section: str) -> bool:
    """Whether a heading is of what never cooks with the sauce: the pastry under it, the whites on it."""
    begins = next(
        (f"{word} " for word in lists("headings")["sections"] if section.startswith(f"{word} ")), ""
    )
    return {section, section.removeprefix(begins)} & lists("headings")["apart"] != set()


def _infusing(method: Sequence[str]) -> float | None:
    """How long something is infused [min], where the method says so."""
    for sentence in method:
        folded = fold(sentence)
        if has(folded, "infused"):
            times = [minutes for minutes in minutes_of(sentence) if minutes <= 1440]
            if times:
                return max(times)
            if has(folded, "overnight"):
                return OVERNIGHT_MIN
    return None


def _moments(lines: Sequence[ReadLine], method: Sequence[str]) -> dict[int, When]:
    """The moment of each line that the method names."""
    keys = {at: keys_of(line) for at, line in enumerate(lines) if line.ingredient}
    seen: dict[int, When] = {}
    state = _State()
    last: list[int] = []
    whipped: list[int] = []
    for sentence in method:
        act = ""
        for clause in _clauses(sentence):
            folded = fold(clause)
            # "the yolks with the sugar, the starch": what has no act of its own goes with the one before.
            whole = folded if _acts(folded) else f"{act} {folded}".strip()
            act = folded if _acts(folded) else act
            state.hear(folded)
            called = named(folded, keys)
            if has(folded, "folded") and not called and whipped:
                seen.update(dict.fromkeys(whipped, When.FOLDED))
                continue
            if not called and has(folded, "it"):
                called = last
            for at in called:
                moment = state.moment(whole, lines[at], again=at in seen)
                if moment is not None and (at not in seen or moment in (When.INFUSED, When.UNDER_IT)):
                    seen[at] = moment
            if has(folded, "whip"):
                whipped = [at for at in called if _whips(lines[at])] or whipped
            last = called or last
            state.close(folded, clause)
    return seen


def _never_heated(lines: Sequence[ReadLine], method: Sequence[str]) -> set[int]:
    """The yolks and eggs that join off the heat and are not heated after it, to be called raw.

    On the safe side: an egg of which the method says no more counts as raw.
    """
    keys = {at: keys_of(line) for at, line in enumerate(lines) if line.ingredient}
    eggs = {at for at, line in enumerate(lines) if line.ingredient in _EGGS}
    raw: set[int] = set()
    off = False
    for sentence in method:
        last: set[int] = set()
        for clause in _clauses(sentence):
            folded = fold(clause)
            leaves = has(folded, "off")
            if not leaves and _heats(folded, clause):
                raw, off = set(), False
            off = off or leaves
            called = set(named(folded, keys))
            if off:
                # "Beat the yolks with the cream, stir in off the heat"
                raw |= eggs & (called or (last if leaves and has(folded, "join") else set()))
            last = called or last
    return raw


def _heats(folded: str, clause: str) -> bool:
    """Whether a clause heats what is in the pan, or puts it into the oven."""
    thickens = has(folded, "cooked") and not has(folded, "sieve")
    hot = any(celsius >= COOLEST_HEATED_C for celsius in temperatures(clause))
    return (
        thickens or hot or any(has(folded, key) for key in ("heat", "back", "steam", "oven", "bake", "boil"))
    )


def _whips(line: ReadLine) -> bool:
    thing = ingredient(line.ingredient)
    return thing.id.startswith("egg-white") or (thing.group == "dairy" and thing.composition["fat"] >= 25)


def _acts(folded: str) -> bool:
    """Whether a clause says what to do."""
    return any(
        has(folded, key) for key in ("heat", "bowl", "join", "folded", "infused", "top", "under", "off")
    )


@cache
def _verbs() -> frozenset[str]:
    """The verbs that begin another act, without the nouns and prepositions that begin a German sentence."""
    return frozenset().union(*lists("verbs").values()) - lists("layout")["no_verbs"]


def _clauses(sentence: str) -> list[str]:
    """A sentence cut where it goes on to another act."""
    parts = re.split(r"[;:,]|\.(?!\d)|\bthen\b|\bpuis\b|\bdann\b|\bpoi\b|\bluego\b|\bdepois\b", sentence)
    out = []
    for part in parts:
        words = part.split()
        start = 0
        for at in range(1, len(words) - 1):
            if fold(words[at]) in lists("amount")["plus"] and fold(words[at + 1]) in _verbs():
                out.append(" ".join(words[start:at]))
                start = at + 1
        out.append(" ".join(words[start:]))
    return [part for part in out if part.strip()]


class _State:
    """Where the sauce stands as the method is read."""

    def __init__(self) -> None:
        self.cooked = self.cold = self.off = self.egg = False

    def hear(self, folded: str) -> None:
        """What a clause says of where the sauce stands, before anything joins."""
        self.egg = self.egg or mentions(folded, "egg") or has(folded, "all_of_it")
        cooled = has(folded, "just_cool") and len(folded.split()) <= JUST_WORDS
        if (has(folded, "cold") or cooled) and self.cooked:
            self.cold = True
        if has(folded, "off"):
            self.off = True
        elif self.off and has(folded, "back"):
            self.off = False

    def close(self, folded: str, clause: str) -> None:
        """A clause is over: it may have cooked the sauce."""
        sieved = has(folded, "sieve") and not self.egg
        boiled = has(folded, "boil") and bool(minutes_of(clause))
        hot = self.egg and (boiled or any(70 <= celsius <= 100 for celsius in temperatures(clause)))
        if hot or (has(folded, "cooked") and not sieved):
            self.cooked = True

    def moment(self, folded: str, line: ReadLine, *, again: bool) -> When | None:
        """When a line joins that a clause names; None where the clause does not say."""
        thing = ingredient(line.ingredient)
        if (
            has(folded, "infused")
            and thing.group in ("infusion", "flavour", "dry", "fruit")
            and not self.cooked
        ):
            return When.INFUSED
        poured_on = has(folded, "under") or (has(folded, "onto") and (self.cooked or self.off))
        if thing.is_chocolate and poured_on:
            return When.UNDER_IT
        if again:
            return None
        if self.cooked or self.cold:
            return self._later(folded, line, thing.group)
        return self._before(folded, line, thing.group)

    def _before(self, folded: str, line: ReadLine, group: str) -> When | None:
        """When a line joins while nothing is cooked yet."""
        if has(folded, "folded") and has(folded, "fold") and (_whips(line) or group == "alcohol"):
            return When.FOLDED if group != "alcohol" else When.OFF_THE_HEAT
        late = group in ("alcohol", "chocolate", "gelling", "flavour") or line.ingredient.startswith("butter")
        if self.off and late and line.ingredient != "vanilla-pod":
            return When.OFF_THE_HEAT
        if mentions(folded, "egg") and has(folded, "bowl") and not has(folded, "heat"):
            return When.WITH_THE_YOLKS
        return When.IN_THE_DAIRY if has(folded, "heat") else None

    def _later(self, folded: str, line: ReadLine, group: str) -> When | None:
        """When a line joins once the sauce is cooked."""
        if (
            has(folded, "folded")
            and has(folded, "fold")
            and (self.cold or _whips(line) or group in ("dry", "fruit"))
        ):
            return When.FOLDED
        if self.cold and has(folded, "join"):
            return When.FOLDED if group in ("dairy", "fruit", "dry", "egg") else When.OFF_THE_HEAT
        if has(folded, "top") and (group in ("sugar", "dry", "fruit", "infusion") or has(folded, "burn")):
            return When.ON_TOP
        if has(folded, "join") or has(folded, "off"):
            return When.AFTERWARDS if group == "dry" else When.OFF_THE_HEAT
        return None
