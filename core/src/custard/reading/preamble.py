"""What a saved or copied page has around its recipe: buttons, ratings, symbols, the way to the page."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from custard.reading.headings import Is, heading_of
from custard.reading.match import Hints
from custard.reading.names import find
from custard.reading.sentences import amounts_within
from custard.reading.shapes import Shapes, a_dish
from custard.reading.tokens import Kind, fold, tidy, tokens
from custard.reading.words import lists

MOST_PREAMBLE = 40
"""So many lines may stand before the heading of the ingredients."""
MOST_TITLE_WORDS, LONGEST_LINE, LONGEST_BUTTON = 12, 300, 80
_SYMBOLS = re.compile(
    "[\u2190-\u21ff\u2300-\u23ff\u25a0-\u27bf\u2900-\u297f\u2b00-\u2bff\U0001f000-\U0001faff\ufe0f]+"
)
"""Emoji, boxes to tick, stars and arrows."""
_KEYCAP = re.compile("(\\d)\ufe0f?\u20e3")
_CIRCLED = re.compile("[\u2460-\u2473]")
_TIMES = re.compile(r"(?:\d+(?:\.5)?\s*x\s*)+", re.IGNORECASE)
"""Buttons that scale a page: "1x 2x 3x"."""
_RATING = re.compile(r"\W*\d(?:[.,]\d+)?\W+(?:[^\W\d]+\s+)?\d+\s+(?P<of>[^\W\d]+)\W*")
"""What readers think of a page: "4.8 from 213 votes", "4,7 (89 Bewertungen)"."""
_TRAIL = re.compile(r"[»›>]")
"""The way to a page: "Home » Desserts"."""


def plain_symbols(text: str) -> str:
    """A text without symbols that are no words; a number in a circle or on a key becomes a step's.

    Parameters
    ----------
    text : as it was pasted.

    >>> plain_symbols("\u25a2 2 cups milk"), plain_symbols("1\ufe0f\u20e3 Mix")
    (' 2 cups milk', '1. Mix')
    """
    text = _KEYCAP.sub(r"\1.", text)
    text = _CIRCLED.sub(lambda found: f"{ord(found[0]) - 0x245F}. ", text)
    return _SYMBOLS.sub(" ", text).replace("  ", " ")


def is_of_the_page(line: str) -> bool:
    """Whether a line is a button or a rating of the page, and nothing of the recipe."""
    stripped = line.strip()
    if len(stripped) > LONGEST_BUTTON:
        return False
    rating = _RATING.fullmatch(stripped)
    rated = rating is not None and fold(rating["of"]) in lists("layout")["ratings"]
    return rated or fold(stripped) in lists("layout")["page_words"] or bool(_TIMES.fullmatch(stripped))


@dataclass(frozen=True, slots=True)
class Page:
    """The lines of a recipe from its title on, and what a page has before them."""

    lines: Sequence[str]
    before: tuple[str, ...] = ()


def without_preamble(lines: Sequence[str], language: str) -> Page:
    """A recipe from its title on, where a page has more before the heading of its ingredients.

    Of what stands there only the title and for how many it is belong to the recipe; the rest are notes. Where
    things with their amounts, or a method, stand there, all of it belongs to the recipe.

    Parameters
    ----------
    lines : of a text.
    language : of the recipe.
    """
    shapes = Shapes(language)
    first = [line if len(line) <= LONGEST_LINE else "" for line in lines[:MOST_PREAMBLE]]
    heads = [heading_of(line, shapes, in_method=False) for line in first]
    at = next((at for at, head in enumerate(heads) if head is not None and head.of == Is.INGREDIENTS), 0)
    before = [line for line in lines[:at] if line.strip()]
    long = any(len(line) > LONGEST_LINE for line in before)
    method = any(head is not None and head.of == Is.METHOD for head in heads[:at])
    if len(before) < 2 or long or method or any(_gives_things(line, language) for line in before):
        return Page(lines)
    named = [line for line in before if not _TRAIL.search(line)] or before
    title = next((line for line in named if _is_title(line)), named[0])
    serves = [line for line, head in zip(lines[:at], heads, strict=False) if head is not None and head.serves]
    rest = tuple(line.strip() for line in before if line != title and line not in serves)
    return Page([title.partition(" | ")[0], *serves, *lines[at:]], rest)


def _gives_things(line: str, language: str) -> bool:
    """Whether a line gives an amount of something that we know: "Published 3 March" does not."""
    hints = Hints(language)
    return any(
        not find(
            " ".join(token.text for token in tokens(tidy(part)) if token.kind == Kind.WORD), hints
        ).assumed
        for part in amounts_within(line, language)
    )


def _is_title(line: str) -> bool:
    return a_dish(line) and len(line.split()) <= MOST_TITLE_WORDS
