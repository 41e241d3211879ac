"""A day as JSON in the open format: what there is, what is wanted, other work, and the plan. Strict in,
faithful out."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields
from datetime import date
from typing import Any

from custard.errors import BadFormula, CustardError
from custard.formats.formula_json import (
    object_of,
    optional_number,
    read_formula,
    read_work,
    text_of,
    write_formula,
    write_work,
)
from custard.formats.schemas import DIALECT, work_schema
from custard.formula import MAX_NAME
from custard.planning.day import BATH, CHURN, DAY_MIN, OVEN, RING, STEAM, Hands, Room
from custard.planning.wanted import Other, Wanted

FORMAT, VERSION = "old-spoon/day", 1
TIME = re.compile(r"(?:([+-][1-7]) )?([01]?\d|2[0-3]):([0-5]\d)")
TIME_SAYS = "must be a time like “12:30”, or “+1 7:15” for the day after"
SHELVES = 100
"""An oven in shares."""
_PLACES = {"rings": RING, "steam": STEAM, "ice_bath": BATH, "churns": CHURN, "ovens": OVEN}
_ROOM_KEYS = (*_PLACES, "ice_g", "ice_g_h", "bowls")
_WANTED_KEYS = ("name", "formula", "at", "covers", "each")
_OTHER_KEYS = ("name", "minutes", "hands", "needs", "by")
_PLAN_KEYS = ("of", "step", "start", "end", "hands")


@dataclass(frozen=True)
class PlannedStep:
    """A step of a plan as it is told: of what, which, from when until when [min], in whose hands."""

    of: str
    step: str
    start: int
    end: int
    hands: str = ""


@dataclass(frozen=True)
class DayFile:
    """A day as it is kept in a file.

    Attributes
    ----------
    date : which day it is for; "" for any, as a template.
    """

    date: str
    name: str
    room: Room
    wanted: tuple[Wanted, ...]
    other: tuple[Other, ...] = ()
    plan: tuple[PlannedStep, ...] = ()


def time_text(minute: int) -> str:
    """A minute of the day as it is written.

    >>> time_text(750), time_text(1875), time_text(-30)
    ('12:30', '+1 7:15', '-1 23:30')
    """
    days, rest = divmod(minute, DAY_MIN)
    shown = f"{rest // 60}:{rest % 60:02d}"
    return shown if days == 0 else f"{days:+d} {shown}"


def read_time(field: str, given: object) -> int:
    """A minute from as it is written.

    Raises
    ------
    BadFormula
        naming the field.
    """
    found = TIME.fullmatch(given.strip()) if isinstance(given, str) else None
    if found is None:
        raise BadFormula(field, given, TIME_SAYS)
    days, hours, minutes = found.groups(default="0")
    return int(days) * DAY_MIN + 60 * int(hours) + int(minutes)


def write_day(day: DayFile) -> dict[str, Any]:
    """A day as plain data.

    Parameters
    ----------
    day : a day as it is kept in a file.
    """
    room: dict[str, Any] = {
        key: day.room.places.get(place, 0) // (SHELVES if place == OVEN else 1)
        for key, place in _PLACES.items()
    }
    room |= {"ice_g": day.room.ice_g, "ice_g_h": day.room.ice_g_h, "bowls": day.room.bowls}
    return {
        "format": FORMAT,
        "version": VERSION,
        "date": day.date,
        "name": day.name,
        "hands": [
            {"name": one.name, "there": [[time_text(start), time_text(end)] for start, end in one.there]}
            for one in day.room.hands
        ],
        "room": room,
        "wanted": [
            {
                "name": one.name,
                "formula": write_formula(one.formula),
                "at": time_text(one.at),
                "covers": one.covers,
                "each": one.each,
            }
            for one in day.wanted
        ],
        "other_work": [
            {**write_work(one.work), "by": None if one.by is None else time_text(one.by)} for one in day.other
        ],
        "plan": [
            {
                "of": one.of,
                "step": one.step,
                "start": time_text(one.start),
                "end": time_text(one.end),
                "hands": one.hands,
            }
            for one in day.plan
        ],
    }


def read_day(data: object) -> DayFile:
    """A day from plain data.

    Parameters
    ----------
    data : plain data, as JSON has it.

    Raises
    ------
    CustardError
        naming the first key that cannot be used; nothing is guessed.
    """
    keys = ("format", "version", *(one.name for one in fields(DayFile) if one.name != "other"), "hands",
            "other_work")  # fmt: skip
    top = object_of(data, "", keys)
    if top.get("format") != FORMAT:
        raise BadFormula("format", top.get("format"), f"must be “{FORMAT}”")
    if isinstance(top.get("version"), bool) or top.get("version") != VERSION:
        raise BadFormula("version", top.get("version"), f"must be {VERSION}")
    hands = tuple(_each(top, "hands", lambda part, _: _hands(part)))
    return DayFile(
        date=_date(text_of(top, "date", "")),
        name=text_of(top, "name", "")[:MAX_NAME],
        room=_room(top.get("room", {}), hands),
        wanted=tuple(_each(top, "wanted", _wanted)),
        other=tuple(_each(top, "other_work", _other)),
        plan=tuple(_each(top, "plan", lambda part, _: _planned(part))),
    )


def _each(top: Mapping[str, Any], field: str, read: Any) -> Sequence[Any]:
    given = top.get(field, [])
    if not isinstance(given, list):
        raise BadFormula(field, given, "must be a list")
    found = []
    for number, part in enumerate(given):
        try:
            found.append(read(part, number))
        except CustardError as error:
            raise error.at(f"{field}[{number}]") from None
    return found


def _date(given: str) -> str:
    if not given:
        return ""
    try:
        return date.fromisoformat(given).isoformat()
    except ValueError:
        raise BadFormula("date", given, "must be a date like “2026-11-26”") from None


def _hands(part: object) -> Hands:
    found = object_of(part, "", ("name", "there"))
    spans = found.get("there", [])
    if not isinstance(spans, list) or not all(isinstance(span, list) and len(span) == 2 for span in spans):
        raise BadFormula("there", spans, "must be spans like [[“8:00”, “16:00”]]")
    there = tuple((read_time("there", start), read_time("there", end)) for start, end in spans)
    return Hands(text_of(found, "name"), there)


def _room(part: object, hands: tuple[Hands, ...]) -> Room:
    try:
        found = object_of(part, "", _ROOM_KEYS)
        places = {place: _count(found, key) for key, place in _PLACES.items()}
        places[OVEN] *= SHELVES
        return Room(
            hands,
            places,
            ice_g=optional_number(found, "ice_g"),
            ice_g_h=optional_number(found, "ice_g_h") or 0.0,
            bowls=None if found.get("bowls") is None else _count(found, "bowls"),
        )
    except CustardError as error:
        raise error.at("room") if error.field != "hands" else error from None


def _count(found: Mapping[str, Any], key: str) -> int:
    number = optional_number(found, key) or 0.0
    if number != int(number) or not 0 <= number <= 12:
        raise BadFormula(key, found.get(key), "must be a whole number from 0 to 12")
    return int(number)


def _wanted(part: object, number: int) -> Wanted:
    found = object_of(part, "", _WANTED_KEYS)
    try:
        formula = read_formula(found.get("formula"))
    except CustardError as error:
        raise error.at("formula") from None
    covers = optional_number(found, "covers")
    return Wanted(
        key=f"want-{number + 1}",
        name=text_of(found, "name", formula.name)[:MAX_NAME],
        sauce=formula.name,
        formula=formula,
        at=read_time("at", found.get("at")),
        covers=1.0 if covers is None else covers,
        each=text_of(found, "each", ""),
    )


def _other(part: object, number: int) -> Other:
    found = object_of(part, "", _OTHER_KEYS)
    work = read_work({key: value for key, value in found.items() if key != "by"})
    by = None if found.get("by") is None else read_time("by", found["by"])
    return Other(f"other-{number + 1}", work, by)


def _planned(part: object) -> PlannedStep:
    found = object_of(part, "", _PLAN_KEYS)
    start, end = read_time("start", found.get("start")), read_time("end", found.get("end"))
    return PlannedStep(text_of(found, "of"), text_of(found, "step"), start, end, text_of(found, "hands", ""))


def day_schema(formula: dict[str, Any]) -> dict[str, Any]:
    """The JSON Schema of a day, around that of its formulas.

    Parameters
    ----------
    formula : the schema of the formula format.
    """
    time = {"type": "string", "pattern": f"^{TIME.pattern}$"}
    text = {"type": "string"}
    count = {"type": "integer", "minimum": 0, "maximum": 12, "default": 0}
    grams = {"type": ["number", "null"], "minimum": 0}
    inner = {key: value for key, value in formula.items() if key != "$schema"}
    beside = work_schema()
    hands = {"name": text, "there": {"type": "array", "items": {"type": "array", "items": time}}}
    wanted = {
        "name": text,
        "formula": inner,
        "at": time,
        "covers": {"type": "number", "exclusiveMinimum": 0, "default": 1},
        "each": {"description": "how much one takes, as “60 g”; empty for the whole formula", **text},
    }
    return {
        "$schema": DIALECT,
        "title": f"Old Spoon day, version {VERSION}",
        **_closed(
            {
                "format": {"const": FORMAT},
                "version": {"const": VERSION},
                "date": {"description": "as 2026-11-26; empty for any day", **text},
                "name": text,
                "hands": {"type": "array", "minItems": 1, "items": _closed(hands, "name", "there")},
                "room": _closed(
                    {
                        **dict.fromkeys(_PLACES, count),
                        "ice_g": {"description": "null for plenty", **grams},
                        "ice_g_h": {"description": "made an hour", **grams},
                        "bowls": {"description": "null for none needed", "type": ["integer", "null"]},
                    }
                ),
                "wanted": {"type": "array", "items": _closed(wanted, "formula", "at")},
                "other_work": {
                    "type": "array",
                    "items": {
                        **beside,
                        "properties": {**beside["properties"], "by": {"anyOf": [time, {"type": "null"}]}},
                    },
                },
                "plan": {
                    "type": "array",
                    "items": _closed(
                        {"of": text, "step": text, "start": time, "end": time, "hands": text},
                        "of", "step", "start", "end",
                    ),
                },
            },
            "format", "version", "hands",
        ),
    }  # fmt: skip


def _closed(properties: dict[str, Any], *required: str) -> dict[str, Any]:
    return {
        "type": "object",
        "additionalProperties": False,
        **({"required": list(required)} if required else {}),
        "properties": properties,
    }
