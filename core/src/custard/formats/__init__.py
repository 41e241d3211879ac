"""Formulas in and out: the open format, recipes of others, the slip."""

from custard.formats.formula_json import (
    read_destination,
    read_formula,
    read_line,
    read_work,
    write_formula,
    write_line,
)
from custard.formats.recipe_jsonld import ReadRecipe, Unsettled, read_recipe, write_recipe
from custard.formats.recipe_text import read_text
from custard.formats.schemas import formula_schema
from custard.formats.slip_csv import write_slip

__all__ = [
    "ReadRecipe",
    "Unsettled",
    "formula_schema",
    "read_destination",
    "read_formula",
    "read_line",
    "read_recipe",
    "read_text",
    "read_work",
    "write_formula",
    "write_line",
    "write_recipe",
    "write_slip",
]
