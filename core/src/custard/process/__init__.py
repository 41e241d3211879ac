"""What happens in time: cooking, tempering, whisking, baking, cooling, and rehearsing any of it."""

from custard.process.baking.bake import DONE_WOBBLE, Bake, bake, wobble
from custard.process.baking.cups import Cups, Filled, filled, usual_cups
from custard.process.cooling.chill import Chill, CooledBy, chill, chill_on
from custard.process.cooling.chocolate import OntoChocolate, onto_chocolate
from custard.process.cooling.later import Aged, Held, Thawed, aged, held_warm, reheated, thawed
from custard.process.cooling.resting import Ice
from custard.process.cooling.vessel import Vessel
from custard.process.following.rehearse import OvenRehearsal, Rehearsal, StoveRehearsal, rehearse
from custard.process.heating.cook import Cook, Stove, cook
from custard.process.heating.temper import SUGAR_WAITS_S, Pour, Temper, landing_c, temper
from custard.process.whisking.whisk import Whisk, whisk

__all__ = [
    "DONE_WOBBLE",
    "SUGAR_WAITS_S",
    "Aged",
    "Bake",
    "Chill",
    "Cook",
    "CooledBy",
    "Cups",
    "Filled",
    "Held",
    "Ice",
    "OntoChocolate",
    "OvenRehearsal",
    "Pour",
    "Rehearsal",
    "Stove",
    "StoveRehearsal",
    "Temper",
    "Thawed",
    "Vessel",
    "Whisk",
    "aged",
    "bake",
    "chill",
    "chill_on",
    "cook",
    "filled",
    "held_warm",
    "landing_c",
    "onto_chocolate",
    "rehearse",
    "reheated",
    "temper",
    "thawed",
    "usual_cups",
    "whisk",
    "wobble",
]
