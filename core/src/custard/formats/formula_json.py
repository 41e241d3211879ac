"""The Old Spoon formula as JSON: strict in, faithful out. Version 2 is written, 1 is read for good."""

from __future__ import annotations

import unicodedata
from collections.abc import Callable, Mapping
from math import isnan
from typing import Any, TypeVar

from custard.card import SILENT, Card
from custard.errors import BadFormula, CustardError, OutOfRange
from custard.formula import MAX_NOTE, Formula, Line
from custard.larder.families import all_families
from custard.larder.ingredients import Ingredient, ingredient, own_ingredient
from custard.larder.joins import usual_when
from custard.purpose import Destination, OtherWork
from custard.quantities import finite, read_quantity
from custard.vocabulary import Need, When, parse

FORMAT = "old-spoon/formula"
VERSION = 2
VERSIONS = (1, 2)
_KEYS: Mapping[int, tuple[str, ...]] = {
    1: ("format", "version", "name", "family", "eggs", "measures", "lines"),
    2: (
        "format", "version", "name", "family", "eggs", "measures", "lines", "destinations", "other_work",
        "card",
    ),
}  # fmt: skip
_LINE_KEYS: Mapping[int, tuple[str, ...]] = {
    1: ("ingredient", "amount", "note", "when"),
    2: ("ingredient", "amount", "note", "when", "minutes"),
}
_FIRST_WHENS = (When.IN_THE_PAN, When.OFF_THE_HEAT)
_OWN_KEYS = ("name", "composition", "allergens", "density_g_per_ml")
_DESTINATION_KEYS = ("name", "count", "amount")
_CARD_KEYS = ("cook_to_c", "boil_s", "oven_c", "bake_min", "bath", "chill_h", "cup_ml")
_WORK_KEYS = ("name", "minutes", "hands", "needs")
Part = TypeVar("Part")


def read_formula(data: object) -> Formula:
    """A formula from plain data.

    A line of version 2 that does not say when it joins does so when it usually does in that family.

    Parameters
    ----------
    data : plain data, as JSON has it.

    Raises
    ------
    CustardError
        naming the first key or line that cannot be used; nothing is guessed.
    """
    if not isinstance(data, Mapping):
        raise BadFormula("", data, "must be an object")
    if data.get("format") != FORMAT:
        raise BadFormula("format", data.get("format"), f"must be “{FORMAT}”")
    version = data.get("version")
    if isinstance(version, bool) or version not in VERSIONS:
        raise BadFormula("version", version, "must be 1 or 2")
    top = object_of(data, "", _KEYS[version])
    family = text_of(top, "family")
    return Formula(
        name=text_of(top, "name"),
        family=family,
        eggs=text_of(top, "eggs", "EU-M"),
        measures=text_of(top, "measures", "metric"),
        lines=_parts(top, "lines", lambda line: read_line(line, family, version)),
        destinations=_parts(top, "destinations", read_destination),
        other_work=_parts(top, "other_work", read_work),
        card=read_card(top.get("card")),
    )


def _parts(top: Mapping[str, Any], field: str, read: Callable[[object], Part]) -> tuple[Part, ...]:
    """A list of parts, errors naming the place in it; only lines must be there."""
    found = top.get(field) if field == "lines" else top.get(field, [])
    if not isinstance(found, list):
        raise BadFormula(field, found, "must be a list")
    parts = []
    for index, part in enumerate(found):
        try:
            parts.append(read(part))
        except CustardError as error:
            raise error.at(f"{field}[{index}]") from None
    return tuple(parts)


def read_line(data: object, family: str, version: int = VERSION) -> Line:
    """One line of a formula of that family from plain data; errors name the key within the line.

    Parameters
    ----------
    data : plain data, as JSON has it.
    family : the name of the formula's family.
    version : of the format, 1 or 2.
    """
    line = object_of(data, "", _LINE_KEYS[version])
    if "ingredient" not in line:
        raise BadFormula("ingredient", None, "is not an ingredient", "Name what is weighed.")
    if "amount" not in line:
        raise BadFormula("amount", None, "is not an amount", "Write a number and a unit, as “90 g”.")
    amount, thing = line["amount"], _ingredient(line["ingredient"])
    if version == 1:
        when = parse(When, "when", text_of(line, "when", When.IN_THE_PAN))
        if when not in _FIRST_WHENS:
            raise BadFormula("when", when, f"must be “{When.IN_THE_PAN}” or “{When.OFF_THE_HEAT}”")
    else:
        known = all_families().get(family)
        usual = When.IN_THE_PAN if known is None else usual_when(thing, known)
        when = parse(When, "when", text_of(line, "when", usual))
    note = text_of(line, "note", "")
    if len(note) > MAX_NOTE:
        raise OutOfRange("note", note, f"is longer than {MAX_NOTE} characters")
    quantity = read_quantity(amount)
    text = printable("amount", amount) if isinstance(amount, str) else quantity.text()
    return Line(thing, text, quantity, note, when, optional_number(line, "minutes"))


def read_destination(data: object) -> Destination:
    """What a part of a batch is for, from plain data.

    Parameters
    ----------
    data : plain data, as JSON has it.
    """
    found = object_of(data, "", _DESTINATION_KEYS)
    amount = text_of(found, "amount")
    count = optional_number(found, "count")
    return Destination(text_of(found, "name"), 1.0 if count is None else count, amount, read_quantity(amount))


def read_work(data: object) -> OtherWork:
    """Other work, from plain data.

    Parameters
    ----------
    data : plain data, as JSON has it.
    """
    found = object_of(data, "", _WORK_KEYS)
    minutes = optional_number(found, "minutes")
    if minutes is None:
        raise BadFormula("minutes", None, "is not a number of minutes", "Write how long it takes.")
    hands = found.get("hands", True)
    if not isinstance(hands, bool):
        raise BadFormula("hands", hands, "must be true or false")
    needs = parse(Need, "needs", text_of(found, "needs", ""))
    return OtherWork(text_of(found, "name"), minutes, hands, needs)


def read_card(data: object) -> Card:
    """What a recipe says in figures, from plain data; None is a recipe that says nothing.

    Parameters
    ----------
    data : plain data, as JSON has it.
    """
    if data is None:
        return SILENT
    found = object_of(data, "card", _CARD_KEYS)
    bath = found.get("bath")
    try:
        if not isinstance(bath, bool | None):
            raise BadFormula("bath", bath, "must be true or false")
        figures = {key: optional_number(found, key) for key in _CARD_KEYS if key != "bath"}
        return Card(bath=bath, **figures)
    except CustardError as error:
        raise error.at("card") from None


def optional_number(data: Mapping[str, Any], key: str) -> float | None:
    """A number where there is one; None where there is none."""
    given = data.get(key)
    if given is None:
        return None
    number = finite(given)
    if isnan(number):
        raise BadFormula(key, given, "must be a number")
    return number


def _ingredient(data: object) -> Ingredient:
    if isinstance(data, str):
        return ingredient(data)
    own = object_of(data, "ingredient", _OWN_KEYS)
    try:
        return own_ingredient(
            text_of(own, "name"),
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


def object_of(data: object, field: str, keys: tuple[str, ...]) -> Mapping[str, Any]:
    """An object that has no keys but these; errors name the key within `field`."""
    if not isinstance(data, Mapping):
        raise BadFormula(field, data, "must be an object")
    for key in data:
        if key not in keys:
            path = f"{field}.{key}" if field else str(key)
            raise BadFormula(path, key, "is not a key of this format", f"Keys are {', '.join(keys)}.")
    return data


def text_of(data: Mapping[str, Any], key: str, default: str | None = None) -> str:
    """Text at a key, or what stands for it."""
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
    """The formula as plain data, which `read_formula` reads back to an equal formula.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    """
    data: dict[str, Any] = {
        "format": FORMAT,
        "version": VERSION,
        "name": formula.name,
        "family": formula.family,
        "eggs": formula.eggs,
        "measures": formula.measures,
        "lines": [write_line(line) for line in formula.lines],
    }
    if formula.destinations:
        data["destinations"] = [
            {"name": one.name, "count": one.count, "amount": one.amount} for one in formula.destinations
        ]
    if formula.other_work:
        data["other_work"] = [write_work(one) for one in formula.other_work]
    if formula.card:
        data["card"] = write_card(formula.card)
    return data


def write_card(card: Card) -> dict[str, Any]:
    """What a recipe says in figures as plain data; what it does not say is left out.

    Parameters
    ----------
    card : what a formula's recipe says.
    """
    return {key: value for key in _CARD_KEYS if (value := getattr(card, key)) is not None}


def write_work(work: OtherWork) -> dict[str, Any]:
    """Other work as plain data."""
    return {"name": work.name, "minutes": work.minutes, "hands": work.hands, "needs": work.needs}


def write_line(line: Line) -> dict[str, Any]:
    """One line as plain data; it always says when it joins.

    Parameters
    ----------
    line : one thing to weigh out.
    """
    data: dict[str, Any] = {
        "ingredient": _write_ingredient(line.ingredient),
        "amount": line.amount,
        "when": line.when,
    }
    if line.note:
        data["note"] = line.note
    if line.minutes is not None:
        data["minutes"] = line.minutes
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
