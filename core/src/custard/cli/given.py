"""What a command was given: files, the formula, and what was said of kitchen and flame."""

from __future__ import annotations

import csv
import io
import json
import math
import sys
from pathlib import Path
from typing import Any

from custard.conditions import USUAL, Conditions
from custard.errors import BadFormula, CustardError, OutOfRange
from custard.formats.batch_json import FORMAT as BATCH
from custard.formats.batch_json import read_batch
from custard.formats.formula_json import read_formula
from custard.formats.kept_batch import KeptBatch
from custard.formula import Formula
from custard.larder.families import all_families
from custard.process.cooling.resting import Ice
from custard.process.heating.cook import Stove
from custard.quantities import finite

MAX_INPUT_BYTES = 5_000_000
CURVE = ("t_s", "sauce_c")


def read_text(path: str, field: str = "FILE") -> str:
    """Text from a file, or from standard input for "-".

    Raises
    ------
    BadFormula, OutOfRange
        when it cannot be read.
    """
    try:
        data = sys.stdin.buffer.read(MAX_INPUT_BYTES + 1) if path == "-" else Path(path).read_bytes()
    except OSError as error:
        raise BadFormula(field, path, f"cannot be read: {error.strerror}") from None
    if len(data) > MAX_INPUT_BYTES:
        raise OutOfRange(field, path, "is larger than 5 MB")
    try:
        return data.decode("utf-8")
    except UnicodeDecodeError:
        raise BadFormula(field, path, "is not UTF-8 text") from None


def read_json(path: str, field: str = "FILE") -> Any:
    """JSON from a file, or from standard input for "-".

    Raises
    ------
    BadFormula, OutOfRange
        when it cannot be read or is no JSON.
    """
    try:
        return json.loads(read_text(path, field))
    except json.JSONDecodeError as error:
        raise BadFormula(field, path, f"is not JSON: {error.msg} in line {error.lineno}") from None
    except (RecursionError, ValueError):
        raise BadFormula(field, path, "is nested too deeply, or holds a number too long") from None


def curve(path: str) -> tuple[list[float], list[float]]:
    """Times [s] and temperatures [degC]: a CSV with the columns t_s and sauce_c, or JSON with lists of them.

    Raises
    ------
    BadFormula, OutOfRange
        when it cannot be read, or holds anything but numbers.
    """
    if path.endswith(".csv"):
        rows = list(csv.DictReader(io.StringIO(read_text(path, "curve"))))
        lists: Any = {name: [row.get(name) for row in rows] for name in CURVE}
    else:
        lists = read_json(path, "curve")
        if isinstance(lists, dict) and isinstance(lists.get("curve"), dict):
            lists = lists["curve"]
    if not isinstance(lists, dict) or not all(isinstance(lists.get(name), list) for name in CURVE):
        raise BadFormula("curve", path, "must hold the lists t_s and sauce_c")
    try:
        t, sauce = ([float(value) for value in lists[name]] for name in CURVE)
    except (TypeError, ValueError, OverflowError):
        raise BadFormula("curve", path, "must hold numbers only") from None
    if len(t) != len(sauce) or not all(math.isfinite(value) for value in (*t, *sauce)):
        raise BadFormula("curve", path, "must hold as many times as temperatures, each a number")
    return t, sauce


def spans(texts: list[str]) -> list[tuple[float, float]]:
    """Spans of time as "120-150" [s].

    Raises
    ------
    BadFormula
        when one is none.
    """
    found = []
    for text in texts:
        begins, _, ends = text.partition("-")
        try:
            span = (float(begins), float(ends))
        except ValueError:
            span = (1.0, 0.0)
        if not 0 <= span[0] < span[1] < math.inf:
            raise BadFormula("still", text, "must be from when to when in seconds, as 120-150")
        found.append(span)
    return found


def told(texts: list[str]) -> dict[str, float]:
    """Answers as "gap_s=30", by figure.

    Raises
    ------
    BadFormula
        when one is none.
    """
    found = {}
    for text in texts:
        name, _, value = text.partition("=")
        try:
            found[name.strip()] = float(value)
        except ValueError:
            raise BadFormula("say", text, "must be a figure and its value, as gap_s=30") from None
    return found


def is_batch(content: object) -> bool:
    """Whether a file is a batch rather than a formula."""
    return isinstance(content, dict) and content.get("format") == BATCH


def batch(content: object) -> KeptBatch:
    """The batch in the file that was named; a refusal names FILE where it names nothing nearer."""
    try:
        return read_batch(content)
    except CustardError as error:
        error.field = error.field or "FILE"
        raise


def formula(options: Any, content: Any = None) -> Formula:
    """The formula in the file that was named, or in its `content` where that is read already; a refusal names
    FILE where it names nothing nearer."""
    try:
        return read_formula(read_json(options.file) if content is None else content)
    except CustardError as error:
        error.field = error.field or "FILE"
        raise


def conditions(options: Any) -> Conditions:
    """What was said of kitchen, eggs and rule; a command without an option for one keeps the usual."""
    said = {name: getattr(options, name, getattr(USUAL, name)) for name in ("altitude_m", "eggs", "rule")}
    return Conditions(**said, rate_k_per_min=getattr(options, "rate_k_per_min", None))


def stove(options: Any, formula: Formula) -> Stove:
    """The flame, the pan and whoever stirs."""
    return Stove(
        power_w=options.power_w,
        stir=options.stir,
        pan=options.pan,
        over_steam=options.over_steam,
        wide=all_families()[formula.family].cooked_on_min > 0,
    )


def ice(options: Any) -> Ice | None:
    """The bath that was said; None for one with plenty of ice."""
    if options.ice_g is None and options.water_g is None:
        return None
    ice_g = 0.0 if options.ice_g is None else options.ice_g
    return Ice(ice_g, ice_g if options.water_g is None else options.water_g)


def every_s(options: Any) -> float | None:
    """How often it is mixed [s]; None where it is stirred all the time, or never."""
    return None if options.stirred_every_min is None else 60.0 * float(options.stirred_every_min)


def prices(path: str | None) -> dict[str, float]:
    """A price a kilogram by ingredient, from a file; none without one."""
    if path is None:
        return {}
    found = read_json(path, "prices")
    if not isinstance(found, dict) or not all(finite(price) >= 0 for price in found.values()):
        raise BadFormula("prices", path, "must hold a price a kilogram by ingredient, each a number from 0")
    return found
