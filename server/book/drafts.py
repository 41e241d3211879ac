"""A formula as someone is typing it: read whole, with every bad line named at once."""

from __future__ import annotations

from typing import Any

import custard
from common.refusals import Refusal

from book.schemas import Draft, LineDraft


def read_draft(content: dict[str, Any]) -> custard.Formula:
    """The formula a draft means.

    Raises
    ------
    Refusal
        422, naming every field that cannot be used, so that all can be mended in one go.
    """
    bad: list[tuple[str, str]] = []
    lines = []
    for index, line in enumerate(content["lines"]):
        try:
            lines.append(_read_line(content, line))
        except custard.CustardError as error:
            bad.append((error.at(f"lines[{index}]").field, error.sentence()))
    try:
        formula = custard.Formula(
            name=content["name"],
            family=content["family"],
            eggs=content["eggs"],
            measures=content["measures"],
            lines=tuple(lines),
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
    )


def _read_line(content: dict[str, Any], line: dict[str, Any]) -> custard.Line:
    read = custard.formats.read_line(line)
    custard.quantities.grams(
        read.quantity, read.ingredient, custard.larder.egg_size(content["eggs"]), content["measures"]
    )
    return read


def _sentence(count: int) -> str:
    return "One field needs changing." if count == 1 else f"{count} fields need changing."
