"""One line of a recipe: how much of which ingredient, what was assumed, and what stays open."""

from __future__ import annotations

import re
from dataclasses import replace

from custard.larder.ingredients import ingredient
from custard.reading.amounts import Amount, amount_at, number_at
from custard.reading.dividing import divided, with_brackets
from custard.reading.fruit import of_fruit
from custard.reading.line import Option, Reader, ReadLine
from custard.reading.match import Hints, Match
from custard.reading.names import find, near
from custard.reading.parts import FOR_WHAT, parts_of, without_amount
from custard.reading.tokens import Kind, fold, phrase_at, says, tidy, tokens
from custard.reading.weights import FEW_OF, weighed, weighed_as
from custard.reading.words import lists

_ONE_OF = {"vanilla-pod", "bay-leaf", "tonka-bean"}
"""What is used one at a time where a recipe gives no number."""
_BY_TASTE = {"salt", "ground-spice"}
"""What is seasoned with: without an amount it stays a note."""
_OFFERED = {
    "vanilla-pod": "1",
    "vanilla-extract": "1 tsp",
    "vanilla-paste": "1 tsp",
    "vanilla-sugar": "8 g",
    "vanilla-powder": "1 g",
    "butter-unsalted": "15 g",
}
"""An amount to offer where a recipe gives none."""
_SPOON_OF = re.compile(
    r"\b(colher(?:es)?|x[ií]caras?)\s*\((?:de\s+)?(sopa|ch[aá]|sobremesa|caf[eé])\)", re.IGNORECASE
)
"""The kind of a spoon in brackets, as Brazil writes it: "1 colher (chá)"."""
BRACKETS = re.compile(r"[(\[]([^()\[\]]*)[)\]]")
_YOLK, _WHITE, _EGG = "egg-yolk", "egg-white", "whole-egg"


def read_line(text: str, reader: Reader, section: str = "") -> tuple[ReadLine, ...]:
    """What a line of ingredients says; more than one where it names several things.

    Parameters
    ----------
    text : one line of a recipe.
    reader : language, measures, eggs and what the kitchen uses.
    section : the heading above it.
    """
    return tuple(
        replace(line, text=text, section=fold(section))
        for part in parts_of(_SPOON_OF.sub(r"\1 de \2", tidy(text)), reader)
        for line in _one(part, reader)
    )


def _one(text: str, reader: Reader) -> tuple[ReadLine, ...]:
    """One thing, or the two that a fruit or an egg is divided into."""
    fruit = of_fruit(text, reader)
    if fruit:
        return fruit
    line = _one_part_of_the_egg(_plain_line(text, reader), reader)
    words = fold(text)
    apart = any(f" {word}" in f" {words}" for word in lists("amount")["separated"])
    if apart and line.ingredient == _EGG and line.amount and not line.amount.endswith(("g", "ml")):
        halves = []
        for name in (_YOLK, _WHITE):
            half = replace(line, ingredient=name, name=ingredient(name).name)
            assumed = (*line.assumed, "separated: yolks and whites are two lines")
            halves.append(weighed(replace(half, assumed=assumed, amount=line.amount.split()[0]), reader))
        return tuple(halves)
    return (line,)


def _one_part_of_the_egg(line: ReadLine, reader: Reader) -> ReadLine:
    """Eggs of which a recipe uses one part, "4 eggs (yolks only)", as so many of that part."""
    counted = line.ingredient == _EGG and line.amount.replace(".", "").isdigit()
    for name, words in ((_YOLK, "yolks_only"), (_WHITE, "whites_only")):
        if counted and _says(line.text, words):
            return weighed(replace(line, ingredient=name, name=ingredient(name).name), reader)
    return line


def _plain_line(text: str, reader: Reader) -> ReadLine:
    """One thing with its amount, as far as both can be known."""
    inside = [part.strip() for part in BRACKETS.findall(text)]
    bare = " ".join(BRACKETS.sub(" ", text).split())
    amount, name, note = divided(bare, reader)
    others = [part for part in inside if _of_another(part, name, reader) or _vaguer(part, amount, reader)]
    amount, brackets = with_brackets(amount, [part for part in inside if part not in others], reader)
    if amount is not None and not amount.unit and phrase_at(tokens(text), 0, lists("amount")["no_weight"]):
        # "A little salt": its "a" is no number.
        amount = None
    hints = Hints(reader.language, reader.country, _counted_by(amount, reader), reader.used)
    match, name, notes = _matched(name, [part for part in (note, *brackets, *others) if part], hints)
    line = ReadLine(
        text, match.id, name, note=", ".join(notes), assumed=match.assumed, optional=_says(text, "optional"),
        options=tuple(Option(one, "") for one in match.options),
    )  # fmt: skip
    if not match.id:
        return _unknown(line, amount)
    if amount is None:
        return _unmeasured(line, match, reader)
    return weighed_as(line, amount, match, reader)


def _of_another(part: str, name: str, reader: Reader) -> bool:
    """Whether brackets give the amount of another thing: "6 slices white bread, buttered (50 g butter)"."""
    rest = without_amount(tokens(part), reader)
    if len(rest) == len(tokens(part)):
        return False
    hints = Hints(reader.language, reader.country)
    inside = find(" ".join(token.text for token in rest if token.kind == Kind.WORD), hints)
    return bool(inside.id) and inside.id != find(name, hints).id and inside.words not in fold(name)


def _vaguer(part: str, amount: Amount | None, reader: Reader) -> bool:
    """Whether brackets measure in cups what is counted: "10 yolks (about 3/4 cup)"."""
    if amount is None or amount.unit or amount.piece:
        return False
    found = tokens(part)
    read = amount_at(found, phrase_at(found, 0, lists("amount")["about"]), reader.language)
    return read is not None and read[0].unit in ("cup", "tbsp", "tsp")


def _says(text: str, what: str) -> bool:
    """Whether a line has one of the phrases of a list."""
    return says(fold(text), lists("amount")[what])


def _matched(name: str, notes: list[str], hints: Hints) -> tuple[Match, str, list[str]]:
    """The ingredient that a name and its notes mean, with both as they are kept."""
    words = name.split()
    if (
        len(words) > 2
        and fold(words[0]) in lists("amount")["egg_parts"]
        and fold(words[1]) in lists("amount")["from_egg"]
    ):
        # "Yolks from large eggs"
        name = words[0]
    match = find(name, hints)
    cut = FOR_WHAT.split(name, maxsplit=1)
    if len(cut) == 2 and match.words != fold(name) and (shorter := find(cut[0], hints)).id:
        # "Sugar for the caramel" is sugar, not caramel.
        notes = [*notes, name[len(cut[0]) :].strip()]
        match, name = shorter, cut[0]
    if notes and match.assumed:
        # "Milk (semi)", "cream (double)"
        closer = find(f"{notes[0]} {name}", hints)
        match = closer if closer.id and not closer.assumed and fold(notes[0]) in closer.words else match
    telling = next(
        (note for note in notes if "%" in note or "bloom" in fold(note)),
        notes[0] if notes and not match.id else "",
    )
    if telling:
        closer = find(f"{name} {telling}", hints)
        match = closer if closer.id else match
    if not match.options and (match.assumed or not match.id):
        others = tuple(one for one in near(fold(name)) if one != match.id)
        match = replace(match, options=others)
    return match, name, notes


def _unknown(line: ReadLine, amount: Amount | None) -> ReadLine:
    """A line of nothing that we know: it is asked what it is."""
    if amount is None:
        return replace(line, why="say which ingredient this is, and how much")
    options = tuple(replace(one, amount=amount.text()) for one in line.options)
    return replace(line, amount=amount.text(), options=options, why="say which ingredient this is")


def _unmeasured(line: ReadLine, match: Match, reader: Reader) -> ReadLine:
    """A line that gives no amount: a note where it needs none, one where it comes singly, else open."""
    if _says(line.text, "no_weight") or match.id in _BY_TASTE:
        return replace(line, as_note=True, assumed=(), note=line.note or line.text)
    if match.id in _ONE_OF:
        count = _number_within(line.name, reader)
        single = replace(line, assumed=(*match.assumed, "one of it") if count == 1 else match.assumed)
        return weighed_as(single, Amount(count), match, reader)
    options = tuple(Option(one, _OFFERED.get(one, "")) for one in (match.id, *match.options))
    return replace(line, why="say how much", options=options)


def _number_within(name: str, reader: Reader) -> float:
    """The number that stands within a name, "the seeds of half a vanilla pod"; 1 where none does."""
    found = tokens(tidy(name))
    read = (number_at(found, at, reader.language) for at in range(len(found)))
    return next((one[0] for one in read if one is not None and one[0] != 1), 1.0)


def _counted_by(amount: Amount | None, reader: Reader) -> str:
    """How a recipe measures a thing, as the table of choices asks."""
    if amount is None:
        return ""
    if amount.piece:
        return "packet" if amount.piece in lists("line")["packets"] else "piece"
    if amount.unit in ("tsp", "tbsp", "dsp", "pinch"):
        return "spoon"
    if amount.weighed or (not amount.unit and reader.unit == "g" and amount.number > FEW_OF["pod"]):
        return "g"
    return "" if amount.unit else "piece"
