"""After the pan: cooling in time, and how that goes."""

from custard.advice.after.cooling import Cooler, Cooling, Help, cooling, helps
from custard.advice.after.live_cooling import UNKNOWN_COOLER, Deadline, LiveCooling, Moved, live_cooling
from custard.advice.after.words import Told, coach

__all__ = [
    "UNKNOWN_COOLER",
    "Cooler",
    "Cooling",
    "Deadline",
    "Help",
    "LiveCooling",
    "Moved",
    "Told",
    "coach",
    "cooling",
    "helps",
    "live_cooling",
]
