"""Custard: where an egg-thickened sauce sets, how thick it gets, when to lift it, how to cool it.

This is the public door: everything outside imports from here and from nowhere deeper. Inside, SI units
and degrees Celsius; kitchen measures only at the edge. Every refusal is a `CustardError` that names the
field, the value, the limit and the next step.

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

from custard.advice.after import told_after
from custard.advice.assess import (
    MERINGUE_SUGAR_SHARE,
    Assessment,
    allergens,
    assess,
    assess_as_made,
    whites_left_g,
)
from custard.advice.bands import (
    bake_band,
    chill_band,
    cook_band,
    temper_band,
    texture_band,
    whisk_band,
    window_band,
)
from custard.advice.base import Base, churn
from custard.advice.calibrate import Calibration, Estimate, calibrate, learned, time_to
from custard.advice.coach import Alarm, Coach, coach, coach_oven, way_of
from custard.advice.compare import changed_lines, differences
from custard.advice.finish import Texture
from custard.advice.handles import HANDLES, Handle, handle_values, turned
from custard.advice.limits import Limits, cost
from custard.advice.live import live, settled
from custard.advice.live_oven import LiveOven, live_oven
from custard.advice.live_told import UNKNOWN_PAN, UNKNOWN_POWER, Live, Setup, Spoon, Told
from custard.advice.plan import STAGES, Stage, plan
from custard.advice.portions import SHAPES, PanFit, TopUp, dish_ml, fit_pan, top_up
from custard.advice.ratio_map import QUICK_SIDE, RatioMap, ratio_map
from custard.advice.rescue import FAULTS, Remedy, rescue
from custard.advice.scale import for_dish, for_finished_g, for_pan, for_portions
from custard.advice.schools import Question, School, answers, questions, usual
from custard.advice.sensitivity import STARCHES, Sensitivity, sensitivities, with_starch_kind
from custard.advice.solve import (
    TARGETS,
    Solution,
    for_texture,
    swap_chocolate,
    swap_dairy,
    with_missing_yolks,
)
from custard.advice.window import Window
from custard.errors import (
    BadFormula,
    BadQuantity,
    CustardError,
    Impossible,
    OutOfRange,
    UnknownName,
)
from custard.formats.formula_json import read_formula, read_line, write_formula, write_line
from custard.formats.recipe_jsonld import ReadRecipe, Unsettled, read_recipe, write_recipe
from custard.formats.schemas import formula_schema
from custard.formats.slip_csv import write_slip
from custard.formula import FAMILIES, IN_THE_PAN, OFF_THE_HEAT, Formula, Line
from custard.larder.eggs import EggSize, all_sizes, egg_size
from custard.larder.families import Family, all_families
from custard.larder.ingredients import (
    COMPONENTS,
    Ingredient,
    all_ingredients,
    ingredient,
    own_ingredient,
)
from custard.larder.parameters import Origin, Parameters, origins, standard
from custard.larder.vessels import CoolingRule, cooling_rules, pans
from custard.larder.words import plain_degrees
from custard.measures import told
from custard.mixture import Mixture, mix
from custard.physics.boiling import water_boils_at
from custard.physics.texture import WORDS, word
from custard.process.bake import DONE_WOBBLE, Bake, bake, wobble
from custard.process.chill import Chill, chill
from custard.process.chocolate import OntoChocolate, onto_chocolate
from custard.process.cook import Cook, Stove, cook
from custard.process.follow import warm
from custard.process.rehearse import OvenRehearsal, Rehearsal
from custard.process.temper import SUGAR_WAITS_S, Temper, landing_c, temper
from custard.process.whisk import Whisk, whisk
from custard.quantities import MEASURES, Quantity, grams, read_quantity

__all__ = [
    "COMPONENTS",
    "DONE_WOBBLE",
    "FAMILIES",
    "FAULTS",
    "HANDLES",
    "IN_THE_PAN",
    "MEASURES",
    "MERINGUE_SUGAR_SHARE",
    "OFF_THE_HEAT",
    "QUICK_SIDE",
    "SHAPES",
    "STAGES",
    "STARCHES",
    "SUGAR_WAITS_S",
    "TARGETS",
    "UNKNOWN_PAN",
    "UNKNOWN_POWER",
    "WORDS",
    "Alarm",
    "Assessment",
    "BadFormula",
    "BadQuantity",
    "Bake",
    "Base",
    "Calibration",
    "Chill",
    "Coach",
    "Cook",
    "CoolingRule",
    "CustardError",
    "EggSize",
    "Estimate",
    "Family",
    "Formula",
    "Handle",
    "Impossible",
    "Ingredient",
    "Limits",
    "Line",
    "Live",
    "LiveOven",
    "Mixture",
    "OntoChocolate",
    "Origin",
    "OutOfRange",
    "OvenRehearsal",
    "PanFit",
    "Parameters",
    "Quantity",
    "Question",
    "RatioMap",
    "ReadRecipe",
    "Rehearsal",
    "Remedy",
    "School",
    "Sensitivity",
    "Setup",
    "Solution",
    "Spoon",
    "Stage",
    "Stove",
    "Temper",
    "Texture",
    "Told",
    "TopUp",
    "UnknownName",
    "Unsettled",
    "Whisk",
    "Window",
    "all_families",
    "all_ingredients",
    "all_sizes",
    "allergens",
    "answers",
    "assess",
    "assess_as_made",
    "bake",
    "bake_band",
    "calibrate",
    "changed_lines",
    "chill",
    "chill_band",
    "churn",
    "coach",
    "coach_oven",
    "cook",
    "cook_band",
    "cooling_rules",
    "cost",
    "differences",
    "dish_ml",
    "egg_size",
    "fit_pan",
    "for_dish",
    "for_finished_g",
    "for_pan",
    "for_portions",
    "for_texture",
    "formula_schema",
    "grams",
    "handle_values",
    "ingredient",
    "landing_c",
    "learned",
    "live",
    "live_oven",
    "mix",
    "onto_chocolate",
    "origins",
    "own_ingredient",
    "pans",
    "plain_degrees",
    "plan",
    "questions",
    "ratio_map",
    "read_formula",
    "read_line",
    "read_quantity",
    "read_recipe",
    "rescue",
    "sensitivities",
    "settled",
    "standard",
    "swap_chocolate",
    "swap_dairy",
    "temper",
    "temper_band",
    "texture_band",
    "time_to",
    "told",
    "told_after",
    "top_up",
    "turned",
    "usual",
    "warm",
    "water_boils_at",
    "way_of",
    "whisk",
    "whisk_band",
    "whites_left_g",
    "window_band",
    "with_missing_yolks",
    "with_starch_kind",
    "wobble",
    "word",
    "write_formula",
    "write_line",
    "write_recipe",
    "write_slip",
]
