"""The words of the larder: what each names, and which leave a choice."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

from custard.larder.ingredients import all_ingredients
from custard.larder.tables import rows
from custard.reading.tokens import fold
from custard.reading.words import LANGUAGES


@dataclass(frozen=True, slots=True)
class Choice:
    """A word that may mean several ingredients, and which it usually does."""

    usual: str
    but: Mapping[str, str]
    options: tuple[str, ...]


@dataclass(frozen=True)
class Words:
    """Every word of the larder, folded.

    Attributes
    ----------
    of : the ingredient that a word names, by language and word.
    any : the ingredients that a word names in any language.
    choices : the words that leave a choice.
    longest : words of the longest name.
    """

    of: Mapping[str, Mapping[str, str]]
    any: Mapping[str, tuple[str, ...]]
    choices: Mapping[str, Choice]
    longest: int


@cache
def larder_words() -> Words:
    """The words of the larder, folded."""
    of: dict[str, dict[str, str]] = {language: {} for language in LANGUAGES}
    anywhere: dict[str, list[str]] = {}
    for row in rows("words"):
        for language in LANGUAGES:
            for word in row[language].split("|"):
                if word:
                    of[language].setdefault(fold(word), row["id"])
                    anywhere.setdefault(fold(word), []).append(row["id"])
    for thing in all_ingredients().values():
        for word in (fold(thing.name), fold(thing.id)):
            if word not in anywhere:
                of["en"].setdefault(word, thing.id)
                anywhere[word] = [thing.id]
    choices: dict[str, Choice] = {}
    for row in rows("choices"):
        pairs = (pair.split(":") for pair in row["but"].split("|") if pair)
        choice = Choice(row["usual"], dict(pairs), tuple(row["options"].split("|")))
        choices |= {fold(word): choice for word in row["words"].split("|")}
    longest = max(len(word.split()) for word in (*anywhere, *choices))
    return Words(
        MappingProxyType(of),
        MappingProxyType({word: tuple(dict.fromkeys(ids)) for word, ids in anywhere.items()}),
        MappingProxyType(choices),
        longest,
    )
