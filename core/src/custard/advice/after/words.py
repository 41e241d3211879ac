"""What is said of a cooling: the one thing to do, how long there is, and the alarms."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from custard.advice.after.live_cooling import Deadline, LiveCooling

CALM, SOON, NOW, DANGER = range(4)


@dataclass(frozen=True)
class CoolingAdvice:
    """A cooling in words, temperatures as "{21 C}"; `seconds` is the time left to the next limit [s]."""

    say: str
    then: str
    seconds: float | None
    urgency: int
    alarms: Mapping[str, str]


def coach(seen: LiveCooling) -> CoolingAdvice:
    """The most pressing limit, and what still helps.

    Parameters
    ----------
    seen : how it cools, and what limits are ahead.
    """
    open_ = [one for one in seen.deadlines if one.state != "kept"]
    worst = next((one for one in open_ if one.state == "missed"), None)
    danger = next((one for one in open_ if one.state in ("will be missed", "in danger")), None)
    help_ = next((one.say for one in seen.helps if one.passes), "")
    if worst is not None:
        say = f"It was not below {_c(worst)} in time: decide, and write down what"
        return CoolingAdvice(
            say, "when in doubt, throw it away", None, DANGER, {"limit-missed": say, **_slow(danger, help_)}
        )
    if danger is not None:
        do = help_ or "nothing tried here is quick enough: ask whoever answers for it"
        say = f"{_short(danger)}: {do}"
        return CoolingAdvice(say, "the sooner, the more it helps", danger.left_s, NOW, _slow(danger, help_))
    if open_:
        return CoolingAdvice(
            f"It cools: below {_c(open_[0])} in time", "film on the surface", open_[0].left_s, CALM, {}
        )
    if seen.cold_s is not None and seen.cold_s <= 0:
        return CoolingAdvice("Cold right through: label it and put it away", "", None, SOON, {})
    return CoolingAdvice("It keeps its limits; let it grow cold right through", "", seen.cold_s, CALM, {})


def _slow(danger: Deadline | None, help_: str) -> dict[str, str]:
    if danger is None:
        return {}
    return {"cools-slowly": _short(danger) + (f": {help_}" if help_ else "")}


def _short(danger: Deadline) -> str:
    if danger.reached_s is None:  # A fridge no colder than the limit is not slow: it cannot.
        return f"It does not get below {_c(danger)} where it is"
    return f"Too slow for {_c(danger)}"


def _c(one: Deadline) -> str:
    return f"{{{one.limit_c:g} C}}"
