"""A line that lists several things, each with its own amount."""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from itertools import pairwise

from custard.reading.shapes import Shapes, takes
from custard.reading.titles import title_in_front

_CUTS = ((r"\s*[;•·]\s*", 2), (r"\s\+\s", 3), (r"\s+[/|–—-]\s+", 3), (r"\s*[;,•·](?!\d)\s*", 3))
"""What sets the things of one line apart, and how many of them make it likely."""
_BEFORE_AMOUNT = re.compile(r"(?<=[^\W\d]|%)\s+(?=\d[\d.,/]*\s*[^\W\d])")
_BEHIND_AMOUNT = re.compile(r"\d\s*(?:g|gr|kg|ml|cl|dl|l)\s+(?=[^\W\d])")
LEAST_UNSET = 3
"""So many things that nothing sets apart make a list of a line."""


@dataclass(frozen=True, slots=True)
class Listing:
    """The things of a line, and the heading in front of them: "Custard: 300 ml milk, 4 yolks"."""

    things: list[str] = field(default_factory=list)
    heading: str = ""


def listed_in(line: str, shapes: Shapes) -> Listing:
    """The things that a line lists, set apart by commas and the like or by nothing; none where it lists none.

    Parameters
    ----------
    line : one line of a recipe, outside its method.
    shapes : what tells its language's lines apart.
    """
    if not re.search(r"[,;•·]|\s[+/|–—-]\s", line):
        return Listing(_unset(line, shapes))
    for cut, least in _CUTS:
        parts = _cut(line, cut)
        if len(parts) < least - bool(re.match(r"[^\d:]{2,30}:\s*\S", line)):
            continue
        head, after = (*re.split(r":|\s--\s|\s[–—]\s", parts[0], maxsplit=1), "")[:2]
        if not after and shapes.at_top:
            head, after = title_in_front(parts[0])
        plain = re.sub(r"\(.*?\)", "", head)
        headed = bool(after.strip()) and not re.search(r"\d", plain) and shapes.is_line(after.strip())
        things = [after.strip() if headed else parts[0][takes(parts[0]) :], *parts[1:]]
        measured = sum(shapes.has_amount(part) and shapes.is_line(part) for part in things)
        named = all(shapes.is_line(part) or shapes.names(part) for part in things)
        if measured >= max(2, len(parts) / 2) and named:
            return Listing(things, head.strip() if headed else "")
    return Listing()


def _unset(line: str, shapes: Shapes) -> list[str]:
    """The things of a line that nothing sets apart, "250 g milk 50 g sugar 3 yolks"; else none."""
    for cut, first in ((_BEFORE_AMOUNT, r"\d"), (_BEHIND_AMOUNT, r"[^\W\d]")):
        ends = [0, *(found.end() for found in cut.finditer(line)), len(line)]
        parts = [line[start:end].strip() for start, end in pairwise(ends)]
        if len(parts) < LEAST_UNSET or not re.match(first, line):
            continue
        if all(shapes.is_line(part) and shapes.has_amount(part) and shapes.names(part) for part in parts):
            return parts
    return []


def _cut(line: str, by: str) -> list[str]:
    """A line cut by a pattern, but never within brackets."""
    inside = re.sub(r"[(\[][^()\[\]]*[)\]]", lambda found: "\x00" * len(found[0]), line)
    ends = [(0, 0), *(found.span() for found in re.finditer(by, inside)), (len(line), len(line))]
    parts = [line[start:end].strip(" .") for (_, start), (end, _) in pairwise(ends)]
    return [part for part in parts if part]
