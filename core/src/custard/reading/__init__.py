"""Reading recipes as people write them: lines, amounts, names, the method and the family they make.

`read` is the door. Every line of a recipe becomes a line; what was assumed is said with its alternatives, and
only what cannot be known is left open.
"""

from custard.reading.bundles import Bundled, unbundle
from custard.reading.label import FromLabel, Label, from_label
from custard.reading.line import Option, ReadLine
from custard.reading.method import Setting, Step
from custard.reading.recipe import Recipe, Usual, read, schools_of

__all__ = [
    "Bundled",
    "FromLabel",
    "Label",
    "Option",
    "ReadLine",
    "Recipe",
    "Setting",
    "Step",
    "Usual",
    "from_label",
    "read",
    "schools_of",
    "unbundle",
]
