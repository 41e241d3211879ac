"""Tables as lines: columns set apart by tabs, bars, dots or spaces."""

from __future__ import annotations

import csv
import re
from collections.abc import Iterable, Sequence

from custard.reading.tokens import fold
from custard.reading.words import lists, recipe_units

LONGEST_ROW = 1000
"""A line of a file with columns has at most so many characters."""


def rows_as_lines(lines: Sequence[str]) -> Iterable[str]:
    """Rows of a table as lines of an amount and a name; other lines as they are."""
    heads: list[str] = []
    unit = separator = ""
    for line in lines:
        separator = _separator(line) or separator
        cells = _split(line, separator)
        if not separator or len(cells) != len(heads or cells):
            cells = _cells(line)
        if len(cells) < 2:
            if line.strip():
                heads = heads if line.strip().startswith("|") else []
            yield line
            continue
        if all(re.fullmatch(r":?-{2,}:?|", cell) for cell in cells):
            continue
        if all(re.search(r"\d", cell) and re.search(r"[^\W\d_]{3}", cell) for cell in cells):
            # Not a row of a table but a list: "500 ml milk | 6 yolks | 90 g sugar".
            yield from cells
            continue
        roles = [_role(cell) for cell in cells]
        if not cells[0] and "amount" in roles and "name" not in roles:
            # The column of names often has no head.
            roles[0] = "name"
        if roles.count("") == 0 or ("name" in roles and not any(char.isdigit() for char in line)):
            heads = roles
            unit = _head_unit(cells)
            continue
        yield _row(cells, heads if len(heads) == len(cells) else [], unit)


def _separator(line: str) -> str:
    """What sets the columns of a table apart whose heads this line names, "Ingredient;g"; else empty."""
    for separator in ";,/":
        roles = [_role(cell) for cell in _split(line, separator)]
        if "" not in roles and {"name", "amount"} <= set(roles):
            return separator
    return ""


def _split(line: str, separator: str) -> list[str]:
    """A line of a file with columns, cut as a spreadsheet cuts it."""
    if not separator or len(line) > LONGEST_ROW:
        return [line]
    if separator == "/":
        # "1/2" is a number.
        return re.split(r"\s+/\s+", line.strip())
    return [cell.strip() for cell in next(csv.reader([line], delimiter=separator), [])]


def _cells(line: str) -> list[str]:
    if "\t" in line:
        return [cell.strip() for cell in line.split("\t") if cell.strip()]
    if line.count("|") >= 1:
        return [cell.strip() for cell in line.strip().strip("|").split("|")]
    parts = re.split(r"\s{3,}|\.{4,}\s*|\s*_{3,}\s*", line.strip())
    if len(parts) >= 2 and any(re.search(r"\d", part) for part in parts):
        return [part.strip() for part in parts]
    if line.count(";") >= 1 and re.search(r"\d", line) and len(line) < 80:
        parts = [part.strip() for part in line.split(";")]
        amounts = [part for part in parts if re.fullmatch(r"[\d.,/\s½¼¾]+\s*(?:\w{1,3})?", part)]
        return parts if amounts and len(parts) in (2, 3) else [line]
    return [line]


def _role(cell: str) -> str:
    words = fold(cell.replace("(", " ").replace(")", " ")).split()
    if any(char.isdigit() for char in cell) or not words:
        return "skip" if cell.strip() == "%" else ""
    for role, known in lists("columns").items():
        if any(word in known for word in words):
            return role
    return ""


def _head_unit(cells: Sequence[str]) -> str:
    joined = " ".join(fold(cell.replace("(", " ").replace(")", " ")) for cell in cells).split()
    if lists("layout")["grams"] & set(joined):
        return "g"
    return "kg" if "kg" in joined else "ml" if "ml" in joined else ""


def _is_unit(cell: str) -> bool:
    """Whether a cell is a unit and nothing else."""
    return fold(cell) in lists("layout")["counted"] or fold(cell) in recipe_units()


def _row(cells: Sequence[str], heads: Sequence[str], unit: str) -> str:
    """One row as a line."""
    filled = [(cell, heads[i] if heads else "") for i, cell in enumerate(cells) if cell]
    numeric = [
        i for i, (cell, role) in enumerate(filled) if re.match(r"^[~≈]?[\d½¼¾⅓⅔.,/]", cell) and role != "skip"
    ]
    percents = {i for i in numeric if filled[i][0].endswith("%")}
    numeric = [i for i in numeric if i not in percents] or numeric
    if not numeric:
        return " ".join(cell for cell, role in filled if role != "skip")
    best = next((i for i in numeric if filled[i][1] == "amount"), None)
    if best is None:
        best = next((i for i in numeric if re.search(r"\d\s*(?:g|kg|ml|gr)\b", filled[i][0])), numeric[0])
    amount = filled[best][0]
    names = [
        i
        for i, (cell, role) in enumerate(filled)
        if i not in numeric and i not in percents and role in ("", "name")
    ]
    units = [i for i in names if _is_unit(filled[i][0]) or filled[i][1] == "unit"]
    names = [i for i in names if i not in units]
    unit_cell = filled[units[0]][0] if units else next((cell for cell, role in filled if role == "unit"), "")
    bare = re.fullmatch(r"[~≈]?[\d½¼¾⅓⅔.,/\s]+", amount) is not None
    tail = unit_cell if bare and unit_cell else unit if bare else ""
    name = filled[names[0]][0] if names else ""
    notes = [filled[i][0] for i in names[1:]]
    if not name:
        return " ".join(cell for cell, _ in filled)
    lead = f"{amount} {tail}".strip() if fold(tail) not in lists("layout")["counted"] else amount
    return f"{lead} {name}" + (f", {', '.join(notes)}" if notes else "")
