"""The published schema of the batch format."""

from __future__ import annotations

from typing import Any

from custard.formats.batch_json import (
    COLDEST_C,
    EARLIEST_S,
    FORMAT,
    HOTTEST_C,
    LATEST_S,
    MOST,
    MOST_TEXT,
    VERSION,
)
from custard.formats.kept_batch import PROBE_ERROR_K
from custard.vocabulary import Coat, FingerLine, SieveFound, Verdict

_TEXT = {"type": "string", "maxLength": MOST_TEXT}
_FLAG = {"type": "boolean", "default": False}
_SECONDS = {"type": "number", "minimum": EARLIEST_S, "maximum": LATEST_S}
_CELSIUS = {"type": "number", "minimum": COLDEST_C, "maximum": HOTTEST_C}


def _number(low: float, high: float, default: float | None = None) -> dict[str, Any]:
    found: dict[str, Any] = {"type": "number", "minimum": low, "maximum": high}
    return found if default is None else {**found, "default": default}


def _or_null(kind: dict[str, Any]) -> dict[str, Any]:
    return {"oneOf": [kind, {"type": "null"}]}


def _word(words: Any) -> dict[str, Any]:
    return {"enum": ["", *(str(word) for word in words)]}


def _object(properties: dict[str, Any], required: tuple[str, ...] = ()) -> dict[str, Any]:
    found: dict[str, Any] = {"type": "object", "additionalProperties": False, "properties": properties}
    return {**found, "required": list(required)} if required else found


def _named(properties: dict[str, Any]) -> dict[str, Any]:
    """A thing that was used: its name alone, or all that is known of it."""
    return {"oneOf": [_TEXT, _object(properties), {"type": "null"}]}


def batch_schema(formula: dict[str, Any]) -> dict[str, Any]:
    """The schema of version 2 of the batch format.

    Parameters
    ----------
    formula : the schema of the formula format, for the formula in it.
    """
    inside = {key: part for key, part in formula.items() if key != "$schema"}
    mark = {
        "at_s": _SECONDS,
        "kind": _TEXT,
        "stage": _TEXT,
        "what": _TEXT,
        "temperature_c": _or_null(_CELSIUS),
        "coat": _word(Coat),
        "line": _word(FingerLine),
        "sieve": _word(SieveFound),
        "grams": _or_null(_number(0, 1e6)),
        "note": _TEXT,
    }
    properties = {
        "format": {"const": FORMAT},
        "version": {"const": VERSION},
        "formula": inside,
        "number": _or_null({"type": "integer", "minimum": 0}),
        "started_at": {**_TEXT, "description": "a day or a time, as ISO 8601 writes it"},
        "altitude_m": _number(-500, 6000, 0),
        "rule": {**_TEXT, "description": "the kitchen's cooling rule; empty for the usual"},
        "eggs": _or_null(_TEXT),
        "egg_source": {**_TEXT, "description": "whose eggs, in the kitchen's words"},
        "hob": _named(
            {"name": _TEXT, "power_w": _or_null(_number(1, 1e5)), "spread": _or_null(_number(0, 3))}
        ),
        "pan": {
            "oneOf": [
                {**_TEXT, "description": "its kind alone"},
                _object(
                    {
                        "name": _TEXT,
                        "kind": {**_TEXT, "default": "clad"},
                        "share": _number(0.05, 20, 1),
                        "spread": _or_null(_number(0, 3)),
                    }
                ),
                {"type": "null"},
            ]
        },
        "probe": _named(
            {
                "name": _TEXT,
                "lag_s": _number(0.1, 120, 4),
                "reads_high_k": _number(-20, 20, 0),
                "error_k": _number(0, 20, PROBE_ERROR_K),
                "checked_on": _TEXT,
            }
        ),
        "over_steam": _FLAG,
        "stir": {**_TEXT, "default": "whisk"},
        "hold_s": _or_null(_number(0, 7200)),
        "cups": _or_null({"type": "object"}),
        "learned": _object(
            {"set_k": _number(-10, 10, 0), "carry_over": _number(0.1, 10, 1), "left": _number(0.1, 10, 1)}
        ),
        "plan": _object(
            {
                "lift_c": _or_null(_CELSIUS),
                "lands_c": _or_null(_CELSIUS),
                "coat": _TEXT,
                "yield_g": _or_null(_number(0, 1e6)),
            }
        ),
        "readings": {
            "description": "seconds since the mix was in the pan, and degrees Celsius as the probe gave them",
            "type": "array",
            "maxItems": MOST,
            "items": {"type": "array", "prefixItems": [_SECONDS, _CELSIUS], "minItems": 2, "maxItems": 2},
        },
        "marks": {"type": "array", "maxItems": MOST, "items": _object(mark, ("at_s", "kind"))},
        "yield_g": _or_null(_number(0, 1e6)),
        "verdict": _word(Verdict),
        "verdict_note": _TEXT,
        "odd": {**_FLAG, "description": "somebody said that nothing is to be learned of it"},
        "rehearsal": {**_FLAG, "description": "cooked at no stove"},
    }
    return {
        "$schema": formula["$schema"],
        "title": f"Old Spoon batch, version {VERSION}",
        **_object(properties, ("format", "version", "formula")),
    }
