"""What happens in time: cooking, tempering, whisking, baking, cooling, and rehearsing any of it."""

from custard.process.bake import DONE_WOBBLE, Bake, bake, wobble
from custard.process.chill import Chill, Ice, chill
from custard.process.chocolate import OntoChocolate, onto_chocolate
from custard.process.cook import Cook, Stove, cook
from custard.process.rehearse import OvenRehearsal, Rehearsal, StoveRehearsal, rehearse
from custard.process.temper import SUGAR_WAITS_S, Pour, Temper, landing_c, temper
from custard.process.whisk import Whisk, whisk

__all__ = [
    "DONE_WOBBLE",
    "SUGAR_WAITS_S",
    "Bake",
    "Chill",
    "Cook",
    "Ice",
    "OntoChocolate",
    "OvenRehearsal",
    "Pour",
    "Rehearsal",
    "Stove",
    "StoveRehearsal",
    "Temper",
    "Whisk",
    "bake",
    "chill",
    "cook",
    "landing_c",
    "onto_chocolate",
    "rehearse",
    "temper",
    "whisk",
    "wobble",
]
