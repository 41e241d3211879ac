"""Custard: where an egg-thickened sauce sets, how thick it gets, when to lift it, how to cool it.

This is the public door: everything outside imports `custard` and nothing deeper. What every caller needs is
here; the rest stands in rooms, by what a caller wants: `vocabulary` for the words that code tells apart,
`bench` to change a mix, `stove` to follow it, `trouble` when it has gone wrong, `process` for what happens in
time, `bands` for how sure that is, `larder` for what things are, `formats`, `quantities` and `measures` for
how they are written, `reading` for recipes as people have them.

Inside, SI units and degrees Celsius; kitchen measures only at the edge. Every refusal is a `CustardError`
that names the field, the value, the limit and the next step.

>>> anglaise = read_formula({
...     "format": "old-spoon/formula", "version": 1, "name": "Plain anglaise", "family": "anglaise",
...     "lines": [
...         {"ingredient": "whole-milk", "amount": "1 l"},
...         {"ingredient": "egg-yolk", "amount": "8"},
...         {"ingredient": "white-sugar", "amount": "150 g"},
...     ],
... })
>>> window = assess(anglaise).window
>>> 80 < window.nappe_c < 84 < window.curdles_c < 90
True
"""

from custard import formats, larder, measures, process, quantities, reading
from custard.advice import after, bench, finish, stove, trouble
from custard.advice.mix import bands
from custard.advice.mix.assess import MERINGUE_SUGAR_SHARE, Assessment, allergens, assess, whites_left_g
from custard.advice.mix.churning import Churning, Frozen, churning
from custard.advice.mix.texture import Texture, Whisked
from custard.advice.mix.window import Window
from custard.conditions import USUAL, Conditions, Learned
from custard.errors import BadFormula, BadQuantity, CustardError, Impossible, NoTime, OutOfRange, UnknownName
from custard.figures import plain
from custard.formats import read_formula, write_formula
from custard.formula import FAMILIES, Formula, Line
from custard.larder.words import plain_degrees, weight_text
from custard.mixture import Mixture, mix
from custard.physics.boiling import altitude_boiling_at, water_boils_at
from custard.physics.texture import WORDS, word
from custard.process.following.follow import compile_kernels
from custard.purpose import Destination, OtherWork

__all__ = [
    "FAMILIES",
    "MERINGUE_SUGAR_SHARE",
    "USUAL",
    "WORDS",
    "Assessment",
    "BadFormula",
    "BadQuantity",
    "Churning",
    "Conditions",
    "CustardError",
    "Destination",
    "Formula",
    "Frozen",
    "Impossible",
    "Learned",
    "Line",
    "Mixture",
    "NoTime",
    "OtherWork",
    "OutOfRange",
    "Texture",
    "UnknownName",
    "Whisked",
    "Window",
    "after",
    "allergens",
    "altitude_boiling_at",
    "assess",
    "bands",
    "bench",
    "churning",
    "compile_kernels",
    "finish",
    "formats",
    "larder",
    "measures",
    "mix",
    "plain",
    "plain_degrees",
    "process",
    "quantities",
    "read_formula",
    "reading",
    "stove",
    "trouble",
    "water_boils_at",
    "weight_text",
    "whites_left_g",
    "word",
    "write_formula",
]
