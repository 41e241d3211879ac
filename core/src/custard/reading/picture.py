"""The words found in a picture of a recipe or a label, put back into lines, columns and sentences.

What finds the words is outside (optical character recognition); here is what their places mean: which stand
in one row, where a page has columns, where a sentence goes on in the next row, which words are hard to read.
"""

from __future__ import annotations

import re
import statistics
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cache
from itertools import pairwise

from custard.reading.tokens import fold
from custard.reading.words import lists, recipe_units

DOUBTFUL = 70.0
"""A word that is found with less confidence may be another [percent]."""
LEAST = 25.0
"""A word with less is a stain or the edge of the paper [percent]."""
LEAST_LETTERS = 2
"""A row with fewer letters and digits is a stain, too."""
ROW_SHARE = 0.5
"""Two words stand in one row when they share so much of the lower one's height."""
COLUMN_GAP = 1.6
"""Two columns are at least so far apart [heights of a line]."""
PARAGRAPH_GAP = 1.1
"""Two paragraphs are at least so far apart [heights of a line]."""
FULL_ROW = 0.78
"""A sentence goes on in the next row only from a row that fills so much of its column."""
PROSE_CHARS = 22
"""Rows of a sentence have at least this many characters; those of a list are shorter, and none goes on."""
AMOUNTS_SHARE = 0.6
"""A column where so many rows are amounts belongs to the names in the column next to it."""

_SLIPS = {
    "mi": "ml",
    "mI": "ml",
    "m|": "ml",
    "di": "dl",
    "dI": "dl",
    "ci": "cl",
    "Ib": "lb",
    "¢": "g",
    "q": "g",
    "I": "l",
}
"""Units as they are often misread behind a number, and what they are."""

_PARTS = {"14": "¼", "34": "¾"}
_PART_OF_A_LITRE = re.compile(r"^(12|14|34|1?%|[YV][2z])\s*[|\]]\s+(?=\w)")
"""A part of a litre as it is often misread: "12 | de lait"."""


@dataclass(frozen=True, slots=True)
class PictureWord:
    """A word found in a picture.

    Attributes
    ----------
    text : the word.
    confidence : how sure it is, as whoever found it says [percent].
    left, top, width, height : its box, from the upper left corner of the picture [pixels].
    """

    text: str
    confidence: float
    left: float
    top: float
    width: float
    height: float

    @property
    def right(self) -> float:
        """Its right edge [pixels]."""
        return self.left + self.width

    @property
    def bottom(self) -> float:
        """Its lower edge [pixels]."""
        return self.top + self.height


@dataclass(frozen=True, slots=True)
class PictureText:
    """The text of a picture.

    Attributes
    ----------
    text : its lines, as somebody would type them.
    doubtful : those of them that hold a word that is hard to read or was mended.
    """

    text: str
    doubtful: tuple[str, ...]


Row = tuple[PictureWord, ...]


def text_of(words: Iterable[PictureWord]) -> PictureText:
    """The text of a picture, from the words found in it.

    Parameters
    ----------
    words : in any order, of a picture that stands upright.

    Returns
    -------
    its lines, column by column; names and the column of their amounts stay in one row, set apart by spaces.

    >>> def word(text, left, top): return PictureWord(text, 90.0, left, top, 12.0 * len(text), 20.0)
    >>> text_of([word("Milk", 0, 0), word("Yolks", 0, 30), word("500", 300, 1), word("120", 300, 31)]).text
    'Milk   500\\nYolks   120'
    """
    kept = [word for word in words if word.confidence >= LEAST and word.text.strip()]
    if not kept:
        return PictureText("", ())
    height = statistics.median(word.height for word in kept)
    lines: list[str] = []
    doubtful: list[str] = []
    for block in _blocks(kept, height):
        for row in _joined(block):
            text = " ".join(word.text for word in row) if not _wide(row, height) else _cells(row, height)
            mended = mend(text)
            if sum(char.isalnum() for char in mended) < LEAST_LETTERS:
                continue
            lines.append(mended)
            if mended != text or any(word.confidence < DOUBTFUL for word in row):
                doubtful.append(mended)
        lines.append("")
    return PictureText("\n".join(lines).strip(), tuple(doubtful))


def mend(line: str) -> str:
    """A line without the usual mistakes of reading: letters in numbers, a nine for a g, a sign for a half.

    Parameters
    ----------
    line : as it was found.

    >>> mend("25O 9 butter"), mend("1% cups cream"), mend("5009 Milch"), mend("* 2 di rum")
    ('250 g butter', '1½ cups cream', '500 g Milch', '2 dl rum')
    """
    line = re.sub(r"^\W*?[¢«»©®°*+~_=•|]\s+(?=\w)|^[eo]\s+(?=\d)|^[¢«»“”‘’'|\\]+(?=\d)", "", line)
    line = _PART_OF_A_LITRE.sub(lambda found: f"{_PARTS.get(found[1], '½')} l ", line)
    line = re.sub(r"(?<=\d )9(?=\s*\))", "g", line)
    line = re.sub(r"\b(?=[\dOolI|]*\d)[\dOolI|]{2,}(?=\s|$|[a-z]{1,2}\b)", _digits, line)
    line = re.sub(r"(?<![\d.,])(\d{0,2})\s?%(?=\s+(\w+))", _half, line)
    line = re.sub(r"(?<=\d)(\s?)([^\W\d]{1,3}|¢)(?![^\W\d])", _unit, line)
    line = re.sub(r"(?<=\d)(\s?(?:g|kg|ml|cl|dl|l))(?=[^\W\d_a-z][a-z])", r"\1 ", line)
    return re.sub(r"^(\d{1,4}0|\d{2,3}5|\d{2,4}(?=\s9))\s?9(?=\s+([^\W\d_]+))", _grams, line)


def _digits(found: re.Match[str]) -> str:
    unit = found[0][-1] if re.fullmatch(r"\d+l", found[0]) else ""
    digits = found[0].removesuffix(unit) if unit else found[0]
    return digits.translate(str.maketrans("OolI|", "00111")) + unit


def _unit(found: re.Match[str]) -> str:
    return f"{found[1]}{_SLIPS.get(found[2], found[2])}"


def _half(found: re.Match[str]) -> str:
    return f"{found[1]}½" if fold(found[2]) in _measures() else found[0]


def _grams(found: re.Match[str]) -> str:
    return found[0] if fold(found[2]) in _measures() else f"{found[1]} g"


@cache
def _measures() -> frozenset[str]:
    return frozenset(recipe_units()) | lists("layout")["counted"]


def _rows(words: Sequence[PictureWord]) -> list[Row]:
    """Words as rows from above to below, each from left to right."""
    rows: list[list[PictureWord]] = []
    for word in sorted(words, key=lambda one: one.top + one.height / 2):
        if rows and _overlap(rows[-1][-1], word) >= ROW_SHARE:
            rows[-1].append(word)
        else:
            rows.append([word])
    return [tuple(sorted(row, key=lambda one: one.left)) for row in rows]


def _overlap(one: PictureWord, other: PictureWord) -> float:
    shared = min(one.bottom, other.bottom) - max(one.top, other.top)
    return shared / max(1.0, min(one.height, other.height))


def _blocks(words: Sequence[PictureWord], height: float) -> list[list[Row]]:
    """Words as blocks of rows, in the order in which they are read.

    The page is cut along its widest empty bands, upright ones first, as long as there are any.
    """
    for cut in _gaps(words, height * COLUMN_GAP, upright=True):
        left = [word for word in words if word.right <= cut]
        right = [word for word in words if word.left >= cut]
        if len(_rows(left)) < 2 or len(_rows(right)) < 2:
            continue
        if _is_table(left, right):
            return [_rows(words)]
        return [*_blocks(left, height), *_blocks(right, height)]
    for cut in _gaps(words, height * PARAGRAPH_GAP, upright=False):
        above = [word for word in words if word.bottom <= cut]
        below = [word for word in words if word.top >= cut]
        return [*_blocks(above, height), *_blocks(below, height)]
    return [_rows(words)]


def _gaps(words: Sequence[PictureWord], least: float, *, upright: bool) -> list[float]:
    """The middles of the empty bands across some words, the widest first [pixels]."""
    edges = sorted((word.left, word.right) if upright else (word.top, word.bottom) for word in words)
    found: list[tuple[float, float]] = []
    reach = edges[0][1] if edges else 0.0
    for start, end in edges[1:]:
        if start - reach >= least:
            found.append((start - reach, (start + reach) / 2))
        reach = max(reach, end)
    return [middle for _, middle in sorted(found, reverse=True)]


def _is_table(left: Sequence[PictureWord], right: Sequence[PictureWord]) -> bool:
    """Whether one of two columns holds the amounts of the other's names."""
    return any(
        sum(_is_amount(row) for row in rows) >= AMOUNTS_SHARE * len(rows)
        for rows in (_rows(left), _rows(right))
    )


def _is_amount(row: Row) -> bool:
    words = [fold(part) for word in row for part in re.split(r"(?<=\d)(?=[^\W\d_])", word.text)]
    numbers = [word for word in words if any(char.isnumeric() for char in word)]
    return bool(numbers) and all(word in _measures() for word in words if word and word not in numbers)


def _wide(row: Row, height: float) -> bool:
    return any(b.left - a.right >= height * COLUMN_GAP for a, b in pairwise(row))


def _cells(row: Row, height: float) -> str:
    """A row of a table, its cells set apart as in a typed one."""
    text = row[0].text
    for before, word in pairwise(row):
        text += ("   " if word.left - before.right >= height * COLUMN_GAP else " ") + word.text
    return text


def _joined(rows: Sequence[Row]) -> list[Row]:
    """Rows of a block, those of one sentence as one."""
    edge = max(row[-1].right for row in rows)
    start = min(row[0].left for row in rows)
    joined: list[Row] = []
    full = False
    for row in rows:
        if joined and full and _goes_on(joined[-1], row):
            last = joined[-1][-1]
            if last.text.endswith("-") and len(last.text) > 2:
                whole = PictureWord(
                    last.text[:-1] + row[0].text, min(last.confidence, row[0].confidence),
                    last.left, last.top, last.width, last.height,
                )  # fmt: skip
                joined[-1] = (*joined[-1][:-1], whole, *row[1:])
            else:
                joined[-1] += row
        else:
            joined.append(row)
        characters = sum(len(word.text) + 1 for word in row)
        full = row[-1].right - start >= FULL_ROW * (edge - start) and characters >= PROSE_CHARS
    return joined


def _goes_on(before: Row, row: Row) -> bool:
    """Whether a row goes on with the sentence of the one before, which fills its column."""
    first, last = row[0].text, before[-1].text
    if first[0].islower():
        return True
    # A number that begins a row is the next thing of a list, unless a sentence is under way.
    under_way = last[-1] not in ".!?:" and len(before) >= 5
    return under_way and not re.match(r"[-•*–—]|\d+[.)]$", first) and not _is_amount(before[:2])
