"""Recipes from outside: a pasted text, a page or a file, read into lines to settle. Nothing here writes."""

from __future__ import annotations

import json
import re
from collections.abc import Sequence
from typing import Any

import custard
from book import reads as book
from book.drafts import draft_of
from book.schemas import CardDraft
from common import database
from common.decoding import decoded
from common.refusals import Refusal
from kitchen import reads
from kitchen.access import Actor
from kitchen.models import OwnIngredient

from bench.schemas import (
    Bundle,
    BundledOut,
    ImportOut,
    ReadLineOut,
    ReadOption,
    ReadSetting,
    ReadStep,
)

BOXES = re.compile(r"\s*\[[ xX✓]?\]")
"""A box before each line, as in a list to be ticked."""


def imported(actor: Actor, text: str, doubtful: Sequence[str] | None = None) -> ImportOut:
    """What a pasted or chosen text says: our own formula whole, or a recipe's lines to settle.

    `doubtful` are the lines that were hard to read, where the text was read from a picture.

    Raises
    ------
    Refusal, CustardError
        when it is none of these.
    """
    data = _json(text)
    if isinstance(data, dict) and str(data.get("format", "")).startswith("old-spoon/"):
        formula = custard.read_formula(data)
        formula.weights_g()
        return _whole(formula, text)
    kitchen = actor.kitchen
    usual = custard.reading.Usual(kitchen.measures, eggs=kitchen.eggs, used=tuple(book.last_used(actor)))
    own = reads.own_ingredients(actor)
    database.release_connection()
    recipe = custard.reading.read(text, usual, doubtful)
    return ImportOut(
        name=recipe.name,
        text=recipe.text,
        draft=draft_of(recipe.formula) if recipe.formula else None,
        family=recipe.nearest,
        ours=bool(recipe.family),
        why=recipe.why,
        missing=recipe.missing,
        eggs=recipe.eggs,
        measures=recipe.measures,
        lines=[_own(_read_line(line), line.name, own) for line in recipe.lines],
        method=[
            ReadStep(
                text=step.text,
                settings=[ReadSetting(what=one.what, value=str(one.value)) for one in step.settings],
            )
            for step in recipe.method
        ],
        notes=list(recipe.notes),
        serves=recipe.serves,
        schools=custard.reading.schools_of(recipe),
        card=_card(recipe),
    )


def unbundled(wanted: Bundle) -> list[BundledOut]:
    """The texts that a file holds, one a recipe.

    Raises
    ------
    Refusal, CustardError
        when it is no base64, or a zip that is damaged or holds too much.
    """
    data = decoded(wanted.content, "This file did not arrive whole. Choose it again.")
    found = custard.reading.unbundle(wanted.name, data)
    return [BundledOut(name=one.name, text=one.text, why=one.why) for one in found]


def _whole(formula: custard.Formula, text: str) -> ImportOut:
    """Our own formula: nothing of it is to be settled."""
    return ImportOut(
        name=formula.name,
        text=text,
        draft=draft_of(formula),
        family=formula.family,
        ours=True,
        why="",
        missing="",
        eggs=formula.eggs,
        measures=formula.measures,
        lines=[],
        method=[],
        notes=[],
        serves="",
        schools={},
        card=None,
    )


def _card(recipe: custard.reading.Recipe) -> CardDraft | None:
    card = custard.reading.card_of(recipe)
    return CardDraft(**custard.formats.write_card(card)) if card else None


def _read_line(line: custard.reading.ReadLine) -> ReadLineOut:
    """A line as it was read, with what it may mean instead and what the model leaves out of it."""
    larder = custard.larder.all_ingredients()
    thing = larder.get(line.ingredient)
    return ReadLineOut(
        text=line.text,
        ingredient=line.ingredient,
        amount=line.amount,
        grams=line.grams,
        when=line.when,
        minutes=line.minutes,
        note=line.note,
        assumed=list(line.assumed),
        why=line.why,
        as_note=line.as_note,
        optional=line.optional,
        unmodelled="" if thing is None else thing.unmodelled,
        options=[
            ReadOption(ingredient=one.ingredient, name=larder[one.ingredient].name, amount=one.amount)
            for one in line.options
        ],
    )


def _own(line: ReadLineOut, name: str, own: Sequence[OwnIngredient]) -> ReadLineOut:
    """A line that names one of the kitchen's own ingredients; what the larder has is then an option."""
    folded = custard.reading.fold(name)
    named = [one for one in own if custard.reading.says(folded, (custard.reading.fold(one.name),))]
    best = max(named, key=lambda one: len(one.name), default=None)
    sure = bool(line.ingredient) and not line.assumed
    if best is None or line.as_note or (sure and folded != custard.reading.fold(best.name)):
        return line
    larder = custard.larder.all_ingredients()
    other = (
        [ReadOption(ingredient=line.ingredient, name=larder[line.ingredient].name, amount=line.amount)]
        if line.ingredient
        else []
    )
    return line.model_copy(
        update={
            "ingredient": f"own {best.pk}",
            "grams": None,
            "when": None,
            "minutes": None,
            "why": "" if line.amount else "say how much",
            "unmodelled": "",
            "assumed": [f"{name}: {best.name}, this kitchen’s own"],
            "options": [*other, *line.options],
        }
    )


def _json(text: str) -> Any:
    """What stands in a text as JSON; None for what is none. A list of boxes to tick begins with one, too."""
    if text.lstrip()[:1] not in ("{", "["):
        return None
    try:
        return json.loads(text)
    except (ValueError, RecursionError):
        if BOXES.match(text):
            return None
        raise Refusal(
            422,
            "This begins as JSON does, but is not: a part of it may be missing.",
            [("text", "is not JSON")],
        ) from None
