"""JSON Schemas of the open formats, made from the tables the code itself reads."""

from __future__ import annotations

from typing import Any

from custard.card import BOUNDS
from custard.formats.formula_json import FORMAT, VERSION
from custard.formula import FAMILIES, LONGEST_INFUSION_MIN, MAX_LINES, MAX_NAME, MAX_NOTE
from custard.larder.eggs import all_sizes
from custard.larder.ingredients import DECLARED, HEAVIEST_G_ML, LIGHTEST_G_ML, all_ingredients
from custard.larder.joins import JOINS
from custard.purpose import (
    LONGEST_WORK_MIN,
    MAX_DESTINATIONS,
    MAX_OTHER_WORK,
    MAX_WORK_NAME,
    MOST_COUNT,
)
from custard.quantities import MAX_TEXT, MEASURES
from custard.vocabulary import Need

DIALECT = "https://json-schema.org/draft/2020-12/schema"


_NAME = {"type": "string", "minLength": 1, "maxLength": MAX_WORK_NAME}


def work_schema() -> dict[str, Any]:
    """The schema of other work, in a formula and in a day."""
    return {
        "type": "object",
        "additionalProperties": False,
        "required": ["name", "minutes"],
        "properties": {
            "name": _NAME,
            "minutes": {"type": "number", "minimum": 1, "maximum": LONGEST_WORK_MIN},
            "hands": {"type": "boolean", "default": True},
            "needs": {"enum": list(Need), "default": ""},
        },
    }


def card_schema() -> dict[str, Any]:
    """The schema of what a formula's recipe says in figures."""

    def within(bounds: tuple[float, float]) -> dict[str, Any]:
        return {"type": "number", "minimum": bounds[0], "maximum": bounds[1]}

    return {
        "description": "what the recipe says of how it is made; a key that is missing is not said",
        "type": "object",
        "additionalProperties": False,
        "properties": {
            **{name: within(bounds) for name, bounds in BOUNDS.items()},
            "bath": {"description": "whether the cups stand in water", "type": "boolean"},
        },
    }


def formula_schema() -> dict[str, Any]:
    """The schema of the formula format, as it is written now."""
    share = {"type": "number", "minimum": 0, "maximum": 100}
    own = {
        "type": "object",
        "additionalProperties": False,
        "required": ["name", "composition"],
        "properties": {
            "name": {"type": "string", "minLength": 1},
            "composition": {
                "description": "grams per 100 g, adding up to 100",
                "type": "object",
                "additionalProperties": False,
                "properties": dict.fromkeys(DECLARED, share),
            },
            "allergens": {"type": "array", "items": {"type": "string"}},
            "density_g_per_ml": {"type": "number", "minimum": LIGHTEST_G_ML, "maximum": HEAVIEST_G_ML},
        },
    }
    line = {
        "type": "object",
        "additionalProperties": False,
        "required": ["ingredient", "amount"],
        "properties": {
            "ingredient": {"oneOf": [{"enum": list(all_ingredients())}, own]},
            "amount": {
                "description": "a number of pieces, or a number and a kitchen measure: “1 1/2 cups”, “90 g”",
                "oneOf": [
                    {"type": "string", "minLength": 1, "maxLength": MAX_TEXT},
                    {"type": "number", "exclusiveMinimum": 0},
                ],
            },
            "note": {"type": "string", "maxLength": MAX_NOTE},
            "when": {
                "description": "when it joins; by default when it usually does in that family",
                "enum": list(JOINS),
            },
            "minutes": {
                "description": "how long it infuses",
                "type": "number",
                "exclusiveMinimum": 0,
                "maximum": LONGEST_INFUSION_MIN,
            },
        },
    }
    name = _NAME
    destination = {
        "type": "object",
        "additionalProperties": False,
        "required": ["name", "amount"],
        "properties": {
            "name": name,
            "count": {"type": "number", "exclusiveMinimum": 0, "maximum": MOST_COUNT, "default": 1},
            "amount": {
                "description": "how much one of them takes, by weight or volume: “60 g”, “1.2 l”",
                "type": "string",
                "minLength": 1,
                "maxLength": MAX_TEXT,
            },
        },
    }
    return {
        "$schema": DIALECT,
        "title": f"Old Spoon formula, version {VERSION}",
        "type": "object",
        "additionalProperties": False,
        "required": ["format", "version", "name", "family", "lines"],
        "properties": {
            "format": {"const": FORMAT},
            "version": {"const": VERSION},
            "name": {"type": "string", "minLength": 1, "maxLength": MAX_NAME},
            "family": {"enum": list(FAMILIES)},
            "eggs": {"enum": list(all_sizes()), "default": "EU-M"},
            "measures": {"enum": list(MEASURES), "default": "metric"},
            "lines": {"type": "array", "minItems": 1, "maxItems": MAX_LINES, "items": line},
            "destinations": {"type": "array", "maxItems": MAX_DESTINATIONS, "items": destination},
            "other_work": {"type": "array", "maxItems": MAX_OTHER_WORK, "items": work_schema()},
            "card": card_schema(),
        },
    }
