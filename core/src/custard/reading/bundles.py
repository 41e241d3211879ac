"""Many recipes in one file: a zip of texts and pages, or a table with a recipe's name in each row."""

from __future__ import annotations

import csv
import io
import lzma
import struct
import zipfile
import zlib
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import PurePosixPath

from custard.errors import BadFormula
from custard.reading.layout import MAX_TEXT
from custard.reading.tokens import fold
from custard.reading.words import lists

MOST_FILES, MOST_UNPACKED = 500, 20_000_000
"""A bundle holds at most so many files, and so many bytes once unpacked."""
READ_ENDINGS = (".txt", ".md", ".html", ".htm", ".json", ".csv", ".tsv", "")
DOCUMENTS = (".docx", ".doc", ".odt", ".rtf", ".pdf", ".xlsx", ".xls", ".ods")
_DAMAGED = (
    zipfile.BadZipFile, zlib.error, lzma.LZMAError, struct.error, OSError, EOFError, RuntimeError, ValueError,
    LookupError, NotImplementedError,
)  # fmt: skip
"""What unpacking raises where the bytes of a zip were changed."""


@dataclass(frozen=True)
class Bundled:
    """One text of a bundle; `why` says why it is left out, and its text is then empty."""

    name: str
    text: str
    why: str = ""


def unbundle(name: str, data: bytes) -> tuple[Bundled, ...]:
    """The texts that a file holds, one a recipe.

    Parameters
    ----------
    name : of the file; its ending says what it is.
    data : its bytes.

    Returns
    -------
    one text for each recipe of a zip or a table, else the file's own.

    Raises
    ------
    BadFormula
        when a zip is damaged, locked, or holds too much.
    """
    document = PurePosixPath(name).suffix.lower() in DOCUMENTS
    if not document and (data[:4] == b"PK\x03\x04" or name.lower().endswith(".zip")):
        return tuple(one for inner, content in _unzipped(name, data) for one in _one(inner, content))
    return tuple(_one(name, data))


def _one(name: str, data: bytes) -> Iterator[Bundled]:
    shown = PurePosixPath(name).name
    ending = PurePosixPath(name).suffix.lower()
    if ending not in READ_ENDINGS:
        saved = (
            " as it is: save it as text, as a page or as CSV" if ending in DOCUMENTS else ", page or table"
        )
        yield Bundled(shown, "", f"is no text{saved}")
        return
    if len(data) > MAX_TEXT:
        yield Bundled(shown, "", f"is longer than {MAX_TEXT} characters")
        return
    text = _decoded(data)
    if text is None:
        yield Bundled(shown, "", "is no text")
        return
    try:
        recipes = _of_table(text) if ending in (".csv", ".tsv") else ()
    except csv.Error as error:
        yield Bundled(shown, "", f"is a damaged table: {error}")
        return
    yield from recipes or (Bundled(shown, text),)


def _decoded(data: bytes) -> str | None:
    """Bytes as text: UTF-8, what Windows writes, or UTF-16; None for what is no text."""
    if data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return data.decode("utf-16", errors="replace")
    if b"\x00" in data[:4096]:
        return None
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return data.decode("cp1252", errors="replace")


def _unzipped(name: str, data: bytes) -> Iterator[tuple[str, bytes]]:
    """The files of a zip, counted before anything is unpacked and while it is."""
    try:
        bundle = zipfile.ZipFile(io.BytesIO(data))
        inside = [one for one in bundle.infolist() if not one.is_dir() and not _hidden(one.filename)]
    except _DAMAGED:
        raise BadFormula("content", name, "is a damaged zip") from None
    if len(inside) > MOST_FILES:
        raise BadFormula("content", name, f"holds {len(inside)} files, more than {MOST_FILES}")
    left = MOST_UNPACKED
    for one in inside:
        if one.flag_bits & 1:
            raise BadFormula("content", name, "is locked by a password", "Unpack it first.")
        if one.filename.lower().endswith(".zip"):
            yield PurePosixPath(one.filename).name + ".packed", b""
            continue
        content = _read(bundle, one, min(left, MAX_TEXT + 1), name)
        left -= len(content)
        if left <= 0:
            raise BadFormula("content", name, f"unpacks to more than {MOST_UNPACKED / 1e6:.0f} MB")
        yield one.filename, content


def _read(bundle: zipfile.ZipFile, one: zipfile.ZipInfo, most: int, name: str) -> bytes:
    """A file of a zip, never more of it than `most` bytes, whatever it says of its size."""
    try:
        with bundle.open(one) as file:
            return file.read(most)
    except _DAMAGED:
        raise BadFormula("content", name, "is a damaged zip") from None


def _hidden(name: str) -> bool:
    """Whether a file of a zip is none that a person put there."""
    return any(part.startswith((".", "__MACOSX")) for part in PurePosixPath(name).parts)


def _of_table(text: str) -> tuple[Bundled, ...]:
    """The recipes of a table of names, ingredients and amounts; none where its head names no recipes."""
    lines = io.StringIO(text, newline=None)
    cut = max(";,\t", key=lines.readline().count)
    lines.seek(0)
    rows = [row for row in csv.reader(lines, delimiter=cut, strict=True) if any(cell.strip() for cell in row)]
    heads = [fold(cell) for cell in rows[0]] if rows else []
    columns = lists("columns")
    named = next((at for at, head in enumerate(heads) if head in lists("layout")["recipe_name"]), None)
    things = [at for at, head in enumerate(heads) if at != named and set(head.split()) & columns["name"]]
    if named is None or not things:
        return ()
    amounts = [
        at for at, head in enumerate(heads) if set(head.split()) & (columns["amount"] | columns["unit"])
    ]
    found: dict[str, list[str]] = {}
    for row in rows[1:]:
        cells = [cell.strip() for cell in (*row, *[""] * len(heads))]
        amount = " ".join(cells[at] for at in amounts if cells[at])
        found.setdefault(cells[named] or "A recipe without a name", []).append(
            f"{amount} {cells[things[0]]}".strip()
        )
    return tuple(Bundled(name, "\n".join((name, *lines))) for name, lines in found.items())
