"""The language of a recipe, and the country whose measures it uses."""

from __future__ import annotations

import re

from custard.reading.tokens import fold
from custard.reading.words import LANGUAGES, lists


def language_of(text: str) -> str:
    """The language of a text, of the six that are read; English where none is likelier."""
    words = fold(text[:20_000]).split()
    table = lists("language")
    scores = {language: sum(word in table[language] for word in words) for language in LANGUAGES}
    best = max(scores, key=lambda language: scores[language])
    return best if scores[best] > scores["en"] else "en"


def country_of(text: str, language: str) -> str:
    """The country whose words and measures an English recipe uses; empty where nothing tells."""
    if language != "en":
        return ""
    low = f" {text[:20_000].lower()} "
    table = lists("country")
    padded = " " + fold(low) + " "
    scores = {where: sum(f" {word} " in padded for word in words) for where, words in table.items()}
    scores["us"] += len(re.findall(r"\d\s*°?\s?F\b", text[:20_000]))
    # Its words are few, and nobody else's.
    scores["au"] *= 3
    best = max(scores, key=lambda where: scores[where])
    rest = [score for where, score in scores.items() if where != best]
    if scores[best] > max(rest):
        return best
    # Nobody but Americans measures sugar by the cup, and they seldom buy milk by the pint.
    cups, pints = (re.search(rf"\b{unit}s?\b", low) for unit in ("cup", "(?:pint|pt)"))
    return "us" if cups else "uk" if pints else ""
