"""What a line looks like: an amount of something, a step of the method, or the title of a dish."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from custard.reading.amounts import Amount, amount_at
from custard.reading.match import Hints
from custard.reading.names import find
from custard.reading.phrases import temperatures
from custard.reading.sentences import is_time_or_heat
from custard.reading.tokens import Kind, Token, fold, phrase_at, says, tidy, tokens
from custard.reading.words import lists, squeezed

SHORT_WORDS, LONG_LINE = 6, 110
FEW_WORDS_BEHIND = 4
NAMED_WORDS = 12
"""A line that gives its amount at the end has at most so many words."""


@dataclass(frozen=True, slots=True)
class Shapes:
    """Judges lines of one language.

    Attributes
    ----------
    language : of the recipe.
    at_top : neither title nor ingredients have come yet.
    in_list : the heading of the ingredients has come.
    """

    language: str
    at_top: bool = False
    in_list: bool = False

    def is_line(self, line: str) -> bool:
        """Whether a line says how much of what, or names a thing by itself."""
        plain = tidy(line)
        if self.at_top and not plain[:1].isdigit():
            plain = re.sub(r"\([^()]*\)", " ", plain).strip() or plain
        found = tokens(plain)
        if not found:
            return False
        lead = amount_at(found, 0, self.language)
        if lead is not None:
            return self._leads(plain, found, *lead)
        if self.is_step(line) or temperatures(plain) or (self.at_top and self._names_a_dish(plain)):
            return False
        words = [token.text for token in found if token.kind == Kind.WORD]
        at_end = self._amount_at_end(_without_brackets(plain))
        if len(words) <= NAMED_WORDS and (_of_a_fruit(words) or at_end):
            measured = self.names(plain) and self._measured_at_end(plain, found)
            return _of_a_fruit(words) or not self.at_top or measured
        name = " ".join(words)
        listed = self.in_list and not self.at_top and self.names(name)
        return not takes(line) and len(words) <= SHORT_WORDS + 3 and (self._exactly(name) or listed)

    def _leads(self, plain: str, found: Sequence[Token], amount: Amount, count: int) -> bool:
        """Whether a line that begins with an amount is one of ingredients."""
        rest = found[count:]
        words = [token.text for token in rest if token.kind == Kind.WORD]
        if not words or is_time_or_heat(rest, amount.unit):
            return False
        if found[0].kind == Kind.NUMBER or not amount.unit:
            named = found[0].kind == Kind.NUMBER or self.names(" ".join(words[:SHORT_WORDS]))
            named = named and not self._is_title(plain, amount)
            return named and not self._ends_with_act(plain)
        return not self._ends_with_act(plain)

    def is_step(self, line: str) -> bool:
        """Whether a line tells what to do rather than what to weigh."""
        words = fold(line).split()
        verbs = lists("verbs")
        own = verbs.get(self.language, frozenset())
        if len(words) < 2:
            return False
        found = tokens(tidy(line))
        lead = amount_at(found, 0, self.language)
        measured = lead is not None and (bool(lead[0].unit) or found[0].kind == Kind.NUMBER)
        if measured and len(line) < LONG_LINE and not self._ends_with_act(line):
            return False
        if self.language == "de":
            acts = [
                word
                for word in words
                if word in own and word.endswith("n") and word not in lists("layout")["no_acts"]
            ]
            ends = line.rstrip().endswith(".") and words[-1] in acts
            return bool(acts) and (ends or len(words) > 3)
        if words[0] in own:
            named = words[0] in ("cream", "butter") and (
                len(words) < 5 or (not words[1][0].isdigit() and self._amount_at_end(_without_brackets(line)))
            )
            return not named and len(words) > 2 - (self.language == "en")
        is_sentence = (
            len(words) > SHORT_WORDS and any(word in own for word in words) and line.rstrip().endswith(".")
        )
        return is_sentence or (len(line) > LONG_LINE and lead is None)

    def _ends_with_act(self, line: str) -> bool:
        """Whether a German sentence ends with its verb: "5 EL der Milch mit der Stärke glatt rühren."."""
        words = fold(line).split()
        return (
            self.language == "de"
            and line.rstrip().endswith(".")
            and len(words) >= SHORT_WORDS
            and words[-1].endswith("n")
            and words[-1] in lists("verbs")["de"]
        )

    def names(self, words: str) -> bool:
        """Whether some words name an ingredient."""
        return bool(find(words, Hints(self.language)).id)

    def has_amount(self, part: str) -> bool:
        """Whether a part of a line gives an amount."""
        return bool(re.search(r"\d", part)) or amount_at(tokens(tidy(part)), 0, self.language) is not None

    def _exactly(self, words: str) -> bool:
        """Whether a short line is the name of an ingredient and nothing else."""
        name = words.partition(",")[0]
        found, folded = find(name, Hints(self.language)), fold(words)
        if not found.id or any(folded in dishes for dishes in lists("families").values()):
            return False
        free = says(folded, lists("amount")["no_weight"])
        # A first line that gives no amount is the title, though it names an ingredient: "Crème".
        return free or (len(folded.split()) <= SHORT_WORDS and not self.at_top)

    def _amount_at_end(self, found: Sequence[Token]) -> bool:
        """Whether an amount stands behind a name."""
        for at in range(1, len(found)):
            read = amount_at(found, at, self.language) if found[at].kind == Kind.NUMBER else None
            if read is None:
                continue
            rest = found[at + read[1] :]
            if is_time_or_heat(rest, read[0].unit):
                return False
            few = sum(token.kind == Kind.WORD for token in rest) <= FEW_WORDS_BEHIND
            return few and (bool(read[0].unit) or at >= len(found) - 3)
        return False

    def _measured_at_end(self, plain: str, found: Sequence[Token]) -> bool:
        """Whether a first line ends with a measure, or begins with just the name of a thing."""
        name = re.sub(r"\d.*", "", plain).strip(" -–:,.=|*")
        exact = find(name, Hints(self.language)).words == fold(name)
        units = any(
            read is not None and bool(read[0].unit)
            for at in range(1, len(found))
            if (read := amount_at(found, at, self.language)) is not None
        )
        return exact or units

    def _names_a_dish(self, plain: str) -> bool:
        """Whether a first line is the title, though a number stands in it: "Pistachio ice cream - 1 kg"."""
        name = re.sub(r"\d.*", "", plain).strip(" -–:,")
        return a_dish(plain) and find(name, Hints(self.language)).words != fold(name)

    def _is_title(self, plain: str, amount: Amount) -> bool:
        """Whether a first line that begins like an amount names the dish, as "The best custard" does."""
        if not self.at_top or amount.unit:
            return False
        if plain[:1].isdigit():
            return a_dish(plain) and not self.names(plain)
        words = fold(plain).split()
        article = words[0] in ("the", "a", "an", "some")
        return (a_dish(plain) or article) and not (
            article and words[1:2] and words[1] in lists("layout")["part"]
        )


def _without_brackets(line: str) -> tuple[Token, ...]:
    return tokens(tidy(re.sub(r"\([^()]*\)", " ", line)))


def a_dish(text: str) -> bool:
    """Whether a text has the name of a dish in it."""
    return says(fold(text), frozenset().union(*lists("families").values(), lists("layout")["dish"]))


def _of_a_fruit(words: Sequence[str]) -> bool:
    """Whether the juice or the zest of something is named."""
    folded = {fold(word) for word in words}
    parts = lists("line")["juice"] | lists("line")["zest"]
    return bool(folded & parts) and bool(folded & set(squeezed()))


def takes(line: str) -> int:
    """How many characters of "take" or "you need" stand in front of a line."""
    found = tokens(line)
    count = phrase_at(found, 0, lists("layout")["take"])
    if not count or count >= len(found):
        return 0
    return found[count + (found[count].text == ":" and count + 1 < len(found))].start
