"""A batch as JSON: what it was made of, on what, what happened to it and what it came to.

Version 2 is written; version 1, which had spoon tests and sieves as words of a mark and nothing of hob, probe
and verdict, is read for good. Strict in, faithful out.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import asdict, fields, replace
from datetime import datetime
from typing import Any, TypeVar

from custard.errors import BadFormula, CustardError, within
from custard.formats.formula_json import read_formula, write_formula
from custard.formats.kept_batch import (
    PROBE_ERROR_K,
    HappenedMark,
    HobUsed,
    KeptBatch,
    LearnedUsed,
    PanUsed,
    PlanUsed,
    ProbeUsed,
)
from custard.vocabulary import Coat, FingerLine, MarkKind, SieveFound, Verdict

FORMAT, VERSION, FIRST = "old-spoon/batch", 2, 1
EARLIEST_S, LATEST_S = -86_400.0, 90 * 86_400.0
COLDEST_C, HOTTEST_C = -40.0, 250.0
MOST = 200_000
EARLIEST_YEAR = 1970
MOST_TEXT = 500
T = TypeVar("T")


KEYS = tuple(one.name for one in fields(KeptBatch))
FIRST_KEYS = ("formula", "altitude_m", "pan", "over_steam", "readings", "marks")
FIRST_MARK = ("at_s", "kind", "stage", "what", "temperature_c")


def write_batch(batch: KeptBatch) -> dict[str, Any]:
    """A batch as plain data.

    Parameters
    ----------
    batch : a batch as it is kept.
    """
    return {
        "format": FORMAT,
        "version": VERSION,
        **asdict(replace(batch, formula=_NO_FORMULA, readings=(), marks=())),
        "formula": write_formula(batch.formula),
        "cups": None if batch.cups is None else dict(batch.cups),
        "readings": [[t, c] for t, c in batch.readings],
        "marks": [_written(mark) for mark in batch.marks],
    }


_NO_FORMULA: Any = None


def _written(mark: HappenedMark) -> dict[str, Any]:
    """A mark with only what it says."""
    return {name: value for name, value in asdict(mark).items() if value not in ("", None)}


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
    if not isinstance(data, Mapping):
        raise BadFormula("", type(data).__name__, "must be an object")
    if data.get("format") != FORMAT:
        raise BadFormula("format", data.get("format"), f"must be “{FORMAT}”")
    version = data.get("version")
    if isinstance(version, bool) or version not in (FIRST, VERSION):
        raise BadFormula("version", version, f"must be {FIRST} or {VERSION}")
    top = _object(data, "", ("format", "version", *(FIRST_KEYS if version == FIRST else KEYS)))
    try:
        formula = read_formula(top.get("formula"))
    except CustardError as error:
        raise error.at("formula") from None
    read_mark = _first_mark if version == FIRST else _mark
    marks = tuple(read_mark(one, f"marks[{place}]") for place, one in enumerate(_list(top, "marks")))
    readings = tuple(_reading(one, place) for place, one in enumerate(_list(top, "readings")))
    return KeptBatch(
        formula=formula,
        number=_maybe(top, "number", lambda value, name: int(_number(value, name, 0, 1e9))),
        started_at=_moment(top.get("started_at", ""), "started_at"),
        altitude_m=_number(top.get("altitude_m", 0.0), "altitude_m", -500, 6000),
        rule=_text(top.get("rule", ""), "rule"),
        eggs=_maybe(top, "eggs", _text),
        egg_source=_text(top.get("egg_source", ""), "egg_source"),
        hob=_hob(top.get("hob", {})),
        pan=_pan(top.get("pan", {})),
        probe=_probe(top.get("probe", {})),
        over_steam=_flag(top, "over_steam"),
        stir=_text(top.get("stir", "whisk"), "stir"),
        hold_s=_maybe(top, "hold_s", lambda value, name: _number(value, name, 0, 7200)),
        cups=_maybe(top, "cups", _any_object),
        learned=_learned(top.get("learned", {})),
        plan=_plan(top.get("plan", {})),
        readings=tuple(sorted(readings)),
        marks=tuple(sorted(marks, key=lambda mark: mark.at_s)),
        yield_g=_maybe(top, "yield_g", lambda value, name: _number(value, name, 0, 1e6)),
        verdict=_word(top.get("verdict", ""), "verdict", Verdict),
        verdict_note=_text(top.get("verdict_note", ""), "verdict_note"),
        odd=_flag(top, "odd"),
        rehearsal=_flag(top, "rehearsal"),
    )


def _hob(data: object) -> HobUsed:
    row = _named(data, "hob", HobUsed)
    return HobUsed(
        name=_text(row.get("name", ""), "hob.name"),
        power_w=_maybe(row, "power_w", lambda value, _: _number(value, "hob.power_w", 1, 100_000)),
        spread=_maybe(row, "spread", lambda value, _: _number(value, "hob.spread", 0, 3)),
    )


def _pan(data: object) -> PanUsed:
    # Version 1, and whoever writes by hand, has the kind alone.
    row = {"kind": data} if isinstance(data, str) else _named(data, "pan", PanUsed)
    return PanUsed(
        name=_text(row.get("name", ""), "pan.name"),
        kind=_text(row.get("kind", "clad"), "pan.kind"),
        share=_number(row.get("share", 1.0), "pan.share", 0.05, 20),
        spread=_maybe(row, "spread", lambda value, _: _number(value, "pan.spread", 0, 3)),
    )


def _probe(data: object) -> ProbeUsed:
    row = _named(data, "probe", ProbeUsed)
    return ProbeUsed(
        name=_text(row.get("name", ""), "probe.name"),
        lag_s=_number(row.get("lag_s", 4.0), "probe.lag_s", 0.1, 120),
        reads_high_k=_number(row.get("reads_high_k", 0.0), "probe.reads_high_k", -20, 20),
        error_k=_number(row.get("error_k", PROBE_ERROR_K), "probe.error_k", 0, 20),
        checked_on=_moment(row.get("checked_on", ""), "probe.checked_on"),
    )


def _learned(data: object) -> LearnedUsed:
    row = _named(data, "learned", LearnedUsed)
    return LearnedUsed(
        set_k=_number(row.get("set_k", 0.0), "learned.set_k", -10, 10),
        carry_over=_number(row.get("carry_over", 1.0), "learned.carry_over", 0.1, 10),
        left=_number(row.get("left", 1.0), "learned.left", 0.1, 10),
    )


def _plan(data: object) -> PlanUsed:
    row = _named(data, "plan", PlanUsed)

    def celsius(value: object, name: str) -> float:
        return _number(value, f"plan.{name}", COLDEST_C, HOTTEST_C)

    return PlanUsed(
        lift_c=_maybe(row, "lift_c", celsius),
        lands_c=_maybe(row, "lands_c", celsius),
        coat=_text(row.get("coat", ""), "plan.coat"),
        yield_g=_maybe(row, "yield_g", lambda value, _: _number(value, "plan.yield_g", 0, 1e6)),
    )


def _reading(one: object, place: int) -> tuple[float, float]:
    name = f"readings[{place}]"
    if not isinstance(one, list) or len(one) != 2:
        raise BadFormula(name, one, "must be seconds and degrees Celsius, as [12, 71.4]")
    t, c = one
    return _number(t, name, EARLIEST_S, LATEST_S), _number(c, name, COLDEST_C, HOTTEST_C)


def _mark(one: object, name: str, keys: tuple[str, ...] | None = None) -> HappenedMark:
    row = _object(one, name, keys or tuple(part.name for part in fields(HappenedMark)))
    return HappenedMark(
        at_s=_number(row.get("at_s"), f"{name}.at_s", EARLIEST_S, LATEST_S),
        kind=_text(row.get("kind"), f"{name}.kind"),
        stage=_text(row.get("stage", ""), f"{name}.stage"),
        what=_text(row.get("what", ""), f"{name}.what"),
        temperature_c=_maybe(
            row, "temperature_c", lambda value, at: _number(value, f"{name}.{at}", COLDEST_C, HOTTEST_C)
        ),
        coat=_word(row.get("coat", ""), f"{name}.coat", Coat),
        line=_word(row.get("line", ""), f"{name}.line", FingerLine),
        sieve=_word(row.get("sieve", ""), f"{name}.sieve", SieveFound),
        grams=_maybe(row, "grams", lambda value, at: _number(value, f"{name}.{at}", 0, 1e6)),
        note=_text(row.get("note", ""), f"{name}.note"),
    )


def _first_mark(one: object, name: str) -> HappenedMark:
    """A mark of version 1: what spoon and sieve showed stood in `what`."""
    mark = _mark(one, name, FIRST_MARK)
    if mark.kind == MarkKind.SPOON and mark.what in tuple(Coat):
        return replace(mark, coat=mark.what, what="")
    if mark.kind == MarkKind.SIEVE and mark.what in tuple(SieveFound):
        return replace(mark, sieve=mark.what, what="")
    return mark


def _object(data: object, name: str, keys: tuple[str, ...]) -> Mapping[str, Any]:
    if not isinstance(data, Mapping):
        raise BadFormula(name, data, "must be an object")
    for key in data:
        if key not in keys:
            at = f"{name}.{key}" if name else str(key)
            raise BadFormula(at, key, "is no key of a batch", f"Write {', '.join(keys)}.")
    return data


def _named(data: object, name: str, kind: type) -> Mapping[str, Any]:
    """The object of a thing that was used; a text is its name alone."""
    if isinstance(data, str):
        return {"name": data}
    return _object({} if data is None else data, name, tuple(one.name for one in fields(kind)))


def _any_object(data: object, name: str) -> Mapping[str, Any]:
    if not isinstance(data, Mapping):
        raise BadFormula(name, data, "must be an object")
    return dict(data)


def _maybe(row: Mapping[str, Any], name: str, read: Callable[[Any, str], T]) -> T | None:
    value = row.get(name)
    return None if value is None else read(value, name)


def _list(top: Mapping[str, Any], name: str) -> list[Any]:
    found = top.get(name, [])
    if not isinstance(found, list) or len(found) > MOST:
        raise BadFormula(name, type(found).__name__, f"must be a list of at most {MOST}")
    return found


def _flag(top: Mapping[str, Any], name: str) -> bool:
    value = top.get(name, False)
    if not isinstance(value, bool):
        raise BadFormula(name, value, "must be true or false")
    return value


def _text(value: object, name: str) -> str:
    if not isinstance(value, str) or len(value) > MOST_TEXT:
        raise BadFormula(name, value, f"must be a text of at most {MOST_TEXT} characters")
    return value


def _word(value: object, name: str, words: Any) -> str:
    text = _text("" if value is None else value, name)
    if text and text not in tuple(words):
        raise BadFormula(name, text, "is not one we know", f"Write {', '.join(words)}.")
    return text


def _moment(value: object, name: str) -> str:
    text = _text("" if value is None else value, name)
    try:
        if text and datetime.fromisoformat(text).year < EARLIEST_YEAR:
            raise ValueError
    except ValueError:
        raise BadFormula(name, text, "must be a day or a time, as 2026-03-01T09:30:00+00:00") from None
    return text


def _number(value: object, name: str, low: float, high: float) -> float:
    if isinstance(value, bool) or not isinstance(value, int | float):
        raise BadFormula(name, value, "must be a number")
    within(name, float(value), low, high)
    return float(value)
