"""The title of a recipe, and for how many it says that it is."""

from __future__ import annotations

import re
from collections.abc import Sequence

from custard.formula import MAX_NAME
from custard.reading.headings import MAX_SERVES
from custard.reading.shapes import a_dish
from custard.reading.tokens import Kind, Token, phrase_at, tidy, tokens
from custard.reading.words import lists

MOST_SERVED = 500
"""A larger number behind a title is a year."""
_AROUND = " :*_#=,-–—("


def titled(line: str) -> tuple[str, str]:
    """A title without "Recipe for" in front of it, and for how many it is; empty where it does not say.

    Parameters
    ----------
    line : the first line of a recipe.

    >>> titled("Recipe: Crème anglaise pour 6 personnes"), titled("Custard (makes about 700 g)")
    (('Crème anglaise', '6 personnes'), ('Custard', 'about 700 g'))
    >>> titled("Custard for a tart")
    ('Custard for a tart', '')
    """
    found = tokens(line)
    count = phrase_at(found, 0, lists("layout")["title"])
    if 0 < count < len(found) and found[count].text in ":-":
        line = line[found[count].end :]
    name = tidy(line).strip(_AROUND)
    found = tokens(name)
    for at in range(1, len(found)):
        start = at + (found[at].text == "(")
        start += phrase_at(found, start, lists("layout")["makes"])
        if start > at and _is_number_served(found[start:], bracketed=found[at].text == "("):
            serves = name[found[start].start :].strip(" ).")
            return name[: found[at].start].strip(_AROUND)[:MAX_NAME], serves[:MAX_SERVES]
    return line.strip(" :*_#=-")[:MAX_NAME], ""


def _is_number_served(found: Sequence[Token], *, bracketed: bool) -> bool:
    """Whether the end of a title tells for how many it is, or how much it makes."""
    words = [token for token in found if token.kind == Kind.WORD]
    numbers = [token for token in found if token.kind == Kind.NUMBER]
    if not numbers or not all(token.text.isdigit() and int(token.text) <= MOST_SERVED for token in numbers):
        return bool(numbers) and bracketed and found[0].kind == Kind.WORD
    if any(token.text not in "-–)~." for token in found if token.kind == Kind.SIGN):
        return False
    served = all(token.folded in lists("layout")["people"] for token in words)
    return found[0].kind == Kind.NUMBER and served if not bracketed else served or found[0].kind == Kind.WORD


def title_in_front(part: str) -> tuple[str, str]:
    """A title and the first thing behind it, where both stand together: "Pastry cream 500 g milk".

    Parameters
    ----------
    part : of a line that lists several things, the first.
    """
    number = re.search(r"\s\d", part)
    return (
        (part[: number.start()], part[number.end() - 1 :])
        if number and a_dish(part[: number.start()])
        else (part, "")
    )
