"""The one next thing to do at the stove, and what must be said aloud, from a cook in progress."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

from custard.advice.assess import Assessment
from custard.advice.live_oven import NUDGE_S, LiveOven
from custard.advice.live_told import Live, Setup, Told
from custard.advice.plan import degrees
from custard.larder.families import SETS, all_families
from custard.physics.texture import WORDS, word

READY_S, TURNING_S = 10.0, 45.0
CURDLING_S = 15.0
CATCHES_S = 45.0
FEW_READINGS = 3
"""Fewer than these say nothing yet: the probe may still read what it comes from."""
LOST_S, GONE_S = 10.0, 120.0
"""Silent for so long the probe is called out; for so much longer nothing is said of the sauce any more."""
HELD_ENOUGH = 0.9
"""This share of the advised hold at the boil is enough not to be warned of."""
SETTLED_S = 60.0
HARDLY_STEAM, TOO_MUCH_STEAM = 0.35, 1.7
"""Of the power that a bare simmer gives to this bowl: below nothing happens, above water touches it."""

CALM, SOON, NOW, DANGER = range(4)
"""How urgent a batch is, for the strip that shows the others."""


@dataclass(frozen=True)
class Alarm:
    """Something to be said once: its kind, and the sentence."""

    kind: str
    say: str


@dataclass(frozen=True)
class Coach:
    """The next action.

    Attributes
    ----------
    way : how it is done: "coats", "boils", "mounds" or "sets".
    phase : how far it has come; `say` is what to do, `then` what comes after, temperatures as "{82.4 C}".
    seconds : until what comes after [s]; None when that is not known.
    urgency : one of CALM, SOON, NOW, DANGER.
    """

    way: str
    phase: str
    say: str
    then: str
    seconds: float | None
    urgency: int
    alarms: tuple[Alarm, ...]


@cache
def _texts() -> dict[str, Any]:
    return tomllib.loads(files("custard.larder").joinpath("data", "coach.toml").read_text(encoding="utf-8"))


def coach(result: Assessment, setup: Setup, told: Told, now: Live | None, silent_s: float | None) -> Coach:
    """What to do next, and what must be said aloud.

    `silent_s` is how long the probe has said nothing [s]; None when there is none.
    """
    way = way_of(result.formula.family, boiled=result.stop.boiled)
    phase = _phase(result, told, now, gone=silent_s is not None and silent_s > GONE_S)
    text = _texts()
    told_as = text[phase] if phase in text else text[way][phase]
    known = _known(result, now)
    seconds = _seconds(way, phase, now)
    stirred = not told.hands or max(told.hands)[1]
    alarms = tuple(
        Alarm(kind, _sentence(kind, way, stirred=stirred).format_map(known))
        for kind in _alarms(result, setup, told, now, silent_s)
    )
    urgency = {"lift": NOW, "ready": NOW, "past": DANGER, "off": NOW, "turning": SOON, "hold": SOON}.get(
        phase, CALM
    )
    return Coach(
        way,
        phase,
        told_as["say"].format_map(known),
        told_as["then"].format_map(known),
        seconds,
        DANGER if any(alarm.kind in ("past", "curdling") for alarm in alarms) else urgency,
        alarms,
    )


def coach_oven(told: Told, now: LiveOven | None, silent_s: float | None) -> Coach:
    """What to do next with cups in the oven, and what must be said aloud."""
    text, alarms = _texts(), []
    if told.off_s is not None or told.out_s is not None:
        words = text["sets"]["out"]
        return Coach("sets", "out", words["say"], words["then"], None, CALM, ())
    if now is None:
        words = text["waiting"]
        return Coach("sets", "waiting", words["say"], words["then"], None, CALM, ())
    left = now.out_in_s
    phase = "lift" if left is not None and left <= 0 else "ready" if (left or 1e9) <= NUDGE_S else "warming"
    if silent_s is not None and silent_s > LOST_S:
        alarms.append(Alarm("probe-lost", text["alarm"]["probe-lost"]))
    if phase == "lift":
        alarms.append(Alarm("lift-now", _sentence("lift-now", "sets", stirred=False)))
    words = text["sets"][phase]
    urgency = {"lift": NOW, "ready": SOON}.get(phase, CALM)
    return Coach("sets", phase, words["say"], words["then"], left, urgency, tuple(alarms))


def _sentence(kind: str, way: str, *, stirred: bool) -> str:
    """What an alarm says. What is also the next thing to do is said in the same words."""
    text = _texts()
    phase = {"lift-now": "lift", "past": "past"}.get(kind)
    if phase is not None:
        said: str = text[way][phase]["say"]
        return said
    alarm: str = text["alarm"]["scorching" if kind == "catching" and stirred else kind]
    return alarm


def way_of(family: str, *, boiled: bool) -> str:
    """How a family is done at the stove: "coats", "boils", "mounds" or "sets"."""
    if family == "sabayon":
        return "mounds"
    if all_families()[family].done == SETS:
        return "sets"
    return "boils" if boiled else "coats"


def _phase(result: Assessment, told: Told, now: Live | None, *, gone: bool) -> str:
    if told.out_s is not None:
        return "out"
    if told.off_s is not None:
        return "off"
    if now is None or len(told.readings) < FEW_READINGS:
        return "waiting"
    if gone:
        return "lost"
    if now.lift is None:
        return "never"
    return _boiling_phase(now) if result.stop.boiled else _lifting_phase(result, now, now.lift.when.in_s)


def _lifting_phase(result: Assessment, now: Live, left_s: float) -> str:
    if left_s <= 0:
        return "past" if _past(result, now) else "lift"
    if left_s <= READY_S:
        return "ready"
    thick = now.thickens is not None and now.thickens.in_s <= 0
    return "turning" if thick or left_s <= TURNING_S else "warming"


def _boiling_phase(now: Live) -> str:
    if now.held_s > 0:
        return "lift" if now.lift is None or now.lift.when.in_s <= 0 else "hold"
    return "turning" if now.thickens is not None and now.thickens.in_s <= 0 else "warming"


def _past(result: Assessment, now: Live) -> bool:
    """Thicker than the word it was to land at."""
    end = next((end for end, _ in WORDS if result.hot.yield_stress_pa < end), float("inf"))
    return now.yield_pa >= end


def _seconds(way: str, phase: str, now: Live | None) -> float | None:
    if now is None or now.lift is None or phase in ("off", "out", "past", "lift", "lost"):
        return None
    if way == "boils" and phase != "hold":
        return None if now.boils is None else now.boils.in_s
    return now.lift.when.in_s


def _known(result: Assessment, now: Live | None) -> Mapping[str, str]:
    lift = None if now is None else now.lift
    return {
        "target": result.hot.word,
        "word": result.hot.word if lift is None else word(max(lift.lands_pa, 0.0)),
        "word_now": word(0.0 if now is None else now.yield_pa),
        "lands": degrees(result.stop.at_c if lift is None else lift.lands_c),
        "reads": degrees(result.stop.at_c if lift is None else lift.reads_c),
        "boil": degrees(result.boiling_c),
    }


def _alarms(
    result: Assessment, setup: Setup, told: Told, now: Live | None, silent_s: float | None
) -> list[str]:
    kinds: list[str] = []
    on = told.off_s is None and told.out_s is None
    if on and now is not None and silent_s is not None and silent_s > LOST_S:
        kinds.append("probe-lost")
    if now is None or told.out_s is not None or (silent_s or 0.0) > GONE_S:
        return kinds
    kinds += _lift_alarms(result, now, on=on)
    if not result.stop.boiled:
        if now.curdles is not None and now.curdles.in_s <= CURDLING_S:
            kinds.append("curdling")
    elif not on and now.held_s < HELD_ENOUGH * setup.hold_s:
        kinds.append("starch-short")
    if on and now.catches_in_s is not None and now.catches_in_s <= CATCHES_S:
        kinds.append("catching")
    if (
        on
        and setup.stove.over_steam
        and now.from_readings
        and now.t_s - min(t for t, _ in told.readings) > SETTLED_S
    ):
        share = now.power_w / now.promised_w
        if share < HARDLY_STEAM:
            kinds.append("no-steam")
        elif share > TOO_MUCH_STEAM:
            kinds.append("touching")
    return kinds


def _lift_alarms(result: Assessment, now: Live, *, on: bool) -> list[str]:
    boiled = result.stop.boiled
    if not boiled and _past(result, now):
        return ["past"]
    # What is boiled comes off by the clock of its boil, not by what is known of the hob.
    sure = now.held_s > 0 if boiled else now.from_readings
    if not on or now.lift is None or not sure:
        return []
    left = now.lift.when.in_s
    return ["lift-now"] if left <= 0 else ["lift-soon"] if left <= READY_S else []
