"""Formulas and batches in and out: the open formats, recipes of others, the slip."""

from custard.formats.batch_json import read_batch, write_batch
from custard.formats.batch_schema import batch_schema
from custard.formats.formula_json import (
    read_card,
    read_destination,
    read_formula,
    read_line,
    read_work,
    write_card,
    write_formula,
    write_line,
)
from custard.formats.kept_batch import (
    HappenedMark,
    HobUsed,
    KeptBatch,
    LearnedUsed,
    PanUsed,
    PlanUsed,
    ProbeUsed,
)
from custard.formats.recipe_jsonld import Written, write_recipe, written_recipe
from custard.formats.schemas import formula_schema
from custard.formats.slip_csv import write_slip

__all__ = [
    "HappenedMark",
    "HobUsed",
    "KeptBatch",
    "LearnedUsed",
    "PanUsed",
    "PlanUsed",
    "ProbeUsed",
    "Written",
    "batch_schema",
    "formula_schema",
    "read_batch",
    "read_card",
    "read_destination",
    "read_formula",
    "read_line",
    "read_work",
    "write_batch",
    "write_card",
    "write_formula",
    "write_line",
    "write_recipe",
    "write_slip",
    "written_recipe",
]
