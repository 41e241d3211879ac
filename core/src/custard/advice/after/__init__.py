"""After the pan: cooling in time, and how that goes."""

from custard.advice.after.cooling import Cooler, Cooling, Help, cooling, helps
from custard.advice.after.guests import Guests, guests
from custard.advice.after.life import (
    Kept,
    Life,
    UseBy,
    churned_life,
    discarded,
    life,
    mended,
    undecided,
    use_by,
    whites_life,
)
from custard.advice.after.live_cooling import UNKNOWN_COOLER, Deadline, LiveCooling, Moved, live_cooling
from custard.advice.after.safe import NO_REMEDY, Judgement, judge, since
from custard.advice.after.whites import WhitesUse, whites_uses
from custard.advice.after.words import CoolingAdvice, coach
from custard.advice.mix.keeping import joins_raw

__all__ = [
    "NO_REMEDY",
    "UNKNOWN_COOLER",
    "Cooler",
    "Cooling",
    "CoolingAdvice",
    "Deadline",
    "Guests",
    "Help",
    "Judgement",
    "Kept",
    "Life",
    "LiveCooling",
    "Moved",
    "UseBy",
    "WhitesUse",
    "churned_life",
    "coach",
    "cooling",
    "discarded",
    "guests",
    "helps",
    "joins_raw",
    "judge",
    "life",
    "live_cooling",
    "mended",
    "since",
    "undecided",
    "use_by",
    "whites_life",
    "whites_uses",
]
