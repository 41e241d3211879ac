"""A formula as someone is typing it: read whole, with every bad line named at once."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar

import custard
from common.refusals import Refusal

from book.schemas import CardDraft, DestinationDraft, Draft, LineDraft, WorkDraft

Part = TypeVar("Part")


def read_draft(content: dict[str, Any]) -> custard.Formula:
    """The formula a draft means.

    Raises
    ------
    Refusal
        422, naming every field that cannot be used, so that all can be mended in one go.
    """
    bad: list[tuple[str, str]] = []

    def each(field: str, read: Callable[[dict[str, Any]], Part]) -> tuple[Part, ...]:
        found = []
        for index, part in enumerate(content.get(field, [])):
            try:
                found.append(read(part))
            except custard.CustardError as error:
                bad.append((error.at(f"{field}[{index}]").field, error.sentence()))
        return tuple(found)

    lines = each("lines", lambda line: _read_line(content, line))
    destinations = each("destinations", lambda one: _read_destination(content, one))
    other_work = each("other_work", custard.formats.read_work)
    try:
        formula = custard.Formula(
            name=content["name"],
            family=content["family"],
            eggs=content["eggs"],
            measures=content["measures"],
            lines=lines,
            destinations=destinations,
            other_work=other_work,
            card=custard.formats.read_card(content.get("card")),
        )
        if not bad:
            formula.weights_g()
    except custard.CustardError as error:
        if not (bad and error.field == "lines"):
            bad.insert(0, (error.field, error.sentence()))
    if bad:
        raise Refusal(422, _sentence(len(bad)), bad)
    return formula


def draft_of(formula: custard.Formula) -> Draft:
    """A formula as a draft to be typed on."""
    content = custard.write_formula(formula)
    return Draft(
        **{key: content[key] for key in ("name", "family", "eggs", "measures")},
        lines=[LineDraft(**line) for line in content["lines"]],
        destinations=[DestinationDraft(**one) for one in content.get("destinations", [])],
        other_work=[WorkDraft(**one) for one in content.get("other_work", [])],
        card=CardDraft(**content["card"]) if "card" in content else None,
    )


def _read_line(content: dict[str, Any], line: dict[str, Any]) -> custard.Line:
    read = custard.formats.read_line(line, content["family"])
    custard.quantities.grams(
        read.quantity, read.ingredient, custard.larder.egg_size(content["eggs"]), content["measures"]
    )
    return read


def _read_destination(content: dict[str, Any], one: dict[str, Any]) -> custard.Destination:
    read = custard.formats.read_destination(one)
    read.each(content["measures"])
    return read


def _sentence(count: int) -> str:
    return "One field needs changing." if count == 1 else f"{count} fields need changing."
