"""A whole recipe as it was read: its lines, its family, its method and what it decides."""

from __future__ import annotations

import json
import re
from collections.abc import Sequence
from dataclasses import dataclass, replace

from custard.errors import BadFormula
from custard.formats.recipe_jsonld import Written, carried_formula, written_recipe
from custard.formula import MAX_LINES, Formula
from custard.larder.families import all_families
from custard.quantities import MEASURES
from custard.reading import families, layout
from custard.reading.language import country_of, language_of
from custard.reading.line import Reader, ReadLine
from custard.reading.lines import read_line
from custard.reading.method import Setting, Step, boiled_for, cooked_to, steps, sugar_school
from custard.reading.moments import joined
from custard.reading.page import words_of_page
from custard.reading.preamble import plain_symbols
from custard.reading.sentences import sentences
from custard.reading.weights import in_proportion
from custard.reading.words import LANGUAGES

WHOSE = {"us": "American", "uk": "British", "au": "Australian", "metric": "metric", "imperial": "imperial"}
HELD_S = 45.0
"""A boil this long is held."""
FROM_PICTURE = "read from the picture"
HARD_TO_READ = "hard to read in the picture: compare"
SHOWN_CHARS = 40
"""So much of a text is shown where it is refused."""
UNNAMED = "A recipe without a name"
PAGE = re.compile(r"<(?:html|script|body|!doctype|div|table|ul|p)\b", re.IGNORECASE)
_SCRIPT = re.compile(r"<script[^>]*ld\+json[^>]*>(.*?)</script>", re.IGNORECASE | re.DOTALL)
_CONTROL = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f\x7f\u200b-\u200f\u202a-\u202e\u2060\ufeff]")


@dataclass(frozen=True, slots=True)
class Usual:
    """What a kitchen usually means; what a recipe says itself goes before it.

    Attributes
    ----------
    measures : whose cup and pint are meant where the recipe does not tell; None to go by the recipe alone.
    fixed : whether `measures` goes before the recipe's own words.
    eggs : the size class that a count of eggs means.
    language : of the recipe; None to find it.
    used : ingredients that the kitchen used last, the latest first.
    """

    measures: str | None = None
    fixed: bool = False
    eggs: str = "EU-M"
    language: str | None = None
    used: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Recipe:
    """A recipe as it was read.

    Attributes
    ----------
    family : the id of its family; empty where it is outside the ten families.
    nearest : the family that it is computed as.
    why, missing : the reason for the family, and what will not be computed.
    serves : for how many, in the recipe's words.
    method : its sentences with what each decides.
    settings : what the whole method decides, each once.
    notes : what is neither title, line nor method.
    language, country, measures : as found or given.
    formula : our own formula, where the recipe carries it whole.
    text : as it was given; of a page or a file for machines, what a person reads of it.
    """

    name: str
    family: str
    nearest: str
    why: str
    missing: str
    serves: str
    lines: tuple[ReadLine, ...]
    method: tuple[Step, ...]
    settings: tuple[Setting, ...]
    notes: tuple[str, ...]
    language: str
    country: str
    measures: str
    eggs: str
    formula: Formula | None
    text: str


def read(text: str, usual: Usual | None = None, doubtful: Sequence[str] | None = None) -> Recipe:
    """A recipe from plain text, a table, a saved page or schema.org JSON.

    Parameters
    ----------
    text : as it was pasted or saved; at most a megabyte.
    usual : what the kitchen usually means.
    doubtful : of a text that was read from a picture, the lines that were hard to read. None of its lines is
        sure: a picture's 6 may be an 8. None for a text that was typed.

    Returns
    -------
    every line of the recipe, with what was assumed and what is open.

    Raises
    ------
    BadFormula
        where the text holds no recipe at all, is too long, or has more lines than a formula takes.

    >>> recipe = read("Custard\\n500 ml whole milk\\n6 egg yolks (110 g)\\n90 g caster sugar")
    >>> [(line.ingredient, line.amount, line.sure) for line in recipe.lines]
    [('whole-milk', '500 ml', True), ('egg-yolk', '110 g', True), ('white-sugar', '90 g', True)]
    """
    usual = usual or Usual()
    if len(text) > layout.MAX_TEXT:
        raise BadFormula(
            "text", f"{len(text)} characters", f"are more than the {layout.MAX_TEXT} that are read"
        )
    clean = _CONTROL.sub(
        "", plain_symbols(text).replace("\u00a0", " ").replace("\u202f", " ").replace("\u2028", "\n")
    )
    written = _structured(clean)
    if written is not None:
        clean = text = "\n".join((written.name, *written.lines, *written.method))
    elif PAGE.search(clean[:20_000]):
        clean = text = words_of_page(clean)
    language = usual.language or language_of(clean)
    if language not in LANGUAGES:
        raise BadFormula("language", language, "is not read", f"Write {', '.join(LANGUAGES)}.")
    country = country_of(clean, language)
    laid = layout.lay_out(clean, language) if written is None else _laid(written)
    reader = _reader(usual, language, country, laid)
    lines = tuple(
        line for text, section in laid.lines[: MAX_LINES + 1] for line in read_line(text, reader, section)
    )
    lines = in_proportion(lines, reader)
    if not any(line.ingredient or line.amount for line in lines):
        raise BadFormula(
            "text", " ".join(text.split())[:SHOWN_CHARS], "holds no recipe that can be read",
            "Write one thing a line, as “500 ml whole milk”, with the method below.",
        )  # fmt: skip
    if len(lines) > MAX_LINES:
        raise BadFormula("text", f"{len(lines)} lines", f"are more than the {MAX_LINES} a formula has")
    if doubtful is not None:
        lines = tuple(_from_picture(line, doubtful) for line in lines)
    formula = None if written is None else carried_formula(written)
    return _whole(text, laid, lines, reader, formula)


def _structured(text: str) -> Written | None:
    """The recipe that a page or a file carries for machines to read; None where it carries none."""
    found = []
    bodies = _SCRIPT.findall(text) if "<" in text[:5000] else []
    stripped = text.strip()
    if stripped[:1] in "{[":
        bodies = [stripped]
    for body in bodies:
        try:
            found.append(json.loads(body))
        except (ValueError, RecursionError):
            continue
    return written_recipe(found) if found else None


def _from_picture(line: ReadLine, doubtful: Sequence[str]) -> ReadLine:
    hard = any(line.text and line.text in one for one in doubtful)
    return replace(line, assumed=(*line.assumed, HARD_TO_READ if hard else FROM_PICTURE))


def _laid(written: Written) -> layout.Layout:
    lines = tuple((line, "") for line in written.lines)
    method = tuple(part for step in written.method for part in sentences(step))
    return layout.Layout(written.name, written.serves, lines, method, (), "", 1.0)


def _reader(usual: Usual, language: str, country: str, laid: layout.Layout) -> Reader:
    """How the lines are read: whose cup and pint, and what is assumed of them."""
    by_country = {"us": "us", "au": "au", "uk": "metric"}
    guessed = ""
    if usual.fixed and usual.measures:
        measures = usual.measures
    elif country:
        measures = by_country[country]
        guessed = f"{WHOSE[country]} measures, by the words of the recipe"
    elif language != "en":
        measures = "metric"
    else:
        measures = usual.measures or "us"
        guessed = f"{WHOSE[measures]} measures, as nothing tells"
    if measures not in MEASURES:
        raise BadFormula("measures", measures, "is not a set of measures", f"Write {', '.join(MEASURES)}.")
    where = country or {"us": "us", "au": "au"}.get(measures, "")
    return Reader(
        language, where, measures, guessed, usual.eggs, laid.unit, laid.scale,
        tuple(one for one in usual.used if one),
    )  # fmt: skip


def _whole(
    text: str, laid: layout.Layout, lines: Sequence[ReadLine], reader: Reader, formula: Formula | None
) -> Recipe:
    method = steps(laid.method)
    found = families.family_of(laid.name, lines, method)
    family = all_families()[found.nearest]
    with_moments = joined(lines, laid.method, family)
    settings: dict[str, Setting] = {}
    for step in method:
        for setting in step.settings:
            settings.setdefault(setting.what, setting)
    for what, of_the_sauce in (("cook_to_c", cooked_to(method)), ("boil_s", boiled_for(method))):
        settings.pop(what, None)
        if of_the_sauce is not None:
            settings[what] = of_the_sauce
    school = sugar_school(with_moments, laid.method)
    if school is not None:
        settings["sugar"] = school
        method = tuple(
            replace(step, settings=(*step.settings, school)) if step.text == school.sentence else step
            for step in method
        )
    return Recipe(
        name=laid.name or UNNAMED,
        family=found.family,
        nearest=found.nearest,
        why=found.why,
        missing=found.missing,
        serves=laid.serves,
        lines=with_moments,
        method=method,
        settings=tuple(settings.values()),
        notes=laid.notes,
        language=reader.language,
        country=reader.country,
        measures=reader.measures,
        eggs=reader.eggs,
        formula=formula,
        text=text,
    )


def schools_of(recipe: Recipe) -> dict[str, str]:
    """The schools that the method of a recipe follows, by question; what it does not tell is left out.

    Parameters
    ----------
    recipe : as it was read.
    """
    values = {setting.what: setting.value for setting in recipe.settings}
    found: dict[str, str] = {}
    for question in ("temper", "sugar", "heat", "sieve"):
        if question in values:
            found[question] = str(values[question])
    if values.get("together") == "cold":
        found["temper"] = "none"
    seconds = values.get("boil_s")
    if isinstance(seconds, float | int):
        found["boil"] = "held" if seconds >= HELD_S else "first"
    return found
