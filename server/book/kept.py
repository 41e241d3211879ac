"""Lines of the Book, computed once for a mix under some conditions and kept for everyone."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterable, Mapping
from typing import Any

import custard

from book.models import FormulaVersion, KeptLine
from book.schemas import ComputedLine

SHAPE = 3
"""To be raised when `ComputedLine` or what goes into it changes."""


def content_sum(content: Mapping[str, Any]) -> str:
    """The sum of what a mix is made of; its name is no part of it."""
    return _sum({name: part for name, part in content.items() if name != "name"})


def under(conditions: custard.Conditions) -> str:
    """The sum of everything else that a line is computed from."""
    return _sum([SHAPE, conditions.as_json(), conditions.parameters.version])


def _sum(what: object) -> str:
    return hashlib.sha256(json.dumps(what, sort_keys=True).encode()).hexdigest()


def lines(versions: Iterable[FormulaVersion], conditions: custard.Conditions) -> dict[str, ComputedLine]:
    """The computed part of the Book's lines by the sum of their content: kept ones fetched in one query, the
    others computed now and kept."""
    wanted = {version.content_sum: version.content for version in versions}
    where = under(conditions)
    kept = KeptLine.objects.filter(under=where, content_sum__in=wanted)
    found = {row.content_sum: ComputedLine.model_validate(row.document) for row in kept}
    new = {key: compute(content, conditions) for key, content in wanted.items() if key not in found}
    KeptLine.objects.bulk_create(
        [
            KeptLine(content_sum=key, under=where, word=line.hot.word, document=line.model_dump(mode="json"))
            for key, line in new.items()
        ],
        ignore_conflicts=True,
    )
    return found | new


def compute(content: Mapping[str, Any], conditions: custard.Conditions) -> ComputedLine:
    """What the Book shows of one mix."""
    result = custard.assess(custard.read_formula(content), conditions)
    yolk = result.yolk_g_per_l
    return ComputedLine(
        mass_g=round(result.weighed_g, 1),
        yolks=round(result.formula.yolks(), 2),
        yolk_g_per_l=None if yolk is None else round(yolk, 1),
        boiling_c=round(result.boiling_c, 2),
        stop_c=round(result.stop.at_c, 2),
        window=custard.plain(result.window),
        hot=custard.plain(result.hot),
        cold=custard.plain(result.cold),
        starch_percent=round(result.whole.starch_in_aqueous_percent, 2),
        keeps_days=result.keeping.days,
    )
