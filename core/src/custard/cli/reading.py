"""What `custard read` does: a recipe as people write it, as plain data."""

from __future__ import annotations

from typing import Any

from custard.cli import given
from custard.errors import OutOfRange
from custard.larder.ingredients import all_ingredients
from custard.reading import Option, ReadLine, Recipe, Usual, read

MEASURES = {"us": "us", "uk": "metric", "imperial": "imperial", "metric": "metric", "au": "au"}
"""British recipes of today have a pint of 568 ml and metric spoons; "imperial" has the old spoons, too."""


def read_command(options: Any) -> dict[str, Any]:
    """What a recipe says: family, lines, method, and what was assumed."""
    text = given.read_text(options.file)
    if not text.strip():
        raise OutOfRange("FILE", options.file, "is empty")
    measures = None if options.measures is None else MEASURES[options.measures]
    usual = Usual(measures, measures is not None, options.eggs, options.language)
    return answer(read(text, usual))


def answer(recipe: Recipe) -> dict[str, Any]:
    """A recipe as plain data."""
    return {
        "name": recipe.name,
        "family": recipe.family or None,
        "nearest": recipe.nearest,
        "why": recipe.why,
        "not_computed": recipe.missing,
        "serves": recipe.serves,
        "language": recipe.language,
        "measures": recipe.measures,
        "lines": [_line(line) for line in recipe.lines],
        "method": [
            {
                "text": step.text,
                "settings": [{"what": one.what, "value": one.value} for one in step.settings],
            }
            for step in recipe.method
        ],
        "notes": list(recipe.notes),
    }


def _line(line: ReadLine) -> dict[str, Any]:
    thing = all_ingredients().get(line.ingredient)
    return {
        "text": line.text,
        "ingredient": line.ingredient or None,
        "name": line.name,
        "amount": line.amount,
        "grams": None if line.grams is None else round(line.grams, 2),
        "when": None if line.when is None else str(line.when),
        "minutes": line.minutes,
        "sure": line.sure,
        "assumed": list(line.assumed),
        "open": line.why,
        "as_note": line.as_note,
        "note": line.note,
        "not_modelled": "" if thing is None else thing.unmodelled,
        "options": [_option(one) for one in line.options],
    }


def _option(option: Option) -> dict[str, str]:
    return {
        "ingredient": option.ingredient,
        "name": all_ingredients()[option.ingredient].name,
        "amount": option.amount,
    }
