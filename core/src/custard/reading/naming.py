"""Which lines of a recipe a clause of its method names."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence

from custard.larder.ingredients import ingredient
from custard.reading.line import ReadLine
from custard.reading.phrases import kind_of, kind_words
from custard.reading.tokens import fold
from custard.reading.words import lists


def keys_of(line: ReadLine) -> set[str]:
    """The words by which a method speaks of a line: its own, and its kinds with a "=" in front.

    Parameters
    ----------
    line : with its ingredient.
    """
    own = {word for word in fold(line.name).split() if len(word) > 2 and word not in lists("manner")["words"]}
    kinds = {kind_of(word) for word in own if kind_of(word)}
    thing = ingredient(line.ingredient)
    for part in fold(thing.name).split():
        if kind_of(part):
            kinds.add(kind_of(part))
    if thing.group == "chocolate":
        kinds.add("chocolate")
    if thing.group == "alcohol":
        kinds.add("spirit")
    return own | {f"={kind}" for kind in kinds}


def named(folded: str, keys: Mapping[int, set[str]]) -> list[int]:
    """The lines that a clause names, by their own words or by their kind.

    Parameters
    ----------
    folded : the clause, folded.
    keys : of each line by its place, as `keys_of` has them.
    """
    words = folded.split()
    kinds = {f"={kind_of(word)}" for word in words if kind_of(word)}
    stems = {_stem(word) for word in words}
    out = []
    for at, own in keys.items():
        exact, kind = _exactly(own, stems), own & kinds
        rivals = [theirs for other, theirs in keys.items() if other != at and theirs & kind]
        if (exact or kind) and not _better_named(own, exact, rivals, stems):
            out.append(at)
    return out


def _better_named(own: set[str], exact: set[str], rivals: Sequence[set[str]], stems: set[str]) -> bool:
    """Whether another line of the kind is meant: "the double cream" is not the single cream."""
    for theirs in rivals:
        hits = _exactly(theirs, stems)
        if not hits:
            continue
        if not exact:
            return True
        if hits - kind_words() and not exact - kind_words():
            return True
        # "milk" is the milk, not the "milk caramel".
        if _special(own) and not _special(own) & exact and not _special(theirs):
            return True
    return False


def _special(own: set[str]) -> set[str]:
    """The words of a line that name more than a kind of thing."""
    return {word for word in own if not word.startswith("=")} - kind_words()


def _exactly(own: set[str], stems: set[str]) -> set[str]:
    """The own words of a line that a clause has."""
    return {word for word in own if not word.startswith("=") and _stem(word) in stems}


def _stem(word: str) -> str:
    """A word without the ending of its case or number: "brauner" and "braunen" are the same."""
    return _ENDING.sub("", word)


_ENDING = re.compile(r"(?<=\w{4})e[mnrs]?$|s$")
