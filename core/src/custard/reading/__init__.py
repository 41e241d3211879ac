"""Reading recipes as people write them: lines, amounts, names, the method and the family they make.

`read` is the door. Every line of a recipe becomes a line; what was assumed stands with its alternatives, and
only what cannot be known is left open.
"""

from custard.reading.bundles import Bundled, unbundle
from custard.reading.card import card_of
from custard.reading.label import Label
from custard.reading.label_comparison import Comparison, Difference, compare_labels
from custard.reading.label_composition import FromLabel, from_label
from custard.reading.line import Option, ReadLine
from custard.reading.method import Setting, Step
from custard.reading.picture import PictureText, PictureWord, text_of
from custard.reading.recipe import Recipe, Usual, read, schools_of
from custard.reading.tokens import fold, says

__all__ = [
    "Bundled",
    "Comparison",
    "Difference",
    "FromLabel",
    "Label",
    "Option",
    "PictureText",
    "PictureWord",
    "ReadLine",
    "Recipe",
    "Setting",
    "Step",
    "Usual",
    "card_of",
    "compare_labels",
    "fold",
    "from_label",
    "read",
    "says",
    "schools_of",
    "text_of",
    "unbundle",
]
