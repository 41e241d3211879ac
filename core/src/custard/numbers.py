"""Numbers as people write them: "½", "1 1/2", "1.5", "1,5", "1.500,5", "1 h 20".

The browser reads what is typed into its fields by the same grammar; `core/tests/cases/numbers.json` is the
table of cases that the tests of both read.
"""

from __future__ import annotations

import re
import unicodedata

from custard.errors import BadQuantity

NUMBER = re.compile(
    r"""(?P<mixed>\d+\s+\d+\s*/\s*\d+)       # 1 1/2
      | (?P<fraction>\d+\s*/\s*\d+)          # 1/2
      | (?P<grouped>\d{1,3}(?P<by>[.,'’\ ])\d{3}(?:(?P=by)\d{3})*(?:(?P<mark>[.,])\d+)?)(?!\d)
      | (?P<decimal>\d+(?:[.,]\d+)?|[.,]\d+) # 6, 1.5, 1,5, .5
    """,
    re.VERBOSE,
)
"""A number at the start of a text that `plain_text` has been through."""
_MINUTES = re.compile(r"(\d+)\s*(?:h|:|hours?|std)\s*([0-5]?\d)\s*(?:m|min|mins|minutes?)?")
_ONE_UNIT = re.compile(r"(.*?)\s*(h|hours?|std|m|min|mins|minutes?|s|sec|secs|seconds?)?")


def plain_text(text: str) -> str:
    """A text with vulgar fractions written out and white space folded.

    >>> plain_text(" 1½  cups"), plain_text("2 ⁄ 3")
    ('1 1/2 cups', '2 / 3')
    """
    out = []
    for char in text:
        if unicodedata.decomposition(char).startswith("<fraction>"):
            out.append(" " + unicodedata.normalize("NFKC", char).replace("⁄", "/"))
        else:
            out.append(char)
    return " ".join("".join(out).replace("⁄", "/").split())


def read_number(text: str, field: str = "number") -> float:
    """A number that stands alone.

    Parameters
    ----------
    text : as it is written. Thousands may be set apart by a point, a comma, a space or an apostrophe where
        that cannot be taken for decimals: "1.500,5", "1,234,567", "1 500".
    field : what a refusal names.

    Returns
    -------
    the number [1], below zero where a minus stands before it.

    Raises
    ------
    BadQuantity
        where it is none, divides by nothing, or could be thousands or thousandths ("1,500").

    >>> [read_number(text) for text in ("½", "1½", "0,5", "1.500,5", "-3.5")]
    [0.5, 1.5, 0.5, 1500.5, -3.5]
    """
    plain = plain_text(text)
    below = plain.startswith(("-", "−"))
    plain = plain[1:] if plain.startswith(("-", "−", "+")) else plain
    match = NUMBER.fullmatch(plain)
    if match is None:
        raise BadQuantity(field, text, "is not a number", "Write it as “1.5” or “1 1/2”.")
    value = value_of(match, text, field)
    return -value if below else value


def value_of(match: re.Match[str], text: str, field: str = "amount") -> float:
    """The number that a match of `NUMBER` stands for.

    Parameters
    ----------
    match : of `NUMBER`.
    text, field : what a refusal shows and names.

    Raises
    ------
    BadQuantity
        where it divides by nothing, or could be thousands or thousandths.
    """
    if match["decimal"]:
        return float(match["decimal"].replace(",", "."))
    if match["grouped"]:
        return _grouped(match, text, field)
    whole, fraction = re.split(r"\s+", match[0], maxsplit=1) if match["mixed"] else ("0", match[0])
    top, bottom = fraction.split("/")
    if int(bottom) == 0:
        raise BadQuantity(field, text, "divides by nothing")
    return int(whole) + int(top) / int(bottom)


def _grouped(match: re.Match[str], text: str, field: str) -> float:
    """Groups of three: thousands, unless a single group behind a point or a comma can be decimals."""
    written, by, mark = match["grouped"], match["by"], match["mark"]
    if mark == by:
        raise BadQuantity(field, text, "is not a number", "Write it as “1500.5”.")
    if mark is None and written.count(by) == 1 and by in ".,":
        if by == "," and not written.startswith("0"):
            raise BadQuantity(field, text, "could be thousands or thousandths", "Write it without a comma.")
        return float(written.replace(",", "."))
    return float(written.replace(by, "").replace(",", "."))


def read_minutes(text: str, field: str = "minutes") -> float:
    """A length of time.

    Parameters
    ----------
    text : "1 h 20", "1:20", "90 min", "1,5 h", "30 s"; a bare number is minutes.
    field : what a refusal names.

    Returns
    -------
    the time [min].

    Raises
    ------
    BadQuantity
        where it is none.

    >>> [read_minutes(text) for text in ("1 h 20", "1:20", "1,5 h", "30 s", "45")]
    [80.0, 80.0, 90.0, 0.5, 45.0]
    """
    plain = plain_text(text).lower()
    both = _MINUTES.fullmatch(plain)
    if both is not None:
        return 60.0 * int(both[1]) + int(both[2])
    one = _ONE_UNIT.fullmatch(plain)
    number, unit = (plain, "m") if one is None else (one[1], one[2] or "m")
    value = read_number(number, field)
    if unit[0] == "s" and unit != "std":
        return value / 60
    return value * 60 if unit[0] == "h" or unit == "std" else value
