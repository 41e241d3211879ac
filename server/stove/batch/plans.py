"""The plan a batch keeps: a versioned document, with a reader for every version there ever was.

What was told to a cook stays as it was told, however the API that shows it changes.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import Any

import custard
from book import reads as book
from custard.vocabulary import StageName

FORMAT = "old-spoon/plan"
VERSION = 6


class UnknownPlan(ValueError):
    """A plan of a version that this program does not know; a newer one may."""


def write(plan: custard.stove.Overview) -> dict[str, Any]:
    """A plan as it is kept."""
    return {"format": FORMAT, "version": VERSION, **book.OVERVIEW.dump_python(plan, mode="json")}


def read(kept: Mapping[str, Any]) -> custard.stove.Overview:
    """A plan as it was kept, in today's shape.

    Raises
    ------
    UnknownPlan
        when it is of a version that is not known here.
    """
    version = kept.get("version", 1)
    if version not in _READERS:
        raise UnknownPlan(f"a plan of version {version} is newer than this program")
    body = {name: part for name, part in kept.items() if name not in ("format", "version")}
    return book.OVERVIEW.validate_python(_READERS[version](body))


def by_hob_and_pan(plan: custard.stove.Overview, lift: Mapping[str, Any] | None) -> custard.stove.Overview:
    """A plan with its number to lift at, and what is said of it, as the chosen hob and pan want it.

    The plan itself stays as it was kept.
    """
    if lift is None:
        return plan
    stages = [
        replace(stage, at_c=lift["at_c"], say=_said_at(stage.say, stage.at_c, lift["at_c"]))
        if stage.stage == StageName.COOK and stage.at_c is not None
        else stage
        for stage in plan.stages
    ]
    return replace(plan, stages=tuple(stages))


def by_cooling(plan: custard.stove.Overview, cooling: Mapping[str, Any] | None) -> custard.stove.Overview:
    """A plan whose stage of cooling is said for what was chosen: no ice where none is used."""
    if cooling is None or cooling["ways"][0]["by"] == "ice-bath":
        return plan
    elsewhere = custard.stove.stage_words("chill.elsewhere")["say"]
    ice = custard.stove.stage_words("chill.ice")["say"].partition("{")[0]
    stages = [
        replace(stage, say=elsewhere)
        if stage.stage == StageName.CHILL and stage.say.startswith(ice)
        else stage
        for stage in plan.stages
    ]
    return replace(plan, stages=tuple(stages))


def _said_at(text: str, planned_c: float, at_c: float) -> str:
    return text.replace(f"{{{planned_c:.1f} C}}", f"{{{at_c:.1f} C}}")


def _sixth(body: dict[str, Any]) -> dict[str, Any]:
    return body


def _fifth(body: dict[str, Any]) -> dict[str, Any]:
    """Nothing was learned of sauces yet."""
    return _sixth({**body, "learned": None})


def _fourth(body: dict[str, Any]) -> dict[str, Any]:
    """A stage had no label, nor a name for what is typed at its end."""
    records = custard.stove.stage_records()
    stages = [
        {**stage, "label": records[stage["stage"]].label, "typed": records[stage["stage"]].typed}
        for stage in body["stages"]
    ]
    return _fifth({**body, "stages": stages})


def _third(body: dict[str, Any]) -> dict[str, Any]:
    """Every foam was served at once: it was told so."""
    served = any(stage["say"].startswith("Serve at once") for stage in body["stages"])
    return _fourth({**body, "served_at_once": served})


def _second(body: dict[str, Any]) -> dict[str, Any]:
    """Everything was weighed into one bowl, and nothing was said of what joins after the heat."""
    whole = {"laid": "pan", "share": 1.0}
    slip = [{**line, **whole, "line": place} for place, line in enumerate(body["slip"])]
    return _third({**body, "slip": slip})


def _first(body: dict[str, Any]) -> dict[str, Any]:
    """Signs had no names yet: they are known by their place."""
    stages = [
        {**stage, "signs": [{"sign": str(line), "text": text} for line, text in enumerate(stage["signs"])]}
        for stage in body["stages"]
    ]
    return _second({**body, "stages": stages})


_READERS: Mapping[int, Callable[[dict[str, Any]], dict[str, Any]]] = {
    1: _first,
    2: _second,
    3: _third,
    4: _fourth,
    5: _fifth,
    6: _sixth,
}
