"""A dump as a script for psql, looked through before it is run: it may speak to the database alone."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator

ALLOWED = re.compile(r"^\\(un)?restrict \S+$")
"""What pg_dump itself writes to keep psql from obeying anything else."""
COPY = re.compile(r"^COPY [^;']* FROM stdin;$")
_BEGINS = re.compile(
    r"""(?P<string>[eE]?')
      | (?P<name>")
      | (?P<dollar>\$(?:[A-Za-z_]\w*)?\$)
      | (?P<line>--)
      | (?P<block>/\*)
      | (?P<command>\\)
    """,
    re.VERBOSE,
)


class Hostile(ValueError):
    """A script that would have psql do something of its own; its text is the line."""


def look_through(script: Iterable[str]) -> None:
    """Refuse a script with a command for psql itself, such as one that runs a program.

    Text in quotes and the data of a COPY are not commands, whatever stands in them.

    Parameters
    ----------
    script : its lines, each with its end.

    Raises
    ------
    Hostile
        with the first line that holds such a command.
    """
    inside: str | None = None
    copying = False
    for line in script:
        if copying:
            copying = line.rstrip("\n") != "\\."
            continue
        if inside is None:
            plain = line.rstrip("\n")
            if ALLOWED.match(plain):
                continue
            copying = bool(COPY.match(plain))
        inside = _ends_inside(line, inside)


def _ends_inside(line: str, inside: str | None) -> str | None:
    """What the end of a line is inside of, by what its beginning was: quote, tag, comment or None."""
    at = 0
    while at < len(line):
        if inside is None:
            found = _BEGINS.search(line, at)
            if found is None:
                return None
            if found["command"] is not None:
                raise Hostile(line.strip()[:200])
            if found["line"] is not None:
                return None
            inside, at = _opened(found), found.end()
            continue
        end = _closed(line, at, inside)
        if end is None:
            return inside
        inside, at = None, end
    return inside


def _opened(found: re.Match[str]) -> str:
    if found["block"] is not None:
        return "*/"
    if found["dollar"] is not None:
        return found["dollar"]
    return '"' if found["name"] is not None else "e'" if found["string"] in ("e'", "E'") else "'"


def _closed(line: str, at: int, inside: str) -> int | None:
    """Where what is open closes on a line; None where it does not. A doubled quote closes and opens again."""
    for place, char in _unescaped(line, at, escapes=inside == "e'"):
        if inside in ("'", "e'") and char == "'":
            return place + 1
        if inside not in ("'", "e'") and line.startswith(inside, place):
            return place + len(inside)
    return None


def _unescaped(line: str, at: int, *, escapes: bool) -> Iterator[tuple[int, str]]:
    """The characters of a line from a place on, without those behind a backslash where that escapes."""
    while at < len(line):
        if escapes and line[at] == "\\":
            at += 2
            continue
        yield at, line[at]
        at += 1
