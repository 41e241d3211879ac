"""Which ingredient some words name: as written, by choice, by percent, or by the nearest spelling."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from functools import cache
from types import MappingProxyType

from rapidfuzz import fuzz, process

from custard.larder.ingredients import all_ingredients, ingredient
from custard.larder.tables import rows
from custard.reading.tokens import fold
from custard.reading.words import LANGUAGES, lists

NEAREST, MOST_OPTIONS = 86.0, 6
"""A spelling this near [percent] is taken for a typing error."""
NEARLY_ALL, LONG = 93.0, 10
"""A name of several words this near is meant, though another name stands within it."""
SHORT = 4
"""Words shorter than this have no typing errors that can be told from other words."""
_PERCENT = re.compile(r"(?<![\d.])(\d{1,3}(?:\.\d+)?)%")
_BARE_PERCENT = re.compile(r"(?<![\d.])(\d{2})(?![\d.%])")
_CLASSES: tuple[tuple[str, str, float], ...] = (
    (r"(skim-milk|milk-.-percent|whole-milk|rich-milk-5)", "fat", 1.0),
    (r"(cream-1.|cooking-cream-22|half-and-half|single-cream-18|whipping-cream-..|heavy-cream-40|double-cream-48)",
     "fat", 2.0),
    (r"(sour-cream-..|creme-fraiche-30)", "fat", 3.0),
    (r"(dark-chocolate-..|cocoa-mass)", "cocoa", 2.5),
    (r"(milk-chocolate.*)", "cocoa", 2.5),
    (r"(white-chocolate.*)", "cocoa", 3.0),
    (r"cocoa-powder-.*", "cocoa_butter", 3.0),
    (r"(quark-.*)", "fat", 4.0),
    (r"(yoghurt.*|greek-yoghurt)", "fat", 2.0),
)  # fmt: skip
"""Ingredients of one kind that a percentage tells apart, what it counts, and how near is near enough."""


@dataclass(frozen=True, slots=True)
class Match:
    """What some words name.

    Attributes
    ----------
    id : the ingredient, or empty where none is near.
    assumed : what was assumed in choosing it; empty where the words name it.
    options : other ingredients that it may be, likeliest first.
    words : the words by which it was found.
    """

    id: str = ""
    assumed: tuple[str, ...] = ()
    options: tuple[str, ...] = ()
    words: str = ""


@dataclass(frozen=True, slots=True)
class Choice:
    """A word that may mean several ingredients, and which it usually does."""

    usual: str
    but: Mapping[str, str]
    options: tuple[str, ...]


@dataclass(frozen=True)
class Words:
    """Every word of the larder: by language, of any language, and those that leave a choice."""

    of: Mapping[str, Mapping[str, str]]
    any: Mapping[str, tuple[str, ...]]
    choices: Mapping[str, Choice]
    longest: int = field(default=8)


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


@dataclass(frozen=True, slots=True)
class Hints:
    """What helps to choose between ingredients of one name.

    Attributes
    ----------
    language, country : of the recipe; country is "us", "uk", "au" or empty.
    counted_by : "piece", "g", "spoon", "packet" or empty: how the recipe measures it.
    used : ingredients that the kitchen used last, the latest first.
    """

    language: str = "en"
    country: str = ""
    counted_by: str = ""
    used: tuple[str, ...] = ()


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
    percent = _percent(folded)
    bare = " ".join(_PERCENT.sub(" ", folded).split())
    for words in dict.fromkeys((folded, bare)):
        exact = _exact(words, hints)
        if exact is not None:
            return _by_percent(exact, percent) if words == bare else exact
    typed = _typing_error(bare, hints)
    if typed is not None:
        return _by_percent(typed, percent)
    plainly = " ".join(
        word for word in bare.split() if word not in _plain_words() or word in lists("amount")["of"]
    )
    exact = _exact(plainly, hints) if plainly != bare else None
    if exact is not None:
        return _by_percent(exact, percent)
    inside = _inside(bare, hints)
    if inside is not None:
        return _by_percent(inside, percent)
    return _by_percent(_misspelt(bare, hints), percent)


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
            if length == 1 and (len(part) < 3 or part in _small_words()):
                continue
            found = _exact(part, hints)
            if found is None:
                continue
            rest = [word for word in (*parts[:start], *parts[start + length :]) if not _plain(word)]
            if rest:
                guess = f"{' '.join(parts)}: {ingredient(found.id).name}"
                return Match(found.id, (*found.assumed, guess), found.options or near(words), part)
            return found
    return None


@cache
def _small_words() -> frozenset[str]:
    """Single words that name something only when they stand alone: they mean too many things."""
    return frozenset(
        [
            "more",
            "pain",
            "sale",
            "pasta",
            "sal",
            "mel",
            "sage",
            "mace",
            "stock",
            "roll",
            "spirits",
            "white",
            "whites",
            "pepper",
            "fin",
            "i",
            "mora",
            "more",
            "fine",
            "bitter",
            "amer",
            "must",
            "cherry",
            "pod",
            "the",
            "te",
            "the",
            "de",
            "di",
            "en",
            "al",
            "la",
            "le",
            "il",
            "lo",
            "los",
            "las",
            "os",
            "as",
            "un",
            "una",
            "une",
            "ein",
            "eine",
            "per",
            "con",
            "con",
            "para",
            "com",
            "pour",
            "for",
            "mit",
            "und",
            "e",
            "y",
            "et",
            "do",
            "da",
            "dos",
            "das",
            "note",
            "nota",
        ]
    )


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
        return Match(options=near(words))
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
            said = f"{words}: {ingredient(found.id).name}"
            return Match(found.id, (said,), found.options, best[1])
    return Match(options=near(words))


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


def _percent(folded: str) -> float | None:
    """A percentage that a name carries: "35%", "66% cocoa"; also "chocolate 70"."""
    found = _PERCENT.search(folded)
    if found is None and re.search(r"choco|schoko|ciocco|kuvert|couvert|copert|cobert", folded):
        found = _BARE_PERCENT.search(folded)
    return float(found[1]) if found else None


def _by_percent(match: Match, percent: float | None) -> Match:
    """The ingredient of the same kind whose share is nearest to a percentage that was written."""
    if percent is None or not match.id:
        return match
    for pattern, counts, enough in _CLASSES:
        if not re.fullmatch(pattern, match.id):
            continue
        same = [name for name in all_ingredients() if re.fullmatch(pattern, name)]
        nearest = min(same, key=lambda name: (abs(_share(name, counts) - percent), name != match.id))
        off = abs(_share(nearest, counts) - percent)
        said = () if off <= enough else (f"{percent:g} %: nearest is {ingredient(nearest).name}",)
        others = tuple(name for name in (match.id, *match.options) if name != nearest)
        kept = tuple(one for one in match.assumed if ingredient(match.id).name not in one)
        return Match(nearest, (*kept, *said), others if said or kept else (), match.words)
    return match


def _share(name: str, counts: str) -> float:
    """What a percentage of that ingredient counts: its fat, or its cocoa."""
    thing = ingredient(name)
    if counts == "cocoa":
        number = re.search(r"(\d+)", name)
        if number:
            return float(number[1])
        parts = thing.composition
        return parts["cocoa_butter"] + parts["cocoa_solids"]
    return thing.composition[counts]
