"""Which lines of a text are the title, the ingredients, the headings and the method."""

from __future__ import annotations

import re
from dataclasses import dataclass, field

from custard.formula import MAX_LINES
from custard.reading.bare_numbers import kilos_of, unit_of_all, without_shares
from custard.reading.headings import Heading, Is, heading_of
from custard.reading.listing import listed_in
from custard.reading.phrases import temperatures
from custard.reading.preamble import is_of_the_page, without_preamble
from custard.reading.sentences import MAX_STEP, amounts_within, sentences
from custard.reading.shapes import LONG_LINE, SHORT_WORDS, Shapes, takes
from custard.reading.tables import rows_as_lines
from custard.reading.titles import titled
from custard.reading.tokens import fold, phrase_at, tokens
from custard.reading.words import lists

MAX_TEXT, MAX_LINE = 1_000_000, 300
MAX_SENTENCE = 1200
"""A line that names many things is longer than a line of one."""
_NUMBERED = re.compile(
    r"^\s*(?:\w+\s+\d+\s*[:.)-]+|\d{1,2}\s*[.):]|\d{1,2}/(?=\s+[^\W\d])|\d{1,2}\s?-|\(\d{1,2}\))\s+"
)
_STEP = re.compile(r"[^\W\d]+\s*\d{1,2}\W*")
_BULLET = re.compile(r"^\s*(?:[-–—•*·▪●◦○□☐✓✔➢→]+\s*|\[[ xX✓]?\]\s*|>\s+)")


@dataclass(frozen=True, slots=True)
class Layout:
    """A text taken apart.

    Attributes
    ----------
    lines : each line of ingredients with the heading above it.
    notes : what is neither title, ingredient nor method.
    unit : the unit of bare numbers, where the text says one for all.
    scale : what every amount is multiplied by, where the text says so.
    """

    name: str
    serves: str
    lines: tuple[tuple[str, str], ...]
    method: tuple[str, ...]
    notes: tuple[str, ...] = ()
    unit: str = ""
    scale: float = 1.0


def lay_out(text: str, language: str) -> Layout:
    """A text as title, lines of ingredients with their headings, and sentences of the method.

    Parameters
    ----------
    text : plain text, without control characters.
    language : of the recipe.
    """
    state = _Reading(language)
    raw = [line for line in re.sub(r"\r\n?", "\n", text).split("\n") if not is_of_the_page(line)]
    page = without_preamble(raw, language)
    state.notes += page.before
    for line in rows_as_lines(page.lines):
        state.take(line)
        if len(state.lines) > MAX_LINES:
            # More than a formula takes: it is refused, and the rest need not be read.
            break
    if not state.lines:
        for sentence in (*state.notes, *state.method):
            state.lines += [(part, "") for part in amounts_within(sentence, language)]
    texts = without_shares([text for text, _ in state.lines])
    return Layout(
        state.name,
        state.serves,
        tuple(zip(texts, (section for _, section in state.lines), strict=True)),
        tuple(state.method),
        tuple(state.notes),
        state.unit or kilos_of(text for text, _ in state.lines),
        state.scale,
    )


@dataclass
class _Reading:
    """The lines of a text in order, and where each goes."""

    language: str
    name: str = ""
    serves: str = ""
    section: str = ""
    mode: Is | None = None
    unit: str = ""
    scale: float = 1.0
    lines: list[tuple[str, str]] = field(default_factory=list)
    method: list[str] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)

    @property
    def shapes(self) -> Shapes:
        """What tells the kinds of lines apart at this place of the text."""
        return Shapes(self.language, not self.name and not self.lines, self.mode == Is.INGREDIENTS)

    def take(self, raw: str) -> None:
        """Put one line where it belongs."""
        bullet = bool(_BULLET.match(raw))
        line = _BULLET.sub("", re.sub(r"^#+\s*", "", raw)).strip().strip("*_").strip()[:MAX_STEP]
        if not re.search(r"\w", line) or _counts_a_step(line):
            return
        first, _, after = line.partition(". ")
        if after and (unit_of_all(first) or self._is_title(first, after)) and not self.shapes.is_line(first):
            self.take(first)
            self.take(after)
            return
        if self._with_method(line):
            return
        step = _numbered(line)
        parts = [] if step and self.shapes.is_step(line[step:]) else self._several(line)
        if parts:
            for part in parts:
                self.take(part)
            return
        heading = heading_of(line, self.shapes, in_method=self.mode == Is.METHOD)
        if heading is not None:
            self._head(line, heading)
            return
        acts = self.mode == Is.METHOD and bool(self.method or not self.shapes.has_amount(line[step:]))
        if step and (acts or not self.shapes.is_line(line[step:])):
            self.mode = Is.METHOD if self.lines else self.mode
            self.method += sentences(line[step:])
            return
        line = line[step:]
        if self.mode == Is.NOTES:
            self.notes.append(line)
        elif self.mode == Is.METHOD:
            self._in_method(line, bullet)
        elif not self._for_all(line):
            self._in_ingredients(line)

    def _is_title(self, first: str, after: str) -> bool:
        """Whether a title and a list stand on one line: "Wine foam. Take 6 yolks, 150 g sugar"."""
        short = len(first.split()) <= SHORT_WORDS and not re.search(r"[\d(]", first)
        taken = after[takes(after) :]
        listed = self.shapes.is_line(re.split(r"[,;]\s", taken)[0]) and self.shapes.has_amount(taken)
        return self.shapes.at_top and short and listed and not self.shapes.is_step(first)

    def _with_method(self, line: str) -> bool:
        """Take a line that holds some of the method, whatever stands in front of it; whether it did."""
        first, _, after = line.partition(". ")
        heading = heading_of(line, self.shapes, in_method=self.mode == Is.METHOD)
        if heading is not None and heading.of == Is.METHOD:
            self._head(line, heading)
            return True
        if not after or not self.shapes.is_step(after):
            return False
        if self.lines and temperatures(first):
            self.mode = Is.METHOD
            self.method += sentences(line)
            return True
        listed = self._several(first)
        if (
            not listed
            or not self.shapes.has_amount(listed[0])
            or any(
                self.shapes.is_step(part) or not (self.shapes.has_amount(part) or self.shapes.names(part))
                for part in listed
            )
        ):
            return False
        for part in listed:
            self.take(part)
        self.mode = Is.METHOD
        self.method += sentences(after)
        return True

    def _several(self, line: str) -> list[str]:
        """The things that a line lists, under the heading in front of them; none where it lists none."""
        if self.mode == Is.METHOD:
            return []
        found = listed_in(line, self.shapes)
        if found.heading:
            self.take(f"{found.heading}:")
        return found.things

    def _head(self, line: str, heading: Heading) -> None:
        """Go on under a heading."""
        if heading.serves:
            self.serves = self.serves or heading.serves
        if heading.of == Is.NOTE:
            (self.method if temperatures(line) else self.notes).append(line)
        elif heading.of == Is.SECTION:
            self.section = line.partition(":")[0].strip()
            self.mode = Is.INGREDIENTS if self.mode in (None, Is.NOTES) else self.mode
        elif heading.of != Is.SERVES:
            self.mode = heading.of
        if heading.rest and heading.of != Is.NOTE:
            self.take(heading.rest)

    def _for_all(self, line: str) -> bool:
        """What a line says of all amounts: "all in g", "make half of the recipe"."""
        found = tokens(line)
        words = lists("layout")
        if len(found) > 2 * SHORT_WORDS:
            return False
        unit = unit_of_all(line)
        make = phrase_at(found, 0, words["make"])
        for factor, key in ((0.5, "half"), (2.0, "double")):
            part = phrase_at(found, make, words[key]) if make else 0
            if part and phrase_at(found, make + part, words["recipe"]):
                self.scale = factor
        if not unit and self.scale == 1.0:
            return False
        self.unit = unit or self.unit
        if self.shapes.is_line(line) and self.scale == 1.0:
            return False
        if self.name or self.lines or self.scale != 1.0:
            self.notes.append(line)
        else:
            self._entitle(line)
        return True

    def _in_method(self, line: str, bullet: bool) -> None:
        shapes = self.shapes
        if (bullet or len(line) < LONG_LINE / 2) and shapes.is_line(line) and not shapes.is_step(line):
            self.lines.append((line[:MAX_LINE], self.section))
        else:
            self.method += sentences(line)

    def _in_ingredients(self, line: str) -> None:
        shapes = self.shapes
        taken = line[takes(line) :]
        if taken != line and shapes.at_top and self._is_running(taken):
            self.method += sentences(line)
        elif shapes.is_line(taken):
            self._add(taken)
        elif shapes.is_step(line):
            self.mode = Is.METHOD if self.lines else self.mode
            self.method += sentences(line)
        elif shapes.at_top:
            self._entitle(line)
        elif self.mode == Is.INGREDIENTS and amounts_within(line, self.language):
            self._add(line)
        elif len(line.split()) > SHORT_WORDS or line[-1] in ".!" or (not self.lines and not shapes.in_list):
            (self.method if temperatures(line) else self.notes).append(line)
        elif line.isupper() or (line[0].isupper() and not self.lines and not re.search(r"\d", line)):
            self.section = line.strip(" :")
        else:
            # Short, without an amount, and nothing that we know: it is asked.
            self.lines.append((line[:MAX_LINE], self.section))

    def _is_running(self, line: str) -> bool:
        """Whether the things stand within what is done: "a pint of milk, bring it to the boil, pour ..."."""
        first = line.partition(". ")[0]
        return len(line) > LONG_LINE and any(
            self.shapes.is_step(part) for part in re.split(r"[,;]\s", first)[1:]
        )

    def _entitle(self, line: str) -> None:
        self.name, serves = titled(line)
        self.serves = self.serves or serves

    def _add(self, line: str) -> None:
        """A line of ingredients; what follows it as a sentence of the method goes there."""
        first, _, after = line.partition(". ")
        shapes = self.shapes
        # "1/3 c. all-purpose flour": a point behind a unit ends no sentence.
        if after and shapes.is_line(first) and shapes.is_step(after) and not shapes.is_line(after):
            line = first
            self.method += sentences(after)
        self.mode = self.mode or Is.INGREDIENTS
        self.lines.append((line[:MAX_SENTENCE], self.section))


def _counts_a_step(line: str) -> bool:
    """Whether a line is the number of a step and nothing else: "Step 2"."""
    return _STEP.fullmatch(line) is not None and fold(line.split(maxsplit=1)[0]) in lists("layout")["step"]


def _numbered(line: str) -> int:
    """How many characters number a step: "1.", "Step 2:"."""
    match = _NUMBERED.match(line)
    word = fold(line.split(maxsplit=1)[0]) if match is not None and line[0].isalpha() else ""
    return 0 if match is None or (word and word not in lists("layout")["step"]) else match.end()
