"""One line of a recipe: how much of which ingredient, what was assumed, and what stays open."""

from __future__ import annotations

import re
from dataclasses import replace

from custard.larder.ingredients import ingredient
from custard.reading.amounts import Amount, number_at
from custard.reading.dividing import divided, with_brackets
from custard.reading.fruit import of_fruit
from custard.reading.line import Option, Reader, ReadLine
from custard.reading.match import Hints, Match
from custard.reading.names import find, near
from custard.reading.parts import FOR_WHAT, parts_of
from custard.reading.tokens import fold, phrase_at, tidy, tokens
from custard.reading.weights import FEW_OF, weighed, weighed_as
from custard.reading.words import lists

_ONE_OF = {"vanilla-pod", "bay-leaf", "tonka-bean"}
"""What is used one at a time where a recipe gives no number."""
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
        for part in parts_of(tidy(text), reader)
        for line in _one(part, reader)
    )


def _one(text: str, reader: Reader) -> tuple[ReadLine, ...]:
    """One thing, or the two that a fruit or an egg is divided into."""
    fruit = of_fruit(text, reader)
    if fruit:
        return fruit
    line = _plain_line(text, reader)
    words = fold(text)
    apart = any(f" {word}" in f" {words}" for word in lists("amount")["separated"])
    if apart and line.ingredient == _EGG and line.amount and not line.amount.endswith(("g", "ml")):
        halves = []
        for name in (_YOLK, _WHITE):
            half = replace(line, ingredient=name, name=ingredient(name).name)
            said = (*line.assumed, "separated: yolks and whites are two lines")
            halves.append(weighed(replace(half, assumed=said, amount=line.amount.split()[0]), reader))
        return tuple(halves)
    return (line,)


def _plain_line(text: str, reader: Reader) -> ReadLine:
    inside = [part.strip() for part in BRACKETS.findall(text)]
    bare = " ".join(BRACKETS.sub(" ", text).split())
    optional = any(word in fold(text) for word in lists("amount")["optional"])
    amount, name, note = divided(bare, reader)
    amount, brackets = with_brackets(amount, inside, reader)
    notes = [part for part in (note, *brackets) if part]
    return _settled(text, amount, name, notes, optional, reader)


def _settled(
    text: str, amount: Amount | None, name: str, notes: list[str], optional: bool, reader: Reader
) -> ReadLine:
    """The line with its ingredient, and its weight where that can be known."""
    said = fold(text)
    hints = Hints(reader.language, reader.country, _counted_by(amount, reader), reader.used)
    match = find(name, hints)
    cut = FOR_WHAT.split(name, maxsplit=1)
    if len(cut) == 2 and match.words != fold(name) and (shorter := find(cut[0], hints)).id:
        match, name = shorter, cut[0]
        notes = [*notes, text[text.rfind(cut[1][:20]) - 5 :].strip() if cut[1][:20] in text else cut[1]]
    percents = [note for note in notes if "%" in note]
    if percents and match.id:
        match = _better(match, find(f"{name} {percents[0]}", hints))
    if not match.id and notes:
        match = _better(match, find(f"{name} {notes[0]}", hints))
    if not match.options and (match.assumed or not match.id):
        others = tuple(one for one in near(fold(name)) if one != match.id)
        match = replace(match, options=others)
    line = ReadLine(
        text, match.id, name, note=", ".join(notes), assumed=match.assumed, optional=optional,
        options=tuple(Option(one, "") for one in match.options),
    )  # fmt: skip
    free = any(f" {phrase} " in f" {said} " for phrase in lists("amount")["no_weight"])
    if phrase_at(tokens(text), 0, lists("amount")["no_weight"]) and amount is not None and not amount.unit:
        # "A little salt": its "a" is no number.
        amount = None
    if amount is None and match.id in _ONE_OF and not free:
        count = _number_within(name, reader)
        line = replace(line, assumed=(*match.assumed, "one of it") if count == 1 else match.assumed)
        return weighed_as(line, Amount(count), match, reader)
    if amount is None and (free or not match.id or optional):
        if match.id and free:
            return replace(line, as_note=True, assumed=(), note=line.note or text)
        if not match.id:
            return replace(line, why="say which ingredient this is, and how much")
    if not match.id:
        shown = "" if amount is None else amount.text()
        line = replace(line, amount=shown, why="say which ingredient this is")
        return replace(line, options=tuple(Option(one, shown) for one in (match.options or near(name))))
    if amount is None:
        return _without(line, match, reader)
    return weighed_as(line, amount, match, reader)


def _number_within(name: str, reader: Reader) -> float:
    """The number that stands within a name, "the seeds of half a vanilla pod"; 1 where none does."""
    found = tokens(tidy(name))
    read = (number_at(found, at, reader.language) for at in range(len(found)))
    return next((one[0] for one in read if one is not None and one[0] != 1), 1.0)


def _better(first: Match, second: Match) -> Match:
    return second if second.id and second.id != first.id else first


def _counted_by(amount: Amount | None, reader: Reader) -> str:
    """How a recipe measures a thing, as the table of choices asks."""
    if amount is None:
        return ""
    if amount.piece:
        packet = amount.piece in (
            "packet",
            "packets",
            "envelope",
            "envelopes",
            "sachet",
            "sachets",
            "bustina",
        )
        return "packet" if packet else "piece"
    if amount.unit in ("tsp", "tbsp", "dsp", "pinch"):
        return "spoon"
    if amount.weighed or (not amount.unit and reader.unit == "g" and amount.number > FEW_OF["pod"]):
        return "g"
    return "" if amount.unit else "piece"


def _without(line: ReadLine, match: Match, reader: Reader) -> ReadLine:
    """A line that gives no amount: one piece where that is how it comes, else open."""
    if match.id in ("salt", "ground-spice"):
        return replace(line, as_note=True, note=line.note or line.text)
    options = tuple(Option(one, _usual(one)) for one in (match.id, *match.options))
    return replace(line, why="say how much", options=options)


def _usual(name: str) -> str:
    """An amount to offer where a recipe gives none."""
    offers = {
        "vanilla-pod": "1", "vanilla-extract": "1 tsp", "vanilla-paste": "1 tsp", "salt": "1 pinch",
        "vanilla-sugar": "8 g", "vanilla-powder": "1 g", "butter-unsalted": "15 g",
    }  # fmt: skip
    return offers.get(name, "")
