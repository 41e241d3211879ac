"""A recipe as people have it: plain text, one thing a line or in a running sentence, or a saved web page.

It only takes the text apart. Each piece is then settled as a line of a structured recipe is: what is unclear
is asked, and nothing is guessed.
"""

from __future__ import annotations

import json
import re
from html.parser import HTMLParser

from custard.errors import BadFormula
from custard.formats.recipe_jsonld import (
    MAX_STEP,
    MAX_STEPS,
    ReadRecipe,
    on_one_line,
    read_recipe,
    settle,
)
from custard.formula import MAX_LINES, MAX_NAME

UNNAMED = "A recipe without a name"
LONG_LINE = 120
"""A line longer than this, with no amount in front, is of the method."""
_NUMBER_WORDS = {
    "a": "1", "an": "1", "one": "1", "two": "2", "three": "3", "four": "4", "five": "5", "six": "6",
    "seven": "7", "eight": "8", "nine": "9", "ten": "10", "twelve": "12", "half": "1/2",
}  # fmt: skip
_BULLET = re.compile(r"^\s*(?:[-–—•*·▪]\s+|\[[ xX✓]?\]\s*)")
_STEP = re.compile(r"^\s*(?:\d{1,2}\s*[.)]\s+|step\s+\d+\s*[:.]?\s*)", re.IGNORECASE)
_AMOUNT = re.compile(r"^(?:about |approx\.? |ca\.? )?[\d½¼¾⅓⅔⅛⅜⅝⅞.]", re.IGNORECASE)
_VAGUE = re.compile(
    r"^(?:an?|some|the|one|two|three|four|five|six|seven|eight|nine|ten|twelve|half)\b", re.IGNORECASE
)
LONG_TITLE = 80
_MEASURED = re.compile(
    r"\d|\b(?:pints?|cups?|litres?|liters?|pounds?|ounces?|spoons?|\w+spoons?|pinch|knobs?) of\b", re.I
)
_DISH = re.compile(
    r"\b(?:custards?|anglaise|sabayon|zabaglione|zabaione|cr[eè]me|flans?|sauces?|puddings?|recipe|curd|trifle"
    r"|ice[- ]cream|pastry cream)\b",
    re.IGNORECASE,
)
_THE = re.compile(r"^the\b", re.IGNORECASE)
_PART = re.compile(r"^the (?:zest|juice|rind|peel|yolks?|whites?|seeds?|rest|same|pulp)\b", re.IGNORECASE)
"""What of a thing a line may ask for after "the"."""
_INGREDIENTS = re.compile(r"^(?:ingredients|you need|for the [\w ]{1,40})\s*:?\s*$", re.IGNORECASE)
_METHOD = re.compile(
    r"^(?:method|directions|instructions|preparation|steps|how to make it)\s*:?\s*$", re.IGNORECASE
)
_VERBS = frozenset(
    """add bake beat boil bring chill combine cook cool divide dissolve fold heat infuse let mix place pour
    preheat put remove return scald serve set sieve simmer slowly split stir strain temper then warm whip
    whisk""".split()  # noqa: SIM905
)
_TAKE = re.compile(r"^(?:take|use|you(?: will)? need|i use|we use)\s*:?\s+", re.IGNORECASE)
_SERVES = re.compile(r"^(?:serves|makes|yields?|for)\s*:?\s*(\d.{0,60})$", re.IGNORECASE)
_NEXT = _AMOUNT.pattern[1:] + "|" + _VAGUE.pattern[1:]
_PIECES = re.compile(rf"(?:,\s|;|\band\b|\bplus\b)\s*(?={_NEXT})", re.IGNORECASE)
"""Where a running sentence goes on to the next thing; a comma within a number is no such place."""


def read_text(text: str, eggs: str = "EU-M", measures: str = "metric") -> ReadRecipe:
    """A recipe from a saved web page, or from plain text.

    Parameters
    ----------
    text : as it was saved or typed.
    eggs : the size class that a count of eggs means.
    measures : whose cup and pint are meant: "us", "imperial", "metric" or "au".

    Raises
    ------
    BadFormula
        when no line of it says how much of what.
    """
    if re.search(r"<(?:html|script|body|!doctype)\b", text[:20_000], re.IGNORECASE):
        return _from_page(text, eggs, measures)
    return _from_words(text, eggs, measures)


class _Structured(HTMLParser):
    """The structured data that stands in a page for machines to read."""

    def __init__(self) -> None:
        super().__init__(convert_charrefs=True)
        self.found: list[str] = []
        self._inside = False

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        kind = (dict(attrs).get("type") or "").strip().lower()
        if tag == "script" and kind.startswith("application/ld+json"):
            self._inside = True
            self.found.append("")

    def handle_endtag(self, tag: str) -> None:
        if tag == "script":
            self._inside = False

    def handle_data(self, data: str) -> None:
        if self._inside:
            self.found[-1] += data


def _from_page(text: str, eggs: str, measures: str) -> ReadRecipe:
    page = _Structured()
    page.feed(text)
    found = []
    for one in page.found:
        try:
            found.append(json.loads(one))
        except (ValueError, RecursionError):
            continue
    if not found:
        raise BadFormula(
            "text", "this page", "holds no recipe for machines to read", "Paste the recipe's text instead."
        )
    return read_recipe(found, eggs, measures)


def _from_words(text: str, eggs: str, measures: str) -> ReadRecipe:
    name, serves, in_method = "", "", False
    pieces: list[str] = []
    method: list[str] = []
    for raw in text.replace("\r", "\n").split("\n"):
        line = _TAKE.sub("", on_one_line(_BULLET.sub("", raw), MAX_STEP))
        if not line or _INGREDIENTS.match(line):
            continue
        if _METHOD.match(line):
            in_method = True
            continue
        told = _SERVES.match(line)
        if told and not serves and not in_method:
            serves = told[1]
        elif in_method or _is_step(line):
            in_method = in_method or bool(pieces)
            method += _sentences(_STEP.sub("", line))
        elif not name and not pieces and (not _starts_with_amount(line) or _is_title(line)):
            name = line[:MAX_NAME]
        else:
            here, rest = _split(line)
            pieces += here
            method += rest
    if not any(_starts_with_amount(piece) for piece in pieces):
        raise BadFormula(
            "text",
            "this",
            "says nowhere how much of what",
            "Write one thing a line, as “500 ml whole milk”, with the method below.",
        )
    if len(pieces) > MAX_LINES:
        raise BadFormula("text", f"{len(pieces)} lines", f"are more than the {MAX_LINES} a formula has")
    return ReadRecipe(
        name=name or UNNAMED,
        lines=tuple(settle(_in_figures(piece), eggs, measures, piece) for piece in pieces),
        method=tuple(method[:MAX_STEPS]),
        serves=serves,
        formula=None,
    )


def _is_step(line: str) -> bool:
    """Whether a line tells what to do rather than what to weigh."""
    if _STEP.match(line):
        return not _starts_with_amount(_STEP.sub("", line)) or line[0].isalpha()
    first = line.split(maxsplit=1)[0].strip(",.:;").lower()
    return first in _VERBS or (len(line) > LONG_LINE and not _starts_with_amount(line))


def _is_title(line: str) -> bool:
    """Whether a first line that begins like an amount names the dish, as "The best custard" does."""
    if _AMOUNT.match(line) or len(line) > LONG_TITLE or _MEASURED.search(line):
        return False
    return bool(_DISH.search(line)) or (_THE.match(line) is not None and not _PART.match(line))


def _starts_with_amount(piece: str) -> bool:
    return bool(_AMOUNT.match(piece) or _VAGUE.match(piece))


def _split(line: str) -> tuple[list[str], list[str]]:
    """The things a line names, and what it says after them about what to do."""
    words, _, after = line.partition(". ")
    told = _sentences(after) if after and after.split()[0].strip(",.").lower() in _VERBS else []
    if after and not told:
        words = line
    pieces = [piece.strip(" .,;") for piece in _PIECES.split(words) if piece and piece.strip(" .,;")]
    return pieces, told


def _sentences(text: str) -> list[str]:
    """A text sentence by sentence."""
    return [part.strip() for part in re.split(r"(?<=[.!])\s+(?=[A-Z])", text) if part.strip()]


def _in_figures(piece: str) -> str:
    """Number words as figures: "five yolks" is "5 yolks", "half a cup" is "1/2 cup"."""
    plain = re.sub(r"^(?:about|approx\.?|ca\.?)\s+", "", piece, flags=re.IGNORECASE)
    words = plain.split()
    if not words or words[0].lower() not in _NUMBER_WORDS:
        return plain
    rest = words[1:]
    if words[0].lower() == "half" and rest[:1] and rest[0].lower() in ("a", "an"):
        rest = rest[1:]
    return " ".join([_NUMBER_WORDS[words[0].lower()], *rest])
