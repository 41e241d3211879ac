"""A schema.org Recipe: its text taken out, and a formula written as one."""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from custard.errors import BadFormula, CustardError
from custard.formats.formula_json import is_printable, printable, read_formula, write_formula
from custard.formula import MAX_LINES, MAX_NAME, Formula, Line
from custard.larder.families import all_families
from custard.larder.tables import rows

CONTEXT = "https://schema.org"
MEDIA_TYPE = "application/vnd.old-spoon.formula+json"
MAX_LINE, MAX_SERVES, MAX_STEP, MAX_STEPS = 300, 100, 2000, 100
DEEPEST = 8
"""Lists within lists that a recipe is looked for in."""


@dataclass(frozen=True)
class Written:
    """What a schema.org Recipe says, as text.

    Attributes
    ----------
    lines, method : its ingredient lines and its steps.
    source : the recipe itself.
    """

    name: str
    lines: tuple[str, ...]
    method: tuple[str, ...]
    serves: str
    source: Mapping[str, Any]


def written_recipe(data: object) -> Written | None:
    """The Recipe in some JSON-LD, one object or in a list or a graph; None where there is none.

    Parameters
    ----------
    data : plain data, as JSON has it.

    Raises
    ------
    BadFormula
        when its ingredient lines are no lines.
    """
    recipe = next(_recipes(data), None)
    if recipe is None:
        return None
    found = recipe.get("recipeIngredient", recipe.get("ingredients", []))
    texts = [found] if isinstance(found, str) else found
    if not isinstance(texts, list) or not texts or not all(isinstance(text, str) for text in texts):
        raise BadFormula("text", "recipeIngredient", "is not a list of ingredient lines")
    if len(texts) > MAX_LINES:
        raise BadFormula("text", f"{len(texts)} lines", f"are more than the {MAX_LINES} a formula has")
    serves = recipe.get("recipeYield")
    return Written(
        name=on_one_line(recipe.get("name"), MAX_NAME),
        lines=tuple(on_one_line(text, MAX_LINE) for text in texts),
        method=tuple(_steps(recipe.get("recipeInstructions", []))),
        serves=on_one_line(serves[0] if isinstance(serves, list) and serves else serves, MAX_SERVES),
        source=recipe,
    )


def on_one_line(data: object, most: int) -> str:
    """A text or number of somebody else's file on one line, without what cannot be printed; else empty."""
    if not isinstance(data, str | int | float):
        return ""
    kept = (" " if char in "\n\t" else char for char in str(data) if char in "\n\t" or is_printable(char))
    return " ".join("".join(kept).split())[:most]


def carried_formula(recipe: Written) -> Formula | None:
    """Our own formula inside a recipe, when it is there and whole."""
    source = recipe.source.get("isBasedOn")
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
    names = {row["id"]: row["en"].split("|")[0] for row in rows("words") if row["en"]}
    note = f", {printable('note', line.note)}" if line.note else ""
    amount = line.amount
    if line.ingredient.piece and not line.quantity.unit:
        amount = line.quantity.text()
    return f"{amount} {names.get(line.ingredient.id, line.ingredient.name)}{note}"
