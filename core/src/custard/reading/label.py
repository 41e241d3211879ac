"""What a label says: its table of nutrients, its list of ingredients and the allergens that it names."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

from custard.errors import BadFormula
from custard.larder.tables import document
from custard.reading.amounts import amount_at, number_at
from custard.reading.tokens import Kind, Token, fold, phrase_at, tidy, tokens
from custard.reading.words import lists

KJ_PER_KCAL = 4.184
_COLUMN_WORDS = ("g", "kj", "kcal", "mg", "vol", "ml")
_UNITS = {"g": 1.0, "mg": 0.001}


@dataclass(frozen=True)
class Label:
    """What a label says.

    Attributes
    ----------
    per : how much its table is of, and whether that is "g" or "ml".
    nutrients : grams by nutrient; alcohol in percent by volume; energy in kJ.
    ingredients : the list as it is printed.
    contains, may_contain : allergens that it names, and traces.
    """

    per: float
    unit: str
    nutrients: Mapping[str, float]
    ingredients: str
    contains: tuple[str, ...]
    may_contain: tuple[str, ...]


def read_label(text: str) -> Label:
    """The parts of a label."""
    plain = tidy(text)
    listed = _behind(plain, "ingredients")
    per, unit, column = _per(plain)
    nutrients: dict[str, float] = {}
    table = plain.replace(listed, " ") if listed else plain
    found = tokens(table)
    at = 0
    while at < len(found):
        step = 1
        for nutrient, words in lists("nutrients", "label").items():
            length = phrase_at(found, at, words)
            value = (
                _value(found, at + length, column, nutrient) if length and nutrient not in nutrients else None
            )
            if value is not None:
                nutrients[nutrient], step = value, length
                break
        at += step
    if not {"fat", "carbohydrate", "protein", "alcohol", "sugars"} & set(nutrients):
        raise BadFormula(
            "text",
            "this",
            "is no table of nutrients",
            "Write it as “fat 35 g, carbohydrate 3 g, protein 2 g”.",
        )
    if "sodium" in nutrients and "salt" not in nutrients:
        nutrients["salt"] = 2.5 * nutrients["sodium"]
    may = _behind(plain, "may_contain")
    sure = plain.replace(may, " ") if may else plain
    named = _named(
        f"{listed} {_behind(sure, 'contains')}".replace(may, " ")
        if may
        else f"{listed} {_behind(plain, 'contains')}"
    )
    return Label(per, unit, nutrients, listed, named, _named(may))


def _behind(text: str, what: str) -> str:
    """What stands behind "Ingredients:" or "Contains", to the end of the sentence or block."""
    for word in sorted(document("label")["lists"][what], key=len, reverse=True):
        match = re.search(rf"\b{re.escape(word)}\b\s*[:\-]?\s*([^.\n]*(?:\.\d[^.\n]*)*)", text, re.IGNORECASE)
        if match:
            return match[1].strip()
    return ""


def _per(text: str) -> tuple[float, str, int]:
    """How much the table is of, and in which of its columns that stands."""
    heads = re.findall(r"(\d{2,3})\s*(g|ml)\b", text[:400])
    for column, (number, unit) in enumerate(dict.fromkeys(heads)):
        if number == "100":
            return 100.0, unit, column
    match = re.search(r"(?:per|pro|par|por)\s+\w*\s*\(?(\d{1,3})\s*(g|ml)\b", text, re.IGNORECASE)
    return (float(match[1]), match[2].lower(), 0) if match and float(match[1]) else (100.0, "g", 0)


def _value(found: tuple[Token, ...], at: int, column: int, nutrient: str) -> float | None:
    """The number of a nutrient, in its column."""
    values: list[float] = []
    end = at
    while end < min(len(found), at + 14) and len(values) <= column:
        token = found[end]
        another = any(phrase_at(found, end, words) for words in lists("nutrients", "label").values())
        if token.kind == Kind.WORD and (another or (values and token.folded not in _COLUMN_WORDS)):
            break
        if nutrient == "alcohol" and (strength := number_at(found, end, "")) is not None:
            return strength[0]
        read = amount_at(found, end, "") if token.kind == Kind.NUMBER else None
        if read is None:
            end += 1
            continue
        amount, count = read
        after = found[end + count].folded if end + count < len(found) else ""
        if nutrient == "energy":
            kind = after or amount.unit
            values.append(amount.number * (KJ_PER_KCAL if kind.startswith("kc") or kind == "cal" else 1.0))
        else:
            values.append(amount.number * _UNITS.get(amount.unit, 1.0))
        end += count
    if not values:
        return None
    return values[min(column, len(values) - 1)]


def _named(text: str) -> tuple[str, ...]:
    """The allergens that some words name."""
    found = tokens(without_others(text))
    out: dict[str, None] = {}
    for at in range(len(found)):
        for allergen, words in lists("allergens", "label").items():
            if phrase_at(found, at, words):
                out[allergen] = None
    # "Nuts" says no more where the nut is named.
    return tuple(one for one in out if one != "nuts" or not any(other.startswith("nuts (") for other in out))


def without_others(text: str) -> str:
    """Some words without those that hold an allergen's word and are none of it: "cocoa butter"."""
    folded = f" {fold(text)} "
    for name in _others():
        folded = folded.replace(f" {name} ", " , ")
    return folded


@cache
def _others() -> tuple[str, ...]:
    return tuple(sorted({fold(name) for name in document("label")["other"]["names"]}, key=len, reverse=True))
