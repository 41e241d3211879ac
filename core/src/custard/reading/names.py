"""Which ingredient some words name: as written, by choice, by percent, or by the nearest spelling."""

from __future__ import annotations

from collections.abc import Iterable
from functools import cache, lru_cache

from rapidfuzz import fuzz, process

from custard.larder.ingredients import ingredient
from custard.reading.match import Hints, Match
from custard.reading.percent import by_percent, percent_of, without_percent
from custard.reading.tokens import fold
from custard.reading.word_table import Choice, larder_words
from custard.reading.words import lists

NEAREST, MOST_OPTIONS = 86.0, 6
"""A spelling this near [percent] is taken for a typing error."""
NEARLY_ALL, LONG = 93.0, 10
"""A name of several words this near is meant, though another name stands within it."""
SHORT = 4
"""Words shorter than this have no typing errors that can be distinguished from other words."""


@lru_cache(maxsize=4096)
def find(name: str, hints: Hints) -> Match:
    """Which ingredient some words name.

    Parameters
    ----------
    name : the words of a line without its amount.
    hints : what helps to choose.

    Returns
    -------
    a match without an id where nothing is near; its options are then the nearest there are.
    """
    folded = fold(name)
    percent = percent_of(folded)
    bare = without_percent(folded)
    for words in dict.fromkeys((folded, bare)):
        exact = _exact(words, hints)
        if exact is not None:
            return by_percent(exact, percent) if words == bare else exact
    typed = _typing_error(bare, hints)
    if typed is not None:
        return by_percent(typed, percent)
    plainly = " ".join(
        word for word in bare.split() if word not in _plain_words() or word in lists("amount")["of"]
    )
    exact = _exact(plainly, hints) if plainly != bare else None
    if exact is not None:
        return by_percent(exact, percent)
    inside = _inside(bare, hints)
    if inside is not None:
        return by_percent(inside, percent)
    return by_percent(_misspelt(bare, hints), percent)


def _exact(words: str, hints: Hints) -> Match | None:
    """The ingredient that has these words for its name, or the usual one of a choice."""
    table = larder_words()
    for form in _forms(words):
        choice = table.choices.get(form)
        if choice is not None:
            return _chosen(choice, form, hints)
        found = table.of.get(hints.language, {}).get(form) or table.of["en"].get(form)
        if found:
            return Match(found, words=form)
        others = table.any.get(form)
        if others:
            assumed = () if len(others) == 1 else (ingredient(others[0]).name,)
            return Match(others[0], assumed, others[1:], form)
    return None


def _forms(words: str) -> Iterable[str]:
    """Some words as written, then with a plural s less or more."""
    yield words
    if len(words) > SHORT and words.endswith("s"):
        yield words[:-1]
    elif len(words) >= SHORT:
        yield words + "s"


def _chosen(choice: Choice, words: str, hints: Hints) -> Match:
    """The likeliest of a choice: what the kitchen used last, then by count, country and language."""
    used = next((one for one in hints.used if one in choice.options), None)
    by_count = choice.but.get(hints.counted_by)
    chosen = (
        by_count or used or choice.but.get(hints.country) or choice.but.get(hints.language) or choice.usual
    )
    why = ", as in this book" if used == chosen and not by_count else ""
    others = tuple(one for one in choice.options if one != chosen)
    return Match(chosen, (f"{words}: {ingredient(chosen).name}{why}",), others, words)


def _typing_error(words: str, hints: Hints) -> Match | None:
    """The name that some words of several are but for a letter or two: "vanila sugar"."""
    if " " not in words or len(words) < LONG:
        return None
    table = larder_words()
    for pool in (table.of.get(hints.language, {}), table.of["en"], table.choices):
        hit = process.extractOne(words, pool.keys(), scorer=fuzz.ratio, score_cutoff=NEARLY_ALL)
        if hit is not None and hit[0].count(" ") == words.count(" "):
            found = _exact(hit[0], hints)
            if found is not None:
                return Match(found.id, (f"{words}: {ingredient(found.id).name}",), found.options, hit[0])
    return None


def _inside(words: str, hints: Hints) -> Match | None:
    """The longest name that stands within some words; what else stands there is checked."""
    parts = words.split()
    longest = min(larder_words().longest, len(parts) - 1)
    for length in range(longest, 0, -1):
        # The head of an English or German name is its last word, of a Romance one its first.
        starts = range(len(parts) - length + 1)
        order = starts if hints.language in ("fr", "it", "es", "pt") else reversed(starts)
        for start in order:
            part = " ".join(parts[start : start + length])
            # Some single words name something only where they stand alone: "mace", "sal", "whites".
            if length == 1 and (len(part) < 3 or part in lists("line")["alone"] or _is_article(part, hints)):
                continue
            found = _exact(part, hints)
            if found is None:
                continue
            rest = [word for word in (*parts[:start], *parts[start + length :]) if not _plain(word)]
            if rest:
                guess = f"{' '.join(parts)}: {ingredient(found.id).name}"
                return Match(found.id, (*found.assumed, guess), found.options, part)
            return found
    return None


def _is_article(word: str, hints: Hints) -> bool:
    """Whether a word is an article of the recipe's language: an English "the" is no French "thé"."""
    return hints.language in ("en", "") and word in lists("line")["articles"]


@cache
def _plain_words() -> frozenset[str]:
    """Words that change neither what a thing is nor what it weighs."""
    return lists("manner")["words"] | lists("amount")["size"] | lists("amount")["of"]


def _plain(word: str) -> bool:
    return word in _plain_words() or word.replace("%", "").replace(".", "").isdigit()


def _misspelt(words: str, hints: Hints) -> Match:
    """The nearest spelling; without an id where none is near enough."""
    content = " ".join(word for word in words.split() if not _plain(word))
    if len(content) < SHORT:
        return Match()
    table = larder_words()
    pools = [table.of.get(hints.language, {}), table.of["en"], table.any]
    best: tuple[float, str] = (0.0, "")
    for pool in (table.choices, *pools):
        for tried in dict.fromkeys((content, *_windows(content))):
            hit = process.extractOne(tried, pool.keys(), scorer=fuzz.ratio, score_cutoff=NEAREST)
            if hit is not None and hit[1] > best[0] and hit[0][:1] == tried[:1]:
                best = (hit[1], hit[0])
        if best[0] >= NEAREST:
            break
    if best[1]:
        found = _exact(best[1], hints)
        if found is not None:
            guess = f"{words}: {ingredient(found.id).name}"
            return Match(found.id, (guess,), found.options, best[1])
    return Match()


def _windows(content: str) -> Iterable[str]:
    """The parts of some words, longest first, that can be a misspelt name."""
    parts = content.split()
    for length in range(len(parts) - 1, 0, -1):
        for start in range(len(parts) - length + 1):
            part = " ".join(parts[start : start + length])
            if len(part) > SHORT:
                yield part


def near(words: str) -> tuple[str, ...]:
    """The ingredients that some words may name, nearest first."""
    if not words:
        return ()
    table = larder_words()
    hits = process.extract(words, table.any.keys(), scorer=fuzz.token_set_ratio, limit=20, score_cutoff=60)
    found = dict.fromkeys(one for word, _, _ in hits for one in table.any[word])
    return tuple(found)[:MOST_OPTIONS]
