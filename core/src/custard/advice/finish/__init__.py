"""What is done to a sauce after the heat, and what becomes of it."""

from custard.advice.finish.additions import finishing
from custard.advice.finish.drinks import Drunk, drunk
from custard.advice.finish.told import Addition, Finishing
from custard.process.chocolate import Ladle
from custard.process.crust import Crust, crust
from custard.process.folding import Folded
from custard.process.infusing import Infusing, infusing

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
