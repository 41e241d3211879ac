"""Phrases of a method: whether a sentence has one, its temperatures and its lengths of time."""

from __future__ import annotations

import re
from collections.abc import Sequence
from functools import cache

from custard.reading.amounts import number_at
from custard.reading.tokens import Kind, Token, phrase_at, says, tidy, tokens
from custard.reading.words import lists

SAME_K = 8.0
"""Two temperatures this near in one sentence are one, written in Celsius and in Fahrenheit."""
BEHIND = 8
"""So many tokens behind a number are looked at."""
CUP_WORDS = 5
"""So many words may stand between the number of cups and their name."""
MOST_CUPS, SMALLEST_CUP_ML, LARGEST_CUP_ML = 200, 30.0, 400.0
"""What is no number of cups, and no size of one [ml]."""
MILLILITRES = {"ml": 1.0, "cl": 10.0, "dl": 100.0, "oz": 29.57, "ounce": 29.57}
COOKED_TO_C = (70.0, 92.0)
"""A number without a sign, between these, behind "cook to", is of degrees."""
HOUR_MIN = 60.0
HOTTEST_OVEN_C = 260.0
"""A number of degrees without a letter above this is in Fahrenheit."""


def has(folded: str, key: str) -> bool:
    """Whether a folded sentence has a phrase of a moment, or a word of an act."""
    return says(folded, _phrases(key))


@cache
def _phrases(key: str) -> frozenset[str]:
    return lists("moments").get(key, frozenset()) | lists("acts").get(key, frozenset())


def mentions(folded: str, kind: str) -> bool:
    """Whether a folded sentence names a thing of that kind, as `kind_of` has them."""
    return any(kind_of(word) == kind for word in folded.split())


@cache
def _kinds() -> dict[str, str]:
    return {word: kind for kind, words in lists("kinds").items() for word in words}


def kind_of(word: str) -> str:
    """The kind of thing that a folded word names: "egg", "sugar", "milk" and so on; else empty."""
    return _kinds().get(word, "")


@cache
def kind_words() -> frozenset[str]:
    """Every word that names a kind of thing."""
    return frozenset(_kinds())


def temperatures(sentence: str) -> list[float]:
    """The temperatures of a sentence [degC], the middle of a range.

    >>> temperatures("82-84 Grad"), temperatures("to 180 F")
    ([83.0], [82.2])
    """
    out: list[tuple[float, bool]] = []
    for value, after in _numbers(sentence):
        if _cooked_to(sentence, value, after):
            out.append((value, False))
            continue
        signs = 1 if after and after[0].text in "°º" else 0
        letter = after[signs].folded if len(after) > signs else ""
        degrees = letter in lists("times")["degrees"]
        if not signs and not degrees:
            continue
        if not signs and letter in ("of", "oc", "c", "f") and not after[0].text.rstrip(".").isupper():
            continue
        scale = after[signs + 1].folded if degrees and len(after) > signs + 1 else ""
        letter = scale if scale in ("c", "f", "celsius", "fahrenheit") else letter
        fahrenheit = letter in ("f", "fahrenheit") or (
            letter not in ("c", "celsius") and value > HOTTEST_OVEN_C
        )
        celsius = round((value - 32) / 1.8, 1) if fahrenheit else value
        if not any(
            abs(celsius - other) < (SAME_K if scale_of is not fahrenheit else 1.0) for other, scale_of in out
        ):
            out.append((celsius, fahrenheit))
    return [celsius for celsius, _ in out]


def _cooked_to(sentence: str, value: float, after: Sequence[Token]) -> bool:
    """Whether a number that stands alone is how hot a sauce is cooked: "cook to 80, pass"."""
    low, high = COOKED_TO_C
    if not low <= value <= high or (after and after[0].text not in ",.;)"):
        return False
    found = [token for token in tokens(tidy(sentence)) if not after or token.end <= after[0].start]
    for at in range(max(0, len(found) - CUP_WORDS), len(found)):
        count = phrase_at(found, at, lists("times")["cook_to"])
        if count and found[at + count : at + count + 1] and found[at + count].kind == Kind.NUMBER:
            return True
    return False


def minutes_of(sentence: str) -> list[float]:
    """The lengths of time of a sentence [min], the middle of a range.

    >>> minutes_of("for 1 hour 20, or 30 to 40 minutes"), minutes_of("une heure"), minutes_of("90 s")
    ([80.0, 35.0], [60.0], [1.5])
    """
    units = {
        word: size
        for key, size in (("h", HOUR_MIN), ("min", 1.0), ("s", 1 / 60))
        for word in lists("times")[key]
    }
    out: list[float] = []
    more = 0.0
    for value, after in _numbers(sentence):
        at = 1 if after and after[0].text == "-" else 0
        unit = units.get(after[at].folded, 0.0) if len(after) > at else 0.0
        if more == value:
            # Taken with the hour before it.
            more = 0.0
            continue
        more = _minutes_behind(after[at + 1 :]) if unit == HOUR_MIN else 0.0
        if unit:
            out.append(value * unit + more)
    return out


def _minutes_behind(after: Sequence[Token]) -> float:
    """The minutes that go on behind an hour: "1h30", "1 hour 20", "1 h 30 min"; 0 where none do."""
    text = after[0].text if after else ""
    ends = len(after) < 2 or after[1].kind == Kind.SIGN or after[1].folded in lists("times")["min"]
    return float(text) if re.fullmatch(r"[1-5]?\d", text) and ends else 0.0


def cups_of(sentence: str) -> tuple[float, float | None] | None:
    """The cups that a sentence names: how many, and what each holds [ml]; None where it names none.

    >>> cups_of("Divide between 6 ramekins of 120 ml"), cups_of("auf 6 Förmchen"), cups_of("4 minutes")
    ((6.0, 120.0), (6.0, None), None)
    """
    counts: list[float] = []
    sizes: list[float] = []
    others = {word.rstrip("s") for words in lists("times").values() for word in words}
    for value, after in _numbers(sentence):
        words = [token.folded for token in after if token.kind == Kind.WORD][:CUP_WORDS]
        unit = next((token.folded.rstrip("s") for token in after[:2] if token.text != "-"), "")
        if unit in MILLILITRES:
            sizes.append(value * MILLILITRES[unit])
        elif unit in others or unit in ("°", "º"):
            continue
        elif any(word in lists("vessels")["cups"] for word in words) and value in range(1, MOST_CUPS):
            counts.append(value)
    if not counts:
        return None
    # "Un caramel ... dans 6 ramequins": an article counts only where nothing else does.
    counts = [count for count in counts if count > 1] or counts
    fitting = [size for size in sizes if SMALLEST_CUP_ML <= size <= LARGEST_CUP_ML]
    return counts[0], round(fitting[0], 0) if fitting else None


def _numbers(sentence: str) -> list[tuple[float, Sequence[Token]]]:
    """The numbers of a sentence, ranges by their middle, with the tokens behind each."""
    found = tokens(tidy(sentence))
    out: list[tuple[float, Sequence[Token]]] = []
    at = 0
    while at < len(found):
        read = number_at(found, at, "")
        if read is None:
            at += 1
            continue
        value, end = read[0], at + read[1]
        signs = end
        while signs < len(found) and found[signs].text in "°ºC" and found[signs].kind != Kind.NUMBER:
            signs += 1
        for start in (end, signs):
            joint = 1 if start < len(found) and found[start].text in "-–—" else 0
            joint = joint or phrase_at(found, start, lists("amount")["range"])
            high = number_at(found, start + joint, "") if joint else None
            if high is not None and value < high[0] <= 5 * value:
                value, end = (value + high[0]) / 2, start + joint + high[1]
                break
        out.append((value, found[end : end + BEHIND]))
        at = max(end, at + 1)
    return out
