"""The headings of a recipe: ingredients, method, notes, parts, and for how many it is."""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import StrEnum

from custard.reading.amounts import amount_at, piece_at
from custard.reading.shapes import LONG_LINE, SHORT_WORDS, Shapes
from custard.reading.tokens import Kind, fold, phrase_at, says, tidy, tokens
from custard.reading.words import lists

MAX_SERVES = 100


class Is(StrEnum):
    """What a heading is of."""

    INGREDIENTS = "ingredients"
    METHOD = "method"
    NOTES = "notes"
    SECTION = "section"
    SERVES = "serves"
    NOTE = "note"


@dataclass(frozen=True, slots=True)
class Heading:
    """A line that heads others.

    Attributes
    ----------
    rest : what stands on the same line behind it.
    serves : for how many, where it says so.
    """

    of: Is
    rest: str = ""
    serves: str = ""


def heading_of(line: str, shapes: Shapes, *, in_method: bool) -> Heading | None:
    """The heading that a line is; None where it is none.

    Parameters
    ----------
    line : one line of a recipe.
    shapes : what tells its language's lines apart.
    in_method : the heading of the method has come.
    """
    table = lists("headings")
    first, colon, rest = line.partition(":")
    for of in (Is.INGREDIENTS, Is.METHOD, Is.NOTES):
        if colon and rest.strip() and fold(first) in table[of]:
            return Heading(Is.NOTE if of == Is.NOTES else of, rest.strip())
    found = tokens(tidy(first))
    begins = phrase_at(found, 0, table[Is.INGREDIENTS])
    makes = phrase_at(found, begins, lists("layout")["makes"]) if begins else 0
    if makes and begins + makes < len(found):
        serves = first[found[begins + makes].start :].strip(" .:")[:MAX_SERVES]
        return Heading(Is.INGREDIENTS, rest.strip(), serves)
    bare = fold(re.sub(r"\s*\(.*?\)\s*", " ", first))
    for of in (Is.INGREDIENTS, Is.METHOD, Is.NOTES):
        if bare in table[of] or fold(line) in table[of]:
            served = re.search(r"\((.*?)\)", line)
            return Heading(of, serves="" if served is None else served[1].strip())
    return _serves(line, shapes, in_method=in_method) or _section(line, shapes, in_method=in_method)


def _section(line: str, shapes: Shapes, *, in_method: bool) -> Heading | None:
    """A heading of a part: "For the custard:", "To finish"."""
    table = lists("headings")
    folded = fold(line)
    if not in_method and (folded in table["over"] or (folded in table["alone"] and not shapes.at_top)):
        return Heading(Is.SECTION)
    first, colon, rest = line.partition(":")
    after = tokens(tidy(re.sub(r"\(.*?\)", " ", rest)))
    read = amount_at(after, 0, shapes.language)
    behind = after[read[1] :] if read is not None else ()
    counted = behind[: piece_at(behind, 0)]
    piece = bool(counted) and counted[-1].folded not in lists("line")["no_piece"]
    named = bool(behind) and not piece and shapes.names(" ".join(token.text for token in behind))
    if colon and named and len(first.split()) <= SHORT_WORDS and not re.search(r"\d", first):
        return Heading(Is.SECTION, rest.strip())
    ends = line.rstrip().endswith(":")
    begins = any(folded.startswith(f"{word} ") for word in table["sections"])
    short = len(line.split()) <= SHORT_WORDS + 2 and not any(char.isdigit() for char in line)
    verbs = lists("verbs").get(shapes.language, frozenset()) - lists("layout")["no_verbs"]
    acts = folded.split()[:1] and folded.split()[0] in verbs
    if not short or acts or not (ends or (begins and not in_method)):
        return None
    if shapes.at_top and says(folded, table["ingredients"]):
        return Heading(Is.INGREDIENTS)
    if shapes.at_top and ends and not begins:
        return None
    return Heading(Is.SECTION)


def _times(line: str) -> bool:
    """Whether a line tells how long something takes: "Prep: 20 min", "Oven 160 °C"."""
    first = line.partition(":")[0]
    units = {word for words in lists("times").values() for word in words}
    label = " ".join(word for word in fold(first).split() if not word[0].isdigit() and word not in units)
    return label in lists("headings")["times"]


def _serves(line: str, shapes: Shapes, *, in_method: bool) -> Heading | None:
    """For how many a recipe is, or how long it takes."""
    table, folded = lists("headings"), fold(line)
    timed = not in_method and len(line) < LONG_LINE and _times(line)
    if timed and (":" in line or not shapes.is_line(line)):
        return Heading(Is.NOTE, line)
    first, colon, rest = line.partition(":")
    if colon and rest.strip() and re.search(r"\d", first):
        head = _serves(first, shapes, in_method=in_method)
        if head is not None and head.serves:
            return Heading(Is.SERVES, rest.strip(), head.serves)
    found = tokens(tidy(line))
    lead = phrase_at(found, 0, lists("layout")["makes"])
    numbered = any(token.kind == Kind.NUMBER for token in found[lead : lead + 2])
    few = len(folded.split()) <= SHORT_WORDS - 1
    people = folded.split()[-1:] and folded.split()[-1] in lists("layout")["people"]
    counted = amount_at(found, lead, shapes.language) if lead else None
    bare = counted is not None and not counted[0].unit
    if few and numbered and ((lead and (bare or not shapes.names(re.sub(r"^\w+", "", folded)))) or people):
        return Heading(Is.SERVES, serves=line[found[lead].start :].strip(" .:")[:MAX_SERVES])
    says_serves = any(folded == word or folded.startswith(f"{word} ") for word in table["serves"])
    if says_serves and len(line) < LONG_LINE and (re.search(r"\d", line) or len(folded.split()) <= 2):
        return Heading(Is.SERVES, serves=(re.sub(r"^[^\d]*", "", line).strip(" .") or line)[:MAX_SERVES])
    return None
