"""A batch as JSON: what it was made of, where, on what, and what happened to it. Strict in, faithful out."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass, fields
from typing import Any

from custard.errors import BadFormula, CustardError, within
from custard.formats.formula_json import read_formula, write_formula
from custard.formula import Formula

FORMAT, VERSION = "old-spoon/batch", 1
EARLIEST_S, LATEST_S = -86_400.0, 90 * 86_400.0
COLDEST_C, HOTTEST_C = -40.0, 250.0
MOST = 200_000


@dataclass(frozen=True)
class HappenedMark:
    """Something that happened.

    Attributes
    ----------
    at_s : seconds since the mix was in the pan, or the cups in the oven [s].
    kind : what, as "off-heat", "into-ice", "sieve", "hands-off", "stirring", "bubbles", "sugar-on", "film".
    stage, what : where in the work, and the word that goes with it; "" where there is none.
    temperature_c : what was read then [degC].
    """

    at_s: float
    kind: str
    stage: str = ""
    what: str = ""
    temperature_c: float | None = None


@dataclass(frozen=True)
class KeptBatch:
    """A batch as it is kept in a file.

    Attributes
    ----------
    altitude_m : height of the kitchen [m].
    pan, over_steam : what it was cooked on.
    readings : (seconds since it was in the pan [s], [degC]), in order.
    marks : in order.
    """

    formula: Formula
    altitude_m: float = 0.0
    pan: str = "clad"
    over_steam: bool = False
    readings: tuple[tuple[float, float], ...] = ()
    marks: tuple[HappenedMark, ...] = ()


def write_batch(batch: KeptBatch) -> dict[str, Any]:
    """A batch as plain data.

    Parameters
    ----------
    batch : a batch as it is kept.
    """
    return {
        "format": FORMAT,
        "version": VERSION,
        "formula": write_formula(batch.formula),
        "altitude_m": batch.altitude_m,
        "pan": batch.pan,
        "over_steam": batch.over_steam,
        "readings": [[t, c] for t, c in batch.readings],
        "marks": [asdict(mark) for mark in batch.marks],
    }


def read_batch(data: object) -> KeptBatch:
    """A batch from plain data.

    Parameters
    ----------
    data : plain data, as JSON has it.

    Raises
    ------
    CustardError
        naming the first key that cannot be used; nothing is guessed.
    """
    top = _object(data, "", ("format", "version", *(one.name for one in fields(KeptBatch))))
    if top.get("format") != FORMAT:
        raise BadFormula("format", top.get("format"), f"must be “{FORMAT}”")
    if top.get("version") != VERSION or isinstance(top.get("version"), bool):
        raise BadFormula("version", top.get("version"), f"must be {VERSION}")
    try:
        formula = read_formula(top.get("formula"))
    except CustardError as error:
        raise error.at("formula") from None
    steam = top.get("over_steam", False)
    if not isinstance(steam, bool):
        raise BadFormula("over_steam", steam, "must be true or false")
    readings = tuple(_reading(one, place) for place, one in enumerate(_list(top, "readings")))
    marks = tuple(_mark(one, f"marks[{place}]") for place, one in enumerate(_list(top, "marks")))
    return KeptBatch(
        formula=formula,
        altitude_m=_number(top.get("altitude_m", 0.0), "altitude_m", -500, 6000),
        pan=_text(top.get("pan", "clad"), "pan"),
        over_steam=steam,
        readings=tuple(sorted(readings)),
        marks=tuple(sorted(marks, key=lambda mark: mark.at_s)),
    )


def _reading(one: object, place: int) -> tuple[float, float]:
    field = f"readings[{place}]"
    if not isinstance(one, list) or len(one) != 2:
        raise BadFormula(field, one, "must be seconds and degrees Celsius, as [12, 71.4]")
    t, c = one
    return _number(t, field, EARLIEST_S, LATEST_S), _number(c, field, COLDEST_C, HOTTEST_C)


def _mark(one: object, field: str) -> HappenedMark:
    row = _object(one, field, tuple(part.name for part in fields(HappenedMark)))
    read_c = row.get("temperature_c")
    return HappenedMark(
        at_s=_number(row.get("at_s"), f"{field}.at_s", EARLIEST_S, LATEST_S),
        kind=_text(row.get("kind"), f"{field}.kind"),
        stage=_text(row.get("stage", ""), f"{field}.stage"),
        what=_text(row.get("what", ""), f"{field}.what"),
        temperature_c=None
        if read_c is None
        else _number(read_c, f"{field}.temperature_c", COLDEST_C, HOTTEST_C),
    )


def _object(data: object, field: str, keys: tuple[str, ...]) -> Mapping[str, Any]:
    if not isinstance(data, Mapping):
        raise BadFormula(field, data, "must be an object")
    for key in data:
        if key not in keys:
            at = f"{field}.{key}" if field else str(key)
            raise BadFormula(at, key, "is no key of a batch", f"Write {', '.join(keys)}.")
    return data


def _list(top: Mapping[str, Any], field: str) -> list[Any]:
    found = top.get(field, [])
    if not isinstance(found, list) or len(found) > MOST:
        raise BadFormula(field, type(found).__name__, f"must be a list of at most {MOST}")
    return found


def _text(value: object, field: str) -> str:
    if not isinstance(value, str) or len(value) > 500:
        raise BadFormula(field, value, "must be a text of at most 500 characters")
    return value


def _number(value: object, field: str, low: float, high: float) -> float:
    if isinstance(value, bool) or not isinstance(value, int | float):
        raise BadFormula(field, value, "must be a number")
    within(field, float(value), low, high)
    return float(value)


def batch_schema(formula: dict[str, Any]) -> dict[str, Any]:
    """The schema of the batch format; `formula` is that of the formula in it.

    Parameters
    ----------
    formula : the schema of the formula format.
    """
    seconds = {"type": "number", "minimum": EARLIEST_S, "maximum": LATEST_S}
    celsius = {"type": "number", "minimum": COLDEST_C, "maximum": HOTTEST_C}
    text = {"type": "string", "maxLength": 500}
    inside = {key: part for key, part in formula.items() if key != "$schema"}
    return {
        "$schema": formula["$schema"],
        "title": f"Old Spoon batch, version {VERSION}",
        "type": "object",
        "additionalProperties": False,
        "required": ["format", "version", "formula"],
        "properties": {
            "format": {"const": FORMAT},
            "version": {"const": VERSION},
            "formula": inside,
            "altitude_m": {"type": "number", "minimum": -500, "maximum": 6000, "default": 0},
            "pan": {**text, "default": "clad"},
            "over_steam": {"type": "boolean", "default": False},
            "readings": {
                "description": "seconds since the mix was in the pan, and degrees Celsius",
                "type": "array",
                "maxItems": MOST,
                "items": {"type": "array", "prefixItems": [seconds, celsius], "minItems": 2, "maxItems": 2},
            },
            "marks": {
                "type": "array",
                "maxItems": MOST,
                "items": {
                    "type": "object",
                    "additionalProperties": False,
                    "required": ["at_s", "kind"],
                    "properties": {
                        "at_s": seconds,
                        "kind": text,
                        "stage": text,
                        "what": text,
                        "temperature_c": {"oneOf": [celsius, {"type": "null"}]},
                    },
                },
            },
        },
    }
