"""What happens in time: cooking, tempering, whisking, baking, cooling, and rehearsing any of it."""

from custard.process.bake import DONE_WOBBLE, Bake, bake, wobble
from custard.process.chill import Chill, chill, chill_on
from custard.process.chocolate import OntoChocolate, onto_chocolate
from custard.process.cook import Cook, Stove, cook
from custard.process.cups import Cups, Filled, filled, usual_cups
from custard.process.later import Aged, Held, Thawed, aged, held_warm, reheated, thawed
from custard.process.lying import Ice
from custard.process.rehearse import OvenRehearsal, Rehearsal, StoveRehearsal, rehearse
from custard.process.temper import SUGAR_WAITS_S, Pour, Temper, landing_c, temper
from custard.process.vessel import Vessel
from custard.process.whisk import Whisk, whisk

__all__ = [
    "DONE_WOBBLE",
    "SUGAR_WAITS_S",
    "Aged",
    "Bake",
    "Chill",
    "Cook",
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
