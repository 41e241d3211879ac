"""The words of the product that code tells apart, each written once.

A word that code asks for stands here as a type; the server's schemas, the contract and the browser's types
derive from it. Words that only stand in a table (families, cooling rules, eggs, measures, signs, schools,
exercises) are read from that table: adding a row is adding the word.

>>> WayName("sets"), WayName.SETS == "sets"
(<WayName.SETS: 'sets'>, True)
>>> [str(stage) for stage in StageName][:3]
['weigh', 'warm', 'temper']
"""

from __future__ import annotations

from enum import StrEnum
from typing import TypeVar

from custard.errors import UnknownName

W = TypeVar("W", bound=StrEnum)


class WayName(StrEnum):
    """How a sauce is done: it coats a spoon, is boiled with starch, mounds as a foam, or sets in cups."""

    COATS = "coats"
    BOILS = "boils"
    MOUNDS = "mounds"
    SETS = "sets"


class HeatName(StrEnum):
    """What a family is usually heated by."""

    FLAME = "direct"
    STEAM = "steam"
    OVEN = "oven"


class When(StrEnum):
    """The moment at which a line joins, in the order in which they come."""

    INFUSED = "infused"
    IN_THE_DAIRY = "in the dairy"
    WITH_THE_YOLKS = "with the yolks"
    IN_THE_PAN = "in the pan"
    OFF_THE_HEAT = "off the heat"
    UNDER_IT = "under it"
    FOLDED = "folded when cool"
    AFTERWARDS = "afterwards"
    ON_TOP = "on top"


class Laid(StrEnum):
    """Where a line is laid out before any heat is on."""

    PAN = "pan"
    BOWL = "yolk bowl"
    TRAY = "finish tray"


class Need(StrEnum):
    """What other work can need of a kitchen besides hands."""

    NOTHING = ""
    RING = "ring"
    STEAM = "steam"
    ICE = "ice"
    OVEN = "oven"
    CHURN = "churn"
    FRIDGE = "fridge"


class VesselKind(StrEnum):
    """What a sauce is cooled and kept in."""

    BOWL = "bowl"
    TRAY = "tray"
    TUB = "tub"
    CUPS = "cups"
    BAGS = "bags"


class StageName(StrEnum):
    """The stages of a batch, in their usual order; what is known of each stands in `stove.stage_records`."""

    WEIGH = "weigh"
    WARM = "warm"
    TEMPER = "temper"
    COOK = "cook"
    TEST = "test"
    FINISH = "finish"
    CHILL = "chill"
    KEEP = "keep"


class MarkKind(StrEnum):
    """What a mark of a batch says."""

    DONE = "done"
    TICK = "tick"
    CHECK = "check"
    SPOON = "spoon"
    SIEVE = "sieve"
    OFF_HEAT = "off-heat"
    INTO_ICE = "into-ice"
    MOMENT = "moment"
    POUR = "pour"
    SIGN = "sign"
    BUBBLES = "bubbles"
    HANDS_OFF = "hands-off"
    STIRRING = "stirring"
    SUGAR_ON = "sugar-on"
    WRONG = "wrong"
    ALARM = "alarm"
    SILENCE = "silence"
    NUDGE = "nudge"
    RIBBON = "ribbon"
    BACK_ON = "back-on"
    INFUSING = "infusing"
    TOP_UP = "top-up"
    SPOT = "spot"
    MOVED = "moved"
    DECIDED = "decided"
    FILM = "film"
    PASTEURISED = "pasteurised"
    REMEDY_STEP = "remedy-step"
    REMEDY = "remedy"
    CLOSED = "closed"
    REOPENED = "reopened"
    ODD = "odd"


class AlarmKind(StrEnum):
    """What is said aloud at the stove and while a batch cools."""

    LIFT_SOON = "lift-soon"
    LIFT_NOW = "lift-now"
    PAST = "past"
    CURDLING = "curdling"
    CATCHING = "catching"
    PROBE_LOST = "probe-lost"
    STARCH_SHORT = "starch-short"
    NO_STEAM = "no-steam"
    TOUCHING = "touching"
    COOLS_SLOWLY = "cools-slowly"
    LIMIT_MISSED = "limit-missed"


class Phase(StrEnum):
    """How far a sauce at the stove has come."""

    WAITING = "waiting"
    LOST = "lost"
    WARMING = "warming"
    TURNING = "turning"
    READY = "ready"
    LIFT = "lift"
    PAST = "past"
    NEVER = "never"
    HOLD = "hold"
    OFF = "off"
    OUT = "out"


class Coat(StrEnum):
    """How thick a sauce is on the back of a spoon, from milk to paste."""

    RUNS_OFF = "runs off"
    THIN = "thin coat"
    NAPPE = "nappe"
    HEAVY = "heavy coat"
    SPOONABLE = "spoonable"
    PIPEABLE = "pipeable"


class FingerLine(StrEnum):
    """What a line drawn through the coat with a finger does."""

    HOLDS = "holds"
    CLOSES = "closes"
    RUNS = "runs"


class SieveFound(StrEnum):
    """What stays in the sieve."""

    CLEAN = "clean"
    A_FEW_BITS = "a few bits"
    MANY_BITS = "many bits"


class Wobble(StrEnum):
    """What a nudged cup does."""

    LIQUID = "liquid"
    WIDE = "wide wobble"
    COIN = "wobbles like a coin"
    SPRINGS = "springs back"


class Ribbon(StrEnum):
    """What the whisk shows of a foam."""

    LIQUID = "liquid"
    FROTH = "froth"
    RIBBONS = "ribbons"
    MOUNDS = "mounds"


class Verdict(StrEnum):
    """How a batch ended."""

    GOOD = "good"
    USABLE = "usable"
    DISCARDED = "discarded"


class LimitState(StrEnum):
    """How a limit of the cooling rule stands."""

    KEPT = "kept"
    WILL_BE_KEPT = "will be kept"
    IN_DANGER = "in danger"
    WILL_BE_MISSED = "will be missed"
    MISSED = "missed"


class Place(StrEnum):
    """Where something is kept."""

    FRIDGE = "fridge"
    FROZEN = "frozen"
    THAWING = "thawing"
    WARM = "warm"


class ExerciseKind(StrEnum):
    """What is practised: at a pan, a bowl or a tub, or by answering."""

    STOVE = "stove"
    TEMPER = "temper"
    RESCUE = "rescue"
    CHILL = "chill"
    SLIP = "slip"
    SCALE = "scale"
    SPOONS = "spoons"


class Surprise(StrEnum):
    """What may happen in an exercise besides."""

    NONE = ""
    TURNED_UP = "turned-up"
    CALLED_AWAY = "called-away"


class Difficulty(StrEnum):
    """How far a hidden hob strays from what it is taken for."""

    GENTLE = "gentle"
    USUAL = "usual"
    HARD = "hard"


class ProbeKind(StrEnum):
    """Whether an exercise shows what the probe reads."""

    HIDDEN = "hidden"
    GIVEN = "given"


def parse(words: type[W], field: str, text: str) -> W:
    """The word of `words` that `text` is.

    Raises
    ------
    UnknownName
        naming the field and the words there are.

    >>> parse(Place, "place", "frozen")
    <Place.FROZEN: 'frozen'>
    """
    try:
        return words(text)
    except ValueError:
        raise UnknownName(field, text, "is not one we know", f"Write {', '.join(words)}.") from None
