"""The Old Spoon formula, version 1, as JSON: strict in, faithful out."""

from __future__ import annotations

import unicodedata
from collections.abc import Mapping
from math import isnan
from typing import Any

from custard.errors import BadFormula, CustardError, OutOfRange
from custard.formula import IN_THE_PAN, MAX_NOTE, OFF_THE_HEAT, Formula, Line
from custard.larder.ingredients import Ingredient, ingredient, own_ingredient
from custard.quantities import finite, read_quantity

FORMAT = "old-spoon/formula"
VERSION = 1
_KEYS = ("format", "version", "name", "family", "eggs", "measures", "lines")
_LINE_KEYS = ("ingredient", "amount", "note", "when")
_OWN_KEYS = ("name", "composition", "allergens", "density_g_per_ml")


def read_formula(data: object) -> Formula:
    """A formula from plain data.

    Raises
    ------
    CustardError
        naming the first key or line that cannot be used; nothing is guessed.
    """
    top = _object(data, "", _KEYS)
    if top.get("format") != FORMAT:
        raise BadFormula("format", top.get("format"), f"must be “{FORMAT}”")
    if top.get("version") != VERSION or isinstance(top.get("version"), bool):
        raise BadFormula("version", top.get("version"), f"must be {VERSION}")
    lines = top.get("lines")
    if not isinstance(lines, list):
        raise BadFormula("lines", lines, "must be a list of lines")
    return Formula(
        name=_text(top, "name"),
        family=_text(top, "family"),
        eggs=_text(top, "eggs", "EU-M"),
        measures=_text(top, "measures", "metric"),
        lines=tuple(_line_at(index, line) for index, line in enumerate(lines)),
    )


def _line_at(index: int, data: object) -> Line:
    try:
        return read_line(data)
    except CustardError as error:
        raise error.at(f"lines[{index}]") from None


def read_line(data: object) -> Line:
    """One line of a formula from plain data; errors name the key within the line."""
    line = _object(data, "", _LINE_KEYS)
    if "ingredient" not in line:
        raise BadFormula("ingredient", None, "is not an ingredient", "Name what is weighed.")
    if "amount" not in line:
        raise BadFormula("amount", None, "is not an amount", "Write a number and a unit, as “90 g”.")
    amount = line["amount"]
    when = _text(line, "when", IN_THE_PAN)
    if when not in (IN_THE_PAN, OFF_THE_HEAT):
        raise BadFormula("when", when, f"must be “{IN_THE_PAN}” or “{OFF_THE_HEAT}”")
    note = _text(line, "note", "")
    if len(note) > MAX_NOTE:
        raise OutOfRange("note", note, f"is longer than {MAX_NOTE} characters")
    quantity = read_quantity(amount)
    text = printable("amount", amount) if isinstance(amount, str) else quantity.text()
    return Line(_ingredient(line["ingredient"]), text, quantity, note, when)


def _ingredient(data: object) -> Ingredient:
    if isinstance(data, str):
        return ingredient(data)
    own = _object(data, "ingredient", _OWN_KEYS)
    try:
        return own_ingredient(
            _text(own, "name"),
            _shares(own.get("composition")),
            tuple(_texts(own.get("allergens", []))),
            _optional_density(own.get("density_g_per_ml")),
        )
    except CustardError as error:
        raise error.at("ingredient") from None


def _shares(data: object) -> dict[str, float]:
    if not isinstance(data, Mapping):
        raise BadFormula("composition", data, "must be an object of grams per 100 g")
    shares = {}
    for part, share in data.items():
        shares[str(part)] = finite(share)
        if isnan(shares[str(part)]):
            raise BadFormula(f"composition.{part}", share, "must be a number of grams per 100 g")
    return shares


def _texts(data: object) -> list[str]:
    if not isinstance(data, list) or not all(isinstance(word, str) for word in data):
        raise BadFormula("allergens", data, "must be a list of words")
    return [printable("allergens", word) for word in data]


def _optional_density(data: object) -> float | None:
    if data is None:
        return None
    density = finite(data)
    if isnan(density):
        raise BadFormula("density_g_per_ml", data, "must be a number of grams in a millilitre")
    return density


def _object(data: object, field: str, keys: tuple[str, ...]) -> Mapping[str, Any]:
    if not isinstance(data, Mapping):
        raise BadFormula(field, data, "must be an object")
    for key in data:
        if key not in keys:
            path = f"{field}.{key}" if field else str(key)
            raise BadFormula(path, key, "is not a key of this format", f"Keys are {', '.join(keys)}.")
    return data


def _text(data: Mapping[str, Any], key: str, default: str | None = None) -> str:
    value = data.get(key, default)
    if not isinstance(value, str):
        raise BadFormula(key, value, "must be text")
    return printable(key, value)


def is_printable(char: str) -> bool:
    """Whether a character is neither a control character nor half of a broken pair."""
    return unicodedata.category(char) not in ("Cc", "Cs")


def printable(key: str, text: str) -> str:
    """The text itself, unless it holds control characters or broken surrogates."""
    if not all(char in "\n\t" or is_printable(char) for char in text):
        raise BadFormula(key, text.encode("ascii", "replace").decode(), "holds what cannot be printed")
    return text


def write_formula(formula: Formula) -> dict[str, Any]:
    """The formula as plain data, which `read_formula` reads back to an equal formula."""
    return {
        "format": FORMAT,
        "version": VERSION,
        "name": formula.name,
        "family": formula.family,
        "eggs": formula.eggs,
        "measures": formula.measures,
        "lines": [write_line(line) for line in formula.lines],
    }


def write_line(line: Line) -> dict[str, Any]:
    """One line as plain data; keys left at their default are left out."""
    data: dict[str, Any] = {"ingredient": _write_ingredient(line.ingredient), "amount": line.amount}
    if line.note:
        data["note"] = line.note
    if line.when != IN_THE_PAN:
        data["when"] = line.when
    return data


def _write_ingredient(thing: Ingredient) -> str | dict[str, Any]:
    if thing.id:
        return thing.id
    own: dict[str, Any] = {
        "name": thing.name,
        "composition": {part: share for part, share in thing.composition.items() if share},
        "density_g_per_ml": thing.density_g_ml,
    }
    if thing.allergens:
        own["allergens"] = list(thing.allergens)
    return own
