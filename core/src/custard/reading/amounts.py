"""Amounts as recipes write them: numbers in words and figures, ranges, units of six languages."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cache

from custard.errors import CustardError
from custard.numbers import NUMBER, value_of
from custard.reading.tokens import Kind, Token, phrase_at
from custard.reading.words import lists, number_words, piece_words, recipe_units

WEIGHTS, VOLUMES = ("mg", "g", "kg", "oz", "lb"), ("ml", "cl", "dl", "l", "fl oz")
_METRIC_WEIGHTS, _METRIC_VOLUMES = ("mg", "g", "kg"), ("ml", "cl", "dl", "l")
MANY = 20
"""So many spoons or cups nobody takes."""
MOST_OF_A_RANGE = 5.0
"""The upper end of a range is at most so many times the lower one; else it is no range."""
SMALL = 10.0
"""With three digits behind a comma or point, a number of grams under this is meant as thousands."""


@dataclass(frozen=True, slots=True)
class Amount:
    """How much of something, as far as the words before its name say.

    Attributes
    ----------
    number : of `unit`; a count where `unit` is empty.
    unit : a unit of formulas, or empty.
    piece : the folded word that is counted ("tin", "sheet"), or empty.
    heaped : of a spoon or cup.
    assumed : what was assumed in reading it.
    """

    number: float
    unit: str = ""
    piece: str = ""
    heaped: bool = False
    assumed: tuple[str, ...] = ()

    @property
    def weighed(self) -> bool:
        """Whether it is a weight."""
        return self.unit in WEIGHTS

    @property
    def exact(self) -> bool:
        """Whether it is a weight, or a volume that a jug shows."""
        return self.weighed or self.unit in VOLUMES

    def rank(self) -> int:
        """Which of two amounts of one thing is believed, the higher first."""
        if self.unit in _METRIC_WEIGHTS:
            return 6
        if self.weighed:
            return 5
        measured = 4 if self.unit in _METRIC_VOLUMES else 3 if self.unit in VOLUMES else 2 if self.unit else 0
        # "1 glass (150 ml)": what was assumed gives way to what is written.
        return measured - bool(measured and self.assumed)

    def times(self, factor: float) -> Amount:
        """So many times as much."""
        return replace(self, number=self.number * factor)

    def text(self) -> str:
        """As a formula takes it; a count of pieces gives the number alone."""
        number = f"{self.number:.4f}".rstrip("0").rstrip(".")
        return " ".join(part for part in (number, "heaped" if self.heaped else "", self.unit) if part)


def number_at(found: Sequence[Token], at: int, language: str) -> tuple[float, int, tuple[str, ...]] | None:
    """The number that begins at a token: its value, how many tokens it takes, and what was assumed."""
    if at >= len(found):
        return None
    token = found[at]
    if token.kind == Kind.NUMBER:
        return _figures(found, at, language)
    words = frozenset(number_words())
    count = phrase_at(found, at, words, longest=6)
    if not count:
        return None
    phrase = " ".join(one.folded for one in found[at : at + count] if one.kind == Kind.WORD)
    value = number_words()[phrase]
    more = phrase_at(found, at + count, lists("amount")["half_more"], longest=4)
    return (value + 0.5 if more and value >= 1 else value), count + more, ()


def _figures(found: Sequence[Token], at: int, language: str) -> tuple[float, int, tuple[str, ...]] | None:
    """A number in figures, with the half or the fraction that goes on behind it."""
    text = found[at].text
    match = NUMBER.fullmatch(" ".join(text.split()))
    digits = re.sub(r"\D", "", text)
    if match is None:
        return None
    assumed: tuple[str, ...] = ()
    try:
        value = value_of(match, text)
    except CustardError:
        if not digits or "/" in text:
            return None
        # "1,500": thousands in English, decimals elsewhere.
        value = float(digits) if language == "en" else float(digits) / 1000
        assumed = (f"{text} as {value:g}",)
    if _thousands(found, at, language):
        return float(text + found[at + 1].text), 2, ()
    more = phrase_at(found, at + 1, lists("amount")["half_more"], longest=4)
    if more:
        return value + 0.5, 1 + more, assumed
    return (value + part, 3, assumed) if (part := _fraction_behind(found, at)) else (value, 1, assumed)


def _thousands(found: Sequence[Token], at: int, language: str) -> bool:
    """Whether a number goes on behind a space, in the languages that set thousands apart so: "1 500 g"."""
    if language in ("en", "") or not found[at].text.isdigit() or at + 1 >= len(found):
        return False
    near = found[at + 1].start == found[at].end + 1
    return near and len(found[at].text) < 3 and re.fullmatch(r"\d{3}", found[at + 1].text) is not None


def _fraction_behind(found: Sequence[Token], at: int) -> float:
    """The fraction that is added to a whole number: "1-1/2", "1 and 1/2"; 0 where none is."""
    behind = found[at + 1 : at + 3]
    if len(behind) < 2 or not found[at].text.isdigit():
        return 0.0
    joint = behind[0].text == "-" or behind[0].folded in lists("amount")["plus"]
    fraction = re.fullmatch(r"(\d)\s*/\s*([1-9]\d*)", behind[1].text)
    if not joint or fraction is None or int(fraction[1]) >= int(fraction[2]):
        return 0.0
    return int(fraction[1]) / int(fraction[2])


def _skip(found: Sequence[Token], at: int, words: frozenset[str], signs: str = "") -> int:
    """How many tokens of some phrases and signs stand at a place."""
    start = at
    while at < len(found):
        count = phrase_at(found, at, words)
        if count:
            at += count
        elif found[at].text in signs:
            at += 1
        else:
            break
    return at - start


@cache
def _unit_words() -> frozenset[str]:
    return frozenset(recipe_units()) | {"c c"}


def unit_at(found: Sequence[Token], at: int, language: str) -> tuple[str, float, str, int] | None:
    """The unit that begins at a token: unit, how many of it, what is assumed, and the tokens it takes."""
    if at >= len(found):
        return None
    token = found[at]
    if token.text.rstrip(".") in ("T", "t") and language in ("en", ""):
        return ("tbsp" if token.text[0] == "T" else "tsp"), 1.0, "", 1
    count = phrase_at(found, at, _unit_words(), longest=4)
    if not count:
        return None
    phrase = " ".join(one.folded for one in found[at : at + count] if one.kind == Kind.WORD)
    before = found[at - 1] if at else token
    many = before.kind == Kind.NUMBER and before.text.isdigit() and int(before.text) >= MANY
    if phrase in ("cc", "c c") and (many or language != "fr"):
        # Cubic centimetres; a French "c. c." is a coffee spoon, of which nobody takes so many.
        return "ml", 1.0, "", count
    if many and phrase == "c":
        # "150C" is of an oven.
        return None
    unit = recipe_units()[phrase]
    return unit.unit, unit.times, unit.assumed, count


def amount_at(found: Sequence[Token], at: int, language: str) -> tuple[Amount, int] | None:
    """The amount that begins at a token, and how many tokens it takes.

    Parameters
    ----------
    found : the tokens of a line.
    at : where it may begin.
    language : of the recipe.

    Returns
    -------
    None where there is no number. A count without a unit is an amount: "6" of "6 yolks".
    """
    start, amount_words = at, lists("amount")
    at += _skip(found, at, amount_words["about"], "~≈")
    read = number_at(found, at, language)
    if read is None:
        return None
    value, count, assumed = read
    at += count
    if at < len(found) and found[at].text == "%":
        return None
    upper = _range(found, at, language)
    if upper is not None and value < upper[0] <= MOST_OF_A_RANGE * value:
        high, more = upper
        assumed = (*assumed, f"the middle of {value:g} to {high:g}")
        value, at = (value + high) / 2, at + more
    at += _skip(found, at, frozenset(), "-")
    heaped = phrase_at(found, at, amount_words["heaped"])
    at += heaped or phrase_at(found, at, amount_words["level"])
    unit = unit_at(found, at, language)
    if unit is None and value < 1 and phrase_at(found, at, lists("amount")["of"]):
        # "3/4 de litro"
        skip = phrase_at(found, at, lists("amount")["of"])
        unit = unit_at(found, at + skip, language)
        at += skip if unit is not None else 0
    if unit is None:
        # "3 large spoons", "1 gute Prise"
        size = phrase_at(found, at, amount_words["size"]) or phrase_at(found, at, amount_words["about"])
        unit = unit_at(found, at + size, language) if size else None
        if unit is None or unit[0] in ("l", "g"):
            return Amount(value, "", "", assumed=assumed), at - start
        at += size
    name, times, guess, count = unit
    at += count
    wet = _half_after(found, at)
    if wet:
        value, at = value + 0.5, at + wet
    if name in ("g", "ml") and value < SMALL and _three_digits(found, start, at):
        value, assumed = value * 1000, (*assumed, f"{value * 1000:g} {name}")
    heaped = heaped or phrase_at(found, at, amount_words["heaped"])
    at += phrase_at(found, at, amount_words["heaped"]) or phrase_at(found, at, amount_words["level"])
    if guess:
        assumed = (*assumed, guess)
    return Amount(value * times, name, "", bool(heaped), assumed), at - start


def _half_after(found: Sequence[Token], at: int) -> int:
    """Tokens of "et demi" behind a unit: "un litre et demi"."""
    return phrase_at(found, at, lists("amount")["half_more"], longest=4)


def _three_digits(found: Sequence[Token], start: int, end: int) -> bool:
    return any(re.fullmatch(r"[1-9][.,]\d{3}", token.text) for token in found[start:end])


def _range(found: Sequence[Token], at: int, language: str) -> tuple[float, int] | None:
    """The upper end of a range: "-3", "to 3", "bis 3", "a 3"."""
    unit = unit_at(found, at, language)
    skip = unit[3] if unit is not None and at + unit[3] < len(found) else 0
    for shift in dict.fromkeys((0, skip)):
        here = at + shift
        joint = 1 if here < len(found) and found[here].text in "-–—/" and shift == 0 else 0
        if joint and found[here].text == "/":
            joint = 0
        joint = joint or (1 if shift and here < len(found) and found[here].text in "-–—" else 0)
        joint = joint or phrase_at(found, here, lists("amount")["range"])
        if not joint:
            continue
        high = number_at(found, here + joint, language)
        if high is None or (found[here + joint].kind != Kind.NUMBER and high[0] < 1):
            continue
        if shift:
            after = unit_at(found, here + joint + high[1], language)
            if after is None or unit is None or after[0] != unit[0]:
                continue
        return high[0], shift + joint + high[1]
    return None


def piece_at(found: Sequence[Token], at: int) -> int:
    """How many tokens make a word that recipes count by."""
    return phrase_at(found, at, piece_words(), longest=3)
