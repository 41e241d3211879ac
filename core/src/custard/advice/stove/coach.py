"""The one next thing to do at the stove, and what must be said aloud, from a cook in progress."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any

from custard.advice.mix.assess import Assessment
from custard.advice.stove.account import Equipment, History, Live
from custard.advice.stove.doing import DANGER, Moment, doing_of
from custard.advice.stove.live_oven import LiveOven
from custard.advice.stove.stages import degrees
from custard.larder.tables import document
from custard.physics.texture import word
from custard.vocabulary import AlarmKind, Phase, WayName


@dataclass(frozen=True)
class Alarm:
    """Something to be said once: its kind, and the sentence."""

    kind: AlarmKind
    say: str


@dataclass(frozen=True)
class Coach:
    """The next action.

    Attributes
    ----------
    way : how it is done.
    phase : how far it has come; `say` is what to do, `then` what comes after, temperatures as "{82.4 C}".
    seconds : until what comes after [s]; None when that is not known.
    urgency : one of CALM, SOON, NOW, DANGER.
    """

    way: WayName
    phase: Phase
    say: str
    then: str
    seconds: float | None
    urgency: int
    alarms: tuple[Alarm, ...]


@cache
def _texts() -> dict[str, Any]:
    return document("coach")


def coach(
    result: Assessment,
    equipment: Equipment,
    history: History,
    now: Live | LiveOven | None,
    silent_s: float | None,
) -> Coach:
    """What to do next, and what must be said aloud.

    `silent_s` is how long the probe has said nothing [s]; None when there is none.

    Parameters
    ----------
    result : an assessed formula.
    equipment : what it is cooked on and in, as far as it is known.
    history : what was read and done until now.
    now : what is known of the cook now; None before the first reading.
    silent_s : how long the probe has said nothing [s]; None where there is none.
    """
    way = result.way
    at = Moment(result, equipment, history, now, silent_s)
    doing = doing_of(way)
    phase = doing.phase(at)
    words = _texts()[phase] if phase in _texts() else _texts()[way.name][phase]
    known = _known(result, now if isinstance(now, Live) else None)
    stirred = not way.undisturbed and (not history.hands or max(history.hands)[1])
    alarms = tuple(
        Alarm(kind, _sentence(kind, way.name, stirred=stirred).format_map(known)) for kind in doing.alarms(at)
    )
    danger = any(alarm.kind in (AlarmKind.PAST, AlarmKind.CURDLING) for alarm in alarms)
    return Coach(
        way.name,
        phase,
        words["say"].format_map(known),
        words["then"].format_map(known),
        doing.seconds(phase, at),
        DANGER if danger else doing.urgency(phase),
        alarms,
    )


def _sentence(kind: AlarmKind, way: str, *, stirred: bool) -> str:
    """What an alarm says. What is also the next thing to do is said in the same words."""
    text = _texts()
    phase = {AlarmKind.LIFT_NOW: Phase.LIFT, AlarmKind.PAST: Phase.PAST}.get(kind)
    if phase is not None:
        said: str = text[way][phase]["say"]
        return said
    alarm: str = text["alarm"]["scorching" if kind == "catching" and stirred else kind]
    return alarm


def _known(result: Assessment, now: Live | None) -> Mapping[str, str]:
    lift = None if now is None else now.lift
    return {
        "target": result.hot.word,
        "word": result.hot.word if lift is None else lift.lands_word,
        "word_now": word(0.0) if now is None else now.word,
        "lands": degrees(result.stop.at_c if lift is None else lift.lands_c),
        "reads": degrees(result.stop.at_c if lift is None else lift.reads_c),
        "boil": degrees(result.boiling_c),
    }
