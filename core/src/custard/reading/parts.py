"""A line cut into the things that it names, each with its own amount."""

from __future__ import annotations

import re
from collections.abc import Sequence
from itertools import pairwise

from custard.reading.amounts import Amount, amount_at, piece_at
from custard.reading.line import Reader
from custard.reading.match import Hints
from custard.reading.names import find
from custard.reading.tokens import Kind, Token, fold, phrase_at, tokens
from custard.reading.words import lists, squeezed

_AND = re.compile(r"\s+(?:and|et|und|e|y|&)\s+")


def parts_of(text: str, reader: Reader) -> tuple[str, ...]:
    """A line cut where it goes on to another thing with an amount of its own.

    Parameters
    ----------
    text : a line that `tidy` has been through.
    reader : how the line is read.
    """
    found = tokens(text)
    shared = _each_of(text, found, reader)
    if shared:
        return shared
    cuts, depth = [], 0
    for at, token in enumerate(found):
        depth += (token.text in "([") - (token.text in ")]")
        joint = _joint(found, at)
        if depth or not joint or at == 0 or _says_which_fruit(found, at, joint, reader):
            continue
        more = _more_of_it(found, at + joint, reader)
        if more:
            return _and_more(text, found, (at, at + joint, more), reader)
        if _goes_on(found, at, joint, reader):
            cuts.append((at, at + joint))
    if not cuts and not any(char.isdigit() for char in text):
        both = _AND.split(text)
        if len(both) == 2 and all(_plainly(part, reader) for part in both):
            return tuple(both)
    ends = [(0, 0), *cuts, (len(found), len(found))]
    spans = [(start, end) for (_, start), (end, _) in pairwise(ends) if start < end]
    return tuple(text[found[start].start : found[end - 1].end] for start, end in spans) or (text,)


def _each_of(text: str, found: Sequence[Token], reader: Reader) -> tuple[str, ...]:
    """ "A pint each of milk and cream" as two lines; none where a line does not say so."""
    read = amount_at(found, 0, reader.language)
    each = phrase_at(found, read[1], lists("amount")["each"]) if read is not None else 0
    if read is None or not each or read[1] + each >= len(found):
        return ()
    start = read[1] + each + phrase_at(found, read[1] + each, lists("amount")["of"])
    names = _AND.split(text[found[start].start :])
    if len(names) < 2 or not all(has_name(tokens(name), reader) for name in names):
        return ()
    return tuple(f"{text[: found[read[1] - 1].end]} {name}" for name in names)


def _joint(found: Sequence[Token], at: int) -> int:
    """How many tokens join two things at a place: a comma, a plus, "and"."""
    sign = found[at].kind == Kind.SIGN and found[at].text in ",;+&/·•"
    if found[at].folded in lists("acts")["within"]:
        # "Raisins soaked in 60 ml rum"
        return 1
    return 1 if sign else phrase_at(found, at, lists("amount")["plus"])


def _goes_on(found: Sequence[Token], at: int, joint: int, reader: Reader) -> bool:
    """Whether another thing begins behind a joint."""
    before = without_amount(found[:at], reader)
    if not before or not has_name(before, reader):
        return False
    if _of_a_fruit(found, at + joint):
        return True
    if found[at].text == "+" and _named_first(found[at + joint :], reader):
        return True
    if _named_first(found[:at], reader) and _named_first(found[at + joint :], reader):
        # "Starch 25 g and flour 15 g"
        return True
    after = amount_at(found, at + joint, reader.language) or _one_piece(found, at + joint)
    if after is None or not has_name(found[at + joint + after[1] :], reader):
        return False
    return _is_new(found[at], found[at + joint], after[0])


def _one_piece(found: Sequence[Token], at: int) -> tuple[Amount, int] | None:
    """One of what is counted by a word, where the number is left out: "thumb of ginger"."""
    piece = piece_at(found, at)
    of = phrase_at(found, at + piece, lists("amount")["of"]) if piece else 0
    return (Amount(1.0, "", found[at].folded), piece + of) if of else None


def _named_first(found: Sequence[Token], reader: Reader) -> bool:
    """Whether a thing follows with its amount behind it: "water 24 g"."""
    number = next((at for at, token in enumerate(found) if token.kind == Kind.NUMBER), 0)
    return number > 0 and has_name(found[:number], reader)


def _more_of_it(found: Sequence[Token], at: int, reader: Reader) -> int:
    """Where "1 tbsp for the top" ends its amount; 0 where what follows is no more of the same."""
    vague = phrase_at(found, at, lists("amount")["no_weight"])
    after = amount_at(found, at, reader.language)
    if not vague and (after is None or not after[0].unit):
        return 0
    end = at + (vague or (after[1] if after is not None else 0))
    behind = end + phrase_at(found, end, lists("line")["extra"])
    return end if behind < len(found) and found[behind].folded in lists("line")["what_for"] else 0


def _plainly(text: str, reader: Reader) -> bool:
    """Whether a text is the name of something, but for what it is for."""
    name = FOR_WHAT.split(text, maxsplit=1)[0]
    match = find(name, Hints(reader.language, reader.country))
    return bool(match.id) and fold(name) == match.words


FOR_WHAT = re.compile(r"\s+(?:for|pour|für|zum|zur|per|para)\s+", re.IGNORECASE)


def _of_a_fruit(found: Sequence[Token], at: int) -> bool:
    """Whether the juice or the zest of something follows."""
    at += phrase_at(found, at, lists("line")["articles"])
    return (
        at < len(found)
        and found[at].folded in lists("line")["juice"] | lists("line")["zest"]
        and any(
            phrase_at(found, behind, frozenset(squeezed())) for behind in range(at, min(at + 6, len(found)))
        )
    )


def _says_which_fruit(found: Sequence[Token], at: int, joint: int, reader: Reader) -> bool:
    """Whether what follows a joint counts the fruit of the zest before it: "orange zest, 2 oranges"."""
    of_fruit = lists("line")["juice"] | lists("line")["zest"]
    zested = any(token.folded in of_fruit for token in found[:at])
    behind = found[at + joint :]
    bare = not any(phrase_at(found, before, frozenset(squeezed())) for before in range(at))
    if zested and bare and any(token.folded in of_fruit for token in behind):
        # "Zest and juice of 2 lemons"
        return True
    rest = without_amount(found[at + joint :], reader)
    counted = 0 < len(rest) < len(found) - at - joint
    return zested and counted and phrase_at(rest, 0, frozenset(squeezed())) == len(rest)


def _and_more(text: str, found: Sequence[Token], at: tuple[int, int, int], reader: Reader) -> tuple[str, ...]:
    """A line that asks for more of the same: "75 g sugar, plus 1 tbsp for the top"."""
    joint, after, end = at
    first = text[: found[joint].start].strip(" ,(+")
    name = without_amount(found[:joint], reader)
    named = text[name[0].start : found[joint].start].strip(" ,(+") if name else first
    more = text[found[after].start : found[end - 1].end]
    return first, f"{more} {named}, {text[found[end].start :].strip(' )')}"


def _is_new(joint: Token, first: Token, amount: Amount) -> bool:
    """Whether what follows a joint begins another thing, rather than the same amount again."""
    if joint.text == "/":
        return False
    if joint.folded in lists("acts")["within"] and joint.folded not in lists("amount")["plus"]:
        return bool(amount.unit)
    return (
        first.kind == Kind.NUMBER
        or bool(amount.unit or amount.piece)
        or amount.number > 1
        or joint.text not in ",/"
    )


def without_amount(found: Sequence[Token], reader: Reader) -> Sequence[Token]:
    """The tokens behind the amount that a line begins with."""
    read = amount_at(found, 0, reader.language)
    return found[read[1] :] if read is not None else found


def has_name(found: Sequence[Token], reader: Reader) -> bool:
    """Whether the words up to the next comma name something."""
    words: list[str] = []
    for token in found:
        if token.text in ",;(" or (token.folded in lists("amount")["plus"] and words):
            break
        if token.kind == Kind.WORD:
            words.append(token.text)
    return bool(words) and bool(find(" ".join(words), Hints(reader.language, reader.country)).id)
