"""Text a person typed: trimmed, bounded, and free of what cannot be stored or printed."""

from __future__ import annotations

import unicodedata
from typing import Annotated

from pydantic import AfterValidator, StringConstraints

TURNING = frozenset({"LRE", "RLE", "LRO", "RLO", "PDF", "LRI", "RLI", "FSI", "PDI"})
"""Marks that turn the direction of writing: with them a name can show itself as another."""


def printable(text: str) -> str:
    """The text itself; refuses control characters, turned writing and broken surrogates."""
    for char in text:
        turns = unicodedata.bidirectional(char) in TURNING
        if turns or (unicodedata.category(char) in ("Cc", "Cs") and char not in "\n\t"):
            raise ValueError("holds a character that cannot be printed")
    return text


Word = Annotated[str, StringConstraints(strip_whitespace=True, max_length=80), AfterValidator(printable)]
Name = Annotated[str, StringConstraints(strip_whitespace=True, max_length=200), AfterValidator(printable)]
Note = Annotated[str, StringConstraints(strip_whitespace=True, max_length=500), AfterValidator(printable)]


FORMULA_STARTS = ("=", "+", "-", "@", "\t", "\r", "\n", "＝", "＋", "－", "＠")
"""What begins a cell that a spreadsheet takes for a formula; some read full-width signs as the narrow."""


def inert(cell: object) -> object:
    """A cell of a table; one that a spreadsheet would take for a formula is made text."""
    text = "" if cell is None else cell
    return f"'{text}" if isinstance(text, str) and text.startswith(FORMULA_STARTS) else text
