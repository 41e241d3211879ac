"""A schema.org Recipe, in and out. What is not understood is handed back to be settled, never guessed."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any

from custard.errors import BadFormula, CustardError
from custard.formats.formula_json import is_printable, printable, read_formula, write_formula
from custard.formula import MAX_LINES, MAX_NAME, Formula, Line
from custard.larder.eggs import egg_size
from custard.larder.families import all_families
from custard.larder.ingredients import all_ingredients, ingredient
from custard.larder.tables import rows
from custard.quantities import MAX_TEXT, grams, read_quantity, units

CONTEXT = "https://schema.org"
MEDIA_TYPE = "application/vnd.old-spoon.formula+json"
MAX_LINE, MAX_SERVES, MAX_STEP, MAX_STEPS = 300, 100, 2000, 100
DEEPEST = 8
"""Lists within lists that a recipe is looked for in."""


@dataclass(frozen=True)
class Unsettled:
    """One ingredient line of a recipe as far as it was understood.

    Attributes
    ----------
    text : the line as it stood in the recipe.
    amount, ingredient : what was read from it; empty when it was not clear.
    candidates : ingredients it could mean, nearest first.
    note : what stood in brackets or after a comma.
    why : what a person has to settle; empty when nothing is open.
    """

    text: str
    amount: str
    ingredient: str
    candidates: tuple[str, ...]
    note: str
    why: str


@dataclass(frozen=True)
class ReadRecipe:
    """What a recipe says, line by line.

    `formula` is there when the recipe was written by us and carries it whole; otherwise the family is open
    too, for no recipe names it.
    """

    name: str
    lines: tuple[Unsettled, ...]
    method: tuple[str, ...]
    serves: str
    formula: Formula | None


@cache
def _names() -> Mapping[str, str]:
    table = {thing.name.lower(): thing.id for thing in all_ingredients().values()}
    table |= {thing.id: thing.id for thing in all_ingredients().values()}
    for row in rows("names"):
        for name in row["names"].split("|"):
            table.setdefault(name.lower(), row["id"])
    return table


def read_recipe(data: object, eggs: str = "EU-M", measures: str = "metric") -> ReadRecipe:
    """A recipe from JSON-LD: one Recipe object, a list or a graph that holds one.

    Parameters
    ----------
    data : plain data, as JSON has it.
    eggs : the size class that a count of eggs means.
    measures : whose cup and pint are meant: "us", "imperial", "metric" or "au".

    Raises
    ------
    BadFormula
        when there is no Recipe in it, or it has no ingredient lines.
    """
    recipe = next(_recipes(data), None)
    if recipe is None:
        raise BadFormula("text", "this", "holds no schema.org Recipe", "Paste its JSON-LD, the whole of it.")
    found = recipe.get("recipeIngredient", recipe.get("ingredients", []))
    texts = [found] if isinstance(found, str) else found
    if not isinstance(texts, list) or not texts or not all(isinstance(text, str) for text in texts):
        raise BadFormula("text", "recipeIngredient", "is not a list of ingredient lines")
    if len(texts) > MAX_LINES:
        raise BadFormula("text", f"{len(texts)} lines", f"are more than the {MAX_LINES} a formula has")
    serves = recipe.get("recipeYield")
    return ReadRecipe(
        name=on_one_line(recipe.get("name"), MAX_NAME) or "A recipe without a name",
        lines=tuple(settle(on_one_line(text, MAX_LINE), eggs, measures) for text in texts),
        method=tuple(_steps(recipe.get("recipeInstructions", []))),
        serves=on_one_line(serves[0] if isinstance(serves, list) and serves else serves, MAX_SERVES),
        formula=_carried(recipe),
    )


def on_one_line(data: object, most: int) -> str:
    """A text or number of somebody else's file on one line, without what cannot be printed; else empty."""
    if not isinstance(data, str | int | float):
        return ""
    kept = (" " if char in "\n\t" else char for char in str(data) if char in "\n\t" or is_printable(char))
    return " ".join("".join(kept).split())[:most]


def _carried(recipe: Mapping[str, Any]) -> Formula | None:
    """Our own formula inside a recipe, when it is there and whole."""
    source = recipe.get("isBasedOn")
    if not isinstance(source, Mapping) or source.get("encodingFormat") != MEDIA_TYPE:
        return None
    try:
        return read_formula(json.loads(str(source.get("text"))))
    except (CustardError, ValueError, RecursionError):
        return None


def _recipes(data: object, depth: int = 0) -> Iterator[Mapping[str, Any]]:
    if isinstance(data, list) and depth < DEEPEST:
        for part in data:
            yield from _recipes(part, depth + 1)
    elif isinstance(data, Mapping):
        kind = data.get("@type", "")
        if kind == "Recipe" or (isinstance(kind, list) and "Recipe" in kind):
            yield data
        elif "@graph" in data and depth < DEEPEST:
            yield from _recipes(data["@graph"], depth + 1)


def _steps(data: object, depth: int = 0) -> Iterator[str]:
    if isinstance(data, str):
        yield on_one_line(data, MAX_STEP)
    elif isinstance(data, list) and depth < DEEPEST:
        for part in data[:MAX_STEPS]:
            yield from _steps(part, depth + 1)
    elif isinstance(data, Mapping) and depth < DEEPEST:
        yield from _steps(data.get("text") or data.get("itemListElement", []), depth + 1)


_BRACKETS = re.compile(r"\(([^()]*)\)")
_RANGE = re.compile(r"^[\d\s./½¼¾]+(?:-|–|—|to\b|or\b)\s*[\d½¼¾]")
_AMOUNT = re.compile(r"^(?P<number>[\d\s./,½¼¾⅓⅔⅛⅜⅝⅞]+)\s*(?P<rest>.*)$")


_UNWEIGHED = frozenset(
    """knob splash dash handful glug drizzle drop drops bit dollop slice slices sprig bunch packet tin
    can""".split()  # noqa: SIM905
)
"""What cooks count by and no scale knows."""


def settle(line: str, eggs: str, measures: str, told: str | None = None) -> Unsettled:
    """An ingredient line read as far as it is clear: number, unit, name; the rest of it is a note.

    `told` is how it stood, where it was already taken apart.
    """
    text = line if told is None else told
    plain, _, after = " ".join(_BRACKETS.sub(" ", line).split()).partition(", ")
    note = ", ".join(part for part in (*_BRACKETS.findall(line), after) if part)
    match = _AMOUNT.match(plain)
    if match is None:
        found, near = _ingredient(plain)
        return Unsettled(text, "", found, near, note, "say how much")
    if _RANGE.match(plain):
        found, near = _ingredient(plain.split()[-1])
        return Unsettled(text, "", found, near, note, "gives a range; write the one amount you weigh")
    number, words = match["number"].strip(), match["rest"].split()
    unit, named = _unit(words)
    amount = f"{number} {unit}".strip()
    if not unit and words and words[0].lower() in _UNWEIGHED:
        found, near = _ingredient(" ".join(words[2:] if words[1:2] == ["of"] else words[1:]))
        return Unsettled(text, "", found, near, note, f"a {words[0]} has no weight; say how much")
    found, near = _ingredient(named)
    if not found:
        return Unsettled(text, amount, "", near, note, "say which ingredient this is")
    try:
        grams(read_quantity(amount), ingredient(found), egg_size(eggs), measures)
    except CustardError as error:
        return Unsettled(text, amount[:MAX_TEXT], found, near, note, error.sentence())
    return Unsettled(text, amount, found, near, note, "")


def _unit(words: list[str]) -> tuple[str, str]:
    """The unit at the front of some words, and the rest without "of"."""
    for length in (3, 2, 1):
        front = " ".join(words[:length]).lower().rstrip(".")
        bare = front.removeprefix("heaped ").removeprefix("level ")
        if len(words) >= length and (bare in units() or front in units()):
            rest = words[length:]
            return front, " ".join(rest[1:] if rest[:1] == ["of"] else rest)
    return "", " ".join(words)


_MANNER = frozenset(
    """cold warm hot softened melted sifted chopped finely coarsely grated beaten lightly fresh freshly ripe
    good-quality best organic free-range large medium small""".split()  # noqa: SIM905
)
"""Words about how a thing is, which change neither what it is nor what it weighs here."""


def _ingredient(named: str) -> tuple[str, tuple[str, ...]]:
    """The ingredient of a name, and those it could mean: with all its words, or most of them."""
    name = " ".join(named.lower().strip(" .*").split())
    table = _names()
    if name in table:
        return table[name], ()
    bare = " ".join(word for word in name.split() if word not in _MANNER)
    if bare in table:
        return table[bare], ()
    words = set(re.findall(r"[a-zà-ÿ]+", name))
    scores: dict[str, float] = {}
    for known, thing in table.items():
        parts = set(re.findall(r"[a-zà-ÿ]+", known))
        if parts and words:
            score = len(parts & words) / len(parts | words)
            scores[thing] = max(scores.get(thing, 0.0), score)
    near = sorted((thing for thing, score in scores.items() if score > 0), key=lambda t: -scores[t])
    return "", tuple(near[:5])


def write_recipe(formula: Formula, steps: tuple[str, ...] = (), serves: str = "") -> dict[str, Any]:
    """A formula as a schema.org Recipe; our own format travels along, so that nothing is lost.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    steps : the method, step by step.
    serves : for how many, in words.
    """
    data: dict[str, Any] = {
        "@context": CONTEXT,
        "@type": "Recipe",
        "name": formula.name,
        "recipeCategory": all_families()[formula.family].name,
        "recipeIngredient": [_written(line) for line in formula.lines],
        "recipeInstructions": [{"@type": "HowToStep", "text": step} for step in steps],
        "isBasedOn": {
            "@type": "CreativeWork",
            "encodingFormat": MEDIA_TYPE,
            "text": json.dumps(write_formula(formula), ensure_ascii=False),
        },
    }
    if serves:
        data["recipeYield"] = serves
    return data


def _written(line: Line) -> str:
    names = {row["id"]: row["names"].split("|")[0] for row in rows("names")}
    note = f", {printable('note', line.note)}" if line.note else ""
    amount = line.amount
    if line.ingredient.piece and not line.quantity.unit:
        amount = line.quantity.text()
    return f"{amount} {names.get(line.ingredient.id, line.ingredient.name)}{note}"
