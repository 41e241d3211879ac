"""A text as words, numbers and signs; words compared without case, accents or dots."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache

from custard.numbers import plain_text

_SPECIAL = str.maketrans(
    {"œ": "oe", "Œ": "oe", "æ": "ae", "Æ": "ae", "ß": "ss", "ø": "o", "’": "'", "ʼ": "'"}
)
_PLAIN_SIGNS = str.maketrans("’‘“”×‑−º", "''\"\"x--°")
_TOKEN = re.compile(
    r"""(?P<number>\d+\s+\d+\s*/\s*\d+(?!\d) | \d+\s*/\s*\d+ | \d{1,3}(?:[.,'’]\d{3})+(?:[.,]\d+)?(?!\d)
        | \d+(?:[.,]\d+)? | (?<![\w])[.,]\d+)
      | (?P<word>[^\W\d_]+\.?)
      | (?P<sign>\S)""",
    re.VERBOSE,
)


class Kind(StrEnum):
    """What a token is."""

    NUMBER = "number"
    WORD = "word"
    SIGN = "sign"


@dataclass(frozen=True, slots=True)
class Token:
    """One word, number or sign.

    Attributes
    ----------
    text : as it stands.
    folded : as it is compared.
    start, end : where it stands in the text.
    """

    kind: Kind
    text: str
    folded: str
    start: int
    end: int


@lru_cache(maxsize=8192)
def fold(text: str) -> str:
    """A text as it is compared: lower case, no accents, words and numbers set apart by single spaces.

    Parameters
    ----------
    text : a name, a unit or a phrase.

    >>> fold("Crème fraîche, 35 %"), fold("C. à S."), fold("Jaunes d'Œufs")
    ('creme fraiche 35%', 'c a s', 'jaunes d oeufs')
    """
    plain = unicodedata.normalize("NFKD", text.translate(_SPECIAL).casefold())
    plain = "".join(char for char in plain if not unicodedata.combining(char))
    plain = re.sub(r"(\d)[.,](\d)", r"\1·\2", plain)
    plain = re.sub(r"[^\w%·]+", " ", plain).replace("·", ".").replace("_", " ")
    return re.sub(r"(\d) %", r"\1%", " ".join(plain.split()))


def tokens(text: str) -> tuple[Token, ...]:
    """The words, numbers and signs of a text that `tidy` has been through."""
    found = []
    for match in _TOKEN.finditer(text):
        kind = Kind(match.lastgroup or "sign")
        folded = fold(match[0]) if kind == Kind.WORD else match[0]
        found.append(Token(kind, match[0], folded, match.start(), match.end()))
    return tuple(found)


def tidy(text: str) -> str:
    """A line with vulgar fractions written out and white space folded; typographic signs made plain."""
    plain = text.translate(_PLAIN_SIGNS)
    return plain_text(plain)


def phrase_at(found: Sequence[Token], at: int, phrases: frozenset[str], longest: int = 5) -> int:
    """How many tokens from `at` make one of some folded phrases, the longest first; 0 where none does."""
    parts: list[str] = []
    best = 0
    for count, token in enumerate(found[at : at + 2 * longest], 1):
        if token.kind == Kind.WORD:
            parts.append(token.folded)
        elif token.text not in "'-.":
            break
        if token.kind == Kind.WORD and len(parts) <= longest and " ".join(parts) in phrases:
            best = count
    return best


def says(folded: str, phrases: Iterable[str]) -> bool:
    """Whether a folded text has one of some folded phrases, as whole words.

    Parameters
    ----------
    folded : the text, as `fold` returns it.
    phrases : what is looked for, each as `fold` returns it.

    >>> says(fold("Crème d'orange"), ["orange"]), says(fold("Orangeat"), ["orange"])
    (True, False)
    """
    padded = f" {folded} "
    return any(f" {phrase} " in padded for phrase in phrases)
