"""What the method of a recipe decides, sentence by sentence."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from custard.larder.ingredients import ingredient
from custard.reading.line import ReadLine
from custard.reading.phrases import cups_of, has, mentions, minutes_of, temperatures
from custard.reading.tokens import fold

OVERNIGHT_H = 12.0
COOLEST_SAUCE_C, HOTTEST_SAUCE_C = 60.0, 104.0
"""A temperature outside is no sauce's: what is hotter is a syrup or an oven."""
LEAST_COOKED_C = 70.0
"""What is cooler, before any egg is named, is the warmth of the dairy."""
COOLEST_OVEN_C, SURELY_OVEN_C = 90.0, 130.0
GAS_MARK_0_C, GAS_MARK_K = 121.0, 14.0
SHORTEST_CHILL_MIN, LONGEST_STIRRED_MIN = 20.0, 20.0
SAUCE_F = (150.0, 190.0)
"""Between these lie the sauces of recipes in Fahrenheit."""
_SCALE = re.compile(r"\d\s*(?:°\s*)?[CF]\b|celsius|fahrenheit", re.IGNORECASE)
_OVEN_F = re.compile(r"\b(?:at|to|oven)\s+([2-4]\d[05])\b(?!\s*(?:[°º%]|[^\W\d]*(?:g|ml|l|deg\w*|F|C)\b))")
_GAS = re.compile(r"\bgas\s*(?:mark)?\s*(\d)", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Setting:
    """One thing that a method decides.

    Attributes
    ----------
    what : "cook_to_c", "boil_s", "infuse_min", "oven_c", "bake_min", "bath", "cups", "cup_ml", "chill_h",
        "temper", "sugar", "heat", "churn", "sieve", "together" or "burnt_top".
    value : a number in the unit of its name, or a word.
    sentence : the sentence that says so.
    """

    what: str
    value: float | str
    sentence: str


@dataclass(frozen=True, slots=True)
class Step:
    """One sentence of a method and what it decides."""

    text: str
    settings: tuple[Setting, ...]


def steps(method: Sequence[str]) -> tuple[Step, ...]:
    """Each sentence of a method with what it decides."""
    found, seen = [], _Seen()
    for sentence in method:
        found.append(Step(sentence, tuple(seen.settings(sentence))))
    return tuple(found)


def cooked_to(method: Sequence[Step]) -> Setting | None:
    """To what the sauce is cooked: the first temperature from where its eggs come in, else the first."""
    later = (one for step in method[_eggs_at(method) :] for one in _after_the_eggs(step))
    first = (one for step in method for one in _hot(step) if float(one.value) >= LEAST_COOKED_C)
    return next(later, next(first, None))


def boiled_for(method: Sequence[Step]) -> Setting | None:
    """How long the sauce boils: the first boil from where its eggs come in; the milk alone is no sauce."""
    return next(
        (one for step in method[_eggs_at(method) :] for one in step.settings if one.what == "boil_s"), None
    )


def _eggs_at(method: Sequence[Step]) -> int:
    return next((at for at, step in enumerate(method) if mentions(fold(step.text), "egg")), 0)


def _hot(step: Step) -> list[Setting]:
    return [one for one in step.settings if one.what == "cook_to_c"]


def _after_the_eggs(step: Step) -> list[Setting]:
    """The temperatures of a sentence behind the eggs that it names; all of them where it names none."""
    words = step.text.split()
    at = next((at for at, word in enumerate(words) if mentions(fold(word), "egg")), 0)
    behind = temperatures(" ".join(words[at:]))
    return [one for one in _hot(step) if one.value in behind]


class _Seen:
    """How far the method has come, for what a sentence alone does not say."""

    def __init__(self) -> None:
        self.cooked = False
        self.oven = False

    def settings(self, sentence: str) -> list[Setting]:
        folded = fold(sentence)
        out = [Setting(what, value, sentence) for what, value in self._of(sentence, folded)]
        self.cooked = self.cooked or has(folded, "cooked")
        self.oven = self.oven or any(setting.what == "oven_c" for setting in out)
        return out

    def _of(self, sentence: str, folded: str) -> list[tuple[str, float | str]]:
        return [
            *self._heat(sentence, folded),
            *self._times(sentence, folded),
            *self._manner(folded),
            *_vessels(sentence),
        ]

    def _heat(self, sentence: str, folded: str) -> list[tuple[str, float | str]]:
        """Temperatures, of the sauce or of the oven, and what it stands over."""
        out: list[tuple[str, float | str]] = []
        for degrees in (*temperatures(sentence), *_oven_fahrenheit(sentence, folded)):
            celsius = self._of_a_sauce(degrees, sentence, folded)
            of_oven = self.oven or celsius > HOTTEST_SAUCE_C or has(folded.split(maxsplit=1)[0], "oven")
            baked = has(folded, "oven") and (of_oven or has(folded, "preheat") or _is_long(sentence))
            if celsius > SURELY_OVEN_C or (baked and celsius >= COOLEST_OVEN_C):
                out.append(("oven_c", celsius))
            elif COOLEST_SAUCE_C <= celsius <= HOTTEST_SAUCE_C:
                out.append(("cook_to_c", celsius))
        gas = _GAS.search(sentence)
        if gas:
            out.append(("oven_c", GAS_MARK_0_C + GAS_MARK_K * int(gas[1])))
        in_oven = self.oven or has(folded, "oven") or any(what == "oven_c" for what, _ in out)
        if has(folded, "steamed") or (
            in_oven and has(folded, "bath") and has(folded, "water") and not has(folded, "no_bath")
        ):
            out.append(("bath", "yes"))
        elif has(folded, "steam") and not in_oven:
            out.append(("heat", "steam"))
        return out

    def _of_a_sauce(self, degrees: float, sentence: str, folded: str) -> float:
        """Degrees without a letter that no sauce has in Celsius: "heat the dairy to 165 degrees"."""
        low, high = SAUCE_F
        baked = self.oven or has(folded, "oven") or _is_long(sentence) or bool(_SCALE.search(sentence))
        return round((degrees - 32) / 1.8, 1) if low <= degrees <= high and not baked else degrees

    def _times(self, sentence: str, folded: str) -> list[tuple[str, float | str]]:
        """How long it is infused, baked, boiled or chilled."""
        out: list[tuple[str, float | str]] = []
        hot = any(celsius > SURELY_OVEN_C for celsius in temperatures(sentence))
        for minutes in minutes_of(sentence):
            if has(folded, "infused"):
                out.append(("infuse_min", minutes))
            elif hot or has(folded, "oven") or has(folded, "steamed") or (self.oven and has(folded, "bake")):
                out.append(("bake_min", minutes))
            elif has(folded, "boil") and not has(folded, "steam"):
                out.append(("boil_s", 60 * minutes))
            elif has(folded, "chill") and minutes >= SHORTEST_CHILL_MIN:
                out.append(("chill_h", round(minutes / 60, 2)))
        if has(folded, "overnight"):
            infused = has(folded, "infused") and not has(folded, "chill")
            out.append(("infuse_min", 60 * OVERNIGHT_H) if infused else ("chill_h", OVERNIGHT_H))
        return out

    def _manner(self, folded: str) -> list[tuple[str, float | str]]:
        """How it is tempered, churned, sieved, or put together cold."""
        out: list[tuple[str, float | str]] = [("together", "cold")] if has(folded, "together") else []
        dairy = mentions(folded, "milk") or mentions(folded, "cream") or has(folded, "hot")
        if mentions(folded, "egg") and dairy:
            for school in ("ladle", "stream"):
                if has(folded, school):
                    out.append(("temper", school))
                    break
        if has(folded, "churn") and not self.oven:
            out.append(("churn", "yes"))
        if has(folded, "sieve"):
            out.append(("sieve", "always"))
        if has(folded, "burn") and (mentions(folded, "sugar") or has(folded, "top")):
            out.append(("burnt_top", "yes"))
        return out


def _is_long(sentence: str) -> bool:
    """Whether a sentence names more minutes than a sauce stands over a flame."""
    return any(minutes >= LONGEST_STIRRED_MIN for minutes in minutes_of(sentence))


def _oven_fahrenheit(sentence: str, folded: str) -> list[float]:
    """The heat of an oven that is a number alone, "bake at 325", in degrees Celsius."""
    if not has(folded, "oven"):
        return []
    return [round((int(found[1]) - 32) / 1.8, 1) for found in _OVEN_F.finditer(sentence)]


def _vessels(sentence: str) -> list[tuple[str, float | str]]:
    """How many cups it goes into, and what each holds [ml]."""
    found = cups_of(sentence)
    if found is None:
        return []
    count, each_ml = found
    return [("cups", count), *([] if each_ml is None else [("cup_ml", each_ml)])]


def sugar_school(lines: Sequence[ReadLine], method: Sequence[str]) -> Setting | None:
    """Whether the sugar is split between dairy and yolks, or all of it with the yolks."""
    if not any(line.ingredient and ingredient(line.ingredient).group == "sugar" for line in lines):
        return None
    dairy = bowl = ""
    for sentence in method:
        for clause in re.split(r"[;.,]", sentence):
            folded = fold(clause)
            if not mentions(folded, "sugar"):
                continue
            if mentions(folded, "egg") and not has(folded, "heat"):
                bowl = bowl or sentence
            elif has(folded, "heat") and (
                mentions(folded, "milk") or mentions(folded, "cream") or has(folded, "half")
            ):
                dairy = dairy or sentence
    if bowl and dairy:
        return Setting("sugar", "split", dairy)
    return Setting("sugar", "yolks", bowl) if bowl else None
