"""What is done to a sauce after the heat, and what becomes of it."""

from custard.advice.finish.additions import finishing
from custard.advice.finish.drinks import Drunk, drunk
from custard.advice.finish.outcome import Addition, Finishing
from custard.process.baking.crust import Crust, crust
from custard.process.cooling.chocolate import Ladle
from custard.process.heating.infusing import Infusing, infusing
from custard.process.whisking.folding import Folded

__all__ = [
    "Addition",
    "Crust",
    "Drunk",
    "Finishing",
    "Folded",
    "Infusing",
    "Ladle",
    "crust",
    "drunk",
    "finishing",
    "infusing",
]
