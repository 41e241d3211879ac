"""Reading the tables in `larder/data`: one CSV a table, numbers with unit, range, source and confidence."""

from __future__ import annotations

import csv
import tomllib
from collections.abc import Iterator
from importlib.resources import files
from typing import Any


def rows(table: str) -> Iterator[dict[str, str]]:
    """The rows of a table, as text by column name.

    Raises
    ------
    FileNotFoundError
        when there is no such table.
    """
    text = files("custard.larder").joinpath("data", f"{table}.csv").read_text(encoding="utf-8")
    yield from csv.DictReader(text.splitlines())


def document(name: str) -> dict[str, Any]:
    """A document of the same folder that is no table."""
    return tomllib.loads(files("custard.larder").joinpath("data", f"{name}.toml").read_text(encoding="utf-8"))
