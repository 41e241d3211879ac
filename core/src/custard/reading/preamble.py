"""What a saved or copied page has around its recipe: buttons, ratings, symbols, the way to the page."""

from __future__ import annotations

import re
from collections.abc import Sequence

from custard.reading.amounts import amount_at
from custard.reading.headings import Is, heading_of
from custard.reading.sentences import amounts_within
from custard.reading.shapes import Shapes, a_dish
from custard.reading.tokens import fold, tidy, tokens
from custard.reading.words import lists

MOST_PREAMBLE = 40
"""So many lines may stand before the heading of the ingredients."""
MOST_TITLE_WORDS, LONGEST_LINE = 12, 300
_SYMBOLS = re.compile(
    "[\u2190-\u21ff\u2300-\u23ff\u25a0-\u27bf\u2900-\u297f\u2b00-\u2bff\U0001f000-\U0001faff\ufe0f]+"
)
"""Emoji, boxes to tick, stars and arrows."""
_KEYCAP = re.compile("(\\d)\ufe0f?\u20e3")
_CIRCLED = re.compile("[\u2460-\u2473]")
_TIMES = re.compile(r"(?:\d+(?:\.5)?\s*x\s*)+|\W*\d(?:[.,]\d)?\s+(?:from|of|/)\s+\d+\s+\w+", re.IGNORECASE)
"""Buttons that scale a page, "1x 2x 3x", and its rating, "4.8 from 213 votes"."""
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
    return len(stripped) < 80 and (
        fold(stripped) in lists("layout")["page_words"] or _TIMES.fullmatch(stripped) is not None
    )


def without_preamble(lines: Sequence[str], language: str) -> Sequence[str]:
    """The lines from the title on, where a page has more before the heading of its ingredients.

    Of what stands there only the title and for how many it is are kept; where amounts of things or a method
    stand there, all is kept.

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
    if len(before) < 2 or long or method or any(_measures(line, language) for line in before):
        return lines
    named = [line for line in before if not _TRAIL.search(line)] or before
    title = next((line for line in named if _is_title(line)), named[0])
    serves = [line for line, head in zip(lines[:at], heads, strict=False) if head is not None and head.serves]
    return [title.partition(" | ")[0], *serves, *lines[at:]]


def _measures(line: str, language: str) -> bool:
    """Whether a line gives a weight or a measure of something: "Published 3 March" does not."""
    found = tokens(tidy(line))
    read = (amount_at(found, at, language) for at in range(len(found)))
    return any(one is not None and one[0].unit for one in read) and bool(amounts_within(line, language))


def _is_title(line: str) -> bool:
    return a_dish(line) and len(line.split()) <= MOST_TITLE_WORDS
