"""The juice and the zest of fruit that is counted: "zest of 1/2 orange", "Saft von 2 Zitronen"."""

from __future__ import annotations

import re
from collections.abc import Sequence

from custard.larder.ingredients import ingredient
from custard.reading.amounts import Amount, amount_at
from custard.reading.line import Reader, ReadLine
from custard.reading.tokens import Kind, Token, phrase_at, tokens
from custard.reading.weights import weighed
from custard.reading.words import lists, squeezed


def of_fruit(text: str, reader: Reader) -> tuple[ReadLine, ...]:
    """The juice, the zest or both of some fruit."""
    found = tokens(text)
    words = [token.folded for token in found if token.kind == Kind.WORD]
    joined = " ".join(words)
    fruits_at = [
        (at, length) for at in range(len(found)) if (length := phrase_at(found, at, frozenset(squeezed())))
    ]
    if not fruits_at:
        return ()
    # "Orange zest, 2 oranges": the fruit that is counted.
    count_at, length = next(
        (one for one in fruits_at if one[0] and found[one[0] - 1].kind == Kind.NUMBER), fruits_at[0]
    )
    fruit = squeezed()[
        " ".join(one.folded for one in found[count_at : count_at + length] if one.kind == Kind.WORD)
    ]
    juice = bool(lists("line")["juice"] & set(words)) or bool(re.search(r"saft\b", joined))
    zest = bool(lists("line")["zest"] & set(words)) or bool(re.search(r"(schale|abrieb|zeste)\b", joined))
    if not juice and not zest:
        return ()
    first = amount_at(found, 0, reader.language)
    reads = (amount_at(found, at, reader.language) for at in range(len(found)))
    if any(read is not None and read[0].unit not in ("", "stick") for read in reads):
        # "Lemon juice 1 tbsp": it is measured, not squeezed out of so many.
        return ()
    near_fruit = next(
        (
            read
            for at in range(max(0, count_at - 4), count_at)
            if (read := amount_at(found, at, reader.language)) is not None and at + read[1] <= count_at
        ),
        None,
    )
    fruits = near_fruit[0] if near_fruit is not None else first[0] if first is not None else None
    pieces_of_zest = any(word in lists("line")["strips"] for word in words)
    if pieces_of_zest and (near_fruit is None or near_fruit[0].number == 1):
        return ()
    count = fruits.number if fruits is not None else 1.0
    out = []
    for is_there, name, each in (
        (juice, fruit.juice, fruit.juice_g),
        (zest, "citrus-zest" if fruit.zest_g else fruit.juice, fruit.zest_g or fruit.juice_g),
    ):
        if is_there:
            weight = count * each
            assumed = (f"one gives about {each:g} g", *(fruits.assumed if fruits is not None else ()))
            line = ReadLine(text, name, ingredient(name).name, Amount(weight, "g").text(), assumed=assumed)
            out.append(weighed(line, reader))
    return tuple(out)


def part_of_fruit_at(found: Sequence[Token], at: int) -> int:
    """How many tokens name the juice or the zest of one fruit, "peel of a lemon"; 0 where none do.

    Parameters
    ----------
    found : the tokens of a sentence.
    at : where it may begin.
    """
    if found[at].folded not in lists("line")["juice"] | lists("line")["zest"]:
        return 0
    of = phrase_at(found, at + 1, lists("amount")["of"])
    start = at + 1 + of + phrase_at(found, at + 1 + of, lists("line")["articles"])
    fruit = phrase_at(found, start, frozenset(squeezed())) if of else 0
    return start + fruit - at if fruit else 0
